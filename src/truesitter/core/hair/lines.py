"""Growth lines: evenly spaced lines that show which way the hair lies.

Streamlines of the root→tip field, seeded in a fixed order and stopped where
they would come too near to one another (after Jobard & Lefer 1997).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Floats, Mask

_STEP = 1.2
_NEAREST = 0.55
"""A line ends where it comes nearer to another than this part of the spacing."""


@dataclass(frozen=True)
class GrowthLine:
    """One line, root first.

    Attributes
    ----------
    points
        (n, 2) x, y in fractions of width and height.
    """

    points: Doubles


class _Occupancy:
    """Which line passes where, on a grid of cells one stopping distance wide."""

    def __init__(self, cell: float) -> None:
        self.cell = cell
        self.points: dict[tuple[int, int], list[tuple[float, float]]] = {}

    def add(self, line: list[tuple[float, float]]) -> None:
        for x, y in line:
            self.points.setdefault((int(x / self.cell), int(y / self.cell)), []).append((x, y))

    def near(self, x: float, y: float, distance: float) -> bool:
        cx, cy = int(x / self.cell), int(y / self.cell)
        limit = distance * distance
        for i in (cx - 1, cx, cx + 1):
            for j in (cy - 1, cy, cy + 1):
                for px, py in self.points.get((i, j), ()):
                    if (px - x) ** 2 + (py - y) ** 2 < limit:
                        return True
        return False


def _trace(
    x: float, y: float, sign: int, field: list[list[tuple[float, float]]], mask: list[list[bool]],
    occupied: _Occupancy, distance: float, longest: int,
) -> list[tuple[float, float]]:  # fmt: skip
    height, width = len(mask), len(mask[0])
    line: list[tuple[float, float]] = []
    last = (0.0, 0.0)
    for _ in range(longest):
        col, row = int(x), int(y)
        if not (0 <= col < width and 0 <= row < height) or not mask[row][col]:
            break
        dx, dy = field[row][col]
        dx, dy = sign * dx, -sign * dy
        if last[0] * dx + last[1] * dy < -0.2:
            break
        if occupied.near(x, y, distance):
            break
        line.append((x, y))
        last = (dx, dy)
        x, y = x + _STEP * dx, y + _STEP * dy
    return line


def growth_lines(
    directed: Floats, mask: Mask, spacing: float, shortest: float = 1.5
) -> tuple[GrowthLine, ...]:
    """Evenly spaced lines along the hair.

    Parameters
    ----------
    directed
        (h, w, 2) root→tip unit direction, y up.
    mask
        (h, w) where there is hair.
    spacing
        Distance between lines, in grid pixels, > 0.
    shortest
        Lines shorter than this many spacings are left out.

    Returns
    -------
    tuple of GrowthLine
        In the order they were seeded: row by row from the top, each from the left.
    """
    if spacing <= 0:
        raise Refusal("the spacing of growth lines must be more than nothing")
    spacing = max(spacing, 1.5)
    height, width = mask.shape
    field = [[(float(v[0]), float(v[1])) for v in row] for row in directed]
    inside = mask.tolist()
    stop = spacing * _NEAREST
    occupied = _Occupancy(spacing)
    lines: list[GrowthLine] = []
    longest = int(2 * max(height, width) / _STEP)
    rows = np.arange(spacing / 2, height, spacing / 2)
    cols = np.arange(spacing / 2, width, spacing / 2)
    for row in rows:
        for col in cols:
            if not inside[int(row)][int(col)] or occupied.near(col, row, spacing * 0.9):
                continue
            ahead = _trace(col, row, 1, field, inside, occupied, stop, longest)
            behind = _trace(col, row, -1, field, inside, occupied, stop, longest)
            line = behind[:0:-1] + ahead
            if len(line) * _STEP < shortest * spacing:
                continue
            occupied.add(line[::2])
            points = np.array(line[::3] + line[-1:], dtype=np.float64)
            lines.append(GrowthLine(points / (width, height)))
    return tuple(lines)
