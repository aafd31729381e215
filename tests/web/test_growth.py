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
from truesitter.store.settings.sitters import Shelf
from truesitter.store.settings.tubes import Stock
from truesitter.web.server.app import create_app

PHOTO = jpeg(np.full((80, 64, 3), 120, np.uint8))


@contextmanager
def statements(shelf: Shelf) -> Iterator[list[str]]:
    """What is asked of the database meanwhile."""
    asked: list[str] = []

    def note(*about: object) -> None:
        asked.append(str(about[2]))

    event.listen(shelf._engine, "after_cursor_execute", note)
    yield asked
    event.remove(shelf._engine, "after_cursor_execute", note)


@pytest.mark.parametrize("path", ["/api/sitters", "/api/log/paintings"])
def test_a_list_costs_as_many_queries_with_three_sitters_as_with_forty(tmp_path: Path, path: str) -> None:
    shelf, counted = Shelf(tmp_path), []
    for number in (3, 40):
        while len(shelf.all()) < number:
            sitter = shelf.add(PHOTO, "a.jpg").id
            shelf.change(sitter, "values", Edit("Three", {"groups": 3}))
            shelf.log.add(Began(work=work()), sitter, by=f"painter {number % 3}")
            shelf.facts.add(sitter, "pass done", {"school": "x", "pass": "y"})
        fresh = Shelf(tmp_path)
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
    shelf, loaded = Shelf(tmp_path), {}
    rows: list[object] = []
    event.listen(shelf._sessions.writing.class_, "loaded_as_persistent", lambda _, row: rows.append(row))
    for entries in (100, 5000):
        sitter = shelf.add(PHOTO, "a.jpg").id
        fill(shelf, sitter, entries, 50)
        shelf.log.pace()
        rows.clear()
        ahead = shelf.log.add(NextTime(words="the eye"), sitter)
        began = shelf.log.add(Began(work=work(key="new")), sitter)
        with pytest.raises(Refusal, match="goes on"):
            shelf.log.add(Began(), sitter)
        shelf.log.add(Noted(words="x", sitting=began.id), sitter)
        shelf.log.add(Turned(sitting=began.id, done=1, work=work(key="other")), sitter)
        shelf.log.add(Judged(liked=3), sitter)
        shelf.log.add(Settled(entry=ahead.id), sitter)
        ended = shelf.log.add(Ended(sitting=began.id), sitter)
        shelf.log.strike(ended.id, sitter)
        loaded[entries] = len(rows)
    assert loaded[5000] == loaded[100]


def test_no_entry_of_the_log_is_searched_for_one_by_one(tmp_path: Path) -> None:
    """How SQLite goes about each question asked while entries are added: never through all of them."""
    shelf, asked = Shelf(tmp_path), []
    sitter = shelf.add(PHOTO, "a.jpg").id
    fill(shelf, sitter, 500, 50)
    shelf.log.pace()

    def note(_c: object, _u: object, statement: str, parameters: tuple[object, ...], *_: object) -> None:
        asked.append((statement, parameters))

    event.listen(shelf._engine, "after_cursor_execute", note)
    began = shelf.log.add(Began(work=work(key="new")), sitter)
    shelf.log.add(Noted(words="x", sitting=began.id), sitter)
    ended = shelf.log.add(Ended(sitting=began.id, done=1), sitter)
    shelf.log.strike(ended.id, sitter)
    shelf.log.pace()
    event.remove(shelf._engine, "after_cursor_execute", note)
    with closing(sqlite3.connect(tmp_path / "sitters.sqlite")) as database:
        for statement, parameters in asked:
            if "FROM entry" in statement:
                steps = database.execute(f"EXPLAIN QUERY PLAN {statement}", parameters).fetchall()
                scanned = [step[3] for step in steps if step[3].startswith("SCAN entry")]
                assert scanned in ([], ["SCAN entry USING INDEX ix_entry_struck"]), statement
    assert len(asked) > 10


def test_a_note_leaves_what_is_known_of_the_pace(tmp_path: Path) -> None:
    shelf = Shelf(tmp_path)
    sitter = shelf.add(PHOTO, "a.jpg").id
    fill(shelf, sitter, 500, 50)
    known = shelf.log.pace()
    shelf.log.add(Noted(words="x"), sitter)
    assert shelf.log.pace() is known
    began = shelf.log.add(Began(work=work(key="new")), sitter)
    assert shelf.log.pace() is not known
    shelf.log.strike(began.id, sitter)
    assert shelf.log.pace() == known


def test_pace_can_be_asked_by_many_at_once(tmp_path: Path) -> None:
    shelf, faults = Shelf(tmp_path), []
    sitter = shelf.add(PHOTO, "a.jpg").id
    fill(shelf, sitter, 200, 50)

    def ask(painter: int) -> None:
        try:
            for n in range(30):
                shelf.log.pace(f"painter {(painter * 30 + n) % 97}")
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
    shelf, other, done = Shelf(tmp_path), Shelf(tmp_path), []
    shelf.tubes.add("Ochre", "yellow-ochre", key="ochre")
    fit = tubes.own_fit

    def slow(tube: OwnTube) -> object:
        began = time.monotonic()
        other.tubes.add(f"Another {len(done)}", "yellow-ochre")
        done.append(time.monotonic() - began)
        return fit(tube)

    monkeypatch.setattr(tubes, "own_fit", slow)
    swatches = Swatches((60.0, 12.0, 45.0))
    if way == "read":
        kept = shelf.tubes.read({"ochre": swatches}, "meter")
    else:
        kept = shelf.tubes.take_in(
            [Stock(OwnTube("ochre", "Ochre", "yellow-ochre", swatches), 20.0, False)], "file"
        )
    assert kept[0].tube.swatches == swatches
    assert len(done) == 1
    assert done[0] < 2


def test_striking_out_done_takes_its_tick_along(tmp_path: Path) -> None:
    shelf = Shelf(tmp_path)
    sitter = shelf.add(PHOTO, "a.jpg").id

    def ticks() -> list[str]:
        return [f.document["pass"] for f in shelf.facts.all(sitter, "pass done")]

    began = shelf.log.add(Began(work=work(key="a")), sitter)
    turned = shelf.log.add(Turned(sitting=began.id, done=1, work=work(key="b")), sitter)
    shelf.facts.add(sitter, "pass done", {"school": work().school, "pass": "b"})
    ended = shelf.log.add(Ended(sitting=began.id, done=1), sitter)
    assert sorted(ticks()) == ["a", "b"]
    shelf.log.strike(ended.id, sitter)
    assert sorted(ticks()) == ["a", "b"], "b was ticked before, by hand"
    shelf.log.strike(turned.id, sitter)
    assert ticks() == ["b"]
