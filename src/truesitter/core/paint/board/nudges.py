"""Nudges: the smallest practical addition that moves a mixture one way, and what else it does."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import WARM_AXIS
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.board.puddles import SAME, WATER, Puddle
from truesitter.core.paint.board.tuning import MOST_NOTICED, PILES
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.recipes.mixing import Colour, mixture_reflectance
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles

Direction = Literal["warmer", "cooler", "lighter", "darker", "redder", "greener", "greyer"]
DIRECTIONS: tuple[Direction, ...] = get_args(Direction)


_NOTICED = {"warmer": 2.0, "cooler": 2.0, "redder": 2.0, "greener": 2.0, "greyer": 2.0, "lighter": 0.25,
            "darker": 0.25}  # fmt: skip
"""Smallest movement an eye notices: ΔE-like units, or value steps."""


@dataclass(frozen=True)
class Nudge:
    """One addition.

    Attributes
    ----------
    direction
        Which way.
    tube, pile
        One part of this tube, or of water or the same paint, to so many parts of the mixture or puddle.
    predicted
        The colour it makes.
    moved
        How far it goes that way: value steps for lighter and darker, else ΔE-like units.
    side_effects
        What else changes, in words; empty when nothing an eye would notice.
    """

    direction: Direction
    tube: str
    pile: int
    predicted: Colour
    moved: float
    side_effects: str


def _movement(before: Colour, labs: Doubles, values: Doubles, direction: Direction) -> Doubles:
    delta = labs - np.array(before.lab)
    chroma_before = np.hypot(before.lab[1], before.lab[2])
    along_warm = delta[..., 1:] @ WARM_AXIS
    moved: dict[str, Doubles] = {
        "warmer": along_warm,
        "cooler": -along_warm,
        "lighter": values - before.value,
        "darker": before.value - values,
        "redder": delta[..., 1],
        "greener": -delta[..., 1],
        "greyer": chroma_before - np.hypot(labs[..., 1], labs[..., 2]),
    }
    return moved[direction]


def _words(before: Colour, after: Colour, direction: Direction) -> str:
    """What changed besides the wanted, as a painter would say it."""
    said = []
    step = after.value - before.value
    if direction not in ("lighter", "darker") and abs(step) >= _NOTICED["lighter"]:
        said.append(f"{abs(step):.1f} steps {'lighter' if step > 0 else 'darker'}")
    chroma = np.hypot(*after.lab[1:]) - np.hypot(*before.lab[1:])
    if direction != "greyer" and abs(chroma) >= _NOTICED["greyer"]:
        said.append("stronger in colour" if chroma > 0 else "greyer")
    red = after.lab[1] - before.lab[1]
    if direction not in ("redder", "greener") and abs(red) >= _NOTICED["redder"]:
        said.append("redder" if red > 0 else "greener")
    yellow = after.lab[2] - before.lab[2]
    if direction not in ("warmer", "cooler") and abs(yellow) >= _NOTICED["warmer"]:
        said.append("yellower" if yellow > 0 else "bluer")
    return ", ".join(said)


def nudge(
    parts: dict[str, int], palette: Palette, direction: Direction, dilution: Dilution | None = None
) -> Nudge | None:
    """The addition that moves a mixture one way with least side effects.

    Parameters
    ----------
    parts
        The mixture; its tubes must be on the palette's rack.
    palette
        The tubes at hand.
    direction
        One of `DIRECTIONS`.
    dilution
        How a wash is thinned; into its puddle go tubes, water or more of the same paint.

    Returns
    -------
    Nudge or None
        None when nothing at hand moves it that way by what an eye notices.

    Raises
    ------
    Refusal
        For an unknown direction, or a wash that is not thinned.
    """
    if direction not in DIRECTIONS:
        raise Refusal(f"a mixture can be made {', '.join(DIRECTIONS)}; not “{direction}”")
    tubes = tuple(dict.fromkeys((*parts, *palette.tubes)))
    base = np.array([parts.get(k, 0) for k in tubes], dtype=np.float64)
    if palette.transparent:
        if dilution is None:
            raise Refusal("a wash is thinned with something")
        looks = _puddles(parts, dilution, palette.with_tubes(tubes))
        return _purest(direction, *looks, palette.tubes, False)
    base /= base.sum()
    trials = np.concatenate([[base], *[base + np.eye(len(tubes)) / pile for pile in PILES]])
    k, s = palette.rack.curves(tubes)
    labs = reflectance_to_lab(mixture_reflectance(trials, k, s, palette))
    return _purest(
        direction, tubes, labs[0], labs[1:].reshape(len(PILES), len(tubes), 3), palette.tubes, True
    )


def _puddles(
    parts: dict[str, int], dilution: Dilution, palette: Palette
) -> tuple[tuple[str, ...], Doubles, Doubles]:
    """What can go into a puddle, its colour (3,), and that with each in each pile, (piles, things, 3)."""
    tubes = palette.tubes
    puddle, count = Puddle.of(parts, dilution, tubes), len(tubes)
    drops = np.insert(puddle.things(), count, 0.0, axis=0)
    water = np.zeros(count + 2)
    water[count] = 1.0
    rows = [puddle.plus(np.full(count + 2, float(pile)), drops, water)[0] for pile in PILES]
    looks = puddle.looks(np.concatenate([puddle.paint[None], *rows]), palette)
    return (*tubes, WATER, SAME), looks[0], looks[1:].reshape(len(PILES), count + 2, 3)


def _purest(
    direction: Direction, things: tuple[str, ...], lab: Doubles, colours: Doubles, tubes: tuple[str, ...],
    smallest: bool,
) -> Nudge | None:  # fmt: skip
    """Of each thing the least that is noticed, and of those the one that changes least else.

    Of opaque paint only the `smallest` additions of all count; a puddle takes any amount of water.
    """
    before, noticed = Colour.of(lab), _NOTICED[direction]
    at_hand = np.array([k in tubes or k in (WATER, SAME) for k in things])
    values = lab_value(colours)
    moved = _movement(before, colours, values, direction)
    enough = (moved >= noticed) & (moved <= MOST_NOTICED * noticed) & at_hand
    if not enough.any():
        return None
    first = enough & (np.cumsum(enough, axis=0) == 1)
    if smallest:
        first &= np.arange(len(PILES))[:, None] == int(enough.any(axis=1).argmax())
    # The purest movement: most of what changes is what was asked for.
    purity = moved / np.maximum(delta_e_2000(colours, np.array(before.lab)), 0.1)
    pile, best = np.unravel_index(int(np.argmax(np.where(first, purity, -np.inf))), first.shape)
    after = Colour.of(colours[pile, best])
    return Nudge(
        direction, things[best], PILES[pile], after, float(moved[pile, best]),
        _words(before, after, direction),
    )  # fmt: skip
