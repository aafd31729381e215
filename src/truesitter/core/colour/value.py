"""Munsell value from luminance, by the polynomial of ASTM D1535.

The standard gives luminance from value; the way back is a table fine enough
(0.0005 step) that no painter and no test can see it.
"""

from __future__ import annotations

from functools import cache
from typing import NewType

import cv2
import numpy as np
from numpy.typing import ArrayLike

from truesitter.core.colour.spaces import LUMINANCE_WEIGHTS, lab_to_xyz, linear_to_srgb, picture_to_linear
from truesitter.core.types import Bytes, Doubles, Floats

Luminance = NewType("Luminance", Doubles)
"""Luminance factors Y, 1 for the perfect diffuser, never per cent; arithmetic on them gives plain numbers."""


def value_to_luminance(value: ArrayLike) -> Luminance:
    """Munsell value 0–10 to luminance factor Y in [0, 1] (ASTM D1535, perfect diffuser = 1).

    Examples
    --------
    >>> value_to_luminance([1, 5, 9]).round(4).tolist()
    [0.0118, 0.1927, 0.767]
    """
    v = np.asarray(value, dtype=np.float64)
    percent = v * (1.1914 + v * (-0.22533 + v * (0.23352 + v * (-0.020484 + v * 0.00081939))))
    return Luminance(percent / 100.0)


@cache
def _inverse() -> tuple[Luminance, Doubles]:
    value = np.linspace(0.0, 10.0, 20001)
    return value_to_luminance(value), value


def luminance_to_srgb(luminance: Luminance) -> Doubles:
    """Luminance factor Y in [0, 1] to the sRGB component in [0, 1] of the grey that has it."""
    return linear_to_srgb(luminance)


def value_to_srgb(value: ArrayLike) -> Doubles:
    """Munsell value 0–10 to the sRGB component in [0, 1] of the grey that has it.

    Examples
    --------
    >>> round(float(value_to_srgb(5)), 3)
    0.476
    """
    return luminance_to_srgb(value_to_luminance(value))


def luminance_to_value(luminance: Luminance) -> Doubles:
    """Luminance factor Y in [0, 1] to Munsell value 0–10; outside is clipped.

    Examples
    --------
    >>> round(float(luminance_to_value(value_to_luminance(5.0))), 3)
    5.0
    """
    ys, vs = _inverse()
    return np.interp(np.asarray(luminance, dtype=np.float64), ys, vs)


def lstar_to_value(lstar: ArrayLike) -> Doubles:
    """CIE L* 0–100 to Munsell value 0–10, through luminance.

    Examples
    --------
    >>> lstar_to_value([0, 50, 100]).round(2).tolist()
    [0.0, 4.9, 10.0]
    """
    lightness = np.asarray(lstar, dtype=np.float64)
    lab = np.stack([lightness, np.zeros_like(lightness), np.zeros_like(lightness)], axis=-1)
    return luminance_to_value(Luminance(lab_to_xyz(lab)[..., 1]))


def lab_value(lab: Doubles) -> Doubles:
    """Munsell value 0–10 of L*a*b* colours (..., 3).

    Examples
    --------
    >>> round(float(lab_value(np.array((66.0, 18.0, 18.0)))), 2)
    6.5
    """
    return luminance_to_value(Luminance(lab_to_xyz(lab)[..., 1]))


def value_to_lightness(value: ArrayLike) -> Doubles:
    """Munsell value 0–10 to CIE L* 0–100.

    Examples
    --------
    >>> value_to_lightness([2, 5, 8]).round(1).tolist()
    [20.2, 51.0, 80.5]
    """
    y = value_to_luminance(value)
    f = np.where(y > (6 / 29) ** 3, np.cbrt(y), y * (29 / 6) ** 2 / 3 + 4 / 29)
    return np.asarray(116 * f - 16)


@cache
def _lightness_table() -> Floats:
    return lstar_to_value(np.arange(10001) / 100.0).astype(np.float32)


def lightness_map_to_value(lightness: Floats) -> Floats:
    """CIE L* map 0–100 to value map 0–10, by a table in hundredths."""
    codes = np.clip(lightness * np.float32(100.0) + np.float32(0.5), 0, 10000).astype(np.uint16)
    return _lightness_table()[codes]


@cache
def _value_table() -> Floats:
    return luminance_to_value(Luminance(np.arange(65536) / 65535.0)).astype(np.float32)


def linear_to_value(luminance: Floats) -> Floats:
    """Luminance map in [0, 1] to value map 0–10, by a table of 65 536 luminances."""
    codes = np.clip(luminance * np.float32(65535.0) + np.float32(0.5), 0, 65535).astype(np.uint16)
    return _value_table()[codes]


def picture_luminance(picture: Bytes) -> Floats:
    """8-bit sRGB picture (H, W, 3) to luminance factor (H, W), float32 in [0, 1]."""
    return linear_luminance(picture_to_linear(picture))


def linear_luminance(linear: Floats) -> Floats:
    """Linear light (H, W, 3) float32 to luminance factor (H, W)."""
    return cv2.transform(linear, LUMINANCE_WEIGHTS.astype(np.float32)[None])
