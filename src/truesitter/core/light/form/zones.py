"""The four zones of light round the peaks.

Zone 1 has the shape the light has in the photograph: along each ray from its peak it reaches until
the skin has darkened by a certain fall, which is chosen so that its mean reach is what the painter set.
Zone 2 reaches twice as far along the same rays, zone 3 farther, zone 4 to the shadow or the outer
limit, where it fades. Lines, shadow and limit stop them all. How zones are built up over a dark
flesh ground is common practice, no source.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.light.form.peaks import LightPeak
from truesitter.core.light.form.tuning import (
    FADING,
    FALLS,
    LINE,
    LONGEST,
    RAYS,
    SHOWN_RAYS,
    STEP,
    ZONE_REACH,
    ZONES_SHORTEST,
)
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.face import LIPS, UPPER_LIP_FIELD, Face
from truesitter.core.types import Doubles, Floats, Labels, Mask, Shape

ABOVE_THE_MOUTH = "above the mouth"
"""The field of skin between nose and upper lip, which some schools leave without light."""

RED_OF_THE_LIPS = "red of the lips"


@dataclass(frozen=True)
class Ray:
    """A stroke's way from a peak outward: start and end, x and y in fractions."""

    start: tuple[float, float]
    end: tuple[float, float]


@dataclass(frozen=True)
class LightZones:
    """Peaks and zones.

    Attributes
    ----------
    peaks
        Most prominent first.
    zones
        (H, W) uint8: 0 none, 1–4 the zone in which a pixel first lies. Zone n of the
        painter covers all of 1 … n.
    fade
        (H, W) how much of zone 4's light is left, 0–1.
    rays
        Ways of strokes.
    """

    peaks: tuple[LightPeak, ...]
    zones: Labels
    fade: Floats
    rays: tuple[Ray, ...]


def unlit_mask(face: Face | None, unlit: tuple[str, ...], shape: Shape) -> Mask:
    """Where a school lays no light, (h, w).

    Parameters
    ----------
    face
        As found by the detector; None without one.
    unlit
        Places by name.
    shape
        Height and width in pixels; more is ignored.

    Returns
    -------
    Mask
        (h, w)
    """
    found = np.zeros(shape, bool)
    if face is None:
        return found
    if ABOVE_THE_MOUTH in unlit:
        found |= face.outline_mask(UPPER_LIP_FIELD, shape, 1.05)
    if RED_OF_THE_LIPS in unlit:
        found |= face.outline_mask(LIPS, shape, 1.05)
    return found


def inside_limits(limits: tuple[Doubles, ...], shape: Shape) -> Mask:
    """Inside the painter's outer limits (closed outlines, x, y in fractions); everywhere without any."""
    if not limits:
        return np.ones(shape, bool)
    found = np.zeros(shape, np.uint8)
    for limit in limits:
        cv2.fillPoly(found, [np.round(in_pixels(limit, shape) - 0.5).astype(np.int32)], 1)
    return found.astype(bool)


def line_mask(value: Floats) -> Mask:
    """Borders so sharp that light does not pass them."""
    gx, gy = (cv2.Sobel(value, cv2.CV_32F, dx, 1 - dx, ksize=3) / 8 for dx in (1, 0))
    return np.asarray(np.hypot(gx, gy) > LINE)


def grow_zones(
    value: Floats, open_to_light: Mask, peaks: tuple[LightPeak, ...], reach: float
) -> LightZones:  # fmt: skip
    """Carry the light of peaks over the skin.

    Parameters
    ----------
    value
        (H, W) squinted value, 0–10.
    open_to_light
        (H, W) where light may go: lit skin inside the limit, without lines and what a school leaves unlit.
    peaks
        Where light begins.
    reach
        Mean reach of zone 1, in pixels of the map, > 0.
    """
    if reach <= 0:
        raise Refusal("zone 1 reaches somewhere")
    zones = np.zeros(value.shape, np.uint8)
    masks = [np.zeros(value.shape, np.uint8) for _ in ZONE_REACH]
    rays: list[Ray] = []
    for peak in peaks:
        first, stop = _reaches(value, open_to_light, peak, reach)
        for mask, times in zip(masks, ZONE_REACH, strict=True):
            _fill(mask, peak, np.minimum(first * times, stop))
        end = np.minimum(first * ZONE_REACH[-1], stop)
        rays += _rays(peak, 0.3 * first, end, value.shape)
    spread = _connected(open_to_light, peaks) if peaks else np.zeros(value.shape, bool)
    zones[spread] = 4
    for zone in (3, 2, 1):
        zones[(masks[zone - 1] > 0) & open_to_light] = zone
    return LightZones(peaks, zones, _fade(zones), tuple(rays))


