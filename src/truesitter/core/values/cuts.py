"""Cuts: the values at which one group ends and the next begins."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from truesitter.core.types import Doubles

LEAST_GROUPS, MOST_GROUPS = 2, 9


def check_group_count(groups: int) -> None:
    """Refuse a number of groups that nobody paints."""
    if not LEAST_GROUPS <= groups <= MOST_GROUPS:
        raise ValueError(f"a picture is cut into {LEAST_GROUPS} to {MOST_GROUPS} value groups")


def even_cuts(groups: int) -> tuple[float, ...]:
    """Cuts at equal value steps from 0 to 10."""
    check_group_count(groups)
    return tuple(10 * i / groups for i in range(1, groups))


def best_fit_bins(histogram: Doubles, groups: int) -> list[int]:
    """Last bin of each group but the last, for the least variance within groups.

    The optimum is exact: the cost of every run of bins is known from running sums,
    and dynamic programming joins runs (Fisher 1958; the same optimum as exhaustive
    multi-level Otsu 1979). O(groups · bins²).

    Parameters
    ----------
    histogram
        (B,) counts or weights ≥ 0, at least `groups` of them above 0.

    Raises
    ------
    ValueError
        When the picture has fewer different values than groups are wanted.
    """
    check_group_count(groups)
    weights = np.asarray(histogram, dtype=np.float64)
    used = np.flatnonzero(weights)
    if len(used) < groups:
        raise ValueError(f"the picture has only {len(used)} different values, too few for {groups} groups")
    w, x = weights[used], used.astype(np.float64)
    n = len(used)
    zero = np.zeros(1)
    mass = np.concatenate([zero, np.cumsum(w)])
    moment = np.concatenate([zero, np.cumsum(w * x)])
    square = np.concatenate([zero, np.cumsum(w * x * x)])
    # within[i, j]: squared error of one group over bins i … j−1
    m = mass[None, :] - mass[:, None]
    first = moment[None, :] - moment[:, None]
    with np.errstate(divide="ignore", invalid="ignore"):
        within = square[None, :] - square[:, None] - first * first / m
    i, j = np.indices(within.shape)
    within = np.where(j > i, within, np.inf)
    best = within[0].copy()
    choices = []
    for _ in range(groups - 1):
        joined = best[:, None] + within
        choice = joined.argmin(axis=0)
        best = joined[choice, np.arange(n + 1)]
        choices.append(choice)
    cuts: list[int] = []
    end = n
    for choice in reversed(choices):
        end = int(choice[end])
        cuts.append(int(used[end - 1]))
    return cuts[::-1]


def best_fit_cuts(histogram: Doubles, groups: int) -> tuple[float, ...]:
    """Cuts in value steps 0–10 of the least-variance grouping of a value histogram."""
    bins = len(histogram)
    return tuple((b + 1) * 10 / bins for b in best_fit_bins(histogram, groups))


def check_own_cuts(cuts: tuple[float, ...]) -> tuple[float, ...]:
    """Refuse cuts that are out of order, too close or outside 0–10.

    Raises
    ------
    ValueError
        With a sentence for the painter.
    """
    check_group_count(len(cuts) + 1)
    if not all(np.isfinite(c) and 0 < c < 10 for c in cuts):
        raise ValueError("cuts lie between value 0 and value 10")
    if any(b - a < 0.05 for a, b in pairwise(cuts)):
        raise ValueError("cuts rise from dark to light, at least 0.05 of a value step apart")
    return cuts
