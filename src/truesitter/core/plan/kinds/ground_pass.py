"""The ground: one opaque coat of a middle value over everything."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.plan.laying import Laid, Laying, Scene, Step


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    mixed = scene.recipe(np.array(scene.ground_lab))
    return Laid(mixed, (Layer(step.pieces, mixed.parts, None),), step.pieces, step.film, step.film)


GROUND = Laying("ground", _lay, "ground")
