"""A large pass in several goes: whole shapes together, so that no soft border lies between two goes."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.brushes.laying import goes_needed, laying_minutes
from truesitter.core.types import Counts, Doubles, Ints, Mask


@dataclass(frozen=True)
class UnbrokenPatch:
    """What is laid without a break.

    Attributes
    ----------
    area_cm2, minutes
        What it covers, and how long covering it takes.
    x, y
        A spot inside its largest shape, in fractions of the picture.
    in_time
        False for a single shape too large to be softened in one go: its wet edge has to be kept going.
    """

    area_cm2: float
    minutes: float
    x: float
    y: float
    in_time: bool


def goes_of(mask: Mask, mm_per_px: float, brush_mm: float, open_minutes: float) -> tuple[UnbrokenPatch, ...]:
    """The goes of a place, from top to bottom; one where all of it can be softened while it is open.

    Shapes of a place that do not touch have borders of their own, hard or soft towards something else:
    between them nothing is softened, so that the work may be broken off there.

    Parameters
    ----------
    mask
        (h, w) where the pass lies.
    brush_mm, open_minutes
        Its brush, and how long an edge can be moved; 0 for paint that never stays open.
    """
    count, shape, stats, _ = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    cm2 = mm_per_px**2 / 100
    areas = stats[1:, cv2.CC_STAT_AREA] * cm2
    total = float(areas.sum())
    if count < 2:
        return ()
    if goes_needed(total, brush_mm, open_minutes) == 1:
        return (_go(shape, stats, np.arange(1, count), areas, brush_mm, True),)

    def close(numbers: list[int], area: float) -> UnbrokenPatch:
        return _go(
            shape, stats, np.array(numbers), areas, brush_mm, goes_needed(area, brush_mm, open_minutes) == 1
        )

    found: list[UnbrokenPatch] = []
    together: list[int] = []
    sum_ = 0.0
    for number in sorted(range(1, count), key=lambda n: (stats[n, cv2.CC_STAT_TOP], n)):
        area = float(areas[number - 1])
        if together and goes_needed(sum_ + area, brush_mm, open_minutes) > 1:
            found.append(close(together, sum_))
            together, sum_ = [], 0.0
        together.append(number)
        sum_ += area
    found.append(close(together, sum_))
    return tuple(found)


def _go(
    shape: Ints, stats: Ints, numbers: Counts, areas: Doubles, brush_mm: float, in_time: bool
) -> UnbrokenPatch:
    area = float(areas[numbers - 1].sum())
    largest = int(numbers[areas[numbers - 1].argmax()])
    left, top, width, height, _ = stats[largest]
    inside = shape[top : top + height, left : left + width] == largest
    # The spot farthest from its border is surely inside.
    padded = np.pad(inside, 1).astype(np.uint8)
    away = cv2.distanceTransform(padded, cv2.DIST_L2, 3)[1:-1, 1:-1]
    row, column = np.unravel_index(int(away.argmax()), inside.shape)
    row, column = row + top, column + left
    return UnbrokenPatch(
        area, laying_minutes(area, brush_mm), float((column + 0.5) / shape.shape[1]),
        float((row + 0.5) / shape.shape[0]), in_time,
    )  # fmt: skip
