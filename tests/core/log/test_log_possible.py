"""Drying clocks, and what can be painted now."""

from __future__ import annotations

import random
from dataclasses import replace
from datetime import timedelta

import pytest

from tests.conftest import study_of
from tests.core.log.test_log import LATER
from tests.log import NOON, Hand, work
from truesitter.core.log.drying_clocks import Clock, clocks_of, slowed
from truesitter.core.log.possible import possible_now
from truesitter.core.log.sittings import sittings_of
from truesitter.core.pace.waiting import Room

# -- drying -------------------------------------------------------------------------------------


def test_a_clock_runs_from_the_last_work_on_a_layer() -> None:
    hand = Hand()
    hand.begin(work())
    hand.turn(work(key="dry", name="Lifting", dries_minutes=0), 30)
    hand.end(5)
    hand.begin(work(), after=60)
    hand.end(10)
    (clock,) = clocks_of(sittings_of(hand.entries, LATER))
    assert clock.laid_at == NOON + timedelta(minutes=105)
    assert clock.dry_at == NOON + timedelta(minutes=125)


def test_what_never_dries_does_not_hide_what_was_laid_after_it_and_is_no_clock() -> None:
    hand = Hand()
    hand.begin(work(key="dry", name="Lifting", dries_minutes=0))
    hand.turn(work(), 30)
    hand.end(10)
    (clock,) = clocks_of(sittings_of(hand.entries, LATER))
    assert clock.laid_at == NOON + timedelta(minutes=40)


def test_work_that_was_left_at_once_is_still_told() -> None:
    hand = Hand()
    hand.begin(work())
    hand.turn(work(key="hair-1", name="Hair"), 0)
    hand.end(20)
    (sitting,) = sittings_of(hand.entries, LATER)
    assert [(b.work.key if b.work else "", b.minutes) for b in sitting.intervals] == [
        ("flesh-1", 0), ("hair-1", 20),
    ]  # fmt: skip


def test_damp_air_slows_what_dries_by_its_water() -> None:
    assert slowed(60, Room(), None, watery=True) == 60
    assert slowed(60, Room(), (20.0, 75.0), watery=True) == pytest.approx(120)
    assert slowed(60, Room(), (20.0, 75.0), watery=False) == pytest.approx(60)
    assert slowed(60, Room(10, 50), (20.0, 50.0), watery=True) == pytest.approx(30)


# -- what can be painted now --------------------------------------------------------------------


def test_what_lies_over_wet_paint_waits_and_what_need_not_goes_first() -> None:
    passes = study_of("tobias").passes.plan().passes
    first = possible_now(passes, "x", (), {}, (), NOON)
    assert (first.number, first.left) == (1, len(passes))
    laid = Clock("s1", "x", passes[0].key, passes[0].name, NOON, NOON + timedelta(hours=9))
    done = [passes[0].key]
    after = possible_now(passes, "x", done, {}, [laid], NOON)
    over_first = [n for n, p in enumerate(passes, 1) if 0 in p.over]
    assert after.number is not None
    if after.since > NOON:
        assert after.since == laid.dry_at
        assert after.waits_for == (1,)
    else:
        assert after.number not in over_first
    assert possible_now(passes, "x", done, {}, [laid], NOON + timedelta(hours=9)).since <= NOON + timedelta(
        hours=9
    )
    # A clock of another school's pass holds nothing up.
    other = replace(laid, school="y")
    assert possible_now(passes, "x", done, {}, [other], NOON).number == 2


def test_a_pass_is_never_offered_over_one_that_is_not_there() -> None:
    passes = study_of("tobias").passes.plan().passes
    rng = random.Random(3)
    for _ in range(200):
        done = {p.key for p in passes if rng.random() < 0.6}
        damp = rng.choice((0.1, 0.7))
        wet = {key: NOON + timedelta(hours=rng.uniform(1, 90)) for key in sorted(done) if rng.random() < damp}
        clocks = [Clock("s1", "x", key, key, NOON, dry) for key, dry in wet.items()]
        found = possible_now(passes, "x", done, {}, clocks, NOON)
        assert found.number is not None
        one = passes[found.number - 1]
        assert one.key not in done
        assert all(passes[b].key in done for b in one.over)
        below = () if one.into_wet else [wet[passes[b].key] for b in one.over if passes[b].key in wet]
        assert found.since == max(below, default=NOON)
        assert len(found.waits_for) == len(below)
    everything = possible_now(passes, "x", {p.key for p in passes}, {}, (), NOON)
    assert (everything.number, everything.left) == (None, 0)


def test_a_pass_that_cannot_be_painted_does_not_hide_the_ones_after_it() -> None:
    first, second, third = study_of("tobias").passes.plan().passes[:3]
    passes = (replace(first, over=(1,)), replace(second, over=(0,)), replace(third, over=()))
    assert possible_now(passes, "x", (), {}, (), NOON).number == 3


def test_what_lies_over_something_that_waits_waits_too() -> None:
    """The second lies over the first, which is wet; the third over the second alone, which is not there."""
    first, second, third = study_of("tobias").passes.plan().passes[:3]
    passes = (replace(first, over=()), replace(second, over=(0,)), replace(third, over=(1,)))
    clock = Clock("s1", "x", first.key, "", NOON, NOON + timedelta(hours=5))
    found = possible_now(passes, "x", {first.key}, {}, [clock], NOON)
    assert (found.number, found.since) == (2, clock.dry_at)


def test_work_that_is_begun_is_told_by_what_is_left_of_it() -> None:
    passes = study_of("tobias").passes.plan().passes
    half = possible_now(passes, "x", (), {("x", passes[0].key): 0.75}, (), NOON)
    assert half.number == 1
    assert half.minutes == pytest.approx(passes[0].work_minutes / 4)
    whole = possible_now(passes, "x", (), {("x", passes[0].key): 1.0}, (), NOON)
    assert whole.left == len(passes) - 1
