"""What the easel says of an eye: drills that a painter's habits ask for, and the places they are about."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from truesitter.core.drills.drill_kinds import DrillName
from truesitter.core.easel.correct.painting_habits import Habit

TRAINS: dict[str, tuple[DrillName, ...]] = {
    "value": ("value", "surround", "steps"),
    "red": ("mix", "warm"),
    "yellow": ("mix", "warm"),
    "right": ("contour",),
    "down": ("contour",),
}
"""Which drills train what is off (our choice)."""


@dataclass(frozen=True)
class Wanted:
    """Why a drill is wanted: places that come out wrong, and the habits in sentences."""

    places: tuple[str, ...]
    words: tuple[str, ...]


def wanted_by(habits: Iterable[Habit]) -> dict[DrillName, Wanted]:
    """Drills that some habits ask for, with the heaviest habits first."""
    found: dict[DrillName, Wanted] = {}
    for habit in habits:
        for drill in TRAINS[habit.what]:
            had = found.get(drill, Wanted((), ()))
            places = tuple(dict.fromkeys((*had.places, habit.place)))
            found[drill] = Wanted(places, (*had.words, habit.words))
    return found
