"""The log as files: JSON and a table (CSV), both ways, and a calendar (iCalendar, RFC 5545)."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable, Mapping
from datetime import UTC, datetime
from typing import Any

from icalendar import Calendar, Event
from pydantic import ValidationError

from truesitter.core.log.drying_clocks import Clock
from truesitter.core.log.entry import Entry
from truesitter.core.log.log_document import EntryDocument, LogDocument
from truesitter.core.log.sittings import Sitting
from truesitter.core.log.tuning import LOG_DOCUMENT_MOST
from truesitter.core.refusal import Refusal
from truesitter.core.settings.base import first_fault
from truesitter.formats.documents.cells import plain, safe
from truesitter.formats.words.wording import worked

LARGEST_LOG = 32 << 20
"""Bytes of a log in a file [try]."""
_MOST_COLUMNS = 200
_MOST_PARTS = 3
"""Objects and lists of one entry."""
_MOST_LINES = 60 * LOG_DOCUMENT_MOST
_FIRST = ("at", "kind", "sitter", "painter", "struck_at", "id")
"""Columns that every entry has, in order."""
_NONE = "this is no log of True Sitter"


def log_json(entries: Iterable[Entry]) -> str:
    """A log with everything in it."""
    return LogDocument(entries=[EntryDocument.of(e) for e in entries]).model_dump_json(indent=1)


def log_csv(entries: Iterable[Entry]) -> str:
    """A log as a table: an entry to a line, what only some entries say in columns of their own.

    A column named ``work.name`` holds the name of the work; what is a list or of free names is written as
    JSON. Times are UTC.
    """
    rows = []
    for entry in entries:
        document = EntryDocument.of(entry).model_dump(mode="json", exclude_none=True)
        what = document.pop("what")
        rows.append({**document, **_flat(what)})
    more = sorted({name for row in rows for name in row} - set(_FIRST))
    out = io.StringIO()
    writer = csv.DictWriter(out, [*_FIRST, *more], restval="")
    writer.writeheader()
    writer.writerows({name: _cell(value) for name, value in row.items()} for row in rows)
    return out.getvalue()


def read_log(data: bytes) -> tuple[Entry, ...]:
    """A log from JSON or from a table, told apart by their first character.

    Raises
    ------
    Refusal
        Saying what is wrong, and in a table in which line.
    """
    if len(data) > LARGEST_LOG:
        raise Refusal(f"a log holds up to {LARGEST_LOG >> 20} MB")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refusal(f"{_NONE}: it is not text in UTF-8") from None
    # Reading takes a hundred times the room of the shortest things: they are counted before.
    if (
        max(text.count("{"), text.count("[")) > _MOST_PARTS * LOG_DOCUMENT_MOST
        or text.count("\n") > _MOST_LINES
    ):
        raise Refusal(f"{_NONE}: more than {LOG_DOCUMENT_MOST} entries in one file cannot be read")
    entries = _from_json(text) if text.lstrip().startswith(("{", "[")) else _from_csv(text)
    if len({e.id for e in entries}) < len(entries):
        raise Refusal("this log has two entries of one id")
    return entries


def _from_json(text: str) -> tuple[Entry, ...]:
    try:
        return tuple(e.entry() for e in LogDocument.model_validate(json.loads(text)).entries)
    except ValidationError as error:
        raise Refusal(f"this log cannot be read: {first_fault(error)}") from None
    except (ValueError, RecursionError):
        raise Refusal(_NONE) from None


def _from_csv(text: str) -> tuple[Entry, ...]:
    reader = csv.DictReader(io.StringIO(text, newline=""))
    try:
        columns = reader.fieldnames or []
        if not set(_FIRST) <= set(columns):
            raise Refusal(f"{_NONE}: its first line has to name {', '.join(_FIRST)}")
        if len(columns) > _MOST_COLUMNS or len(set(columns)) < len(columns):
            raise Refusal(f"{_NONE}: its columns are too many, or one is there twice")
        entries = []
        for row in reader:
            if None in row or None in row.values():
                raise Refusal(f"line {reader.line_num} of the log has not as many cells as the first")
            entries.append(_entry_of(row, reader.line_num))
    except csv.Error as error:
        raise Refusal(f"line {reader.line_num} of the log cannot be read: {error}") from None
    return tuple(entries)


def _entry_of(row: Mapping[str, str], line: int) -> Entry:
    document: dict[str, Any] = {}
    what: dict[str, Any] = {}
    for name, cell in row.items():
        if cell == "":
            continue
        target, key = (document if name in _FIRST and name != "kind" else what), name
        if "." in name:
            outer, key = name.split(".", 1)
            target = what.setdefault(outer, {})
            if not isinstance(target, dict):
                raise Refusal(f"line {line} of the log has “{outer}” twice")
        target[key] = _value(cell)
    try:
        return EntryDocument.model_validate({**document, "what": what}).entry()
    except (ValidationError, ValueError) as error:
        why = first_fault(error) if isinstance(error, ValidationError) else str(error)
        raise Refusal(f"line {line} of the log: {why}") from None


def _flat(what: Mapping[str, Any]) -> dict[str, Any]:
    """What happened, with the fields of the work in columns of their own."""
    flat: dict[str, Any] = {}
    for name, value in what.items():
        if name == "work":
            flat.update({f"work.{key}": v for key, v in value.items()})
        else:
            flat[name] = value
    return flat


def _cell(value: Any) -> str:
    """A cell: text as it is, kept from being computed; anything else as JSON after a mark."""
    if isinstance(value, str) and not value.startswith(_JSON):
        return safe(value)
    return json.dumps(value) if isinstance(value, int | float) else _JSON + json.dumps(value)


_JSON = "json:"


def _value(cell: str) -> Any:
    text = plain(cell)
    if text.startswith(_JSON):
        try:
            return json.loads(text[len(_JSON) :])
        except (ValueError, RecursionError):
            return text
    return text


def log_ics(
    sittings: Iterable[Sitting], clocks: Iterable[Clock], names: Mapping[str, str], written: datetime
) -> bytes:
    """Sittings and the ends of drying as a calendar.

    Parameters
    ----------
    names
        Of the sitters, by key.
    written
        When it is written down (UTC).
    """
    calendar = Calendar()
    calendar.add("prodid", "-//True Sitter//log//EN")
    calendar.add("version", "2.0")
    for sitting in sittings:
        if sitting.ended is None:
            continue
        event = _event(f"sitting-{sitting.id}", sitting.began, sitting.ended, written)
        event.add("summary", f"{names.get(sitting.sitter, 'A picture')}: painted {worked(sitting.minutes)}")
        lines = [f"{b.work.name}: {worked(b.minutes)}" for b in sitting.intervals if b.work]
        event.add("description", "\n".join([*lines, *sitting.notes]))
        calendar.add_component(event)
    for clock in clocks:
        event = _event(f"dry-{clock.sitter}-{clock.key or clock.name}", clock.dry_at, None, written)
        event.add("summary", f"{names.get(clock.sitter, 'A picture')}: {clock.name} is dry")
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def _event(uid: str, start: datetime, end: datetime | None, written: datetime) -> Event:
    """An event; a moment has no end, as one has to lie after the beginning (RFC 5545, 3.8.2.2)."""
    event = Event()
    event.add("uid", f"{uid}@truesitter")
    event.add("dtstamp", written.replace(tzinfo=UTC))
    event.add("dtstart", start.replace(tzinfo=UTC))
    if end is not None and end > start:
        event.add("dtend", end.replace(tzinfo=UTC))
    return event
