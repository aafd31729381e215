"""Light-forms of a beard: spread, turned with the growth, sized, moved; all on made beards."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from truesitter.core.hair.locks.light_forms import LightForms, light_forms

SHAPE = (300, 240)
MM, FACE = 0.5, 200.0
Y, X = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]].astype(float)
BEARD = ((X - 120) / 60) ** 2 + ((Y - 180) / 80) ** 2 < 1


def growing(degrees: float) -> np.ndarray:
    """Hair of one direction, y up."""
    way = np.array([np.cos(np.radians(degrees)), np.sin(np.radians(degrees))], np.float32)
    return np.broadcast_to(way, (*SHAPE, 2)).copy()


def lit() -> np.ndarray:
    """Value 5 with grain, darker on the right."""
    return (5 + np.random.default_rng(1).normal(0, 0.4, SHAPE) - (X > 125)).astype(np.float32)


def found(
    size: float = 1.0, moves: tuple = (), degrees: float = -90.0, value: np.ndarray | None = None
) -> LightForms:
    return light_forms(BEARD, lit() if value is None else value, growing(degrees), FACE, MM, size, moves)


def at(forms: LightForms) -> np.ndarray:
    return np.array([(one.x, one.y) for one in forms.forms]) * SHAPE[::-1]


def test_forms_are_spread_evenly_inside_the_beard() -> None:
    forms = found()
    assert len(forms.forms) > 20
    assert forms.evenness < 0.15
    columns, rows = at(forms).astype(int).T
    assert BEARD[rows, columns].all()
    none = light_forms(np.zeros(SHAPE, bool), lit(), growing(0), FACE, MM)
    assert none.forms == ()


def test_forms_keep_their_distance_and_turn_with_the_picture() -> None:
    value = cv2.GaussianBlur(np.random.default_rng(4).normal(size=SHAPE).astype(np.float32), (0, 0), 5)
    points = at(found(value=value))
    gaps = np.hypot(*(points[:, None] - points[None]).transpose(2, 0, 1)) + 1e3 * np.eye(len(points))
    assert gaps.min() > 0.5 * np.median(gaps.min(axis=1))
    turned = light_forms(
        np.ascontiguousarray(BEARD.T),
        np.ascontiguousarray(value.T),
        np.zeros((*SHAPE[::-1], 2), np.float32),
        FACE,
        MM,
    )
    own = {(round(x), round(y)) for x, y in points}
    assert {
        (round(y * SHAPE[0]), round(x * SHAPE[1])) for y, x in ((one.x, one.y) for one in turned.forms)
    } == {(y, x) for x, y in own}


@given(st.floats(0, 360))
def test_both_touches_of_a_form_lie_along_the_growth(degrees: float) -> None:
    forms = found(degrees=degrees)
    size = SHAPE[1] * MM, SHAPE[0] * MM
    way = np.array([np.cos(np.radians(degrees)), -np.sin(np.radians(degrees))])
    for form in forms.forms[:5]:
        touches = forms.touches(form, size)
        for touch in touches:
            assert touch[1] - touch[0] == pytest.approx(way * forms.long_mm, abs=1e-2)
        apart = touches[1].mean(axis=0) - touches[0].mean(axis=0)
        assert abs(float(apart @ way)) < 1e-2
        assert float(np.hypot(*apart)) >= forms.wide_mm
        assert np.mean(touches, axis=(0, 1)) == pytest.approx(np.array((form.x, form.y)) * size, abs=1e-2)


def test_larger_forms_are_fewer_and_longer() -> None:
    small, usual, large = (found(size) for size in (0.5, 1.0, 2.0))
    assert len(small.forms) > len(usual.forms) > len(large.forms) >= 2
    assert (small.long_mm, large.long_mm) == pytest.approx((usual.long_mm / 2, usual.long_mm * 2))


def test_a_form_says_what_it_stands_above_its_surroundings() -> None:
    """A planted spot two steps lighter than an even beard adds most of that and comes first."""
    value = np.full(SHAPE, 5, np.float32)
    value[np.hypot(X - 100, Y - 170) < 4] = 7
    (first,) = found(value=value).forms
    assert np.hypot(first.x * SHAPE[1] - 100, first.y * SHAPE[0] - 170) < 2
    assert 0.8 < first.gain < 2


def test_a_light_in_the_shadow_adds_as_much_as_one_in_the_light() -> None:
    value = np.where(X < 120, 3, 6).astype(np.float32)
    for column in (85, 155):
        value[np.hypot(X - column, Y - 180) < 4] += 2
    at_spots = [f.gain for f in found(value=value).forms for c in (85, 155)
                if np.hypot(f.x * SHAPE[1] - c, f.y * SHAPE[0] - 180) < 2]  # fmt: skip
    assert len(at_spots) == 2
    assert at_spots[0] == pytest.approx(at_spots[1], rel=0.15)


def test_skin_beside_a_beard_is_none_of_its_lights() -> None:
    value = np.where(BEARD, 4, 8).astype(np.float32)
    assert found(value=value).forms == ()


def test_a_touch_beside_the_shadow_falls_to_the_darker_side() -> None:
    forms = found()
    size = SHAPE[1] * MM, SHAPE[0] * MM
    near = [one for one in forms.forms if one.in_shadow is not None and abs(one.x * SHAPE[1] - 122) < 6]
    assert near
    for form in near:
        touches = forms.touches(form, size)
        assert touches[form.in_shadow].mean(axis=0)[0] > touches[1 - form.in_shadow].mean(axis=0)[0]
    assert any(one.in_shadow is None for one in forms.forms)


def test_a_form_that_was_moved_stays_where_it_was_put() -> None:
    usual = found()
    one = usual.forms[3]
    wanted = (one.x + 0.05, one.y - 0.04)
    moved = found(moves=(((one.x + 0.005, one.y), wanted),))
    (there,) = [form for form in moved.forms if form.move is not None]
    assert (there.x, there.y) == pytest.approx(wanted)
    assert there.move == 0
    kept = {(form.x, form.y) for form in usual.forms} - {(one.x, one.y)}
    assert {(form.x, form.y) for form in moved.forms if form.move is None} == kept


def test_a_move_rests_where_no_form_is_near() -> None:
    assert {(f.x, f.y) for f in found(moves=(((0.02, 0.02), (0.5, 0.6)),)).forms} == {
        (f.x, f.y) for f in found().forms
    }
