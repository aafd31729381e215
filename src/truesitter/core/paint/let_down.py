"""Letting a strong tube down: one part of it in twenty of the main tube first, then parts of that.

A strong blue may be wanted by one part in seven hundred. Nobody counts that out; painters
first mix a weaker heap (common practice) and take parts of the heap. The very strongest are
let down twice.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import gcd

import numpy as np

from truesitter.core.types import Doubles

HEAP_PARTS = 20
"""Parts of the main tube to one of the strong one (common practice)."""

_MOST_TIMES = 2


@dataclass(frozen=True)
class Heap:
    """A weaker heap of a strong tube, as places in a set of tubes.

    Attributes
    ----------
    strong, main
        The tube let down, and the one that it is mixed into.
    times
        1, or 2 when one part of the first heap is let down again.
    """

    strong: int
    main: int
    times: int

    @property
    def whole(self) -> int:
        """Parts in which there is one of the strong tube."""
        return int((HEAP_PARTS + 1) ** self.times)

    def in_full(self, parts: Doubles) -> Doubles:
        """Parts (..., n), those of the strong tube of the heap, as parts straight from the tubes."""
        full = parts * self.whole
        full[..., self.main] += (self.whole - 1) * parts[..., self.strong]
        full[..., self.strong] = parts[..., self.strong]
        return full


@dataclass(frozen=True)
class LetDown:
    """A recipe told by way of a heap.

    Attributes
    ----------
    tube, into, times
        One part of `tube` is mixed into `HEAP_PARTS` of `into`; twice when `times` is 2.
    parts
        Then so many parts of each; those of `tube` are of the heap.
    """

    tube: str
    into: str
    times: int
    parts: dict[str, int]


def weaken(shares: Doubles, most: int) -> list[tuple[Heap, Doubles]]:
    """Heaps for tubes that `most` parts cannot count out, and the shares (n,) told with each.

    Tubes are left out when their heap would bring more of the main tube than is wanted.
    """
    main = int(shares.argmax())
    ways = []
    for strong in np.flatnonzero((shares > 0) & (shares < 1 / most)):
        times = 1 if shares[strong] * (HEAP_PARTS + 1) >= 0.5 / most else _MOST_TIMES
        heap = Heap(int(strong), main, times)
        if strong != main and shares[main] >= (heap.whole - 1) * shares[strong]:
            told = shares.copy()
            told[strong] *= heap.whole
            told[main] -= (heap.whole - 1) * shares[strong]
            ways.append((heap, told))
    return ways


def told_by_heap(parts: dict[str, int]) -> LetDown | None:
    """How a recipe that was found by way of a heap is told; None for every other recipe."""
    if len(parts) < 2:
        return None
    tube, into = min(parts, key=lambda k: parts[k]), max(parts, key=lambda k: parts[k])
    for times in range(_MOST_TIMES, 0, -1):
        whole = (HEAP_PARTS + 1) ** times
        rest = {k: n - ((whole - 1) * parts[tube] if k == into else 0) for k, n in parts.items() if k != tube}
        if min(rest.values()) < 0 or any(n % whole for n in rest.values()):
            continue
        small = {k: n // whole for k, n in rest.items() if n} | {tube: parts[tube]}
        if len(small) > 1 and gcd(*small.values()) == 1:
            return LetDown(tube, into, times, dict(sorted(small.items(), key=lambda item: -item[1])))
    return None
