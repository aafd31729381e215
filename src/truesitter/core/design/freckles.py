"""Freckles: small round spots of the skin that are darker and browner than the skin round them.

Found as maxima of a difference of Gaussians over a few sizes (Lindeberg 1998). A pore or a speck of noise
dims all of the light; melanin takes most of the blue (Anderson and Parrish 1981), so that a freckle is more
saturated for its lightness than the skin round it.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.design.tuning import (
    BROWNER,
    COLOURLESS,
    FACE_LIFE_MM,
    FRECKLE_APART_MM,
    FRECKLE_RING,
    FRECKLE_SIZES_MM,
    FRECKLE_STEPS,
    LEAST_FRECKLES,
    ROUND,
)
from truesitter.core.imaging.blur import blur, blur_within
from truesitter.core.imaging.line import Line
from truesitter.core.types import Floats, Mask


@dataclass(frozen=True)
class Freckle:
    """One spot.

    Attributes
    ----------
    x, y
        Its middle, in fractions of the picture.
    size
        Its diameter as a part of the face's height.
    darker
        Value steps that it is darker than the skin round it.
    """

    x: float
    y: float
    size: float
    darker: float


def find_freckles(lab: Floats, bare: Mask, face_px: float) -> tuple[Freckle, ...]:
    """Freckles of a skin, darkest first; none where there are so few that they are moles or blemishes.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b*.
    bare
        (h, w) lit skin away from features, folds and shine.
    face_px
        Height of the face in pixels, > 0.
    """
    life = face_px / FACE_LIFE_MM
    rows, columns = (np.flatnonzero(bare.any(axis=axis)) for axis in (1, 0))
    if not len(rows):
        return ()
    # Only what lies round the skin is looked at.
    pad = 1 + round(FRECKLE_RING * max(FRECKLE_SIZES_MM) * life)
    top, left = max(0, int(rows[0]) - pad), max(0, int(columns[0]) - pad)
    box = np.s_[top : rows[-1] + pad, left : columns[-1] + pad]
    full, lab, bare = bare.shape, lab[box], bare[box]
    value, chroma = lightness_map_to_value(lab[..., 0]), np.hypot(lab[..., 1], lab[..., 2])
    known = bare.astype(np.float32)
    # Where only the light falls, a*, b* and L* + 16 fall alike (CIE 1976).
    light = lab[..., 0] + np.float32(16)
    coloured = float(np.median(chroma[bare])) > COLOURLESS
    best, size = np.zeros(value.shape, np.float32), np.zeros(value.shape, np.float32)
    for diameter in FRECKLE_SIZES_MM:
        sigma = max(0.7, diameter * life / 4)
        smooth = blur(value, sigma)
        wide = FRECKLE_RING * sigma
        darker = blur_within(value, known, wide) - smooth
        reach = 2 * max(1, round(diameter * life)) + 1
        inside = cv2.erode(bare.astype(np.uint8), np.ones((reach, reach), np.uint8)) > 0
        found = inside & _is_round(smooth) & (darker > best)
        if coloured:
            spot = blur(chroma, sigma) / blur(light, sigma)
            around = blur_within(chroma, known, wide) / np.maximum(blur_within(light, known, wide), 1)
            found &= spot >= BROWNER * around
        size[found] = diameter
        best[found] = darker[found]
    side = 2 * max(1, round(FRECKLE_APART_MM * life)) + 1
    rows, columns = np.nonzero((best >= FRECKLE_STEPS) & (best == cv2.dilate(best, np.ones((side, side)))))
    if len(rows) < LEAST_FRECKLES:
        return ()
    spots = (
        Freckle(
            (left + x + 0.5) / full[1],
            (top + y + 0.5) / full[0],
            float(size[y, x]) / FACE_LIFE_MM,
            float(best[y, x]),
        )
        for y, x in zip(rows.tolist(), columns.tolist(), strict=True)
    )
    return tuple(sorted(spots, key=lambda f: -f.darker))


def _is_round(smooth: Floats) -> Mask:
    """Where a blurred map is a hollow about as steep to all sides, by its second derivatives."""
    xx = cv2.Sobel(smooth, cv2.CV_32F, 2, 0, ksize=3)
    yy = cv2.Sobel(smooth, cv2.CV_32F, 0, 2, ksize=3)
    xy = cv2.Sobel(smooth, cv2.CV_32F, 1, 1, ksize=3)
    middle, spread = (xx + yy) / 2, np.sqrt(((xx - yy) / 2) ** 2 + xy**2)
    return np.asarray(middle - spread > ROUND * (middle + spread))


def freckle_dots(
    freckles: tuple[Freckle, ...], face_mm: float, size_mm: tuple[float, float]
) -> tuple[Line, ...]:
    """A touch of the brush for each.

    Parameters
    ----------
    face_mm
        Height of the face on the canvas.
    size_mm
        Width and height of the canvas.
    """
    dots = []
    for one in freckles:
        wide = one.size * face_mm
        half = 0.05 * wide / size_mm[0]
        points = np.array(((one.x - half, one.y), (one.x + half, one.y)))
        dots.append(Line(points, np.full(2, wide)))
    return tuple(dots)
