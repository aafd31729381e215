"""Two kinds of samples told apart by where a histogram parts best."""

from __future__ import annotations

import numpy as np

from truesitter.core.types import Doubles


def best_split(samples: Doubles, bins: int) -> tuple[float, float, float]:
    """The cut that leaves the samples on either side most alike among themselves (Otsu 1979).

    Parameters
    ----------
    samples
        (n,), not all alike.
    bins
        Of the histogram that is cut, ≥ 2.

    Returns
    -------
    cut, low, high
        The cut, and the means below and above it.

    Examples
    --------
    >>> cut, low, high = best_split(np.array([1.0, 1.2, 1.1, 7.0, 7.2]), 64)
    >>> 1.2 < cut < 7.0, round(low, 1), round(high, 1)
    (True, 1.1, 7.1)
    """
    counts, edges = np.histogram(samples, bins)
    middle = (edges[:-1] + edges[1:]) / 2
    below = np.cumsum(counts)
    sums = np.cumsum(counts * middle)
    above = below[-1] - below
    with np.errstate(divide="ignore", invalid="ignore"):
        low, high = sums / below, (sums[-1] - sums) / above
        between = below * above * (high - low) ** 2
    at = int(np.nanargmax(between[:-1]))
    return float(edges[at + 1]), float(low[at]), float(high[at])
