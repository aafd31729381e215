"""Flesh: a mixture for every value group of the skin."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.paint.board.tuning import SMALLEST_SHARE
from truesitter.core.paint.recipes.reach import Reach, map_target, palette_reach
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import Suggestion, solve_recipes, suggest_tube
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.types import Doubles, Floats, Labels, Mask


@dataclass(frozen=True)
class Mixture:
    """The mixture for one value group of the skin, or for one spot.

    Attributes
    ----------
    group
        Value group, 0 = darkest.
    seen_lab
        Mean colour in the photograph, before it is fitted into the palette's reach.
    share
        Part of the skin it covers, 0–1.
    recipe, suggestion
        Parts of paint, and the tube that would help when the target cannot be reached.
    """

    group: int
    seen_lab: Lab
    share: float
    recipe: Recipe
    suggestion: Suggestion | None


@dataclass(frozen=True)
class Flesh:
    """All mixtures of the skin, darkest first, and the palette's reach."""

    mixtures: tuple[Mixture, ...]
    reach: Reach


def target_for(lab: Doubles, palette: Palette, clip: bool = False, monochrome: bool = False) -> Doubles:
    """What is to be mixed for a colour of the photograph (..., 3).

    Fitted into the reach of the palette, of which only tubes that may be used should be left; in
    monochrome only its value counts.

    Parameters
    ----------
    lab
        (..., 3) L*a*b* of the photograph.
    palette
        The tubes that may be used.
    clip
        True to keep to the nearest value that can be reached; False to fit the whole range.
    monochrome
        True where only the value counts.

    Returns
    -------
    Doubles
        (..., 3) L*a*b*.
    """
    target = map_target(lab, palette_reach(palette), clip)
    if monochrome:
        target[..., 1:] = 0
    return target


def mix_colour(
    lab: Doubles,
    palette: Palette,
    wishes: Wishes | None = None,
    clip: bool = False,
    monochrome: bool = False,
) -> tuple[Recipe, Suggestion | None]:
    """Recipe for a colour of the photograph, and the tube that would help; see `target_for`.

    Parameters
    ----------
    lab
        (3,) L*a*b* of the photograph.
    palette
        The tubes that may be used.
    wishes
        What the painter asks of recipes.
    clip
        True to keep to the nearest value that can be reached; False to fit the whole range.
    monochrome
        True where only the value counts.

    Returns
    -------
    tuple[Recipe, Suggestion | None]
        Recipe, and a tube or None.
    """
    wishes = wishes or Wishes()
    target = target_for(lab, wishes.palette(palette), clip, monochrome)
    recipe = solve_recipes(as_lab(target), palette, wishes, 1)[0]
    return recipe, suggest_tube(recipe, palette, wishes)


def mix_flesh(
    lab: Floats,
    groups: Labels,
    skin: Mask,
    palette: Palette,
    wishes: Wishes | None = None,
    clip: bool = False,
    monochrome: bool = False,
) -> Flesh:
    """A mixture for each value group inside the skin.

    Parameters
    ----------
    lab, groups, skin
        (H, W, 3), (H, W) and (H, W) maps of the framed picture.
    palette, wishes, clip, monochrome
        As for `mix_colour`.
    """
    area = int(skin.sum())
    mixtures = []
    if area:
        inside, colours = groups[skin], lab[skin]
        count = np.bincount(inside)
        for group in np.flatnonzero(count / area >= SMALLEST_SHARE):
            seen = colours[inside == group].mean(axis=0, dtype=np.float64)
            recipe, suggestion = mix_colour(seen, palette, wishes, clip, monochrome)
            share = float(count[group] / area)
            mixtures.append(Mixture(int(group), as_lab(seen), share, recipe, suggestion))
    return Flesh(tuple(mixtures), palette_reach((wishes or Wishes()).palette(palette)))
