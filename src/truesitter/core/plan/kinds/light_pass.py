"""Lights: thick touches in the colour of the lightest part of their place."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.plan.kinds.tuning import LIGHT_PASS_TOP
from truesitter.core.plan.laying import Laid, Laying, Scene, Step, even_film


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    inside = scene.mapped_lab[scene.patchwork.mask(step.pieces)]
    top = inside[inside[:, 0] >= np.quantile(inside[:, 0], LIGHT_PASS_TOP)]
    return even_film(scene, step, scene.recipe(top.mean(axis=0, dtype=np.float64)))


LIGHT = Laying("light", _lay, "light")
