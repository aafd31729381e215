"""Cuts: the values at which one group ends and the next begins."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Ints
from truesitter.core.values.tuning import LEAST_GROUPS, MOST_GROUPS


def check_group_count(groups: int) -> None:
    """Refuse a number of groups that nobody paints."""
    if not LEAST_GROUPS <= groups <= MOST_GROUPS:
        raise Refusal(f"a picture is cut into {LEAST_GROUPS} to {MOST_GROUPS} value groups")


def even_cuts(groups: int) -> tuple[float, ...]:
    """Cuts at equal value steps from 0 to 10.

    Examples
    --------
    >>> even_cuts(4)
    (2.5, 5.0, 7.5)
    """
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
    Refusal
        When the picture has fewer different values than groups are wanted.
    """
    check_group_count(groups)
    used, ways = _ways_to_group(np.asarray(histogram, dtype=np.float64), groups)
    if len(used) < groups:
        raise Refusal(_too_few(len(used), groups))
    return ways[groups - 1][1]


def _too_few(values: int, groups: int) -> str:
    there = "a single value" if values == 1 else f"only {values} different values"
    return f"the picture has {there}: too few for {groups} groups"


def _ways_to_group(weights: Doubles, most: int) -> tuple[Ints, list[tuple[float, list[int]]]]:
    """The bins in use, and for 1, 2 … `most` groups the least cost and the last bin of all but the last.

    The cost is infinite where there are fewer bins in use than groups.
    """
    used = np.flatnonzero(weights)
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
    choices: list[Ints] = []
    ways = []
    for count in range(1, most + 1):
        if count > 1:
            joined = best[:, None] + within
            choice = joined.argmin(axis=0)
            best = joined[choice, np.arange(n + 1)]
            choices.append(choice.astype(np.int32))
        cuts: list[int] = []
        end = n
        for choice in reversed(choices if np.isfinite(best[n]) else []):
            end = int(choice[end])
            cuts.append(int(used[end - 1]))
        ways.append((float(best[n]), cuts[::-1]))
    return used.astype(np.int32), ways


def best_fit_cuts(histogram: Doubles, groups: int, locked: tuple[float, ...] = ()) -> tuple[float, ...]:
    """Cuts in value steps 0–10 of the least-variance grouping of a value histogram.

    Parameters
    ----------
    locked
        Cuts that stay exactly where they are while the others find their best places. A group
        between two locked cuts may be empty.

    Raises
    ------
    Refusal
        When more cuts are locked than there are, or too few different values lie between them.

    Examples
    --------
    >>> counts = np.zeros(256)
    >>> counts[[40, 45, 200, 205]] = 10
    >>> len(best_fit_cuts(counts, 2))
    1
    """
    check_group_count(groups)
    bins, kept = len(histogram), tuple(sorted(locked))
    if len(kept) > groups - 1:
        raise Refusal(f"{groups} groups have {groups - 1} cuts; {len(kept)} are locked")
    weights = np.asarray(histogram, dtype=np.float64)
    if not kept and np.count_nonzero(weights) < groups:
        raise Refusal(_too_few(np.count_nonzero(weights), groups))
    # Locked cuts part the values into stretches, each grouped by itself; the free cuts go where
    # they help most. A bin belongs to the stretch in which its middle lies.
    stretch = np.searchsorted(kept, (np.arange(bins) + 0.5) * 10 / bins, side="right")
    free = groups - 1 - len(kept)
    totals: list[tuple[float, list[float]]] = [(0.0, []), *((np.inf, []) for _ in range(free))]
    for number in range(len(kept) + 1):
        used, ways = _ways_to_group(np.where(stretch == number, weights, 0.0), free + 1)
        if not len(used):
            ways = [(0.0, []), *((np.inf, []) for _ in range(free))]
        joined: list[tuple[float, list[float]]] = [(np.inf, []) for _ in range(free + 1)]
        for before, (cost, cuts) in enumerate(totals):
            for more, (extra, ends) in enumerate(ways[: free + 1 - before]):
                if cost + extra < joined[before + more][0]:
                    fresh = [(end + 1) * 10 / bins for end in ends]
                    joined[before + more] = (cost + extra, [*cuts, *fresh])
        totals = joined
    if not np.isfinite(totals[free][0]):
        raise Refusal("the locked cuts leave too few different values for so many groups")
    return tuple(sorted([*kept, *totals[free][1]]))


def split_group(histogram: Doubles, cuts: tuple[float, ...], group: int) -> tuple[float, ...]:
    """Cuts with one more, where it parts the values inside a group best.

    Parameters
    ----------
    histogram
        (bins,) counts of values 0–10.
    cuts
        Ascending values between groups.
    group
        Number of the group, 0 the darkest.

    Returns
    -------
    tuple[float, ...]
        One more than before.

    Raises
    ------
    Refusal
        When there is no such group, there are nine already, or it holds one value only.
    """
    edges = (0.0, *cuts, 10.0)
    if not 0 <= group <= len(cuts):
        raise Refusal(f"there is no group {group + 1}")
    check_group_count(len(cuts) + 2)
    bins = len(histogram)
    inside = histogram.copy()
    centres = (np.arange(bins) + 0.5) * 10 / bins
    inside[(centres < edges[group]) | (centres >= edges[group + 1])] = 0
    if np.count_nonzero(inside) < 2:
        raise Refusal("this group holds a single value and cannot be split")
    return check_own_cuts(tuple(sorted((*cuts, *best_fit_cuts(inside, 2)))))


def merge_group(cuts: tuple[float, ...], group: int) -> tuple[float, ...]:
    """Cuts without the one between a group and the next lighter.

    Raises
    ------
    Refusal
        When there is no lighter group, or only two are left.

    Examples
    --------
    >>> merge_group((2.5, 5.0, 7.5), 0)
    (5.0, 7.5)
    """
    if not 0 <= group < len(cuts):
        raise Refusal(f"there is no group lighter than group {group + 1}")
    check_group_count(len(cuts))
    return cuts[:group] + cuts[group + 1 :]


def check_own_cuts(cuts: tuple[float, ...]) -> tuple[float, ...]:
    """Refuse cuts that are out of order, too close or outside 0–10.

    Raises
    ------
    Refusal
        With a sentence for the painter.

    Examples
    --------
    >>> check_own_cuts((2.0, 6.5))
    (2.0, 6.5)
    """
    check_group_count(len(cuts) + 1)
    if not all(np.isfinite(c) and 0 < c < 10 for c in cuts):
        raise Refusal("cuts lie between value 0 and value 10")
    if any(b - a < 0.05 for a, b in pairwise(cuts)):
        raise Refusal("cuts rise from dark to light, at least 0.05 of a value step apart")
    return cuts
