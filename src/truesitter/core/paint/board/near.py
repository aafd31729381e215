"""Near mixtures: one area wants several, all from one heap, each a small addition away (common practice)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import as_lab
from truesitter.core.paint.board.puddles import Puddle, puddle_step
from truesitter.core.paint.board.steps import step_to
from truesitter.core.paint.board.tuning import (
    FEW_TUBES,
    LEAST_APART,
    MOST_APART,
    NEAR_BASES,
    NEAR_SAMPLE,
    NOISE,
    STEPS,
)
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.reach import map_target, palette_reach
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipes
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Floats


@dataclass(frozen=True)
class Near:
    """One near mixture.

    Attributes
    ----------
    base, added
        Parts of the heap, and what is added to them.
    target, made
        Colour wanted and made.
    """

    base: int
    added: dict[str, int]
    target: Colour
    made: Colour


@dataclass(frozen=True)
class NearMixtures:
    """The heap of an area and the mixtures round it."""

    heap: Recipe
    near: tuple[Near, ...]


def near_targets(lab: Floats) -> Doubles:
    """Mean colour of an area, then one to either side of it along those of its first two axes it varies in.

    Parameters
    ----------
    lab
        (n, 3) L*a*b* of the area's pixels, n ≥ 1.

    Returns
    -------
    (1, 3), (3, 3) or (5, 3)
        The mean first; alone for flat colour, with two more for greys. The others lie one
        standard deviation away, but `LEAST_APART` to `MOST_APART` in ΔE2000.

    Raises
    ------
    Refusal
        For no pixels.
    """
    if not len(lab):
        raise Refusal("an area without pixels has no colours")
    sample = np.asarray(lab[:: max(1, len(lab) // NEAR_SAMPLE)], dtype=np.float64)
    mean = sample.mean(axis=0)
    spread, axes = np.linalg.eigh(np.cov((sample - mean).T, bias=True))
    found = [mean]
    for axis, variance in zip(axes.T[::-1][:2], spread[::-1][:2], strict=True):
        if variance < NOISE**2:
            continue
        # The lighter side first, so that the order does not hang on a sign nobody chose.
        way = axis if (axis[0], axis[1]) > (0.0, 0.0) else -axis
        found += [_apart(mean, sign * way, float(np.sqrt(variance))) for sign in (1, -1)]
    return np.array(found)


def _apart(mean: Doubles, way: Doubles, usual: float) -> Doubles:
    """The point on a ray nearest to the usual distance that is neither too near nor too far."""
    steps = np.linspace(0, 4 * MOST_APART, 40 * STEPS)
    points = mean + steps[:, None] * way
    points[:, 0] = np.clip(points[:, 0], 0, 100)
    apart = delta_e_2000(points, mean)
    allowed = (apart >= LEAST_APART) & (apart <= MOST_APART)
    if not allowed.any():
        return np.asarray(points[int(np.argmax(apart))])
    return np.asarray(points[allowed][int(np.abs(steps[allowed] - usual).argmin())])


def near_mixtures(
    lab: Floats, palette: Palette, wishes: Wishes | None = None, clip: bool = False
) -> NearMixtures:
    """The heap for an area's mean colour, and small additions to it for the colours round it.

    Parameters
    ----------
    lab
        (n, 3) L*a*b* of the area's pixels, n ≥ 1.
    palette, wishes
        Tubes, and what the recipes must keep to; a wash has a puddle for its heap.
    clip
        Clip to the palette's reach instead of compressing.

    Raises
    ------
    Refusal
        For no pixels.
    """
    wishes = wishes or Wishes()
    allowed = wishes.palette(palette)
    targets = map_target(near_targets(lab), palette_reach(allowed), clip)
    heap = solve_recipes(as_lab(targets[0]), allowed, wishes, 1)[0]
    # What is wanted is the difference from the heap as it is, not from the heap as it was meant.
    wanted_of = targets[1:] + (np.array(heap.predicted.lab) - targets[0])
    if heap.dilution is not None:
        puddle = Puddle.of(heap.parts, heap.dilution, allowed.tubes)
        steps = [puddle_step(puddle, wanted, allowed, most=wishes.most_tubes) for wanted in wanted_of]
        pairs = zip(targets[1:], steps, strict=True)
        return NearMixtures(heap, tuple(Near(s[0], s[1], Colour.of(t), s[2]) for t, s in pairs))
    parts = np.array([heap.parts.get(k, 0) for k in allowed.tubes], dtype=np.float64)
    shares = parts / parts.sum()
    kinds = min(3 if len(allowed.tubes) <= FEW_TUBES else 2, wishes.most_tubes)
    found = []
    for target, wanted in zip(targets[1:], wanted_of, strict=True):
        base, added, made = step_to(shares, wanted, allowed, NEAR_BASES, kinds=kinds, most=wishes.most_tubes)
        named = {k: int(p) for k, p in zip(allowed.tubes, added, strict=True) if p > 0}
        found.append(Near(base, named, Colour.of(target), made))
    return NearMixtures(heap, tuple(found))
