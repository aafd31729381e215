"""Sittings, hours and the room: nothing over wet paint, all of the work done, and totals of the trade."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.school.test_schools import planned
from truesitter.core.pace.waiting import Room
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.plan.clock.minutes import EXACT, pass_minutes, rates
from truesitter.core.plan.clock.schedule import DAY_MINUTES, Task, sittings_for
from truesitter.core.plan.clock.tuning import MASSED_HAIR
from truesitter.core.plan.kit import HEAVY_G_CM3, kit_for
from truesitter.core.plan.pass_plan import Thinned
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study


@st.composite
def tasks(draw: st.DrawFn) -> tuple[Task, ...]:
    found: list[Task] = []
    for n in range(draw(st.integers(1, 12))):
        over = tuple(sorted(draw(st.sets(st.integers(0, n - 1), max_size=3)))) if n else ()
        wet = bool(n) and draw(st.integers(0, 3)) == 0
        minutes, dries = draw(st.floats(1, 300)), draw(st.sampled_from([0.0, 20.0, 900.0, 4000.0]))
        found.append(Task(minutes, dries, tuple(o for o in over if not wet or o < n - 1), wet))
    return tuple(found)


@settings(max_examples=150, deadline=None)
@given(tasks(), st.floats(0.5, 8), st.integers(0, 3))
def test_everything_is_painted_once_and_never_over_wet_paint(
    row: tuple[Task, ...], hours: float, rest: int
) -> None:
    found = sittings_for(row, hours, rest)
    spent = dict.fromkeys(range(len(row)), 0.0)
    begun: dict[int, float] = {}
    ended: dict[int, float] = {}
    clock = -1.0
    for sitting in found:
        assert sitting.intervals[0].start == pytest.approx(sitting.day * DAY_MINUTES)
        for interval in sitting.intervals:
            assert interval.start >= clock - 1e-6, "one thing at a time"
            clock = interval.start + interval.minutes
            spent[interval.task] += interval.minutes
            begun.setdefault(interval.task, interval.start)
            if interval.ends:
                ended[interval.task] = clock
    assert set(ended) == set(range(len(row)))
    for n, task in enumerate(row):
        assert spent[n] == pytest.approx(task.minutes, abs=1e-6)
        first = max((m for m in range(n + 1) if not row[m].into_wet), default=0)
        for below in task.over:
            if below < first:
                assert begun[n] >= ended[below] + row[below].dries - 1e-6
    days = [s.day for s in found]
    assert all(b - a > rest for a, b in pairwise(days))


def test_sittings_are_as_long_as_asked_but_for_rows_that_stay_wet() -> None:
    row = tuple(Task(100, 10) for _ in range(6))
    assert [round(s.minutes) for s in sittings_for(row, 3)] == [180, 180, 180, 60]
    wet = (Task(100, 10), Task(100, 10, into_wet=True), Task(100, 10, into_wet=True))
    assert [round(s.minutes) for s in sittings_for(wet, 3)] == [300]


def test_a_row_that_stays_wet_is_not_begun_late_in_a_sitting() -> None:
    row = (Task(100, 10), Task(60, 10), Task(60, 10, into_wet=True), Task(60, 10, into_wet=True))
    assert [[b.task for b in s.intervals] for s in sittings_for(row, 3)] == [[0], [1, 2, 3]]


def test_what_need_not_wait_overtakes_what_must() -> None:
    row = (Task(60, 5000), Task(60, 0, (0,)), Task(60, 0))
    first, second = sittings_for(row, 3)
    assert [b.task for b in first.intervals] == [0, 2]
    assert [b.task for b in second.intervals] == [1]
    assert second.day == 4
    assert first.waiting == (1,)


def test_short_waits_are_sat_out_within_a_sitting() -> None:
    (only,) = sittings_for((Task(30, 20), Task(30, 20, (0,))), 3)
    assert [b.start for b in only.intervals] == [0, 50]


def test_nobody_sets_out_the_paint_for_five_minutes() -> None:
    row = (Task(170, 3000), Task(5, 4000), Task(120, 0, (0,)), Task(30, 0, (1,)))
    found = sittings_for(row, 3)
    assert all(s.minutes >= 0.4 * 180 for s in found[:-1])


@pytest.mark.parametrize(("warm", "damp", "slower"), [(20, 50, 1.0), (10, 50, 2.0), (30, 50, 0.5)])
def test_ten_degrees_double_the_speed(warm: float, damp: float, slower: float) -> None:
    """A rule of thumb of chemistry, from memory."""
    assert Room(warm, damp).slows(watery=False) == pytest.approx(slower)


def test_damp_air_holds_up_only_what_dries_by_losing_water() -> None:
    assert Room(20, 75).slows(watery=True) == pytest.approx(2)
    assert Room(20, 75).slows(watery=False) == pytest.approx(1)
    assert np.isfinite(Room(20, 100).slows(watery=True))


@cache
def hours(name: str, school: str) -> tuple[float, float, int]:
    plan = planned(name, school).passes
    return plan.plan().hours.likely, plan.plan().hours.hair, len(plan.sittings())


@pytest.mark.parametrize("name", ["maren", "tobias", "ines"])
@pytest.mark.parametrize("school", ["watercolour-zones", "watercolour-recesses"])
def test_a_detailed_watercolour_portrait_takes_8_to_20_hours(name: str, school: str) -> None:
    """Common practice, no source: on a canvas of some 300 × 400 mm."""
    assert 8 <= hours(name, school)[0] <= 20


def test_long_hair_takes_a_quarter_to_nearly_half_of_the_time() -> None:
    """Common practice, no source: where hair covers a fifth of the picture or more, in strands."""
    study = planned("maren", "watercolour-zones")
    assert (study.sitter.regions().labels == Region.HAIR).mean() > 0.2
    chosen = study.settings.model_dump()
    chosen["hair"]["way"] = "strands"
    settings = StudySettings.model_validate(chosen)
    strands = Study(study.sha256, study.source.load, settings, study.source.memo)
    told = strands.passes.plan().hours
    assert 0.25 <= told.hair <= 0.45
    likely, hair, _ = hours("maren", "watercolour-zones")
    assert likely * hair < 0.6 * told.likely * told.hair, "masses take about half of that"


def test_layered_oil_takes_about_a_week_of_sittings() -> None:
    """Common practice says 5–6 sittings of 3 h; hair whose every layer dries adds short ones."""
    likely, _, count = hours("maren", "layered-oil")
    assert 13 <= likely <= 18
    assert 5 <= count <= 10


def test_minutes_and_shares_add_up() -> None:
    for school in SCHOOLS:
        study = planned("tobias", school)
        plan = study.passes.plan()
        whole = sum(p.work_minutes for p in plan.passes)
        assert whole / 60 == pytest.approx(plan.hours.likely)
        assert plan.hours.least < plan.hours.likely < plan.hours.most
        assert sum(s.minutes for s in study.passes.sittings()) == pytest.approx(whole)


def test_massed_hair_and_a_study_take_less() -> None:
    pace = SCHOOLS["layered-oil"].pace
    plain, massed = rates(pace, "portrait", False), rates(pace, "portrait", True)
    assert massed[Region.HAIR] == pytest.approx(MASSED_HAIR * plain[Region.HAIR])
    assert massed[Region.SKIN] == plain[Region.SKIN]
    np.testing.assert_allclose(rates(pace, "copy", False), EXACT["copy"] * plain)
    assert plain[Region.EYES] == pace.features
    assert plain[Region.BACKGROUND] == pace.background
    quick = planned("maren", "layered-oil").settings.model_dump()
    quick["passes"]["exactness"] = "study"
    study = planned("maren", "layered-oil")
    again = Study(study.sha256, study.source.load, StudySettings.model_validate(quick), study.source.memo)
    assert again.passes.plan().hours.likely < 0.75 * study.passes.plan().hours.likely


def test_no_passes_take_no_time() -> None:
    minutes, hair = pass_minutes((), np.zeros(1, np.uint8), np.ones(1), np.ones(len(Region)), 60)
    assert minutes == ()
    assert hair == ()


def test_the_kit_holds_what_the_passes_use() -> None:
    study = planned("maren", "layered-oil")
    plan, sittings = study.passes.plan(), study.passes.sittings()
    kit = kit_for(plan, sittings, study.flesh.palette().rack, study.settings.values.group_names())
    assert sum(t.ml for t in kit.tubes) == pytest.approx(sum(p.ml for p in plan.passes if p.recipe.parts))
    assert {t.key for t in kit.tubes} == {k for p in plan.passes for k in p.taken_from}
    assert all(0 < t.most_in_a_sitting_ml <= t.ml + 1e-9 for t in kit.tubes)
    assert sum(b.passes for b in kit.brushes) == len(plan.passes)
    assert [b.brush for b in kit.brushes] == list(plan.brushes)
    assert kit.stir == ()


def test_each_dilution_takes_the_thinner_for_its_own_paint() -> None:
    """By hand: 10 ml of paint, three tenths of it 1 to 2 and seven tenths 1 to 10, want 76 ml."""
    plan = planned("maren", "layered-oil").passes.plan()
    thinned = (Thinned(Dilution(1, 2), 0, 0.3), Thinned(Dilution(1, 10), 1, 0.7))
    one = replace(plan.passes[0], thinned=thinned, ml=10.0)
    kit = kit_for(replace(plan, passes=(one,)), (), plan.bare.rack, ())
    assert kit.thinner_ml == pytest.approx(76)
    wash = next(p for p in plan.passes if len(p.thinned) > 1)
    assert sum(t.share for t in wash.thinned) == pytest.approx(1)


def test_heavy_pigments_are_stirred_in_thin_paint() -> None:
    """Natural cinnabar weighs 8.1 g/cm³ (handbook value)."""
    assert HEAVY_G_CM3["vermilion"] == 8.1
    study = planned("maren", "tempera")
    chosen = study.settings.model_dump()
    chosen["flesh"]["tubes"] = ["titanium-white", "yellow-ochre", "vermilion", "ivory-black"]
    heavy = Study(study.sha256, study.source.load, StudySettings.model_validate(chosen), study.source.memo)
    kit = heavy.passes.kit(heavy.settings.values.group_names())
    assert kit.stir == ("vermilion",)
