"""Strings: a row of tones from the darkest to the lightest of a region, each made from the one before."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.board.puddles import Puddle, puddle_step
from truesitter.core.paint.board.steps import common_tubes, step_to
from truesitter.core.paint.board.tuning import KERNEL, STRINGS_BASES, STRINGS_SAMPLE, TAILS
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.reach import map_target, palette_reach
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipes
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Floats


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
    lab = lab[:: max(1, len(lab) // STRINGS_SAMPLE)]
    value = lab_value(np.asarray(lab, dtype=np.float64))
    low, high = np.quantile(value, TAILS)
    if high - low < 0.3:
        raise SingleValue("this region holds hardly more than one value: a single mixture will do")
    wanted = np.linspace(low, high, count)
    width = KERNEL * (high - low) / (count - 1)
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
        The tubes; a string of washes is one puddle, from strong to weak.
    count
        3–9 tones.
    wishes
        What every tone must keep to.
    clip
        Clip to the palette's reach instead of compressing.

    Raises
    ------
    Refusal
        As `tone_targets`.
    """
    wishes = wishes or Wishes()
    allowed = wishes.palette(palette)
    seen = tone_targets(lab, count)
    targets = map_target(seen, palette_reach(allowed), clip)
    return tones_along(seen, targets, allowed, wishes, rising=True)


def tones_along(
    seen: Doubles, targets: Doubles, allowed: Palette, wishes: Wishes, rising: bool = False
) -> tuple[Tone, ...]:
    """A mixture for each of a row of colours, each also made from the one before by a little more.

    Parameters
    ----------
    seen, targets
        (n, 3) L*a*b* in the picture, and as they are to be mixed; n ≥ 2.
    allowed
        The tubes that may be used; all tones come from one set of them.
    wishes
        What every tone must keep to.
    rising
        True when each tone has to be lighter than the one before.
    """
    if allowed.transparent:
        return _washes_along(seen, targets, allowed, wishes, rising)
    chosen = allowed.with_tubes(common_tubes(targets, allowed, wishes))
    tones: list[Tone] = []
    shares: Doubles | None = None
    for here, target in zip(seen, targets, strict=True):
        recipe = solve_recipes(as_lab(target), chosen, wishes, 1)[0]
        if shares is None:
            tones.append(Tone(as_lab(here), recipe, 0, {}, recipe.predicted))
            parts = np.array([recipe.parts.get(k, 0) for k in chosen.tubes], dtype=np.float64)
            shares = parts / parts.sum()
            continue
        lighter = tones[-1].stepped.value + 0.05 if rising else -1.0
        base, added, colour = step_to(shares, target, chosen, STRINGS_BASES, lighter)
        shares = base * shares + added
        shares /= shares.sum()
        named = {k: int(p) for k, p in zip(chosen.tubes, added, strict=True) if p > 0}
        tones.append(Tone(as_lab(here), recipe, base, named, colour))
    return tuple(tones)


def _washes_along(
    seen: Doubles, targets: Doubles, allowed: Palette, wishes: Wishes, rising: bool
) -> tuple[Tone, ...]:
    """The same in washes: one puddle, carried on with water and drops."""
    tones: list[Tone] = []
    puddle: Puddle | None = None
    for here, target in zip(seen, targets, strict=True):
        recipe = solve_recipes(as_lab(target), allowed, wishes, 1)[0]
        assert recipe.dilution is not None
        if puddle is None:
            tones.append(Tone(as_lab(here), recipe, 0, {}, recipe.predicted))
            puddle = Puddle.of(recipe.parts, recipe.dilution, allowed.tubes)
            continue
        lighter = tones[-1].stepped.value + 0.05 if rising else -1.0
        base, added, colour, puddle = puddle_step(puddle, target, allowed, lighter, wishes.most_tubes)
        tones.append(Tone(as_lab(here), recipe, base, added, colour))
    return tuple(tones)
