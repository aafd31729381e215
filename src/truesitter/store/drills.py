"""Rounds of drills in the database: what each painter answered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select

from truesitter.core.drills.kinds import DrillName
from truesitter.core.drills.rounds import Score
from truesitter.core.drills.spacing import Go
from truesitter.core.drills.staircase import Told
from truesitter.store.clock import now
from truesitter.store.database import Sessions
from truesitter.store.models import DrillRow


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

    def of(self, painter: str = "") -> dict[str, list[KeptRound]]:
        """Rounds of a painter by drill, oldest first."""
        found: dict[str, list[KeptRound]] = {}
        with self._sessions.reading() as session:
            rows = session.scalars(
                select(DrillRow).where(DrillRow.painter == painter).order_by(DrillRow.number)
            )
            for row in rows:
                told = Told(row.level, row.right, row.off)
                found.setdefault(row.drill, []).append(KeptRound(row.go, row.at, told))
        return found


def goes_of(rounds: list[KeptRound], whole: int) -> Iterator[Go]:
    """Goes that were finished, oldest first.

    Parameters
    ----------
    whole
        How many rounds a go has.
    """
    goes: dict[str, list[KeptRound]] = {}
    for one in rounds:
        # Two that are answered in turn, in two windows, are two all the same.
        goes.setdefault(one.go, []).append(one)
    found = [Go(g[-1].at, sum(r.told.right for r in g) / len(g)) for g in goes.values() if len(g) >= whole]
    yield from sorted(found, key=lambda g: g.at)
