"""Locks mended by hand: strokes that join, cut or draw them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
from scipy import ndimage

from truesitter.core.hair.field.guides import Points, line_mask
from truesitter.core.hair.locks.tuning import TOUCHED
from truesitter.core.types import Ints, Mask


@dataclass(frozen=True)
class LockStroke:
    """A stroke over the locks.

    Attributes
    ----------
    does
        ``join`` makes one lock of all it runs over; ``cut`` parts the lock it runs through;
        ``draw`` makes a lock along itself.
    points
        (x, y) in fractions.
    """

    does: Literal["join", "cut", "draw"]
    points: Points


def mend_locks(numbers: Ints, mask: Mask, strokes: tuple[LockStroke, ...], width: float) -> Ints:
    """Locks with the painter's strokes, in the order they were drawn; numbers stay without gaps.

    Parameters
    ----------
    numbers
        (h, w) locks from 1.
    mask
        (h, w) where there is hair; a lock may be drawn where none was found.
    width
        Width of a drawn lock, in pixels.
    """
    mended = numbers.copy()
    for stroke in strokes:
        on = line_mask(stroke.points, numbers.shape) & mask
        if stroke.does == "draw":
            # A lock is drawn as wide as locks are.
            wide = line_mask(stroke.points, numbers.shape, max(1, round(width))) & mask
            if wide.any():
                mended[wide] = mended.max() + 1
            continue
        found, counts = np.unique(mended[on & (mended > 0)], return_counts=True)
        if stroke.does == "join":
            mended[np.isin(mended, found[counts >= TOUCHED])] = found[0] if len(found) else 0
        elif len(found):
            mended = _cut(mended, int(found[counts.argmax()]), on)
    _, numbered = np.unique(mended, return_inverse=True)
    numbered = numbered.reshape(mended.shape)
    return np.asarray(numbered + (0 if (mended == 0).any() else 1), np.int32)


def _cut(numbers: Ints, lock: int, on: Mask) -> Ints:
    """Part one lock along a line; the line itself goes to the nearer part."""
    mine = numbers == lock
    line = cv2.dilate(on.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    parts, count = ndimage.label(mine & ~line)
    if count < 2:
        return numbers
    nearest = ndimage.distance_transform_edt(parts == 0, return_distances=False, return_indices=True)
    whole = parts[tuple(nearest)]
    cut = numbers.copy()
    cut[mine] = np.where(whole[mine] == 1, lock, numbers.max() + whole[mine])
    return cut
