"""The log in the database: added to, struck out, never lost."""

from __future__ import annotations

import sqlite3
import subprocess
import sys
import threading
from contextlib import closing
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import jpeg
from tests.log import Hand, work
from truesitter.core.log.entry import Entry
from truesitter.core.log.events import (
    Began,
    Ended,
    Judged,
    NextTime,
    Noted,
    PaceReset,
    Photographed,
    Settled,
    Tried,
    Used,
)
from truesitter.core.log.sittings import sittings_of
from truesitter.core.pace.own_pace import Level
from truesitter.core.reference.decode import inspect
from truesitter.core.refusal import Refusal
from truesitter.store.log.log import UnknownEntry
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import NEWEST, open_database
from truesitter.store.settings.sitter import UnknownSitter
from truesitter.store.settings.sitters import Shelf

PHOTO = jpeg(np.full((80, 64, 3), 120, np.uint8))
PAINTED = jpeg(np.full((90, 70, 3), 90, np.uint8))


@pytest.fixture
def shelf(tmp_path: Path) -> Shelf:
    return Shelf(tmp_path / "data")


@pytest.fixture
def one(shelf: Shelf) -> str:
    return shelf.add(PHOTO, "a.jpg", "Ada").id


def kinds(shelf: Shelf, sitter: str) -> list[str]:
    return [e.what.kind for e in shelf.log.of(sitter)]


def test_what_is_written_down_is_there_as_it_was(shelf: Shelf, one: str) -> None:
    written = [
        shelf.log.add(Began(work=work()), one, by="Ben"),
        shelf.log.add(Judged(liked=5, why="the eyes", by="Cleo"), one),
    ]
    assert list(Shelf(shelf.folder).log.of(one)) == written
    assert written[0].painter == "Ben"
    assert abs(written[0].at - now()) < timedelta(minutes=1)


def test_undo_and_settings_leave_the_log_alone(shelf: Shelf, one: str) -> None:
    from truesitter.store.settings.edits import Edit

    shelf.change(one, "values", Edit("Three", {"groups": 3}))
    shelf.log.add(Noted(words="a note"), one)
    shelf.undo(one)
    assert kinds(shelf, one) == ["note"]


def test_what_is_struck_out_stays_written_down(shelf: Shelf, one: str) -> None:
    entry = shelf.log.add(Noted(words="wrong"), one)
    shelf.log.strike(entry.id, one)
    (kept,) = shelf.log.of(one)
    assert kept.what == Noted(words="wrong")
    assert kept.struck_at is not None
    with pytest.raises(UnknownEntry):
        shelf.log.strike(entry.id, one)
    other = shelf.log.add(Noted(words="right"), one)
    with pytest.raises(UnknownEntry):
        shelf.log.strike(other.id, shelf.add(PHOTO, "b.jpg").id)
    with pytest.raises(UnknownEntry):
        shelf.log.strike(other.id)


def test_paint_goes_off_the_rack_and_comes_back_when_struck_out(shelf: Shelf, one: str) -> None:
    shelf.tubes.add("Ochre", "yellow-ochre", 37.0, key="ochre")
    used = shelf.log.add(Used(tube="ochre", ml=5), one)
    assert used.what == Used(tube="ochre", name="Ochre", ml=5, off_rack_ml=5)
    assert shelf.tubes.get("ochre").amount_ml == 32
    more = shelf.log.add(Used(tube="ochre", ml=40), one)
    tube = shelf.tubes.get("ochre")
    assert (tube.amount_ml, tube.empty) == (0, True)
    shelf.log.strike(more.id, one)
    tube = shelf.tubes.get("ochre")
    assert (tube.amount_ml, tube.empty) == (32, False)
    shelf.log.strike(used.id, one)
    assert shelf.tubes.get("ochre").amount_ml == 37


