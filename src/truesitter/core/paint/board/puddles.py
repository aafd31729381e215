"""Puddles: thinned paint, steered by a drop of a tube, more water, or more of the same paint.

A wash is not mixed like a heap: what is added changes hue and strength at once, and water alone
makes it lighter. Parts are of the puddle as it stands, water and all.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from itertools import combinations, product

import numpy as np

from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.board.tuning import (
    DROPS,
    MORE_WATER,
    PUDDLE_ADDITION_COST,
    PUDDLE_BASES,
    STEPS_PART_COST,
)
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.tuning import BLOTTED
from truesitter.core.paint.recipes.mixing import Colour, mixture_reflectance
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.types import Doubles

WATER, SAME = "water", "more of the same paint"
"""What goes into a puddle besides tubes, by what it is called."""


@dataclass(frozen=True)
class Puddle:
    """A puddle of one part.

    Attributes
    ----------
    paint
        (n,) part of it that is of each tube of a palette.
    water
        Part of it that is water; all of them sum to 1.
    blotted
        True for washes that are blotted at once.
    """

    paint: Doubles
    water: float
    blotted: bool = False

    @classmethod
    def of(cls, parts: dict[str, int], dilution: Dilution, tubes: tuple[str, ...]) -> Puddle:
        """The puddle of a recipe.

        Parameters
        ----------
        parts
            By tube; all of them among `tubes`.
        dilution
            How that paint is thinned.
        tubes
            Of the palette.
        """
        shares = np.array([parts.get(key, 0) for key in tubes], np.float64)
        return cls(
            shares / shares.sum() / (1 + dilution.ratio), 1 - 1 / (1 + dilution.ratio), dilution.blotted
        )

    def things(self) -> Doubles:
        """What a part of each tube, then of the same paint, holds of each tube; (n + 1, n)."""
        return np.concatenate([np.eye(len(self.paint)), self.paint[None] / self.paint.sum()])

    def plus(self, base: Doubles, drops: Doubles, water: Doubles) -> tuple[Doubles, Doubles]:
        """What is in so many parts of it with something added.

        Parameters
        ----------
        base
            (c,) parts taken of it.
        drops
            (c, n) parts of each tube that go in.
        water
            (c,) parts of water that go in.

        Returns
        -------
        paint, water
            (c, n) and (c,) parts of what that makes, each row summing to 1 with its water.
        """
        paint = base[:, None] * self.paint + drops
        wet = base * self.water + water
        whole = paint.sum(axis=1) + wet
        return paint / whole[:, None], wet / whole

    def with_added(self, base: int, drops: Doubles, water: int) -> Puddle:
        """The puddle that an addition makes; `drops` (n,)."""
        paint, wet = self.plus(np.array([float(base)]), drops[None], np.array([float(water)]))
        return Puddle(paint[0], float(wet[0]), self.blotted)

    def looks(self, paint: Doubles, palette: Palette) -> Doubles:
        """L*a*b* (c, 3) of washes of which so much (c, n) is paint, dry, on what the palette's lie on."""
        thinning = palette.thinning
        films = paint * thinning.strength * thinning.film * (BLOTTED if self.blotted else 1.0)
        k, s = palette.rack.curves(palette.tubes)
        return np.asarray(reflectance_to_lab(mixture_reflectance(films, k, s, palette)))


@cache
def _additions(things: int) -> tuple[Doubles, Doubles, Doubles]:
    """Every base (c,), drops of each thing (c, things) and water (c,) of one step."""
    ways = [np.zeros((1, things))]
    for count in (1, 2):
        amounts = np.array(list(product(DROPS, repeat=count)), np.float64)
        for chosen in combinations(range(things), count):
            added = np.zeros((len(amounts), things))
            added[:, chosen] = amounts
            ways.append(added)
    drops = np.concatenate(ways)
    rows = [(base, round(base * more)) for base in PUDDLE_BASES for more in MORE_WATER]
    base, water = (np.repeat(np.array(column, np.float64), len(drops)) for column in zip(*rows, strict=True))
    return base, np.tile(drops, (len(rows), 1)), water


def puddle_step(
    puddle: Puddle, target: Doubles, palette: Palette, lighter_than: float = -1.0, most: int = 14
) -> tuple[int, dict[str, int], Colour, Puddle]:
    """The smallest addition that takes a puddle nearest to a colour.

    Parameters
    ----------
    puddle
        In the tubes of the palette.
    target
        (3,) L*a*b*.
    palette
        Washes.
    lighter_than
        Value that must be exceeded.
    most
        How many tubes there may be in all, those of the puddle included.

    Returns
    -------
    base, added, colour, puddle
        Parts of the puddle, what goes into them, and what that makes.
    """
    base, things, water = _additions(len(palette.tubes) + 1)
    drops = things @ puddle.things()
    paint, _ = puddle.plus(base, drops, water)
    labs = puddle.looks(paint, palette)
    cost = recipe_cost(labs, target) + STEPS_PART_COST * things.sum(axis=1)
    cost += PUDDLE_ADDITION_COST * ((things > 0).sum(axis=1) + (water > 0))
    cost += np.where(lab_value(labs) > lighter_than, 0, 100)
    cost += np.where(((puddle.paint > 0) | (drops > 0)).sum(axis=1) <= most, 0, 1000)
    best = int(cost.argmin())
    added = {key: int(n) for key, n in zip((*palette.tubes, SAME), things[best], strict=True) if n}
    if water[best]:
        added = {WATER: int(water[best])} | added
    made = puddle.with_added(int(base[best]), drops[best], int(water[best]))
    return int(base[best]), added, Colour.of(labs[best]), made
