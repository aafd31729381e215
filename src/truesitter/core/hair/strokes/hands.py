"""Which hand paints: the order of places and the pull of strokes, so that nothing wet is touched."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from truesitter.core.hair.locks.lock_shapes import Lock
from truesitter.core.hair.strokes.tuning import AWKWARD, DOWNWARD
from truesitter.core.types import Doubles

Hand = Literal["right", "left"]


EASY: dict[Hand, tuple[float, float]] = {"right": (0.6, -0.8), "left": (-0.6, -0.8)}
"""The easy pull, x right and y up: towards the hand's own side and down."""


@dataclass(frozen=True)
class HandPlace:
    """A lock in the order of painting.

    Attributes
    ----------
    lock
        Its number.
    pull
        Where its strokes are begun: at the root, or at the tip to end on the line.
    """

    lock: int
    pull: Literal["root", "tip"]


def in_order(locks: tuple[Lock, ...], hand: Hand) -> tuple[HandPlace, ...]:
    """Locks in the order of painting: beneath before above, then from the side away from the hand."""
    side = 1.0 if hand == "right" else -1.0
    waits = {
        n.number: side * float(n.spine[:, 0].mean()) + DOWNWARD * float(n.spine[:, 1].mean()) for n in locks
    }
    # What others lie over comes before them; circles are cut at the one the hand would do first.
    beneath: dict[int, set[int]] = {n.number: {o for o in n.over if o in waits} for n in locks}
    left, done = set(waits), list[int]()
    while left:
        ready = [n for n in left if not (beneath[n] & left)] or list(left)
        first = min(ready, key=lambda n: (waits[n], n))
        done.append(first)
        left.remove(first)
    by_number = {n.number: n for n in locks}
    return tuple(HandPlace(n, pull_of(by_number[n].spine, hand)) for n in done)


def pull_of(spine: Doubles, hand: Hand) -> Literal["root", "tip"]:
    """Which end a stroke along a spine is begun at."""
    way = (spine[-1] - spine[0]) * (1, -1)
    norm = float(np.hypot(*way))
    if norm == 0:
        return "root"
    return "tip" if float(way @ np.array(EASY[hand])) / norm < AWKWARD else "root"
