"""How the strands of each lock run: combed or tangled, and the period and amplitude of their curl.

The axes of the strands are averaged over half a lock. Where they lie alike the mean is nearly as long as
they are, in curls they cancel. Along the mean axis strands that curl swing to either side, again and again:
the autocorrelation of that swing has its first maximum at one curl (Wiener & Khinchin), whatever phase
the curls side by side are in.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.hair.field.direction_field import strand_order
from truesitter.core.hair.locks.tuning import (
    CURL_LEAST,
    CURL_PEAK,
    CURL_VALLEY,
    FEWEST_WALKS,
    OF_A_LOCK,
    PLAIN_STRAND,
    WALK,
    WALK_AXIS,
    WALKS,
)
from truesitter.core.types import Doubles, Floats, Ints, Mask

Swings = np.ndarray[tuple[int, ...], np.dtype[np.complex128]]


@dataclass(frozen=True)
class Strands:
    """How the strands of one lock run.

    Attributes
    ----------
    order
        Length of the mean of their axes in double angle, 0–1: 1 where all lie alike.
    sure
        Mean coherence, 0–1: how plainly strands show.
    contrast
        Standard deviation of their lightness, in L*.
    turn
        How much the lock itself turns, in radians over a fifth of the face's height.
    period, amplitude
        Of their curl, in pixels of the map of locks; 0 where none is seen.
    """

    order: float
    sure: float
    contrast: float
    turn: float
    period: float = 0.0
    amplitude: float = 0.0

    @property
    def disorder(self) -> float:
        """Spread of the strands about the lock's way: circular deviation of axes, radians (Mardia 1972)."""
        return float(np.sqrt(-2 * np.log(max(self.order, 1e-3))) / 2)


def read_strands(
    tensor: Floats, detail: Floats, inside: Mask, numbers: Ints, turn: Floats, width: float
) -> dict[int, Strands]:
    """The strands of every lock.

    Parameters
    ----------
    tensor
        (h, w, 2) double-angle vectors of the strands.
    detail
        (h, w) lightness of the hair without all that is coarser than strands.
    inside
        (h, w) where they are read.
    numbers
        (h, w) locks, in the same pixels.
    turn
        (h, w) turn of the hair in radians over a fifth of the face's height.
    width
        Of a lock, in those pixels.

    Returns
    -------
    dict[int, Strands]
        By the number of the lock; lengths in pixels of these maps.
    """
    axis, _ = strand_order(tensor, WALK_AXIS * width)
    _, order = strand_order(tensor, OF_A_LOCK * width)
    plain = np.hypot(tensor[..., 0], tensor[..., 1])
    rows, columns = np.nonzero(inside & (numbers > 0))
    of = numbers[rows, columns]
    by_lock = np.argsort(of, kind="stable")
    rows, columns, of = rows[by_lock], columns[by_lock], of[by_lock]
    found, first, count = np.unique(of, return_index=True, return_counts=True)
    # The same number of walks in each lock, evenly through its pixels.
    picks = first[:, None] + (np.arange(WALKS) * count[:, None] // WALKS)
    swings, seen = _walked(tensor, plain, inside & (numbers > 0), axis, rows[picks].ravel(),
                           columns[picks].ravel(), max(16, round(WALK * width)))  # fmt: skip
    read = {}
    for n, number in enumerate(found):
        own = slice(first[n], first[n] + count[n])
        at = rows[own], columns[own]
        mine = slice(n * WALKS, (n + 1) * WALKS)
        period, amplitude = _curl(swings[mine], seen[mine]) if count[n] >= WALKS else (0.0, 0.0)
        read[int(number)] = Strands(
            float(np.median(order[at])), float(plain[at].mean()), float(detail[at].std()),
            float(np.median(turn[at])), period, amplitude,
        )  # fmt: skip
    return read


def _walked(
    tensor: Floats, plain: Floats, inside: Mask, axis: Floats, rows: Ints, columns: Ints, steps: int
) -> tuple[Swings, Mask]:
    """Walks along the mean axis: strands off it, unit complex numbers in double angle, (n, steps).

    The second array says where a strand was plain enough and hair to be read.
    """
    height, width = inside.shape
    at = np.column_stack([columns + 0.5, rows + 0.5])
    before = np.column_stack([np.cos(axis[rows, columns]), -np.sin(axis[rows, columns])])
    going = np.ones(len(rows), bool)
    swings, seen = np.zeros((len(rows), steps), complex), np.zeros((len(rows), steps), bool)
    for n in range(steps):
        row, column = np.floor(at[:, 1]).astype(int), np.floor(at[:, 0]).astype(int)
        going &= (row >= 0) & (row < height) & (column >= 0) & (column < width)
        row, column = np.clip(row, 0, height - 1), np.clip(column, 0, width - 1)
        going &= inside[row, column]
        if not going.any():
            break
        way = np.column_stack([np.cos(axis[row, column]), -np.sin(axis[row, column])])
        way *= np.where((way * before).sum(axis=1) < 0, -1.0, 1.0)[:, None]
        double = 2 * np.arctan2(-way[:, 1], way[:, 0])
        strand, length = tensor[row, column], plain[row, column]
        swing = (strand[:, 0] + 1j * strand[:, 1]) * np.exp(-1j * double)
        seen[:, n] = going & (length > PLAIN_STRAND)
        swings[:, n] = np.where(seen[:, n], swing / np.maximum(length, 1e-6), 0)
        at, before = at + way, way
    return swings, seen


def _curl(swings: Swings, seen: Mask) -> tuple[float, float]:
    """Period and amplitude of the curl in some walks, in steps; (0, 0) where they do not curl."""
    steps = swings.shape[1]
    long = seen.sum(axis=1) >= steps // 4
    if long.sum() < FEWEST_WALKS:
        return 0.0, 0.0
    swings, seen = swings[long], seen[long]
    weight = seen.astype(np.float64)
    count = weight.sum(axis=1)
    level = swings.imag - (swings.imag.sum(axis=1) / count)[:, None]
    pairs = _lagged(weight)
    along = _lagged(level * weight) / np.maximum(pairs, 1e-6)
    # Beyond half a walk too few pairs are left to say anything.
    along = along[: steps // 2 + 1]
    if along[1] <= 0:
        return 0.0, 0.0
    shape = along / along[1]
    lowest = next((n for n in range(1, len(shape) - 1) if shape[n + 1] >= shape[n]), 0)
    if not lowest or shape[lowest:].size < 3:
        return 0.0, 0.0
    highest = float(shape[lowest:].max())
    tops = [
        n for n in range(lowest + 1, len(shape) - 1)
        if shape[n] >= max(shape[n - 1], shape[n + 1], 0.55 * highest)
    ]  # fmt: skip
    if not tops or shape[tops[0]] < CURL_PEAK or float(shape[: tops[0]].min()) > -CURL_VALLEY:
        return 0.0, 0.0
    if float(along[1]) < CURL_LEAST:
        return 0.0, 0.0
    # A wave of steepest slope m has a mean double-angle vector of length 2 / sqrt(1 + m^2) - 1.
    order = float(np.median(np.abs(swings.sum(axis=1)) / count))
    slope = np.sqrt(max((2 / (1 + order)) ** 2 - 1, 0.0))
    period = float(tops[0])
    return period, float(slope) * period / (2 * np.pi)


def _lagged(walks: Doubles) -> Doubles:
    """Sum over walks of their products with themselves at every lag, (steps,)."""
    steps = walks.shape[1]
    power = np.abs(np.fft.rfft(walks, 2 * steps, axis=1)) ** 2
    return np.asarray(np.fft.irfft(power.sum(axis=0))[:steps])
