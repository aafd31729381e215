"""Which way the brush goes on skin, cloth and wall: along the form, or across its planes.

Form turns most in one direction. Strokes that follow it go round the form, as a hand would stroke
it; strokes at right angles to it lie along the planes. Where normals are known they tell the turn;
elsewhere the light does, which changes fastest across a fold.
"""

from __future__ import annotations

from typing import Literal

import cv2
import numpy as np

from truesitter.core.light.form.tuning import BRUSH_DIRECTION_LEVEL, SMOOTH, SPREAD
from truesitter.core.types import Floats, Mask

BrushWay = Literal["along the form", "across the planes"]


def brush_directions(field: Floats, mask: Mask, scale: float, way: BrushWay = "along the form") -> Floats:
    """Directions of the brush, (h, w, 2) unit vectors, y up; zero outside.

    Parameters
    ----------
    field
        (h, w, c) normals, or (h, w, 1) value: what changes across the form.
    mask
        (h, w) the place.
    scale
        Height of the face in pixels, or what stands for it.
    way
        Round the form or along its planes.
    """
    cover = mask.astype(np.float32)
    sigma = max(1.0, SMOOTH * scale)
    weight = cv2.GaussianBlur(cover, (0, 0), sigma) + 1e-4
    xx, yy, xy = (np.zeros(mask.shape, np.float32) for _ in range(3))
    for channel in range(field.shape[2]):
        smooth = cv2.GaussianBlur(field[..., channel] * cover, (0, 0), sigma) / weight
        gx = cv2.Sobel(smooth, cv2.CV_32F, 1, 0, ksize=3) * cover
        gy = -cv2.Sobel(smooth, cv2.CV_32F, 0, 1, ksize=3) * cover
        xx, yy, xy = xx + gx * gx, yy + gy * gy, xy + gx * gy
    spread = SPREAD * scale
    c2, s2, power = (cv2.GaussianBlur(v, (0, 0), spread) for v in (xx - yy, 2 * xy, xx + yy))
    most = float(np.quantile(power[mask], 0.9)) if mask.any() else 1.0
    # Turned by a right angle, double angles change their sign.
    sign = 1.0 if way == "along the form" else -1.0
    c2, s2 = sign * c2 + BRUSH_DIRECTION_LEVEL * most, sign * s2
    angle = 0.5 * np.arctan2(s2, c2)
    return np.where(mask[..., None], np.dstack([np.cos(angle), np.sin(angle)]), 0).astype(np.float32)
