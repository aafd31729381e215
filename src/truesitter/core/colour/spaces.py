"""sRGB, linear light, CIE XYZ and CIE L*a*b*, D65 and the 2-degree observer throughout.

sRGB and its matrix follow IEC 61966-2-1:1999, L*a*b* follows CIE 15:2004. The
white is the one the sRGB matrix itself gives for (1, 1, 1), so that every grey
of the screen has a* = b* = 0 exactly.
"""

from __future__ import annotations

import re
from functools import cache
from typing import Any

import cv2
import numpy as np
from numpy.typing import ArrayLike

from truesitter.core.colour.tuning import WARM_HUE
from truesitter.core.refusal import Refusal
from truesitter.core.types import Bytes, Doubles, Floats

Lab = tuple[float, float, float]
"""L*, a* and b* of one colour."""

RGB_TO_XYZ: Doubles = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]])
XYZ_TO_RGB: Doubles = np.linalg.inv(RGB_TO_XYZ)
WHITE_XYZ: Doubles = RGB_TO_XYZ.sum(axis=1)
LUMINANCE_WEIGHTS: Doubles = RGB_TO_XYZ[1]

WARM_AXIS = np.array([np.cos(np.radians(WARM_HUE)), np.sin(np.radians(WARM_HUE))])
"""Unit vector of warm in the a*, b* plane."""

_EPSILON = (6 / 29) ** 3
"""Below it the cube root of L*a*b* is a straight line (CIE 15:2004, 8.2.1)."""
_SLOPE = (29 / 6) ** 2 / 3
"""Of that line (CIE 15:2004, 8.2.1)."""


def as_lab(colour: Doubles) -> Lab:
    """Three numbers of an array as a plain tuple."""
    return (float(colour[0]), float(colour[1]), float(colour[2]))


def srgb_to_linear(srgb: ArrayLike) -> Doubles:
    """Decode sRGB components in [0, 1] to linear light in [0, 1] (IEC 61966-2-1).

    Examples
    --------
    >>> srgb_to_linear([0.0, 0.5, 1.0]).round(4).tolist()
    [0.0, 0.214, 1.0]
    """
    c = np.asarray(srgb, dtype=np.float64)
    high = ((np.maximum(c, 0.0) + 0.055) / 1.055) ** 2.4
    return np.where(c <= 0.04045, c / 12.92, high)


def linear_to_srgb(linear: ArrayLike) -> Doubles:
    """Encode linear light as sRGB, clipped to [0, 1] (IEC 61966-2-1).

    Examples
    --------
    >>> linear_to_srgb([0.0, 0.2140, 1.0]).round(3).tolist()
    [0.0, 0.5, 1.0]
    """
    c = np.clip(np.asarray(linear, dtype=np.float64), 0.0, 1.0)
    return np.where(c <= 0.0031308, c * 12.92, 1.055 * np.maximum(c, 1e-12) ** (1 / 2.4) - 0.055)


def xyz_to_lab(xyz: ArrayLike) -> Doubles:
    """CIE XYZ (white has Y = 1), shape (..., 3), to CIE L*a*b* (CIE 15).

    Examples
    --------
    >>> (xyz_to_lab(WHITE_XYZ).round(3) + 0.0).tolist()
    [100.0, 0.0, 0.0]
    """
    t = np.asarray(xyz, dtype=np.float64) / WHITE_XYZ
    f = np.where(t > _EPSILON, np.cbrt(np.maximum(t, 0.0)), _SLOPE * t + 4 / 29)
    return np.stack(
        [
            116 * f[..., 1] - 16,
            500 * (f[..., 0] - f[..., 1]),
            200 * (f[..., 1] - f[..., 2]),
        ],
        axis=-1,
    )


