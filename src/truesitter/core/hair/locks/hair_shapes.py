"""Brows, moustache and beard as shapes: width along them, turning points, left against right, gaps."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.hair.field.hair_kinds import BROWS, MOUSTACHE, Kind
from truesitter.core.hair.locks.tuning import FULL, LEAST_MM, LEAST_PIXELS, STATIONS
from truesitter.core.types import Doubles, Labels


@dataclass(frozen=True)
class HairShape:
    """A brow or one half of a moustache, from the nose side outward.

    Attributes
    ----------
    kind
        Which.
    middle
        (n, 2) x, y in fractions, from the inner end.
    widths_mm
        (n,) across it.
    length_mm
        Along it.
    full_at
        Part of the way out at which it has its full width.
    turns_at
        Parts of the way at which its middle line turns.
    slope
        Degrees that its inner half rises, outward.
    """

    kind: Kind
    middle: Doubles
    widths_mm: Doubles
    length_mm: float
    full_at: float
    turns_at: tuple[float, ...]
    slope: float


def shape_of(kind: Kind, kinds: Labels, inner: Doubles, mm_per_px: float) -> HairShape | None:
    """Measure one; None where there is too little of it.

    Parameters
    ----------
    inner
        (2,) x, y in pixels of the side it begins at: between the brows, under the nose.
    """
    rows, columns = np.nonzero(kinds == kind)
    if len(rows) < LEAST_PIXELS:
        return None
    # Stations across the columns: brows and moustaches lie more level than upright.
    out = np.abs(columns + 0.5 - inner[0])
    low, high = np.quantile(out, (0.01, 0.99))
    bins = np.clip(((out - low) / max(high - low, 1e-6) * STATIONS).astype(int), 0, STATIONS - 1)
    filled = np.unique(bins)
    if len(filled) < STATIONS // 2:
        return None
    count = np.array([(bins == b).sum() for b in filled])
    middle = np.array([(columns[bins == b].mean() + 0.5, rows[bins == b].mean() + 0.5) for b in filled])
    across = (high - low) / STATIONS
    slant = np.gradient(middle[:, 1]) / np.maximum(np.abs(np.gradient(middle[:, 0])), 1e-6)
    widths = count / max(across, 1e-6) * np.cos(np.arctan(slant)) * mm_per_px
    steps = np.hypot(*np.diff(middle, axis=0).T)
    length = float(steps.sum() + across) * mm_per_px
    along = (filled + 0.5) / STATIONS
    full = float(along[int(np.argmax(widths >= FULL * widths.max()))])
    half = len(filled) // 2
    rise = -(middle[half, 1] - middle[0, 1])
    run = abs(middle[half, 0] - middle[0, 0])
    height, width = kinds.shape
    return HairShape(
        kind, middle / (width, height), widths, length, full, _turns(middle, along, mm_per_px),
        float(np.degrees(np.arctan2(rise, max(run, 1e-6)))),
    )  # fmt: skip


def _turns(middle: Doubles, along: Doubles, mm_per_px: float) -> tuple[float, ...]:
    """Where a middle line turns from up to down or back, by more than `LEAST_MM`."""
    heights = -middle[:, 1] * mm_per_px
    turns: list[float] = []
    # Extremes that stand out on both sides.
    extreme, way = 0, 0
    for n in range(1, len(heights)):
        step = heights[n] - heights[extreme]
        if way == 0:
            if abs(step) > LEAST_MM:
                way, extreme = (1 if step > 0 else -1), n
        elif step * way >= 0:
            extreme = n
        elif abs(step) > LEAST_MM:
            turns.append(float(along[extreme]))
            way, extreme = -way, n
    return tuple(turns)


@dataclass(frozen=True)
class Pair:
    """Left against right.

    Attributes
    ----------
    left, right
        Both shapes; left as seen in the picture.
    length_mm, width_mm, slope, height_mm
        Right minus left: length, greatest width, slope in degrees, and height of its middle.
    """

    left: HairShape
    right: HairShape
    length_mm: float
    width_mm: float
    slope: float
    height_mm: float

    @property
    def alike(self) -> bool:
        """So alike that they mirror, which no face does."""
        return abs(self.length_mm) < 0.5 and abs(self.width_mm) < 0.2 and abs(self.slope) < 1.0


def pair_of(
    pair: tuple[Kind, Kind], kinds: Labels, inner: Doubles, up: Doubles, mm_per_px: float
) -> Pair | None:
    """Both brows or both halves of a moustache; None unless both are there.

    Parameters
    ----------
    up
        (2,) towards the top of the head, x right and y down: a tilted head is not uneven.
    """
    left, right = (shape_of(kind, kinds, inner, mm_per_px) for kind in pair)
    if left is None or right is None:
        return None
    size = np.array(kinds.shape[::-1])
    tilt = float(np.degrees(np.arctan2(up[0], -up[1])))
    offset = (right.middle.mean(axis=0) - left.middle.mean(axis=0)) * size
    return Pair(
        left, right, right.length_mm - left.length_mm,
        float(right.widths_mm.max() - left.widths_mm.max()),
        # Turned with the head, one side rises as the other falls.
        right.slope - left.slope + 2 * tilt, float(offset @ up) * mm_per_px,
    )  # fmt: skip


def moustache_gap(kinds: Labels, mm_per_px: float) -> float | None:
    """Width of the strip of skin between moustache and beard, in mm; None unless both are there.

    Without it a face looks older (common practice).
    """
    moustache, beard = np.isin(kinds, MOUSTACHE), kinds == Kind.BEARD
    if moustache.sum() < LEAST_PIXELS or beard.sum() < LEAST_PIXELS:
        return None
    away = cv2.distanceTransform((~beard).astype(np.uint8), cv2.DIST_L2, 5)
    rim = moustache & (cv2.erode(moustache.astype(np.uint8), np.ones((3, 3), np.uint8)) == 0)
    return float(np.quantile(away[rim], 0.05)) * mm_per_px


BROW_PAIR, MOUSTACHE_PAIR = (BROWS[0], BROWS[1]), (MOUSTACHE[0], MOUSTACHE[1])
