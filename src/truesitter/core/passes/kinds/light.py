"""Lights: thick touches in the colour of the lightest part of their place."""

from __future__ import annotations

import numpy as np

from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.passes.laying import Laying, Scene, Step, lay_film

_TOP = 0.7
"""The colour is that of what is lighter than this part of the place (from memory)."""


def _mix(scene: Scene, step: Step) -> Recipe:
    inside = scene.mapped_lab[scene.patchwork.mask(step.pieces)]
    top = inside[inside[:, 0] >= np.quantile(inside[:, 0], _TOP)]
    return scene.recipe(top.mean(axis=0, dtype=np.float64))


LIGHT = Laying("light", _mix, lay_film)
