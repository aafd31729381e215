"""Locks: the mass of the hair split into bands that turn in the light, one lying over another.

What is left of the value when it is blurred along the strands is banded: a lock is a band from
valley to valley. Its ridge marks it, a watershed gives it its borders, and pieces whose valley is
shallow are joined again, end to end more readily than side by side.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from scipy import ndimage

from truesitter.core.hair.locks.lock_joining import join_pieces
from truesitter.core.hair.locks.tuning import (
    COARSEST,
    FINEST,
    LENGTH_OF_BLUR,
    LOCK_REGIONS_LEAST_CONTRAST,
    RIDGE,
    SPREAD,
)
from truesitter.core.hair.locks.volumes import Along, masked_blur
from truesitter.core.types import Floats, Ints, Mask


@dataclass(frozen=True)
class LockMap:
    """Locks of a mass of hair.

    Attributes
    ----------
    numbers
        (h, w) number of the lock each pixel is of, from 1; 0 where there is none.
    contrast
        Median of the value between ridge and valley, in steps.
    """

    numbers: Ints
    contrast: float


def lock_band(light_along: Floats, mask: Mask, width: float) -> tuple[Floats, Floats]:
    """Bands across the strands: band-passed value, and the same in local deviations.

    Parameters
    ----------
    light_along
        (h, w) value blurred along the strands.
    mask
        (h, w) where there is hair.
    width
        Width of a lock, in pixels.
    """
    band = masked_blur(light_along, mask, FINEST * width) - masked_blur(light_along, mask, COARSEST * width)
    spread = np.sqrt(np.maximum(masked_blur(band * band, mask, SPREAD * width), 1e-8))
    return np.where(mask, band, 0).astype(np.float32), np.where(mask, band / spread, 0).astype(np.float32)


def _ridges(band: Floats, directed: Floats, mask: Mask) -> Ints:
    """Numbered ridges: pixels no lower than both neighbours across the strands."""
    height, width = band.shape
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    nx, ny = directed[..., 1], directed[..., 0]
    one = cv2.remap(band, x + nx, y + ny, cv2.INTER_LINEAR)
    other = cv2.remap(band, x - nx, y - ny, cv2.INTER_LINEAR)
    top = mask & (band >= one) & (band >= other) & (band > RIDGE)
    numbers, _ = ndimage.label(cv2.dilate(top.astype(np.uint8), np.ones((3, 3), np.uint8)), np.ones((3, 3)))
    return np.where(mask, numbers, 0).astype(np.int32)


def split_locks(value: Floats, directed: Floats, mask: Mask, width: float) -> LockMap:
    """Split hair into locks.

    Parameters
    ----------
    value
        (h, w) Munsell value, of a photograph without its surface (skull and locks).
    directed
        (h, w, 2) direction, y up.
    mask
        (h, w) where there is hair.
    width
        Width of a lock to look for, in pixels, at least 4.

    Returns
    -------
    LockMap
        No numbers at all where contrast is under `LOCK_REGIONS_LEAST_CONTRAST`.
    """
    from skimage.segmentation import watershed

    none = LockMap(np.zeros(mask.shape, np.int32), 0.0)
    if mask.sum() < 4 * width**2:
        return none
    along = Along(directed, mask).blur(value, LENGTH_OF_BLUR * width)
    raw, band = lock_band(along, mask, width)
    ridges = _ridges(band, directed, mask)
    if not ridges.any():
        return none
    first = np.asarray(watershed(-band, ridges, mask=mask), np.int32)  # type: ignore[no-untyped-call]
    joined = join_pieces(first, band, directed, width)
    contrast = _contrast(joined, raw)
    return (
        LockMap(joined, contrast)
        if contrast >= LOCK_REGIONS_LEAST_CONTRAST
        else LockMap(none.numbers, contrast)
    )


def _contrast(numbers: Ints, band: Floats) -> float:
    """Median over locks of the value from their valleys to their ridges."""
    found = []
    for number, box in enumerate(ndimage.find_objects(numbers), 1):
        if box is not None:
            inside = band[box][numbers[box] == number]
            found.append(float(np.quantile(inside, 0.9) - np.quantile(inside, 0.1)))
    return float(np.median(found)) if found else 0.0
