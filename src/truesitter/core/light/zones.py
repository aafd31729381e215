"""Light peaks on the skin, and the four zones of light around them.

From each peak light is carried over the skin at a cost that grows as the skin darkens; lines
and shadow stop it. A place of the face may be kept without light where a school asks for that.
How zones are built up over a dark flesh ground is common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.pixels import pixel_at
from truesitter.core.refusal import Refusal
from truesitter.core.sitter import places
from truesitter.core.sitter.face import UPPER_LIP_FIELD, Face
from truesitter.core.types import Floats, Labels, Mask, Shape
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.value_map import histogram

WORKING_LONG_SIDE = 420
ZONE_REACH = (1.0, 2.0, 3.5)
"""How far zones 1, 2 and 3 reach, in lengths of zone 1; zone 4 goes on to the shadow."""

_FALL_COST = 4.0
_LINE = 0.55


@dataclass(frozen=True)
class LightPeak:
    """One of the brightest places on the skin.

    Attributes
    ----------
    place
        Name of the place, unlike that of any other peak.
    x, y
        In fractions of width and height.
    value
        Squinted value there, in value steps.
    """

    place: str
    x: float
    y: float
    value: float


@dataclass(frozen=True)
class LightZones:
    """Peaks and zones.

    Attributes
    ----------
    peaks
        Lightest first.
    zones
        (H, W) uint8: 0 none, 1–4 the zone in which a pixel first lies. Zone n of the
        painter covers all of 1 … n.
    shadow_below
        Value under which skin counts as shadow.
    """

    peaks: tuple[LightPeak, ...]
    zones: Labels
    shadow_below: float


ABOVE_THE_MOUTH = "above the mouth"
"""The field of skin between nose and upper lip, which some schools leave without light."""


def _unlit(face: Face | None, unlit: tuple[str, ...], shape: Shape) -> Mask:
    if face is None or ABOVE_THE_MOUTH not in unlit:
        return np.zeros(shape, bool)
    return face.outline_mask(UPPER_LIP_FIELD, shape, 1.05)


def _shadow_limit(value: Floats, skin: Mask) -> float:
    """Value that divides the skin's shadow from its halftones: lowest of two best-fit cuts."""
    counts = histogram(value, skin)
    if np.count_nonzero(counts) < 3:
        return 0.0
    return best_fit_cuts(counts, 3)[0]


def find_peaks(
    value: Floats, skin: Mask, face: Face | None, scale: float, most: int = 9
) -> tuple[LightPeak, ...]:
    """Peaks of the squinted value on the skin.

    Parameters
    ----------
    value, skin
        (h, w) squinted value and bare skin.
    scale
        Height of the face (or a tenth of the figure's, when there is none) in pixels.
    most
        At most so many, lightest first.
    """
    if not skin.any():
        return ()
    height, width = value.shape
    inner = cv2.erode(skin.astype(np.uint8), np.ones((3, 3), np.uint8)).astype(bool)
    inside = np.where(inner, value, 0).astype(np.float32)
    side = 2 * max(2, round(scale * 0.09)) + 1
    window = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
    peak = inner & (inside >= cv2.dilate(inside, window)) & (inside > 0)
    middle = float(np.median(value[skin]))
    rows, cols = np.nonzero(peak & (value > middle + 0.25))
    peaks: list[LightPeak] = []
    named: dict[str, int] = {}
    for r, c in sorted(zip(rows.tolist(), cols.tolist(), strict=True), key=lambda p: -value[p]):
        x, y = (c + 0.5) / width, (r + 0.5) / height
        place = places.place_of(x, y, face, height / width)
        near = any(np.hypot((p.x - x) * width, (p.y - y) * height) < side / 2 for p in peaks)
        if near:
            continue
        named[place] = named.get(place, 0) + 1
        name = place if named[place] == 1 else f"{place}, {named[place]}"
        peaks.append(LightPeak(name, x, y, float(value[r, c])))
        if len(peaks) == most:
            break
    return tuple(peaks)


def grow_zones(
    value: Floats, skin: Mask, face: Face | None, zone_1_reach: float = 0.045, unlit: tuple[str, ...] = ()
) -> LightZones:
    """Find the peaks and carry their light over the skin.

    Parameters
    ----------
    value
        (H, W) squinted value, 0–10.
    skin
        (H, W) bare skin, without lips, eyes, brows.
    face
        None when none was found.
    zone_1_reach
        How far zone 1 reaches over level skin, as a fraction of the face's height, 0.01–0.2.
    unlit
        Places that stay without light, as a school says: `ABOVE_THE_MOUTH` or none.
    """
    if not 0.01 <= zone_1_reach <= 0.2:
        raise Refusal("zone 1 reaches 1 to 20 % of the face's height")
    height, width = value.shape
    factor = min(1.0, WORKING_LONG_SIDE / max(height, width))
    size = (max(8, round(width * factor)), max(8, round(height * factor)))
    small = cv2.resize(value, size, interpolation=cv2.INTER_AREA)
    bare = cv2.resize(skin.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST).astype(bool)
    none = np.zeros((height, width), np.uint8)
    if not bare.any():
        return LightZones((), none, 0.0)
    shape = small.shape
    scale = 0.3 * shape[0] if face is None else face.height(shape)
    shadow_below = _shadow_limit(small, bare)
    allowed = bare & (small >= shadow_below) & ~_unlit(face, unlit, shape)
    peaks = find_peaks(small, allowed, face, scale)
    if not peaks:
        return LightZones((), none, shadow_below)
    top = float(np.quantile(small[bare], 0.98))
    cost = 1 + _FALL_COST * np.clip((top - small) / max(0.3, top - shadow_below), 0, 1)
    gx, gy = (cv2.Sobel(small, cv2.CV_32F, dx, 1 - dx, ksize=3) / 8 for dx in (1, 0))
    line = np.hypot(gx, gy) > _LINE
    cost[~allowed | line] = -1
    starts = [pixel_at(p.x, p.y, shape) for p in peaks]
    starts = [s for s in starts if cost[s] > 0]
    if not starts:
        return LightZones(peaks, none, shadow_below)
    from skimage.graph import MCP_Geometric

    distance, _ = MCP_Geometric(cost).find_costs(starts)
    reach = zone_1_reach * scale
    zones = np.zeros(shape, np.uint8)
    zones[np.isfinite(distance)] = 4
    for zone in (3, 2, 1):
        zones[distance <= ZONE_REACH[zone - 1] * reach] = zone
    large = np.zeros((height, width), np.uint8)
    for zone in (4, 3, 2, 1):
        soft = cv2.resize(
            ((zones > 0) & (zones <= zone)).astype(np.float32), (width, height),
            interpolation=cv2.INTER_LINEAR,
        )  # fmt: skip
        large[(soft > 0.5) & skin] = zone
    return LightZones(peaks, large, shadow_below)