def lab_to_xyz(lab: ArrayLike) -> Doubles:
    """CIE L*a*b*, shape (..., 3), to CIE XYZ with Y = 1 for white (CIE 15).

    Examples
    --------
    >>> lab_to_xyz((100, 0, 0)).round(4).tolist()
    [0.9505, 1.0, 1.089]
    """
    values = np.asarray(lab, dtype=np.float64)
    fy = (values[..., 0] + 16) / 116
    f = np.stack([fy + values[..., 1] / 500, fy, fy - values[..., 2] / 200], axis=-1)
    return np.asarray(WHITE_XYZ * np.where(f > 6 / 29, f**3, (f - 4 / 29) / _SLOPE))


def srgb_to_lab(srgb: ArrayLike) -> Doubles:
    """SRGB components in [0, 1], shape (..., 3), to L*a*b*.

    Examples
    --------
    >>> (srgb_to_lab((1.0, 1.0, 1.0)).round(1) + 0.0).tolist()
    [100.0, 0.0, 0.0]
    >>> srgb_to_lab(hex_to_srgb("#c2967f")).round(1).tolist()
    [65.6, 13.3, 18.5]
    """
    return xyz_to_lab(srgb_to_linear(srgb) @ RGB_TO_XYZ.T)


def lab_to_srgb(lab: ArrayLike) -> Doubles:
    """L*a*b* to sRGB in [0, 1]; what the screen cannot show is clipped (see `in_srgb`).

    Examples
    --------
    >>> lab_to_srgb((100, 0, 0)).round(3).tolist()
    [1.0, 1.0, 1.0]
    """
    return linear_to_srgb(lab_to_xyz(lab) @ XYZ_TO_RGB.T)


def in_srgb(lab: ArrayLike, tolerance: float = 1e-3) -> Any:
    """Say whether an sRGB screen can show the colour; bool of shape (...).

    Examples
    --------
    >>> bool(in_srgb((50, 0, 0))), bool(in_srgb((50, 120, 0)))
    (True, False)
    """
    linear = lab_to_xyz(lab) @ XYZ_TO_RGB.T
    return np.all((linear >= -tolerance) & (linear <= 1 + tolerance), axis=-1)


def srgb_to_hex(srgb: ArrayLike) -> str:
    """One colour, components in [0, 1], as ``#rrggbb``.

    Examples
    --------
    >>> srgb_to_hex((1, 0.5, 0))
    '#ff8000'
    """
    r, g, b = (int(v) for v in np.round(np.clip(np.asarray(srgb, dtype=float), 0, 1) * 255))
    return f"#{r:02x}{g:02x}{b:02x}"


def hex_to_srgb(text: str) -> Doubles:
    """``#rrggbb`` (the hash may be missing) to sRGB in [0, 1].

    Raises
    ------
    Refusal
        If the text is not six hexadecimal digits.

    Examples
    --------
    >>> hex_to_srgb("#ff8000").round(3).tolist()
    [1.0, 0.502, 0.0]
    """
    match = re.fullmatch(r"#?([0-9a-fA-F]{6})", text.strip())
    if match is None:
        raise Refusal(f"“{text}” is not a colour of the form #b58a6c")
    digits = match.group(1)
    return np.array([int(digits[i : i + 2], 16) for i in (0, 2, 4)]) / 255.0


@cache
def _linear_table() -> Floats:
    return srgb_to_linear(np.arange(256) / 255.0).astype(np.float32)


def picture_to_linear(picture: Bytes) -> Floats:
    """8-bit sRGB picture (H, W, 3) to linear light float32, by table."""
    return cv2.LUT(np.ascontiguousarray(picture), _linear_table())


def picture_to_lab(picture: Bytes) -> Floats:
    """8-bit sRGB picture (H, W, 3) to L*a*b* float32 (H, W, 3), by OpenCV.

    OpenCV's white differs from ours in the fifth digit: within 0.1 of `srgb_to_lab`.
    """
    return linear_to_lab(picture_to_linear(picture))


def linear_to_lab(linear: Floats) -> Floats:
    """Linear light (H, W, 3) float32 to L*a*b* float32, by OpenCV; see `picture_to_lab`."""
    return cv2.cvtColor(np.ascontiguousarray(linear), cv2.COLOR_LRGB2Lab)
