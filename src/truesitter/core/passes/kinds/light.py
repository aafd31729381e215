"""Lights: thick touches in the colour of the lightest part of their place."""

from __future__ import annotations

import numpy as np

from truesitter.core.paint.rounding import Recipe
from truesitter.core.passes.laying import Laying, Scene, Step, lay_film

_TOP = 0.7
"""The colour is that of what is lighter than this part of the place (from memory)."""


def _mix(scene: Scene, step: Step) -> Recipe:
    lightness = scene.mapped_lab[..., 0]
    return scene.recipe(scene.target(step.mask & (lightness >= np.quantile(lightness[step.mask], _TOP))))


LIGHT = Laying("light", _mix, lay_film)
