"""How good an eye is, and how hard the next round should be.

Where one of several is chosen, the threshold is the difference at which a painter is right in so many
cases as `at_threshold` says. It is found by QUEST (Watson and Pelli 1983, *QUEST: A Bayesian adaptive
psychometric method*): a belief about the threshold, on a scale of logarithms, to which every answer adds
what it says by a Weibull function; the next round is shown at the mean of the belief, and so is the
estimate. Where something is told or drawn, the threshold is the typical error itself: the root of the
mean square of what the last answers were off by.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from truesitter.core.drills.drill_kinds import Drill
from truesitter.core.drills.tuning import GRID, LAPSE, REMEMBERED, SLOPE, SURE
from truesitter.core.types import Doubles


@dataclass(frozen=True)
class Told:
    """What a round says: its level, whether it was right, and what it was off by."""

    level: float
    right: bool
    off: float


@dataclass(frozen=True)
class Estimate:
    """How good an eye is.

    Attributes
    ----------
    threshold, error
        In the drill's unit, and its standard error.
    level
        At which the next round is best shown.
    rounds
        From how many it follows.
    """

    threshold: float
    error: float
    level: float
    rounds: int


def at_threshold(choices: int) -> float:
    """Part of the rounds that are right at the threshold: the Weibull function where it is steepest.

    Examples
    --------
    >>> round(at_threshold(4), 3)
    0.711
    """
    guess = 1 / choices
    return guess + (1 - guess - LAPSE) * (1 - float(np.exp(-1)))


def chance(level: Doubles | float, threshold: Doubles | float, choices: int) -> Doubles:
    """Probability of a right choice at a level.

    Parameters
    ----------
    level
        Difficulty asked.
    threshold
        Level at which three of four are right.
    choices
        To choose from; 0 for an answer without any.

    Returns
    -------
    Doubles
        0–1, of the shape of its arguments.

    Examples
    --------
    >>> round(float(chance(1.0, 1.0, 2)), 2)
    0.8
    """
    guess = 1 / choices
    return np.asarray(
        guess + (1 - guess - LAPSE) * (1 - np.exp(-((np.asarray(level) / np.asarray(threshold)) ** SLOPE)))
    )


def estimate(drill: Drill, rounds: Iterable[Told]) -> Estimate:
    """How good an eye is by its answers, oldest first."""
    last = list(rounds)[-REMEMBERED:]
    return _by_choices(drill, last) if drill.choices else _by_errors(drill, last)


def _by_choices(drill: Drill, rounds: list[Told]) -> Estimate:
    grid = np.linspace(np.log10(drill.least) - 0.5, np.log10(drill.most) + 0.3, GRID)
    belief = -0.5 * ((grid - np.log10(drill.start)) / SURE) ** 2
    for one in rounds:
        right = chance(one.level, 10**grid, drill.choices)
        belief = belief + np.log(right if one.right else 1 - right)
    weight = np.exp(belief - belief.max())
    weight /= weight.sum()
    mean = float(weight @ grid)
    spread = float(np.sqrt(weight @ (grid - mean) ** 2))
    threshold = 10**mean
    level = float(np.clip(threshold, drill.least, drill.most))
    return Estimate(float(threshold), float(threshold * np.log(10) * spread), level, len(rounds))


def _by_errors(drill: Drill, rounds: list[Told]) -> Estimate:
    """The first belief counts as two answers that were off by the drill's start, until there are ten."""
    off = np.array([one.off for one in rounds])
    first = 2 * max(0.0, 1 - len(off) / 10)
    square = (float((off**2).sum()) + first * drill.start**2) / (len(off) + first)
    typical = float(np.sqrt(square))
    # The standard deviation of a root mean square of n errors of a normal distribution.
    error = typical / float(np.sqrt(2 * (len(off) + first)))
    return Estimate(typical, error, float(np.clip(typical, drill.least, drill.most)), len(rounds))
