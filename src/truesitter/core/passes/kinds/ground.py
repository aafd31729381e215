"""The ground: one opaque coat of a middle value over everything."""

from __future__ import annotations

import numpy as np

from truesitter.core.colour.value import value_to_lightness
from truesitter.core.passes.canvas import Canvas, Layer
from truesitter.core.passes.laying import Laid, Laying, Scene, Step

_WARMTH = (2.0, 8.0)
"""a* and b* of a usual ground, a little warmer than grey (common practice)."""


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    mixed = scene.recipe(np.array([value_to_lightness(scene.ground_value), *_WARMTH]))
    return Laid(mixed, (Layer(step.pieces, mixed.parts, None),), step.pieces, step.film, step.film)


GROUND = Laying("ground", _lay)
