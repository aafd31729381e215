"""What rules look at, and what they say."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.easel.compare.border_widths import EdgesRead
from truesitter.core.easel.compare.squinted import Squinted
from truesitter.core.easel.compare.tone_curve import ToneCurve
from truesitter.core.light.mirrored.ceilings import Ceiling
from truesitter.core.sitter.areas import Areas
from truesitter.core.sitter.face import Face
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Floats, Labels, Mask


@dataclass(frozen=True)
class Looked:
    """All that rules look at; maps (h, w) of one size.

    Attributes
    ----------
    seen
        Painting and plan, squinted.
    own, plan
        Their values unsquinted.
    regions, areas, face, ceilings
        Of the sitter.
    edges, whole
        Borders and key, as read.
    mm_per_px
        Canvas mm to a pixel.
    """

    seen: Squinted
    own: Floats
    plan: Floats
    regions: Labels
    areas: Areas
    face: Face | None
    ceilings: tuple[Ceiling, ...]
    edges: EdgesRead
    whole: ToneCurve
    mm_per_px: float

    def region(self, *regions: Region) -> Mask:
        """Where some regions lie and the photograph can be believed."""
        return np.isin(self.regions, regions) & self.seen.trusted


@dataclass(frozen=True)
class Verdict:
    """What a rule found.

    Attributes
    ----------
    rule
        Its key.
    holds
        True when all is well.
    words
        In a sentence.
    measured, limit
        What was measured, and from where on it fails.
    place
        Where, in words.
    """

    rule: str
    holds: bool
    words: str
    measured: float
    limit: float
    place: str


Rule = Callable[[Looked], Verdict | None]


def spread(value: Floats, where: Mask) -> float:
    """Value steps between the darks and the lights of a place."""
    low, high = np.quantile(value[where], (0.05, 0.95))
    return float(high - low)


def border_widths(look: Looked, one: Mask, other: Mask) -> tuple[float, float, int]:
    """Median widths, painted and planned, where two regions meet.

    Parameters
    ----------
    look
        Painting and plan, as they were read.
    one
        (h, w) a region.
    other
        (h, w) the region beside it.

    Returns
    -------
    tuple[float, float, int]
        Painted mm, planned mm, and readings.
    """
    size = max(3, 2 * round(2.5 / look.mm_per_px) + 1)
    disc = np.ones((size, size), np.uint8)
    meet = cv2.dilate(one.astype(np.uint8), disc) & cv2.dilate(other.astype(np.uint8), disc)
    columns, rows = np.clip(look.edges.plan.points.astype(int), 0, np.array(meet.shape[::-1]) - 1).T
    here = look.edges.clear & (meet[rows, columns] > 0)
    if here.sum() < 12:
        return 0.0, 0.0, 0
    return (
        float(np.median(look.edges.painted_mm[here])), float(np.median(look.edges.planned_mm[here])),
        int(here.sum()),
    )  # fmt: skip
