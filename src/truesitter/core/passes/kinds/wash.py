"""The underpainting's wash: one dark earth, thin, over whatever is darker than the ground."""

from __future__ import annotations

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.media import DryMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipe
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.paint.tubes.pigments import pigment_library
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.passes.canvas import Canvas, Layer
from truesitter.core.passes.laying import Laid, Laying, Scene, Step, thinned
from truesitter.core.types import Doubles

_UMBERS = ("raw-umber", "burnt-umber", "brown-oxide")
_LEAST_DARKER = 0.2
"""A group less than this darker than the ground, in value steps, is left as ground."""


def _no_mix(scene: Scene, step: Step) -> None:
    """How thin the wash is depends on what lies below it."""


def wash_parts(palette: Palette) -> dict[str, int]:
    """Parts for a monochrome underpainting: an umber if there is one, else a mixed one."""
    for umber in _UMBERS:
        for key in palette.tubes:
            if palette.rack.base(key) == umber:
                return {key: 1}
    return solve_recipe(pigment_library()[_UMBERS[0]].masstone, palette, most_tubes=3).parts


def film_for_value(
    ground: Doubles, parts: dict[str, int], rack: Rack, value: float, thickest: DryMm
) -> DryMm:
    """Dry film that brings the ground down to a value, by bisection; `thickest` when none does."""
    k, s = rack.mixture(parts)

    def reached(film: float) -> float:
        seen = leave_surface(film_reflectance(k, s, film, ground))
        return float(lab_value(reflectance_to_lab(seen)))

    low, high = 0.0, float(thickest)
    if reached(high) > value:
        return thickest
    for _ in range(24):
        middle = (low + high) / 2
        if reached(middle) > value:
            low = middle
        else:
            high = middle
    return DryMm((low + high) / 2)


def _lay(scene: Scene, step: Step, recipe: Recipe | None, canvas: Canvas) -> Laid | str:
    """Bring every group inside the step's place that is darker than the ground to its value."""
    parts = wash_parts(scene.palette)
    ground = canvas.ground()
    ground_value = float(lab_value(reflectance_to_lab(leave_surface(ground))))
    thickest = scene.medium.dry(step.film)
    layers, areas, targets, films = [], [], [], []
    for group in np.unique(scene.groups[step.pieces]):
        pieces = step.pieces & (scene.groups == group)
        lab = scene.target(pieces)
        value = float(lab_value(lab))
        if value >= ground_value - _LEAST_DARKER:
            continue
        films.append(film_for_value(ground, parts, canvas.rack, value, thickest))
        layers.append(Layer(pieces, parts, films[-1]))
        areas.append(float(scene.patchwork.sizes[pieces].sum()))
        targets.append(lab)
    if not layers:
        return "nothing in the picture is darker than the ground."
    target = np.average(targets, axis=0, weights=areas)
    predicted = mix({k: float(n) for k, n in parts.items()}, scene.palette)
    made = Recipe(
        parts=parts,
        target_lab=as_lab(target),
        predicted=predicted,
        delta_e=float(delta_e_2000(np.array(predicted.lab), target)),
        value_error=predicted.value - float(lab_value(target)),
    )
    covered = np.any([layer.pieces for layer in layers], axis=0)
    mean = DryMm(float(np.average(films, weights=areas)))
    return Laid(made, tuple(layers), covered, thinned(scene, mean))


WASH = Laying("wash", _no_mix, _lay)
