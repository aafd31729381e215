"""The log in files: nothing is lost on the way out and back, and hostile cells do no harm."""

from __future__ import annotations

import csv
import io
import json
import random
from contextlib import suppress
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st
from icalendar import Calendar
from jsonschema import Draft202012Validator

from tests.log import NOON, Hand, painted, work
from truesitter.core.log.drying_clocks import clocks_of
from truesitter.core.log.events import AirRead, Judged, Noted, Tried
from truesitter.core.log.log_document import log_schema
from truesitter.core.log.sittings import sittings_of
from truesitter.core.refusal import Refusal
from truesitter.formats.documents.log_files import log_csv, log_ics, log_json, read_log

LATER = NOON + timedelta(days=30)
HOSTILE = [
    "=1+1",
    "+1",
    "-1",
    "@x",
    "\t=1",
    "'=1",
    "''=1",
    "json:1",
    "json:{",
    "a\nb",
    'q"q',
    "a,b",
    ";",
    "é",
    " x ",
]


def a_log(words: list[str]) -> Hand:
    hand = Hand(painter="Ada")
    hand.begin(work(mixture="2 ochre + 1 red"))
    for text in words:
        hand.write(Noted(sitting=hand.sitting, words=text), 1)
    hand.strike(hand.write(AirRead(sitting=hand.sitting, temperature=-3.5, humidity=60, simulated=True)))
    hand.use(2.5, 0.5)
    hand.end(30, done=0.25)
    hand.write(Tried(subject="paper", name="Rough", marks={"lifts": 4, "a, b": 1}, wet=6.0, dry=6.5))
    hand.write(Judged(liked=2, why="flat"))
    return hand


@pytest.mark.parametrize("write", [log_json, log_csv])
@pytest.mark.parametrize("text", HOSTILE)
def test_a_log_comes_back_as_it_was(write: object, text: str) -> None:
    hand = a_log([text])
    assert read_log(write(hand.entries).encode()) == tuple(hand.entries)  # type: ignore[operator]


@given(st.lists(st.text(min_size=1, max_size=40), min_size=1, max_size=4))
def test_whatever_is_noted_comes_back(words: list[str]) -> None:
    hand = a_log(words)
    assert read_log(log_csv(hand.entries).encode()) == tuple(hand.entries)
    assert read_log(log_json(hand.entries).encode()) == tuple(hand.entries)


@given(st.lists(st.text(alphabet="=+-@'\t\r ab1", min_size=1, max_size=8), min_size=1, max_size=4))
def test_no_cell_is_one_that_a_spreadsheet_computes(words: list[str]) -> None:
    """Cells that begin with =, +, -, @, tab or return are computed (OWASP, CSV injection)."""
    hand = a_log(words)
    for row in csv.reader(io.StringIO(log_csv(hand.entries), newline="")):
        for cell in row:
            assert not cell.startswith(("=", "+", "@", "\t", "\r"))
            if cell.startswith("-"):
                float(cell)


def test_a_log_is_by_its_published_schema() -> None:
    Draft202012Validator(log_schema()).validate(json.loads(log_json(a_log(["x"]).entries)))


def test_times_with_a_zone_are_understood() -> None:
    text = log_json(a_log(["x"]).entries).replace("2026-03-02T12:00:00", "2026-03-02T13:00:00+01:00")
    assert read_log(text.encode())[0].at == NOON


@pytest.mark.parametrize(
    ("data", "match"),
    [
        (b"", "no log"),
        (b"\xff\xfe", "UTF-8"),
        (b"{", "no log"),
        (b"[" * 100_000, "no log"),
        (b'{"format": "truesitter-log", "version": 1, "entries": [{}]}', "entries.0"),
        (b"a,b\n1,2\n", "first line"),
        (b"at,kind,sitter,painter,struck_at,id\n1,2\n", "cells"),
        (b"at,kind,sitter,painter,struck_at,id\nx,note,,,," + b"0" * 32 + b"\n", "line 2"),
        (b"at,kind,sitter,painter,struck_at,id,id\n", "twice"),
        (b"at,kind,sitter,painter,struck_at,id,work,work.name\n,began,,,,,x,y\n", "twice"),
    ],
)  # fmt: skip
def test_what_is_no_log_is_refused_in_words(data: bytes, match: str) -> None:
    with pytest.raises(Refusal, match=match):
        read_log(data)


def test_two_entries_of_one_id_are_refused() -> None:
    entries = a_log(["x"]).entries
    with pytest.raises(Refusal, match="one id"):
        read_log(log_json([*entries, entries[0]]).encode())


def test_spoiled_logs_never_do_more_than_be_refused() -> None:
    whole = [log_csv(a_log(HOSTILE).entries).encode(), log_json(a_log(HOSTILE).entries).encode()]
    rng = random.Random(5)
    for _ in range(300):
        data = bytearray(rng.choice(whole))
        for _ in range(rng.randrange(1, 6)):
            at = rng.randrange(len(data))
            data[at : at + rng.randrange(3)] = rng.randbytes(rng.randrange(3))
        # Anything but a log or a refusal fails here.
        with suppress(Refusal):
            read_log(bytes(data))


def test_the_calendar_is_read_back_by_another_library() -> None:
    """Times, lengths and names as `icalendar` reads them (RFC 5545)."""
    entries = painted({"skin": 1.5}, 3, 1, 0.0)
    sittings = sittings_of(entries, LATER)
    data = log_ics(sittings, clocks_of(sittings), {"s1": "Maren, by the window; morning"}, LATER)
    events = [dict(e) for e in Calendar.from_ical(data).walk("VEVENT")]
    painting = [e for e in events if "painted" in str(e["SUMMARY"])]
    assert [e["DTSTART"].dt for e in painting] == [s.began.replace(tzinfo=UTC) for s in sittings]
    assert all(e["DTEND"].dt - e["DTSTART"].dt == timedelta(minutes=90) for e in painting)
    # An end has to be later than the beginning: what happens at one moment has none (RFC 5545, 3.8.2.2).
    assert len(events) > len(painting)
    assert all("DTEND" not in e or e["DTEND"].dt > e["DTSTART"].dt for e in events)
    assert painting[0]["SUMMARY"] == "Maren, by the window; morning: painted 1 h 30 min"
    dry = [e for e in events if "is dry" in str(e["SUMMARY"])]
    assert [e["DTSTART"].dt for e in dry] == [c.dry_at.replace(tzinfo=UTC) for c in clocks_of(sittings)]
    assert len({str(e["UID"]) for e in events}) == len(events) == 6
    # A sitting that goes on has no end yet.
    hand = Hand()
    hand.begin(work())
    assert b"VEVENT" not in log_ics(sittings_of(hand.entries, datetime(2026, 3, 3)), (), {}, LATER)
