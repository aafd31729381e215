"""The solid shape of a lock, as the light across it tells: round, two planes that meet, or a flat ribbon."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.spatial import cKDTree

from truesitter.core.hair.locks.lock_shapes import Lock
from truesitter.core.hair.locks.tuning import ACROSS_BINS, FORM_FLAT, FORM_LEAST_PIXELS, PLANES_GAIN
from truesitter.core.types import Doubles, Floats, Ints

Form = Literal["round", "two planes", "ribbon"]


@dataclass(frozen=True)
class LockForm:
    """How a lock is built.

    Attributes
    ----------
    form
        Round like a rope, two planes that meet in an edge, or flat like a ribbon.
    lit
        Its lighter side, seen from the root; ``middle`` where both edges are darker.
    edge
        Where across it its planes meet, −1 its left … 1 its right border; None where none do.
    steps
        Value from the darkest to the lightest part across it.
    """

    form: Form
    lit: Literal["left", "right", "middle"]
    edge: float | None
    steps: float


def read_forms(numbers: Ints, value: Floats, locks: Sequence[Lock]) -> dict[int, LockForm]:
    """Read every lock that has enough pixels across, by its number.

    Parameters
    ----------
    numbers
        (h, w) number of the lock each pixel is of, 0 for none.
    value
        (h, w) value without single strands.
    locks
        Each of them.
    """
    rows, columns = np.nonzero(numbers)
    order = np.argsort(numbers[rows, columns], kind="stable")
    rows, columns = rows[order], columns[order]
    own = numbers[rows, columns]
    found = {}
    for lock in locks:
        low, high = np.searchsorted(own, (lock.number, lock.number + 1))
        if high - low >= FORM_LEAST_PIXELS:
            spots = np.column_stack([columns[low:high], rows[low:high]]) + 0.5
            profile = _across(lock, spots, value[rows[low:high], columns[low:high]], numbers.shape)
            if profile is not None:
                found[lock.number] = _form(profile)
    return found


def _across(lock: Lock, spots: Doubles, values: Floats, shape: tuple[int, ...]) -> Doubles | None:
    """Mean value in bins from the left border to the right, seen from the root; None for too few of them."""
    spine = lock.spine * (shape[1], shape[0])
    tangent = np.gradient(spine, axis=0)
    tangent /= np.hypot(*tangent.T)[:, None] + 1e-9
    _, near = cKDTree(spine).query(spots)
    off, way = spots - spine[near], tangent[near]
    # y counts downwards: what lies on the right of who looks along the lock has a positive distance.
    side = way[:, 0] * off[:, 1] - way[:, 1] * off[:, 0]
    # Light that changes along the lock is not of its section.
    flat = values - _along(near, values, len(spine))
    share = side / max(1.0, float(np.quantile(np.abs(side), 0.95)))
    bins = np.clip(((share + 1) / 2 * ACROSS_BINS).astype(int), 0, ACROSS_BINS - 1)
    counts = np.bincount(bins, minlength=ACROSS_BINS)
    if (counts == 0).any():
        return None
    return np.asarray(np.bincount(bins, flat, minlength=ACROSS_BINS) / counts)


def _along(near: Ints, values: Floats, count: int) -> Doubles:
    """Mean value at the part of the spine that each pixel is nearest to."""
    counts = np.maximum(1, np.bincount(near, minlength=count))
    means = np.bincount(near, values, minlength=count) / counts
    return np.asarray(means[near])


def _form(profile: Doubles) -> LockForm:
    """Which of three simple sections a profile is nearest to."""
    u = (np.arange(ACROSS_BINS) + 0.5) / ACROSS_BINS * 2 - 1
    steps = float(np.ptp(profile))
    bend, slope, _ = np.polyfit(u, profile, 2)
    peak = -slope / (2 * bend) if bend < 0 else np.sign(slope)
    lit: Literal["left", "right", "middle"] = (
        "middle" if bend < 0 and abs(peak) < 1 / 3 else "right" if slope > 0 else "left"
    )
    if steps < FORM_FLAT:
        return LockForm("ribbon", lit, None, steps)
    round_off = float(((profile - np.polyval(np.polyfit(u, profile, 2), u)) ** 2).sum())
    # The edge itself may run through the bin between them.
    edges = range(2, ACROSS_BINS - 2)
    sides = [(profile[:n], profile[n + 1 :]) for n in edges]
    offs = [sum(float(((side - side.mean()) ** 2).sum()) for side in both) for both in sides]
    best = int(np.argmin(offs))
    if offs[best] < PLANES_GAIN * round_off:
        left, right = (float(side.mean()) for side in sides[best])
        part = (profile[edges[best]] - right) / (left - right)
        edge = (edges[best] + float(np.clip(part, 0, 1))) / ACROSS_BINS * 2 - 1
        return LockForm("two planes", "left" if left > right else "right", edge, steps)
    return LockForm("round", lit, None, steps)
