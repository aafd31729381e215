"""Egg tempera: a dark green-brown flesh ground, and zones of light over it, each wider than the last."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.tuning import MOST_WATER
from truesitter.core.paint.recipes.ingredients import FIXED
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.paint.tubes.pigments import pigment_library
from truesitter.core.plan.kinds.tuning import ZONES
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import Thinned
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Mask


def flesh_ground(scene: Scene) -> Recipe:
    """The green ground where its tubes are set out, else what comes nearest to its colour."""
    parts = FIXED["green-ground"]
    known = mix({k: float(n) for k, n in parts.items()}, Palette("usual", "", tuple(pigment_library())))
    if set(parts) <= set(scene.palette.tubes):
        return Recipe.of_parts(parts, known.lab, scene.palette, None)
    return scene.recipe(np.array(known.lab), (Region.SKIN,))


def _flesh_ground(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    recipe = flesh_ground(scene)
    return Laid(recipe, (Layer(step.pieces, recipe.parts, None),), step.pieces, step.film, step.film)


FLESH_GROUND = Laying("flesh ground", _flesh_ground, "ground")


def _zone(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """A coat so thin that what the zone still gets after it carries it to its value.

    Its own ring is the part no earlier coat covers. Of the way from the ground to the ring's value
    a coat takes one part in as many as there are coats to come, itself among them.
    """
    ring = step.wanted & step.pieces
    if step.tone is None or not ring.any():
        return "there is no light in its zone."
    recipe = scene.recipe(scene.mapped_lab[step.tone].mean(axis=0, dtype=np.float64), step.regions)
    sizes = scene.patchwork.sizes[ring]
    ground = float(np.average(canvas.piece_values()[ring], weights=sizes))
    wanted = float(lab_value(scene.target(ring)))
    if wanted <= ground:
        return "the flesh ground is as light there already."
    aim = ground + (wanted - ground) / (ZONES - step.order)
    best = _thinnest(scene, recipe, canvas, ring, aim)
    thinning = scene.medium.thinning
    film = thinning.dry(best)
    layer = Layer(step.pieces, recipe.parts, film, fades=True)
    after = canvas.do(layer)
    lab = np.average(after.labs()[ring], axis=0, weights=sizes)
    target = np.array([value_to_lightness(aim), *scene.target(ring)[1:]])
    made = Recipe.held(recipe.parts, lab, target, film, best)
    return Laid(
        made, (layer,), step.pieces, thinning.film, film / thinning.strength, (Thinned(best),)
    )  # fmt: skip


def _thinnest(scene: Scene, recipe: Recipe, canvas: Canvas, ring: Mask, value: float) -> Dilution:
    """The most water with which a coat still brings a ring to a value; paint as it comes where none does."""
    sizes = scene.patchwork.sizes[ring]

    def reached(water: int) -> float:
        layer = Layer(ring, recipe.parts, scene.medium.thinning.dry(Dilution(1, water)), fades=True)
        return float(np.average(canvas.do(layer).piece_values()[ring], weights=sizes))

    low, high = 0, MOST_WATER
    if reached(low) <= value:
        return Dilution(1, low)
    # A thinner coat of light over dark is always darker.
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (middle, high) if reached(middle) >= value else (low, middle)
    return Dilution(1, low)


ZONE = Laying("zone", _zone, "light")
