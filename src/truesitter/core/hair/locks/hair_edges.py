"""How soft the upper and the lower edge of a brow or a moustache are."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.ndimage import map_coordinates

from truesitter.core.hair.locks.hairline import passage_width
from truesitter.core.hair.locks.tuning import (
    EDGE_COLUMNS,
    EDGE_MM,
    HAIRLINE_LEAST_CONTRAST,
    LEAST_PIXELS,
    POINTS,
    STATIONS,
)
from truesitter.core.types import Floats, Mask


@dataclass(frozen=True)
class HairEdges:
    """Widths of the passage from skin to hair, 10–90 %, in mm; None where hair and skin are as light.

    Attributes
    ----------
    upper_mm, lower_mm
        Median along each edge.
    """

    upper_mm: float | None
    lower_mm: float | None

    @property
    def firm_above(self) -> bool:
        """Whether the upper edge is the firmer one; the rule is the other way round (common practice)."""
        return self.upper_mm is not None and self.lower_mm is not None and self.upper_mm < self.lower_mm


def edges_of(mask: Mask, value: Floats, mm_per_px: float) -> HairEdges | None:
    """Read both edges of brows or a moustache; None where there is too little of them.

    Parameters
    ----------
    mask
        (h, w) its hair.
    value
        (h, w) Munsell value.
    mm_per_px
        Canvas mm to a pixel.
    """
    rows, columns = np.nonzero(mask)
    if len(rows) < LEAST_PIXELS:
        return None
    present = np.unique(columns)
    widths: tuple[list[float], list[float]] = ([], [])
    for column in present[np.linspace(0, len(present) - 1, 2 * STATIONS).astype(int)[1:-1]]:
        mine = rows[columns == column]
        middle = float(mine.mean())
        for side, edge in enumerate((float(mine.min()), float(mine.max() + 1))):
            found = _width(value, float(column), middle, edge, mm_per_px)
            if found is not None:
                widths[side].append(found)
    upper, lower = (float(np.median(w)) if len(w) >= 3 else None for w in widths)
    return HairEdges(upper, lower)


def _width(value: Floats, column: float, middle: float, edge: float, mm_per_px: float) -> float | None:
    """Of one edge, from the skin beyond it to the middle of the hair."""
    beyond = edge + np.sign(edge - middle) * EDGE_MM / mm_per_px
    at = np.linspace(beyond, middle, POINTS)
    beside = np.linspace(-EDGE_COLUMNS, EDGE_COLUMNS, 5)
    profile = np.mean(
        [map_coordinates(value, [at, np.full(POINTS, column + o)], order=1, mode="nearest") for o in beside],
        axis=0,
    )
    if profile[:8].mean() - profile[-8:].mean() < HAIRLINE_LEAST_CONTRAST:
        return None
    return passage_width(profile, abs(beyond - middle) / (POINTS - 1) * mm_per_px)
