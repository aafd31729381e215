"""What must not grow: an entry of the log and an answer to a drill beside few and beside many."""

from __future__ import annotations

import tempfile
import uuid
from collections.abc import Callable
from datetime import timedelta
from pathlib import Path

import numpy as np

from bench.inputs import demo_bytes
from bench.timing import Figure, figure, ratio, short, times
from truesitter.core.drills.rounds import Score
from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Began, Ended, Happening, Noted, Work
from truesitter.store.log.drills import Asked
from truesitter.store.log.log_rows import row_of
from truesitter.store.rows.clock import now
from truesitter.store.rows.models import DrillRow
from truesitter.store.settings.sitters import Repository

MANY = 49_000
ROUNDS = 30_000


def growth() -> list[Figure]:
    many, rounds = (100, 100) if short() else (MANY, ROUNDS)
    few_notes, few_ends, few_answers = _measured(10, 10)
    notes, ends, answers = _measured(many, rounds)
    return [
        figure(f"A note beside {many} entries", notes, "as with 10", ratio(notes, few_notes, "beside 10")),
        figure("… a sitting begun and ended, and the pace asked for", ends, "",
               ratio(ends, few_ends, "beside 10")),
        figure(f"A drill answered beside {rounds} rounds", answers, "as with 10",
               ratio(answers, few_answers, "beside 10")),
    ]  # fmt: skip


def _measured(entries: int, rounds: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    with tempfile.TemporaryDirectory() as folder:
        repository = Repository(Path(folder))
        sitter = repository.add(demo_bytes("maren"), "maren.jpg").id
        fill(repository, sitter, entries)
        _answer(repository, sitter, rounds)
        repository.log.pace()
        seeds = iter(range(10**6, 2 * 10**6))

        def note() -> None:
            repository.log.add(Noted(words="x"), sitter)
            repository.log.pace()

        def sit() -> None:
            began = repository.log.add(Began(work=_work("new")), sitter)
            repository.log.add(Ended(sitting=began.id, done=1), sitter)
            repository.log.pace()

        def answer() -> None:
            repository.drills.add(Asked("value", "a" * 8, 1.0, next(seeds), sitter), Score(1.0, True, ""))
            repository.drills.latest("value")

        found = _timed(note), _timed(sit), _timed(answer)
        repository.close()
    return found


def _timed(work: Callable[[], object]) -> np.ndarray:
    return times(work, 30)


def _work(key: str) -> Work:
    return Work(
        name="A wash", school="watercolour-zones", key=key, kind="wash", place="skin", minutes=60, ml=2,
        area_cm2=100, brush_mm=10,
    )  # fmt: skip


def fill(repository: Repository, sitter: str, entries: int, each: int = 6) -> None:
    """A long log: sittings of so many entries each, all but the first and the last of them notes."""
    moment, began = now() - timedelta(days=900), ""
    with repository._sessions.writing.begin() as session:
        for n in range(entries - entries % each):
            moment += timedelta(minutes=1)
            what: Happening = Noted(words="x")
            if n % each == 0:
                what = Began(work=_work(f"p{n}"))
            elif n % each == each - 1:
                what = Ended(sitting=began, done=1)
            entry = Entry(uuid.uuid4().hex, sitter, moment, what)
            began = entry.id if isinstance(what, Began) else began
            session.add(row_of(entry, moment))


def _answer(repository: Repository, sitter: str, rounds: int) -> None:
    """Many rounds of a drill."""
    with repository._sessions.writing.begin() as session:
        session.add_all(
            DrillRow(painter="", drill="value", go=f"{n // 10:08x}", at=now(), level=1.0, right=True, off=0.5,
                     seed=n, sitter=sitter)
            for n in range(rounds)
        )  # fmt: skip
