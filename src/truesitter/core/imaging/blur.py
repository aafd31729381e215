"""Gaussian blur, wide or narrow, of any map."""

from __future__ import annotations

import cv2

from truesitter.core.types import Floats


def blur(light: Floats, sigma: float) -> Floats:
    """Gaussian blur; wide ones are done on a reduced picture, where they cost nothing more."""
    if sigma <= 0:
        return light
    factor = max(1, int(sigma // 3))
    if factor == 1 or min(light.shape[:2]) < 4 * factor:
        return cv2.GaussianBlur(light, (0, 0), sigma)
    height, width = light.shape[:2]
    size = (max(1, width // factor), max(1, height // factor))
    small = cv2.resize(light, size, interpolation=cv2.INTER_AREA)
    small = cv2.GaussianBlur(small, (0, 0), sigma / factor)
    return cv2.resize(small, (width, height), interpolation=cv2.INTER_CUBIC)
