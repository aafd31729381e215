"""An edge that is crisp on one side and soft on the other: how wide each side is.

Such a profile is taken for the integral of two half-Gaussians of unlike σ that meet where it is
steepest (the split normal distribution). Where it has covered a tenth, a half and nine tenths of
the way says what both are.
"""

from __future__ import annotations

from functools import cache

import numpy as np

from truesitter.core.types import Doubles
from truesitter.core.values.tuning import MOST, TENTH


def split_points(first: Doubles, second: Doubles) -> Doubles:
    """Where the integral of two half-Gaussians reaches 10, 50 and 90 %, from where they meet.

    Parameters
    ----------
    first, second
        (n,) σ before and after the meeting point.

    Returns
    -------
    (n, 3) in the unit of σ.
    """
    from scipy.special import ndtri

    shares = np.array([0.1, 0.5, 0.9])
    before = (first / (first + second))[:, None]
    early = first[:, None] * ndtri(np.clip(shares / (2 * before), 0, 1 - 1e-12))
    late = second[:, None] * ndtri(np.clip(1 - (1 - shares) / (2 * (1 - before)), 1e-12, 1))
    return np.where(shares < before, early, late)


@cache
def _table() -> tuple[Doubles, Doubles, Doubles]:
    """For ratios of σ: ln(90–50 over 50–10), ln(ratio), and 10–90 over the sum of both σ."""
    ratio = np.geomspace(1 / MOST, MOST, 241)
    points = split_points(np.ones_like(ratio), ratio)
    early, late = points[:, 1] - points[:, 0], points[:, 2] - points[:, 1]
    return np.log(late / early), np.log(ratio), (early + late) / (1 + ratio)


def side_widths(early: Doubles, late: Doubles) -> Doubles:
    """How wide the two sides of an edge are.

    Parameters
    ----------
    early, late
        (n,) from 10 to 50 % and from 50 to 90 % of the way, not negative.

    Returns
    -------
    (n, 2): half the 10–90 % width of an edge that would be like this side on both.
    """
    least = 1e-6
    lean, ratio, share = _table()
    early, late = np.maximum(early, 0), np.maximum(late, 0)
    leaning = np.log((late + least) / (early + least))
    found = np.exp(np.interp(leaning, lean, ratio))
    both = (early + late) / np.interp(leaning, lean, share)
    return np.asarray(TENTH * np.stack([both / (1 + found), both * found / (1 + found)], axis=1))
