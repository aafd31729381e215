"""Greys that a glaze comes over: so much lighter as the glaze will darken them (common practice)."""

from __future__ import annotations

import numpy as np

from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value, value_to_lightness, value_to_luminance
from truesitter.core.paint.layered.glazes import Unifying, glaze_over_all
from truesitter.core.paint.optics.kubelka_munk import enter_surface, film_reflectance, leave_surface
from truesitter.core.plan.kinds.tuning import GLAZE_PASS_LEAST_GAIN, GLAZE_ROUNDS, GREYS
from truesitter.core.plan.laying import Scene
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles


def grey_for(scene: Scene, regions: tuple[Region, ...], lab: Doubles) -> Doubles:
    """The grey to lay for a colour, (3,) L*a*b*: of its own value, or lighter where a glaze comes over it.

    Parameters
    ----------
    scene
        All that a kind of pass may ask.
    regions
        Where the grey is laid.
    lab
        (3,) wanted in the end.
    """
    found = next((g for g in scene.glazed if set(regions) <= set(g)), None)
    if found is None:
        return np.array((lab[0], 0.0, 0.0))
    if found not in scene.glazes:
        scene.glazes[found] = _glazed_greys(scene, found)
    greys, after = scene.glazes[found]
    value = float(lab_value(lab))
    # A glaze scatters: what is darker than it makes the darkest grey is spared, and keeps its own value.
    grey = float(np.interp(value, after, greys)) if value > after[0] else value
    return np.array((value_to_lightness(grey), 0.0, 0.0))


def _glazed_greys(scene: Scene, regions: tuple[Region, ...]) -> tuple[Doubles, Doubles]:
    """Values of greys, and what the glaze that suits the place best makes of them; rising both."""
    greys = np.linspace(0.5, 9.5, GREYS)
    here = np.isin(scene.regions, regions)
    area = scene.patchwork.sizes[here].astype(float)
    if not area.sum():
        return greys, greys
    wanted = scene.sums[here] / area[:, None]
    under, after = lab_value(wanted), greys
    for _ in range(GLAZE_ROUNDS):
        best = glaze_over_all(_flat(under), wanted, area, scene.palette, scene.medium.thinning)
        if best is None or best.error_before - best.error_after < GLAZE_PASS_LEAST_GAIN:
            break
        after = _through(scene, best, greys)
        under = np.interp(lab_value(wanted), after, greys)
    return greys, after


def _flat(values: Doubles) -> Doubles:
    """Internal reflectance (n, 31) of neutral greys of some values."""
    return enter_surface(np.repeat(np.asarray(value_to_luminance(values))[:, None], 31, axis=1))


def _through(scene: Scene, glaze: Unifying, greys: Doubles) -> Doubles:
    k, s = scene.palette.rack.mixture(glaze.parts)
    seen = leave_surface(film_reflectance(k, s, glaze.mm, _flat(greys)))
    return np.maximum.accumulate(lab_value(reflectance_to_lab(seen)))
