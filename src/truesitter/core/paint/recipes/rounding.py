"""From the best proportions to whole parts that a painter can count out.

For every total the shares are rounded by largest remainder; the neighbours of the best of
these, a part more, fewer or exchanged, are tried too.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.recipes.let_down import Weakened, ways_to_weaken
from truesitter.core.paint.recipes.mixing import Colour, mix
from truesitter.core.paint.recipes.pigment_shares import TubeSets
from truesitter.core.paint.recipes.pricing import Pricing, recipe_cost
from truesitter.core.paint.recipes.tuning import (
    HEAP_REFINED,
    HEAP_SETS,
    KEEP,
    REACHED_DELTA_E,
    REACHED_VALUE,
    REFINED,
    TOUCH,
)
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.types import Doubles, Ints


@dataclass(frozen=True)
class Recipe:
    """Parts of paint for one target.

    Attributes
    ----------
    parts
        Whole parts by volume, by pigment key, largest first.
    target_lab
        What was asked for.
    predicted
        What the parts make.
    delta_e, value_error
        CIEDE2000 to the target, and predicted minus target value in steps.
    film_mm, dilution
        For a wash or a glaze, mm of dry paint, which only the reckoning needs, and how it is thinned;
        None for opaque paint.
    """

    parts: dict[str, int]
    target_lab: Lab
    predicted: Colour
    delta_e: float
    value_error: float
    film_mm: DryMm | None = None
    dilution: Dilution | None = None

    @classmethod
    def held(
        cls, parts: dict[str, int], lab: Doubles, target: Doubles, film_mm: DryMm | None = None,
        dilution: Dilution | None = None,
    ) -> Recipe:  # fmt: skip
        """Parts whose colour is known, held against a target.

        Parameters
        ----------
        parts
            By tube, largest first; none where paint is taken off.
        lab, target
            (3,) L*a*b* that they make and that was wanted.
        film_mm, dilution
            Of a wash or a glaze.
        """
        predicted = Colour.of(lab)
        return cls(
            parts=parts,
            target_lab=as_lab(target),
            predicted=predicted,
            delta_e=float(delta_e_2000(lab, target)),
            value_error=predicted.value - float(lab_value(target)),
            film_mm=film_mm,
            dilution=dilution,
        )

    def seen_as(self, lab: Doubles) -> Recipe:
        """The same parts for the same target where they look so (3,)."""
        return Recipe.held(self.parts, lab, np.array(self.target_lab), self.film_mm, self.dilution)

    @classmethod
    def of_parts(
        cls, parts: dict[str, int], target_lab: Lab, palette: Palette, film_mm: float | None = None
    ) -> Recipe:
        """Given parts held against a target.

        Parameters
        ----------
        film_mm
            Dry film of a wash, laid as the next thinner one that can be mixed; without one that which
            comes nearest. Opaque paint has none.
        """
        target, amounts = np.array(target_lab), {k: float(p) for k, p in parts.items()}
        dilution: Dilution | None = None
        thinning = palette.thinning
        if palette.transparent:
            tried = thinning.every() if film_mm is None else (thinning.dilution(DryMm(film_mm)),)
            made = [mix(amounts, palette, thinning.dry(d)) for d in tried]
            costs = recipe_cost(np.array([m.lab for m in made]), target)
            dilution, predicted = tried[int(costs.argmin())], made[int(costs.argmin())]
        else:
            predicted = mix(amounts, palette)
        film = None if dilution is None else thinning.dry(dilution)
        return cls.held(parts, np.array(predicted.lab), target, film, dilution)

    @property
    def reached(self) -> bool:
        """True when the recipe is as near as an eye would ask."""
        return self.delta_e <= REACHED_DELTA_E and abs(self.value_error) <= REACHED_VALUE


def _rounded(amounts: Doubles, rows: Ints, totals: range) -> tuple[Doubles, Ints]:
    """Amounts (m, n) as whole parts (c, n) with each total, by largest remainder; the row of each (c,)."""
    share = amounts / amounts.sum(axis=1, keepdims=True)
    sums = np.array(totals)
    ideal = share[None] * sums[:, None, None]
    floor = np.floor(ideal)
    missing = np.round(sums[:, None] - floor.sum(axis=2)).astype(int)
    rank = np.argsort(np.argsort(-(ideal - floor), axis=2), axis=2)
    parts = floor + (rank < missing[..., None])
    return parts.reshape(-1, share.shape[1]), np.tile(rows, len(sums))


def _with_neighbours(parts: Doubles, owner: Ints, largest_total: int) -> tuple[Doubles, Ints]:
    """The same whole parts, and all that differ by a part added, taken away or exchanged."""
    n = parts.shape[1]
    unit = np.eye(n)
    moves = [np.zeros(n), *unit, *-unit, *(a - b for a in unit for b in unit if a is not b)]
    moved = (parts[:, None] + np.array(moves)).reshape(-1, n)
    owners = np.repeat(owner, len(moves))
    total = moved.sum(axis=1)
    good = (moved.min(axis=1) >= 0) & (total > 0) & (total <= largest_total)
    return moved[good], owners[good]


@dataclass(frozen=True)
class WholeParts:
    """Whole-part candidates, cheapest first: costs (c,), parts (c, n), row of each, colour, film."""

    cost: Doubles
    parts: Doubles
    owner: Ints
    lab: Doubles
    film_mm: Doubles | None
    by_heap: bool = False
    """Parts straight from the tubes of a recipe told by way of a heap: they stay as they are."""

    def value_off(self, lab: Doubles) -> float:
        """Value steps between the cheapest candidate and a colour (3,)."""
        return float(abs(lab_value(self.lab[0]) - lab_value(lab)))

    def one(self, i: int) -> WholeParts:
        """A single candidate by its place."""
        film = None if self.film_mm is None else self.film_mm[i : i + 1]
        one = slice(i, i + 1)
        return WholeParts(self.cost[one], self.parts[one], self.owner[one], self.lab[one], film, self.by_heap)


@dataclass(frozen=True)
class RoundingWay:
    """One way to let tubes down: the tube set's row, the heaps, and its shares told with them (n,)."""

    row: int
    heaps: Weakened
    told: Doubles


