"""Sittings, put together from what was written down of them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import (
    OF_SITTING,
    AirRead,
    Began,
    Ended,
    Happening,
    Noted,
    Paused,
    Photographed,
    Resumed,
    Turned,
    Used,
    Work,
)
from truesitter.core.log.tuning import LONGEST_SITTING
from truesitter.core.refusal import Refusal

Span = tuple[datetime, datetime]


@dataclass(frozen=True)
class WorkInterval:
    """Work on one thing without turning to another.

    Attributes
    ----------
    work
        What it was; None for work that was not named.
    spans
        When there was work on it (UTC), breaks left out.
    done
        How much of it was done at the end, 0–1; None when that was not said, or it goes on.
    ended_at
        When the painter left it; None while it goes on.
    """

    work: Work | None
    spans: tuple[Span, ...]
    done: float | None
    ended_at: datetime | None

    @property
    def minutes(self) -> float:
        """Of work."""
        return sum((end - start).total_seconds() for start, end in self.spans) / 60


@dataclass(frozen=True)
class Sitting:
    """One sitting.

    Attributes
    ----------
    id, sitter, painter
        That of the entry it began with, whose picture it was, and who sat down.
    began, ended
        UTC; None while it goes on.
    paused
        True during a break.
    intervals
        In order.
    air
        Temperature in °C and humidity in per cent, as last read; None when they were not.
    used, photographs, notes
        Paint that was taken, photographs, and what was noted.
    """

    id: str
    sitter: str
    painter: str
    began: datetime
    ended: datetime | None
    paused: bool
    intervals: tuple[WorkInterval, ...]
    air: tuple[float, float] | None
    used: tuple[Used, ...]
    photographs: tuple[Photographed, ...]
    notes: tuple[str, ...]

    @property
    def minutes(self) -> float:
        """Of work, breaks left out."""
        return sum(b.minutes for b in self.intervals)

    @property
    def spans(self) -> tuple[Span, ...]:
        """When there was work."""
        return tuple(span for interval in self.intervals for span in interval.spans)


class _Open:
    """A sitting while its entries are gone through."""

    def __init__(self, entry: Entry, began: Began) -> None:
        self.entry = entry
        self.work = began.work
        self.since: datetime | None = entry.at
        self.last = entry.at
        self.spans: list[Span] = []
        self.intervals: list[WorkInterval] = []
        self.ended: datetime | None = None
        self.air: tuple[float, float] | None = None
        self.used: list[Used] = []
        self.photographs: list[Photographed] = []
        self.notes: list[str] = []

    def refused(self, at: datetime, what: Happening) -> str:
        """Why something cannot have happened then, in a sentence; empty when it can."""
        if self.ended is not None:
            return "this sitting is over"
        if at < self.last:
            return "this happened before what was written down last of this sitting"
        if isinstance(what, Paused) and self.since is None:
            return "this sitting is paused already"
        if isinstance(what, Resumed) and self.since is not None:
            return "this sitting goes on already"
        return ""

    def take(self, at: datetime, what: Happening) -> None:
        self.last = at
        if isinstance(what, Paused):
            self._stop(at)
        elif isinstance(what, Resumed):
            self.since = at
        elif isinstance(what, Turned):
            running = self.since is not None
            self._close_interval(at, what.done)
            self.work, self.since = what.work, at if running else None
        elif isinstance(what, Ended):
            self._close_interval(at, what.done)
            self.ended = at

    def _stop(self, at: datetime) -> None:
        if self.since is not None:
            until = min(at, self.entry.at + LONGEST_SITTING)
            if until > self.since:
                self.spans.append((self.since, until))
            self.since = None

    def _close_interval(self, at: datetime, done: float | None) -> None:
        self._stop(at)
        if self.spans or self.work is not None:
            self.intervals.append(WorkInterval(self.work, tuple(self.spans), done, at))
        self.spans = []

    def sitting(self, now: datetime) -> Sitting:
        intervals = list(self.intervals)
        if self.ended is None:
            spans = list(self.spans)
            if self.since is not None:
                until = min(max(now, self.since), self.entry.at + LONGEST_SITTING)
                spans += [(self.since, until)] if until > self.since else []
            intervals.append(WorkInterval(self.work, tuple(spans), None, None))
        return Sitting(
            id=self.entry.id, sitter=self.entry.sitter, painter=self.entry.painter, began=self.entry.at,
            ended=self.ended, paused=self.ended is None and self.since is None, intervals=tuple(intervals),
            air=self.air, used=tuple(self.used), photographs=tuple(self.photographs),
            notes=tuple(self.notes),
        )  # fmt: skip

    def apply(self, what: Happening) -> None:
        """Take in what was written down beside the work."""
        if isinstance(what, AirRead):
            self.air = (what.temperature, what.humidity)
        elif isinstance(what, Used):
            self.used.append(what)
        elif isinstance(what, Photographed):
            self.photographs.append(what)
        elif isinstance(what, Noted):
            self.notes.append(what.words)


def _gone_through(entries: Iterable[Entry]) -> dict[str, _Open]:
    """Sittings by id, from entries in any order; what is struck out or cannot be is left out."""
    standing = sorted((e for e in entries if e.stands), key=lambda e: e.at)
    found = {e.id: _Open(e, e.what) for e in standing if isinstance(e.what, Began)}
    for entry in standing:
        open_ = found.get(getattr(entry.what, "sitting", None) or "")
        if open_ is None or open_.entry.sitter != entry.sitter:
            continue
        if not isinstance(entry.what, OF_SITTING):
            open_.apply(entry.what)
        elif not open_.refused(entry.at, entry.what):
            open_.take(entry.at, entry.what)
    return found


def sittings_of(entries: Iterable[Entry], now: datetime) -> tuple[Sitting, ...]:
    """Sittings of some entries, by their beginning.

    A sitting whose first entry is struck out is none; a pause that is struck out was none. Hours are
    those between two moments, whatever the clock on the wall was set to between them.

    Parameters
    ----------
    now
        Until when one that goes on counts (UTC).
    """
    opened = _gone_through(entries).values()
    return tuple(sorted((o.sitting(now) for o in opened), key=lambda s: (s.began, s.id)))


def check_follows(entries: Iterable[Entry], new: Entry) -> None:
    """See to it that an entry can follow those of its sitter that are there.

    Raises
    ------
    Refusal
        When it cannot, saying why.
    """
    opened = _gone_through(entries)
    if isinstance(new.what, Began):
        if any(o.ended is None and o.entry.painter == new.painter for o in opened.values()):
            raise Refusal("a sitting at this picture goes on: end it first")
        return
    sitting = getattr(new.what, "sitting", None)
    if sitting is None:
        return
    if sitting not in opened:
        raise Refusal("there is no such sitting at this picture")
    if isinstance(new.what, OF_SITTING):
        why = opened[sitting].refused(new.at, new.what)
        if why:
            raise Refusal(why)


def progress_of(sittings: Iterable[Sitting]) -> dict[tuple[str, str], float]:
    """How much of each pass of a picture is done, by school and key, as last said."""
    found: dict[tuple[str, str], float] = defaultdict(float)
    for sitting in sittings:
        for interval in sitting.intervals:
            if interval.work is not None and interval.work.key and interval.done is not None:
                found[(interval.work.school, interval.work.key)] = interval.done
    return dict(found)
