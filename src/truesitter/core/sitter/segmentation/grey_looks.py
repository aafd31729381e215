"""Photographs without colour: texture in place of hue.

A black-and-white photograph, tinted or not, has no hue that tells skin from hair. What is left is how
fine the marks are for the light they lie in, whether they are ridges or slopes, and whether the slopes
round a place all run one way (a form that turns) or not (strands, weave).
"""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.sitter.face import Face
from truesitter.core.sitter.segmentation.colour_models import quadratic_terms
from truesitter.core.sitter.segmentation.posterior import Looks
from truesitter.core.sitter.segmentation.tuning import COLOURLESS, FACE_PX, LEAST_UNIT, SPREAD, UNIT, WEIGHT
from truesitter.core.types import Bytes, Floats


def without_colour(lab: Floats, person: Floats) -> bool:
    """True when a* and b* of a sitter follow from lightness alone.

    Parameters
    ----------
    lab
        (H, W, 3) L*a*b*.
    person
        (h, w) likelihood of being the sitter, of any size.
    """
    small = cv2.resize(lab, person.shape[::-1], interpolation=cv2.INTER_AREA)
    seen = small[person > 0.5].astype(np.float64)
    if len(seen) < 100:
        return False
    part = seen[:, :1] / 50
    terms = np.concatenate([np.ones_like(part), part, part**2], axis=1)
    left = seen[:, 1:] - terms @ np.linalg.lstsq(terms, seen[:, 1:], rcond=None)[0]
    return bool(np.sqrt((left**2).sum(axis=1).mean()) < COLOURLESS)


def grey_looks(looks: Looks, face: Face) -> Looks:
    """The looks of a photograph whose colours say nothing: textures stand in for a*, b* and strands."""
    fine = looks.fine[..., 0]
    tall = face.height(fine.shape)
    scale = min(1.0, FACE_PX / max(tall, 1.0))
    size = (max(8, round(fine.shape[1] * scale)), max(8, round(fine.shape[0] * scale)))
    light = cv2.resize(fine, size, interpolation=cv2.INTER_AREA)
    unit = max(LEAST_UNIT, UNIT * tall * scale)
    shape = looks.features.shape[:2]
    found = [looks.features[..., 0]]
    for feature, low, high, weight in (
        (_fineness(light, unit), -7.0, 0.0, WEIGHT),
        (_ridges(light, unit), -3.0, 4.0, WEIGHT),
        (_one_way(light, unit), 0.0, 1.0, 2 * WEIGHT),
    ):
        evened = _evened(feature, low, high, unit) * np.float32(weight)
        found.append(cv2.resize(evened, shape[::-1], interpolation=cv2.INTER_AREA))
    features = np.dstack(found).astype(np.float32)
    return Looks(features, quadratic_terms(features), looks.fine)


def _blur(map_: Floats, sigma: float) -> Floats:
    return cv2.GaussianBlur(map_, (0, 0), sigma)


def _fineness(light: Floats, unit: float) -> Floats:
    """Log of how strong fine marks are for the light they lie in."""
    fine = np.abs(_blur(light, 0.7 * unit) - _blur(light, 2 * unit))
    return np.asarray(np.log(_blur(fine, 1.5 * unit) / (_blur(light, 4 * unit) + 4) + 1e-3))


def _slopes(light: Floats, unit: float) -> tuple[Floats, Floats, Floats]:
    soft = _blur(light, unit)
    return (
        soft,
        cv2.Sobel(soft, cv2.CV_32F, 1, 0, scale=1 / 8),
        cv2.Sobel(soft, cv2.CV_32F, 0, 1, scale=1 / 8),
    )


def _ridges(light: Floats, unit: float) -> Floats:
    """Log of curvature over slope: high on strands and weave, low where a form turns."""
    soft, x, y = _slopes(light, unit)
    curved = np.abs(cv2.Laplacian(soft, cv2.CV_32F))
    return np.asarray(np.log((_blur(curved, 2 * unit) + 0.02) / (_blur(np.hypot(x, y), 2 * unit) + 0.02)))


def _one_way(light: Floats, unit: float) -> Floats:
    """0 where all slopes round a place run one way, 1 where they cancel."""
    _, x, y = _slopes(light, unit)
    mean = np.hypot(_blur(x, 8 * unit), _blur(y, 8 * unit))
    return np.asarray(1 - mean / (_blur(np.hypot(x, y), 8 * unit) + 1e-3))


def _evened(feature: Floats, low: float, high: float, unit: float) -> Floats:
    """A feature without single marks: the median of its neighbourhood, softened."""
    codes: Bytes = ((np.clip(feature, low, high) - low) * (255 / (high - low))).astype(np.uint8)
    middle = cv2.medianBlur(codes, int(SPREAD * unit) | 1).astype(np.float32)
    return _blur(middle * np.float32((high - low) / 255), 2.5 * unit)
