"""Rules of hair on made fields: shine, locks over one another, knots, brows, hours and practice."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from tests.conftest import study_of
from tests.core.hair.test_hair_shapes import MM, SHAPE, along, grid, head
from tests.core.hair.test_practice_strokes import STRAIGHT, asked, hanging, stroke
from truesitter.core.colour.value import Luminance, luminance_to_value
from truesitter.core.hair.checks.practice import check_strokes
from truesitter.core.hair.field.guides import NOTHING_DRAWN
from truesitter.core.hair.field.hair_beliefs import Signs, growth_beliefs
from truesitter.core.hair.field.hair_kinds import BrowLine
from truesitter.core.hair.field.knot import find_knot
from truesitter.core.hair.locks.hair_shine import HairShine
from truesitter.core.hair.locks.lock_shapes import describe_locks
from truesitter.core.hair.locks.volumes import hair_volumes
from truesitter.core.hair.strokes.approach import Way, choose_approach
from truesitter.core.hair.strokes.hair_strokes import StrokeGround, Wish, lay_strokes
from truesitter.core.hair.strokes.stroke_types import SHORT


@pytest.mark.parametrize(("index", "words"), [(0.3, "Keep the"), (0.4, "soften"), (0.7, "crisp across")])
def test_advice_goes_with_the_word(index: float, words: str) -> None:
    shine = HairShine(index, 1.2, 0.0, 0.5)
    assert words in shine.advice
    assert shine.word == {"Keep the": "matte", "soften": "satin", "crisp across": "glossy"}[words]


def test_locks_are_what_stays_when_light_is_evened_along_the_hair() -> None:
    """Hair that hangs: what changes from strand to strand is a lock's, what flickers along one is not."""
    y, x = grid()
    mask = np.ones(SHAPE, bool)
    down = along(np.full(SHAPE, -np.pi / 2))
    across = 0.2 + 0.08 * np.sin(2 * np.pi * x / 40)
    flicker = 0.08 * np.sin(2 * np.pi * y / 8)
    found = hair_volumes((across + flicker).astype(np.float32), down, mask, 200.0)
    inner = (slice(60, 240), slice(50, 190))
    assert found.locks[inner].std(axis=1).mean() > 8 * found.locks[inner].std(axis=0).mean()
    assert found.surface[inner].std(axis=0).mean() > 4 * found.surface[inner].std(axis=1).mean()
    whole = found.skull + found.locks + found.surface
    value = luminance_to_value(Luminance((across + flicker)[inner]))
    np.testing.assert_allclose(whole[inner], value, atol=0.02)


@pytest.mark.parametrize(("step", "over"), [(0.04, ()), (0.6, (2,))])
def test_a_lock_lies_over_another_where_it_is_clearly_lighter_at_their_border(
    step: float, over: tuple[int, ...]
) -> None:
    """However long the border: what counts is how far the two stand apart on the whole of it."""
    _, x = grid()
    numbers = np.where(x < 120, 1, 2).astype(np.int32)
    value = np.where(x < 120, 4 + step, 4).astype(np.float32)
    down = along(np.full(SHAPE, -np.pi / 2))
    locks = describe_locks(numbers, value, down)
    assert [lock.over for lock in locks] == [over, ()]


def test_a_knot_is_the_same_in_a_wider_picture() -> None:
    field, figure, face = head(True)
    knot = find_knot(field, figure, face)
    assert knot is not None
    wide = [np.pad(m, ((0, 0), (200, 200))) for m in (figure, face)]
    pad = ((0, 0), (200, 200))
    wider = type(field)(
        np.pad(field.z, (*pad, (0, 0))), np.pad(field.coherence, pad), np.pad(field.kinds, pad)
    )
    again = find_knot(wider, *wide)
    assert again is not None
    np.testing.assert_array_equal(again.mask[:, 200:-200], knot.mask)
    signs = Signs(field.kinds, face, knot=knot)
    assert not growth_beliefs(signs, NOTHING_DRAWN)[knot.mask].any(), (
        "within a knot nothing tells root from tip"
    )


@pytest.mark.parametrize("turn", [0.0, 0.4, -0.7])
def test_up_of_a_brow_is_the_way_of_the_head_however_it_leans(turn: float) -> None:
    face = study_of("maren").sitter.face
    assert face is not None
    spun = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
    middle = face.points[:, :2].mean(axis=0)
    leaning = replace(
        face, points=np.column_stack([(face.points[:, :2] - middle) @ spun.T + middle, face.points[:, 2]])
    )
    upright, up = BrowLine.of(face, 0, 1.0).up, BrowLine.of(leaning, 0, 1.0).up
    assert np.hypot(*up) == pytest.approx(1, abs=1e-6)
    # Rows run down, and y of the way up: the turn is seen the other way round.
    np.testing.assert_allclose(up, spun.T @ upright, atol=1e-6)


def test_hours_of_hair_are_what_the_plan_reckons_for_its_area() -> None:
    rates: dict[Way, float] = {"masses": 0.35, "strands": 0.78}
    for area in (150.0, 300.0):
        found = choose_approach(area, 12.0, 180.0, None, rates, {"masses": 5, "strands": 8})
        for way in (found.masses, found.strands):
            assert 60 * way.hours == pytest.approx(area * rates[way.way])
    assert found.plan is found.masses


def test_no_stroke_is_a_stump() -> None:
    """Where a place ends a stroke soon, another is drawn instead."""
    y, _ = grid()
    narrow = np.abs(y - 150) < 12
    full = np.ones(SHAPE, np.float32)
    ground = StrokeGround(along(np.full(SHAPE, -np.pi / 2)), MM, 60 * full, 9 * full, 80.0)
    lines = lay_strokes(ground, narrow | (y > 200), Wish(STRAIGHT, 2.0, 0.5, 3))
    assert lines
    assert min(len(line.points) for line in lines) >= 0.35 * max(len(line.points) for line in lines)


def test_strokes_that_begin_on_one_line_are_right_one_by_one() -> None:
    drawn = tuple(stroke(0.3 + 0.1 * n, 0.2, 0.4) for n in range(5))
    report = check_strokes(asked(drawn), hanging())
    assert [f.stroke for f in report.faults] == [-1]
    assert (report.right, report.strokes) == (5, 5)


def test_a_stroke_is_short_for_its_lock_or_for_the_head_as_its_type_goes() -> None:
    """A lock of 200 mm wants longer strokes than cropped hair on the same head does."""
    ground = replace(hanging(), lock_length=np.full(SHAPE, 200, np.float32))
    drawn = (stroke(0.5, 0.2, 0.1),)
    assert STRAIGHT.of_the_lock
    assert not SHORT.of_the_lock
    assert [f.kind for f in check_strokes(asked(drawn), ground).faults] == ["short"]
    assert "short" not in [f.kind for f in check_strokes(asked(drawn, SHORT), ground).faults]
