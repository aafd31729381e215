"""White things that are never left pure white: tinted with the warmth of what lies beside them.

A plume or a collar laid in bare white stands before its neighbours like a hole. A trace of the neighbour's
colour at the same value sets it among them (common practice); what is coloured already has its own.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.light.tints.tuning import (
    BESIDE,
    LEAST_BESIDE,
    LEAST_WHITE,
    LIGHTEST_WHITE,
    MOST_WHITES,
    TRACE,
    WHITE_CHROMA,
    WHITE_L,
)
from truesitter.core.sitter.areas import middle_of
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Floats, Labels, Mask

THINGS = (Region.GARMENT, Region.HAT, Region.JEWELLERY)
BESIDES = (Region.SKIN, Region.HAIR, Region.GARMENT, Region.HAT, Region.FACIAL_HAIR)


@dataclass(frozen=True)
class TintedWhite:
    """A white thing and the tint it takes.

    Attributes
    ----------
    place
        What it is.
    x, y
        A spot inside it, in fractions.
    share
        Part of the picture that it is.
    lab
        L*a*b* in the photograph.
    neighbour
        What lies beside it.
    tint
        L*a*b* with a trace of its neighbour's colour.
    """

    place: str
    x: float
    y: float
    share: float
    lab: Lab
    neighbour: str
    tint: Lab

    @property
    def words(self) -> str:
        """In a sentence."""
        how = "warmth" if self.tint[2] > self.lab[2] else "colour"
        name = "cloth" if self.neighbour == Region.GARMENT.spoken else self.neighbour
        return f"{self.place[:1].upper()}{self.place[1:]}, nearly white: a trace of the {name}, for its {how}"


def tinted_whites(lab: Floats, regions: Labels) -> tuple[TintedWhite, ...]:
    """White things of the picture, the largest first, each with a trace of what lies beside it.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b*.
    regions
        (h, w) numbers of the regions.

    Returns
    -------
    tuple[TintedWhite, ...]
        None without something nearly white that has a coloured neighbour.
    """
    white = (lab[..., 0] >= WHITE_L) & (np.hypot(lab[..., 1], lab[..., 2]) <= WHITE_CHROMA)
    things = white & np.isin(regions, THINGS)
    _, numbers, stats, _ = cv2.connectedComponentsWithStats(things.astype(np.uint8))
    sizes = stats[1:, cv2.CC_STAT_AREA]
    found = []
    for n in np.argsort(-sizes)[:MOST_WHITES] + 1:
        where = numbers == n
        if where.mean() < LEAST_WHITE:
            break
        beside = _beside(where, white, lab, regions)
        if beside is None:
            continue
        neighbour, theirs = beside
        own = lab[where].mean(axis=0, dtype=np.float64)
        way = theirs[1:] / max(1e-9, float(np.hypot(*theirs[1:])))
        region = Region(int(np.bincount(regions[where]).argmax()))
        tint = np.array((min(own[0], LIGHTEST_WHITE), *(own[1:] + TRACE * way)))
        x, y = middle_of(where)
        found.append(
            TintedWhite(region.spoken, x, y, float(where.mean()), as_lab(own), neighbour.spoken, as_lab(tint))
        )
    return tuple(found)


def _beside(where: Mask, white: Mask, lab: Floats, regions: Labels) -> tuple[Region, Doubles] | None:
    """What takes most of the rim of a thing, and its mean L*a*b* there; None where nothing coloured does."""
    reach = 2 * max(1, round(BESIDE * where.shape[0])) + 1
    window = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (reach, reach))
    rim = (cv2.dilate(where.astype(np.uint8), window) > 0) & ~where & ~white & np.isin(regions, BESIDES)
    coloured = rim & (np.hypot(lab[..., 1], lab[..., 2]) > WHITE_CHROMA)
    if coloured.sum() < LEAST_BESIDE * where.sum() ** 0.5:
        return None
    region = Region(int(np.bincount(regions[coloured]).argmax()))
    return region, lab[coloured & (regions == region)].mean(axis=0, dtype=np.float64)
