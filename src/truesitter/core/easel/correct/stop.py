"""When to stop: a sitting changed nothing that can be measured, or nothing worth telling is left."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.easel.compare.squinted import Squinted
from truesitter.core.easel.correct.tuning import LOOK_AGAIN_DAYS, MOVED, SMALL


@dataclass(frozen=True)
class Progress:
    """How far a painting is off at one photograph.

    Attributes
    ----------
    taken_at
        Its date, as ISO 8601.
    after
        Number of passes laid by then; None for all.
    error
        Mean |value| error in steps against the finished canvas, over what can be seen.
    """

    taken_at: str
    after: int | None
    error: float


@dataclass(frozen=True)
class Stop:
    """Whether to go on.

    Attributes
    ----------
    stop
        True when it is time to put the brush down.
    moved
        Part of the error that the last sitting took away, negative where it added to it; None without an
        earlier photograph.
    largest
        Steps of the largest finding that is left.
    words
        In a sentence or two.
    """

    stop: bool
    moved: float | None
    largest: float
    words: str


def error_of(seen: Squinted) -> float:
    """Mean |value| error of a painting, in steps."""
    return float(np.abs(seen.steps[seen.trusted]).mean()) if seen.trusted.any() else 0.0


def stop_test(errors: tuple[float, ...], largest: float, finished: bool) -> Stop:
    """Whether another sitting would change anything.

    Parameters
    ----------
    errors
        Mean |value| error at each photograph, oldest first; those of the last are what is judged.
    largest
        Steps of the largest finding of the last.
    finished
        True when all passes have been laid.
    """
    moved = None
    if len(errors) > 1 and errors[-2] > 0:
        moved = (errors[-2] - errors[-1]) / errors[-2]
    again = (
        f"Put it away and look again after {LOOK_AGAIN_DAYS[0]} or {LOOK_AGAIN_DAYS[1]} days, "
        "upside down first."
    )
    if not finished:
        return Stop(False, moved, largest, "There are passes left to lay.")
    if largest < SMALL:
        return Stop(
            True, moved, largest, f"Nothing that is left is larger than a third of a step: stop. {again}"
        )
    if moved is not None and moved <= -MOVED:
        by = f"{-moved * 100:.0f} per cent"
        words = (
            f"The last sitting took the whole {by} farther from the plan: look at what it changed, "
            "and take that back before going on."
        )
        return Stop(False, moved, largest, words)
    if moved is not None and moved < MOVED:
        by = f"{abs(moved) * 100:.0f} per cent"
        words = f"The last sitting moved the whole by {by}: more strokes change nothing."
        return Stop(True, moved, largest, f"{words} {again}")
    return Stop(False, moved, largest, "There is something left that a stroke will change.")
