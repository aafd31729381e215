"""Own pace: what planted painters take is found, and plans follow it."""

from __future__ import annotations

import math
import statistics
from datetime import timedelta
from itertools import pairwise

import pytest

from tests.conftest import study_of
from tests.log import NOON, Hand, painted, work
from truesitter.core.log.events import PaceReset
from truesitter.core.log.rates import own_pace
from truesitter.core.log.tuning import TRACE
from truesitter.core.pace.own_pace import Learned, Level, OwnPace, brush_size, levels_of, place_of
from truesitter.core.pace.tuning import FEWEST_SITTINGS, SLOWEST
from truesitter.core.pace.waiting import Timed, drying_minutes, earliest_starts
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.tuning import DEFAULT_LOSS
from truesitter.core.plan.clock.pacing import level_of, paced

LATER = NOON + timedelta(days=400)
PLANTED = {"skin": 1.6, "hair": 0.7, "garment": 1.0}


def of_place(pace: OwnPace, place: str) -> Learned:
    return pace.time[Level("wash", place)]


def test_planted_speeds_are_found_after_five_sittings() -> None:
    """Sittings that differ by a tenth: within 10 % in nine painters of ten (1.64 σ / √5 = 7 %)."""
    off = [
        abs(of_place(own_pace(painted(PLANTED, 5, seed), LATER), place).factor / speed - 1)
        for seed in range(40)
        for place, speed in PLANTED.items()
    ]
    assert statistics.quantiles(off, n=10)[-1] < 0.1
    assert statistics.median(off) < 0.04


def test_the_spread_is_that_of_the_sittings() -> None:
    pace = own_pace(painted(PLANTED, 200, 1, spread=0.3), LATER)
    assert math.log(of_place(pace, "hair").spread) == pytest.approx(0.3, abs=0.05)
    assert of_place(pace, "hair").sittings == 200
    # 60 minutes on 100 cm², seven tenths of it.
    assert of_place(pace, "hair").per_cm2 == pytest.approx(0.42, rel=0.1)


def test_nothing_is_learned_from_fewer_than_three_sittings() -> None:
    assert not own_pace(painted(PLANTED, FEWEST_SITTINGS - 1, 1), LATER)
    assert Level("wash", "skin") in own_pace(painted(PLANTED, FEWEST_SITTINGS, 1), LATER).time
    # Many intervals in one sitting are one sitting.
    hand = Hand()
    hand.begin(work(key="0"))
    for n in range(1, 9):
        hand.turn(work(key=str(n)), 60, done=1)
    hand.end(60, done=1)
    assert not own_pace(hand.entries, LATER)


def test_unsaid_progress_waits_for_the_next_time() -> None:
    """Three passes, each begun in one sitting where nothing is said and done in another."""
    hand = Hand()
    for n in range(3):
        one = work(key=f"p{n}")
        hand.begin(one, after=1440)
        hand.end(30)
        hand.begin(one, after=1440)
        hand.end(60, done=1)
    learned = own_pace(hand.entries, LATER).time[Level("wash")]
    assert learned.sittings == 3
    assert learned.factor == pytest.approx(1.5)


def test_parts_of_a_pass_count_for_as_much() -> None:
    hand = Hand()
    one = work()
    for done in (0.25, 0.5, 1.0):
        hand.begin(one, after=1440)
        hand.end(30 if done < 1 else 60, done=done)
    learned = own_pace(hand.entries, LATER).time[Level("wash")]
    assert learned.factor == pytest.approx(2)
    # Set back, it is not learned from, and not counted twice afterwards.
    hand.begin(one, after=1440)
    hand.end(500, done=0.5)
    hand.begin(one, after=1440)
    hand.end(500, done=1.0)
    assert own_pace(hand.entries, LATER).time[Level("wash")] == learned


def test_many_small_steps_are_as_long_as_one_large_one() -> None:
    """Every few minutes a painter says “1.5 % more”, at exactly the pace that was reckoned."""
    for step in (0.001, 0.015, 0.019, 0.3):
        hand = Hand()
        for n in range(4):
            one, done = work(key=f"p{n}"), 0.0
            hand.begin(one, after=1440)
            while done < 1:
                before, done = done, min(1.0, done + step)
                hand.turn(one, 60 * (done - before), done=done)
            hand.end(0, done=1)
        learned = own_pace(hand.entries, LATER).time[Level("wash")]
        assert learned.factor == pytest.approx(1.0, rel=0.03), step


