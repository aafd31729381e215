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


def needs_no_body(scene: Scene, canvas: Canvas, pieces: Mask, wanted: Doubles) -> str:
    """In words why no body colour is laid for a light over washes; empty where one is.

    Parameters
    ----------
    scene, canvas
        All that a kind of pass may ask, and the canvas as it is.
    pieces
        (n,) where the light is touched.
    wanted
        (3,) its L*a*b*.
    """
    if not any(scene.body.pigment(key).family == "white" for key in scene.body.tubes):
        return "there is no white tube on the palette: keep these lights as bare paper."
    have = np.average(canvas.piece_values()[pieces], weights=scene.patchwork.sizes[pieces])
    near = float(lab_value(wanted)) - float(have) < OPAQUE_LIGHT_PASS_LEAST_LIGHTER
    return "the paper is as light there." if near else ""


def body_recipe(scene: Scene, wanted: Doubles, regions: tuple[Region, ...]) -> Recipe:
    """Body colour for a light (3,) of some regions."""
    return solve_recipes(as_lab(wanted), scene.body, scene.wishes_at(regions), 1)[0]


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    inside = scene.mapped_lab[scene.patchwork.mask(step.pieces)]
    top = inside[inside[:, 0] >= np.quantile(inside[:, 0], LIGHT_TOP)].mean(axis=0, dtype=np.float64)
    refused = needs_no_body(scene, canvas, step.pieces, top)
    if refused:
        return refused
    made = body_recipe(scene, top, step.regions)
    film = WetMm(step.film)
    layer = Layer(step.pieces, made.parts, scene.medium.dry(film))
    return Laid(made, (layer,), step.pieces, film, film)


OPAQUE_LIGHT = Laying("opaque light", _lay, "light")
