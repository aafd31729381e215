"""Letting strong tubes down: one part in twenty of the main tube first, then parts of that.

A strong blue may be wanted by one part in seven hundred. Nobody counts that out; painters
first mix a weaker heap (common practice) and take parts of the heap. The very strongest are
let down twice.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations, product
from math import gcd

import numpy as np
from numpy.typing import NDArray

from truesitter.core.paint.recipes.tuning import EASY_TOTAL, HEAP_PARTS, MOST_HEAPS, MOST_TIMES, UNCOUNTABLE
from truesitter.core.types import Doubles

_WHOLE = HEAP_PARTS + 1

WholeParts = NDArray[np.int64]


@dataclass(frozen=True)
class Weakened:
    """Weaker heaps of strong tubes, as places in a set of tubes.

    Attributes
    ----------
    main
        The tube that the strong ones are mixed into.
    strong
        Each strong tube and how often it is let down, 1 or 2.
    """

    main: int
    strong: tuple[tuple[int, int], ...]

    @property
    def times(self) -> int:
        """How many heaps have to be mixed."""
        return sum(times for _, times in self.strong)

    @property
    def tubes(self) -> list[int]:
        """Places of the tubes let down."""
        return [tube for tube, _ in self.strong]

    def in_full(self, parts: Doubles) -> Doubles:
        """Parts (..., n), those of strong tubes of their heaps, as parts straight from the tubes."""
        whole = _WHOLE ** max(times for _, times in self.strong)
        full: Doubles = parts * whole
        for tube, times in self.strong:
            share = whole // _WHOLE**times
            full[..., self.main] += (whole - share) * parts[..., tube]
            full[..., tube] = share * parts[..., tube]
        return full

    def told(self, shares: Doubles) -> Doubles:
        """Shares (n,) straight from the tubes, told with heaps; the main tube below 0 when impossible."""
        told: Doubles = shares.copy()
        for tube, times in self.strong:
            told[tube] = shares[tube] * _WHOLE**times
            told[self.main] -= told[tube] - shares[tube]
        return told


@dataclass(frozen=True)
class LetDown:
    """A recipe told by way of heaps.

    Attributes
    ----------
    into, heaps
        One part of each tube of `heaps` is mixed into `HEAP_PARTS` of `into`, as often as it says.
    parts
        Then so many parts of each, largest first; those of the tubes let down are of their heaps.
    """

    into: str
    heaps: dict[str, int]
    parts: dict[str, int]

    def heap(self, tube: str) -> dict[str, float]:
        """What the heap of a tube holds, in parts straight from the tubes."""
        return {tube: 1.0, self.into: float(_WHOLE ** self.heaps[tube] - 1)}


def ways_to_weaken(shares: Doubles, most: int) -> Iterator[tuple[Weakened, Doubles]]:
    """Weakened for one or two tubes that `most` parts cannot count out, and the shares (n,) told with them.

    Those are left out whose heaps would bring more of the main tube than is wanted.
    """
    main = int(shares.argmax())
    weak = [int(i) for i in np.flatnonzero((shares > 0) & (shares < 1 / most)) if i != main]
    for count in range(1, min(MOST_HEAPS, len(weak)) + 1):
        for tubes in combinations(weak, count):
            heaps = Weakened(main, tuple((i, 1 if shares[i] * _WHOLE >= 0.5 / most else 2) for i in tubes))
            told = heaps.told(shares)
            if told[main] >= 0:
                yield heaps, told


def told_by_heaps(parts: dict[str, int]) -> LetDown | None:
    """The shortest way to tell a recipe by heaps; None when it is short enough, or cannot be told so.

    Any way that fits is the same mixture.
    """
    if len(parts) < 2 or sum(parts.values()) <= EASY_TOTAL:
        return None
    tubes = list(parts)
    numbers = np.array([parts[k] for k in tubes], dtype=np.int64)
    best: LetDown | None = None
    for heaps in _all_heaps(len(tubes)):
        small = _small(numbers, heaps)
        if small is None or (best and sum(best.parts.values()) <= small.sum()):
            continue
        named = sorted(zip(tubes, small.tolist(), strict=True), key=lambda item: -item[1])
        best = LetDown(
            into=tubes[heaps.main],
            heaps={tubes[i]: times for i, times in heaps.strong},
            parts={k: n for k, n in named if n},
        )
    if best is None:
        return None
    shorter = 5 * sum(best.parts.values()) <= numbers.sum()
    return best if shorter or numbers.sum() > UNCOUNTABLE else None


def _all_heaps(tubes: int) -> Iterator[Weakened]:
    """Every choice of main tube and heaps; rounding may have left the main tube not quite the largest."""
    for main in range(tubes):
        others = [i for i in range(tubes) if i != main]
        for count in range(1, min(MOST_HEAPS, len(others)) + 1):
            for strong in combinations(others, count):
                for times in product(range(1, MOST_TIMES + 1), repeat=count):
                    yield Weakened(main, tuple(zip(strong, times, strict=True)))


def _small(numbers: WholeParts, heaps: Weakened) -> WholeParts | None:
    """The parts of which `numbers` are `heaps.in_full`; None when there are none in whole numbers."""
    whole = _WHOLE ** max(times for _, times in heaps.strong)
    small = heaps.told(numbers.astype(np.float64)) / whole
    rounded = np.round(small).astype(np.int64)
    fits = (rounded >= 0).all() and np.array_equal(heaps.in_full(rounded), numbers)
    fits = fits and all(rounded[i] > 0 for i, _ in heaps.strong) and gcd(*rounded.tolist()) == 1
    return rounded if fits and np.count_nonzero(rounded) > 1 else None
