"""A painted line: what a brush leaves that is set down, drawn along and lifted."""

from __future__ import annotations

from dataclasses import dataclass

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
