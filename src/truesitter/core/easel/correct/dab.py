"""A dab of paint beside the spot it is meant for: how far off it is, and what to add."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab
from truesitter.core.colour.value import lab_value
from truesitter.core.easel.compare.difference_words import colour_words, in_steps
from truesitter.core.easel.compare.tuning import SILENT_COLOUR
from truesitter.core.easel.correct.tuning import RIGHT
from truesitter.core.paint.board.nudges import Direction, Nudge, nudge
from truesitter.core.paint.tubes.palettes import Palette


@dataclass(frozen=True)
class DabCheck:
    """A dab beside what is wanted.

    Attributes
    ----------
    lab, wanted
        L*a*b* of either.
    steps
        Value steps by which the dab is too light.
    words
        In a sentence.
    direction, addition
        Which way it has to go, and what to add; None where it is right, or no recipe is known.
    """

    lab: Lab
    wanted: Lab
    steps: float
    words: str
    direction: Direction | None
    addition: Nudge | None


def check_dab(lab: Lab, wanted: Lab, parts: dict[str, int], palette: Palette) -> DabCheck:
    """Hold a dab to a colour.

    Parameters
    ----------
    parts
        The mixture on the brush, where it is known; without it the way is told, not the tube.
    """
    steps = float(lab_value(np.array(lab)) - lab_value(np.array(wanted)))
    delta = (lab[0] - wanted[0], lab[1] - wanted[1], lab[2] - wanted[2])
    colour = colour_words(delta, wanted)
    said = []
    if abs(steps) >= RIGHT:
        amount = "a little" if abs(steps) < 0.3 else in_steps(steps)
        said.append(f"{amount} too {'light' if steps > 0 else 'dark'}")
    if colour:
        said.append(colour)
    words = f"{', '.join(said)}.".capitalize() if said else "It matches: value and colour are right."
    direction = _direction(steps, delta)
    addition = nudge(parts, palette, direction) if direction and parts and not palette.transparent else None
    return DabCheck(lab, wanted, steps, words, direction, addition)


def _direction(steps: float, delta: tuple[float, float, float]) -> Direction | None:
    """What has to be changed first: value, then what is farthest off in colour."""
    if abs(steps) >= RIGHT:
        return "darker" if steps > 0 else "lighter"
    _, red, yellow = delta
    if np.hypot(red, yellow) < SILENT_COLOUR / 2:
        return None
    if abs(red) >= abs(yellow):
        return "greener" if red > 0 else "redder"
    return "cooler" if yellow > 0 else "warmer"
