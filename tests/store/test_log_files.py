"""A log as a file, and the log of an earlier version."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from dataclasses import replace
from datetime import datetime, timedelta
from pathlib import Path

import pytest

from tests.log import Hand, work
from tests.store.conftest import PHOTO
from tests.store.test_log import kinds
from truesitter.core.log.entry import Entry
from truesitter.core.log.events import (
    NextTime,
    Noted,
    Settled,
)
from truesitter.core.log.sittings import sittings_of
from truesitter.core.refusal import Refusal
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import NEWEST, open_database
from truesitter.store.settings.sitters import Repository

# -- files --------------------------------------------------------------------------------------


def a_log(repository: Repository, one: str) -> tuple[Entry, ...]:
    hand = Hand(sitter=one, clock=now() - timedelta(days=2))
    hand.begin(work())
    hand.strike(hand.write(Noted(sitting=hand.sitting, words="no"), 5))
    hand.end(60, done=1)
    assert repository.log.take_in(hand.entries) == 3
    return tuple(hand.entries)


def test_a_log_is_taken_in_once(repository: Repository, one: str) -> None:
    entries = a_log(repository, one)
    assert repository.log.of(one) == entries
    assert repository.log.take_in(entries) == 0
    assert repository.log.of(one) == entries
    # What was struck out elsewhere is struck out here.
    struck = replace(entries[0], struck_at=now())
    assert repository.log.take_in([struck]) == 0
    assert repository.log.of(one)[0].struck_at == struck.struck_at


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
    repository: Repository, one: str, change: dict[str, object], match: str
) -> None:
    entries = a_log(repository, one)
    fine = replace(entries[2], id="2" * 32, what=Noted(words="new"))
    with pytest.raises(Refusal, match=match):
        repository.log.take_in([fine, replace(entries[0], **change)])  # type: ignore[arg-type]
    assert repository.log.of(one) == entries


def test_a_log_goes_to_another_sitter(repository: Repository, one: str) -> None:
    elsewhere = Hand(sitter="stranger", clock=now() - timedelta(days=2))
    elsewhere.begin(work())
    elsewhere.end(30)
    assert repository.log.take_in(elsewhere.entries, one) == 2
    (sitting,) = sittings_of(repository.log.of(one), now())
    assert sitting.minutes == 30


def test_a_sitters_file_carries_its_log(repository: Repository, one: str) -> None:
    entries = a_log(repository, one)
    ahead = repository.log.add(NextTime(words="x"), one)
    repository.log.add(Settled(entry=ahead.id), one)
    copy = repository.take_in(repository.file(one)).id
    mine, theirs = repository.log.of(one), repository.log.of(copy)
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
    repository = Repository(folder)
    one = repository.add(PHOTO, "a.jpg", "Ada").id
    repository.facts.add(one, "pass done", {"school": "direct-oil", "pass": "ground"})
    repository.tubes.add("Ochre", "yellow-ochre", 37.0, key="ochre")
    repository.close()
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
    again = Repository(folder)
    assert (folder / f"sitters.before-{NEWEST}.sqlite").is_file()
    assert [s.name for s in again.all()] == ["Ada"]
    assert len(again.facts.all(one, "pass done")) == 1
    assert again.tubes.get("ochre").amount_ml == 37
    again.log.add(Noted(words="first"), one)
    assert kinds(again, one) == ["note"]


def test_a_sitter_that_is_forgotten_takes_its_log_along(repository: Repository, one: str) -> None:
    repository.log.add(Noted(words="x"), one)
    repository.delete(one)
    repository.purge()
    with closing(sqlite3.connect(repository.folder / "sitters.sqlite")) as db:
        assert db.execute("SELECT count(*) FROM entry").fetchone() == (0,)
