"""The eyes, part by part: values, the order of painting, and what painters check."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.light.mirrored.tuning import (
    IRIS,
    LEAST_PIXELS,
    LID_SHADOW,
    LIDS,
    PUPIL,
    RIM,
    SKIN_BELOW,
    SPARK,
)
from truesitter.core.sitter.face import EYES, Face
from truesitter.core.types import Bytes, Floats, Ints, Mask, Shape

ORDER = (
    "white, left", "white, right", "lid's shadow", "iris, towards the light", "iris, opposite the light",
    "rim of the iris", "pupil", "catchlight",
)  # fmt: skip
"""In the order of painting: the pupil over a dry iris, the catchlight last (common practice)."""

SIDES = ("left", "right")
"""In the picture, as the detector numbers the eyes of every upright face, mirrored or not."""


_READ = {
    "catchlight": 0.995, "pupil": 0.25, "iris, towards the light": 0.4, "iris, opposite the light": 0.4,
}  # fmt: skip
"""Quantiles that parts are read at: a catchlight does not count for the iris. Others in the middle."""


@dataclass(frozen=True)
class EyePart:
    """One part: its value, and where it is, in fractions; the value is None where it is not seen."""

    name: str
    value: float | None
    x: float
    y: float


@dataclass(frozen=True)
class Check:
    """Something painters check: what is so, and whether it is as it should be."""

    words: str
    holds: bool


@dataclass(frozen=True)
class Eye:
    """One eye.

    Attributes
    ----------
    side
        ``left`` or ``right`` in the picture.
    box
        Left, top, right, bottom of it with its lids, in fractions.
    parts
        In the order of painting.
    checks
        What painters check.
    """

    side: str
    box: tuple[float, float, float, float]
    parts: tuple[EyePart, ...]
    checks: tuple[Check, ...]


def read_eye(
    face: Face, side: int, value: Floats, skin: Mask, light_2d: tuple[float, float]
) -> Eye:  # fmt: skip
    """The values of an eye.

    Parameters
    ----------
    side
        0 or 1: the left or the right one of the picture.
    value, skin
        (h, w) values and bare skin of the picture, as fine as there is.
    light_2d
        Towards the light, x right, y down.
    """
    shape = value.shape
    outline = in_pixels(face.line(EYES[side]), shape)
    (cx, cy), radius = face.iris(side, shape)
    (left, top), (right, bottom) = outline.min(axis=0), outline.max(axis=0)
    first = np.clip(np.floor((left, top)).astype(int) - 1, 0, (shape[1] - 1, shape[0] - 1))
    last = np.clip(np.ceil((right, bottom)).astype(int) + 2, first + 1, (shape[1], shape[0]))
    inside = slice(first[1], last[1]), slice(first[0], last[0])
    drawn = np.zeros(tuple(last[::-1] - first[::-1]), np.uint8)
    cv2.fillPoly(drawn, [np.round(outline - first).astype(np.int32)], 1)
    opening = drawn > 0
    y, x = np.ogrid[inside]
    away = np.hypot(x - cx, y - cy) / max(radius, 1e-6)
    upper = y < top + LID_SHADOW * (bottom - top)
    white = opening & (away > RIM[1])
    towards = (x - cx) * light_2d[0] + (y - cy) * light_2d[1] > 0
    ring = opening & (away > IRIS[0]) & (away < IRIS[1]) & ~upper
    places = {
        "white, left": white & ~upper & (x < cx),
        "white, right": white & ~upper & (x > cx),
        "lid's shadow": white & upper,
        "iris, towards the light": ring & towards,
        "iris, opposite the light": ring & ~towards,
        "rim of the iris": opening & (away > RIM[0]) & (away < RIM[1]),
        "pupil": opening & (away < PUPIL),
        "catchlight": opening & (away < SPARK),
    }
    parts = tuple(_part(name, places[name], value[inside], first, shape) for name in ORDER)
    skin_value = _lit_skin(value, skin, (cx, cy), max(2.0, float(bottom - top)))
    pad = LIDS * (right - left)
    box = (
        max(0.0, float(left - pad) / shape[1]),
        max(0.0, float(top - 1.6 * pad) / shape[0]),
        min(1.0, float(right + pad) / shape[1]),
        min(1.0, float(bottom + 1.2 * pad) / shape[0]),
    )
    return Eye(SIDES[side], box, parts, checks_of(parts, skin_value))


def _part(name: str, mask: Mask, value: Floats, first: Ints, shape: Shape) -> EyePart:
    rows, columns = np.nonzero(mask)
    if len(rows) < LEAST_PIXELS:
        return EyePart(name, None, 0.0, 0.0)
    inside = value[rows, columns]
    y, x = float(rows.mean()), float(columns.mean())
    if name == "catchlight":
        at = int(inside.argmax())
        y, x = float(rows[at]), float(columns[at])
    seen = float(np.quantile(inside, _READ.get(name, 0.5)))
    return EyePart(name, seen, (first[0] + x + 0.5) / shape[1], (first[1] + y + 0.5) / shape[0])


def _lit_skin(value: Floats, skin: Mask, middle: tuple[float, float], tall: float) -> float | None:
    """The lightest skin just below an eye."""
    first, last = (round(middle[1] + k * tall) for k in SKIN_BELOW)
    wide = round(1.5 * tall)
    box = slice(max(0, first), max(0, last)), slice(max(0, round(middle[0]) - wide), round(middle[0]) + wide)
    bare = skin[box]
    return float(np.quantile(value[box][bare], 0.9)) if bare.sum() >= LEAST_PIXELS else None


def checks_of(parts: tuple[EyePart, ...], skin: float | None) -> tuple[Check, ...]:
    """What painters check of an eye's parts, beside the value of the lit skin below it."""
    values = {p.name: p.value for p in parts}
    found = []
    whites = [v for v in (values["white, left"], values["white, right"]) if v is not None]
    if whites and skin is not None:
        holds = max(whites) <= skin
        words = (
            "The white is not lighter than the lit skin below it."
            if holds
            else "The white is lighter than the lit skin below it: take it down, or it stares."
        )
        found.append(Check(words, holds))
    near, far = values["iris, towards the light"], values["iris, opposite the light"]
    if near is not None and far is not None:
        holds = far >= near
        words = (
            "The iris is lighter opposite the light, as a hollow form is."
            if holds
            else "The iris is not lighter opposite the light: its catchlight or the lid's shadow may hide it."
        )
        found.append(Check(words, holds))
    spark, pupil = values["catchlight"], values["pupil"]
    if spark is not None and pupil is not None:
        others = [v for n, v in values.items() if v is not None and n != "catchlight"]
        holds = spark - pupil > max(others) - min(others)
        words = (
            "Catchlight against pupil is the strongest contrast of the eye."
            if holds
            else "The catchlight hardly shows: make it the strongest contrast, last of all."
        )
        found.append(Check(words, holds))
    return tuple(found)


def cut_out(picture: Bytes, box: tuple[float, float, float, float], long_side: int) -> Bytes:
    """A part of a picture (fractions), enlarged or reduced to a long side.

    Parameters
    ----------
    picture
        (h, w, 3)
    box
        Left, top, right, bottom in fractions.
    long_side
        Pixels of the answer.

    Returns
    -------
    Bytes
        (n, m, 3)
    """
    height, width = picture.shape[:2]
    left, top, right, bottom = box
    part = picture[
        int(top * height) : max(int(top * height) + 1, int(bottom * height)),
        int(left * width) : max(int(left * width) + 1, int(right * width)),
    ]
    scale = long_side / max(part.shape[:2])
    size = max(1, round(part.shape[1] * scale)), max(1, round(part.shape[0] * scale))
    return cv2.resize(part, size, interpolation=cv2.INTER_CUBIC if scale > 1 else cv2.INTER_AREA)
