"""Habits: what is off the same way in one painting after the other."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from truesitter.core.easel.correct.tuning import ERRORS, FEWEST, LEAST_COLOUR, LEAST_OFFSET, LEAST_STEPS, RARE


@dataclass(frozen=True)
class Observed:
    """One error in one painting.

    Attributes
    ----------
    painting
        Which.
    place
        Where.
    what
        value, red (a*), yellow (b*), right or down (in heights of the head).
    error
        Signed.
    """

    painting: str
    place: str
    what: str
    error: float


@dataclass(frozen=True)
class Habit:
    """An error that keeps coming back.

    Attributes
    ----------
    place, what
        Where and of what kind.
    mean, error
        Signed mean, and its standard error.
    paintings
        In how many it was seen.
    """

    place: str
    what: str
    mean: float
    error: float
    paintings: int

    @property
    def words(self) -> str:
        """In a sentence."""
        amount, per_cent = abs(self.mean), f"{abs(self.mean) * 100:.0f} per cent of the head"
        said = {
            "value": f"{amount:.1f} steps too {'light' if self.mean > 0 else 'dark'}",
            "red": f"too {'red' if self.mean > 0 else 'green'} by {amount:.0f}",
            "yellow": f"too {'yellow' if self.mean > 0 else 'blue'} by {amount:.0f}",
            "right": f"{per_cent} too far {'right' if self.mean > 0 else 'left'}",
            "down": f"{per_cent} too {'low' if self.mean > 0 else 'high'}",
        }[self.what]
        return f"You tend to paint the {self.place} {said} ({self.paintings} paintings)."


def find_habits(seen: tuple[Observed, ...]) -> tuple[Habit, ...]:
    """Errors of one sign that keep coming back, the largest first beside what is told at least.

    One mean error a painting and place; a place has to be seen in `FEWEST` paintings. As dozens of
    places are asked at once, the bar in standard errors rises with their number (Bonferroni), with
    Student's distribution for few paintings (Gosset 1908).
    """
    by: dict[tuple[str, str], dict[str, list[float]]] = defaultdict(lambda: defaultdict(list))
    for one in seen:
        by[(one.place, one.what)][one.painting].append(one.error)
    asked = {
        key: np.array([np.mean(v) for v in own.values()]) for key, own in by.items() if len(own) >= FEWEST
    }
    found = []
    for (place, what), errors in asked.items():
        count = len(errors)
        mean, spread = float(errors.mean()), float(errors.std(ddof=1) / np.sqrt(count))
        least = {"value": LEAST_STEPS, "red": LEAST_COLOUR, "yellow": LEAST_COLOUR}.get(what, LEAST_OFFSET)
        if abs(mean) >= least and abs(mean) > _bar(count, len(asked)) * spread:
            found.append((abs(mean) / least, Habit(place, what, mean, spread, count)))
    return tuple(h for _, h in sorted(found, key=lambda f: -f[0]))


def _bar(count: int, asked: int) -> float:
    """Standard errors from which a mean of so few paintings is believed, when so much is asked at once."""
    from scipy.special import stdtrit

    return max(ERRORS, float(stdtrit(count - 1, 1 - RARE / 2 / max(1, asked))))
