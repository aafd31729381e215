"""Borders drawn finer than the regions were solved: pixel by pixel, by the colours on either side.

Along a hairline, a beard or a collar each pixel goes to the region whose own colour nearby
it is more like. Only inside a narrow band, and only where the two colours can be told apart.
Against the background nothing is done: a dark head before a dark wall has no such border.
"""

from __future__ import annotations

from collections.abc import Callable

import cv2
import numpy as np
from numpy.typing import NDArray

from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.cores import Found, side_by_side
from truesitter.core.sitter.segmentation.tuning import (
    BAND,
    BROW_BAND,
    CHROMA_WEIGHT,
    DISTANCES,
    LEAST_CORE,
    LOOKS,
    TOLD_APART,
)
from truesitter.core.types import Floats, Labels, Mask, Shape

_PARTNERS: dict[Region, tuple[Region, ...]] = {
    Region.SKIN: (Region.HAIR, Region.FACIAL_HAIR, Region.GARMENT, Region.BROWS),
    Region.HAIR: (Region.SKIN, Region.GARMENT),
    Region.FACIAL_HAIR: (Region.SKIN,),
    Region.GARMENT: (Region.SKIN, Region.HAIR),
    Region.BROWS: (Region.SKIN,),
}


Places = NDArray[np.intp]


def refine_borders(labels: Labels, lab: Floats, kept: Mask) -> Labels:
    """Region map with its borders drawn pixel by pixel.

    Parameters
    ----------
    labels
        (h, w) uint8 of `Region`.
    lab
        (h, w, 3) L*a*b* of the picture at that size.
    kept
        True where nothing may change: under the painter's strokes.
    """
    band = BAND * max(labels.shape)
    weighted = lab * np.array([1, CHROMA_WEIGHT, CHROMA_WEIGHT], np.float32)
    half, quarter = (_reduced(labels, factor) for factor in (DISTANCES, LOOKS))
    present = [r for r in _PARTNERS if (half == r).any()]
    colours = cv2.resize(weighted, quarter.shape[::-1], interpolation=cv2.INTER_AREA)

    def of_each(work: Callable[[Region], Found]) -> dict[Region, Found]:
        return dict(zip(present, side_by_side(work, present), strict=True))

    away = of_each(lambda r: _distance_to(half == r) * DISTANCES)
    looks = of_each(lambda r: _look_nearby(colours, quarter == r, band / LOOKS))
    out = labels.copy()

    def redraw(region: Region) -> None:
        """Give away what is more like a neighbour; each region writes only where it lay itself."""
        partners = [p for p in present if p in _PARTNERS[region]]
        if not partners:
            return
        nearest = np.minimum.reduce([away[p] for p in partners])
        near = _near(half == region, nearest, band, labels.shape)
        rows, columns = np.nonzero(near & (labels == region) & ~kept)
        place = (
            np.minimum(rows // DISTANCES, half.shape[0] - 1),
            np.minimum(columns // DISTANCES, half.shape[1] - 1),
        )
        to_each = np.stack([away[p][place] for p in partners])
        which = to_each.argmin(axis=0)
        for number, partner in enumerate(partners):
            reach = BROW_BAND * max(labels.shape) if Region.BROWS in (region, partner) else band
            mine = (which == number) & (to_each[number] < reach)
            y, x = rows[mine], columns[mine]
            moved = _liker(weighted[y, x], looks[region], looks[partner], y, x)
            out[y[moved], x[moved]] = partner

    of_each(redraw)
    return out


def as_masses(labels: Labels, sigma: float) -> Labels:
    """Region map without single strands and specks: each pixel goes to the region that prevails round it.

    Parameters
    ----------
    labels
        (h, w) uint8 of `Region`.
    sigma
        How far round, in pixels: the spread of a Gaussian.
    """
    best, most = np.zeros(labels.shape, np.uint8), np.zeros(labels.shape, np.float32)
    for region in np.unique(labels):
        near = cv2.GaussianBlur((labels == region).astype(np.float32), (0, 0), sigma)
        best[near > most] = region
        np.maximum(most, near, out=most)
    return best


def _reduced(labels: Labels, factor: int) -> Labels:
    size = (max(1, labels.shape[1] // factor), max(1, labels.shape[0] // factor))
    return cv2.resize(labels, size, interpolation=cv2.INTER_NEAREST)


def _distance_to(mask: Mask) -> Floats:
    return cv2.distanceTransform((~mask).view(np.uint8), cv2.DIST_L2, 3)


def _near(inside: Mask, away: Floats, band: float, shape: Shape) -> Mask:
    """Pixels of a region that may lie in the band, at full size."""
    zone = (inside & (away < band)).view(np.uint8)
    zone = cv2.dilate(zone, np.ones((3, 3), np.uint8))
    return cv2.resize(zone, shape[::-1], interpolation=cv2.INTER_NEAREST) > 0


def _look_nearby(colours: Floats, inside: Mask, band: float) -> tuple[Floats, Floats]:
    """Mean colour of a region round each place, and how much of it there is.

    Only where it is surely itself: away from its border, thin regions by half of what they have.
    """
    depth = cv2.distanceTransform(inside.view(np.uint8), cv2.DIST_L2, 3)
    core = (depth >= min(band / 2, float(depth.max()) / 2)).astype(np.float32)
    near = cv2.GaussianBlur(core, (0, 0), 1.5 * band)
    mean = cv2.GaussianBlur(colours * core[..., None], (0, 0), 1.5 * band)
    return np.asarray(mean / np.maximum(near, 1e-4)[..., None]), np.asarray(near)


def _liker(
    pixels: Floats, own: tuple[Floats, Floats], other: tuple[Floats, Floats], rows: Places, columns: Places
) -> Mask:
    """Which pixels (n, 3) are more like the other region nearby than like their own; (n,) bool."""
    height, width = own[1].shape
    place = np.minimum(rows // LOOKS, height - 1), np.minimum(columns // LOOKS, width - 1)
    here, there = own[0][place], other[0][place]
    apart = there - here
    square = (apart * apart).sum(axis=1)
    along = ((pixels - here) * apart).sum(axis=1)
    sure = (square > TOLD_APART**2) & (own[1][place] > LEAST_CORE) & (other[1][place] > LEAST_CORE)
    return np.asarray(sure & (along > square / 2))
