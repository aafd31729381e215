"""Piles a hand can measure: how much of a mixture must be made so that none of its parts is too small."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from truesitter.core.paint.board.tuning import SMALLEST_PILE_ML
from truesitter.core.paint.recipes.let_down import told_by_heaps
from truesitter.core.paint.recipes.tuning import HEAP_PARTS

_WHOLE = HEAP_PARTS + 1


@dataclass(frozen=True)
class Measured:
    """How much of a mixture is made.

    Attributes
    ----------
    ml
        Made, at least what was wanted.
    tubes_ml
        Out of each tube, with what stays over of the heaps.
    piles_ml
        Every pile that is measured: parts, heaps and what heaps are made from.
    """

    ml: float
    tubes_ml: dict[str, float]
    piles_ml: tuple[float, ...]


def measured(parts: Mapping[str, int], ml: float) -> Measured:
    """So much of a mixture that every pile of it can be measured.

    Parameters
    ----------
    parts
        Whole parts straight from the tubes; told by heaps where they are.
    ml
        Wanted, ≥ 0; of nothing nothing is made.
    """
    if ml <= 0:
        return Measured(0.0, dict.fromkeys(parts, 0.0), ())
    told = told_by_heaps(dict(parts))
    counted = told.parts if told else dict(parts)
    total, least = sum(counted.values()), min(counted.values())
    made = max(ml, SMALLEST_PILE_ML * total / least)
    tubes = dict.fromkeys(parts, 0.0)
    piles = []
    for key, count in counted.items():
        pile = made * count / total
        piles.append(pile)
        for _ in range(told.heaps.get(key, 0) if told else 0):
            # A heap is made as large as its own smallest part asks for; what is over stays on the palette.
            heap = max(pile, SMALLEST_PILE_ML * _WHOLE)
            pile = heap / _WHOLE
            if told:
                tubes[told.into] += heap - pile
            piles += [pile, heap - pile]
        tubes[key] += pile
    return Measured(made, tubes, tuple(piles))
