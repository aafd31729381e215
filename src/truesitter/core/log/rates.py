"""Own pace: what a painter's sittings say of the time and the paint that work takes.

Every sitting gives one ratio at a level: the minutes it took to the minutes that were reckoned for as much
of the work as was done in it. The rate is their geometric mean, as times of work are told as so many
times longer or shorter; the spread is their standard deviation on the same scale (Limpert, Stahel and
Abbt 2001, *Log-normal distributions across the sciences*).
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import NamedTuple

import numpy as np

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import PaceReset, Work
from truesitter.core.log.sittings import Sitting, sittings_of
from truesitter.core.log.tuning import LEAST_CM2, LEAST_MINUTES, LEAST_ML, LEAST_SHARE, TRACE
from truesitter.core.pace.own_pace import Learned, Level, OwnPace, levels_of
from truesitter.core.pace.tuning import FEWEST_SITTINGS
from truesitter.core.paint.media.tuning import DEFAULT_LOSS


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
    Sittings that go on, and those before own pace was last reset, count for nothing. Minutes and paint of
    which a painter did not say how far they brought the work, or that brought it on by hardly anything, are
    counted with the next time they say so of the same work.
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
    told = _Samples()
    for sitting in sittings:
        told.take(sitting)
    return OwnPace(_learned(told.time), _learned(told.paint), _learned(told.film), _loss(told.left))


_Which = tuple[str, str, str]
"""A piece of work: the picture, the school, and the pass."""


class _Share(NamedTuple):
    """How much of a piece of work was done by a sitting since the time before."""

    work: Work
    done: float


class _Samples:
    """What sittings say, gone through in order.

    Attributes
    ----------
    time, paint, film
        Samples of each.
    left
        Of each sitting that took paint, ml taken and ml scraped off again.
    """

    def __init__(self) -> None:
        self.time: list[_Sample] = []
        self.paint: list[_Sample] = []
        self.film: list[_Sample] = []
        self.left: dict[str, tuple[float, float]] = {}
        self._done: dict[_Which, float] = defaultdict(float)
        self._minutes: dict[_Which, float] = defaultdict(float)
        self._ml: dict[_Which, tuple[float, float]] = {}

    def take(self, sitting: Sitting) -> None:
        """Take in one sitting."""
        shares: dict[_Which, _Share] = {}
        for interval in sitting.intervals:
            work = interval.work
            if work is None or work.minutes < LEAST_MINUTES / 60 or not work.kind:
                continue
            which = (sitting.sitter, work.school, work.key or work.name)
            self._minutes[which] += interval.minutes
            before = shares.get(which, _Share(work, 0.0)).done
            shares[which] = _Share(work, before + self._step(sitting.id, which, work, interval.done))
        self._paint(sitting, shares)

    def _step(self, sitting: str, which: _Which, work: Work, done: float | None) -> float:
        """How far a stretch of work brought it, 0 where that is not known yet; it is a sample of time."""
        share = 0.0 if done is None else done - self._done[which]
        if share < LEAST_SHARE or self._minutes[which] < LEAST_MINUTES:
            # Many small steps are one large one: nothing moves on before there is enough to learn from.
            return 0.0
        self._done[which] += share
        took = _Sum(self._minutes.pop(which), work.minutes * share, work.area_cm2 * share)
        self.time.append(_Sample(sitting, work.level(), took))
        return share

    def _paint(self, sitting: Sitting, shares: dict[_Which, _Share]) -> None:
        taken, scraped = sum(u.ml for u in sitting.used), sum(u.left_ml for u in sitting.used)
        if sitting.used:
            self.left[sitting.id] = (taken, scraped)
        # Paint goes to each work as it is reckoned for what was done of it; where that is not said, a like
        # part for all of it stands for it.
        wanted = {which: s.work.ml * (s.done or 1.0) for which, s in shares.items() if s.work.ml > LEAST_ML}
        for which, ml in wanted.items():
            part = ml / sum(wanted.values())
            held = self._ml.get(which, (0.0, 0.0))
            took, off = self._ml[which] = (held[0] + taken * part, held[1] + scraped * part)
            work, done = shares[which]
            if not done or not took or work.area_cm2 * done <= LEAST_CM2:
                continue
            del self._ml[which]
            sum_ = _Sum(took, work.ml * done, work.area_cm2 * done)
            self.paint.append(_Sample(sitting.id, work.level(), sum_))
            # Where all was scraped off, a trace stands for it: ratios are told as logarithms.
            kept = max(took - off, TRACE * took)
            stayed = _Sum(kept, sum_.reckoned * (1 - DEFAULT_LOSS), sum_.cm2)
            self.film.append(_Sample(sitting.id, work.level(), stayed))


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
        areas = sums[:, 2] > LEAST_CM2
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
