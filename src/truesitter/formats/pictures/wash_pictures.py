"""Where something is dropped into a wash, drawn on the canvas after it."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.sitter.areas import middle_of
from truesitter.core.types import Bytes, Mask
from truesitter.formats.words.wash_words import letter

_HALO, _INK = (255, 255, 255), (0, 0, 0)


def charged_picture(canvas: Bytes, masks: tuple[Mask, ...]) -> Bytes:
    """Outlines of places on a canvas, with the letters they are told by.

    Parameters
    ----------
    canvas
        (h, w, 3) sRGB.
    masks
        (h, w) of each place, in order.
    """
    out = np.ascontiguousarray(canvas).copy()
    # What is dropped in later lies inside what was dropped in before: letters stand apart.
    alone = [mask & ~np.any([np.zeros_like(mask), *masks[n + 1 :]], axis=0) for n, mask in enumerate(masks)]
    thick = max(1, round(max(out.shape[:2]) / 700))
    for mask in masks:
        found, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
        for ink, width in ((_HALO, 3 * thick), (_INK, thick)):
            cv2.drawContours(out, found, -1, ink, width, cv2.LINE_AA)
    for number, mask in enumerate(alone):
        row, column = pixel_at(*middle_of(mask), mask.shape)
        at, size = (column - 6 * thick, row + 6 * thick), 0.6 * thick
        for ink, width in ((_HALO, 5 * thick), (_INK, 2 * thick)):
            cv2.putText(out, letter(number), at, cv2.FONT_HERSHEY_SIMPLEX, size, ink, width, cv2.LINE_AA)
    return out
