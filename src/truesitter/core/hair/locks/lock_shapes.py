"""What a painter needs to know of each lock: its spine, its width, its turn to the light, what it covers."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy import ndimage

from truesitter.core.hair.locks.tuning import BESIDE, DARK, LEAST_TURN, LIES_OVER, MIDDLE, SPINE_POINTS, TONES
from truesitter.core.types import Doubles, Floats, Ints, Labels


@dataclass(frozen=True)
class Lock:
    """One lock.

    Attributes
    ----------
    number
        Its number in the map.
    spine
        (n, 2) x, y in fractions, root first.
    width, length
        In pixels of the map.
    area
        In pixels.
    turns
        Part of the way from root to tip at which it is lightest, 0–1.
    contrast
        Value from its dark to its light, in steps.
    over
        Numbers of the locks that it lies over.
    """

    number: int
    spine: Doubles
    width: float
    length: float
    area: int
    turns: float
    contrast: float
    over: tuple[int, ...]


def lock_tones(numbers: Ints, value: Floats) -> Labels:
    """Dark, middle and light shape inside each lock, (h, w); 0 outside."""
    tones = np.zeros(numbers.shape, np.uint8)
    for number, box in enumerate(ndimage.find_objects(numbers), 1):
        if box is None:
            continue
        mine = numbers[box] == number
        inside = value[box][mine]
        low, high = np.quantile(inside, (0.1, 0.9))
        cuts = [low + share * (high - low) for share in TONES]
        tone = np.digitize(inside, cuts) + DARK if high - low >= LEAST_TURN else MIDDLE
        tones[box][mine] = tone
    return tones


def describe_locks(numbers: Ints, value: Floats, directed: Floats) -> tuple[Lock, ...]:
    """Every lock, in the order of its numbers.

    Parameters
    ----------
    numbers
        (h, w) locks.
    value
        (h, w) Munsell value without the surface.
    directed
        (h, w, 2) root→tip direction, y up.
    """
    over = _lies_over(numbers, value)
    locks = []
    for number, box in enumerate(ndimage.find_objects(numbers), 1):
        if box is None:
            continue
        rows, columns = np.nonzero(numbers[box] == number)
        inside = value[box][rows, columns]
        flow = directed[box][rows, columns].mean(axis=0)
        norm = float(np.hypot(*flow)) + 1e-9
        run = (columns * flow[0] - rows * flow[1]) / norm
        length = float(np.ptp(run)) + 1
        bins = np.minimum((SPINE_POINTS * (run - run.min()) / length).astype(int), SPINE_POINTS - 1)
        filled = np.unique(bins)
        rank = np.searchsorted(filled, bins)
        count = np.bincount(rank)
        where = [np.bincount(rank, part + offset.start + 0.5) / count
                 for part, offset in ((columns, box[1]), (rows, box[0]))]  # fmt: skip
        spine = np.column_stack(where) / (numbers.shape[1], numbers.shape[0])
        lightest = int((np.bincount(rank, inside) / count).argmax())
        locks.append(Lock(
            number, spine, len(rows) / length, length, len(rows),
            (float(filled[lightest]) + 0.5) / SPINE_POINTS,
            float(np.quantile(inside, 0.9) - np.quantile(inside, 0.1)),
            tuple(sorted(over.get(number, ()))),
        ))  # fmt: skip
    return tuple(locks)


def _lies_over(numbers: Ints, value: Floats) -> dict[int, set[int]]:
    """Which lock lies over which: its border is light where the other's lies in its shadow."""
    height, width = numbers.shape
    ones, twos, rises = [], [], []
    for down, right in ((0, 1), (1, 0)):
        here = (slice(0, height - down), slice(0, width - right))
        there = (slice(down, None), slice(right, None))
        a, b = numbers[here], numbers[there]
        touch = (a != b) & (a > 0) & (b > 0)
        rows, columns = np.nonzero(touch)
        back = (np.maximum(rows - BESIDE * down, 0), np.maximum(columns - BESIDE * right, 0))
        on = (np.minimum(rows + (BESIDE + 1) * down, height - 1),
              np.minimum(columns + (BESIDE + 1) * right, width - 1))  # fmt: skip
        same = (numbers[back] == a[touch]) & (numbers[on] == b[touch])
        ones.append(a[touch][same])
        twos.append(b[touch][same])
        rises.append((value[back] - value[on])[same])
    one, two, rise = np.concatenate(ones), np.concatenate(twos), np.concatenate(rises)
    swap = one > two
    one, two, rise = np.where(swap, two, one), np.where(swap, one, two), np.where(swap, -rise, rise)
    over: dict[int, set[int]] = {}
    if not len(one):
        return over
    size = int(numbers.max()) + 1
    pairs, inverse, counts = np.unique(
        one.astype(np.int64) * size + two, return_inverse=True, return_counts=True
    )
    for key, mean in zip(pairs, np.bincount(inverse, rise) / counts, strict=True):
        first, second = divmod(int(key), size)
        if mean > LIES_OVER:
            over.setdefault(first, set()).add(second)
        elif mean < -LIES_OVER:
            over.setdefault(second, set()).add(first)
    return over
