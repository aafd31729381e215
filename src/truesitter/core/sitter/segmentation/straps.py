"""Straps, chains and single locks that lie on skin: it goes on behind them in the same colours."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.sitter.segmentation.tuning import STRAP_LEAST, STRAP_LIKE, STRAP_MOST
from truesitter.core.types import Floats, Ints, Labels, Mask


def beyond_straps(found: Mask, could: Mask, areas: Ints, lightness: Floats, face: float) -> Mask:
    """Areas like skin that only a strip as narrow as a strap parts from skin that was found.

    Parameters
    ----------
    found
        (h, w) skin so far.
    could
        (h, w) what looks like skin.
    areas
        (h, w) numbers of even areas.
    lightness
        (h, w) L*: skin beside a strap is about as light on both sides, cloth past a hem need not be.
    face
        Height of the face in pixels.

    Returns
    -------
    Mask
        (h, w). A line thinner than a strap is the shadow of a hem, and nothing is found behind it.
    """
    closed = cv2.morphologyEx(could.astype(np.uint8), cv2.MORPH_CLOSE, _disc(STRAP_MOST * face / 2))
    strips = cv2.morphologyEx(closed & ~could, cv2.MORPH_OPEN, _disc(STRAP_LEAST * face / 2))
    count, number = cv2.connectedComponents(strips)
    if count < 2:
        return np.zeros_like(found)
    # Between the strip's full width and the skin lies its blurred border.
    reach = _disc(STRAP_LEAST * face)
    beside = cv2.dilate(strips, reach) > 0
    near = cv2.dilate(number.astype(np.float32), reach).astype(np.int32)
    here, there = beside & found, beside & could & ~found
    sums = [
        np.bincount(near[m], weights=w, minlength=count)
        for m in (here, there)
        for w in (None, lightness[m].astype(np.float64))
    ]
    on = (sums[0] > 0) & (sums[2] > 0)
    on[0] = False
    apart = np.abs(sums[1] / np.maximum(sums[0], 1) - sums[3] / np.maximum(sums[2], 1))
    met = there & (on & (apart < STRAP_LIKE))[near]
    return np.asarray(np.isin(areas, np.unique(areas[met])) & could & ~found)


def _disc(radius: float) -> Labels:
    side = 2 * max(1, round(radius)) + 1
    return np.asarray(cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side)), dtype=np.uint8)
