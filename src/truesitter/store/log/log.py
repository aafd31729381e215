"""The log in the database: entries are added and struck out, never changed."""

from __future__ import annotations

import uuid
from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import (
    OF_NO_SITTER,
    Began,
    Happening,
    Photographed,
    Settled,
    Tried,
    Used,
    read_happening,
)
from truesitter.core.log.sittings import check_follows
from truesitter.core.pace.own_pace import OwnPace
from truesitter.core.refusal import Refusal
from truesitter.store.log.log_rows import (
    brought_in,
    check_same,
    entries_in,
    entry_rows,
    going_on,
    of_sitting,
    row_of,
)
from truesitter.store.log.paces import Paces
from truesitter.store.log.ticks import finished_by, tick, untick
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import Sessions
from truesitter.store.rows.models import EntryRow, PaintingRow, SitterRow, TubeRow

MOST_ENTRIES = 50_000
"""Of one picture."""
_AHEAD = timedelta(minutes=5)
"""Clocks differ: what happens a little later than now has happened now [try]."""
_EARLIEST = datetime(1990, 1, 1)


class UnknownEntry(LookupError):
    """There is no such entry in the log."""


class Log:
    """Entries in the database; `row` finds a sitter's row or refuses."""

    def __init__(self, sessions: Sessions, row: Callable[[Session, str], SitterRow]) -> None:
        self._sessions, self._row = sessions, row
        self._paces = Paces(sessions)

    # -- reading --------------------------------------------------------------------------------

    def of(self, sitter_id: str) -> tuple[Entry, ...]:
        """Everything written down of one picture, struck out or not, in the order of what happened."""
        with self._sessions.reading() as session:
            self._row(session, sitter_id)
            return entries_in(session, select(EntryRow).where(EntryRow.sitter_id == sitter_id))

    def all(self) -> tuple[Entry, ...]:
        """The same of everything on the shelf, and what belongs to no picture."""
        with self._sessions.reading() as session:
            on_shelf = select(SitterRow.id).where(SitterRow.deleted_at.is_(None))
            wanted = select(EntryRow).where(
                EntryRow.sitter_id.is_(None) | EntryRow.sitter_id.in_(on_shelf)
            )  # fmt: skip
            return entries_in(session, wanted)

    def pace(self, painter: str | None = None) -> OwnPace:
        """What is learned of a painter's pace; of everybody's for None."""
        return self._paces.of(painter)[painter]

    def pace_at(self, sitter_id: str) -> OwnPace:
        """The pace of whoever sat at a picture last; everybody's where nobody has."""
        return self.paces_at([sitter_id])[sitter_id]

    def paces_at(self, sitter_ids: Sequence[str]) -> dict[str, OwnPace]:
        """The same of several pictures, asked in one go."""
        latest = (
            func.row_number()
            .over(partition_by=EntryRow.sitter_id, order_by=(EntryRow.at.desc(), EntryRow.number.desc()))
            .label("latest")
        )
        began = (
            select(EntryRow.sitter_id, EntryRow.painter, latest)
            .where(EntryRow.sitter_id.in_(sitter_ids), EntryRow.kind == "began", EntryRow.struck_at.is_(None))
            .subquery()
        )
        with self._sessions.reading() as session:
            rows = session.execute(select(began.c.sitter_id, began.c.painter).where(began.c.latest == 1))
            painters = {str(of): str(painter) for of, painter in rows}
        paces = self._paces.of(*{painters.get(s) for s in sitter_ids})
        return {sitter_id: paces[painters.get(sitter_id)] for sitter_id in sitter_ids}

    # -- writing --------------------------------------------------------------------------------

    def add(
        self, what: Happening, sitter_id: str | None = None, at: datetime | None = None, by: str = ""
    ) -> Entry:
        """Write down that something happened.

        Paint that is taken goes off the tube on the rack, and a pass that is done is ticked, in the same
        breath.

        Parameters
        ----------
        at
            When it happened (UTC); now when None.

        Raises
        ------
        Refusal
            When it cannot have happened, or belongs to a picture and none is named.
        """
        moment = now()
        at = moment if at is None or moment < at <= moment + _AHEAD else at
        if not _EARLIEST <= at <= moment:
            raise Refusal("what is written down has happened: it cannot lie in the future or before 1990")
        with self._sessions.writing.begin() as session:
            entry = Entry(uuid.uuid4().hex, sitter_id or "", at, what, by)
            before = self._before(session, sitter_id, entry)
            check_follows(before, entry)
            _check_refers(session, before, entry)
            finished = finished_by(before, entry)
            if isinstance(what, Used):
                entry = Entry(entry.id, entry.sitter, at, _off_the_rack(session, what), by)
            session.add(row_of(entry, moment))
            if finished:
                tick(session, entry, finished)
        return entry

    def strike(self, entry_id: str, sitter_id: str | None = None) -> None:
        """Strike an entry out; it stays written down, and paint it took is back in the tube.

        Raises
        ------
        UnknownEntry
            When it is not there, of another picture, or struck out already.
        """
        with self._sessions.writing.begin() as session:
            row = session.scalar(select(EntryRow).where(EntryRow.id == entry_id))
            if row is None or row.sitter_id != sitter_id or row.struck_at is not None:
                raise UnknownEntry("This is not in the log, or was struck out already.")
            row.struck_at = now()
            what = read_happening(row.document)
            tube = session.get(TubeRow, what.tube) if isinstance(what, Used) and what.off_rack_ml else None
            if isinstance(what, Used) and tube is not None and tube.amount_ml is not None:
                tube.amount_ml, tube.empty = round(tube.amount_ml + what.off_rack_ml, 3), False
            if sitter_id is not None:
                entry = Entry(row.id, sitter_id, row.at, what, row.painter)
                work = finished_by(of_sitting(session, sitter_id, getattr(what, "sitting", "") or ""), entry)
                if work is not None:
                    untick(session, entry, work)

    def take_in(self, entries: Sequence[Entry], sitter_id: str | None = None, by: str = "") -> int:
        """Add entries of a file; all of them or none, and those that are here already once. How many are new.

        Parameters
        ----------
        sitter_id
            The picture they all belong to; None to leave each with its own.
        by
            Who brings them, in a studio of several.

        Raises
        ------
        Refusal
            Naming one that is here with other words, belongs elsewhere, or lies in the future.
        """
        moment, added = now(), 0
        with self._sessions.writing.begin() as session:
            if sitter_id is not None:
                self._row(session, sitter_id)
            known = {r.id: r for r in session.scalars(select(EntryRow))}
            sitters = set(session.scalars(select(SitterRow.id)))
            counts: dict[str, int] = {}
            for entry in entries:
                owner = sitter_id if sitter_id is not None and entry.sitter else entry.sitter or None
                row = known.get(entry.id)
                if row is not None:
                    check_same(row, entry, owner)
                    row.struck_at = row.struck_at or entry.struck_at
                    continue
                if owner is not None and owner not in sitters:
                    raise Refusal(f"an entry of {entry.at:%Y-%m-%d} belongs to a sitter who is not here")
                if owner is None and entry.what.kind not in OF_NO_SITTER:
                    raise Refusal(f"“{entry.what.kind}” belongs to a picture, and the file names none")
                if not _EARLIEST <= entry.at <= moment + _AHEAD:
                    raise Refusal(f"an entry lies in the future or before 1990: {entry.at:%Y-%m-%d %H:%M}")
                if owner is not None:
                    counts[owner] = counts.get(owner) or _count(session, owner)
                    counts[owner] += 1
                    if counts[owner] > MOST_ENTRIES:
                        raise Refusal(f"more than {MOST_ENTRIES} entries of one picture cannot be kept")
                painter = brought_in(entry.painter, by)
                (new,) = entry_rows([replace(entry, sitter=owner or "", painter=painter)])
                session.add(new)
                known[entry.id] = new
                added += 1
        return added

    def _before(self, session: Session, sitter_id: str | None, new: Entry) -> tuple[Entry, ...]:
        """What was written down that a new entry has to fit; refuses what there can be no more of."""
        what = new.what
        if sitter_id is None:
            if what.kind not in OF_NO_SITTER:
                raise Refusal(f"“{what.kind}” belongs to a picture: say to which")
            return ()
        self._row(session, sitter_id)
        if _count(session, sitter_id) >= MOST_ENTRIES:
            raise Refusal(f"more than {MOST_ENTRIES} entries of one picture cannot be kept")
        if isinstance(what, Began):
            going = [of_sitting(session, sitter_id, id_) for id_ in going_on(session, sitter_id, new.painter)]
            return tuple(entry for each in going for entry in each)
        if isinstance(what, Settled):
            return entries_in(session, select(EntryRow).where(EntryRow.id == what.entry,
                                                              EntryRow.sitter_id == sitter_id))  # fmt: skip
        sitting = getattr(what, "sitting", None)
        return () if sitting is None else of_sitting(session, sitter_id, sitting)


