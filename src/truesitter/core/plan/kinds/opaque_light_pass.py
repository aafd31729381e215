"""Opaque touches over washes: a little body colour for lights that no paper was kept for."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipes
from truesitter.core.plan.kinds.tuning import LIGHT_TOP, OPAQUE_LIGHT_PASS_LEAST_LIGHTER
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Mask


def body_recipe(
    scene: Scene, canvas: Canvas, pieces: Mask, wanted: Doubles, regions: tuple[Region, ...]
) -> Recipe | str:
    """Body colour for a light over washes, or in words why none is needed or can be mixed.

    Parameters
    ----------
    scene, canvas
        All that a kind of pass may ask, and the canvas as it is.
    pieces
        (n,) where the light is touched.
    wanted
        (3,) its L*a*b*.
    regions
        Of the pass.
    """
    if not any(scene.body.pigment(key).family == "white" for key in scene.body.tubes):
        return "there is no white tube on the palette: keep these lights as bare paper."
    have = np.average(canvas.piece_values()[pieces], weights=scene.patchwork.sizes[pieces])
    if float(lab_value(wanted)) - float(have) < OPAQUE_LIGHT_PASS_LEAST_LIGHTER:
        return "the paper is as light there."
    return solve_recipes(as_lab(wanted), scene.body, scene.wishes_at(regions), 1)[0]


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    inside = scene.mapped_lab[scene.patchwork.mask(step.pieces)]
    top = inside[inside[:, 0] >= np.quantile(inside[:, 0], LIGHT_TOP)].mean(axis=0, dtype=np.float64)
    made = body_recipe(scene, canvas, step.pieces, top, step.regions)
    if isinstance(made, str):
        return made
    film = WetMm(step.film)
    layer = Layer(step.pieces, made.parts, scene.medium.dry(film))
    return Laid(made, (layer,), step.pieces, film, film)


OPAQUE_LIGHT = Laying("opaque light", _lay, "light")
