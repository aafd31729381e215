"""Strings: a row of tones from the darkest to the lightest of a region, each made from the one before."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from itertools import combinations

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.proportions import TubeSets
from truesitter.core.paint.recipes.reach import map_target, palette_reach
from truesitter.core.paint.recipes.rounding import Recipe, recipe_cost
from truesitter.core.paint.recipes.solver import solve_recipes
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Floats, Ints

_BASES = (6, 3, 2, 1)
"""Parts that may be taken of the last tone when the next is made from it."""

_ADDED = np.array([0, 1, 2, 3, 4, 6, 8, 12, 16])
_MOST_ADDED = 20
_TAILS = (0.02, 0.98)
_KERNEL = 0.7
_SAMPLE = 20000
_PART_COST = 0.015
_SHORTLIST_SETS = 60


class SingleValue(Refusal):
    """A region of a single value, for which no string is mixed."""


@dataclass(frozen=True)
class Tone:
    """One tone of a string.

    Attributes
    ----------
    seen_lab
        Colour of the picture at that value, before it is fitted into the palette's reach.
    recipe
        Fresh from the tubes.
    base, added
        Parts taken of the tone before, and what to add to them; 0 and empty for the first.
    stepped
        The colour that makes.
    """

    seen_lab: Lab
    recipe: Recipe
    base: int
    added: dict[str, int]
    stepped: Colour


def tone_targets(lab: Floats, count: int) -> Doubles:
    """Colours of a region at even steps of value from its darkest to its lightest.

    Parameters
    ----------
    lab
        (n, 3) L*a*b* of the region's pixels, n ≥ 1.
    count
        3–9 tones.

    Returns
    -------
    (count, 3)
        L* rising; a* and b* are those the picture has round each value, so that hue and
        chroma follow its own shift from shadow to light.

    Raises
    ------
    Refusal
        For another count; `SingleValue` for a region of a single value.
    """
    if not 3 <= count <= 9:
        raise Refusal("a string has 3 to 9 tones")
    lab = lab[:: max(1, len(lab) // _SAMPLE)]
    value = lab_value(np.asarray(lab, dtype=np.float64))
    low, high = np.quantile(value, _TAILS)
    if high - low < 0.3:
        raise SingleValue("this region holds hardly more than one value: a single mixture will do")
    wanted = np.linspace(low, high, count)
    width = _KERNEL * (high - low) / (count - 1)
    weight = np.exp(-0.5 * ((value[:, None] - wanted) / width) ** 2)
    means = (weight.T @ lab) / weight.sum(axis=0)[:, None]
    # The kernel drags the ends inwards: the lightness is set to the value asked for.
    lightness = np.interp(wanted, np.sort(value), np.sort(lab[:, 0]))
    return np.column_stack([lightness, means[:, 1:]])


def mix_string(
    lab: Floats, palette: Palette, count: int = 5, wishes: Wishes | None = None, clip: bool = False
) -> tuple[Tone, ...]:
    """A string for a region, darkest first, all tones from one set of tubes.

    Parameters
    ----------
    lab
        (n, 3) L*a*b* of the region's pixels.
    palette
        Opaque tubes.
    count
        3–9 tones.
    wishes
        What every tone must keep to.
    clip
        Clip to the palette's reach instead of compressing.

    Raises
    ------
    Refusal
        For washes, or as `tone_targets`.
    """
    if palette.transparent:
        raise Refusal("a string is mixed from opaque paint; thin a wash with water instead")
    wishes = wishes or Wishes()
    allowed = wishes.palette(palette)
    seen = tone_targets(lab, count)
    targets = map_target(seen, palette_reach(allowed), clip)
    chosen = allowed.with_tubes(_common_tubes(targets, allowed, wishes))
    tones: list[Tone] = []
    shares: Doubles | None = None
    for here, target in zip(seen, targets, strict=True):
        recipe = solve_recipes(as_lab(target), chosen, wishes, 1)[0]
        if shares is None:
            tones.append(Tone(as_lab(here), recipe, 0, {}, recipe.predicted))
            parts = np.array([recipe.parts.get(k, 0) for k in chosen.tubes], dtype=np.float64)
            shares = parts / parts.sum()
            continue
        base, added, colour = _step(shares, target, chosen, tones[-1].stepped.value)
        shares = base * shares + added
        shares /= shares.sum()
        named = {k: int(p) for k, p in zip(chosen.tubes, added, strict=True) if p > 0}
        tones.append(Tone(as_lab(here), recipe, base, named, colour))
    return tuple(tones)


def _common_tubes(targets: Doubles, palette: Palette, wishes: Wishes) -> tuple[str, ...]:
    """The one set of tubes that serves all tones best."""
    count = len(palette.tubes)
    must = {palette.tubes.index(key) for key in wishes.must}
    every = combinations(range(count), min(wishes.most_tubes, count))
    sets: Ints = np.array([c for c in every if must <= set(c)], dtype=np.int32)
    if len(sets) > _SHORTLIST_SETS:
        # What can do neither end can do no string: both ends narrow the choice.
        ends = [TubeSets(targets[i], palette, sets).errors(4) for i in (0, -1)]
        sets = sets[np.argsort(ends[0] + ends[1], kind="stable")[:_SHORTLIST_SETS]]
    error = np.sum([TubeSets(t, palette, sets).errors(6) for t in targets], axis=0)
    return tuple(palette.tubes[i] for i in sets[int(np.argmin(error))])


@cache
def _additions(tubes: int) -> tuple[Ints, Doubles]:
    """Every base (c,) with every way (c, tubes) of adding to one, two or three of the tubes."""
    grids = np.stack(np.meshgrid(*[_ADDED] * tubes, indexing="ij"), axis=-1).reshape(-1, tubes)
    grids = grids[((grids > 0).sum(axis=1) <= 3) & (grids.sum(axis=1) <= _MOST_ADDED)]
    bases = np.repeat(np.array(_BASES, dtype=np.int32), len(grids))
    return bases, np.tile(grids, (len(_BASES), 1)).astype(np.float64)


def _step(
    shares: Doubles, target: Doubles, palette: Palette, value_before: float
) -> tuple[int, Doubles, Colour]:
    """Base, and parts added to it, that come nearest to the next target, and what they make."""
    bases, added = _additions(len(shares))
    sets = TubeSets(target, palette, np.arange(len(shares), dtype=np.int32)[None])
    lab = sets.lab(bases[:, None] * shares + added, np.zeros(len(added), dtype=np.int32))
    rough = ((lab - target) ** 2 @ (2.5, 1, 1)) ** 0.5
    short = np.argsort(rough, kind="stable")[:300]
    cost = recipe_cost(lab[short], target) + _PART_COST * added[short].sum(axis=1)
    cost += 0.1 * (added[short] > 0).sum(axis=1)
    # Every tone is lighter than the one before.
    cost += np.where(lab_value(lab[short]) > value_before + 0.05, 0, 100)
    best = short[int(np.argmin(cost))]
    return int(bases[best]), added[best], Colour.of(lab[best])
