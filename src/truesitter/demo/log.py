"""A made-up log for the made-up sitters: a fortnight of work, some trials, and what was said of it."""

from __future__ import annotations

import uuid
from datetime import datetime, timedelta

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import (
    AirRead,
    Began,
    Ended,
    Happening,
    Judged,
    NextTime,
    Noted,
    Paused,
    Resumed,
    Tried,
    Turned,
    Work,
)
from truesitter.core.school.library import LAYERED_OIL

_SPACE = uuid.UUID("6e0c1f0e-51b3-4a53-9a5e-6d0f3a6b2d11")


def _work(
    name: str, key: str, kind: str, place: str, brush: float, cm2: float, minutes: float, ml: float,
    dries: float,
) -> Work:  # fmt: skip
    return Work(
        name=name, school=LAYERED_OIL.key, key=key, kind=kind, place=place, brush_mm=brush, area_cm2=cm2,
        minutes=minutes, ml=ml, dries_minutes=dries,
    )  # fmt: skip


_GROUND = _work("Ground", "ground", "ground", "several places", 50, 1125, 66, 6.6, 4608)
_UNDER = _work("Underpainting", "underpainting", "wash", "several places", 50, 965, 101, 1.03, 864)
_WALL = _work("Background, halftone", "background-3", "mass", "background", 50, 454, 55, 4.3, 6912)
_CLOTH = _work("Garment, shadow", "garment-2", "mass", "garment", 12, 26, 12, 0.24, 6912)
_LARGE = _work("Ground", "ground", "ground", "several places", 50, 2000, 87, 11.8, 4608)


class _Diary:
    """Entries of one picture, of the same ids every time."""

    def __init__(self, sitter: str, now: datetime) -> None:
        self.sitter, self._now, self._clock = sitter, now, now
        self.entries: list[Entry] = []
        self._sitting = ""

    def day(self, ago: int, hour: int) -> None:
        day = self._now.replace(hour=0, minute=0, second=0, microsecond=0)
        self._clock = day + timedelta(hours=hour) - timedelta(days=ago)

    def write(self, what: Happening, after: float = 0.0) -> None:
        self._clock += timedelta(minutes=after)
        made = uuid.uuid5(_SPACE, f"{self.sitter} {len(self.entries)}").hex
        self.entries.append(Entry(made, self.sitter, self._clock, what))
        if isinstance(what, Began):
            self._sitting = made

    def add_sitting(self, ago: int, hour: int, work: Work, air: tuple[float, float]) -> None:
        self.day(ago, hour)
        self.write(Began(work=work))
        self.write(AirRead(sitting=self._sitting, temperature=air[0], humidity=air[1], simulated=True))

    def rest(self, after: float, minutes: float) -> None:
        self.write(Paused(sitting=self._sitting), after)
        self.write(Resumed(sitting=self._sitting), minutes)

    def turn(self, after: float, work: Work, done: float) -> None:
        self.write(Turned(sitting=self._sitting, work=work, done=done), after)

    def note(self, words: str) -> None:
        self.write(Noted(sitting=self._sitting, words=words))

    def ahead(self, words: str) -> None:
        self.write(NextTime(sitting=self._sitting, words=words))

    def end(self, after: float, done: float) -> None:
        self.write(Ended(sitting=self._sitting, done=done), after)


def ferry_log(sitter: str, now: datetime) -> list[Entry]:
    """Of the ferry pilot: ground, underpainting in two goes, and the wall begun yesterday."""
    diary = _Diary(sitter, now)
    diary.add_sitting(13, 9, _GROUND, (18.5, 52))
    diary.end(71, 1)
    diary.add_sitting(8, 14, _UNDER, (20.5, 47))
    diary.rest(50, 20)
    diary.note("The far cheek is a whole group darker than it looks.")
    diary.end(38, 0.7)
    diary.add_sitting(7, 14, _UNDER, (20.0, 49))
    diary.end(41, 1)
    diary.add_sitting(1, 10, _WALL, (19.5, 50))
    diary.turn(48, _CLOTH, 0.8)
    diary.ahead("Let the wall go darker beside the lit cheek.")
    diary.ahead("Collar: its shadow is cooler than the coat.")
    diary.end(16, 1)
    return diary.entries


def clock_log(sitter: str, now: datetime) -> list[Entry]:
    """Of the clockmaker: a ground, and what somebody thinks of it."""
    diary = _Diary(sitter, now)
    diary.add_sitting(10, 15, _LARGE, (21.0, 45))
    diary.note("Two coats: the first went on too thin.")
    diary.end(102, 1)
    diary.write(Judged(liked=4, why="The ground is warm enough to carry the beard.", by="Ove"), 30)
    return diary.entries


def trials(now: datetime) -> list[Entry]:
    """Of papers and of how washes dry on them."""
    diary = _Diary("", now)
    rough = {"takes washes": 5, "lifts": 2, "bears scrubbing": 4, "stays flat": 3}
    smooth = {"takes washes": 2, "lifts": 5, "bears scrubbing": 3, "stays flat": 4}
    diary.day(20, 11)
    diary.write(Tried(subject="paper", name="Rough, 300 g", marks=rough, words="Keeps every brush mark."))
    diary.write(Tried(subject="paper", name="Smooth, 300 g", marks=smooth, words="Good for eyes."), 40)
    diary.write(
        Tried(
            subject="drying",
            name="Ultramarine wash",
            paper="Rough, 300 g",
            medium="watercolour",
            wet=4.6,
            dry=5.5,
            minutes=18,
            water=12,
            marks={"keeps its value": 2, "keeps its hue": 4},
        ),
        30,
    )
    diary.write(
        Tried(
            subject="drying",
            name="Ultramarine wash",
            paper="Smooth, 300 g",
            medium="watercolour",
            wet=4.6,
            dry=5.0,
            minutes=11,
            water=12,
            marks={"keeps its value": 4, "keeps its hue": 4},
        ),
        5,
    )
    return diary.entries


LOGS = {"maren.jpg": ferry_log, "tobias.jpg": clock_log}
"""By the file of the sitter."""
