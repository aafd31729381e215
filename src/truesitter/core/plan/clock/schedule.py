"""Sittings: which passes are painted on which day, while what lies below them dries.

List scheduling (Graham 1966): whenever the painter sits down, the first pass in order that may be
painted is; what has to wait is overtaken by what need not.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from truesitter.core.plan.clock.tuning import LEAST, MOST_SITTINGS, WORTH

DAY_MINUTES = 24 * 60.0


@dataclass(frozen=True)
class Task:
    """One pass for the schedule.

    Attributes
    ----------
    minutes, dries
        Of work, and until another may go over it.
    over
        Numbers of the tasks it lies over.
    into_wet
        True when it goes on in the sitting of the task before, without waiting.
    """

    minutes: float
    dries: float
    over: tuple[int, ...] = ()
    into_wet: bool = False


@dataclass(frozen=True)
class PlannedInterval:
    """Work on one pass in one sitting; what does not fit goes on in the next."""

    task: int
    start: float
    minutes: float
    ends: bool


@dataclass(frozen=True)
class PlannedSitting:
    """One sitting.

    Attributes
    ----------
    day
        Counted from 0, the first.
    intervals
        In order; starts in minutes after midnight of day 0, had the first sitting begun then.
    waiting
        Numbers of the tasks that are wet below until after the next day.
    """

    day: int
    intervals: tuple[PlannedInterval, ...]
    waiting: tuple[int, ...]

    @property
    def minutes(self) -> float:
        """Of work."""
        return sum(b.minutes for b in self.intervals)


def sittings_for(tasks: tuple[Task, ...], hours: float, rest_days: int = 0) -> tuple[PlannedSitting, ...]:
    """Sittings in which all tasks are done, as early as may be.

    Parameters
    ----------
    hours
        Longest sitting, > 0.
    rest_days
        Days between two sittings on which nobody paints.

    Notes
    -----
    A task begins when all it lies over has dried; what dries within the sitting is waited for. A task may
    be broken off at the end of a sitting, unless the next one goes into it while it is wet: such a row
    stays in one sitting even where that makes it longer. Nobody sets out the paint for less than
    `WORTH` of a sitting while more is going to be dry.
    """
    state = _State(tasks, {}, {n: t.minutes for n, t in enumerate(tasks)})
    found: list[PlannedSitting] = []
    day = 0
    while len(state.done_at) < len(tasks) and len(found) < MOST_SITTINGS:
        after = state.copy()
        intervals = after.sit(day * DAY_MINUTES, hours * 60)
        later = state.next_day(day)
        worth = sum(b.minutes for b in intervals) >= WORTH * hours * 60 or len(after.done_at) == len(tasks)
        if not intervals or (not worth and later is not None):
            day = max(day + 1, later or day + 1)
            continue
        state = after
        found.append(PlannedSitting(day, tuple(intervals), state.blocked((day + 1) * DAY_MINUTES)))
        day += 1 + rest_days
    return tuple(found)


@dataclass
class _State:
    """How far the painting is: when each task was ended, and minutes left of each."""

    tasks: tuple[Task, ...]
    done_at: dict[int, float]
    left: dict[int, float]

    def copy(self) -> _State:
        return _State(self.tasks, dict(self.done_at), dict(self.left))

    def sit(self, start: float, longest: float) -> list[PlannedInterval]:
        """One sitting; what is done in it is written down."""
        clock, end = start, start + longest
        intervals: list[PlannedInterval] = []
        while end - clock >= LEAST:
            row = self._next_row(clock, end, not intervals)
            if row is None:
                dry = [t for t in (self._dry(r) for r in self._open_rows()) if t is not None and t > clock]
                if not dry or min(dry) > end - LEAST or not intervals:
                    break
                clock = min(dry)
                continue
            for n in row:
                spent = self.left[n] if len(row) > 1 else min(self.left[n], end - clock)
                self.left[n] -= spent
                ends = self.left[n] <= 1e-9
                intervals.append(PlannedInterval(n, clock, spent, ends))
                clock += spent
                if ends:
                    self.done_at[n] = clock
        return intervals

    def _open_rows(self) -> list[tuple[int, ...]]:
        return [r for r in _rows(self.tasks) if r[0] not in self.done_at]

    def _dry(self, row: tuple[int, ...]) -> float | None:
        """When all that a row lies over, itself left out, is dry; None while some of it is not painted."""
        below = {b for n in row for b in self.tasks[n].over} - set(row)
        if any(b not in self.done_at for b in below):
            return None
        return max((self.done_at[b] + self.tasks[b].dries for b in below), default=0.0)

    def _next_row(self, clock: float, end: float, fresh: bool) -> tuple[int, ...] | None:
        """The first row that may be painted now; one that must stay wet waits for a fresh sitting."""
        for row in self._open_rows():
            dry = self._dry(row)
            if dry is None or dry > clock + 1e-6:
                continue
            if len(row) == 1 or fresh or clock + sum(self.left[n] for n in row) <= end:
                return row
        return None

    def blocked(self, clock: float) -> tuple[int, ...]:
        """Tasks that are not begun and not dry enough below to be, then."""
        found: list[int] = []
        for row in self._open_rows():
            dry = self._dry(row)
            if dry is not None and dry > clock:
                found += row
        return tuple(found)

    def next_day(self, day: int) -> int | None:
        """The first later day on which something more is dry; None when nothing is drying."""
        drying = [self.done_at[n] + self.tasks[n].dries for n in self.done_at]
        later = [d for d in drying if d > (day + 1) * DAY_MINUTES]
        return math.ceil(min(later) / DAY_MINUTES - 1e-9) if later else None


def _rows(tasks: tuple[Task, ...]) -> list[tuple[int, ...]]:
    """Tasks that have to be done in one go, in order."""
    rows: list[list[int]] = []
    for n, task in enumerate(tasks):
        if task.into_wet and rows:
            rows[-1].append(n)
        else:
            rows.append([n])
    return [tuple(r) for r in rows]
