"""From a target colour to parts of paint.

The best proportions of every set of tubes come from `proportions`; the best sets are
rounded to whole parts for every total, their neighbours are tried too, and the recipes
with the least cost win. *Value first*: a value error costs more than a hue error.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import Lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.recipes.pigment_shares import TubeSets
from truesitter.core.paint.recipes.pricing import (
    EasyPricing,
    ExactPricing,
    Tolerance,
    least_labour,
    recipe_cost,
)
from truesitter.core.paint.recipes.rounding import PartSearch, Recipe, WholeParts
from truesitter.core.paint.recipes.tuning import (
    EASY_LARGEST,
    EASY_SETS,
    EXACT_GAIN,
    RECIPES_KEPT,
    ROUNDING_LOSS,
    VALUE_LOSS,
    WEAKENED_COST,
    WORTH_SHOWING,
)
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Ints


@dataclass(frozen=True)
class Suggestion:
    """A tube that would bring a target nearer, and how near (ΔE2000)."""

    tube: str
    delta_e: float


def _tube_sets(count: int, most: int, must: tuple[int, ...] = ()) -> Ints:
    size = min(most, count)
    sets = [c for c in combinations(range(count), size) if set(must) <= set(c)]
    return np.array(sets, dtype=np.int32).reshape(len(sets), size)


def solve_recipes(
    target_lab: Lab, palette: Palette, wishes: Wishes | None = None, count: int = 3
) -> tuple[Recipe, ...]:
    """Several recipes for a colour, the best first.

    Parameters
    ----------
    target_lab
        L*a*b* wanted; L* 0–100.
    palette
        The tubes to choose from.
    wishes
        What the recipes must keep to. With a tolerance the first is the easiest inside it and the exact
        one comes next; the others are exact ones of other tubes.
    count
        How many are wanted, 1–8; fewer come when there are no more tube sets.

    Raises
    ------
    Refusal
        For a target outside these ranges, or wishes that cannot be kept.
    """
    wishes = wishes or Wishes()
    target = np.array(target_lab, dtype=np.float64)
    if not np.all(np.isfinite(target)) or not 0 <= target[0] <= 100 or np.abs(target[1:]).max() > 160:
        raise Refusal("a target colour needs L* from 0 to 100 and a*, b* from −160 to 160")
    if not 1 <= count <= 8:
        raise Refusal("ask for 1 to 8 recipes")
    allowed = wishes.palette(palette)
    if allowed.transparent:
        # What washes lie on is another thing at every pass.
        return _solved(target, allowed, wishes, count)
    return _remembered((float(target[0]), float(target[1]), float(target[2])), allowed, wishes, count)


@lru_cache(RECIPES_KEPT)
def _remembered(target: Lab, allowed: Palette, wishes: Wishes, count: int) -> tuple[Recipe, ...]:
    """Recipes of opaque paint: plans of one sitter, in every size and school, ask for the same ones."""
    return _solved(np.array(target), allowed, wishes, count)


def _solved(target: Doubles, allowed: Palette, wishes: Wishes, count: int) -> tuple[Recipe, ...]:
    if wishes.tolerance is None:
        return _exact(target, allowed, wishes, count)
    easy, enough = _easy(target, allowed, wishes, wishes.tolerance)
    if count == 1 and enough:
        return (easy,)
    exact = _exact(target, allowed, wishes, count)
    if not enough and exact[0].delta_e < easy.delta_e - EXACT_GAIN:
        return exact
    others = (r for r in exact if r.delta_e < easy.delta_e or set(r.parts) != set(easy.parts))
    return (easy, *others)[:count]


@dataclass(frozen=True)
class _Candidate:
    """A recipe in whole parts and the search that can name its tubes."""

    search: PartSearch
    whole: WholeParts

    @property
    def cost(self) -> float:
        """Of the recipe."""
        return float(self.whole.cost[0])


class _EasySearch:
    """The easiest recipe for one target: for every number of tubes the best shares, rounded."""

    def __init__(self, target: Doubles, allowed: Palette, wishes: Wishes) -> None:
        self.target, self.allowed = target, allowed
        self.must = tuple(allowed.tubes.index(key) for key in wishes.must)
        self.sizes = range(max(1, len(self.must)), min(wishes.most_tubes, len(allowed.tubes)) + 1)
        self.solved: dict[int, tuple[TubeSets, Ints, Doubles, Doubles]] = {}

    def shares(self, size: int) -> tuple[TubeSets, Ints, Doubles, Doubles]:
        """Best shares of every set of so many tubes, solved once."""
        if size not in self.solved:
            sets = TubeSets(self.target, self.allowed, _tube_sets(len(self.allowed.tubes), size, self.must))
            self.solved[size] = (sets, *sets.solve())
        return self.solved[size]

    def within(self, tolerance: Tolerance) -> _Candidate:
        """The easiest; it stops where one more tube alone would be more labour."""
        pricing = EasyPricing(self.target, tolerance, EASY_LARGEST)
        best: _Candidate | None = None
        for size in self.sizes:
            if best is not None and best.cost <= least_labour(size):
                break
            sets, rows, amounts, residual = self.shares(size)
            worth = residual <= residual[0] + EASY_SETS
            search = PartSearch(sets, rows[worth], amounts[worth], pricing, self.must)
            found = search.small(1, every_tube=True)
            cost = min([c.cost[0] for c in found] + ([best.cost] if best else []), default=np.inf)
            if cost > WEAKENED_COST + least_labour(size):
                found += search.let_down(1)
            for whole in found:
                if best is None or whole.cost[0] < best.cost:
                    best = _Candidate(search, whole)
        if best is None:
            raise ValueError("one tube alone is a recipe")
        return best

    def nearest(self) -> tuple[float, float]:
        """ΔE2000 and value error of the best shares of the most tubes, as no parts can count them out."""
        sets, rows, amounts, _ = self.shares(self.sizes[-1])
        lab = sets.lab(amounts[:1], rows[:1])[0]
        return float(delta_e_2000(lab, self.target)), float(lab_value(lab) - lab_value(self.target))


def _easy(target: Doubles, allowed: Palette, wishes: Wishes, tolerance: Tolerance) -> tuple[Recipe, bool]:
    """The recipe that is easiest to count out, and whether it is within twice the tolerance.

    The tolerance is never asked to be narrower than what the tubes can come to at all.
    """
    search = _EasySearch(target, allowed, wishes)
    found = search.within(tolerance)
    recipe = found.search.recipe(found.whole)
    if not tolerance.holds(recipe.delta_e, recipe.value_error):
        wider = tolerance.beyond(*search.nearest())
        if wider != tolerance:
            tolerance = wider
            found = search.within(tolerance)
            recipe = found.search.recipe(found.whole)
    return recipe, tolerance.times(2).holds(recipe.delta_e, recipe.value_error)


def _exact(target: Doubles, allowed: Palette, wishes: Wishes, count: int) -> tuple[Recipe, ...]:
    """The nearest recipe, and others of other tubes that are not much farther."""
    must = tuple(allowed.tubes.index(key) for key in wishes.must)
    sets = TubeSets(target, allowed, _tube_sets(len(allowed.tubes), wishes.most_tubes, must))
    rows, amounts, residual = sets.solve()
    worth = residual <= residual[0] + (ROUNDING_LOSS if count == 1 else WORTH_SHOWING)
    pricing = ExactPricing(target, wishes.tube_cost, wishes.largest_total)
    search = PartSearch(sets, rows[worth], amounts[worth], pricing, must)
    found = search.small(count)
    # What no rounding can better: the best shares themselves.
    shares = sets.lab(amounts[:1], rows[:1])[0]
    enough = float(recipe_cost(shares, target)) + wishes.tube_cost * amounts.shape[1] + ROUNDING_LOSS
    for with_more in (search.let_down, search.by_the_touch):
        if found and found[0].cost[0] <= enough and found[0].value_off(shares) <= VALUE_LOSS:
            break
        found = sorted([*with_more(count), *found], key=lambda w: float(w.cost[0]))
    recipes: dict[frozenset[str], Recipe] = {}
    for whole in found:
        if whole.cost[0] > found[0].cost[0] + WORTH_SHOWING:
            break
        recipe = search.recipe(whole)
        recipes.setdefault(frozenset(recipe.parts), recipe)
    return tuple(recipes.values())[:count]


def solve_recipe(target_lab: Lab, palette: Palette, most_tubes: int = 4, largest_total: int = 24) -> Recipe:
    """The best recipe for a colour; see `solve_recipes`.

    Parameters
    ----------
    target_lab
        L*a*b* (D65).
    palette
        The tubes that may be used.
    most_tubes
        In one mixture.
    largest_total
        Of all parts.

    Returns
    -------
    Recipe
        Its parts and what they make.
    """
    return solve_recipes(target_lab, palette, Wishes(most_tubes, largest_total), 1)[0]


def suggest_tube(recipe: Recipe, palette: Palette, wishes: Wishes | None = None) -> Suggestion | None:
    """The single tube whose addition brings a target nearest, if it helps much.

    Tubes with a hazard that have a substitute are passed over, and so is what the wishes rule
    out. Returns None when the recipe already reaches its target or no tube takes away at least
    a third of the error.

    Parameters
    ----------
    recipe
        That falls short.
    palette
        The tubes that may be used.
    wishes
        What the painter asks of recipes.

    Returns
    -------
    Suggestion | None
        Tube and the error it leaves, or None.
    """
    if recipe.reached:
        return None
    wishes = wishes or Wishes()
    allowed = wishes.palette(palette)
    target = np.array(recipe.target_lab)
    have = float(recipe_cost(np.array(recipe.predicted.lab), target))
    spare = [
        p.key
        for p in palette.rack.pigments()
        if p.key not in palette.tubes
        and not p.substitute
        and not (palette.transparent and p.family == "white")
        and (wishes.black or p.family != "black")
    ]
    count = len(allowed.tubes)
    everything = allowed.with_tubes(allowed.tubes + tuple(spare))
    must = tuple(allowed.tubes.index(key) for key in wishes.must)
    with_one_more = _tube_sets(count + 1, wishes.most_tubes, must=(*must, count))
    if not len(with_one_more) or not spare:
        return None
    members = np.concatenate(
        [np.where(with_one_more == count, count + i, with_one_more) for i in range(len(spare))]
    )
    sets = TubeSets(target, everything, members)
    rows, amounts, _ = sets.solve()
    lab = sets.lab(amounts[:1], rows[:1])[0]
    if float(recipe_cost(lab, target)) > have * 2 / 3:
        return None
    tube = everything.tubes[int(members[rows[0]].max())]
    return Suggestion(tube=tube, delta_e=float(delta_e_2000(lab, target)))