def test_a_tube_that_is_not_counted_stays_so(shelf: Shelf, one: str) -> None:
    shelf.tubes.add("Ochre", "yellow-ochre", key="ochre")
    entry = shelf.log.add(Used(tube="ochre", ml=5), one)
    assert isinstance(entry.what, Used)
    assert entry.what.off_rack_ml == 0
    shelf.log.strike(entry.id, one)
    assert shelf.tubes.get("ochre").amount_ml is None
    with pytest.raises(Refusal, match="no tube"):
        shelf.log.add(Used(tube="gone", ml=5), one)
    assert len(kinds(shelf, one)) == 1


def test_a_pass_that_is_done_is_ticked_once(shelf: Shelf, one: str) -> None:
    for _ in range(2):
        began = shelf.log.add(Began(work=work()), one)
        shelf.log.add(Ended(sitting=began.id, done=0.5), one)
    assert shelf.facts.all(one, "pass done") == ()
    for _ in range(2):
        began = shelf.log.add(Began(work=work()), one)
        shelf.log.add(Ended(sitting=began.id, done=1), one)
    (fact,) = shelf.facts.all(one, "pass done")
    assert fact.document == {"school": "watercolour-zones", "pass": "flesh-1"}


@pytest.mark.parametrize(
    ("what", "match"),
    [
        (Ended(sitting="0" * 32), "no such sitting"),
        (Settled(entry="0" * 32), "next time"),
        (Photographed(sha256="0" * 64), "take it in"),
        (Tried(subject="paper", name="Rough", sha256="0" * 64), "take it in"),
    ],
)
def test_what_speaks_of_something_that_is_not_there_is_refused(
    shelf: Shelf, one: str, what: Ended, match: str
) -> None:
    with pytest.raises(Refusal, match=match):
        shelf.log.add(what, one)
    assert kinds(shelf, one) == []


def test_a_photograph_of_the_painting_can_be_written_down(shelf: Shelf, one: str) -> None:
    sha = shelf.paintings.keep(one, PAINTED, "p.jpg", inspect(PAINTED))
    shelf.log.add(Photographed(sha256=sha), one)
    other = shelf.add(PHOTO, "b.jpg").id
    with pytest.raises(Refusal, match="take it in"):
        shelf.log.add(Photographed(sha256=sha), other)


def test_what_is_to_be_done_is_settled_once_it_is(shelf: Shelf, one: str) -> None:
    ahead = shelf.log.add(NextTime(words="glaze the cheek"), one)
    shelf.log.add(Settled(entry=ahead.id), one)
    shelf.log.strike(ahead.id, one)
    with pytest.raises(Refusal, match="next time"):
        shelf.log.add(Settled(entry=ahead.id), one)


def test_some_things_belong_to_no_picture(shelf: Shelf, one: str) -> None:
    tried = shelf.log.add(Tried(subject="paper", name="Rough"))
    shelf.log.add(PaceReset())
    with pytest.raises(Refusal, match="belongs to a picture"):
        shelf.log.add(Judged(liked=3))
    with pytest.raises(UnknownSitter):
        shelf.log.add(Noted(words="x"), "nobody")
    assert [e.what.kind for e in shelf.log.all()] == ["trial", "pace reset"]
    shelf.log.strike(tried.id)
    shelf.log.add(Noted(words="x"), one)
    shelf.delete(one)
    assert [e.what.kind for e in shelf.log.all()] == ["trial", "pace reset"]


def test_it_cannot_have_happened_tomorrow(shelf: Shelf, one: str) -> None:
    for at in (now() + timedelta(hours=1), datetime(1901, 1, 1)):
        with pytest.raises(Refusal, match="has happened"):
            shelf.log.add(Noted(words="x"), one, at)
    # A clock that is a little fast is forgiven.
    entry = shelf.log.add(Noted(words="x"), one, now() + timedelta(minutes=2))
    assert entry.at <= now()
    yesterday = now() - timedelta(days=1)
    assert shelf.log.add(Noted(words="x"), one, yesterday).at == yesterday


