"""Rounds of drills in the database: what each painter answered."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Float, cast, func, select

from truesitter.core.drills.drill_kinds import DrillName
from truesitter.core.drills.rounds import Score
from truesitter.core.drills.spacing import DrillSession
from truesitter.core.drills.staircase import Told
from truesitter.core.drills.tuning import REMEMBERED
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import Sessions
from truesitter.store.rows.models import DrillRow


@dataclass(frozen=True)
class Asked:
    """What a round was: its drill, the go it belongs to, its level and lot, and whose picture it was of."""

    drill: DrillName
    go: str
    level: float
    seed: int
    sitter: str


@dataclass(frozen=True)
class KeptRound:
    """A round that was answered (UTC)."""

    go: str
    at: datetime
    told: Told


class DrillRounds:
    """Rounds of all painters."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def add(self, asked: Asked, score: Score, painter: str = "") -> bool:
        """Keep what was answered; False for a round of this go that was answered already."""
        with self._sessions.writing.begin() as session:
            again = select(DrillRow.number).where(
                DrillRow.painter == painter, DrillRow.drill == asked.drill, DrillRow.go == asked.go,
                DrillRow.seed == asked.seed,
            )  # fmt: skip
            if session.scalar(again) is not None:
                return False
            session.add(
                DrillRow(
                    painter=painter, drill=asked.drill, go=asked.go, at=now(), level=asked.level,
                    right=score.right, off=score.off, seed=asked.seed, sitter=asked.sitter,
                )
            )  # fmt: skip
        return True

    def latest(self, drill: DrillName, painter: str = "", most: int = REMEMBERED) -> list[KeptRound]:
        """The last rounds of a painter at a drill, oldest first; others are not read."""
        wanted = select(DrillRow).where(DrillRow.painter == painter, DrillRow.drill == drill)
        with self._sessions.reading() as session:
            rows = session.scalars(wanted.order_by(DrillRow.number.desc()).limit(most)).all()
        return [_kept(row) for row in reversed(rows)]

    def count(self, drill: DrillName, painter: str = "") -> int:
        """How many rounds of a drill a painter has answered."""
        of = select(func.count()).where(DrillRow.painter == painter, DrillRow.drill == drill)
        with self._sessions.reading() as session:
            return session.scalar(of) or 0

    def goes(self, drill: DrillName, whole: int, painter: str = "") -> list[DrillSession]:
        """Goes of a painter at a drill that have all their rounds, oldest first."""
        ended = func.max(DrillRow.at)
        wanted = (
            select(ended, func.avg(cast(DrillRow.right, Float)))
            .where(DrillRow.painter == painter, DrillRow.drill == drill)
            .group_by(DrillRow.go).having(func.count() >= whole).order_by(ended)
        )  # fmt: skip
        with self._sessions.reading() as session:
            return [DrillSession(at, float(right)) for at, right in session.execute(wanted)]


def _kept(row: DrillRow) -> KeptRound:
    return KeptRound(row.go, row.at, Told(row.level, row.right, row.off))
