"""Highlights: where the surface mirrors the light, of what kind, how sharp, and how warm."""

from __future__ import annotations

from dataclasses import dataclass, replace
from enum import Enum

import cv2
import numpy as np

from truesitter.core.imaging.pixels import box_of
from truesitter.core.light.mirrored.tuning import (
    CRISP_MM,
    DAMP_STEEPNESS,
    GRAIN,
    JOINED,
    MOST,
    SMALLEST,
    STRONGEST,
    TEMPERATURE,
    WORTH,
)
from truesitter.core.types import Floats, Ints, Mask, Shape
from truesitter.core.values.tuning import UNLIKE


class HighlightKind(Enum):
    """What mirrors the light."""

    DAMP = "damp skin"
    SHEEN = "sheen"
    HAIR = "hair"
    WET = "wet eye or lip"


class Edge(Enum):
    """How a light ends."""

    CRISP = "crisp"
    SOFT = "soft"
    ONE_SIDE = "crisp on one side"


@dataclass(frozen=True)
class Highlight:
    """One light.

    Attributes
    ----------
    x, y
        Its brightest point, in fractions of width and height.
    value
        There, in value steps.
    strength
        Mirrored light as part of the skin's full light.
    kind, edge
        What mirrors, and how it ends.
    crisp_towards
        Unit vector (x right, y down) to the crisp side of one that is crisp on one side.
    warmer
        Its b* less that of its surround: above `TEMPERATURE` warmer, below the negative cooler.
    width
        In pixels.
    """

    x: float
    y: float
    value: float
    strength: float
    kind: HighlightKind
    edge: Edge
    crisp_towards: tuple[float, float] | None
    warmer: float
    width: float

    @property
    def temperature(self) -> str:
        """Against its surround."""
        return "warmer" if self.warmer > TEMPERATURE else "cooler" if self.warmer < -TEMPERATURE else "alike"

    @property
    def wet(self) -> bool:
        """Only wet sparkle may be pure white (common practice)."""
        return self.kind is HighlightKind.WET


def find_highlights(
    shine: Floats, where: Mask, kind: HighlightKind, full: float, lab: Floats, value: Floats, scale: float,
    mm_per_px: float,
) -> tuple[Highlight, ...]:  # fmt: skip
    """Lights of one kind of surface, strongest first.

    Parameters
    ----------
    shine
        (h, w) mirrored light.
    where
        (h, w) the surface.
    kind
        Of the surface; `HighlightKind.SHEEN` for skin, which is told from damp skin here.
    full
        Full light of the skin, in the unit of `shine`.
    lab, value
        (h, w, 3) L*a*b* and (h, w) values.
    scale
        Height of the face in pixels.
    """
    if not where.any() or full <= 0:
        return ()
    # Only the surface's own box is looked at; grain is evened out.
    box = box_of(where, round(0.05 * scale))
    whole = where.shape
    shine, where, lab, value = cv2.GaussianBlur(shine[box], (0, 0), GRAIN), where[box], lab[box], value[box]
    own = shine[where]
    limit = max(WORTH * full, float(np.quantile(own, STRONGEST)))
    small = 1 / 3 if kind is HighlightKind.WET else 1.0
    least = (SMALLEST * small * scale) ** 2
    on = ((shine >= limit) & where).astype(np.uint8)
    if kind is not HighlightKind.WET:
        # Creases and hairs break one light into many.
        side = 2 * max(1, round(JOINED / 2 * scale)) + 1
        on = cv2.morphologyEx(on, cv2.MORPH_CLOSE, np.ones((side, side), np.uint8)) & where
    _, numbers, stats, _ = cv2.connectedComponentsWithStats(on.astype(np.uint8), connectivity=8)
    gx, gy = (cv2.Sobel(shine, cv2.CV_32F, dx, 1 - dx, ksize=3) / 8 for dx in (1, 0))
    surface = _Surface(shine, gx, gy, where, lab, value, numbers, kind, full, scale, mm_per_px)
    found = [surface.light(n, stats[n]) for n in range(1, len(stats)) if stats[n][4] >= least]
    strongest = sorted(found, key=lambda h: -h.strength)[:MOST]
    return tuple(_in_whole(h, box, where.shape, whole) for h in strongest)


def _in_whole(light: Highlight, box: tuple[slice, slice], shape: Shape, whole: Shape) -> Highlight:
    """A light of a part of the picture as one of all of it."""
    return replace(
        light,
        x=(light.x * shape[1] + box[1].start) / whole[1],
        y=(light.y * shape[0] + box[0].start) / whole[0],
    )


