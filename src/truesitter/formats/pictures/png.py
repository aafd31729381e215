"""Picture files from arrays: PNG, and JPEG or plain bitmaps for showing."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import cv2
import numpy as np
from numpy.typing import NDArray


def encode_png(picture: NDArray[Any]) -> bytes:
    """Encode (H, W) uint8/uint16 or (H, W, 3 or 4) uint8 sRGB as PNG.

    Packed by runs only: on canvases and painted hair half again to twice as fast as the usual level,
    and larger by a twelfth at most.
    """
    if picture.ndim == 3:
        order = [2, 1, 0, 3][: picture.shape[2]]
        picture = picture[..., order]
    good, data = cv2.imencode(".png", np.ascontiguousarray(picture), _PACKED)
    if not good:
        raise ValueError(f"an array of shape {picture.shape} cannot become a PNG")
    return data.tobytes()


_PACKED = [cv2.IMWRITE_PNG_COMPRESSION, 1, cv2.IMWRITE_PNG_STRATEGY, cv2.IMWRITE_PNG_STRATEGY_RLE]

SMALL = 300
"""Long side of a small picture, in pixels."""


def smaller(picture: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """A picture (H, W, 3 or 4) at a small size: halved while it can be, then interpolated.

    Halves are averaged thirteen times as fast as any other share of a pixel.
    """
    scale = SMALL / max(picture.shape[:2])
    size = (max(1, round(picture.shape[1] * scale)), max(1, round(picture.shape[0] * scale)))
    while picture.shape[0] >= 2 * size[1] and picture.shape[1] >= 2 * size[0]:
        half = (picture.shape[1] // 2, picture.shape[0] // 2)
        even = picture[: 2 * half[1], : 2 * half[0]]
        picture = np.asarray(cv2.resize(even, half, interpolation=cv2.INTER_AREA), dtype=np.uint8)
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_LINEAR), dtype=np.uint8)


STRIP_COLUMNS = 8
"""Pictures side by side in a strip."""


def strip(pictures: Iterable[NDArray[np.uint8]]) -> NDArray[np.uint8]:
    """Small pictures (H, W, 3 or 4) of one size, one after the other in rows of `STRIP_COLUMNS`."""
    small = [smaller(picture) for picture in pictures]
    height, width = small[0].shape[:2] if small else (1, 1)
    rows = max(1, -(-len(small) // STRIP_COLUMNS))
    out = np.zeros((rows * height, STRIP_COLUMNS * width, 3), np.uint8)
    for number, picture in enumerate(small):
        top, left = number // STRIP_COLUMNS * height, number % STRIP_COLUMNS * width
        out[top : top + height, left : left + width] = picture[..., :3]
    return out


def encode_bmp(picture: NDArray[np.uint8]) -> bytes:
    """Encode (H, W) greys unpacked, for pictures that live as long as a drag: packing would take longer."""
    good, data = cv2.imencode(".bmp", np.ascontiguousarray(picture))
    if not good:
        raise ValueError(f"an array of shape {picture.shape} cannot become a bitmap")
    return data.tobytes()


def encode_jpeg(picture: NDArray[Any], quality: int = 90) -> bytes:
    """Encode (H, W) or (H, W, 3) uint8 sRGB as JPEG, for showing photographs."""
    if picture.ndim == 3:
        picture = picture[..., ::-1]
    good, data = cv2.imencode(".jpg", np.ascontiguousarray(picture), [cv2.IMWRITE_JPEG_QUALITY, quality])
    if not good:
        raise ValueError(f"an array of shape {picture.shape} cannot become a JPEG")
    return data.tobytes()
