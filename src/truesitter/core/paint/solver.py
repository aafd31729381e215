"""From a target colour to parts of paint.

The best proportions of every set of tubes come from `proportions`; the best sets are
rounded to whole parts for every total, their neighbours are tried too, and the recipes
with the least cost win. *Value first*: a value error costs more than a hue error.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.paint.mixing import Colour, as_lab, lab_value
from truesitter.core.paint.palettes import Palette
from truesitter.core.paint.pigments import Lab, pigment_library
from truesitter.core.paint.proportions import VALUE_WEIGHT, TubeSets
from truesitter.core.types import Doubles, Ints

_TUBE_COST = 0.15
_PART_COST = 0.02
_REFINED = 12
_KEEP = 8
_ROUNDING_LOSS = 1.8
_TOUCH = 5
"""When rounding to few parts costs more than a ΔE of `_ROUNDING_LOSS`, totals up to `_TOUCH` times
the largest are tried too: a strong tube may be needed by the touch."""

REACHED_DELTA_E = 3.0
REACHED_VALUE = 0.25


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
    film_mm
        For a wash, mm of dry paint on the paper; None for opaque paint.
    """

    parts: dict[str, int]
    target_lab: Lab
    predicted: Colour
    delta_e: float
    value_error: float
    film_mm: float | None = None

    @property
    def reached(self) -> bool:
        """True when the recipe is as near as an eye would ask."""
        return self.delta_e <= REACHED_DELTA_E and abs(self.value_error) <= REACHED_VALUE


@dataclass(frozen=True)
class Suggestion:
    """A tube that would bring a target nearer, and how near (ΔE2000)."""

    tube: str
    delta_e: float


def _cost(lab: Doubles, target: Doubles) -> Doubles:
    value_error = np.abs(lab_value(lab) - lab_value(target))
    return np.asarray(delta_e_2000(lab, target) + VALUE_WEIGHT * value_error)


def _tube_sets(count: int, most: int, must_hold: int | None = None) -> Ints:
    size = min(most, count)
    sets = [c for c in combinations(range(count), size) if must_hold is None or must_hold in c]
    return np.array(sets, dtype=np.int32)


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
class _Whole:
    """Whole-part candidates, cheapest first: costs (c,), parts (c, n), row of each, colour, film."""

    cost: Doubles
    parts: Doubles
    owner: Ints
    lab: Doubles
    film_mm: Doubles | None

    def first(self, count: int) -> _Whole:
        film = None if self.film_mm is None else self.film_mm[:count]
        return _Whole(self.cost[:count], self.parts[:count], self.owner[:count], self.lab[:count], film)


def _judge(sets: TubeSets, films: Doubles, parts: Doubles, owner: Ints) -> _Whole:
    """Candidates with their costs; `films` (sets,) is the mm of a wash of each set."""
    film = films[owner] if sets.palette.transparent else None
    scaled = parts if film is None else parts * (film / parts.sum(axis=1))[:, None]
    lab = sets.lab(scaled, owner)
    cost = _cost(lab, sets.target)
    cost += _TUBE_COST * (parts > 0).sum(axis=1) + _PART_COST * parts.sum(axis=1)
    order = np.argsort(cost, kind="stable")
    return _Whole(cost[order], parts[order], owner[order], lab[order], None if film is None else film[order])


def _search_parts(sets: TubeSets, rows: Ints, amounts: Doubles, largest_total: int) -> _Whole:
    """Whole parts for the best proportions: every total, then the neighbours of the best of those."""
    films = np.zeros(len(sets.sets))
    films[rows] = amounts.sum(axis=1)
    totals = range(1, largest_total + 1)
    found = _judge(sets, films, *_rounded(amounts, rows, totals)).first(_REFINED)
    found = _judge(sets, films, *_with_neighbours(found.parts, found.owner, largest_total))
    if found.cost[0] <= _ROUNDING_LOSS + _TUBE_COST * amounts.shape[1]:
        return found
    most = _TOUCH * largest_total
    totals = range(largest_total + 1, most + 1)
    best = _judge(sets, films, *_rounded(amounts[:_KEEP], rows[:_KEEP], totals)).first(_REFINED)
    best = _judge(sets, films, *_with_neighbours(best.parts, best.owner, most))
    return best if best.cost[0] < found.cost[0] else found


def solve_recipe(target_lab: Lab, palette: Palette, most_tubes: int = 4, largest_total: int = 24) -> Recipe:
    """Whole parts of at most `most_tubes` tubes that come nearest to a colour.

    Parameters
    ----------
    target_lab
        L*a*b* wanted; L* 0–100.
    palette
        The tubes to choose from.
    most_tubes
        1–6.
    largest_total
        Largest sum of parts, 1–60.

    Raises
    ------
    ValueError
        For a target or limits outside these ranges.
    """
    target = np.array(target_lab, dtype=np.float64)
    if not np.all(np.isfinite(target)) or not 0 <= target[0] <= 100 or np.abs(target[1:]).max() > 160:
        raise ValueError("a target colour needs L* from 0 to 100 and a*, b* from −160 to 160")
    if not 1 <= most_tubes <= 6 or not 1 <= largest_total <= 60:
        raise ValueError("a recipe has 1 to 6 tubes and 1 to 60 parts")
    sets = TubeSets(target, palette, _tube_sets(len(palette.tubes), most_tubes))
    rows, amounts, residual = sets.solve()
    worth = residual <= residual[0] + _ROUNDING_LOSS
    best = _search_parts(sets, rows[worth], amounts[worth], largest_total)
    chosen = best.parts[0].astype(int)
    divisor = int(np.gcd.reduce(chosen[chosen > 0]))
    named = {
        palette.tubes[tube]: int(p // divisor)
        for tube, p in zip(sets.sets[best.owner[0]], chosen, strict=True)
        if p > 0
    }
    predicted = Colour.of(best.lab[0])
    return Recipe(
        parts=dict(sorted(named.items(), key=lambda item: -item[1])),
        target_lab=as_lab(target),
        predicted=predicted,
        delta_e=float(delta_e_2000(best.lab[0], target)),
        value_error=predicted.value - float(lab_value(target)),
        film_mm=None if best.film_mm is None else float(best.film_mm[0]),
    )


def suggest_tube(recipe: Recipe, palette: Palette, most_tubes: int = 4) -> Suggestion | None:
    """The single tube whose addition brings a target nearest, if it helps much.

    Tubes with a hazard that have a substitute are passed over. Returns None when the
    recipe already reaches its target or no tube takes away at least a third of the error.
    """
    if recipe.reached:
        return None
    target = np.array(recipe.target_lab)
    have = float(_cost(np.array(recipe.predicted.lab), target))
    spare = [p.key for p in pigment_library().values() if p.key not in palette.tubes and not p.substitute]
    if palette.transparent:
        spare = [k for k in spare if pigment_library()[k].family != "white"]
    count = len(palette.tubes)
    everything = palette.with_tubes(palette.tubes + tuple(spare))
    with_one_more = _tube_sets(count + 1, most_tubes, must_hold=count)
    members = np.concatenate(
        [np.where(with_one_more == count, count + i, with_one_more) for i in range(len(spare))]
    )
    sets = TubeSets(target, everything, members)
    rows, amounts, _ = sets.solve()
    lab = sets.lab(amounts[:1], rows[:1])[0]
    if float(_cost(lab, target)) > have * 2 / 3:
        return None
    tube = everything.tubes[int(members[rows[0]].max())]
    return Suggestion(tube=tube, delta_e=float(delta_e_2000(lab, target)))
