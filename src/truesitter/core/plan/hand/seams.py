"""The borders of a pass as a painter is told them: towards what, how soft on which side, by what means."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from truesitter.core.canvas.painted_borders import Borders, told_near
from truesitter.core.canvas.tuning import TENTH_OF_RAMP
from truesitter.core.hair.locks.hairline import Hairline
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.plan.hand.border_means import Border, means_of
from truesitter.core.plan.hand.tuning import HAIR, HAIRLINE_REACH_MM, MOST, SHORTEST_MM, TONE_STEP
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Floats, Labels, Mask
from truesitter.core.values.edges import Sharpness, sharpness_of
from truesitter.core.values.tuning import UNLIKE

Side = Literal["this", "that"]


_SLANT = np.pi / 4
"""A border drawn on a grid of pixels is this much shorter than its steps, on average."""


@dataclass(frozen=True)
class Seam:
    """What a pass meets along its border.

    Attributes
    ----------
    region, same, step
        Region on the other side; whether it is the pass's own; and whether it is then of a lighter (+1)
        or darker (−1) value group, 0 for neither.
    length_mm
        How long the border is.
    here_mm, there_mm
        Median width of its side in the pass, and of the other; together the 10–90 % width.
    contrast
        Median difference in value steps.
    means
        How it is made, with the pass's brush in its medium.
    """

    region: Region
    same: bool
    step: int
    length_mm: float
    here_mm: float
    there_mm: float
    contrast: float
    means: str = ""

    @property
    def width_mm(self) -> float:
        """Its 10–90 % width."""
        return self.here_mm + self.there_mm

    @property
    def kind(self) -> Sharpness:
        """Hard, firm, soft or lost."""
        return sharpness_of(self.width_mm, self.contrast)

    @property
    def softer(self) -> Side | None:
        """The side that is soft where the other is crisp; a hard edge is crisp on both."""
        if self.kind not in (Sharpness.FIRM, Sharpness.SOFT):
            return None
        if self.here_mm >= UNLIKE * self.there_mm:
            return "this"
        return "that" if self.there_mm >= UNLIKE * self.here_mm else None

    @property
    def tones(self) -> int:
        """How many tones, each laid beside the last, lead from one side to the other."""
        return 0 if self.kind is Sharpness.LOST else math.ceil(self.contrast / TONE_STEP - 1e-9)


@dataclass(frozen=True)
class Sides:
    """What lies on either side of the borders.

    Attributes
    ----------
    regions, groups
        (n,) region and value group of each piece.
    """

    regions: Labels
    groups: Labels


def with_hairline(borders: Borders, sides: Sides, hairline: Hairline) -> Borders:
    """Borders as they are seen; near the hairline as soft as the hair says that it should be painted."""
    between = np.sort(sides.regions[borders.pieces], axis=1) == sorted((Region.SKIN, Region.HAIR))
    height, width = borders.patchwork.labels.shape
    size_mm = np.array([width, height]) * borders.mm_per_px
    places = np.array([(s.x, s.y) for s in hairline.spots]).reshape(-1, 2) * size_mm
    widths = np.array([s.width_mm + s.soften_mm for s in hairline.spots])
    return told_near(borders, between.all(axis=1), places, widths, HAIRLINE_REACH_MM)


def seams_of(borders: Borders, current: Pass, sides: Sides, medium: Medium, clear: bool) -> tuple[Seam, ...]:
    """The borders of a pass, longest first; of hair against hair none is told: strokes make it.

    Parameters
    ----------
    borders
        As wide as they are seen.
    current
        The pass.
    sides
        What lies there.
    medium, clear
        What is painted in, and whether in washes over white.
    """
    rows, inside = borders.crossed(current.pieces)
    if not len(rows):
        return ()
    regions, groups = sides.regions, sides.groups
    here, there = borders.pieces[rows, inside], borders.pieces[rows, 1 - inside]
    same = regions[here] == regions[there]
    told = ~(same & np.isin(regions[here], HAIR))
    step = np.where(same, np.sign(groups[there].astype(int) - groups[here].astype(int)), 0)
    code = (regions[there].astype(int) * 2 + same) * 3 + step + 1
    width = borders.seen_px[rows] * (borders.mm_per_px * TENTH_OF_RAMP)
    own, other = width[np.arange(len(rows)), inside], width[np.arange(len(rows)), 1 - inside]
    found = []
    for one in np.unique(code[told]):
        on = told & (code == one)
        length = float(np.count_nonzero(on)) * borders.mm_per_px * _SLANT
        if length < SHORTEST_MM:
            continue
        seam = Seam(
            Region(int(one) // 6), bool(int(one) // 3 % 2), int(one) % 3 - 1, length, _middle(own, on),
            _middle(other, on), _middle(borders.contrast[rows], on),
        )  # fmt: skip
        border = Border(seam.kind, seam.softer is not None, seam.width_mm)
        found.append(replace(seam, means=means_of(border, medium, clear, current.brush)))
    return tuple(sorted(found, key=lambda s: -s.length_mm)[:MOST])


def _middle(values: Floats, on: Mask) -> float:
    return float(np.median(values[on]))
