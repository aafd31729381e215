"""A painted line: what a brush leaves that is set down, drawn along and lifted."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.types import Doubles


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
