"""The log in the database: added to, struck out, never lost."""

from __future__ import annotations

import subprocess
import sys
import threading
from datetime import datetime, timedelta

import pytest

from tests.log import work
from tests.store.conftest import PAINTED, PHOTO
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
from truesitter.store.settings.sitter import UnknownSitter
from truesitter.store.settings.sitters import Repository


def kinds(repository: Repository, sitter: str) -> list[str]:
    return [e.what.kind for e in repository.log.of(sitter)]


def test_what_is_written_down_is_there_as_it_was(repository: Repository, one: str) -> None:
    written = [
        repository.log.add(Began(work=work()), one, by="Ben"),
        repository.log.add(Judged(liked=5, why="the eyes", by="Cleo"), one),
    ]
    assert list(Repository(repository.folder).log.of(one)) == written
    assert written[0].painter == "Ben"
    assert abs(written[0].at - now()) < timedelta(minutes=1)


def test_undo_and_settings_leave_the_log_alone(repository: Repository, one: str) -> None:
    from truesitter.store.settings.edits import Edit

    repository.change(one, "values", Edit("Three", {"groups": 3}))
    repository.log.add(Noted(words="a note"), one)
    repository.undo(one)
    assert kinds(repository, one) == ["note"]


def test_what_is_struck_out_stays_written_down(repository: Repository, one: str) -> None:
    entry = repository.log.add(Noted(words="wrong"), one)
    repository.log.strike(entry.id, one)
    (kept,) = repository.log.of(one)
    assert kept.what == Noted(words="wrong")
    assert kept.struck_at is not None
    with pytest.raises(UnknownEntry):
        repository.log.strike(entry.id, one)
    other = repository.log.add(Noted(words="right"), one)
    with pytest.raises(UnknownEntry):
        repository.log.strike(other.id, repository.add(PHOTO, "b.jpg").id)
    with pytest.raises(UnknownEntry):
        repository.log.strike(other.id)


def test_paint_goes_off_the_rack_and_comes_back_when_struck_out(repository: Repository, one: str) -> None:
    repository.tubes.add("Ochre", "yellow-ochre", 37.0, key="ochre")
    used = repository.log.add(Used(tube="ochre", ml=5), one)
    assert used.what == Used(tube="ochre", name="Ochre", ml=5, off_rack_ml=5)
    assert repository.tubes.get("ochre").amount_ml == 32
    more = repository.log.add(Used(tube="ochre", ml=40), one)
    tube = repository.tubes.get("ochre")
    assert (tube.amount_ml, tube.empty) == (0, True)
    repository.log.strike(more.id, one)
    tube = repository.tubes.get("ochre")
    assert (tube.amount_ml, tube.empty) == (32, False)
    repository.log.strike(used.id, one)
    assert repository.tubes.get("ochre").amount_ml == 37


def test_a_tube_that_is_not_counted_stays_so(repository: Repository, one: str) -> None:
    repository.tubes.add("Ochre", "yellow-ochre", key="ochre")
    entry = repository.log.add(Used(tube="ochre", ml=5), one)
    assert isinstance(entry.what, Used)
    assert entry.what.off_rack_ml == 0
    repository.log.strike(entry.id, one)
    assert repository.tubes.get("ochre").amount_ml is None
    with pytest.raises(Refusal, match="no tube"):
        repository.log.add(Used(tube="gone", ml=5), one)
    assert len(kinds(repository, one)) == 1


def test_a_pass_that_is_done_is_ticked_once(repository: Repository, one: str) -> None:
    for _ in range(2):
        began = repository.log.add(Began(work=work()), one)
        repository.log.add(Ended(sitting=began.id, done=0.5), one)
    assert repository.facts.all(one, "pass done") == ()
    for _ in range(2):
        began = repository.log.add(Began(work=work()), one)
        repository.log.add(Ended(sitting=began.id, done=1), one)
    (fact,) = repository.facts.all(one, "pass done")
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
    repository: Repository, one: str, what: Ended, match: str
) -> None:
    with pytest.raises(Refusal, match=match):
        repository.log.add(what, one)
    assert kinds(repository, one) == []


def test_a_photograph_of_the_painting_can_be_written_down(repository: Repository, one: str) -> None:
    sha = repository.paintings.keep(one, PAINTED, "p.jpg", inspect(PAINTED))
    repository.log.add(Photographed(sha256=sha), one)
    other = repository.add(PHOTO, "b.jpg").id
    with pytest.raises(Refusal, match="take it in"):
        repository.log.add(Photographed(sha256=sha), other)


