"""The log by days: what was painted on which day where the painter lives."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from truesitter.core.log.drying_clocks import Clock
from truesitter.core.log.sittings import Sitting, Span
from truesitter.core.refusal import Refusal


@dataclass
class Day:
    """One day.

    Attributes
    ----------
    minutes
        Of work, by sitter.
    dry
        What becomes dry on it.
    drying
        How many layers are wet at its end.
    """

    minutes: dict[str, float] = field(default_factory=lambda: defaultdict(float))
    dry: list[Clock] = field(default_factory=list)
    drying: int = 0


def zone_of(name: str) -> ZoneInfo:
    """A time zone by its name in the IANA database.

    Raises
    ------
    Refusal
        For one that is not there.
    """
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise Refusal(f"there is no time zone “{name[:60]}”") from None


def local(at: datetime, zone: ZoneInfo) -> datetime:
    """A moment (UTC, without a zone) as the clock on the wall shows it."""
    return at.replace(tzinfo=UTC).astimezone(zone)


def midnight(day: date, zone: ZoneInfo) -> datetime:
    """When a day begins (UTC, without a zone): days have 23, 24 or 25 hours."""
    return datetime.combine(day, time(), zone).astimezone(UTC).replace(tzinfo=None)


def by_day(span: Span, zone: ZoneInfo) -> dict[date, float]:
    """Minutes of a span on each day, cut at midnight."""
    start, end = span
    found: dict[date, float] = {}
    while start < end:
        day = local(start, zone).date()
        until = min(end, midnight(day + timedelta(days=1), zone))
        found[day] = found.get(day, 0.0) + (until - start).total_seconds() / 60
        start = until
    return found


def days_of(
    sittings: Iterable[Sitting], clocks: Iterable[Clock], first: date, last: date, zone: ZoneInfo
) -> dict[date, Day]:
    """Every day from one to another, both counted, with what happened on it.

    Parameters
    ----------
    sittings
        Of any sitter.
    clocks
        What is drying.
    first
        Day.
    last
        Day, counted too.
    zone
        In which a day begins at midnight.

    Returns
    -------
    dict[date, Day]
        A day for every date.
    """
    days = {first + timedelta(days=n): Day() for n in range((last - first).days + 1)}
    for sitting in sittings:
        for span in sitting.spans:
            for day, minutes in by_day(span, zone).items():
                if day in days:
                    days[day].minutes[sitting.sitter] += minutes
    for clock in clocks:
        laid, dry = local(clock.laid_at, zone).date(), local(clock.dry_at, zone).date()
        if dry in days:
            days[dry].dry.append(clock)
        for day, found in days.items():
            found.drying += laid <= day < dry
    return days
