"""Growth lines: evenly spaced lines that show which way the hair lies.

Streamlines of the root→tip field (after Jobard & Lefer 1997): each line seeds others beside it,
one spacing off, and a line ends where it would come too near to another.
"""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.hair.field.tuning import GROWTH_LINES_FINE, NEAREST, ROOM, ROOT_PART, STEP, TURN_BACK
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Floats, Labels, Mask


@dataclass(frozen=True)
class GrowthLine:
    """One line, root first.

    Attributes
    ----------
    points
        (n, 2) x, y in fractions of width and height.
    sure
        How plainly the strands showed along it, 0–1.
    kind
        Number of the kind of hair.
    """

    points: Doubles
    sure: float = 1.0
    kind: int = 1

    def split(self, share: float = ROOT_PART) -> int:
        """Number of the point at which the root part ends."""
        steps = np.hypot(*np.diff(self.points, axis=0).T)
        along = np.concatenate([[0], np.cumsum(steps)])
        return int(np.clip(np.searchsorted(along, share * along[-1]), 1, len(along) - 1))


class _Taken:
    """Where lines run already, and how near another may come."""

    def __init__(self, shape: tuple[int, ...], spacing: float) -> None:
        fine = (shape[0] * GROWTH_LINES_FINE, shape[1] * GROWTH_LINES_FINE)
        self._near, self._room = np.zeros(fine, np.uint8), np.zeros(fine, np.uint8)
        self._widths = tuple(
            max(1, round(2 * GROWTH_LINES_FINE * spacing * part)) for part in (NEAREST, ROOM)
        )
        # Looked up a point at a time: plain bytes are quicker than an array.
        self.near, self.room, self.row = self._near.data.cast("B"), self._room.data.cast("B"), fine[1]

    def add(self, line: list[tuple[float, float]]) -> None:
        """Another line, in pixels of the field."""
        points = np.round(np.array(line) * GROWTH_LINES_FINE).astype(np.int32).reshape(-1, 1, 2)
        for taken, width in zip((self._near, self._room), self._widths, strict=True):
            cv2.polylines(taken, [points], False, 1, width)


class _LineTracer:
    """Walks along the field from a seed."""

    def __init__(self, directed: Floats, mask: Mask, taken: _Taken) -> None:
        self.height, self.width = mask.shape
        self.across, self.up = directed[..., 0].tolist(), directed[..., 1].tolist()
        self.mask, self.taken = mask.tolist(), taken
        self.longest = int(2 * max(mask.shape) / STEP)

    def may_begin(self, x: float, y: float) -> bool:
        """Whether a point lies on hair and has room for a line."""
        inside = 0 <= x < self.width and 0 <= y < self.height and self.mask[int(y)][int(x)]
        return (
            bool(inside)
            and not self.taken.room[int(y * GROWTH_LINES_FINE) * self.taken.row + int(x * GROWTH_LINES_FINE)]
        )

    def walk(self, x: float, y: float, sign: int) -> list[tuple[float, float]]:
        """Points from a seed towards the tip (1) or the root (−1).

        Parameters
        ----------
        x
            Column of the seed.
        y
            Its row.
        sign
            1 to the tip, −1 to the root.

        Returns
        -------
        list[tuple[float, float]]
            x, y of each step, in pixels.
        """
        line: list[tuple[float, float]] = []
        width, height, across, up, mask = self.width, self.height, self.across, self.up, self.mask
        near, fine_row = self.taken.near, self.taken.row
        last_x = last_y = 0.0
        for _ in range(self.longest):
            if not (0 <= x < width and 0 <= y < height):
                break
            row, column = int(y), int(x)
            if (
                not mask[row][column]
                or near[int(y * GROWTH_LINES_FINE) * fine_row + int(x * GROWTH_LINES_FINE)]
            ):
                break
            dx, dy = sign * across[row][column], -sign * up[row][column]
            if last_x * dx + last_y * dy < TURN_BACK or (dx == 0 and dy == 0):
                break
            line.append((x, y))
            last_x, last_y = dx, dy
            x, y = x + STEP * dx, y + STEP * dy
        return line


