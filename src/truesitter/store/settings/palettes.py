"""Palettes of the studio's."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy import select

from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.refusal import Refusal
from truesitter.store.rows.database import Sessions
from truesitter.store.rows.models import PaletteRow
from truesitter.store.settings.tubes import TubeRack, UnknownTube, free_key


@dataclass(frozen=True)
class KeptPalette:
    """A palette of the studio's."""

    key: str
    name: str
    tubes: tuple[str, ...]
    transparent: bool


class StudioPalettes:
    """Palettes in the database, of tubes on the rack and in the library."""

    def __init__(self, sessions: Sessions, tubes: TubeRack) -> None:
        self._sessions, self._tubes = sessions, tubes

    def all(self) -> tuple[KeptPalette, ...]:
        """The studio's palettes by name; tubes that were taken off the rack are left out."""
        known = {p.key for p in self._tubes.rack().pigments()}
        with self._sessions.reading() as session:
            rows = session.scalars(select(PaletteRow).order_by(PaletteRow.name, PaletteRow.key))
            kept = [
                KeptPalette(r.key, r.name, tuple(t for t in r.tubes if t in known), r.transparent)
                for r in rows
            ]
        return tuple(p for p in kept if p.tubes)

    def keep(self, name: str, tubes: tuple[str, ...], transparent: bool) -> KeptPalette:
        """Keep tubes as a palette of the studio's; one of the same name is replaced."""
        if not name.strip():
            raise Refusal("a palette needs a name")
        self._tubes.rack().check(tubes)
        with self._sessions.writing.begin() as session:
            row = session.scalar(select(PaletteRow).where(PaletteRow.name == name.strip()[:60]))
            if row is None:
                taken = set(session.scalars(select(PaletteRow.key))) | {p.key for p in STARTERS} | {"own"}
                row = PaletteRow(key=free_key(name, taken), name=name.strip()[:60])
                session.add(row)
            row.tubes, row.transparent = list(tubes), transparent
            kept = KeptPalette(row.key, row.name, tubes, transparent)
        return kept

    def drop(self, key: str) -> None:
        """Forget a palette of the studio's."""
        with self._sessions.writing.begin() as session:
            row = session.get(PaletteRow, key)
            if row is None:
                raise UnknownTube("The studio has no such palette.")
            session.delete(row)