class PartSearch:
    """Whole parts for the best proportions of one target."""

    def __init__(
        self, sets: TubeSets, rows: Ints, amounts: Doubles, pricing: Pricing, must: tuple[int, ...] = ()
    ) -> None:
        self.sets, self.rows, self.amounts, self.pricing = sets, rows, amounts, pricing
        # Millimetres of wash of each set, as they can be mixed; nothing for opaque paint.
        self.films = np.zeros(len(sets.sets))
        if sets.palette.transparent:
            self.films[rows] = sets.palette.thinning.laid(amounts.sum(axis=1))
        # Tubes that were asked for.
        self.musts = np.isin(sets.sets, must)

    def judge(self, parts: Doubles, owner: Ints) -> WholeParts:
        """Candidates in which every tube asked for has a part, cheapest first."""
        kept = (~self.musts[owner] | (parts > 0)).all(axis=1)
        parts, owner = parts[kept], owner[kept]
        film = self.films[owner] if self.sets.palette.transparent else None
        scaled = parts if film is None else parts * (film / parts.sum(axis=1))[:, None]
        lab = self.sets.lab(scaled, owner)
        tubes = (parts > 0).sum(axis=1)
        cost = self.pricing.cost(lab, parts, tubes, np.zeros_like(tubes))
        if film is not None:
            cost = cost + self.pricing.film_cost * film / float(self.sets.palette.thinning.thickest)
        order = np.argsort(cost, kind="stable")
        return WholeParts(
            cost[order], parts[order], owner[order], lab[order], None if film is None else film[order]
        )

    def _judge_totals(
        self, amounts: Doubles, rows: Ints, totals: range, every_tube: bool = False
    ) -> WholeParts:
        parts, owner = _rounded(amounts, rows, totals)
        if every_tube:
            # A part of what would round to none: too much of it may still be near enough.
            parts, owner = np.concatenate([parts, np.maximum(parts, 1)]), np.tile(owner, 2)
        # A tube asked for gets a part even where none would be best.
        return self.judge(np.maximum(parts, self.musts[owner]), owner)

    def small(self, count: int, every_tube: bool = False) -> list[WholeParts]:
        """The best recipe of each of the `count` best tube sets, with few parts.

        With `every_tube` those are tried too in which none is rounded to nothing.
        """
        totals = range(1, self.pricing.largest_total + 1)
        found = self._judge_totals(self.amounts, self.rows, totals, every_tube)
        return self._distinct(found, count, self.pricing.largest_total)

    def by_the_touch(self, count: int) -> list[WholeParts]:
        """As `small` and `let_down`, with more parts than wished: a tube may be needed by the touch."""
        most = TOUCH * self.pricing.largest_total
        totals = range(self.pricing.largest_total + 1, most + 1)
        keep = KEEP * count
        found = self._judge_totals(self.amounts[:keep], self.rows[:keep], totals)
        return [*self._distinct(found, count, most), *self.let_down(count, TOUCH)]

    def let_down(self, count: int, times: int = 1) -> list[WholeParts]:
        """As `small`, with one or two strong tubes let down first; nothing for washes, which water weakens.

        `times` the largest total wished for may be counted out after that.
        """
        if self.sets.palette.transparent:
            return []
        least = self.pricing.largest_total
        most = times * least
        # Of large totals every third will do: their neighbours are tried anyway.
        totals = range(2, most + 1) if times == 1 else range(least + 1, most + 1, 3)
        ways = [
            RoundingWay(row, heaps, told)
            for row, amounts in zip(self.rows[: HEAP_SETS * count], self.amounts, strict=False)
            for heaps, told in ways_to_weaken(amounts / amounts.sum(), least)
        ]
        if not ways:
            return []
        tried = [_rounded(way.told[None], np.array([way.row]), totals)[0] for way in ways]
        near = [
            _with_neighbours(parts[np.argsort(costs)[:HEAP_REFINED]], np.zeros(HEAP_REFINED, np.int32), most)[
                0
            ]
            for parts, (costs, _, _) in zip(tried, self._judge_heaps(ways, tried), strict=True)
        ]
        found = []
        for way, (costs, full, lab) in zip(ways, self._judge_heaps(ways, near), strict=True):
            i = int(costs.argmin())
            if np.isfinite(costs[i]):
                one, owner = slice(i, i + 1), np.array([way.row], dtype=np.int32)
                found.append(WholeParts(costs[one], full[one], owner, lab[one], None, by_heap=True))
        by_tubes: dict[frozenset[str], WholeParts] = {}
        for whole in sorted(found, key=lambda w: float(w.cost[0])):
            tubes = frozenset(self._named(whole.parts[0], int(whole.owner[0]), reduce=False))
            by_tubes.setdefault(tubes, whole)
        return list(by_tubes.values())[:count]

    def _judge_heaps(
        self, ways: list[RoundingWay], parts: list[Doubles]
    ) -> list[tuple[Doubles, Doubles, Doubles]]:
        """For each way its costs, parts straight from the tubes, and colours of some parts; all at once.

        The cost is infinite where a heap or a tube asked for is missing.
        """
        small = [p / np.maximum(np.gcd.reduce(p.astype(int), axis=1), 1)[:, None] for p in parts]
        full = np.concatenate([way.heaps.in_full(p) for way, p in zip(ways, small, strict=True)])
        counts = [len(p) for p in small]
        owner = np.repeat(np.array([way.row for way in ways], dtype=np.int32), counts)
        lab = self.sets.lab(full, owner)
        weakened = np.repeat(np.array([way.heaps.times for way in ways], dtype=np.int32), counts)
        cost = self.pricing.cost(lab, np.concatenate(small), (full > 0).sum(axis=1), weakened)
        kept = (~self.musts[owner] | (full > 0)).all(axis=1)
        kept &= np.concatenate(
            [(p[:, way.heaps.tubes] > 0).all(axis=1) for way, p in zip(ways, small, strict=True)]
        )
        cost = np.where(kept, cost, np.inf)
        ends = np.cumsum(counts)[:-1]
        return list(zip(np.split(cost, ends), np.split(full, ends), np.split(lab, ends), strict=True))

    def _distinct(self, found: WholeParts, count: int, largest_total: int) -> list[WholeParts]:
        best = list(range(min(REFINED, len(found.cost))))
        if count > 1:
            # The tubes used, as bits of a number: the first candidate of each tube set is its best.
            bits = ((found.parts > 0) << self.sets.sets[found.owner]).sum(axis=1)
            _, first = np.unique(bits, return_index=True)
            best = sorted(first.tolist())[: max(count, REFINED)]
        refined = self.judge(*_with_neighbours(found.parts[best], found.owner[best], largest_total))
        out: list[WholeParts] = []
        seen: set[tuple[str, ...]] = set()
        for i in range(len(refined.cost)):
            tubes = tuple(sorted(self._named(refined.parts[i], int(refined.owner[i]))))
            if tubes not in seen:
                seen.add(tubes)
                out.append(refined.one(i))
            if len(out) == count:
                break
        return out

    def _named(self, parts: Doubles, row: int, reduce: bool = True) -> dict[str, int]:
        chosen = parts.astype(int)
        divisor = int(np.gcd.reduce(chosen[chosen > 0])) if reduce else 1
        named = {
            self.sets.palette.tubes[tube]: int(p // divisor)
            for tube, p in zip(self.sets.sets[row], chosen, strict=True)
            if p > 0
        }
        return dict(sorted(named.items(), key=lambda item: -item[1]))

    def recipe(self, whole: WholeParts) -> Recipe:
        """One candidate as a recipe."""
        film = None if whole.film_mm is None else DryMm(float(whole.film_mm[0]))
        dilution = None if film is None else self.sets.palette.thinning.dilution(film)
        parts = self._named(whole.parts[0], int(whole.owner[0]), reduce=not whole.by_heap)
        return Recipe.held(parts, whole.lab[0], self.sets.target, film, dilution)
