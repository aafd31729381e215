"""Streaks of light: fine strokes that run from each light peak outward along the rays of its zones."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.drawn.face_lines import FINEST_MM
from truesitter.core.imaging.line import Line
from truesitter.core.light.form.zones import Ray

STREAK_WIDTH = 0.004
"""Of a streak, as part of the face's height [try]."""

ENDS_BEFORE = 0.6
"""A streak covers this part of its ray: it ends long before the line that stops the light [try]."""

_POINTS = 9
"""Points of a line."""


def streaks(rays: tuple[Ray, ...], tall_mm: float) -> tuple[Line, ...]:
    """A streak for each ray, thin at both ends.

    Parameters
    ----------
    tall_mm
        Height of the face on the canvas.
    """
    swell = np.sin(np.linspace(0.15, np.pi - 0.15, _POINTS))
    widths = np.maximum(max(STREAK_WIDTH * tall_mm, FINEST_MM) * swell, FINEST_MM / 4)
    part = np.linspace(0, ENDS_BEFORE, _POINTS)[:, None]
    return tuple(
        Line(np.array(ray.start) + (np.array(ray.end) - np.array(ray.start)) * part, widths) for ray in rays
    )