def test_what_is_to_be_done_is_settled_once_it_is(repository: Repository, one: str) -> None:
    ahead = repository.log.add(NextTime(words="glaze the cheek"), one)
    repository.log.add(Settled(entry=ahead.id), one)
    repository.log.strike(ahead.id, one)
    with pytest.raises(Refusal, match="next time"):
        repository.log.add(Settled(entry=ahead.id), one)


def test_some_things_belong_to_no_picture(repository: Repository, one: str) -> None:
    tried = repository.log.add(Tried(subject="paper", name="Rough"))
    repository.log.add(PaceReset())
    with pytest.raises(Refusal, match="belongs to a picture"):
        repository.log.add(Judged(liked=3))
    with pytest.raises(UnknownSitter):
        repository.log.add(Noted(words="x"), "nobody")
    assert [e.what.kind for e in repository.log.all()] == ["trial", "pace reset"]
    repository.log.strike(tried.id)
    repository.log.add(Noted(words="x"), one)
    repository.delete(one)
    assert [e.what.kind for e in repository.log.all()] == ["trial", "pace reset"]


def test_it_cannot_have_happened_tomorrow(repository: Repository, one: str) -> None:
    for at in (now() + timedelta(hours=1), datetime(1901, 1, 1)):
        with pytest.raises(Refusal, match="has happened"):
            repository.log.add(Noted(words="x"), one, at)
    # A clock that is a little fast is forgiven.
    entry = repository.log.add(Noted(words="x"), one, now() + timedelta(minutes=2))
    assert entry.at <= now()
    yesterday = now() - timedelta(days=1)
    assert repository.log.add(Noted(words="x"), one, yesterday).at == yesterday


def test_two_windows_cannot_begin_two_sittings(repository: Repository, one: str) -> None:
    refused: list[Refusal] = []

    def begin() -> None:
        try:
            repository.log.add(Began(), one)
        except Refusal as refusal:
            refused.append(refusal)

    threads = [threading.Thread(target=begin) for _ in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(kinds(repository, one)) == 1
    assert len(refused) == 5


def test_a_sitting_in_progress_survives_a_power_cut(repository: Repository, one: str) -> None:
    repository.close()
    program = (
        "import os, signal, sys; from pathlib import Path;"
        "from truesitter.store.settings.sitters import Repository;"
        "from truesitter.core.log.events import Began, Paused, Resumed;"
        "log = Repository(Path(sys.argv[1])).log; b = log.add(Began(), sys.argv[2]);"
        "log.add(Paused(sitting=b.id), sys.argv[2]); log.add(Resumed(sitting=b.id), sys.argv[2]);"
        "os.kill(os.getpid(), signal.SIGKILL)"
    )
    done = subprocess.run([sys.executable, "-c", program, str(repository.folder), one], check=False)
    assert done.returncode == -9
    again = Repository(repository.folder)
    (sitting,) = sittings_of(again.log.of(one), now())
    assert (sitting.ended, sitting.paused) == (None, False)
    again.log.add(Ended(sitting=sitting.id), one)
    (sitting,) = sittings_of(again.log.of(one), now())
    assert sitting.ended is not None


def test_own_pace_follows_the_log(repository: Repository, one: str) -> None:
    start = now() - timedelta(days=9)
    assert not repository.log.pace()
    last: Entry | None = None
    for n in range(3):
        at = start + timedelta(days=n)
        began = repository.log.add(Began(work=work(key=str(n))), one, at, by="Ada")
        last = repository.log.add(Ended(sitting=began.id, done=1), one, at + timedelta(minutes=120), by="Ada")
    assert repository.log.pace("Ada").time
    assert not repository.log.pace("Ben")
    other = repository.add(PHOTO, "b.jpg").id
    for n in range(3):
        at = start + timedelta(days=n)
        began = repository.log.add(Began(work=work(key=str(n))), other, at, by="Ben")
        repository.log.add(Ended(sitting=began.id, done=1), other, at + timedelta(minutes=30), by="Ben")
    paces = [repository.log.pace(painter).time[Level("wash")].factor for painter in ("Ada", None, "Ben")]
    assert paces == pytest.approx([2, 1, 0.5])
    assert repository.log.pace_at(one) == repository.log.pace("Ada")
    assert repository.log.pace_at(other) == repository.log.pace("Ben")
    assert last is not None
    repository.log.strike(last.id, one)
    assert not repository.log.pace("Ada")
    # Of a picture that nobody sat at, everybody's is told.
    assert repository.log.pace_at(repository.add(PHOTO, "c.jpg").id) == repository.log.pace()
