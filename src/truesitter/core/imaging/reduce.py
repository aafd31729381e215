"""Maps shrunk for what does not need every pixel."""

from __future__ import annotations

import cv2
import numpy as np
from numpy.typing import NDArray

from truesitter.core.imaging.tuning import LEAST_SIDE
from truesitter.core.types import Bytes, Element, Floats, Labels, Mask, Shape


def scaled(map_: NDArray[Element], factor: float) -> NDArray[Element]:
    """A map or picture at so many times its size, each pixel the mean of what it covers.

    Parameters
    ----------
    map_
        (H, W, …)
    factor
        Above 0; above 1 it is enlarged.

    Returns
    -------
    ndarray
        (h, w, …) of the same element type, no side below `LEAST_SIDE`.

    Examples
    --------
    >>> import numpy as np
    >>> scaled(np.ones((400, 60), np.float32), 0.1).shape
    (40, 8)
    """
    height, width = map_.shape[:2]
    size = max(LEAST_SIDE, round(width * factor)), max(LEAST_SIDE, round(height * factor))
    return cv2.resize(map_, size, interpolation=cv2.INTER_AREA)


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
    return cv2.resize(map_, reduced_size(map_.shape, long_side), interpolation=cv2.INTER_AREA)


def reduced_to(map_: Floats, shape: Shape) -> Floats:
    """A map of measures averaged to the size (h, w, …) of another.

    What is reduced twice may be a row or a column longer than what is reduced at once.
    """
    return cv2.resize(map_, (shape[1], shape[0]), interpolation=cv2.INTER_AREA)


def reduced_labels(labels: Labels, long_side: int) -> Labels:
    """A map of labels shrunk by picking."""
    size = reduced_size(labels.shape, long_side)
    return cv2.resize(labels, size, interpolation=cv2.INTER_NEAREST)


def reduced_picture(picture: Bytes, long_side: int) -> Bytes:
    """A picture shrunk by averaging; itself where it is no larger."""
    if max(picture.shape[:2]) <= long_side:
        return picture
    size = reduced_size(picture.shape, long_side)
    return cv2.resize(picture, size, interpolation=cv2.INTER_AREA)


def grey(picture: Bytes) -> Bytes:
    """SRGB (h, w, 3) as 8-bit grey (h, w), for what looks at edges and patches alone."""
    return cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)


def resized_mask(mask: Mask, shape: Shape) -> Mask:
    """A mask at another size, by its nearest pixels.

    Parameters
    ----------
    mask
        (h, w)
    shape
        Height and width wanted; more is ignored.
    """
    size = (shape[1], shape[0])
    return np.asarray(cv2.resize(mask.view(np.uint8), size, interpolation=cv2.INTER_NEAREST) > 0)
