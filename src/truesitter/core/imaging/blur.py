"""Gaussian blur, wide or narrow, of any map."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np

from truesitter.core.imaging.tuning import LEAST_COVER
from truesitter.core.types import Doubles, Floats


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


def blur_within(map_: Floats, known: Floats, sigma: float) -> Floats:
    """Gaussian mean of a map over what of it is known, as if nothing else were there.

    Parameters
    ----------
    map_
        (h, w)
    known
        (h, w) 0–1.
    sigma
        Pixels.

    Returns
    -------
    Floats
        (h, w); falls to 0 where nothing known is near.

    Examples
    --------
    >>> map_, known = np.full((9, 9), 5, np.float32), np.zeros((9, 9), np.float32)
    >>> known[:, :4] = 1
    >>> float(blur_within(map_, known, 1.0)[4, 4].round(3))
    5.0
    """
    return np.asarray(blur(map_ * known, sigma) / np.maximum(blur(known, sigma), np.float32(LEAST_COVER)))


def level_shares(wanted: Floats | Doubles, levels: Sequence[float]) -> Floats:
    """How much of each of some blurs a place that wants one between them is mixed from, (levels, ...).

    Parameters
    ----------
    wanted
        σ by place; beyond the last level that one is taken.
    levels
        σ of each blur, ascending, two or more.
    """
    at = np.interp(wanted, levels, np.arange(len(levels)))
    numbers = np.arange(len(levels)).reshape(-1, *(1,) * at.ndim)
    return np.asarray(np.clip(1 - np.abs(at - numbers), 0, 1), dtype=np.float32)
