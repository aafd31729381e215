"""What grows costs no more: lists of many sitters, a log of many entries, and no waiting for who computes."""

from __future__ import annotations

import sqlite3
import threading
import time
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient
from sqlalchemy import event

from bench.growth import fill
from tests.conftest import jpeg
from tests.log import work
from truesitter.core.log.events import Began, Ended, Judged, NextTime, Noted, Settled, Turned
from truesitter.core.paint.tubes.rack import OwnTube
from truesitter.core.paint.tubes.swatches import Swatches
from truesitter.core.refusal import Refusal
from truesitter.store.settings import tubes
from truesitter.store.settings.edits import Edit
from truesitter.store.settings.sitters import Repository
from truesitter.store.settings.tubes import Stock
from truesitter.web.server.app import create_app

PHOTO = jpeg(np.full((80, 64, 3), 120, np.uint8))


@contextmanager
def statements(repository: Repository) -> Iterator[list[str]]:
    """What is asked of the database meanwhile."""
    asked: list[str] = []

    def note(*about: object) -> None:
        asked.append(str(about[2]))

    event.listen(repository._engine, "after_cursor_execute", note)
    yield asked
    event.remove(repository._engine, "after_cursor_execute", note)


@pytest.mark.parametrize("path", ["/api/sitters", "/api/log/paintings"])
def test_a_list_costs_as_many_queries_with_three_sitters_as_with_forty(tmp_path: Path, path: str) -> None:
    repository, counted = Repository(tmp_path), []
    for number in (3, 40):
        while len(repository.all()) < number:
            sitter = repository.add(PHOTO, "a.jpg").id
            repository.change(sitter, "values", Edit("Three", {"groups": 3}))
            repository.log.add(Began(work=work()), sitter, by=f"painter {number % 3}")
            repository.facts.add(sitter, "pass done", {"school": "x", "pass": "y"})
        fresh = Repository(tmp_path)
        with (
            TestClient(create_app(fresh, tmp_path), base_url="http://127.0.0.1") as client,
            statements(fresh) as asked,
        ):
            listed = client.get(path).json()
        assert len(listed) == number
        counted.append(len(asked))
        fresh.close()
    assert counted[1] <= counted[0] < 20


def test_an_entry_reads_no_more_of_a_long_log_than_of_a_short_one(tmp_path: Path) -> None:
    """Rows that are loaded while entries of each kind are added, and one is struck out."""
    repository, loaded = Repository(tmp_path), {}
    rows: list[object] = []
    event.listen(repository._sessions.writing.class_, "loaded_as_persistent", lambda _, row: rows.append(row))
    for entries in (100, 5000):
        sitter = repository.add(PHOTO, "a.jpg").id
        fill(repository, sitter, entries, 50)
        repository.log.pace()
        rows.clear()
        ahead = repository.log.add(NextTime(words="the eye"), sitter)
        began = repository.log.add(Began(work=work(key="new")), sitter)
        with pytest.raises(Refusal, match="goes on"):
            repository.log.add(Began(), sitter)
        repository.log.add(Noted(words="x", sitting=began.id), sitter)
        repository.log.add(Turned(sitting=began.id, done=1, work=work(key="other")), sitter)
        repository.log.add(Judged(liked=3), sitter)
        repository.log.add(Settled(entry=ahead.id), sitter)
        ended = repository.log.add(Ended(sitting=began.id), sitter)
        repository.log.strike(ended.id, sitter)
        loaded[entries] = len(rows)
    assert loaded[5000] == loaded[100]


