"""Entries of the log as rows, and back."""

from __future__ import annotations

import uuid
from collections.abc import Iterable, Sequence
from datetime import datetime

from sqlalchemy import Select, select
from sqlalchemy.orm import Session, aliased

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Happening, read_happening
from truesitter.core.refusal import Refusal
from truesitter.store.rows.clock import now
from truesitter.store.rows.models import EntryRow


def entries_in(session: Session, wanted: Select[EntryRow]) -> tuple[Entry, ...]:
    """Entries that are asked for, in the order of what happened."""
    rows: Iterable[EntryRow] = session.scalars(wanted.order_by(EntryRow.at, EntryRow.number))
    return tuple(
        Entry(r.id, r.sitter_id or "", r.at, read_happening(r.document), r.painter, r.struck_at) for r in rows
    )


def row_of(entry: Entry, written_at: datetime) -> EntryRow:
    """A row for a new entry."""
    return EntryRow(
        id=entry.id, sitter_id=entry.sitter or None, at=entry.at, kind=entry.what.kind,
        document=entry.what.model_dump(mode="json"), sitting=getattr(entry.what, "sitting", None),
        painter=entry.painter, written_at=written_at,
    )  # fmt: skip


def of_sitting(session: Session, sitter_id: str, sitting: str) -> tuple[Entry, ...]:
    """Entries of one sitting, the one it began with among them."""
    found: dict[str, Entry] = {}
    # One after the other, each by its own index.
    for fits in (EntryRow.id == sitting, EntryRow.sitting == sitting):
        found |= {e.id: e for e in entries_in(session, select(EntryRow).where(fits)) if e.sitter == sitter_id}
    return tuple(sorted(found.values(), key=lambda e: e.at))


def going_on(session: Session, sitter_id: str, painter: str) -> Sequence[str]:
    """Sittings of a painter at a picture that have no end yet."""
    end = aliased(EntryRow)
    ended = (
        select(end.number)
        .where(
            end.sitting == EntryRow.id, end.kind == "ended",
            end.struck_at.is_(None),
        )
        .exists()
    )  # fmt: skip
    return session.scalars(
        select(EntryRow.id).where(
            EntryRow.sitter_id == sitter_id, EntryRow.kind == "began", EntryRow.painter == painter,
            EntryRow.struck_at.is_(None), ~ended,
        )
    ).all()  # fmt: skip


def brought_in(painter: str, by: str) -> str:
    """Whose name an entry of a file goes under: nobody writes under another's by bringing a file."""
    if not by or painter in ("", by):
        return painter
    return f"{painter[:40]}, brought in by {by}"


def newly_named(entries: Sequence[Entry], sitter_id: str) -> list[Entry]:
    """Entries of one picture for another sitter, under ids of their own, which speak of one another."""
    ids = {e.id: uuid.uuid5(uuid.UUID(e.id), sitter_id).hex for e in entries}

    def meant(what: Happening) -> Happening:
        named = {
            name: ids.get(value, value)
            for name in ("sitting", "entry")
            if (value := getattr(what, name, None)) is not None
        }
        return what.model_copy(update=named)

    return [Entry(ids[e.id], sitter_id, e.at, meant(e.what), e.painter, e.struck_at) for e in entries]


def entry_rows(entries: Iterable[Entry]) -> list[EntryRow]:
    """Rows of entries that come from elsewhere."""
    moment, rows = now(), []
    for entry in entries:
        rows.append(row_of(entry, moment))
        rows[-1].struck_at = entry.struck_at
    return rows


def check_same(row: EntryRow, entry: Entry, owner: str | None) -> None:
    """Refuse an entry that is in the log already and says something else."""
    same = (row.sitter_id, row.at, row.document) == (owner, entry.at, entry.what.model_dump(mode="json"))
    if not same:
        raise Refusal(f"an entry of {entry.at:%Y-%m-%d %H:%M} is in the log already, with other words")
