"""Brushes: which width goes into a shape, and how long covering it takes."""

from __future__ import annotations

import numpy as np

from truesitter.core.types import Mask
from truesitter.core.values.shapes import find_shapes, largest_circles

WIDTHS_MM = (1, 2, 3, 4, 6, 8, 10, 12, 16, 20, 25, 30, 40, 50)
"""Usual brush widths (common practice)."""

_STROKE_MM = 30.0
_STROKE_SECONDS = 6.0
_MIXING_MINUTES = 8.0


def brush_for(mask: Mask, mm_per_px: float) -> float:
    """Widest usual brush, in mm, that fits half the area of the shapes of a mask."""
    if not mask.any():
        return float(WIDTHS_MM[0])
    rows, cols = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    cut = np.pad(mask[rows[0] : rows[-1] + 1, cols[0] : cols[-1] + 1], 1)
    shapes = find_shapes(cut.view(np.uint8))
    circles = largest_circles(shapes)
    own = shapes.group == 1
    diameter = 2 * circles.radius[own] * mm_per_px
    area = shapes.area[own].astype(float)
    order = np.argsort(diameter)
    half = np.searchsorted(np.cumsum(area[order]), area.sum() / 2)
    # A brush is moved about inside its shape: two thirds of the circle leaves room to turn.
    room = float(diameter[order][min(half, len(order) - 1)]) * 2 / 3
    fitting = [w for w in WIDTHS_MM if w <= room]
    return float(fitting[-1] if fitting else WIDTHS_MM[0])


def work_minutes(area_cm2: float, brush_mm: float) -> float:
    """Rough minutes to mix for and to cover an area (from memory; the painter's log knows better)."""
    strokes = area_cm2 * 100 / (brush_mm * _STROKE_MM)
    return _MIXING_MINUTES + strokes * _STROKE_SECONDS / 60 * 1.5
