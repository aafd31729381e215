"""How far a place is off, as painters say it."""

from __future__ import annotations

import numpy as np

from truesitter.core.easel.compare.tuning import FRACTIONS, SILENT, SILENT_COLOUR
from truesitter.core.types import Doubles


def in_steps(steps: float) -> str:
    """An amount of value as it is said: ``two thirds of a step``."""
    amount = abs(steps)
    return next((words for top, words in FRACTIONS if amount < top), f"{amount:.0f} steps")


def value_words(steps: float) -> str:
    """``half a step too dark``."""
    return f"{in_steps(steps)} too {'light' if steps > 0 else 'dark'}"


def colour_words(delta: tuple[float, float, float], wanted: tuple[float, float, float]) -> str:
    """How a colour is off in hue and strength, value left aside; empty where it is not."""
    _, red, yellow = delta
    amount = float(np.hypot(red, yellow))
    if amount < SILENT_COLOUR / 2:
        return ""
    own = float(np.hypot(wanted[1], wanted[2]))
    along = (red * wanted[1] + yellow * wanted[2]) / own if own > 5 else 0.0
    how = (
        "a touch too" if amount < 1.6 * SILENT_COLOUR else "too" if amount < 3 * SILENT_COLOUR else "much too"
    )
    if abs(along) > 0.85 * amount:
        return f"{how} {'strong in colour' if along > 0 else 'grey'}"
    if abs(red) > 2 * abs(yellow):
        return f"{how} {'red' if red > 0 else 'green'}"
    if abs(yellow) > 2 * abs(red):
        return f"{how} {'yellow' if yellow > 0 else 'blue'}"
    warm = {(True, True): "warm (orange)", (True, False): "violet", (False, True): "green (yellowish)",
            (False, False): "cold (blue-green)"}  # fmt: skip
    return f"{how} {warm[(red > 0, yellow > 0)]}"


def sentence(place: str, steps: float, delta: tuple[float, float, float], wanted: Doubles) -> str:
    """What is wrong with a place, value first.

    Parameters
    ----------
    place
        Its name.
    steps
        Painted − planned, in value steps.
    delta
        Differences of L*, a*, b*.
    wanted
        (3,) planned L*a*b*.

    Returns
    -------
    str
        One sentence.
    """
    said = [value_words(steps)] if abs(steps) >= SILENT else []
    colour = colour_words(delta, (float(wanted[0]), float(wanted[1]), float(wanted[2])))
    if colour:
        said.append(colour)
    start = place[:1].upper() + place[1:]
    return f"{start}: {', '.join(said)}."
