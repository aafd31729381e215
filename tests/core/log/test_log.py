"""The log: sittings put together, drying, days, and what can be painted now."""

from __future__ import annotations

import random
from datetime import date, datetime, timedelta
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from tests.log import NOON, Hand, work
from truesitter.core.log.days import by_day, days_of, midnight, zone_of
from truesitter.core.log.drying_clocks import clocks_of
from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Judged, Noted, Tried, Used, Work, read_happening
from truesitter.core.log.logged_swatches import swatches_of
from truesitter.core.log.search import found_in
from truesitter.core.log.sittings import check_follows, progress_of, sittings_of
from truesitter.core.log.tuning import LONGEST_SITTING
from truesitter.core.refusal import Refusal

LATER = NOON + timedelta(days=30)
VIENNA = zone_of("Europe/Vienna")


def test_a_sitting_is_what_was_worked_between_its_breaks() -> None:
    hand = Hand()
    hand.begin(work())
    hand.pause(30)
    hand.resume(15)
    hand.turn(work(key="hair-1", name="Hair"), 20, done=0.5)
    hand.write(Noted(sitting=hand.sitting, words="paper cockled"), 1)
    hand.use(3, 1)
    hand.end(9, done=1)
    (sitting,) = sittings_of(hand.entries, LATER)
    assert [(b.work.key if b.work else "", b.minutes, b.done) for b in sitting.intervals] == [
        ("flesh-1", 50, 0.5),
        ("hair-1", 10, 1),
    ]
    assert sitting.minutes == 60
    assert sitting.ended == NOON + timedelta(minutes=75)
    assert sitting.notes == ("paper cockled",)
    assert [u.ml for u in sitting.used] == [3]
    school = "watercolour-zones"
    assert progress_of([sitting]) == {(school, "flesh-1"): 0.5, (school, "hair-1"): 1}


def test_a_sitting_that_goes_on_counts_until_now_and_one_forgotten_no_longer_than_a_day() -> None:
    hand = Hand()
    hand.begin(work())
    (sitting,) = sittings_of(hand.entries, NOON + timedelta(minutes=42))
    assert (sitting.minutes, sitting.ended, sitting.paused) == (42, None, False)
    (forgotten,) = sittings_of(hand.entries, LATER)
    assert forgotten.minutes == LONGEST_SITTING.total_seconds() / 60
    late = Hand()
    late.begin(work())
    late.end(3 * 1440)
    (ended_late,) = sittings_of(late.entries, LATER)
    assert ended_late.minutes == forgotten.minutes
    hand.pause(42)
    (paused,) = sittings_of(hand.entries, LATER)
    assert (paused.minutes, paused.paused) == (42, True)


def test_turning_during_a_break_does_not_end_it() -> None:
    hand = Hand()
    hand.begin(work())
    hand.pause(10)
    hand.turn(work(key="b"), 30)
    hand.resume(5)
    hand.end(20)
    (sitting,) = sittings_of(hand.entries, LATER)
    assert [b.minutes for b in sitting.intervals] == [10, 20]


def test_what_is_struck_out_was_not() -> None:
    hand = Hand()
    hand.begin(work())
    pause = hand.pause(30)
    resume = hand.resume(30)
    hand.end(30)
    hand.strike(pause)
    hand.strike(resume)
    (sitting,) = sittings_of(hand.entries, LATER)
    assert sitting.minutes == 90
    hand.strike(hand.entries[0])
    assert sittings_of(hand.entries, LATER) == ()


def test_what_cannot_follow_is_refused_in_words() -> None:
    hand = Hand()
    hand.begin(work())
    going = list(hand.entries)

    def refused(act: str, *args: float, match: str) -> None:
        other = Hand(clock=hand.clock, sitting=hand.sitting)
        entry = getattr(other, act)(*args)
        with pytest.raises(Refusal, match=match):
            check_follows(hand.entries, entry)

    refused("begin", match="goes on")
    refused("resume", 5, match="goes on already")
    refused("end", -5, match="before")
    hand.pause(5)
    refused("pause", 5, match="paused already")
    hand.end(5)
    refused("end", 5, match="over")
    check_follows(hand.entries, Hand(clock=hand.clock).begin())
    # Another painter may sit down beside one who is at work.
    check_follows(going, Hand(painter="Ada", clock=hand.clock).begin())
    with pytest.raises(Refusal, match="no such sitting"):
        check_follows([], hand.entries[-1])


MOVES = st.tuples(st.sampled_from(["pause", "resume", "turn", "end"]), st.integers(1, 100))


@given(st.lists(MOVES, max_size=12), st.randoms())
def test_work_and_breaks_fill_the_time_of_a_sitting(moves: list[tuple[str, int]], rng: random.Random) -> None:
    """However it goes: no minute is counted twice, none outside, whatever order the rows come in."""
    hand = Hand()
    hand.begin(work())
    working, minutes = True, 0
    for move, after in moves:
        before = list(hand.entries)
        entry = hand.turn(work(), after) if move == "turn" else getattr(hand, move)(after)
        try:
            check_follows(before, entry)
        except Refusal:
            hand.entries.pop()
            hand.clock -= timedelta(minutes=after)
            continue
        minutes += after if working else 0
        working = {"pause": False, "resume": True, "turn": working, "end": False}[move]
        if move == "end":
            break
    (sitting,) = sittings_of(hand.entries, hand.clock)
    assert sitting.minutes == pytest.approx(minutes)
    assert all(end <= start for (_, end), (start, _) in pairwise(sorted(sitting.spans)))
    mixed = list(hand.entries)
    rng.shuffle(mixed)
    assert sittings_of(mixed, hand.clock) == (sitting,)


