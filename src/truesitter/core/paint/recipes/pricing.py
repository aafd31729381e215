"""What a recipe costs: how far it is from its colour, and what it is to count out by hand.

Two prices. The *exact* one goes for the colour and hardly minds parts. The *easy* one asks no more of the
colour than a tolerance, and inside that for what a painter mixes without counting twice: few tubes, one
pile with a little of the rest beside it, nothing weakened first.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.recipes.tuning import (
    BESIDE_COST,
    BESIDE_PILE,
    DELTA_E_COST,
    EASY_DELTA_E,
    EASY_VALUE,
    EASY_VALUE_COST,
    HEAP_COST,
    INSIDE_COST,
    MORE_BESIDE_COST,
    MORE_PILE_COST,
    NEARER_DELTA_E,
    NEARER_VALUE,
    PILE,
    PILE_COST,
    ROUNDING_PART_COST,
    THICK_WASH_COST,
    VALUE_WEIGHT,
    WEAKENED_COST,
)
from truesitter.core.types import Doubles, Ints


@dataclass(frozen=True)
class Tolerance:
    """How far a recipe may be from its colour without anyone minding.

    Attributes
    ----------
    delta_e, value
        CIEDE2000 and Munsell value steps, both > 0.
    """

    delta_e: float = EASY_DELTA_E
    value: float = EASY_VALUE

    def times(self, factor: float) -> Tolerance:
        """So many times as wide."""
        return Tolerance(self.delta_e * factor, self.value * factor)

    def beyond(self, delta_e: float, value_error: float) -> Tolerance:
        """Never narrower than a little more than what the best shares of the tubes come to."""
        return Tolerance(
            max(self.delta_e, delta_e + NEARER_DELTA_E), max(self.value, abs(value_error) + NEARER_VALUE)
        )

    def holds(self, delta_e: float, value_error: float) -> bool:
        """True inside it."""
        return delta_e <= self.delta_e and abs(value_error) <= self.value


class Pricing(Protocol):
    """What candidates for one target cost."""

    @property
    def largest_total(self) -> int:
        """No more parts are counted out together."""

    @property
    def film_cost(self) -> float:
        """Of the thickest film that washes can make up together."""

    def cost(self, lab: Doubles, parts: Doubles, tubes: Ints, weakened: Ints) -> Doubles:
        """Cost (c,) of candidates.

        Parameters
        ----------
        lab, parts
            (c, 3) colours and (c, n) parts as they are counted out.
        tubes, weakened
            (c,) how many tubes are in them, and how often one is weakened first.
        """


def recipe_cost(lab: Doubles, target: Doubles) -> Doubles:
    """ΔE2000 and the value error, which costs more; of colours (…, 3) for one target."""
    value_error = np.abs(lab_value(lab) - lab_value(target))
    return np.asarray(delta_e_2000(lab, target) + VALUE_WEIGHT * value_error)


@dataclass(frozen=True)
class ExactPricing:
    """The colour first; a tube or a part more costs little."""

    target: Doubles
    tube_cost: float
    largest_total: int
    film_cost: float = 0.0

    def cost(self, lab: Doubles, parts: Doubles, tubes: Ints, weakened: Ints) -> Doubles:
        """See `Pricing`."""
        labour = self.tube_cost * tubes + ROUNDING_PART_COST * parts.sum(axis=1) + HEAP_COST * weakened
        return np.asarray(recipe_cost(lab, self.target) + labour)


@dataclass(frozen=True)
class EasyPricing:
    """Labour first, as long as the colour is inside its tolerance."""

    target: Doubles
    tolerance: Tolerance
    largest_total: int
    film_cost: float = THICK_WASH_COST

    def cost(self, lab: Doubles, parts: Doubles, tubes: Ints, weakened: Ints) -> Doubles:
        """See `Pricing`."""
        delta_e = delta_e_2000(lab, self.target) / self.tolerance.delta_e
        off = np.abs(lab_value(lab) - lab_value(self.target)) / self.tolerance.value
        past = DELTA_E_COST * self.tolerance.delta_e * np.maximum(delta_e - 1, 0)
        past += EASY_VALUE_COST * self.tolerance.value * np.maximum(off - 1, 0)
        inside = INSIDE_COST * (np.minimum(delta_e, 1) + np.minimum(off, 1))
        return np.asarray(past + inside + labour(parts, tubes) + WEAKENED_COST * weakened)


def labour(parts: Doubles, tubes: Ints) -> Doubles:
    """What counting out is, in the units of the easy price.

    Parameters
    ----------
    parts
        (c, n) whole parts.
    tubes
        (c,) how many tubes are in them.

    Returns
    -------
    Doubles
        (c,); a pile of up to eight parts with up to eight of the rest beside it costs little, more of
        either costs more, and more beside the pile most.
    """
    pile = parts.max(axis=1)
    rest = parts.sum(axis=1) - pile
    beside = BESIDE_COST * np.minimum(rest, BESIDE_PILE) + MORE_BESIDE_COST * np.maximum(
        rest - BESIDE_PILE, 0
    )
    piled = PILE_COST * np.minimum(pile, PILE) + MORE_PILE_COST * np.maximum(pile - PILE, 0)
    return np.asarray(tubes + beside + piled)


def least_labour(tubes: int) -> float:
    """The least that a recipe of so many tubes costs: a part of each."""
    return tubes + PILE_COST + BESIDE_COST * (tubes - 1)