def test_two_windows_cannot_begin_two_sittings(shelf: Shelf, one: str) -> None:
    refused: list[Refusal] = []

    def begin() -> None:
        try:
            shelf.log.add(Began(), one)
        except Refusal as refusal:
            refused.append(refusal)

    threads = [threading.Thread(target=begin) for _ in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(kinds(shelf, one)) == 1
    assert len(refused) == 5


def test_a_sitting_in_progress_survives_a_power_cut(shelf: Shelf, one: str) -> None:
    shelf.close()
    program = (
        "import os, signal, sys; from pathlib import Path;"
        "from truesitter.store.settings.sitters import Shelf;"
        "from truesitter.core.log.events import Began, Paused, Resumed;"
        "log = Shelf(Path(sys.argv[1])).log; b = log.add(Began(), sys.argv[2]);"
        "log.add(Paused(sitting=b.id), sys.argv[2]); log.add(Resumed(sitting=b.id), sys.argv[2]);"
        "os.kill(os.getpid(), signal.SIGKILL)"
    )
    done = subprocess.run([sys.executable, "-c", program, str(shelf.folder), one], check=False)
    assert done.returncode == -9
    again = Shelf(shelf.folder)
    (sitting,) = sittings_of(again.log.of(one), now())
    assert (sitting.ended, sitting.paused) == (None, False)
    again.log.add(Ended(sitting=sitting.id), one)
    (sitting,) = sittings_of(again.log.of(one), now())
    assert sitting.ended is not None


def test_own_pace_follows_the_log(shelf: Shelf, one: str) -> None:
    start = now() - timedelta(days=9)
    assert not shelf.log.pace()
    last: Entry | None = None
    for n in range(3):
        at = start + timedelta(days=n)
        began = shelf.log.add(Began(work=work(key=str(n))), one, at, by="Ada")
        last = shelf.log.add(Ended(sitting=began.id, done=1), one, at + timedelta(minutes=120), by="Ada")
    assert shelf.log.pace("Ada").time
    assert not shelf.log.pace("Ben")
    other = shelf.add(PHOTO, "b.jpg").id
    for n in range(3):
        at = start + timedelta(days=n)
        began = shelf.log.add(Began(work=work(key=str(n))), other, at, by="Ben")
        shelf.log.add(Ended(sitting=began.id, done=1), other, at + timedelta(minutes=30), by="Ben")
    paces = [shelf.log.pace(painter).time[Level("wash")].factor for painter in ("Ada", None, "Ben")]
    assert paces == pytest.approx([2, 1, 0.5])
    assert shelf.log.pace_at(one) == shelf.log.pace("Ada")
    assert shelf.log.pace_at(other) == shelf.log.pace("Ben")
    assert last is not None
    shelf.log.strike(last.id, one)
    assert not shelf.log.pace("Ada")
    # Of a picture that nobody sat at, everybody's is told.
    assert shelf.log.pace_at(shelf.add(PHOTO, "c.jpg").id) == shelf.log.pace()


# -- files --------------------------------------------------------------------------------------


def a_log(shelf: Shelf, one: str) -> tuple[Entry, ...]:
    hand = Hand(sitter=one, clock=now() - timedelta(days=2))
    hand.begin(work())
    hand.strike(hand.write(Noted(sitting=hand.sitting, words="no"), 5))
    hand.end(60, done=1)
    assert shelf.log.take_in(hand.entries) == 3
    return tuple(hand.entries)


def test_a_log_is_taken_in_once(shelf: Shelf, one: str) -> None:
    entries = a_log(shelf, one)
    assert shelf.log.of(one) == entries
    assert shelf.log.take_in(entries) == 0
    assert shelf.log.of(one) == entries
    # What was struck out elsewhere is struck out here.
    struck = replace(entries[0], struck_at=now())
    assert shelf.log.take_in([struck]) == 0
    assert shelf.log.of(one)[0].struck_at == struck.struck_at


@pytest.mark.parametrize(
    ("change", "match"),
    [
        ({"what": Noted(words="other")}, "other words"),
        ({"id": "1" * 32, "sitter": "stranger"}, "not here"),
        ({"id": "1" * 32, "sitter": ""}, "belongs to a picture"),
        ({"id": "1" * 32, "at": datetime(2990, 1, 1)}, "future"),
    ],
)
def test_a_log_that_does_not_fit_is_taken_in_not_at_all(
    shelf: Shelf, one: str, change: dict[str, object], match: str
) -> None:
    entries = a_log(shelf, one)
    fine = replace(entries[2], id="2" * 32, what=Noted(words="new"))
    with pytest.raises(Refusal, match=match):
        shelf.log.take_in([fine, replace(entries[0], **change)])  # type: ignore[arg-type]
    assert shelf.log.of(one) == entries


def test_a_log_goes_to_another_sitter(shelf: Shelf, one: str) -> None:
    elsewhere = Hand(sitter="stranger", clock=now() - timedelta(days=2))
    elsewhere.begin(work())
    elsewhere.end(30)
    assert shelf.log.take_in(elsewhere.entries, one) == 2
    (sitting,) = sittings_of(shelf.log.of(one), now())
    assert sitting.minutes == 30


def test_a_sitters_file_carries_its_log(shelf: Shelf, one: str) -> None:
    entries = a_log(shelf, one)
    ahead = shelf.log.add(NextTime(words="x"), one)
    shelf.log.add(Settled(entry=ahead.id), one)
    copy = shelf.take_in(shelf.file(one)).id
    mine, theirs = shelf.log.of(one), shelf.log.of(copy)
    assert [(e.at, e.what.kind, e.struck_at) for e in mine] == [
        (e.at, e.what.kind, e.struck_at) for e in theirs
    ]
    assert not {e.id for e in mine} & {e.id for e in theirs}
    assert [s.minutes for s in sittings_of(theirs, now())] == [s.minutes for s in sittings_of(entries, now())]
    settled = theirs[-1].what
    assert isinstance(settled, Settled)
    assert settled.entry == theirs[-2].id


def test_a_folder_of_the_version_before_gets_a_log_and_keeps_its_rows(tmp_path: Path) -> None:
    folder = tmp_path / "data"
    shelf = Shelf(folder)
    one = shelf.add(PHOTO, "a.jpg", "Ada").id
    shelf.facts.add(one, "pass done", {"school": "direct-oil", "pass": "ground"})
    shelf.tubes.add("Ochre", "yellow-ochre", 37.0, key="ochre")
    shelf.close()
    from alembic import command
    from alembic.config import Config

    path = folder / "sitters.sqlite"
    engine = open_database(path)
    with engine.begin() as connection:
        config = Config()
        config.set_main_option("script_location", "src/truesitter/store/migrations")
        config.attributes["connection"] = connection
        command.downgrade(config, "0005")
    engine.dispose()
    with closing(sqlite3.connect(path)) as db:
        assert db.execute("SELECT count(*) FROM sqlite_master WHERE name = 'entry'").fetchone() == (0,)
    again = Shelf(folder)
    assert (folder / f"sitters.before-{NEWEST}.sqlite").is_file()
    assert [s.name for s in again.all()] == ["Ada"]
    assert len(again.facts.all(one, "pass done")) == 1
    assert again.tubes.get("ochre").amount_ml == 37
    again.log.add(Noted(words="first"), one)
    assert kinds(again, one) == ["note"]


def test_a_sitter_that_is_forgotten_takes_its_log_along(shelf: Shelf, one: str) -> None:
    shelf.log.add(Noted(words="x"), one)
    shelf.delete(one)
    shelf.purge()
    with closing(sqlite3.connect(shelf.folder / "sitters.sqlite")) as db:
        assert db.execute("SELECT count(*) FROM entry").fetchone() == (0,)
