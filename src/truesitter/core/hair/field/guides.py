"""What the painter draws to say how the hair lies: guide strokes, whorls, parting and hairline."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import cv2
import numpy as np

from truesitter.core.hair.field.tuning import OUTERMOST_RAY, TURN
from truesitter.core.types import Doubles, Floats, Ints, Mask, Shape

Points = tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Guide:
    """A guide stroke, drawn from root to tip.

    Attributes
    ----------
    points
        (x, y) in fractions of width and height, at least two.
    reach
        Distance from the stroke up to which it overrules the picture, as a fraction
        of the picture's height.
    """

    points: Points
    reach: float = 0.04


@dataclass(frozen=True)
class DrawnWhorl:
    """A whorl that the painter set.

    Attributes
    ----------
    x, y
        In fractions of width and height.
    radius
        How far it rules, as a fraction of the height.
    turns
        Which way the hair turns as it leaves, as seen in the picture; ``straight`` for none.
    """

    x: float
    y: float
    radius: float = 0.08
    turns: Literal["clockwise", "anticlockwise", "straight"] = "clockwise"


@dataclass(frozen=True)
class Handles:
    """All that the painter drew.

    Attributes
    ----------
    guides
        Strokes from root to tip.
    whorls
        Places that hair turns out of.
    partings, hairlines
        Lines that hair grows away from: to both sides of a parting, into the hair from a hairline.
    """

    guides: tuple[Guide, ...] = ()
    whorls: tuple[DrawnWhorl, ...] = ()
    partings: tuple[Points, ...] = ()
    hairlines: tuple[Points, ...] = ()


NOTHING_DRAWN = Handles()


@dataclass(frozen=True)
class Drawn:
    """Handles laid on the grid of a field.

    Attributes
    ----------
    direction
        (h, w, 2) unit root→tip directions drawn, x right and y up; zero elsewhere.
    weight
        (h, w) how much they count, 0–1.
    overruled
        (h, w) how far the picture is overruled, 0–1.
    """

    direction: Floats
    weight: Floats
    overruled: Floats

    @property
    def double(self) -> Floats:
        """The directions in double angle: a direction and its opposite are one."""
        x, y = self.direction[..., 0], self.direction[..., 1]
        return np.stack([x * x - y * y, 2 * x * y], axis=-1)


def _pixel(point: Doubles | Ints) -> tuple[int, int]:
    return int(point[0]), int(point[1])


def _segment(start: tuple[int, int], end: tuple[int, int], shape: Shape) -> tuple[Ints, Ints]:
    """Rows and columns of the pixels of a straight stretch, drawn in a window no larger than it is."""
    left, top = min(start[0], end[0]), min(start[1], end[1])
    window = np.zeros((abs(end[1] - start[1]) + 1, abs(end[0] - start[0]) + 1), np.uint8)
    cv2.line(window, (start[0] - left, start[1] - top), (end[0] - left, end[1] - top), 1, 1)
    rows, cols = np.nonzero(window)
    rows, cols = rows + top, cols + left
    inside = (rows >= 0) & (rows < shape[0]) & (cols >= 0) & (cols < shape[1])
    return rows[inside].astype(np.int32), cols[inside].astype(np.int32)


def _along(points: Doubles, shape: Shape) -> tuple[Ints, Ints, Doubles]:
    """Rows and columns of the pixels that a line (n, 2) runs over, and its direction (m, 2) at each.

    Where it comes by a pixel again, the later visit stands later.
    """
    steps = np.diff(points, axis=0)
    lengths = np.hypot(steps[:, 0], steps[:, 1])
    kept = lengths >= 1e-6
    direction = steps[kept] / lengths[kept, None] * (1, -1)
    at = points.astype(np.int32)
    starts, ends = at[:-1][kept], at[1:][kept]
    if len(starts) and int(np.abs(ends - starts).max()) > 1:
        stretches = [_segment(_pixel(a), _pixel(b), shape) for a, b in zip(starts, ends, strict=True)]
        counts = [len(rows) for rows, _ in stretches]
        rows = np.concatenate([rows for rows, _ in stretches])
        cols = np.concatenate([cols for _, cols in stretches])
        return rows, cols, np.repeat(direction, counts, axis=0)
    # From pixel to neighbouring pixel there is nothing between.
    both = np.stack([starts, ends], axis=1).reshape(-1, 2)
    inside = ((both >= 0) & (both < (shape[1], shape[0]))).all(axis=1)
    return both[inside, 1], both[inside, 0], np.repeat(direction, 2, axis=0)[inside]


def line_mask(points: Points, shape: Shape, thickness: int = 1) -> Mask:
    """Pixels that a line drawn in fractions runs over; bool (h, w).

    Parameters
    ----------
    points
        (n, 2) x, y in fractions.
    shape
        Height and width in pixels; more is ignored.
    thickness
        Pixels, 1 or more.

    Returns
    -------
    Mask
        (h, w)
    """
    canvas = np.zeros(shape, np.uint8)
    height, width = shape
    at = np.array(points, dtype=np.float64) * (width, height)
    for start, end in pairwise(at):
        cv2.line(canvas, _pixel(start), _pixel(end), 1, thickness)
    return canvas.astype(bool)


def lay_handles(handles: Handles, shape: Shape) -> Drawn:
    """Guide strokes and whorls on a grid of some shape."""
    height, width = shape
    drawn = Drawn(np.zeros((*shape, 2), np.float32), np.zeros(shape, np.float32), np.zeros(shape, np.float32))
    for whorl in handles.whorls:
        _lay_whorl(whorl, drawn)
    lines: dict[float, Mask] = {}
    for guide in handles.guides:
        points = np.array(guide.points, dtype=np.float64) * (width, height)
        line = lines.setdefault(guide.reach, np.zeros(shape, bool))
        rows, cols, direction = _along(points, shape)
        drawn.direction[rows, cols] = direction
        line[rows, cols] = True
    for share, line in lines.items():
        if line.any():
            drawn.weight[line] = 1.0
            reach = max(1.0, share * height)
            # Nearest to any of them is what overrules most: one look serves all of one reach.
            away = cv2.distanceTransform((~line).astype(np.uint8), cv2.DIST_L2, 3)
            np.maximum(drawn.overruled, np.exp(-((away / reach) ** 2)), out=drawn.overruled)
    return drawn


def _lay_whorl(whorl: DrawnWhorl, drawn: Drawn) -> None:
    """Rays out of a whorl, each turned off by `TURN` in its sense."""
    height, width = drawn.weight.shape
    rows, cols = np.mgrid[0:height, 0:width] + 0.5
    x, y = cols - whorl.x * width, -(rows - whorl.y * height)
    away = np.hypot(x, y)
    radius = max(1.5, whorl.radius * height)
    inside = (away < radius) & (away > 1e-6)
    turn = {"clockwise": -TURN, "anticlockwise": TURN, "straight": 0.0}[whorl.turns]
    angle = np.arctan2(y, x)[inside] + turn
    drawn.direction[inside] = np.stack([np.cos(angle), np.sin(angle)], axis=-1)
    fade = 1 - (1 - OUTERMOST_RAY) * away[inside] / radius
    drawn.weight[inside] = np.maximum(drawn.weight[inside], fade)
    drawn.overruled[inside] = np.maximum(drawn.overruled[inside], fade)
