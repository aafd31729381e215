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
from truesitter.core.colour.spaces import Lab
from truesitter.core.paint.recipes.pigment_shares import TubeSets
from truesitter.core.paint.recipes.rounding import PartSearch, Recipe, recipe_cost
from truesitter.core.paint.recipes.tuning import ROUNDING_LOSS, VALUE_LOSS, WORTH_SHOWING
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.types import Ints


@dataclass(frozen=True)
class Suggestion:
    """A tube that would bring a target nearer, and how near (ΔE2000)."""

    tube: str
    delta_e: float


def _tube_sets(count: int, most: int, must: tuple[int, ...] = ()) -> Ints:
    size = min(most, count)
    sets = [c for c in combinations(range(count), size) if set(must) <= set(c)]
    return np.array(sets, dtype=np.int32)


def solve_recipes(
    target_lab: Lab, palette: Palette, wishes: Wishes | None = None, count: int = 3
) -> tuple[Recipe, ...]:
    """Several recipes for a colour, each of other tubes, the best first.

    Parameters
    ----------
    target_lab
        L*a*b* wanted; L* 0–100.
    palette
        The tubes to choose from.
    wishes
        What the recipes must keep to.
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
    must = tuple(allowed.tubes.index(key) for key in wishes.must)
    sets = TubeSets(target, allowed, _tube_sets(len(allowed.tubes), wishes.most_tubes, must))
    rows, amounts, residual = sets.solve()
    worth = residual <= residual[0] + (ROUNDING_LOSS if count == 1 else WORTH_SHOWING)
    search = PartSearch(sets, wishes, rows[worth], amounts[worth])
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
