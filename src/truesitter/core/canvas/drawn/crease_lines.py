"""Wrinkles and folds as lines: the centre of each long narrow recess of bare skin, as wide as its dark."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.canvas.drawn.tuning import CREASE_LINES_POINTS, DRAWN, FINEST_MM, LONG, MOST, SHORTEST
from truesitter.core.imaging.line import Line
from truesitter.core.light.form.recesses import Recesses
from truesitter.core.types import Doubles, Mask


def crease_lines(recesses: Recesses, mm_per_px: float) -> tuple[Line, ...]:
    """The lines of the wrinkles and folds, deepest first.

    Parameters
    ----------
    mm_per_px
        Canvas mm to a pixel of the map.
    """
    lines = []
    for recess in recesses.recesses:
        if not recess.is_wrinkle:
            continue
        _, parts, stats, _ = cv2.connectedComponentsWithStats(
            ((recesses.first == recess.number) & recesses.dark).astype(np.uint8), connectivity=8
        )
        for n, (left, top, width, height, area) in enumerate(stats.tolist()):
            length = float(np.hypot(width, height))
            if not n or length**2 < LONG * area or length < SHORTEST * recesses.scale:
                continue
            box = (slice(top, top + height), slice(left, left + width))
            line = _centre(parts[box] == n, (left, top), recesses.first.shape, mm_per_px)
            if line is not None:
                lines.append(line)
    return tuple(lines[:MOST])


def _centre(own: Mask, corner: tuple[int, int], shape: tuple[int, ...], mm_per_px: float) -> Line | None:
    """The centre line of a long patch and its widths; None for one too short to be a stroke."""
    from skimage.graph import route_through_array

    room = np.pad(own, 1)
    inner = cv2.distanceTransform(room.astype(np.uint8), cv2.DIST_L2, 3)
    rows, columns = np.nonzero(room)
    spots = np.stack([rows, columns], axis=1).astype(float)
    _, _, axes = np.linalg.svd(spots - spots.mean(axis=0), full_matrices=False)
    along = (spots - spots.mean(axis=0)) @ axes[0]
    ends = [tuple(int(v) for v in spots[i]) for i in (along.argmin(), along.argmax())]
    # The way through the middle is the cheapest; outside there is none.
    cost = np.where(room, 1 / (inner + 0.1) ** 2, 1e6)
    path, _ = route_through_array(cost, ends[0], ends[1])  # type: ignore[no-untyped-call]
    way = np.array(path, dtype=float)
    if len(way) < 5:
        return None
    width = 2 * inner[tuple(np.array(path).T)]
    at = np.linspace(0, len(way) - 1, min(CREASE_LINES_POINTS, len(way)))
    even: Doubles = np.stack([np.interp(at, np.arange(len(way)), axis) for axis in way.T], axis=1)
    # Steps from pixel to pixel are evened out.
    even[1:-1] = (even[:-2] + 2 * even[1:-1] + even[2:]) / 4
    points = (even[:, ::-1] - 0.5 + corner) / (shape[1], shape[0])
    widths = np.interp(at, np.arange(len(way)), width) * mm_per_px * DRAWN
    taper = np.sin(np.linspace(0.15, np.pi - 0.15, len(at))) ** 0.5
    return Line(points, np.maximum(widths * taper, FINEST_MM / 4))
