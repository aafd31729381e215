"""Own pace of the painters, learned again only when something that it is learned from has changed."""

from __future__ import annotations

import threading
from collections import OrderedDict
from dataclasses import replace

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from truesitter.core.log.entry import Entry
from truesitter.core.log.rates import own_pace
from truesitter.core.pace.own_pace import OwnPace
from truesitter.store.log.log_rows import entries_in
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import Sessions
from truesitter.store.rows.models import EntryRow

LEARNED_FROM = ("began", "turned", "paused", "resumed", "ended", "used", "pace reset")
"""Kinds of entries that say something of a pace."""
_STATE = select(
    # Each kind by its own index: a log full of notes costs nothing.
    *(select(func.max(EntryRow.number)).where(EntryRow.kind == k).scalar_subquery() for k in LEARNED_FROM),
    select(func.count()).where(EntryRow.struck_at.is_not(None)).scalar_subquery(),
)
_REMEMBERED = 64
"""Painters times states of the log."""


class Paces:
    """Own pace of each painter; may be asked by many threads.

    Notes
    -----
    Entries are never changed but for being struck out: those that were read stay in memory, and only what
    came since is read.
    """

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions
        self._lock = threading.Lock()
        self._entries: dict[int, Entry] = {}
        self._last = self._struck = 0
        self._learned: OrderedDict[tuple[str | None, int, int], OwnPace] = OrderedDict()

    def of(self, *painters: str | None) -> dict[str | None, OwnPace]:
        """What is learned of the pace of some painters; of everybody's for None."""
        with self._lock:
            state = self._read()
            return {painter: self._learn((painter, *state)) for painter in painters}

    def _learn(self, key: tuple[str | None, int, int]) -> OwnPace:
        if key not in self._learned:
            self._learned[key] = own_pace(self._entries.values(), now(), key[0])
            while len(self._learned) > _REMEMBERED:
                self._learned.popitem(last=False)
        self._learned.move_to_end(key)
        return self._learned[key]

    def _read(self) -> tuple[int, int]:
        """Read what came since; the newest number, and how many entries are struck out."""
        with self._sessions.reading() as session:
            *newest, struck = session.execute(_STATE).one()
            last = max(number or 0 for number in newest)
            if last > self._last:
                self._add(session, self._last)
                self._last = last
            if struck != self._struck:
                self._strike(session)
                self._struck = struck
        return last, struck

    def _add(self, session: Session, known: int) -> None:
        # Sittings at pictures that are gone still say how fast the painter is.
        wanted = select(EntryRow).where(EntryRow.kind.in_(LEARNED_FROM), EntryRow.number > known)
        numbers = {r.id: r.number for r in session.scalars(wanted)}
        for entry in entries_in(session, wanted):
            self._entries[numbers[entry.id]] = entry

    def _strike(self, session: Session) -> None:
        struck = select(EntryRow.number, EntryRow.struck_at).where(EntryRow.struck_at.is_not(None))
        for number, at in session.execute(struck):
            if number in self._entries:
                self._entries[number] = replace(self._entries[number], struck_at=at)
