"""Pictures made comparable: what is left without the light, the key and the contrast of each place.

Two pictures of one thing in different light, or one of them squinted, painted and re-keyed, agree in where
things lie and in little else. With the mean of each spot's surroundings taken away, and the rest divided by
how much it varies there, they agree well enough to be laid one on the other to a fraction of a pixel.
"""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.easel.find.tuning import FLAT, SURROUNDINGS
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.reduce import grey
from truesitter.core.types import Bytes, Doubles, Floats, Mask


def normalised(grey: Floats) -> Floats:
    """A map (h, w) without its slow changes, of one contrast everywhere."""
    sigma = SURROUNDINGS * max(grey.shape)
    rest = grey - blur(grey, sigma)
    spread = np.sqrt(np.maximum(blur(rest * rest, sigma), 0))
    least = FLAT * float(grey.std()) + 1e-6
    return np.asarray(rest / (spread + least), dtype=np.float32)


def normalised_grey(picture: Bytes) -> Floats:
    """SRGB (h, w, 3) as a grey map of mean 0 and spread 1."""
    return normalised(grey(picture).astype(np.float32))


def correlation(one: Floats, other: Floats, where: Mask | None = None) -> float:
    """Correlation of two normalised maps, −1 to 1.

    Parameters
    ----------
    one, other
        (h, w), normalised.
    where
        (h, w) what counts; None for all.

    Returns
    -------
    float
        −1 to 1.
    """
    a, b = (one[where], other[where]) if where is not None else (one.ravel(), other.ravel())
    a, b = a - a.mean(), b - b.mean()
    both = float(np.sqrt((a * a).sum() * (b * b).sum()))
    return float((a * b).sum()) / both if both > 0 else 0.0


def displacement(one: Floats, other: Floats, window: Doubles) -> tuple[float, float, float]:
    """By how many pixels `other` is shifted against `one`, right and down, and how surely (0–1).

    Parameters
    ----------
    one, other
        (h, w)
    window
        (h, w) weight that falls to 0 at the border.

    Returns
    -------
    tuple[float, float, float]
        Pixels right, pixels down, and how surely, 0–1.
    """
    (dx, dy), sure = cv2.phaseCorrelate(one.astype(np.float64), other.astype(np.float64), window)
    return float(dx), float(dy), float(sure)
