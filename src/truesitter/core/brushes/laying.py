"""Which width of brush goes into a shape, and how long covering it takes."""

from __future__ import annotations

import math

import cv2
import numpy as np

from truesitter.core.brushes.tuning import (
    LINE_SECONDS,
    MIXING_MINUTES,
    STROKE_MM,
    STROKE_SECONDS,
    WIDTHS_MM,
)
from truesitter.core.types import Mask


def widest_brush(circle_mm: float) -> float:
    """Widest usual brush, in mm, for a shape whose largest circle has that diameter.

    Examples
    --------
    >>> widest_brush(14.0)
    8.0
    """
    # A brush is moved about inside its shape: two thirds of the circle leaves room to turn.
    fitting = [w for w in WIDTHS_MM if w <= circle_mm * 2 / 3]
    return float(fitting[-1] if fitting else WIDTHS_MM[0])


def brush_for(mask: Mask, mm_per_px: float) -> float:
    """Widest usual brush, in mm, that fits half the area of the shapes of a mask."""
    if not mask.any():
        return float(WIDTHS_MM[0])
    rows, cols = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    cut = np.pad(mask[rows[0] : rows[-1] + 1, cols[0] : cols[-1] + 1], 1).astype(np.uint8)
    count, shape, stats, _ = cv2.connectedComponentsWithStats(cut, connectivity=4)
    inside = cut > 0
    radius = np.zeros(count, np.float32)
    # The distance is to the nearest pixel outside; the border lies half a pixel before it.
    np.maximum.at(radius, shape[inside], cv2.distanceTransform(cut, cv2.DIST_L2, 5)[inside] - 0.5)
    diameter, area = 2 * radius[1:] * mm_per_px, stats[1:, cv2.CC_STAT_AREA].astype(float)
    order = np.argsort(diameter)
    half = np.searchsorted(np.cumsum(area[order]), area.sum() / 2)
    return widest_brush(float(diameter[order][half]))


def laying_minutes(area_cm2: float, brush_mm: float) -> float:
    """Rough minutes to cover an area (from memory; the painter's log knows better).

    Examples
    --------
    >>> round(laying_minutes(100.0, 20.0), 2)
    2.5
    """
    strokes = area_cm2 * 100 / (brush_mm * STROKE_MM)
    return strokes * STROKE_SECONDS / 60 * 1.5


def work_minutes(area_cm2: float, brush_mm: float) -> float:
    """Rough minutes to mix for an area and to cover it."""
    return MIXING_MINUTES + laying_minutes(area_cm2, brush_mm)


def line_minutes(count: int) -> float:
    """Rough minutes to mix for so many lines and to draw them."""
    return MIXING_MINUTES + count * LINE_SECONDS / 60


def goes_needed(area_cm2: float, brush_mm: float, open_minutes: float) -> int:
    """In how many goes an area is laid, so that the edges of each can be softened while they are open.

    1 for paint that never stays open: there is nothing to wait for.

    Parameters
    ----------
    area_cm2
        Area to be laid, cm².
    brush_mm
        Width of the brush, mm.
    open_minutes
        How long an edge can be moved; 0 for paint that never stays open.

    Returns
    -------
    int
        Number of goes, 1 or more.

    Examples
    --------
    >>> goes_needed(400.0, 10.0, 0.0)
    1
    """
    if open_minutes <= 0:
        return 1
    return max(1, math.ceil(laying_minutes(area_cm2, brush_mm) / open_minutes - 1e-9))
