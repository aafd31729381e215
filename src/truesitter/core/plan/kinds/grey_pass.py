"""Greys: the value of a place without its colour, to be glazed or left."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.plan.laying import Laid, Laying, Scene, Step, even_film


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    lab = scene.target(step.wanted)
    return even_film(scene, step, scene.recipe(np.array((lab[0], 0.0, 0.0))))


GREY = Laying("grey", _lay, "mass", leaves_ground=True)
