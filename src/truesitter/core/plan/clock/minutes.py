"""How long each pass takes: what a place takes in all, shared out over the passes that lie on it."""

from __future__ import annotations

from dataclasses import replace
from typing import get_args

import numpy as np

from truesitter.core.brushes.laying import goes_needed
from truesitter.core.brushes.tuning import LINE_SECONDS, MIXING_MINUTES
from truesitter.core.plan.clock.tuning import MASSED_HAIR, SCRAP_MINUTES
from truesitter.core.plan.pass_plan import Doing, Pass
from truesitter.core.plan.subject import Exactness
from truesitter.core.school.school_document import Pace
from truesitter.core.sitter.region_names import FEATURES, Region
from truesitter.core.types import Counts, Doubles, Labels

EXACT: dict[Exactness, float] = {"study": 0.5, "portrait": 1.0, "copy": 1.5}
"""Work beside that of a portrait, by the wanted exactness [try]."""


_SHARE: dict[Doing, float] = {
    "ground": 0.15, "wash": 0.4, "mass": 1.0, "glaze": 0.4, "light": 1.5, "lines": 0.0, "remove": 0.4,
    "coat": 1.0, "smear": 0.15,
}  # fmt: skip
"""Work on a cm² of one kind of pass beside that of another [try]."""

if set(_SHARE) != set(get_args(Doing)):
    raise AssertionError("whatever is done in a pass takes its share of the work")


def rates(pace: Pace, exactness: Exactness, massed: bool) -> Doubles:
    """Minutes a cm² by region (n,).

    Parameters
    ----------
    pace
        Of the school, minutes a cm².
    exactness
        Wanted.
    massed
        True for hair in masses.

    Returns
    -------
    Doubles
        (n,) by region.
    """
    found = np.full(len(Region), pace.garment)
    found[Region.BACKGROUND] = pace.background
    found[Region.SKIN] = pace.skin
    found[[Region.HAIR, Region.FACIAL_HAIR]] = pace.hair * (MASSED_HAIR if massed else 1.0)
    found[list(FEATURES)] = pace.features
    return found * EXACT[exactness]


def hair_rate(pace: Pace, exactness: Exactness, massed: bool) -> float:
    """Minutes that a cm² of hair takes: see `rates`."""
    return float(rates(pace, exactness, massed)[Region.HAIR])


def pass_minutes(
    passes: tuple[Pass, ...], regions: Labels, cm2: Doubles, rate: Doubles, fixed: float
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """Minutes of each pass, and those of them that go into hair.

    Parameters
    ----------
    regions, cm2
        (n,) region and area of each piece.
    rate
        Minutes a cm² by region.
    fixed
        Minutes that do not depend on area, spread evenly.
    """
    kinds = len(Region)
    area = np.array(
        [
            np.bincount(regions[p.pieces], weights=cm2[p.pieces], minlength=kinds) * _SHARE[p.does]
            for p in passes
        ]
    ).reshape(len(passes), kinds)
    for number, one in enumerate(passes):
        if one.lines and not one.pieces.any():
            # Lines are told by their number, not by the place they run over.
            area[number] = 0
    sums = area.sum(axis=0)
    whole = rate * np.bincount(regions, weights=cm2, minlength=kinds)
    part = np.divide(area, sums, out=np.zeros_like(area), where=sums > 0)
    by_region = part * whole
    drawn = np.array([0 if p.pieces.any() else len(p.lines) * LINE_SECONDS / 60 for p in passes])
    each = fixed / max(1, len(passes))
    minutes = by_region.sum(axis=1) + drawn + each
    hairy = by_region[:, [Region.HAIR, Region.FACIAL_HAIR]].sum(axis=1)
    return tuple(minutes.tolist()), tuple(hairy.tolist())


def in_open_time(one: Pass, fixed: float) -> Pass:
    """A wash with no more work than can go into it: nobody can work on what has set (common practice).

    Parameters
    ----------
    one
        The pass, with its way, its goes and how long its edges stay open.
    fixed
        Minutes that do not depend on area.

    Returns
    -------
    Pass
        The same where it is no wash, or lines.
    """
    if one.way is None or one.lines:
        return one
    goes = max(1, len(one.goes), goes_needed(one.area_cm2, one.brush_mm, one.open_minutes[1]))
    mixtures = 1 + sum(not charge.same for charge in one.charges)
    most = fixed + mixtures * (MIXING_MINUTES + SCRAP_MINUTES) + one.coats * goes * one.open_minutes[1]
    return replace(one, work_minutes=min(one.work_minutes, most))


def areas_cm2(sizes: Counts, mm_per_px: float) -> Doubles:
    """Area of each piece.

    Examples
    --------
    >>> areas_cm2(np.array([10000]), 0.5).tolist()
    [25.0]
    """
    return sizes * (mm_per_px**2 / 100)
