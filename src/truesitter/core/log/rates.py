"""Own pace: what a painter's sittings say of the time and the paint that work takes.

Every sitting gives one ratio at a level: the minutes it took to the minutes that were reckoned for as much
of the work as was done in it. The rate is their geometric mean, as times of work are told as so many
times longer or shorter; the spread is their standard deviation on the same scale (Limpert, Stahel and
Abbt 2001, *Log-normal distributions across the sciences*).
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime
from typing import NamedTuple

import numpy as np

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import PaceReset, Work
from truesitter.core.log.sittings import Sitting, sittings_of
from truesitter.core.paint.media.quantity import DEFAULT_LOSS
from truesitter.core.passes.own_pace import FEWEST_SITTINGS, Learned, Level, OwnPace, levels_of

_LEAST_SHARE = 0.02
"""Less than this of a piece of work tells nothing of its pace [try]."""
_LEAST_MINUTES = 1.0
_TRACE = 0.01
_LEAST_CM2 = 0.01
_LEAST_ML = 1e-4


class _Sum(NamedTuple):
    """What one sitting adds up to at a level: what it took, what was reckoned, and the area."""

    took: float
    reckoned: float
    cm2: float


@dataclass(frozen=True)
class _Sample:
    sitting: str
    level: Level
    took: _Sum


def own_pace(entries: Iterable[Entry], now: datetime, painter: str | None = None) -> OwnPace:
    """What is learned from a log.

    Parameters
    ----------
    entries
        Of all pictures.
    now
        This moment (UTC).
    painter
        Whose sittings count; None for everybody's.

    Notes
    -----
    Sittings that go on, and those before own pace was last reset, count for nothing. Minutes in which a
    painter said nothing of how much got done are counted with the next time they worked on the same.
    """
    entries = tuple(entries)
    resets = [
        e.at
        for e in entries
        if e.stands and isinstance(e.what, PaceReset) and (painter is None or e.painter == painter)
    ]
    since = max(resets, default=datetime.min)
    sittings = [
        s
        for s in sittings_of(entries, now)
        if s.ended is not None and s.began >= since and (painter is None or s.painter == painter)
    ]
    time, paint, left = _samples(sittings)
    film = [_stayed(p, left[p.sitting]) for p in paint]
    return OwnPace(_learned(time), _learned(paint), _learned(film), _loss(left))


def _stayed(one: _Sample, left: tuple[float, float]) -> _Sample:
    """Of a sample of paint that was taken, what stayed on the canvas, beside the film that was reckoned."""
    taken, scraped = left
    # Where all was scraped off, a trace stands for it: ratios are told as logarithms.
    kept = max(taken - scraped, _TRACE * taken) / taken
    took, reckoned, cm2 = one.took
    return replace(one, took=_Sum(took * kept, reckoned * (1 - DEFAULT_LOSS), cm2))


def _samples(sittings: list[Sitting]) -> tuple[list[_Sample], list[_Sample], dict[str, tuple[float, float]]]:
    """Samples of time, of paint, and of each sitting how much paint was taken and left."""
    done: dict[tuple[str, str, str], float] = defaultdict(float)
    waiting: dict[tuple[str, str, str], float] = defaultdict(float)
    time: list[_Sample] = []
    paint: list[_Sample] = []
    left: dict[str, tuple[float, float]] = {}
    for sitting in sittings:
        worked: list[tuple[Work, float]] = []
        for bout in sitting.bouts:
            work = bout.work
            if work is None or work.minutes < _LEAST_MINUTES / 60 or not work.kind:
                continue
            which = (sitting.sitter, work.school, work.key or work.name)
            waiting[which] += bout.minutes
            if bout.done is None:
                continue
            share, done[which] = bout.done - done[which], max(done[which], bout.done)
            if share < _LEAST_SHARE or waiting[which] < _LEAST_MINUTES:
                continue
            took = _Sum(waiting.pop(which), work.minutes * share, work.area_cm2 * share)
            time.append(_Sample(sitting.id, work.level(), took))
            worked.append((work, share))
        if sitting.used:
            taken, scraped = sum(u.ml for u in sitting.used), sum(u.left_ml for u in sitting.used)
            left[sitting.id] = (taken, scraped)
            reckoned = sum(w.ml * share for w, share in worked)
            cm2 = sum(w.area_cm2 * share for w, share in worked)
            if reckoned > 0:
                paint += [
                    _Sample(sitting.id, w.level(), _Sum(taken * part, w.ml * s, w.area_cm2 * s))
                    for w, s in worked
                    if w.ml > _LEAST_ML and cm2 > _LEAST_CM2
                    for part in (w.ml * s / reckoned,)
                ]
    return time, paint, left


def _learned(samples: list[_Sample]) -> dict[Level, Learned]:
    """What is learned at every level that enough sittings worked at."""
    by: dict[Level, dict[str, list[_Sum]]] = defaultdict(lambda: defaultdict(list))
    for sample in samples:
        for level in dict.fromkeys(levels_of(sample.level)):
            by[level][sample.sitting].append(sample.took)
    found = {}
    for level, sittings in by.items():
        if len(sittings) < FEWEST_SITTINGS:
            continue
        sums = np.array([np.sum(s, axis=0) for s in sittings.values()])
        ratios = np.log(sums[:, 0] / sums[:, 1])
        areas = sums[:, 2] > _LEAST_CM2
        per_cm2 = float(np.exp(np.log(sums[areas, 0] / sums[areas, 2]).mean())) if areas.any() else 0.0
        found[level] = Learned(
            float(np.exp(ratios.mean())), float(np.exp(ratios.std(ddof=1))), len(sittings), per_cm2
        )
    return found


def _loss(left: dict[str, tuple[float, float]]) -> tuple[float, float, int] | None:
    """Part of the paint that is scraped off again; None from too few sittings."""
    if len(left) < FEWEST_SITTINGS:
        return None
    parts = np.array([scraped / taken for taken, scraped in left.values()])
    return float(parts.mean()), float(parts.std(ddof=1)), len(parts)
