"""Drying clocks: what was laid, and when something may go over it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from truesitter.core.log.sittings import Sitting
from truesitter.core.pace.waiting import Room


@dataclass(frozen=True)
class Clock:
    """Something that dries.

    Attributes
    ----------
    sitter, school, key, name
        Whose picture, and what was laid.
    laid_at, dry_at
        UTC.
    """

    sitter: str
    school: str
    key: str
    name: str
    laid_at: datetime
    dry_at: datetime


def slowed(minutes: float, planned: Room, found: tuple[float, float] | None, watery: bool) -> float:
    """Minutes until it is dry in the air there was, from those in the air that was planned for.

    Parameters
    ----------
    minutes
        In the air that was planned for.
    planned
        Its temperature and humidity.
    found
        °C and % that were measured; None for none.
    watery
        True for paint that dries by giving off water.

    Returns
    -------
    float
        Minutes, never fewer than none.
    """
    if found is None:
        return minutes
    temperature, humidity = found
    return minutes * Room(temperature, humidity).slows(watery) / planned.slows(watery)


def clocks_of(sittings: Iterable[Sitting]) -> tuple[Clock, ...]:
    """A clock for everything that was laid, as it was laid last; what is dry soonest is first."""
    found: dict[tuple[str, str, str], Clock] = {}
    for sitting in sittings:
        for interval in sitting.intervals:
            work = interval.work
            if work is None or interval.ended_at is None or not interval.spans or work.dries_minutes <= 0:
                continue
            laid = interval.spans[-1][1]
            key = (sitting.sitter, work.school, work.key or work.name)
            found[key] = Clock(
                sitting.sitter, work.school, work.key, work.name, laid,
                laid + timedelta(minutes=work.dries_minutes),
            )  # fmt: skip
    return tuple(sorted(found.values(), key=lambda c: (c.dry_at, c.name)))