# -- days ---------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("day", "hours"), [(date(2026, 3, 29), 23), (date(2026, 10, 25), 25), (date(2026, 6, 1), 24)]
)
def test_days_are_as_long_as_the_clock_makes_them(day: date, hours: int) -> None:
    """The clock goes forward on 29 March 2026 and back on 25 October (Directive 2000/84/EC)."""
    long = midnight(day + timedelta(days=1), VIENNA) - midnight(day, VIENNA)
    assert long == timedelta(hours=hours)


def test_a_sitting_over_midnight_and_the_change_of_clocks_is_as_long_as_it_was() -> None:
    """From 23:30 on the wall to 3:30 in the night the clock goes forward: three hours, not four."""
    start, end = datetime(2026, 3, 28, 22, 30), datetime(2026, 3, 29, 1, 30)
    assert by_day((start, end), VIENNA) == {date(2026, 3, 28): 30, date(2026, 3, 29): 150}


def test_a_month_shows_work_and_drying_by_day() -> None:
    hand = Hand(clock=datetime(2026, 5, 4, 21, 0))
    hand.begin(work(dries_minutes=3 * 1440))
    hand.end(120, done=1)
    sittings = sittings_of(hand.entries, LATER + timedelta(days=365))
    days = days_of(sittings, clocks_of(sittings), date(2026, 5, 1), date(2026, 5, 31), VIENNA)
    assert len(days) == 31
    # 23:00 to 1:00 in Vienna.
    assert dict(days[date(2026, 5, 4)].minutes) == {"s1": 60}
    assert dict(days[date(2026, 5, 5)].minutes) == {"s1": 60}
    assert [d.drying for d in list(days.values())[3:9]] == [0, 1, 1, 1, 0, 0]
    assert [c.name for c in days[date(2026, 5, 8)].dry] == ["First flesh wash"]
    with pytest.raises(Refusal, match="time zone"):
        zone_of("../etc/passwd")


# -- finding ------------------------------------------------------------------------------------


def test_entries_are_found_by_words_kind_and_day() -> None:
    hand = Hand(painter="Ada")
    hand.write(Noted(words="Granulating violet in the SHADOW"))
    hand.write(Judged(liked=4, why="the eye"), after=60 * 24)
    hand.use(2, tube="violet")
    names = {"s1": "Maren"}

    def found(words: str = "", **more: object) -> list[str]:
        return [e.what.kind for e in found_in(hand.entries, names, words, zone=VIENNA, **more)]  # type: ignore[arg-type]

    assert found() == ["used", "judged", "note"]
    assert found("violet") == ["used", "note"]
    assert found("shadow violet") == ["note"]
    assert found("maren ada eye") == ["judged"]
    # What fields and kinds are called by the program was said by nobody.
    assert found("kind") == found("words") == found("judged") == found("liked") == found("ml") == []
    hand.begin(work(name="Second wash"), after=60)
    assert found(hand.sitting) == found("area_cm2") == []
    assert found("second WASH") == ["began"]
    hand.entries.pop()
    assert found(kind="used") == ["used"]
    assert found(painter="Ben") == found(sitter="s2") == []
    assert found(until=date(2026, 3, 2)) == ["note"]
    assert found(since=date(2026, 3, 3)) == ["used", "judged"]


@pytest.mark.parametrize(
    ("document", "match"),
    [
        ({"kind": "slept"}, "slept"),
        ({"kind": "note", "words": ""}, "words"),
        ({"kind": "judged", "liked": 6}, "liked"),
        ({"kind": "used", "tube": "a", "ml": 1, "left_ml": 2}, "left over"),
        ({"kind": "paused", "sitting": "1"}, "sitting"),
        ({"kind": "air", "temperature": float("nan"), "humidity": 4}, "temperature"),
        ([], "dict"),
    ],
)
def test_what_cannot_happen_is_said(document: object, match: str) -> None:
    with pytest.raises(Refusal, match=match):
        read_happening(document)


@pytest.mark.parametrize(
    "changes", [{"dries_minutes": -0.5}, {"minutes": -0.5}, {"area_cm2": -0.5}, {"ml": -0.5}]
)
def test_no_work_is_less_than_nothing(changes: dict[str, float]) -> None:
    with pytest.raises(ValidationError):
        Work.model_validate({**work().model_dump(), **changes})


def test_paint_used_is_more_than_nothing() -> None:
    with pytest.raises(ValidationError):
        Used(sitting=None, tube="ochre", ml=1, off_rack_ml=-0.5)
    with pytest.raises(ValueError, match="greater than 0"):
        Used(tube="a", ml=0)


def test_drying_swatches_are_kept_apart_by_paper_and_medium() -> None:
    hand = Hand()

    def tried(paper: str, wet: float | None, dry: float | None) -> Entry:
        what = Tried(subject="drying", name="x", paper=paper, medium="watercolour", wet=wet, dry=dry)
        return hand.write(what, after=1)

    for paper, wet, dry in (("rough", 5, 6.0), ("smooth", 5, 5.3), ("rough", 3, 3.5), ("rough", 5, 5.8)):
        tried(paper, wet, dry)
    tried("rough", 4, None)
    hand.write(Noted(words="paper cockled"))
    tried("rough", 8, 8.5)
    hand.strike(tried("smooth", 7, 9.0))
    assert [(s.paper, s.pairs) for s in swatches_of(hand.entries)] == [
        ("rough", ((3, 3.5), (5, 5.8), (8, 8.5))),
        ("smooth", ((5, 5.3),)),
    ]