def _count(session: Session, sitter_id: str) -> int:
    held = select(func.count()).select_from(EntryRow).where(EntryRow.sitter_id == sitter_id)
    return session.scalar(held) or 0


def _check_refers(session: Session, before: tuple[Entry, ...], entry: Entry) -> None:
    """See to it that what an entry speaks of is there."""
    what = entry.what
    if isinstance(what, Settled):
        meant = next((e for e in before if e.id == what.entry and e.what.kind == "next time"), None)
        if meant is None or not meant.stands:
            raise Refusal("nothing like that was to be done next time")
    photograph = what.sha256 if isinstance(what, Photographed | Tried) else None
    if photograph and session.get(PaintingRow, (entry.sitter, photograph)) is None:
        raise Refusal("this photograph is not among those of this picture: take it in first")


def _off_the_rack(session: Session, what: Used) -> Used:
    """Take paint off its tube; the same with the tube's name, and by how much it went down."""
    tube = session.get(TubeRow, what.tube)
    if tube is None or tube.removed_at is not None:
        raise Refusal(f"there is no tube “{what.tube}” on the rack")
    taken = 0.0
    if tube.amount_ml is not None:
        # More than was thought to be in it: then it was fuller than thought, and is empty now.
        taken = min(what.ml, tube.amount_ml)
        tube.amount_ml = round(tube.amount_ml - taken, 3)
        tube.empty = tube.empty or tube.amount_ml == 0
    return what.model_copy(update={"name": tube.name, "off_rack_ml": taken})
