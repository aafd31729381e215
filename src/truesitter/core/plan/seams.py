"""The borders of a pass as a painter is told them: towards what, how soft on which side, by what means."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from truesitter.core.canvas.painted_borders import Borders
from truesitter.core.canvas.tuning import TENTH_OF_RAMP
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.plan.tuning import MOST, SHORTEST_MM, TONE_STEP
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
    sprayed
        True for paint from an airbrush, which no brush sets along an edge.
    """

    region: Region
    same: bool
    step: int
    length_mm: float
    here_mm: float
    there_mm: float
    contrast: float
    sprayed: bool = False

    @property
    def kind(self) -> Sharpness:
        """Hard, firm, soft or lost."""
        return sharpness_of(self.here_mm + self.there_mm, self.contrast)

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

    @property
    def means(self) -> str:
        """How such a border is made (common practice)."""
        if self.sprayed:
            return self._sprayed_means
        if self.kind is Sharpness.LOST:
            return "let the two run into one another"
        if self.softer:
            return "a brush loaded on one side"
        if self.kind is Sharpness.HARD:
            return "a flat brush set along it, or a mask"
        if self.kind is Sharpness.FIRM:
            return "a flat brush, then one stroke along it while it is open"
        return "a rounded brush that overlaps both"

    @property
    def _sprayed_means(self) -> str:
        if self.softer and self.kind is not Sharpness.LOST:
            return "a shield on the crisp side, then freehand away from it"
        return _SPRAYED[self.kind]


_SPRAYED = {
    Sharpness.HARD: "a shield or narrow tape, then freehand over it",
    Sharpness.FIRM: "a shield held just off the surface, then freehand",
    Sharpness.SOFT: "freehand, farther off the wider it is",
    Sharpness.LOST: "freehand, both at once",
}
"""How such a border is sprayed (common practice)."""


def seams_of(
    borders: Borders, current: Pass, regions: Labels, groups: Labels, sprayed: bool = False
) -> tuple[Seam, ...]:
    """The borders of a pass, longest first.

    Parameters
    ----------
    regions, groups
        (n,) region and value group of each piece.
    sprayed
        True for a medium that is sprayed.
    """
    rows, inside = borders.crossed(current.pieces)
    if not len(rows):
        return ()
    here, there = borders.pieces[rows, inside], borders.pieces[rows, 1 - inside]
    same = regions[here] == regions[there]
    step = np.where(same, np.sign(groups[there].astype(int) - groups[here].astype(int)), 0)
    code = (regions[there].astype(int) * 2 + same) * 3 + step + 1
    width = borders.sides_px[rows] * (borders.mm_per_px * TENTH_OF_RAMP)
    own, other = width[np.arange(len(rows)), inside], width[np.arange(len(rows)), 1 - inside]
    found = []
    for one in np.unique(code):
        on = code == one
        length = float(np.count_nonzero(on)) * borders.mm_per_px * _SLANT
        if length < SHORTEST_MM:
            continue
        found.append(
            Seam(
                Region(int(one) // 6),
                bool(int(one) // 3 % 2),
                int(one) % 3 - 1,
                length,
                _middle(own, on),
                _middle(other, on),
                _middle(borders.contrast[rows], on),
                sprayed,
            )
        )
    return tuple(sorted(found, key=lambda s: -s.length_mm)[:MOST])


def _middle(values: Floats, on: Mask) -> float:
    return float(np.median(values[on]))
