"""The sittings of a plan as a calendar (iCalendar, RFC 5545)."""

from __future__ import annotations

from datetime import datetime, timedelta

from icalendar import Calendar, Event

from truesitter.core.plan.clock.schedule import PlannedSitting
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.formats.words.wording import duration


def sittings_ics(
    plan: PassPlan,
    sittings: tuple[PlannedSitting, ...],
    names: tuple[str, ...],
    title: str,
    uid: str,
    start: datetime,
) -> bytes:
    """One event for each sitting.

    Parameters
    ----------
    names
        The painter's own names of the value groups.
    title
        Name of the sitter.
    uid
        Unlike any other plan's: events of the same plan replace one another.
    start
        When the first sitting begins; of no time zone, as the clock on the studio's wall shows it.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//True Sitter//sittings//EN")
    calendar.add("version", "2.0")
    for number, sitting in enumerate(sittings, 1):
        event = Event()
        event.add("uid", f"{uid}-sitting-{number}@truesitter")
        event.add("dtstamp", start)
        event.add("dtstart", start + timedelta(days=sitting.day))
        last = max((b.start + b.minutes for b in sitting.intervals), default=0.0)
        event.add(
            "dtend", start + timedelta(days=sitting.day, minutes=round(last - sitting.intervals[0].start))
        )
        event.add("summary", f"{title}: sitting {number} of {len(sittings)}")
        event.add("description", "\n".join(_lines(plan, sitting, names)))
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def _lines(plan: PassPlan, sitting: PlannedSitting, names: tuple[str, ...]) -> list[str]:
    """What is painted, pass by pass, and what dries meanwhile."""
    lines = []
    for interval in sitting.intervals:
        one = plan.passes[interval.task]
        goes_on = "" if interval.ends else ", goes on next time"
        lines.append(f"{interval.task + 1} {one.title(names)}: {duration(interval.minutes)}{goes_on}")
    if sitting.waiting:
        lines.append("Still wet after it: " + ", ".join(plan.passes[n].title(names) for n in sitting.waiting))
    return lines
