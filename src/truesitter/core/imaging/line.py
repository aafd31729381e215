"""A painted line: what a brush leaves that is set down, drawn along and lifted."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.types import Doubles, Shape


@dataclass(frozen=True)
class Line:
    """A painted line.

    Attributes
    ----------
    points
        (n, 2) x, y in fractions of the picture, n ≥ 2, in the order of the stroke.
    widths_mm
        (n,) width at each point.
    """

    points: Doubles
    widths_mm: Doubles


def evenly_spaced(points: Doubles, count: int) -> Doubles:
    """A line with so many points at equal distances along it, (count, 2).

    Examples
    --------
    >>> evenly_spaced(np.array([(0.0, 0.0), (1.0, 0.0), (4.0, 0.0)]), 3)[:, 0].tolist()
    [0.0, 2.0, 4.0]
    """
    along = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(points, axis=0).T))])
    at = np.linspace(0, along[-1], count)
    return np.stack([np.interp(at, along, axis) for axis in points.T], axis=1)


def outline(line: Line, shape: Shape, mm_per_px: float, scale: float) -> Doubles:
    """The outline of a line, (2n, 2) x, y in pixels of a picture `scale` times as large.

    It is drawn half a fine pixel inside its true border, because a filled polygon takes in
    the pixels its border runs through.

    Parameters
    ----------
    line
        Points in fractions and widths in mm.
    shape
        Height and width in pixels; more is ignored.
    mm_per_px
        Canvas mm to a pixel, > 0.
    scale
        Times finer than the picture that is drawn.

    Returns
    -------
    Doubles
        Closed outline.
    """
    points = line.points * (shape[1], shape[0]) * scale
    step = np.empty_like(points)
    step[1:-1] = points[2:] - points[:-2]
    step[0], step[-1] = points[1] - points[0], points[-1] - points[-2]
    length = np.maximum(np.hypot(step[:, 0], step[:, 1]), 1e-9)
    across = np.stack([-step[:, 1], step[:, 0]], axis=1) / length[:, None]
    half = np.maximum(line.widths_mm / mm_per_px * scale / 2 - 0.5, 0)[:, None]
    return np.concatenate([points + across * half, (points - across * half)[::-1]])
