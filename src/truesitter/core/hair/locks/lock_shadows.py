"""Cast shadows of locks and curls: how dark the lock below lies beside the one that lies over it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from scipy import ndimage

from truesitter.core.hair.locks.lock_shapes import Lock
from truesitter.core.hair.locks.tuning import LEAST_SHADOW, SHADOW_BINS, SHADOW_PIXELS
from truesitter.core.types import Doubles, Floats, Ints, Mask


@dataclass(frozen=True)
class LockShadow:
    """The shadow of one lock on another.

    Attributes
    ----------
    on
        Number of the lock it falls on.
    steps
        Value that it takes there, beside the other border of that lock.
    width
        Where half of that is left, in pixels of the map.
    """

    on: int
    steps: float
    width: float


def cast_shadows(numbers: Ints, value: Floats, locks: Sequence[Lock]) -> dict[int, tuple[LockShadow, ...]]:
    """Shadows by the number of the lock that casts them, the darkest first.

    A lock is darker at both its borders because it is round: a shadow is what it is darker at the one it
    lies under than at the same distance from all others.

    Parameters
    ----------
    numbers
        (h, w) number of the lock each pixel is of, 0 for none.
    value
        (h, w) value without single strands.
    locks
        Each of them, with what it lies over.
    """
    boxes = ndimage.find_objects(numbers)
    widths = {lock.number: lock.width for lock in locks}
    found: dict[int, tuple[LockShadow, ...]] = {}
    for lock in locks:
        shadows = []
        for below in lock.over:
            box = tuple(slice(max(0, side.start - 1), side.stop + 1) for side in boxes[below - 1])
            read = _shadow(numbers[box], value[box], lock.number, below, widths[below])
            if read is not None:
                shadows.append(read)
        if shadows:
            found[lock.number] = tuple(sorted(shadows, key=lambda one: -one.steps))
    return found


def _shadow(numbers: Ints, value: Floats, upper: int, below: int, width: float) -> LockShadow | None:
    """The shadow on one lock; None where there is none, or too little to tell."""
    own = numbers == below
    to_upper, to_rest = (_distance(mask) for mask in (numbers == upper, ~own & (numbers != upper)))
    # Half the width belongs to either border.
    reach = max(2.0, width / 2)
    edges = np.linspace(0.5, reach + 0.5, SHADOW_BINS + 1)
    beside, free = (
        _profile(own & (one < other), one, value, edges)
        for one, other in ((to_upper, to_rest), (to_rest, to_upper))
    )
    both = np.isfinite(beside) & np.isfinite(free)
    if not both[0]:
        return None
    darker = np.where(both, free - beside, 0.0)
    steps = float(darker[0])
    if steps < LEAST_SHADOW:
        return None
    middles = (edges[1:] + edges[:-1]) / 2
    falling = np.minimum.accumulate(darker)
    return LockShadow(below, steps, float(np.interp(-steps / 2, -falling, middles, right=reach)))


def _distance(mask: Mask) -> Floats:
    """Distance of each pixel from a mask; far away from one that is empty."""
    if not mask.any():
        return np.full(mask.shape, 1e6, np.float32)
    return np.asarray(cv2.distanceTransform((~mask).astype(np.uint8), cv2.DIST_L2, 5), np.float32)


def _profile(where: Mask, away: Floats, value: Floats, edges: Doubles) -> Doubles:
    """Mean value by distance (bins,); NaN where hardly anything is so far away."""
    bins = np.digitize(away[where], edges) - 1
    inside = (bins >= 0) & (bins < len(edges) - 1)
    bins = bins[inside]
    counts = np.bincount(bins, minlength=len(edges) - 1)
    sums = np.bincount(bins, value[where][inside], minlength=len(edges) - 1)
    return np.where(counts >= SHADOW_PIXELS, sums / np.maximum(counts, 1), np.nan)
