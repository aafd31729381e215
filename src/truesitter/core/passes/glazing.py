"""Thin films over what is already there: the underpainting's wash and the unifying glaze."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.paint.glazes import glaze_blends
from truesitter.core.paint.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.mixing import Colour, as_lab, lab_value, mix
from truesitter.core.paint.palettes import Palette
from truesitter.core.paint.pigments import pigment_library
from truesitter.core.paint.rack import Rack
from truesitter.core.paint.rounding import Recipe
from truesitter.core.paint.solver import solve_recipe
from truesitter.core.passes.canvas import Canvas, Layer
from truesitter.core.types import Doubles, Floats, Labels, Mask

GLAZE_FILMS_MM = (0.0005, 0.001, 0.002, 0.004, 0.008, 0.016)
_LEAST_GAIN = 0.15
_UMBERS = ("raw-umber", "burnt-umber", "brown-oxide")


def mean_lab(lab: Floats, mask: Mask) -> Doubles:
    """Mean L*a*b* of a picture (h, w, 3) inside a mask, (3,)."""
    return np.array(cv2.mean(lab, mask.view(np.uint8))[:3])


def wash_parts(palette: Palette) -> dict[str, int]:
    """Parts for a monochrome underpainting: an umber if there is one, else a mixed one."""
    for umber in _UMBERS:
        for key in palette.tubes:
            if palette.rack.base(key) == umber:
                return {key: 1}
    return solve_recipe(pigment_library()[_UMBERS[0]].masstone, palette, most_tubes=3).parts


def _film_for_value(
    ground: Doubles, parts: dict[str, int], rack: Rack, value: float, thickest: float
) -> float:
    """Film in mm that brings the ground down to a value, by bisection; `thickest` when none does."""
    k, s = rack.mixture(parts)

    def reached(film: float) -> float:
        seen = leave_surface(film_reflectance(k, s, film, ground))
        return float(lab_value(reflectance_to_lab(seen)))

    low, high = 0.0, thickest
    if reached(high) > value:
        return thickest
    for _ in range(24):
        middle = (low + high) / 2
        if reached(middle) > value:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def wash_layers(
    canvas: Canvas, palette: Palette, groups: Labels, mapped_lab: Floats, thickest: float
) -> tuple[Recipe, tuple[Layer, ...], float] | None:
    """Washes of one dark earth that bring every group darker than the ground to its value.

    Returns
    -------
    The recipe, a layer for each group and the mean film in mm, or None when
    no group is darker than the ground.
    """
    parts = wash_parts(palette)
    ground = canvas.ground()
    ground_value = float(lab_value(reflectance_to_lab(leave_surface(ground))))
    layers, films, areas, targets = [], [], [], []
    for group in range(int(groups.max()) + 1):
        mask = groups == group
        if not mask.any():
            continue
        lab = mean_lab(mapped_lab, mask)
        value = float(lab_value(lab))
        if value >= ground_value - 0.2:
            continue
        film = _film_for_value(ground, parts, canvas.rack, value, thickest)
        layers.append(Layer(mask, parts, film))
        films.append(film)
        areas.append(float(np.count_nonzero(mask)))
        targets.append(lab)
    if not layers:
        return None
    target = np.average(targets, axis=0, weights=areas)
    predicted = mix(dict(parts), palette)
    recipe = Recipe(
        parts=parts,
        target_lab=as_lab(target),
        predicted=predicted,
        delta_e=float(delta_e_2000(np.array(predicted.lab), target)),
        value_error=predicted.value - float(lab_value(target)),
    )
    return recipe, tuple(layers), float(np.average(films, weights=areas))


def choose_glaze(
    canvas: Canvas, mask: Mask, palette: Palette, mapped_lab: Floats
) -> tuple[Recipe, float] | None:
    """The thin film, of one or two tubes, that brings a place nearest to its reference.

    Every stack under the mask is compared with the mean reference colour over it;
    the gain is the area-weighted fall in ΔE2000.

    Returns
    -------
    Recipe and film in mm, or None when no glaze gains anything worth the trouble.
    """
    inside, mapped = canvas.stack[mask], mapped_lab[mask]
    count = np.bincount(inside)
    stacks = np.flatnonzero(count)
    area = count[stacks]
    sums = [np.bincount(inside, weights=mapped[:, i])[stacks] for i in range(3)]
    wanted = np.stack(sums, axis=1) / area[:, None]
    below = canvas.spectra[stacks]
    share = area / area.sum()
    now = float(share @ delta_e_2000(reflectance_to_lab(leave_surface(below)), wanted))
    films = np.array(GLAZE_FILMS_MM)[:, None, None]
    best: tuple[float, dict[str, int], float, Doubles] | None = None
    for parts in glaze_blends(palette):
        k, s = palette.rack.mixture(parts)
        labs = reflectance_to_lab(leave_surface(film_reflectance(k, s, films, below)))
        errors = delta_e_2000(labs, wanted) @ share
        thinnest = int(np.argmin(errors))
        if best is None or errors[thinnest] < best[0]:
            best = (float(errors[thinnest]), parts, GLAZE_FILMS_MM[thinnest], labs[thinnest])
    if best is None or now - best[0] < _LEAST_GAIN:
        return None
    error, parts, film, labs = best
    mean, target = share @ labs, share @ wanted
    recipe = Recipe(
        parts=parts,
        target_lab=as_lab(target),
        predicted=Colour.of(mean),
        delta_e=error,
        value_error=float(lab_value(mean) - lab_value(target)),
        film_mm=film,
    )
    return recipe, film
