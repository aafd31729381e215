"""The log and own pace on the command line."""

from __future__ import annotations

import json
from datetime import timedelta
from pathlib import Path

import numpy as np
import pytest
from icalendar import Calendar

from tests.cli.test_cli import run
from tests.conftest import jpeg
from tests.log import Hand, painted, work
from truesitter.formats.documents.log_files import log_csv, log_json, read_log
from truesitter.store.rows.clock import now
from truesitter.store.settings.sitters import Repository


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    repository = Repository(tmp_path / "data")
    one = repository.add(jpeg(np.full((80, 64, 3), 120, np.uint8)), "a.jpg", "Ada").id
    hand = Hand(sitter=one, clock=now() - timedelta(days=2))
    hand.begin(work())
    hand.end(100, done=0.5)
    repository.log.take_in(hand.entries)
    repository.close()
    return tmp_path / "data"


def test_a_log_is_printed_in_every_form(folder: Path) -> None:
    data = ["--data", str(folder)]
    code, out, _ = run("log", "Ada", *data)
    assert code == 0
    assert "First flesh wash: 1 h 40 min, 50% done" in out
    assert "1 h 40 min in one sitting." in out
    entries = read_log(run("log", "Ada", "--json", *data)[1].encode())
    assert read_log(run("log", "Ada", "--csv", *data)[1].encode()) == entries
    assert len(entries) == 2
    assert len(list(Calendar.from_ical(run("log", "Ada", "--ics", *data)[1]).walk("VEVENT"))) == 2


def test_a_log_is_taken_in(folder: Path, tmp_path: Path) -> None:
    data = ["--data", str(folder)]
    more = painted({"skin": 1.5}, 3, 1, 0.0)
    for name, text in (("log.csv", log_csv(more)), ("log.json", log_json(more))):
        (tmp_path / name).write_text(text, newline="")
    assert run("log", "import", str(tmp_path / "log.csv"), *data)[0] == 2
    assert run("log", "import", str(tmp_path / "log.csv"), "--to", "Ada", *data)[1] == "6 new entries.\n"
    assert run("log", "import", str(tmp_path / "log.json"), "--to", "Ada", *data)[1] == "0 new entries.\n"
    told = json.loads(run("rates", "--json", *data)[1])
    washes = next(r for r in told["rates"] if (r["kind"], r["place"], r["brush"]) == ("wash", "skin", ""))
    assert washes["sittings"] == 4
    assert washes["factor"] == pytest.approx((1.5**3 * 100 / 30) ** 0.25)
    assert "sittings" in run("rates", *data)[1]


@pytest.mark.parametrize(
    ("arguments", "match"),
    [
        (["log", "Nobody"], "no sitter"),
        (["log", "Ada", "--csv", "--json"], "one form"),
        (["log", "Ada", "x.json"], "import"),
        (["log", "import", "missing.json"], "missing.json"),
    ],
)
def test_what_is_asked_wrongly_is_said(folder: Path, arguments: list[str], match: str) -> None:
    code, _, err = run(*arguments, "--data", str(folder))
    assert code == 2
    assert match in err


def test_nothing_is_learned_from_one_sitting(folder: Path) -> None:
    assert "three sittings" in run("rates", "--data", str(folder))[1]
    assert json.loads(run("rates", "--json", "--data", str(folder))[1]) == {"rates": [], "loss": None}
    assert run("rates", "--data", str(folder / "none"))[0] == 2
