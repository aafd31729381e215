"""Facts: what happened with a sitter. They are added and struck out, never changed, and not undone."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from sqlalchemy import select
from sqlalchemy.orm import Session

from truesitter.core.refusal import Refusal
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import Sessions
from truesitter.store.rows.models import FactRow, SitterRow

Kind = Literal["pass done"]
SHAPES: dict[Kind, frozenset[str]] = {"pass done": frozenset({"school", "pass"})}
"""What each kind says."""
MOST_FACTS = 20_000
"""Of one sitter; a lifetime of ticks."""


class UnknownFact(LookupError):
    """There is no such fact of this sitter."""


@dataclass(frozen=True)
class Fact:
    """Something that happened: a stable number, what it is of, when (UTC)."""

    id: int
    kind: str
    document: dict[str, Any]
    at: datetime


class Facts:
    """Facts in the database; `row` finds a sitter's row or refuses."""

    def __init__(self, sessions: Sessions, row: Callable[[Session, str], SitterRow]) -> None:
        self._sessions, self._row = sessions, row

    def all(self, sitter_id: str, kind: Kind) -> tuple[Fact, ...]:
        """Facts of a kind that stand, oldest first."""
        with self._sessions.reading() as session:
            self._row(session, sitter_id)
            found = session.scalars(
                select(FactRow)
                .where(FactRow.sitter_id == sitter_id, FactRow.kind == kind, FactRow.struck_at.is_(None))
                .order_by(FactRow.id)
            )
            return tuple(Fact(f.id, f.kind, f.document, f.at) for f in found)

    def by_sitter(self, kind: Kind) -> dict[str, list[Fact]]:
        """Facts of a kind that stand of every sitter, oldest first."""
        found: dict[str, list[Fact]] = defaultdict(list)
        with self._sessions.reading() as session:
            wanted = select(FactRow).where(FactRow.kind == kind, FactRow.struck_at.is_(None))
            for f in session.scalars(wanted.order_by(FactRow.id)):
                found[f.sitter_id].append(Fact(f.id, f.kind, f.document, f.at))
        return found

    def add(self, sitter_id: str, kind: Kind, document: dict[str, Any], by: str = "") -> Fact:
        """Write down that something happened; the same thing twice is one fact.

        Raises
        ------
        Refusal
            When there are more than anyone could have done.
        """
        with self._sessions.writing.begin() as session:
            self._row(session, sitter_id)
            standing = session.scalars(
                select(FactRow).where(
                    FactRow.sitter_id == sitter_id, FactRow.kind == kind, FactRow.struck_at.is_(None)
                )
            ).all()
            same = next((f for f in standing if f.document == document), None)
            if same is None:
                if len(standing) >= MOST_FACTS:
                    raise Refusal(f"more than {MOST_FACTS} entries of one kind cannot be kept")
                same = FactRow(sitter_id=sitter_id, kind=kind, document=document, at=now(), painter=by)
                session.add(same)
                session.flush()
            return Fact(same.id, same.kind, same.document, same.at)

    def strike(self, sitter_id: str, fact: int) -> None:
        """Strike a fact out; it stays written down.

        Raises
        ------
        UnknownFact
            When it is not there or struck out already.
        """
        with self._sessions.writing.begin() as session:
            self._row(session, sitter_id)
            row = session.get(FactRow, fact)
            if row is None or row.sitter_id != sitter_id or row.struck_at is not None:
                raise UnknownFact("This is not written down, or was struck out already.")
            row.struck_at = now()