def _seeds_along(length: int, spacing: float) -> Doubles:
    """Half a spacing apart, all of them inside: rounding may put the last on the end itself."""
    seeds = np.arange(spacing / 2, length, spacing / 2)
    return seeds[seeds < length]


def growth_lines(
    directed: Floats, mask: Mask, spacing: float, shortest: float = 1.5,
    coherence: Floats | None = None, kinds: Labels | None = None,
) -> tuple[GrowthLine, ...]:  # fmt: skip
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
    coherence, kinds
        (h, w) how plainly strands show, and kinds of hair, for what is said of each line.

    Returns
    -------
    tuple of GrowthLine
        In the order they were found; `painting_order` numbers them.

    Raises
    ------
    Refusal
        For a spacing of nothing.
    """
    if spacing <= 0:
        raise Refusal("the spacing of growth lines must be more than nothing")
    spacing = max(spacing, 1.5)
    height, width = mask.shape
    taken = _Taken(mask.shape, spacing)
    tracer = _LineTracer(directed, mask, taken)
    lines: list[GrowthLine] = []
    rows, columns = _seeds_along(height, spacing), _seeds_along(width, spacing)
    grid = deque((float(x), float(y)) for y in rows for x in columns if mask[int(y), int(x)])
    beside: deque[tuple[float, float]] = deque()
    while grid or beside:
        x, y = beside.popleft() if beside else grid.popleft()
        if not tracer.may_begin(x, y):
            continue
        line = tracer.walk(x, y, -1)[:0:-1] + tracer.walk(x, y, 1)
        if len(line) * STEP < shortest * spacing:
            continue
        taken.add(line)
        beside.extend(_seeds_beside(line, spacing))
        points = np.array(line[::3] + line[-1:], dtype=np.float64)
        at = points.astype(int)
        sure = 1.0 if coherence is None else float(coherence[at[:, 1], at[:, 0]].mean())
        kind = 1 if kinds is None else int(np.bincount(kinds[at[:, 1], at[:, 0]]).argmax())
        lines.append(GrowthLine(points / (width, height), sure, kind))
    return tuple(lines)


def _seeds_beside(line: list[tuple[float, float]], spacing: float) -> list[tuple[float, float]]:
    """Points one spacing to both sides of a line."""
    if len(line) < 2:
        return []
    points = np.array(line)
    along = np.gradient(points, axis=0)
    along /= np.hypot(*along.T)[:, None] + 1e-9
    off = spacing * np.column_stack([-along[:, 1], along[:, 0]])
    step = max(1, int(spacing / STEP / 2))
    both = np.stack([points + off, points - off], axis=1)[::step].reshape(-1, 2)
    return [(float(x), float(y)) for x, y in both]


def painting_order(lines: tuple[GrowthLine, ...], shape: tuple[int, ...]) -> tuple[GrowthLine, ...]:
    """Lines in the order of painting: what lies behind first.

    Hair lies like shingles: what is rooted farther down the stream lies beneath what is rooted
    above it and runs over it. So, kind by kind (brows and beard after the head's hair), lines come
    by how far along the common flow of their kind their root lies, the farthest first.
    """
    height, width = shape
    ordered: list[GrowthLine] = []
    for kind in sorted({line.kind for line in lines}):
        mine = [line for line in lines if line.kind == kind]
        runs = np.array([(line.points[-1] - line.points[0]) * (width, height) for line in mine])
        flow = runs.sum(axis=0)
        flow = flow / (np.hypot(*flow) + 1e-9)
        roots = np.array([line.points[0] * (width, height) for line in mine]) @ flow
        ordered += [mine[n] for n in np.argsort(-roots, kind="stable")]
    return tuple(ordered)
