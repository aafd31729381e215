"""The underpainting's wash: one dark earth, thin, over whatever is darker than the ground."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipe
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.paint.tubes.pigments import pigment_library
from truesitter.core.plan.kinds.tuning import WASH_PASS_LEAST_DARKER
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import Thinned
from truesitter.core.types import Doubles

_UMBERS = ("raw-umber", "burnt-umber", "brown-oxide")


def wash_parts(palette: Palette) -> dict[str, int]:
    """Parts for a monochrome underpainting: an umber if there is one, else a mixed one."""
    for umber in _UMBERS:
        for key in palette.tubes:
            if palette.rack.base(key) == umber:
                return {key: 1}
    return solve_recipe(pigment_library()[_UMBERS[0]].masstone, palette, most_tubes=3).parts


def judged(parts: dict[str, int], palette: Palette, target: Doubles) -> Recipe:
    """Given parts as a recipe for the L*a*b* (3,) that they are thinned to.

    Parameters
    ----------
    parts
        By tube.
    palette
        The tubes that may be used.
    target
        (3,) L*a*b*.

    Returns
    -------
    Recipe
        With its error.
    """
    predicted = mix({k: float(n) for k, n in parts.items()}, palette)
    return Recipe.held(parts, np.array(predicted.lab), target)


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """Bring every group inside the step's place that is darker than the ground to its value."""
    parts = wash_parts(scene.palette)
    ground = canvas.ground()
    ground_value = float(lab_value(reflectance_to_lab(leave_surface(ground))))
    thinning = replace(scene.medium.thinning, film=step.film)
    layers, areas, targets, films, thinned = [], [], [], [], []
    for group in np.unique(scene.groups[step.pieces]):
        pieces = step.pieces & (scene.groups == group)
        lab = scene.target(pieces)
        value = float(lab_value(lab))
        if value >= ground_value - WASH_PASS_LEAST_DARKER:
            continue
        wanted = film_for_value(ground, parts, canvas.rack, value, thinning.thickest)
        dilution = thinning.dilution(wanted)
        films.append(thinning.dry(dilution))
        thinned.append(Thinned(dilution, int(group)))
        layers.append(Layer(pieces, parts, films[-1], fades=True))
        areas.append(float(scene.patchwork.sizes[pieces].sum()))
        targets.append(lab)
    if not layers:
        return "nothing in the picture is darker than the ground."
    target = np.average(targets, axis=0, weights=areas)
    made = judged(parts, scene.palette, target)
    covered = np.any([layer.pieces for layer in layers], axis=0)
    paint = float(np.average(films, weights=areas)) / thinning.strength
    spent = np.array(films) * areas
    thinned = [replace(t, share=float(s)) for t, s in zip(thinned, spent / spent.sum(), strict=True)]
    return Laid(made, tuple(layers), covered, step.film, paint, tuple(thinned))


WASH = Laying("wash", _lay, "wash", leaves_ground=True)