def test_paint_waits_with_its_work_until_progress_is_said() -> None:
    """Half of the paint in a sitting where nothing is said, half in the one that ends the pass: all of it."""
    hand = Hand()
    for n in range(3):
        one, other = work(key=f"p{n}"), work(key=f"other-{n}", ml=2)
        hand.begin(one, after=1440)
        hand.use(1, left=0.5)
        hand.end(30)
        hand.begin(one, after=1440)
        hand.use(2)
        hand.turn(other, 30, done=1)
        hand.end(60, done=1)
    pace = own_pace(hand.entries, LATER)
    # 1 + 2 ml for two passes that are reckoned at 2 ml each.
    assert pace.paint[Level("wash", "skin")].factor == pytest.approx(0.75)
    stays = 0.75 * (2.5 / 3) / (1 - DEFAULT_LOSS)
    assert pace.film[Level("wash", "skin")].factor == pytest.approx(stays, rel=0.02)
    assert pace.loss is not None
    assert pace.loss[0] == pytest.approx(0.25)


def test_own_pace_is_ones_own_and_can_be_learned_anew() -> None:
    hand = Hand(painter="Ada")
    hand.entries = [*painted({"skin": 2.0}, 4, 1, 0.0)]
    assert own_pace(hand.entries, LATER, "").time
    assert not own_pace(hand.entries, LATER, "Ada")
    hand.clock = NOON + timedelta(days=200)
    reset = hand.write(PaceReset())
    assert own_pace(hand.entries, LATER, "").time
    assert not own_pace(hand.entries, LATER)
    hand.strike(reset)
    assert own_pace(hand.entries, LATER).time


def test_paint_and_what_is_scraped_off_are_learned() -> None:
    hand = Hand()
    for n in range(4):
        hand.begin(work(key=str(n)), after=1440)
        hand.use(3, left=0.6)
        hand.end(60, done=1)
    pace = own_pace(hand.entries, LATER)
    assert pace.paint[Level("wash", "skin")].factor == pytest.approx(1.5)
    # 2.4 ml stay on 100 cm²: 0.24 mm; reckoned were 2 ml less what is lost of it.
    film = pace.film[Level("wash", "skin")]
    assert 10 * film.per_cm2 == pytest.approx(0.24)
    assert film.factor == pytest.approx(2.4 / (2 * (1 - DEFAULT_LOSS)))
    assert pace.loss is not None
    assert pace.loss[0] == pytest.approx(0.2)


def test_the_nearest_level_is_asked_first() -> None:
    fine = Learned(2.0, 1.1, 3, 1.0)
    coarse = Learned(1.2, 1.1, 9, 1.0)
    pace = OwnPace({Level("wash", "skin"): fine, Level("wash"): coarse})
    assert pace.time_for(Level("wash", "skin", "broad", "direct-oil")) == (Level("wash", "skin"), fine)
    assert pace.time_for(Level("wash", "hair")) == (Level("wash"), coarse)
    assert pace.time_for(Level("glaze", "skin")) is None
    assert levels_of(Level("a", "b", "c", "d"))[-1] == Level()


def test_sizes_and_places() -> None:
    assert [brush_size(w) for w in (0, 1, 5, 12, 50)] == ["", "fine", "small", "middle", "broad"]
    assert place_of(["skin"]) == "skin"
    assert place_of(["eyes", "lips"]) == "features"
    assert place_of(["hair", "facial hair"]) == "hair"
    assert place_of(["skin", "hair"]) == "several places"


def test_a_plan_follows_own_pace() -> None:
    plan = study_of("tobias").passes.plan()
    school = study_of("tobias").settings.passes.school
    twice = paced(plan, school, OwnPace({Level(): Learned(2.0, 1.25, 5, 1.0)}))
    assert [p.work_minutes for p in twice.passes] == [pytest.approx(2 * p.work_minutes) for p in plan.passes]
    assert twice.hours.likely == pytest.approx(2 * plan.hours.likely)
    assert twice.hours.most == pytest.approx(1.25 * twice.hours.likely)
    assert twice.hours.least == pytest.approx(twice.hours.likely / 1.25)
    timed = tuple(Timed(p.work_minutes, p.dries_minutes, p.over) for p in twice.passes)
    assert tuple(p.start_minutes for p in twice.passes) == earliest_starts(timed)
    for one, following in pairwise(twice.passes):
        end = one.start_minutes + one.work_minutes
        assert one.wait_minutes == pytest.approx(max(0.0, following.start_minutes - end))
    assert paced(plan, school, OwnPace()) is plan