def _reaches(value: Floats, open_: Mask, peak: LightPeak, reach: float) -> tuple[Doubles, Doubles]:
    """How far zone 1 reaches along each ray, and where something stops the light, in pixels."""
    x, y = in_pixels((peak.x, peak.y), value.shape)
    along = np.arange(0, LONGEST * ZONE_REACH[-1] * reach + 1, STEP)
    angle = 2 * np.pi * np.arange(RAYS) / RAYS
    columns = np.floor(x + np.cos(angle)[:, None] * along).astype(int)
    rows = np.floor(y + np.sin(angle)[:, None] * along).astype(int)
    height, width = value.shape
    there = (rows >= 0) & (rows < height) & (columns >= 0) & (columns < width)
    rows, columns = np.clip(rows, 0, height - 1), np.clip(columns, 0, width - 1)
    free = there & open_[rows, columns]
    free[:, 0] = True
    stop = _first(~free) * STEP
    seen = np.minimum.accumulate(value[rows, columns], axis=1)
    top = float(value[rows[0, 0], columns[0, 0]])
    best = np.full(RAYS, reach)
    off = np.inf
    for fall in FALLS:
        first = np.clip(_first(seen < top - fall) * STEP, ZONES_SHORTEST * reach, LONGEST * reach)
        away = abs(float(first.mean()) - reach)
        if away < off:
            best, off = first, away
    smooth = (np.roll(best, 1) + 2 * best + np.roll(best, -1)) / 4
    return smooth * (reach / float(smooth.mean())), stop


def _first(on: Mask) -> Doubles:
    """Index of the first True in each row; the row's length where there is none."""
    return np.where(on.any(axis=1), on.argmax(axis=1), on.shape[1]).astype(np.float64)


def _fill(mask: Labels, peak: LightPeak, radius: Doubles) -> None:
    angle = 2 * np.pi * np.arange(RAYS) / RAYS
    x, y = in_pixels((peak.x, peak.y), mask.shape)
    outline = np.stack([x + np.cos(angle) * radius, y + np.sin(angle) * radius], axis=1) - 0.5
    cv2.fillPoly(mask, [np.round(outline * 16).astype(np.int32)], 1, shift=4)


def _rays(peak: LightPeak, start: Doubles, end: Doubles, shape: Shape) -> list[Ray]:
    height, width = shape[:2]
    step = RAYS // SHOWN_RAYS
    found = []
    for n in range(0, RAYS, step):
        angle = 2 * np.pi * n / RAYS
        if end[n] <= start[n]:
            continue
        a, b = (
            (peak.x + np.cos(angle) * r / width, peak.y + np.sin(angle) * r / height)
            for r in (start[n], end[n])
        )
        found.append(Ray((float(a[0]), float(a[1])), (float(b[0]), float(b[1]))))
    return found


def _connected(open_: Mask, peaks: tuple[LightPeak, ...]) -> Mask:
    """What of the open skin hangs together with a peak."""
    _, islands = cv2.connectedComponents(open_.astype(np.uint8), connectivity=4)
    height, width = open_.shape
    lit = {
        int(islands[min(height - 1, int(p.y * height)), min(width - 1, int(p.x * width))]) for p in peaks
    } - {0}
    return np.isin(islands, list(lit))


def _fade(zones: Labels) -> Floats:
    """How much of zone 4 is left: all of it, but for the last part of its depth."""
    lit = zones > 0
    outward = cv2.distanceTransform(lit.astype(np.uint8), cv2.DIST_L2, 5)
    inner = ((zones > 0) & (zones < 4)).astype(np.uint8)
    inward = (
        cv2.distanceTransform(np.uint8(1) - inner, cv2.DIST_L2, 5) if inner.any() else np.zeros_like(outward)
    )
    depth = np.maximum(outward + inward, 1e-6)
    left = np.clip(outward / (FADING * depth), 0, 1)
    return np.asarray(np.where(zones == 4, left, lit), dtype=np.float32)
