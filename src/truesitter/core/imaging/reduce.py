"""Maps shrunk for what does not need every pixel."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.types import Floats, Labels, Shape


def reduced_size(shape: Shape, long_side: int) -> tuple[int, int]:
    """(width, height) of a map shrunk to a long side, never enlarged.

    Examples
    --------
    >>> reduced_size((2000, 1600), 500)
    (400, 500)
    """
    scale = min(1.0, long_side / max(shape[:2]))
    return max(1, round(shape[1] * scale)), max(1, round(shape[0] * scale))


def reduced(map_: Floats, long_side: int) -> Floats:
    """A map of measures shrunk by averaging."""
    return np.asarray(cv2.resize(map_, reduced_size(map_.shape, long_side), interpolation=cv2.INTER_AREA))


def reduced_labels(labels: Labels, long_side: int) -> Labels:
    """A map of labels shrunk by picking."""
    size = reduced_size(labels.shape, long_side)
    return np.asarray(cv2.resize(labels, size, interpolation=cv2.INTER_NEAREST))