def test_only_what_was_learned_changes_and_a_slip_of_the_clock_is_bounded() -> None:
    plan = study_of("tobias").passes.plan()
    level = level_of(plan.passes[0], "x")
    wild = paced(
        plan, "x", OwnPace({level: Learned(100.0, 1.5, 5, 1.0)}, {level: Learned(0.01, 1.5, 5, 1.0)})
    )
    assert wild.passes[0].work_minutes == pytest.approx(SLOWEST * plan.passes[0].work_minutes)
    assert wild.passes[0].ml == pytest.approx(plan.passes[0].ml / SLOWEST)
    for after, before in zip(wild.passes, plan.passes, strict=True):
        if level_of(before, "x") != level:
            assert (after.work_minutes, after.ml, after.pace) == (before.work_minutes, before.ml, None)


def sittings_at(took: list[float], **changes: object) -> Hand:
    """A sitting for each number of minutes, on works of their own."""
    hand = Hand()
    for n, minutes in enumerate(took):
        hand.begin(work(key=str(n), **changes), after=1440)
        hand.end(minutes, done=1)
    return hand


def test_factor_and_spread_of_three_sittings_by_hand() -> None:
    """30, 60 and 120 minutes for an hour: the factor is 1, the spread (n − 1) a doubling."""
    learned = of_place(own_pace(sittings_at([30, 60, 120]).entries, LATER), "skin")
    assert learned.factor == pytest.approx(1.0)
    assert learned.spread == pytest.approx(2.0)


def test_short_works_count_and_works_without_a_size_have_no_rate_by_area() -> None:
    assert of_place(own_pace(sittings_at([4, 4, 4], minutes=2).entries, LATER), "skin").factor == 2
    learned = of_place(own_pace(sittings_at([60, 60, 60], area_cm2=0).entries, LATER), "skin")
    assert learned.per_cm2 == 0
    # A work reckoned at nothing, or without a kind, says nothing.
    for changes in ({"minutes": 0}, {"kind": ""}):
        assert not own_pace(sittings_at([60, 60, 60], **changes).entries, LATER)


def test_a_film_that_was_scraped_off_whole_leaves_a_trace() -> None:
    hand = Hand()
    for n in range(3):
        hand.begin(work(key=str(n)), after=1440)
        hand.use(4, left=4)
        hand.end(60, done=1)
    film = own_pace(hand.entries, LATER).film[Level("wash", "skin")]
    assert film.factor == pytest.approx(TRACE * 4 / (2 * (1 - DEFAULT_LOSS)))


def test_brushes_are_sized_by_their_borders_and_factors_bounded_both_ways() -> None:
    assert [brush_size(w) for w in (2.9, 3, 7.9, 8, 19.9, 20)] == [
        "fine", "small", "small", "middle", "middle", "broad",
    ]  # fmt: skip
    for factor, bounded in ((9.0, 5.0), (4.9, 4.9), (0.1, 0.2), (0.25, 0.25)):
        assert Learned(factor, 1.0, 3, 1.0).bounded() == pytest.approx(bounded)
    learned = {Level(): Learned(1.0, 1.0, 3, 1.0)}
    assert OwnPace(time=learned)
    assert OwnPace(paint=learned)
    assert OwnPace(loss=(0.1, 0.1, 3))
    assert not OwnPace()


def test_the_slowest_tube_of_a_tenth_or_more_decides_how_oil_dries() -> None:
    """Umber is quick, white slow, ochre neither: times as told in the table, from memory."""
    oil = MEDIA["oil"]
    assert drying_minutes(1000, {"yellow-ochre": 1}, oil) == 1000
    assert drying_minutes(1000, {"raw-umber": 9, "titanium-white": 1}, oil) == 1600
    assert drying_minutes(1000, {"raw-umber": 19, "titanium-white": 2}, oil) == 600
