"""The flesh ground: an even dark green-brown under the light of egg tempera."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.paint.recipes.ingredients import FIXED
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.paint.tubes.pigments import pigment_library
from truesitter.core.plan.laying import Laid, Laying, Scene, Step


def flesh_ground(scene: Scene) -> Recipe:
    """The green ground where its tubes are set out, else what comes nearest to its colour."""
    parts = FIXED["green-ground"]
    known = mix({k: float(n) for k, n in parts.items()}, Palette("usual", "", tuple(pigment_library())))
    if set(parts) <= set(scene.palette.tubes):
        return Recipe.of_parts(parts, known.lab, scene.palette, None)
    return scene.recipe(np.array(known.lab))


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    recipe = flesh_ground(scene)
    return Laid(recipe, (Layer(step.pieces, recipe.parts, None),), step.pieces, step.film, step.film)


FLESH_GROUND = Laying("flesh ground", _lay, "ground")
