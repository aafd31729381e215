"""The lit and the shadow side of what is not skin: hair, beard, hat and cloth."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

import numpy as np

from truesitter.core.imaging.blur import blur_within
from truesitter.core.imaging.split import best_split
from truesitter.core.light.form.tuning import (
    BINS,
    FROM_FRONT,
    GRAIN,
    LEAST_PART,
    LEAST_SIDE,
    SIDE_FALL,
    SIDE_REACH,
    TOWARDS_LIGHT,
)
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Bytes, Floats, Labels, Mask


class Side(IntEnum):
    """Where something lies."""

    NONE = 0
    LIT = 1
    SHADOW = 2


SIDED = (Region.HAIR, Region.FACIAL_HAIR, Region.HAT, Region.GARMENT)


@dataclass(frozen=True)
class TwoSides:
    """One thing parted into light and shadow.

    Attributes
    ----------
    region
        What it is.
    lit_share
        Part of it that lies in the light.
    lit_value, shadow_value
        Mean values of both sides.
    """

    region: Region
    lit_share: float
    lit_value: float
    shadow_value: float


@dataclass(frozen=True)
class SidedForms:
    """Everything but skin in light and shadow.

    Attributes
    ----------
    sides
        (h, w) numbers of `Side`.
    parts
        What was parted; what lies wholly in one light is not among them.
    """

    sides: Bytes
    parts: tuple[TwoSides, ...]


def two_sides(
    luminance: Floats, value: Floats, regions: Labels, light_2d: tuple[float, float], scale: float
) -> SidedForms:
    """Part hair, beard, hat and cloth each into a lit and a shadow side.

    Locks, folds and patterns are smaller than a side: they are evened out first. Light falls off in ratios,
    so the logarithm is parted where it is best split in two (Otsu 1979); a side that does not lie towards the
    light is a pattern of the thing itself.

    Parameters
    ----------
    luminance, value
        (h, w) luminance factor and value.
    regions
        (h, w) regions.
    light_2d
        Towards the light in the picture, x right, y down; (0, 0) from the front.
    scale
        Height of the face in pixels, > 0.
    """
    sides, parts = np.zeros(regions.shape, np.uint8), list[TwoSides]()
    for region in SIDED:
        where = regions == region
        lit = _lit(luminance, where, light_2d, scale)
        if lit is None:
            continue
        sides[where] = np.where(lit[where], Side.LIT, Side.SHADOW)
        dark = where & ~lit
        parts.append(
            TwoSides(region, float(lit[where].mean()), float(value[lit].mean()), float(value[dark].mean()))
        )
    return SidedForms(sides, tuple(parts))


def _lit(luminance: Floats, where: Mask, light_2d: tuple[float, float], scale: float) -> Mask | None:
    """The lit part of one thing (h, w); None where no side stands apart."""
    if where.mean() < LEAST_PART:
        return None
    # A wide blur is interpolated: at a sharp border it can undershoot.
    even = blur_within(luminance, where.astype(np.float32), SIDE_REACH * scale)
    even = np.log(np.maximum(even, 0) + GRAIN)
    inside = even[where].astype(np.float64)
    if inside.max() - inside.min() < np.log(SIDE_FALL):
        return None
    cut, dark, light = best_split(inside, BINS)
    lit = np.asarray(where & (even >= cut))
    share = lit[where].mean()
    if light - dark < np.log(SIDE_FALL) or not LEAST_SIDE <= share <= 1 - LEAST_SIDE:
        return None
    slant = float(np.hypot(*light_2d))
    if slant > FROM_FRONT:
        middles = [np.array(np.nonzero(side))[::-1].mean(axis=1) for side in (lit, where & ~lit)]
        apart = middles[0] - middles[1]
        if apart @ np.array(light_2d) / slant < TOWARDS_LIGHT * scale:
            return None
    return lit
