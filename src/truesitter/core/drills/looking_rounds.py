"""Drills of looking: values, differences of value, and temperature."""

from __future__ import annotations

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import WARM_AXIS
from truesitter.core.drills.drill_picture import DrillPicture
from truesitter.core.drills.rounds import (
    Answer,
    Patch,
    Places,
    Question,
    Rng,
    Round,
    Score,
    at_value,
    chosen,
    patch_of,
    told,
)
from truesitter.core.drills.tuning import DARK, FOOLING, LIGHT
from truesitter.core.types import Doubles


def name_value(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """How light one colour is."""
    patch = Patch.of(patch_of(picture, rng, places))
    return Round(Question(patches=(patch.hex,)), lambda a: _value_score(patch, level, told(a, 0, 10)))


def among_others(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """The same with a surround that makes it look lighter or darker than it is."""
    lab = patch_of(picture, rng, places)
    patch = Patch.of(lab)
    away = FOOLING if patch.value < 5 + rng.uniform(-2, 2) else -FOOLING
    around = Patch.of(at_value(lab * (1, 0.4, 0.4), float(np.clip(patch.value + away, 0.5, 9.5))))
    return Round(
        Question(patches=(patch.hex,), around=around.hex),
        lambda a: _value_score(patch, level, told(a, 0, 10)),
    )


def _value_score(patch: Patch, level: float, answer: float) -> Score:
    off = answer - patch.value
    side = "right on it" if abs(off) < 0.05 else f"{abs(off):.1f} steps too {'light' if off > 0 else 'dark'}"
    return Score(
        abs(off), abs(off) <= level, f"It is {patch.value:.1f}; you were {side}.", number=patch.value
    )


def which_is_lighter(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """Which of two colours of the picture is lighter."""
    one, other = patch_of(picture, rng, places), patch_of(picture, rng, places)
    middle = float(np.clip(Patch.of(one).value, DARK + level / 2, LIGHT - level / 2))
    pair = [Patch.of(at_value(one, middle + level / 2)), Patch.of(at_value(other, middle - level / 2))]
    order = rng.permutation(2)
    patches = [pair[n] for n in order]
    lighter = int(np.argmax([p.value for p in patches]))
    words = f"They are {patches[0].value:.1f} and {patches[1].value:.1f}."
    return Round(
        Question(patches=tuple(p.hex for p in patches)),
        lambda a: _choice_score(chosen(a, 2), lighter, level, words),
    )


def same_value(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """Which of four other colours is as light as one."""
    first = patch_of(picture, rng, places)
    # Between the rims three steps find room on one side at least.
    value = float(np.clip(Patch.of(first).value, DARK, LIGHT))
    sides = [s for s in (-1, 1) if DARK - 0.5 <= value + s * level <= LIGHT + 0.5] or [1 if value < 5 else -1]
    right = int(rng.integers(4))
    patches = []
    for n in range(4):
        hue = np.arctan2(first[2], first[1]) + np.radians(rng.uniform(40, 320))
        chroma = max(12.0, float(np.hypot(first[1], first[2]))) * rng.uniform(0.6, 1.2)
        away = 0.0 if n == right else float(rng.choice(sides)) * level
        patches.append(
            Patch.of(at_value(np.array([50, chroma * np.cos(hue), chroma * np.sin(hue)]), value + away))
        )
    shown = Patch.of(at_value(first, value))
    words = "They are " + ", ".join(f"{p.value:.1f}" for p in patches) + f"; the first is {shown.value:.1f}."
    return Round(
        Question(patches=(shown.hex, *(p.hex for p in patches))),
        lambda a: _choice_score(chosen(a, 4), right, level, words),
    )


def steps_between(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """By how many steps two colours of the picture differ."""
    one = patch_of(picture, rng, places)
    value = Patch.of(one).value
    away = rng.uniform(0.5, 5.0) * (1 if value < 5 else -1)
    pair = [
        Patch.of(one),
        Patch.of(at_value(patch_of(picture, rng, places), float(np.clip(value + away, 0.3, 9.7)))),
    ]
    patches = [pair[n] for n in rng.permutation(2)]
    true = abs(patches[0].value - patches[1].value)

    def score(answer: Answer) -> Score:
        off = told(answer, 0, 10) - true
        side = "right on it" if abs(off) < 0.05 else f"{abs(off):.1f} too {'many' if off > 0 else 'few'}"
        words = f"{patches[0].value:.1f} and {patches[1].value:.1f}: {true:.1f} steps; you were {side}."
        return Score(abs(off), abs(off) <= level, words, number=true)

    return Round(Question(patches=tuple(p.hex for p in patches)), score)


def warm_or_cool(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """Which of two equally light colours is warmer: nearer to orange in a*b*."""
    lab = patch_of(picture, rng, places)
    value = float(np.clip(Patch.of(lab).value, 2.5, 7.5))
    # Bright colours leave no room to move in: the screen would show both alike.
    base = at_value(lab * (1, 0.5, 0.5), value)
    axis = np.array([0.0, *WARM_AXIS])
    pair = _apart(base, axis, level)
    order = rng.permutation(2)
    patches = [pair[n] for n in order]
    warmer = int(np.argmax([np.dot(p.lab, axis) for p in patches]))
    apart = float(delta_e_2000(np.array(patches[0].lab), np.array(patches[1].lab)))
    words = f"They lie ΔE {apart:.1f} apart; the {('left', 'right')[warmer]} one is warmer."
    return Round(
        Question(patches=tuple(p.hex for p in patches)),
        lambda a: _choice_score(chosen(a, 2), warmer, level, words),
    )


def _apart(base: Doubles, axis: Doubles, wanted: float) -> list[Patch]:
    """Two patches so far apart (CIEDE2000) to either side of a colour, equally light."""
    low, high = 0.0, 60.0
    for _ in range(30):
        half = (low + high) / 2
        near = float(delta_e_2000(base - half * axis, base + half * axis)) < wanted
        low, high = (half, high) if near else (low, half)
    return [Patch.of(base + low * axis), Patch.of(base - low * axis)]


def _choice_score(choice: int, right: int, level: float, words: str) -> Score:
    hit = choice == right
    return Score(0.0 if hit else level, hit, f"{'Right.' if hit else 'No.'} {words}", choice=right)
