"""Ticks of passes that the log writes: with the entry that says a pass is done, and gone with it."""

from __future__ import annotations

from sqlalchemy import select
from sqlalchemy.orm import Session

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Ended, Turned, Work
from truesitter.core.log.sittings import sittings_of
from truesitter.store.rows.clock import now
from truesitter.store.rows.models import FactRow


def finished_by(before: tuple[Entry, ...], entry: Entry) -> Work | None:
    """The pass that an entry says is done."""
    what = entry.what
    if not isinstance(what, Turned | Ended) or what.done != 1:
        return None
    earlier = (e for e in before if e.id != entry.id and e.at <= entry.at)
    sitting = next((s for s in sittings_of(earlier, entry.at) if s.id == what.sitting), None)
    work = sitting.intervals[-1].work if sitting and sitting.intervals else None
    return work if work is not None and work.key else None


def _ticks(session: Session, sitter_id: str, work: Work) -> list[FactRow]:
    """Ticks of a pass that stand."""
    kept = session.scalars(
        select(FactRow).where(
            FactRow.sitter_id == sitter_id, FactRow.kind == "pass done", FactRow.struck_at.is_(None)
        )
    )
    return [fact for fact in kept if fact.document == {"school": work.school, "pass": work.key}]


def tick(session: Session, entry: Entry, work: Work) -> None:
    """Tick the pass that an entry says is done."""
    if not _ticks(session, entry.sitter, work):
        session.add(
            FactRow(
                sitter_id=entry.sitter, kind="pass done", at=entry.at, painter=entry.painter,
                document={"school": work.school, "pass": work.key},
            )
        )  # fmt: skip


def untick(session: Session, entry: Entry, work: Work) -> None:
    """Strike out the tick that an entry wrote; one that was there before it stays."""
    for fact in _ticks(session, entry.sitter, work):
        if (fact.at, fact.painter) == (entry.at, entry.painter):
            fact.struck_at = now()
