"""What to do about a place: the film or the stroke that brings what is there to what is wanted.

Everything is reckoned over the colour that was measured, as a ground. A transparent film only ever darkens;
where the paint is too dark and cannot be covered, it is lifted, or its surroundings are taken down.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.easel.compare.difference_words import in_steps
from truesitter.core.easel.correct.tuning import BEYOND, LIFTS, NEAR, SCUMBLES, WORTH
from truesitter.core.paint.layered.films import ground_near
from truesitter.core.paint.layered.glazes import find_glazes
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.media.supports import Support
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.recipes.solver import solve_recipes
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.school.school_palettes import Palettes
from truesitter.core.types import Doubles

Kind = Literal["glaze", "scumble", "repaint", "lift", "neighbour", "opaque touch", "wipe"]


_TOUCH_WORDS = "a touch of opaque white mixture at the very end"


@dataclass(frozen=True)
class Remedy:
    """One thing to do about one place.

    Attributes
    ----------
    kind
        What is done.
    parts, dilution
        Mixture by volume, none where paint is taken off; how it is thinned.
    film_mm
        Wet film as it is laid; 0 where paint is taken off.
    predicted
        L*a*b* it comes to.
    steps_left
        Value steps by which the place is then still too light.
    wait_minutes
        Until what is there is dry enough; 0 for what is done into wet paint.
    whole
        True for all of the place, False where only the heart of it is meant and the rim fades.
    into_wet
        True where it has to be done while the paint is open.
    words
        In a sentence or two.
    """

    kind: Kind
    parts: dict[str, int]
    dilution: Dilution | None
    film_mm: float
    predicted: Lab
    steps_left: float
    wait_minutes: float
    whole: bool
    into_wet: bool
    words: str

    @property
    def enough(self) -> bool:
        """True when the place is right after it."""
        return abs(self.steps_left) <= NEAR


@dataclass(frozen=True)
class Bench:
    """With what a place is corrected.

    Attributes
    ----------
    palettes
        The tubes, thick and thin.
    wishes
        What recipes must keep to.
    medium, support
        What it is painted in and on.
    transparent
        True where the paper is the white.
    wet
        True when the paint there is still open.
    """

    palettes: Palettes
    wishes: Wishes
    medium: Medium
    support: Support
    transparent: bool
    wet: bool = False


def remedies(measured: Lab, wanted: Lab, bench: Bench, soft: bool = True) -> tuple[Remedy, ...]:
    """What can be done about a place, what disturbs least first among what is enough.

    Parameters
    ----------
    measured, wanted
        L*a*b* of the place as it is and as it should be.
    soft
        True where the place has no border of its own, so that a film over it has to fade out.
    """
    ground = ground_near(measured)
    goal = np.array(wanted)
    steps = float(lab_value(np.array(measured)) - lab_value(goal))
    found: list[Remedy] = []
    if bench.wet and not bench.transparent:
        found += _into_wet(measured, goal, bench, soft)
    if steps > -WORTH:
        found += _glazes(ground, goal, bench, steps, soft)
    if not bench.transparent:
        found += _scumbles(ground, goal, steps, bench, soft)
        found += _repaint(goal, bench, soft)
    elif steps < -WORTH:
        found += _lifts(ground, goal, bench, soft)
        found += _touch(goal, bench)
        found += _neighbour(measured, steps)
    before = abs(steps) + _colour(np.array(measured), goal)
    useful = [r for r in found if abs(r.steps_left) + _colour(np.array(r.predicted), goal) <= before - WORTH
              or r.kind == "neighbour"]  # fmt: skip
    return tuple(sorted(useful, key=lambda r: (not r.enough, _rank(r, goal))))


def _colour(lab: Doubles, goal: Doubles) -> float:
    """How far two colours lie apart in a* and b*, told in steps."""
    return float(np.hypot(*(lab - goal)[1:])) / 12


def _rank(one: Remedy, goal: Doubles) -> float:
    """What disturbs least, with what it leaves wrong counted in."""
    order = ("wipe", "glaze", "scumble", "lift", "repaint", "opaque touch", "neighbour")
    return order.index(one.kind) * 0.06 + abs(one.steps_left) + _colour(np.array(one.predicted), goal)


def _left(predicted: Doubles, goal: Doubles) -> float:
    return float(lab_value(predicted) - lab_value(goal))


def _where(soft: bool) -> str:
    return "over the heart of it, fading out before its rim" if soft else "over the whole shape"


def _glazes(ground: Doubles, goal: Doubles, bench: Bench, steps: float, soft: bool) -> list[Remedy]:
    """The best thin film; it must not lighten."""
    clear = bench.palettes.clear
    for one in find_glazes(ground, goal, clear, bench.medium.thinning, 3):
        if one.after.value > one.before.value + 0.02:
            continue
        after = np.array(one.after.lab)
        film = bench.medium.thinning.film
        words = f"Glaze it {_where(soft)}; laid once, it darkens by {in_steps(max(0.0, steps))}."
        return [Remedy("glaze", one.parts, one.dilution, film, one.after.lab, _left(after, goal),
                       bench.medium.wait_minutes, not soft, False, words)]  # fmt: skip
    return []


def _scumbles(ground: Doubles, goal: Doubles, steps: float, bench: Bench, soft: bool) -> list[Remedy]:
    """A thin dragged film of an opaque mixture past the goal, as thick as it takes."""
    own = bench.palettes.body
    best: tuple[float, Remedy] | None = None
    for beyond in BEYOND:
        aim = goal.copy()
        value = float(np.clip(lab_value(goal) - beyond * steps, 0.5, 9.5))
        aim[0] = float(value_to_lightness(value))
        recipe = solve_recipes(as_lab(aim), own, bench.wishes, 1)[0]
        k, s = own.rack.mixture(recipe.parts)
        labs = reflectance_to_lab(leave_surface(film_reflectance(k, s, SCUMBLES[:, None], ground)))
        cost = recipe_cost(labs, goal)
        at = int(cost.argmin())
        wet = float(SCUMBLES[at] / bench.medium.solids)
        made = Remedy(
            "scumble", recipe.parts, None, wet, as_lab(labs[at]), _left(labs[at], goal),
            bench.medium.wait_minutes, not soft, False,
            f"Drag it thinly {_where(soft)}, so that what is below still shows.",
        )  # fmt: skip
        if best is None or cost[at] < best[0]:
            best = float(cost[at]), made
    return [best[1]] if best else []


def _repaint(goal: Doubles, bench: Bench, soft: bool) -> list[Remedy]:
    recipe = solve_recipes(as_lab(goal), bench.palettes.body, bench.wishes, 1)[0]
    predicted = np.array(recipe.predicted.lab)
    words = "Paint it again " + ("and soften its rim." if soft else "up to its borders.")
    return [Remedy("repaint", recipe.parts, None, 0.1, recipe.predicted.lab, _left(predicted, goal),
                   bench.medium.wait_minutes, True, False, words)]  # fmt: skip


def _into_wet(measured: Lab, goal: Doubles, bench: Bench, soft: bool) -> list[Remedy]:
    """The mixture that makes the wanted colour together with as much of what is there."""
    aim = goal + (goal - np.array(measured))
    aim[0] = float(np.clip(aim[0], 3, 97))
    recipe = solve_recipes(as_lab(aim), bench.palettes.body, bench.wishes, 1)[0]
    k, s = bench.palettes.body.rack.mixture(recipe.parts)
    # What is there has the absorption of its own colour; both are worked together in equal parts.
    own = ground_near(measured)
    ratio = (1 - own) ** 2 / (2 * own)
    both = (k + ratio * s) / (2 * s)
    mixed = 1 + both - np.sqrt(both**2 + 2 * both)
    lab = reflectance_to_lab(leave_surface(mixed))
    words = "While it is open, work this into it in about equal parts" + (
        ", then feather the rim." if soft else "."
    )
    return [
        Remedy("wipe", recipe.parts, None, 0.1, as_lab(lab), _left(lab, goal), 0.0, not soft, True, words)
    ]


def _lifts(ground: Doubles, goal: Doubles, bench: Bench, soft: bool) -> list[Remedy]:
    """Part of the film taken off again: what is left of it absorbs that much less (Beer)."""
    least = LIFTS[bench.support.lightens]
    if least >= 1:
        return []
    paper = bench.support.internal()
    shares = np.linspace(1, least, 40)
    films = paper * np.clip(ground / paper, 1e-4, 1.0) ** shares[:, None]
    labs = reflectance_to_lab(leave_surface(films))
    values = lab_value(labs)
    at = int(np.abs(values - lab_value(goal)).argmin())
    if at == 0:
        return []
    words = (
        f"Lift it with a damp brush until {shares[at] * 100:.0f} per cent of the paint is left, "
        f"{_where(soft)}; "
        "blot, let dry, look again. Lifting dulls."
    )
    return [Remedy("lift", {}, None, 0.0, as_lab(labs[at]), _left(labs[at], goal),
                   bench.medium.wait_minutes, not soft, False, words)]  # fmt: skip


def _touch(goal: Doubles, bench: Bench) -> list[Remedy]:
    """Opaque white with the colours, where a transparent way has gone too dark."""
    body = bench.palettes.body
    if len(body.without_whites().tubes) == len(body.tubes):
        return []
    recipe = solve_recipes(as_lab(goal), body, bench.wishes, 1)[0]
    lab = np.array(recipe.predicted.lab)
    words = f"Only if it matters: {_TOUCH_WORDS}; it will look unlike the paper's own light."
    return [Remedy("opaque touch", recipe.parts, None, 0.05, recipe.predicted.lab, _left(lab, goal),
                   bench.medium.wait_minutes, True, False, words)]  # fmt: skip


def _neighbour(measured: Lab, steps: float) -> list[Remedy]:
    """What cannot be made lighter looks lighter beside something darker."""
    words = (
        f"It cannot be made lighter here. Take what lies round it down by {in_steps(steps)}: "
        "it will look lighter for it."
    )
    return [Remedy("neighbour", {}, None, 0.0, measured, steps, 0.0, False, False, words)]
