"""The one way from fractions of a picture to its pixels."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike

from truesitter.core.types import Doubles, Mask, Shape


def pixel_at(x: float, y: float, shape: Shape) -> tuple[int, int]:
    """Row and column of the pixel in which a spot lies; spots outside count for the nearest pixel.

    Parameters
    ----------
    x, y
        In fractions of width and height.
    shape
        Height and width of the map, further dimensions are ignored.

    Examples
    --------
    >>> pixel_at(0.5, 0.25, (100, 200))
    (25, 100)
    >>> pixel_at(1.0, 1.0, (100, 200))
    (99, 199)
    """
    height, width = shape[:2]
    return min(height - 1, max(0, int(y * height))), min(width - 1, max(0, int(x * width)))


def box_of(mask: Mask, pad: int = 0) -> tuple[slice, slice]:
    """Rows and columns that hold a mask, with a rim; the whole map for an empty one.

    Examples
    --------
    >>> mask = np.zeros((5, 5), bool)
    >>> mask[1:3, 2] = True
    >>> box_of(mask)
    (slice(1, 3, None), slice(2, 3, None))
    """
    rows, columns = (np.flatnonzero(mask.any(axis=axis)) for axis in (1, 0))
    if not len(rows):
        return slice(0, mask.shape[0]), slice(0, mask.shape[1])
    return (
        slice(max(0, int(rows[0]) - pad), min(mask.shape[0], int(rows[-1]) + pad + 1)),
        slice(max(0, int(columns[0]) - pad), min(mask.shape[1], int(columns[-1]) + pad + 1)),
    )


def window_at(x: float, y: float, shape: Shape, reach: int) -> tuple[slice, slice]:
    """Rows and columns within `reach` pixels of a spot, cut off at the picture's edge.

    Parameters
    ----------
    x
        In fractions.
    y
        In fractions, down.
    shape
        Height and width in pixels; more is ignored.
    reach
        Pixels to each side.

    Returns
    -------
    tuple[slice, slice]
        Rows and columns.

    Examples
    --------
    >>> window_at(0.0, 0.5, (100, 200), 2)
    (slice(48, 53, None), slice(0, 3, None))
    """
    row, column = pixel_at(x, y, shape)
    return slice(max(0, row - reach), row + reach + 1), slice(max(0, column - reach), column + reach + 1)


def in_pixels(points: ArrayLike, shape: Shape) -> Doubles:
    """Points (..., 2) in fractions as positions in pixels, (0, 0) the outer corner of the first.

    Examples
    --------
    >>> in_pixels([(0.5, 0.5)], (100, 200)).tolist()
    [[100.0, 50.0]]
    """
    return np.asarray(points, dtype=np.float64) * (shape[1], shape[0])
