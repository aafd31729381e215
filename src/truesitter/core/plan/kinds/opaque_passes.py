"""Opaque films of one colour: the ground, masses, greys (value without colour, to be glazed), lights."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import LIGHT_TOP, PRIMED_FROM
from truesitter.core.plan.kinds.under_glaze import grey_for
from truesitter.core.plan.laying import Laid, Laying, Scene, Step, even_film
from truesitter.core.sitter.region_names import Region


def _ground(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    """Mixed; a white one is the priming, which is bought."""
    white = next((k for k in scene.palette.tubes if scene.palette.pigment(k).family == "white"), None)
    if white is not None and scene.ground_lab[0] >= PRIMED_FROM:
        made = mix({white: 1.0}, scene.palette)
        priming = Recipe.held({}, np.array(made.lab), np.array(scene.ground_lab))
        said = "Bought ready primed, or laid in white primer as its label says: nothing is mixed."
        return Laid(priming, (Layer(step.pieces, {white: 1}, None),), step.pieces, step.film, 0.0, said=said)
    mixed = scene.recipe(np.array(scene.ground_lab), step.regions)
    return Laid(mixed, (Layer(step.pieces, mixed.parts, None),), step.pieces, step.film, step.film)


GROUND = Laying("ground", _ground, "ground")


def _mass(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    """In the flesh stage's own mixture where there is one, else one for the mean colour."""
    if step.regions == (Region.SKIN,) and step.group in scene.subject.flesh:
        return even_film(scene, step, scene.subject.flesh[step.group])
    return even_film(scene, step, scene.recipe(scene.target(step.wanted), step.regions))


MASS = Laying("mass", _mass, "mass", covers=True, leaves_ground=True)


def _grey(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    grey = grey_for(scene, step.regions, scene.target(step.wanted))
    return even_film(scene, step, scene.recipe(grey, step.regions))


GREY = Laying("grey", _grey, "mass", leaves_ground=True)


def _light(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    inside = scene.mapped_lab[scene.patchwork.mask(step.pieces)]
    top = inside[inside[:, 0] >= np.quantile(inside[:, 0], LIGHT_TOP)]
    return even_film(scene, step, scene.recipe(top.mean(axis=0, dtype=np.float64), step.regions))


LIGHT = Laying("light", _light, "light")
