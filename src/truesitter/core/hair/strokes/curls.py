"""Curls: a line that swings to both sides of its way, as strands were read to do."""

from __future__ import annotations

import numpy as np

from truesitter.core.hair.strokes.tuning import POINTS_A_CURL, SURE_WAY
from truesitter.core.imaging.blur import blur
from truesitter.core.types import Doubles, Floats, Mask


def curled(
    path: Doubles, period: float | Doubles, amplitude: float | Doubles, phase: float = 0.0
) -> Doubles:  # fmt: skip
    """A path that curls about its own way; it begins on it.

    Parameters
    ----------
    path
        (n, 2) points, in any length.
    period, amplitude
        Of the curl, in the same, everywhere or (n,) at each point; where the period is 0 nothing curls.
    phase
        Radians at its beginning: lines side by side that share it curl together.

    Returns
    -------
    Doubles
        (m, 2) with m at least n: fine enough for its curls.

    Examples
    --------
    >>> way = np.column_stack([np.linspace(0, 40, 5), np.zeros(5)])
    >>> float(np.abs(curled(way, 10, 2)[:, 1]).max().round(1))
    2.0
    """
    period, amplitude = (
        np.broadcast_to(np.asarray(v, np.float64), (len(path),)) for v in (period, amplitude)
    )
    rate = np.divide(2 * np.pi, period, out=np.zeros(len(path)), where=period > 0)
    steps = np.hypot(*np.diff(path, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    turned = np.concatenate([[0.0], np.cumsum(steps * (rate[1:] + rate[:-1]) / 2)])
    if turned[-1] <= 0:
        return path
    count = max(len(path), int(np.ceil(POINTS_A_CURL * turned[-1] / (2 * np.pi))) + 1)
    at = np.linspace(0, along[-1], count)
    way = np.column_stack([np.interp(at, along, axis) for axis in path.T])
    tangent = np.gradient(way, axis=0)
    tangent /= np.hypot(*tangent.T)[:, None] + 1e-12
    angle = np.interp(at, along, turned)
    # From nothing at the root to its full swing within a quarter of a curl.
    grown = np.minimum(1.0, angle / (np.pi / 2)) * np.interp(at, along, np.where(period > 0, amplitude, 0.0))
    off = grown * np.sin(angle + phase)
    return np.asarray(way + off[:, None] * np.column_stack([-tangent[:, 1], tangent[:, 0]]))


def resampled_periods(periods: Doubles, count: int) -> Doubles:
    """Periods read evenly along a line, at so many points.

    How fast it turns is what changes evenly: between hair that curls and hair that does not (0) the curl
    gets longer, never shorter.

    Parameters
    ----------
    periods
        (n,) as read, n ≥ 1; 0 where nothing curls, or as good as 0.
    count
        Of the points wanted.

    Returns
    -------
    Doubles
        (count,)

    Examples
    --------
    >>> resampled_periods(np.array([0.0, 10.0]), 3).tolist()
    [0.0, 20.0, 10.0]
    """
    turns = np.divide(1.0, periods, out=np.zeros(len(periods)), where=periods > 1e-6)
    turns = np.interp(np.linspace(0, 1, count), np.linspace(0, 1, len(periods)), turns)
    return np.divide(1.0, turns, out=np.zeros(count), where=turns > 1e-9)


def lock_way(directed: Floats, curls: Mask, sigma: float) -> Floats:
    """Directions of the hair without the curls that they follow here and there.

    Parameters
    ----------
    directed
        (h, w, 2) root→tip unit direction.
    curls
        (h, w) where curls are drawn as such.
    sigma
        Of the Gaussian over which directions are averaged there, in pixels: near half a curl.

    Returns
    -------
    Floats
        (h, w, 2), the same outside the curls.
    """
    mean = blur(directed, sigma)
    norm = np.hypot(mean[..., 0], mean[..., 1])[..., None]
    known = curls & (norm[..., 0] > SURE_WAY) & (np.abs(directed).sum(axis=2) > 0)
    return np.where(known[..., None], mean / np.maximum(norm, 1e-6), directed).astype(np.float32)


def uncurled(path: Doubles, period: float) -> Doubles:
    """The way of a path that curls: its mean over one curl.

    Parameters
    ----------
    path
        (n, 2) points, evenly spaced or not.
    period
        Of the curl along the way, in the same lengths.
    """
    steps = np.hypot(*np.diff(path, axis=0).T)
    along = np.concatenate([[0.0], np.cumsum(steps)])
    if period <= 0 or along[-1] < period:
        return path
    count = int(np.ceil(POINTS_A_CURL * along[-1] / period)) + 1
    fine = np.column_stack([np.interp(np.linspace(0, along[-1], count), along, axis) for axis in path.T])
    half = POINTS_A_CURL // 2
    # Mirrored through its ends, which stay where they are.
    before, after = 2 * fine[0] - fine[half:0:-1], 2 * fine[-1] - fine[-2 : -half - 2 : -1]
    whole = np.concatenate([before, fine, after])
    mean = np.cumsum(np.concatenate([np.zeros((1, 2)), whole]), axis=0)
    window = 2 * half + 1
    return np.asarray((mean[window:] - mean[:-window]) / window)
