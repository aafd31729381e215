"""Grids for carrying a drawing from the reference to the canvas."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

GridKind = Literal["count", "square", "thirds", "diagonals"]

Line = tuple[float, float, float, float]
"""x1, y1, x2, y2 in canvas mm."""


@dataclass(frozen=True)
class Grid:
    """Lines in canvas mm, and the numbers along its margins.

    Attributes
    ----------
    lines
        Inner lines; the canvas's own edge is not among them.
    columns, rows
        (position in mm, text) of each column along the top and row down the side.
    cell_mm
        Width and height of one cell, or None for diagonals.
    """

    lines: tuple[Line, ...]
    columns: tuple[tuple[float, str], ...]
    rows: tuple[tuple[float, str], ...]
    cell_mm: tuple[float, float] | None


def make_grid(
    canvas_mm: tuple[float, float], kind: GridKind, columns: int = 3, rows: int = 4, square_mm: float = 50.0
) -> Grid:
    """A grid over a canvas.

    Parameters
    ----------
    canvas_mm
        Width and height.
    kind
        ``count``: columns × rows; ``square``: squares of `square_mm` from the top left, the
        last ones cut; ``thirds``; ``diagonals``: both diagonals, and the diamond through the
        middles of the sides.
    """
    width, height = canvas_mm
    if kind == "diagonals":
        mid_x, mid_y = width / 2, height / 2
        diamond = ((mid_x, 0.0), (width, mid_y), (mid_x, height), (0.0, mid_y))
        sides = tuple((*a, *b) for a, b in zip(diamond, (*diamond[1:], diamond[0]), strict=True))
        cross = ((0.0, 0.0, width, height), (0.0, height, width, 0.0))
        middle = ((mid_x, 0.0, mid_x, height), (0.0, mid_y, width, mid_y))
        return Grid((*cross, *middle, *sides), (), (), None)
    if kind == "thirds":
        columns, rows = 3, 3
    step_x, step_y = (square_mm, square_mm) if kind == "square" else (width / columns, height / rows)
    across, down = _stops(width, step_x), _stops(height, step_y)
    lines: list[Line] = [(x, 0.0, x, height) for x in across[1:-1]]
    lines += [(0.0, y, width, y) for y in down[1:-1]]
    return Grid(tuple(lines), _numbers(across, "1"), _numbers(down, "A"), (step_x, step_y))


def _stops(length: float, step: float) -> list[float]:
    """Positions of the lines from 0 to the end; a last sliver under a hundredth of a cell is no cell."""
    count = max(1, int(length / step + 0.99))
    return [min(i * step, length) for i in range(count)] + [length]


def _numbers(stops: list[float], first: str) -> tuple[tuple[float, str], ...]:
    return tuple(((a + b) / 2, _name(i, first)) for i, (a, b) in enumerate(pairwise(stops)))


def _name(index: int, first: str) -> str:
    """1, 2, 3 … across; A, B … Z, AA, AB … down."""
    if first == "1":
        return str(index + 1)
    letters = ""
    index += 1
    while index:
        index, rest = divmod(index - 1, 26)
        letters = chr(ord("A") + rest) + letters
    return letters