@dataclass(frozen=True)
class _Surface:
    """One kind of surface in its box: mirrored light and its slopes, colours, and the lights by number."""

    shine: Floats
    gx: Floats
    gy: Floats
    where: Mask
    lab: Floats
    value: Floats
    numbers: Ints
    kind: HighlightKind
    full: float
    scale: float
    mm_per_px: float

    def light(self, number: int, stats: Ints) -> Highlight:
        """One of its lights; `stats` as OpenCV gives them of a component."""
        pad = max(2, round(0.02 * self.scale))
        left, top, width, height, area = (int(v) for v in stats)
        box = (
            slice(max(0, top - pad), top + height + pad),
            slice(max(0, left - pad), left + width + pad),
        )
        own = self.numbers[box] == number
        inside = np.where(own, self.shine[box], 0)
        row, column = (int(v) for v in np.unravel_index(int(inside.argmax()), own.shape))
        peak = float(inside[row, column])
        rim = own & (cv2.erode(own.astype(np.uint8), np.ones((3, 3), np.uint8)) == 0)
        steep = np.hypot(self.gx[box][rim], self.gy[box][rim])
        # How far it takes from the peak to nothing at the slope of each bit of rim.
        ends = peak / np.maximum(steep, 1e-6)
        way = np.stack([-self.gx[box][rim], -self.gy[box][rim]], axis=1) / np.maximum(steep, 1e-6)[:, None]
        edge, towards = _ending(ends, way, self.mm_per_px)
        kind = self.kind
        if kind is HighlightKind.SHEEN and float(np.median(ends)) < DAMP_STEEPNESS * self.scale:
            kind = HighlightKind.DAMP
        ring = cv2.dilate(own.astype(np.uint8), np.ones((2 * pad + 1,) * 2, np.uint8)) > 0
        ring &= ~(self.numbers[box] > 0) & self.where[box]
        warmer = float(self.lab[box][own, 2].mean() - self.lab[box][ring, 2].mean()) if ring.any() else 0.0
        y, x = box[0].start + row, box[1].start + column
        return Highlight(
            x=(x + 0.5) / self.shine.shape[1],
            y=(y + 0.5) / self.shine.shape[0],
            value=float(self.value[y, x]),
            strength=peak / self.full,
            kind=kind,
            edge=edge,
            crisp_towards=towards,
            warmer=warmer,
            width=float(np.sqrt(area)),
        )


def _ending(ends: Floats, way: Floats, mm_per_px: float) -> tuple[Edge, tuple[float, float] | None]:
    """How a light ends, from the width of its end along its rim and the ways outward there."""
    middle = float(np.median(ends)) * mm_per_px
    # The side whose ends are shortest, against the one across from it.
    crisp = (way / np.maximum(ends, 1e-6)[:, None]).mean(axis=0)
    length = float(np.hypot(*crisp))
    if length > 1e-9:
        crisp = crisp / length
        side = way @ crisp
        here, there = ends[side > 0.5], ends[side < -0.5]
        if len(here) > 2 and len(there) > 2:
            ratio = float(np.median(there) / max(1e-6, float(np.median(here))))
            if ratio >= UNLIKE and float(np.median(here)) * mm_per_px <= 2 * CRISP_MM:
                return Edge.ONE_SIDE, (float(crisp[0]), float(crisp[1]))
    return (Edge.CRISP if middle <= CRISP_MM else Edge.SOFT), None


_WATERY = {
    Edge.CRISP: "mask it, or paint round it",
    Edge.ONE_SIDE: "paint round its crisp side and soften the other; a mask would make both hard",
    Edge.SOFT: "leave it lighter and lift it while damp; a mask would leave a hard rim",
}
_OILY = {
    Edge.CRISP: "one thick touch at the end, left alone",
    Edge.ONE_SIDE: "thicker paint, set down along the crisp side and dragged away from it",
    Edge.SOFT: "lighter flesh worked in while wet, thicker in its middle",
}
_OPAQUE = {
    Edge.CRISP: "one opaque touch last",
    Edge.ONE_SIDE: "an opaque touch along the crisp side, its other side broken with the tone beside it",
    Edge.SOFT: "two or three tones side by side up to it",
}
_SPRAYED = {
    Edge.CRISP: "erase it hard along a shield",
    Edge.ONE_SIDE: "erase along a shield on the crisp side, lighter and lighter away from it",
    Edge.SOFT: "erase it lightly, round and round",
}
# A medium that is not named here is painted as opaque paint is.
_BY_MEDIUM = {
    "oil": _OILY, "quick oil": _OILY, "acrylic": _OPAQUE, "gouache": _OPAQUE, "watercolour": _WATERY,
    "egg tempera": _OPAQUE, "airbrush": _SPRAYED,
}  # fmt: skip


def how_to_make(light: Highlight, medium: str) -> str:
    """What to do for a light in a medium (common practice)."""
    words = _BY_MEDIUM.get(medium, _OPAQUE)[light.edge]
    return f"{words}; pure white at the very end" if light.wet else f"{words}; never pure white"
