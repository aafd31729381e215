"""From one heap to the next colour: the tubes that serve several colours, and the smallest addition."""

from __future__ import annotations

from functools import cache
from itertools import combinations, product

import numpy as np

from truesitter.core.colour.value import lab_value
from truesitter.core.paint.board.tuning import ADDED, MOST_ADDED, SHORTLIST_SETS, STEPS_PART_COST
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.pigment_shares import TubeSets
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.types import Doubles, Ints


def common_tubes(targets: Doubles, palette: Palette, wishes: Wishes) -> tuple[str, ...]:
    """The one set of tubes that serves all tones best.

    Parameters
    ----------
    targets
        (n, 3) L*a*b*.
    palette
        The tubes that may be used.
    wishes
        What the painter asks of recipes.

    Returns
    -------
    tuple[str, ...]
        Keys.
    """
    count = len(palette.tubes)
    must = {palette.tubes.index(key) for key in wishes.must}
    every = combinations(range(count), min(wishes.most_tubes, count))
    sets: Ints = np.array([c for c in every if must <= set(c)], dtype=np.int32)
    if len(sets) > SHORTLIST_SETS:
        # What can do neither end can do no string: both ends narrow the choice.
        ends = [TubeSets(targets[i], palette, sets).errors(4) for i in (0, -1)]
        sets = sets[np.argsort(ends[0] + ends[1], kind="stable")[:SHORTLIST_SETS]]
    error = np.sum([TubeSets(t, palette, sets).errors(6) for t in targets], axis=0)
    return tuple(palette.tubes[i] for i in sets[int(np.argmin(error))])


@cache
def _additions(tubes: int, choice: tuple[int, ...], kinds: int) -> tuple[Ints, Doubles]:
    """Every base (c,) with every way (c, tubes) of adding to some of so many tubes at once."""
    ways = [np.zeros((1, tubes))]
    for count in range(1, kinds + 1):
        amounts = np.array(list(product(ADDED, repeat=count)), dtype=np.float64)
        amounts = amounts[amounts.sum(axis=1) <= MOST_ADDED]
        for chosen in combinations(range(tubes), count):
            added = np.zeros((len(amounts), tubes))
            added[:, chosen] = amounts
            ways.append(added)
    every = np.concatenate(ways)
    return np.repeat(np.array(choice, dtype=np.int32), len(every)), np.tile(every, (len(choice), 1))


def step_to(
    shares: Doubles,
    target: Doubles,
    palette: Palette,
    bases: tuple[int, ...],
    lighter_than: float = -1.0,
    kinds: int = 3,
    most: int = 14,
) -> tuple[int, Doubles, Colour]:
    """Parts of a heap and parts added to them that come nearest to a colour, and what they make.

    Parameters
    ----------
    shares
        (n,) of the palette's tubes in the heap.
    target
        (3,) L*a*b*.
    bases
        Parts that may be taken of the heap.
    lighter_than
        Value that must be exceeded.
    kinds
        How many tubes are added at once, at most.
    most
        How many there may be in all, those of the heap included.
    """
    choice, added = _additions(len(shares), bases, kinds)
    kept = ((shares > 0) | (added > 0)).sum(axis=1) <= most
    choice, added = choice[kept], added[kept]
    sets = TubeSets(target, palette, np.arange(len(shares), dtype=np.int32)[None])
    lab = sets.lab(choice[:, None] * shares + added, np.zeros(len(added), dtype=np.int32))
    rough = ((lab - target) ** 2 @ (2.5, 1, 1)) ** 0.5
    short = np.argsort(rough, kind="stable")[:300]
    cost = recipe_cost(lab[short], target) + STEPS_PART_COST * added[short].sum(axis=1)
    cost += 0.1 * (added[short] > 0).sum(axis=1)
    cost += np.where(lab_value(lab[short]) > lighter_than, 0, 100)
    best = short[int(np.argmin(cost))]
    return int(choice[best]), added[best], Colour.of(lab[best])
