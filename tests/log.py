"""Logs for tests: a painter whose every move is written down."""

from __future__ import annotations

import random
import uuid
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Began, Ended, Happening, Paused, Resumed, Turned, Used, Work

NOON = datetime(2026, 3, 2, 12)


def work(**changes: object) -> Work:
    """Washes on skin of 100 cm², reckoned at an hour."""
    usual = Work(
        name="First flesh wash", school="watercolour-zones", key="flesh-1", kind="wash", place="skin",
        brush_mm=10, area_cm2=100, minutes=60, ml=2, dries_minutes=20,
    )  # fmt: skip
    return usual.model_copy(update=changes)


@dataclass
class Hand:
    """Writes entries down, at a picture, one after the other."""

    sitter: str = "s1"
    painter: str = ""
    clock: datetime = NOON
    entries: list[Entry] = field(default_factory=list)
    sitting: str = ""

    def write(self, what: Happening, after: float = 0.0) -> Entry:
        """What happens so many minutes later."""
        self.clock += timedelta(minutes=after)
        entry = Entry(uuid.uuid4().hex, self.sitter, self.clock, what, self.painter)
        self.entries.append(entry)
        return entry

    def begin(self, on: Work | None = None, after: float = 0.0) -> Entry:
        entry = self.write(Began(work=on), after)
        self.sitting = entry.id
        return entry

    def pause(self, after: float) -> Entry:
        return self.write(Paused(sitting=self.sitting), after)

    def resume(self, after: float) -> Entry:
        return self.write(Resumed(sitting=self.sitting), after)

    def turn(self, to: Work, after: float, done: float | None = None) -> Entry:
        return self.write(Turned(sitting=self.sitting, work=to, done=done), after)

    def end(self, after: float, done: float | None = None) -> Entry:
        return self.write(Ended(sitting=self.sitting, done=done), after)

    def use(self, ml: float, left: float = 0.0, tube: str = "ochre") -> Entry:
        return self.write(Used(sitting=self.sitting or None, tube=tube, ml=ml, left_ml=left))

    def strike(self, entry: Entry) -> None:
        """Strike an entry out."""
        at = self.entries.index(entry)
        self.entries[at] = replace(entry, struck_at=self.clock)


def painted(speeds: dict[str, float], sittings: int, seed: int, spread: float = 0.1) -> list[Entry]:
    """The log of a painter who takes so many times the usual for each place, give or take."""
    rng, hand = random.Random(seed), Hand()
    for number in range(sittings):
        hand.clock = NOON + timedelta(days=number)
        works = [work(place=place, key=f"{place}-{number}", name=f"{place} {number}") for place in speeds]
        last = 0.0
        for k, one in enumerate(works):
            took = one.minutes * speeds[one.place] * rng.lognormvariate(0, spread)
            if k == 0:
                hand.begin(one)
            else:
                hand.turn(one, last, done=1)
            last = took
        hand.end(last, done=1)
    return hand.entries
