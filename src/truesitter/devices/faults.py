"""Faults planted in a painting before it is photographed, as a painter makes them."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal, get_args

import cv2
import numpy as np

from truesitter.core.colour.spaces import lab_to_srgb, picture_to_lab
from truesitter.core.colour.value import lightness_map_to_value, value_to_lightness
from truesitter.core.easel.compare.drawing_offsets import Feature
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.areas import Areas
from truesitter.core.types import Bytes, Floats, Mask

FaultKind = Literal["value", "warm", "shift", "turn", "wide", "hard", "overworked"]
_RIM = 0.004
"""Sigma of a fault's rim, in parts of the long side."""

_ROUNDS = 30
_OVERWORKED = 3.0
"""Sigma of overworked marks in L*."""


@dataclass(frozen=True)
class Fault:
    """One fault.

    Attributes
    ----------
    place
        A name of the picture's areas, or of a feature of the drawing.
    kind
        value (steps, lighter positive), warm (b* and half as much a*), shift (mm right and down), turn
        (degrees anti-clockwise), wide (width ÷ true), hard, overworked.
    amount, down
        How much; `down` only for a shift.
    """

    place: str
    kind: FaultKind
    amount: float = 0.0
    down: float = 0.0

    @classmethod
    def read(cls, text: str) -> Fault:
        """From ``PLACE=+1.5`` or ``PLACE=shift:3,-2``, ``PLACE=hard`` and so on.

        Raises
        ------
        Refusal
            Saying how a fault is given.
        """
        place, _, rest = text.partition("=")
        kind, _, numbers = rest.partition(":") if re.match(r"[a-z]", rest) else ("value", "", rest)
        try:
            amounts = [float(n) for n in numbers.split(",")] if numbers else []
        except ValueError:
            amounts = []
        count = {"shift": 2, "hard": 0, "overworked": 0}.get(kind, 1)
        good = kind in get_args(FaultKind) and place.strip() and len(amounts) == count
        if not good or not all(np.isfinite(amounts)) or max(map(abs, amounts), default=0) > 100:
            raise Refusal(
                "a fault is given as PLACE=+1.5 in value steps, PLACE=warm:8, PLACE=shift:RIGHT,DOWN in mm, "
                f"PLACE=turn:DEGREES, PLACE=wide:1.1, PLACE=hard or PLACE=overworked; “{text[:60]}” is not"
            )
        return cls(place.strip(), kind, *amounts)  # type: ignore[arg-type]


def plant(
    painting: Bytes, faults: tuple[Fault, ...], areas: Areas, features: tuple[Feature, ...], mm_per_px: float,
    seed: int = 0,
) -> Bytes:  # fmt: skip
    """A painting (h, w, 3) with faults in it.

    Raises
    ------
    Refusal
        For a place that the picture does not have.
    """
    out = painting
    for number, fault in enumerate(faults):
        if fault.kind in ("shift", "turn", "wide"):
            out = _moved(out, _feature(fault.place, features), fault, mm_per_px)
            continue
        where = _area(fault.place, areas)
        share = cv2.GaussianBlur(where.astype(np.float32), (0, 0), _RIM * max(where.shape))[..., None]
        changed = _changed(out, fault, seed + number)
        out = np.asarray(np.round(changed * share + out * (1 - share)), dtype=np.uint8)
    return out


def _feature(place: str, features: tuple[Feature, ...]) -> Feature:
    found = next((f for f in features if f.name == place), None)
    if found is None:
        names = ", ".join(f.name for f in features) or "none, as no face was found"
        raise Refusal(f"no feature is called “{place}”; there are {names}")
    return found


def _area(place: str, areas: Areas) -> Mask:
    if place in areas.names:
        return areas.mask(place)
    if place in areas.whole:
        return areas.wholes(place)
    raise Refusal(f"no place is called “{place}”; there are {', '.join(areas.names)}")


def _changed(picture: Bytes, fault: Fault, seed: int) -> Floats:
    """All of the picture with the fault, (h, w, 3) in 8-bit steps."""
    if fault.kind == "hard":
        return _hardened(picture)
    lab = picture_to_lab(picture)
    if fault.kind == "value":
        value = lightness_map_to_value(lab[..., 0])
        lab[..., 0] = value_to_lightness(np.clip(value + fault.amount, 0.2, 9.7))
    elif fault.kind == "warm":
        lab[..., 1] += fault.amount / 2
        lab[..., 2] += fault.amount
    else:
        marks = np.random.default_rng(seed).normal(0, 1, lab.shape[:2]).astype(np.float32)
        marks = cv2.GaussianBlur(marks, (0, 0), 1.2)
        lab[..., 0] += _OVERWORKED * marks / marks.std()
    return np.asarray(np.clip(lab_to_srgb(lab), 0, 1) * 255, dtype=np.float32)


def _hardened(picture: Bytes) -> Floats:
    """Every border as hard as can be: a shock filter (Osher & Rudin 1990)."""
    out = picture.astype(np.float32)
    ring = np.ones((3, 3), np.uint8)
    for _ in range(_ROUNDS):
        grey = cv2.cvtColor(cv2.GaussianBlur(out, (0, 0), 2), cv2.COLOR_RGB2GRAY)
        rising = cv2.Laplacian(grey, cv2.CV_32F, ksize=3)[..., None] < 0
        out = (np.where(rising, cv2.dilate(out, ring), cv2.erode(out, ring)) + out) / 2
    return np.asarray(out, dtype=np.float32)


def _moved(picture: Bytes, feature: Feature, fault: Fault, mm_per_px: float) -> Bytes:
    """A feature moved, turned about its middle, or widened, its surroundings closed over its old place."""
    left, top, right, bottom = feature.box
    middle = np.array(((left + right) / 2, (top + bottom) / 2))
    shift = np.array((fault.amount, fault.down)) / mm_per_px if fault.kind == "shift" else np.zeros(2)
    angle = np.radians(fault.amount) if fault.kind == "turn" else 0.0
    wide = fault.amount if fault.kind == "wide" else 1.0
    height, width = picture.shape[:2]
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    u, v = x - middle[0] - shift[0], y - middle[1] - shift[1]
    from_x = (np.cos(angle) * u - np.sin(angle) * v) / max(0.2, wide) + middle[0]
    from_y = np.sin(angle) * u + np.cos(angle) * v + middle[1]
    moved = cv2.remap(
        picture, from_x.astype(np.float32), from_y.astype(np.float32), cv2.INTER_CUBIC,
        borderMode=cv2.BORDER_REPLICATE,
    )  # fmt: skip
    rim = (u / ((right - left) * 0.48)) ** 2 + (v / ((bottom - top) * 0.48)) ** 2
    share = np.clip((1.15 - rim) / 0.3, 0, 1)[..., None]
    return np.asarray(np.round(moved * share + picture * (1 - share)), dtype=np.uint8)
