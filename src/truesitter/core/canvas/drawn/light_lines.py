"""Streaks of light: fine strokes that run from each light peak outward along the rays of its zones."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.drawn.tuning import ENDS_BEFORE, FINEST_MM, LIGHT_LINES_POINTS, STREAK_WIDTH
from truesitter.core.imaging.line import Line
from truesitter.core.light.form.zones import Ray


def streaks(rays: tuple[Ray, ...], tall_mm: float) -> tuple[Line, ...]:
    """A streak for each ray, thin at both ends.

    Parameters
    ----------
    tall_mm
        Height of the face on the canvas.
    """
    swell = np.sin(np.linspace(0.15, np.pi - 0.15, LIGHT_LINES_POINTS))
    widths = np.maximum(max(STREAK_WIDTH * tall_mm, FINEST_MM) * swell, FINEST_MM / 4)
    part = np.linspace(0, ENDS_BEFORE, LIGHT_LINES_POINTS)[:, None]
    return tuple(
        Line(np.array(ray.start) + (np.array(ray.end) - np.array(ray.start)) * part, widths) for ray in rays
    )
