"""The eye measured, and when a drill comes round again."""

from __future__ import annotations

import random
from datetime import datetime, timedelta

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from truesitter.core.drills.drill_kinds import DRILLS, DrillName
from truesitter.core.drills.spacing import DrillSession, Due, due
from truesitter.core.drills.staircase import Told, at_threshold, chance, estimate
from truesitter.core.drills.tuning import DAYS, REMEMBERED

# -- measuring the eye --------------------------------------------------------------------------


def answered(drill: DrillName, threshold: float, rounds: int, seed: int) -> list[Told]:
    """A painter of a known threshold, asked where it is most telling."""
    rng, one, told = random.Random(seed), DRILLS[drill], []
    for _ in range(rounds):
        level = estimate(one, told).level
        if one.choices:
            right = rng.random() < float(chance(level, threshold, one.choices))
            told.append(Told(level, right, 0.0 if right else level))
        else:
            off = abs(rng.gauss(0, threshold))
            told.append(Told(level, off <= level, off))
    return told


@pytest.mark.parametrize("drill", ["lighter", "same value", "value", "steps"])
@pytest.mark.parametrize("threshold", [0.2, 0.4, 0.7])
def test_a_known_threshold_is_found_in_forty_rounds(drill: DrillName, threshold: float) -> None:
    """Within a tenth of a step on average, and the error told is the one there is."""
    found = [estimate(DRILLS[drill], answered(drill, threshold, 40, seed)) for seed in range(60)]
    off = np.array([f.threshold - threshold for f in found])
    assert np.abs(off).mean() < 0.1
    told = np.mean([f.error for f in found])
    assert told == pytest.approx(float(np.sqrt((off**2).mean())), rel=0.5)


def test_more_rounds_make_it_surer_and_old_ones_are_forgotten() -> None:
    errors = [estimate(DRILLS["lighter"], answered("lighter", 0.4, n, 1)).error for n in (0, 10, 40)]
    assert errors[0] > errors[1] > errors[2]
    worse = [Told(1.0, False, 2.0)] * 200
    better = [Told(1.0, True, 0.1)] * REMEMBERED
    assert estimate(DRILLS["value"], worse + better).threshold < 0.4
    assert estimate(DRILLS["value"], []).threshold == pytest.approx(DRILLS["value"].start)


def test_levels_stay_inside_the_drill() -> None:
    for drill in DRILLS.values():
        for right in (True, False):
            told = [Told(drill.start, right, 0.0 if right else 1000.0)] * 80
            assert drill.least <= estimate(drill, told).level <= drill.most


def test_at_the_threshold_the_chance_is_what_it_is_called() -> None:
    for choices in (2, 4):
        assert float(chance(0.5, 0.5, choices)) == pytest.approx(at_threshold(choices))
        assert float(chance(1e-6, 0.5, choices)) == pytest.approx(1 / choices)
        assert float(chance(100, 0.5, choices)) == pytest.approx(0.98)


# -- spacing ------------------------------------------------------------------------------------


@given(
    st.lists(
        st.tuples(st.sampled_from([0.0, 0.69, 0.7, 0.9, 1.0]), st.sampled_from([0.002, 0.8, 1.0, 2.0, 20.0])),
        max_size=12,
    )
)
def test_boxes_follow_their_rule(given_: list[tuple[float, float]]) -> None:
    """Leitner 1972: what was due and went well is a box on, what did not is in the first, the rest stays."""
    at, goes = datetime(2026, 1, 1), []
    box, due_at = 0, datetime(2026, 1, 1)
    for right, days in given_:
        at += timedelta(days=days)
        goes.append(DrillSession(at, right))
        if right < 0.7:
            box, due_at = 1, at + timedelta(days=1)
        elif at >= due_at - timedelta(hours=6):
            box = min(box + 1, 5)
            due_at = at + timedelta(days=DAYS[box - 1])
    assert due(goes).box == box
    assert due(goes).at == (due_at if goes else None)


def test_five_goes_in_an_evening_are_no_sixteen_days() -> None:
    """Twelve minutes of practice: it comes back tomorrow."""
    start = datetime(2026, 1, 1, 20)
    goes = [DrillSession(start + timedelta(minutes=3 * n), 1.0) for n in range(5)]
    assert due(goes) == Due(1, start + timedelta(days=1))
