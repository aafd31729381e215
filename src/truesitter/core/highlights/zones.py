"""Points of maximum luminosity on the skin, and the four zones that spread from them.

The rules are those of painting light zones over a dark flesh ground (common
practice, no source): the light spreads out from its highest points and stops where
it meets a line or a shadow; zone 2 reaches twice as far as zone 1, zones 3 and 4
further; the upper lip is never highlighted.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from skimage.graph import MCP_Geometric

from truesitter.core.sitter import places
from truesitter.core.types import Doubles, Floats, Labels, Mask, Shape
from truesitter.core.values.cuts import best_fit_bins

WORKING_LONG_SIDE = 420
ZONE_REACH = (1.0, 2.0, 3.5)
"""How far zones 1, 2 and 3 reach, in lengths of zone 1; zone 4 goes on to the shadow."""

_NEVER = ("upper lip", "cleft of the upper lip")
_FALL_COST = 4.0
_LINE = 0.55


@dataclass(frozen=True)
class LightPoint:
    """A point of maximum luminosity.

    Attributes
    ----------
    place
        Name of the place of the face, or ``figure``.
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
    """Points and zones.

    Attributes
    ----------
    points
        Lightest first.
    zones
        (H, W) uint8: 0 none, 1–4 the zone in which a pixel first lies. Zone n of the
        painter covers all of 1 … n.
    shadow_below
        Value under which skin counts as shadow.
    """

    points: tuple[LightPoint, ...]
    zones: Labels
    shadow_below: float


def _never_highlighted(landmarks: Doubles | None, shape: Shape) -> Mask:
    if landmarks is None:
        return np.zeros(shape, bool)
    return places.outline_mask(landmarks, places.UPPER_LIP_FIELD, shape, 1.05)


def _shadow_limit(value: Floats, skin: Mask) -> float:
    """Value that divides the skin's shadow from its halftones: lowest of two best-fit cuts."""
    counts = np.bincount((value[skin] * 25.6).astype(int).clip(0, 255), minlength=256)
    if np.count_nonzero(counts) < 3:
        return 0.0
    return (best_fit_bins(counts.astype(float), 3)[0] + 1) / 25.6


def find_points(
    value: Floats, skin: Mask, landmarks: Doubles | None, scale: float, most: int = 9
) -> tuple[LightPoint, ...]:
    """Peaks of the squinted value on the skin.

    Parameters
    ----------
    value, skin
        (h, w) squinted value and bare skin.
    scale
        Height of the face (or a tenth of the figure's, when there is none) in pixels.
    most
        At most so many points, lightest first.
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
    points: list[LightPoint] = []
    for r, c in sorted(zip(rows.tolist(), cols.tolist(), strict=True), key=lambda p: -value[p]):
        x, y = (c + 0.5) / width, (r + 0.5) / height
        place = places.place_of(x, y, landmarks, height / width)
        near = any(np.hypot((p.x - x) * width, (p.y - y) * height) < side / 2 for p in points)
        if place in _NEVER or near:
            continue
        points.append(LightPoint(place, x, y, float(value[r, c])))
        if len(points) == most:
            break
    return tuple(points)


def grow_zones(
    value: Floats, skin: Mask, landmarks: Doubles | None, zone_1_reach: float = 0.045
) -> LightZones:
    """Find the points and let the light spread from them.

    Parameters
    ----------
    value
        (H, W) squinted value, 0–10.
    skin
        (H, W) bare skin, without lips, eyes, brows.
    landmarks
        (478, 3), or None when no face was found.
    zone_1_reach
        How far zone 1 reaches over level skin, as a fraction of the face's height, 0.01–0.2.
    """
    if not 0.01 <= zone_1_reach <= 0.2:
        raise ValueError("zone 1 reaches 1 to 20 % of the face's height")
    height, width = value.shape
    factor = min(1.0, WORKING_LONG_SIDE / max(height, width))
    size = (max(8, round(width * factor)), max(8, round(height * factor)))
    small = cv2.resize(value, size, interpolation=cv2.INTER_AREA)
    bare = cv2.resize(skin.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST).astype(bool)
    none = np.zeros((height, width), np.uint8)
    if not bare.any():
        return LightZones((), none, 0.0)
    shape = small.shape
    scale = 0.3 * shape[0] if landmarks is None else places.face_height(landmarks, shape)
    shadow_below = _shadow_limit(small, bare)
    allowed = bare & (small >= shadow_below) & ~_never_highlighted(landmarks, shape)
    points = find_points(small, allowed, landmarks, scale)
    if not points:
        return LightZones((), none, shadow_below)
    top = float(np.quantile(small[bare], 0.98))
    cost = 1 + _FALL_COST * np.clip((top - small) / max(0.3, top - shadow_below), 0, 1)
    gx, gy = (cv2.Sobel(small, cv2.CV_32F, dx, 1 - dx, ksize=3) / 8 for dx in (1, 0))
    line = np.hypot(gx, gy) > _LINE
    cost[~allowed | line] = -1
    starts = [(int(p.y * shape[0]), int(p.x * shape[1])) for p in points]
    starts = [s for s in starts if cost[s] > 0]
    if not starts:
        return LightZones(points, none, shadow_below)
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
    return LightZones(points, large, shadow_below)
