"""Array types shared by the whole core, named for what they hold."""

from __future__ import annotations

from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

Element = TypeVar("Element", bound=np.generic)
"""Of an array that keeps what its elements are."""

Floats = NDArray[np.float32]
"""A float32 picture, map or table."""

Doubles = NDArray[np.float64]
"""A float64 table: spectra, colours, coordinates."""

Mask = NDArray[np.bool_]
"""True where something is."""

Labels = NDArray[np.uint8]
"""One small number a pixel: a value group or a region."""

Bytes = NDArray[np.uint8]
"""An 8-bit picture, sRGB (H, W, 3) or grey (H, W)."""

Codes = NDArray[np.uint16]
"""Values in 256ths of a step."""

Ints = NDArray[np.int32]
"""Signed whole numbers: shape numbers, indices."""

Pieces = NDArray[np.int32]
"""Number of the piece of the picture that each pixel is of."""

Counts = NDArray[np.int64]
"""How many, or which pixel counted row by row."""

Shape = tuple[int, ...]
"""Height and width of a map, as arrays give it."""