def test_no_entry_of_the_log_is_searched_for_one_by_one(tmp_path: Path) -> None:
    """How SQLite goes about each question asked while entries are added: never through all of them."""
    repository, asked = Repository(tmp_path), []
    sitter = repository.add(PHOTO, "a.jpg").id
    fill(repository, sitter, 500, 50)
    repository.log.pace()

    def note(_c: object, _u: object, statement: str, parameters: tuple[object, ...], *_: object) -> None:
        asked.append((statement, parameters))

    event.listen(repository._engine, "after_cursor_execute", note)
    began = repository.log.add(Began(work=work(key="new")), sitter)
    repository.log.add(Noted(words="x", sitting=began.id), sitter)
    ended = repository.log.add(Ended(sitting=began.id, done=1), sitter)
    repository.log.strike(ended.id, sitter)
    repository.log.pace()
    event.remove(repository._engine, "after_cursor_execute", note)
    with closing(sqlite3.connect(tmp_path / "sitters.sqlite")) as database:
        for statement, parameters in asked:
            if "FROM entry" in statement:
                steps = database.execute(f"EXPLAIN QUERY PLAN {statement}", parameters).fetchall()
                scanned = [step[3] for step in steps if step[3].startswith("SCAN entry")]
                assert scanned in ([], ["SCAN entry USING INDEX ix_entry_struck"]), statement
    assert len(asked) > 10


def test_a_note_leaves_what_is_known_of_the_pace(tmp_path: Path) -> None:
    repository = Repository(tmp_path)
    sitter = repository.add(PHOTO, "a.jpg").id
    fill(repository, sitter, 500, 50)
    known = repository.log.pace()
    repository.log.add(Noted(words="x"), sitter)
    assert repository.log.pace() is known
    began = repository.log.add(Began(work=work(key="new")), sitter)
    assert repository.log.pace() is not known
    repository.log.strike(began.id, sitter)
    assert repository.log.pace() == known


def test_pace_can_be_asked_by_many_at_once(tmp_path: Path) -> None:
    repository, faults = Repository(tmp_path), []
    sitter = repository.add(PHOTO, "a.jpg").id
    fill(repository, sitter, 200, 50)

    def ask(painter: int) -> None:
        try:
            for n in range(30):
                repository.log.pace(f"painter {(painter * 30 + n) % 97}")
        except Exception as error:
            faults.append(error)

    threads = [threading.Thread(target=ask, args=(n,)) for n in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert faults == []


@pytest.mark.parametrize("way", ["read", "take in"])
def test_nobody_waits_to_write_while_a_tube_is_fitted(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, way: str
) -> None:
    """While a fit runs, another writes."""
    repository, other, done = Repository(tmp_path), Repository(tmp_path), []
    repository.tubes.add("Ochre", "yellow-ochre", key="ochre")
    fit = tubes.own_fit

    def slow(tube: OwnTube) -> object:
        began = time.monotonic()
        other.tubes.add(f"Another {len(done)}", "yellow-ochre")
        done.append(time.monotonic() - began)
        return fit(tube)

    monkeypatch.setattr(tubes, "own_fit", slow)
    swatches = Swatches((60.0, 12.0, 45.0))
    if way == "read":
        kept = repository.tubes.read({"ochre": swatches}, "meter")
    else:
        kept = repository.tubes.take_in(
            [Stock(OwnTube("ochre", "Ochre", "yellow-ochre", swatches), 20.0, False)], "file"
        )
    assert kept[0].tube.swatches == swatches
    assert len(done) == 1
    assert done[0] < 2


def test_striking_out_done_takes_its_tick_along(tmp_path: Path) -> None:
    repository = Repository(tmp_path)
    sitter = repository.add(PHOTO, "a.jpg").id

    def ticks() -> list[str]:
        return [f.document["pass"] for f in repository.facts.all(sitter, "pass done")]

    began = repository.log.add(Began(work=work(key="a")), sitter)
    turned = repository.log.add(Turned(sitting=began.id, done=1, work=work(key="b")), sitter)
    repository.facts.add(sitter, "pass done", {"school": work().school, "pass": "b"})
    ended = repository.log.add(Ended(sitting=began.id, done=1), sitter)
    assert sorted(ticks()) == ["a", "b"]
    repository.log.strike(ended.id, sitter)
    assert sorted(ticks()) == ["a", "b"], "b was ticked before, by hand"
    repository.log.strike(turned.id, sitter)
    assert ticks() == ["b"]
