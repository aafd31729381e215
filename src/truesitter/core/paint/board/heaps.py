"""Heaps: the fewest mixtures on the palette from which every other one is mixed.

A painter does not mix thirty colours. A few heaps are mixed once; every colour of the plan is then a heap
as it is, two heaps, or a heap and a tube, in a few parts. Which heaps these are is a set cover: the greedy
choice (Johnson 1974) takes the heap that brings most colours within reach, again and again, and drops at the
end what became needless.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import gcd

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.spectrum import observer_weights, reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.board.tuning import (
    HEAP_DELTA_E,
    HEAP_RATIO,
    HEAP_VALUE,
    MEMBER_COST,
    MOST_STRONGER,
    NEAR_LAB,
    NEAR_SHARE,
    RATIO_COST,
)
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface, opaque_reflectance
from truesitter.core.paint.recipes.pricing import Tolerance
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.types import Doubles, Ints, Mask

RATIOS = tuple((a, b) for a in range(1, HEAP_RATIO + 1) for b in range(1, HEAP_RATIO + 1) if gcd(a, b) == 1)
"""Parts of one and of another that are taken together."""


HEAP_TOLERANCE = Tolerance(HEAP_DELTA_E, HEAP_VALUE)


@dataclass(frozen=True)
class Use:
    """A colour that is wanted.

    Attributes
    ----------
    parts
        Whole parts by tube that make it.
    film_mm
        Dry film in which it is laid, for washes and glazes; None for paint that hides.
    weight
        How much of it is wanted, in any unit: among equal choices the heap of most paint is taken.
    tolerance
        How far a mix may be from the parts it stands for.
    """

    parts: Mapping[str, int]
    film_mm: float | None
    weight: float
    tolerance: Tolerance = HEAP_TOLERANCE


@dataclass(frozen=True)
class Mix:
    """How a use is mixed.

    Attributes
    ----------
    heaps, tubes
        Parts by number of heap, and by tube; one or two of them together.
    strength
        Times the film of the use that this one is laid in to be as dark; 1 for paint that hides.
    shift
        L*a*b* of it less that of the use's own parts.
    """

    heaps: dict[int, int]
    tubes: dict[str, int]
    strength: float
    shift: Lab


@dataclass(frozen=True)
class SharedHeaps:
    """Heaps in parts straight from the tubes, and the mix of every use in the order they were given."""

    heaps: tuple[dict[str, int], ...]
    mixes: tuple[Mix, ...]


def shared_heaps(
    uses: Sequence[Use], rack: Rack, ground: Doubles, forced: Sequence[Mapping[str, int]] = ()
) -> SharedHeaps:
    """The fewest heaps for some colours.

    Parameters
    ----------
    uses
        What is wanted; each can be its own heap.
    rack
        Where the tubes are.
    ground
        (31,) internal reflectance of what films are compared on.
    forced
        Mixtures that are heaps whether they are needed or not.

    Returns
    -------
    SharedHeaps
        Forced heaps first, then by how many uses they brought within reach.
    """
    if not uses:
        return SharedHeaps(tuple(dict(f) for f in forced), ())
    table = _Table(uses, rack, forced)
    found = [table.near(use, ground) for use in uses]
    cover = _Cover(table, found, np.array([u.weight for u in uses]))
    chosen = cover.chosen(len(forced))
    number = {heap: n for n, heap in enumerate(chosen)}
    mixes = tuple(table.mix(one, number) for one in found)
    return SharedHeaps(tuple(table.heaps[h] for h in chosen), mixes)


@dataclass(frozen=True)
class _Near:
    """Candidates of the table near one use, with what they are off by."""

    rows: Ints
    strength: Doubles
    delta_e: Doubles
    shift: Doubles


class _Table:
    """Every heap and tube as it is, every two heaps, every heap with a tube, in every ratio."""

    def __init__(self, uses: Sequence[Use], rack: Rack, forced: Sequence[Mapping[str, int]]) -> None:
        self.heaps: list[dict[str, int]] = []
        for parts in (*forced, *(u.parts for u in sorted(uses, key=lambda u: -u.weight))):
            if dict(parts) not in self.heaps:
                self.heaps.append(dict(parts))
        self.tubes = tuple(sorted({k for parts in self.heaps for k in parts}))
        count, all_tubes = len(self.heaps), range(len(self.heaps), len(self.heaps) + len(self.tubes))
        shares = np.zeros((count + len(self.tubes), len(self.tubes)))
        for row, parts in enumerate(self.heaps):
            for key, n in parts.items():
                shares[row, self.tubes.index(key)] = n / sum(parts.values())
        shares[count:] = np.eye(len(self.tubes))
        pairs = [*combinations(range(count), 2), *((h, t) for h in range(count) for t in all_tubes)]
        single = np.array([(n, n, 1, 0) for n in range(len(shares))])
        double = np.array([(a, b, *ratio) for a, b in pairs for ratio in RATIOS]).reshape(-1, 4)
        self.members = np.concatenate([single, double])
        first, second, some, other = self.members.T
        part = (some / (some + other))[:, None]
        k, s = rack.curves(self.tubes)
        mixed = part * shares[first] + (1 - part) * shares[second]
        self.k, self.s = mixed @ k, mixed @ s
        self.rack = rack
        self.opaque = reflectance_to_lab(leave_surface(opaque_reflectance(self.k / self.s)))

    def near(self, use: Use, ground: Doubles) -> _Near:
        """Candidates within the tolerance of a use; its own heap always is."""
        k, s = self.rack.mixture(dict(use.parts))
        own = self.heaps.index(dict(use.parts))
        if use.film_mm is None:
            wanted = reflectance_to_lab(leave_surface(opaque_reflectance(k / s)))
            rows = np.flatnonzero(np.abs(self.opaque - wanted).sum(axis=1) < NEAR_LAB)
            strength, labs = np.ones(len(rows)), self.opaque[rows]
        else:
            # Laid as thick as takes as much light away: what is thinned more or less is the same heap.
            seen = observer_weights()[:, 1]
            scale = (k @ seen) / (self.k @ seen)
            off = np.abs(self.k * scale[:, None] - k).sum(axis=1) / k.sum()
            fits = (scale >= 1 / MOST_STRONGER) & (scale <= MOST_STRONGER)
            rows = np.flatnonzero((off < NEAR_SHARE) & fits)
            strength = scale[rows]
            film = use.film_mm * strength[:, None]
            labs = _laid(self.k[rows] * film, self.s[rows] * film, ground)
            wanted = _laid(k * use.film_mm, s * use.film_mm, ground)
        delta_e = delta_e_2000(labs, wanted)
        error = lab_value(labs) - lab_value(wanted)
        kept = (delta_e <= use.tolerance.delta_e) & (np.abs(error) <= use.tolerance.value) | (rows == own)
        return _Near(rows[kept], strength[kept], delta_e[kept], (labs - wanted)[kept])

    def needs(self, rows: Ints) -> tuple[Ints, Ints]:
        """The heaps that candidates need, (n,) each; −1 for a tube or nothing."""
        first, second = self.members[rows, 0], self.members[rows, 1]
        count = len(self.heaps)
        return np.where(first < count, first, -1), np.where((second < count) & (second != first), second, -1)

    def mix(self, near: _Near, number: dict[int, int]) -> Mix:
        """The easiest candidate of those whose heaps there are."""
        first, second = self.needs(near.rows)
        there = np.array([*sorted(number), -1])
        usable = np.isin(first, there) & np.isin(second, there)
        single = self.members[near.rows, 3] == 0
        ratio = self.members[near.rows, 2] + self.members[near.rows, 3]
        cost = MEMBER_COST * ~single + RATIO_COST * ratio + near.delta_e
        best = int(np.where(usable, cost, np.inf).argmin())
        heaps: dict[int, int] = {}
        tubes: dict[str, int] = {}
        one, other, *parts = self.members[near.rows[best]].tolist()
        for member, n in zip((one, other), parts, strict=True):
            if n and member < len(self.heaps):
                heaps[number[member]] = n
            elif n:
                tubes[self.tubes[member - len(self.heaps)]] = n
        return Mix(heaps, tubes, float(near.strength[best]), as_lab(near.shift[best]))


def _laid(k: Doubles, s: Doubles, ground: Doubles) -> Doubles:
    """L*a*b* of films on a ground."""
    return reflectance_to_lab(leave_surface(film_reflectance(k, s, 1.0, ground)))


class _Cover:
    """Which heaps bring which uses within reach."""

    def __init__(self, table: _Table, found: Sequence[_Near], weight: Doubles) -> None:
        count, self.weight = len(table.heaps), weight
        self.free = np.zeros(len(found), bool)
        self.alone = np.zeros((len(found), count), bool)
        self.together = np.zeros((len(found), count, count), bool)
        for use, near in enumerate(found):
            first, second = table.needs(near.rows)
            heap, pair = first >= 0, second >= 0
            self.free[use] = bool((~heap & ~pair).any())
            self.alone[use, first[heap & ~pair]] = True
            self.together[use, first[pair], second[pair]] = True
            self.together[use, second[pair], first[pair]] = True

    def covered(self, heaps: Sequence[int]) -> Mask:
        """Uses (n,) within reach of some heaps."""
        picked = list(heaps)
        both = self.together[:, picked][:, :, picked].any(axis=(1, 2))
        return np.asarray(self.free | self.alone[:, picked].any(axis=1) | both)

    def chosen(self, forced: int) -> list[int]:
        """Heaps that cover every use, the first so many of the table among them."""
        picked = list(range(forced))
        done = self.covered(picked)
        while not done.all():
            gain = self.alone | self.together[:, picked].any(axis=1)
            gain = gain & ~done[:, None]
            # Of heaps that reach as many uses, that of which most is wanted.
            score = gain.sum(axis=0) + (self.weight[:, None] * gain).sum(axis=0) / (self.weight.sum() + 1)
            score[picked] = -1
            picked.append(int(score.argmax()))
            done = self.covered(picked)
        for heap in reversed(picked[forced:]):
            rest = [h for h in picked if h != heap]
            if self.covered(rest).all():
                picked = rest
        return picked
