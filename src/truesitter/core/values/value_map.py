"""The value map: what the photograph is without its colour, in value steps 0–10."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.colour.spaces import linear_to_srgb, picture_to_linear
from truesitter.core.colour.value import linear_to_value, picture_luminance, value_to_srgb
from truesitter.core.imaging.blur import blur
from truesitter.core.refusal import Refusal
from truesitter.core.types import Bytes, Doubles, Floats, Mask


def value_map(picture: Bytes) -> Floats:
    """Munsell value of every pixel of an sRGB picture (H, W, 3) uint8; float32 (H, W), 0–10."""
    return linear_to_value(picture_luminance(picture))


def squint(picture: Bytes, strength: float) -> Bytes:
    """Blur in linear light, as narrowed eyes do.

    Parameters
    ----------
    picture
        sRGB (H, W, 3) uint8.
    strength
        Standard deviation as a fraction of the picture's height, 0–0.1.
    """
    if not 0 <= strength <= 0.1:
        raise Refusal("a squint blurs by 0 to 10 % of the picture's height")
    if strength == 0:
        return picture
    blurred = blur(picture_to_linear(picture), strength * picture.shape[0])
    return np.asarray(np.round(linear_to_srgb(blurred) * 255), dtype=np.uint8)


def squinted_value(picture: Bytes, strength: float) -> Floats:
    """Value map of the squinted picture; float32 (H, W), 0–10."""
    return linear_to_value(blur(picture_luminance(picture), strength * picture.shape[0]))


def smooth_shapes(value: Floats, radius: float) -> Floats:
    """Even out what is smaller than a shape worth painting, keeping its edges.

    A guided filter with the picture as its own guide (He, Sun & Tang 2013).

    Parameters
    ----------
    value
        (H, W) value map.
    radius
        Half the smallest shape, in pixels.
    """
    if radius < 1:
        return value
    factor = max(1, int(radius // 4))
    height, width = value.shape
    small = cv2.resize(
        value, (max(1, width // factor), max(1, height // factor)), interpolation=cv2.INTER_AREA
    )
    size = (2 * max(1, round(radius / factor)) + 1,) * 2
    mean = cv2.blur(small, size)
    variance = cv2.blur(small * small, size) - mean * mean
    slope = variance / (variance + 0.12)
    slope, offset = cv2.blur(slope, size), cv2.blur((1 - slope) * mean, size)
    if factor > 1:
        slope, offset = (cv2.resize(m, (width, height)) for m in (slope, offset))
    return np.asarray(slope * value + offset)


def grey_levels() -> Bytes:
    """Screen grey (0–255) of 2 560 values from 0 to 10, a table for `paint_values`."""
    return np.asarray(np.round(value_to_srgb(np.arange(2560) / 256) * 255), dtype=np.uint8)


def paint_values(value: Floats) -> Bytes:
    """Value map as an sRGB grey picture (H, W) uint8 of the same values."""
    codes = np.clip(value * 256, 0, 2559).astype(np.uint16)
    return grey_levels()[codes]


def histogram(value: Floats, mask: Mask | None = None, bins: int = 256) -> Doubles:
    """Counts of values 0–10 in equal bins, of the whole map or of a mask; float64 (bins,).

    Parameters
    ----------
    value
        (h, w) Munsell values 0–10.
    mask
        (h, w); None for all.
    bins
        Of equal width, 1 or more.

    Returns
    -------
    Doubles
        (bins,) counts.
    """
    codes = np.clip(value * (bins / 10), 0, bins - 1).astype(np.uint16)
    if mask is not None:
        codes = codes[mask]
    return np.bincount(codes.ravel(), minlength=bins).astype(np.float64)
