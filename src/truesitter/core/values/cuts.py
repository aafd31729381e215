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


def best_fit_bins(histogram: Doubles, groups: int, kept: tuple[int, ...] = ()) -> list[int]:
    """Last bin of each group but the last, for the least variance within groups.

    The optimum is exact: the cost of every run of bins is known from running sums,
    and dynamic programming joins runs (Fisher 1958; the same optimum as exhaustive
    multi-level Otsu 1979). O(groups · bins²).

    Parameters
    ----------
    histogram
        (B,) counts or weights ≥ 0, at least `groups` of them above 0.
    kept
        Cuts that must be among the result, each as the last bin before it.

    Raises
    ------
    ValueError
        When the picture has fewer different values than groups are wanted, or when
        more cuts are kept than there are cuts.
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
    for cut in kept:
        # No group may reach over a kept cut.
        position = int(np.searchsorted(used, cut, side="right"))
        within[:position, position + 1 :] = np.inf
    best = within[0].copy()
    choices = []
    for _ in range(groups - 1):
        joined = best[:, None] + within
        choice = joined.argmin(axis=0)
        best = joined[choice, np.arange(n + 1)]
        choices.append(choice)
    if not np.isfinite(best[n]):
        raise ValueError("the kept cuts leave no room for so many groups")
    cuts: list[int] = []
    end = n
    for choice in reversed(choices):
        end = int(choice[end])
        cuts.append(int(used[end - 1]))
    return cuts[::-1]


def best_fit_cuts(histogram: Doubles, groups: int, locked: tuple[float, ...] = ()) -> tuple[float, ...]:
    """Cuts in value steps 0–10 of the least-variance grouping of a value histogram.

    Parameters
    ----------
    locked
        Cuts that stay exactly where they are while the others find their best places.
    """
    bins = len(histogram)
    kept = tuple(min(bins - 2, max(0, round(c * bins / 10) - 1)) for c in sorted(locked))
    if len(set(kept)) > groups - 1:
        raise ValueError(f"{groups} groups have {groups - 1} cuts; {len(locked)} are locked")
    exact = dict(zip(kept, sorted(locked), strict=True))
    return tuple(exact.get(b, (b + 1) * 10 / bins) for b in best_fit_bins(histogram, groups, kept))


def split_group(histogram: Doubles, cuts: tuple[float, ...], group: int) -> tuple[float, ...]:
    """Cuts with one more, where it parts the values inside a group best.

    Raises
    ------
    ValueError
        When there is no such group, there are nine already, or it holds one value only.
    """
    edges = (0.0, *cuts, 10.0)
    if not 0 <= group <= len(cuts):
        raise ValueError(f"there is no group {group + 1}")
    check_group_count(len(cuts) + 2)
    bins = len(histogram)
    inside = histogram.copy()
    centres = (np.arange(bins) + 0.5) * 10 / bins
    inside[(centres < edges[group]) | (centres >= edges[group + 1])] = 0
    if np.count_nonzero(inside) < 2:
        raise ValueError("this group holds a single value and cannot be split")
    return check_own_cuts(tuple(sorted((*cuts, *best_fit_cuts(inside, 2)))))


def merge_group(cuts: tuple[float, ...], group: int) -> tuple[float, ...]:
    """Cuts without the one between a group and the next lighter.

    Raises
    ------
    ValueError
        When there is no lighter group, or only two are left.
    """
    if not 0 <= group < len(cuts):
        raise ValueError(f"there is no group lighter than group {group + 1}")
    check_group_count(len(cuts))
    return cuts[:group] + cuts[group + 1 :]


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
