"""Tone, clipping, grids, callipers, proportions."""

from __future__ import annotations

import math
from collections import Counter

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import made_head, study_of
from truesitter.core.colour.value import value_to_luminance
from truesitter.core.reference.grid import make_grid
from truesitter.core.reference.measure import levelling_turn, read
from truesitter.core.reference.tone import (
    PictureTone,
    balance_from,
    correct,
    find_clipping,
    lift_shadows,
    tone_table,
)
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.face import Face
from truesitter.core.sitter.face_proportions import face_proportions
from truesitter.core.values.value_map import value_map

CANVAS = (300.0, 400.0)
unit = st.floats(0, 1)
greys = np.repeat(np.arange(256, dtype=np.uint8)[None, :, None], 3, axis=2)


def test_a_plain_tone_changes_nothing() -> None:
    picture = made_head()
    assert correct(picture, PictureTone()) is picture
    np.testing.assert_array_equal(tone_table(PictureTone())[:, 0], np.arange(256))


@given(st.floats(-2, 2), st.floats(0, 3), st.floats(7, 10))
def test_tone_keeps_the_order_of_values(exposure: float, black: float, white: float) -> None:
    table = tone_table(PictureTone(exposure=exposure, black=black, white=white)).astype(int)
    assert (np.diff(table, axis=0) >= 0).all()


@given(st.floats(-2, 2))
def test_exposure_moves_a_middle_value_by_its_steps(steps: float) -> None:
    value = value_map(greys)[0]
    middle = int(np.abs(value - 5).argmin())
    moved = value_map(correct(greys, PictureTone(exposure=steps)))[0, middle]
    assert moved == pytest.approx(5 + steps, abs=0.06)


def test_black_and_white_points_come_to_the_ends() -> None:
    value = value_map(greys)[0]
    black, white = (int(np.abs(value - v).argmin()) for v in (1.5, 9.0))
    out = value_map(correct(greys, PictureTone(black=1.5, white=9.0)))[0]
    assert out[black] == pytest.approx(0, abs=0.4)
    assert out[white] == pytest.approx(10, abs=0.1)


@given(st.tuples(*[st.floats(0.6, 1.6)] * 3))
def test_a_tinted_grey_is_balanced_back_to_grey(tint: tuple[float, float, float]) -> None:
    linear = value_to_luminance(5.0) * np.array(tint)
    patch = np.full((9, 9, 3), np.round(255 * np.clip(linear, 0, 1) ** (1 / 2.2)), np.uint8)
    balanced = correct(patch, PictureTone(balance=balance_from(patch))).astype(int)
    assert np.ptp(balanced[0, 0]) <= 1


@pytest.mark.parametrize(
    ("colour", "sentence"),
    [((2, 2, 2), "too dark"), ((255, 255, 255), "too light"), ((120, 120, 3), "too strongly")],
)
def test_what_was_never_grey_is_refused(colour: tuple[int, int, int], sentence: str) -> None:
    with pytest.raises(Refusal, match=sentence):
        balance_from(np.full((5, 5, 3), colour, np.uint8))


def test_clipping_is_found_where_it_is() -> None:
    picture = np.full((100, 100, 3), 120, np.uint8)
    picture[:20] = 0
    picture[90:, :50] = (255, 200, 180)
    found = find_clipping(picture)
    assert (found.dark_share, found.light_share) == (0.2, 0.05)
    assert found.dark[:20].all()
    assert found.light[95, 10]
    assert not found.light[95, 60]


def test_lifted_shadows_open_the_darks_and_keep_order() -> None:
    before, after = value_map(greys)[0], value_map(lift_shadows(greys))[0]
    dark = (before > 1) & (before < 3)
    assert (after[dark] > before[dark] + 0.5).all()
    assert (np.diff(after) >= -1e-6).all()
    assert after[-1] == pytest.approx(10, abs=0.05)


@given(st.integers(1, 12), st.integers(1, 12))
def test_counted_grids_divide_the_canvas_evenly(columns: int, rows: int) -> None:
    grid = make_grid(CANVAS, "count", columns, rows)
    assert len(grid.lines) == columns + rows - 2
    assert len(grid.columns) == columns
    assert len(grid.rows) == rows
    assert grid.cell_mm == pytest.approx((300 / columns, 400 / rows))
    assert all(0 <= v <= 400 for line in grid.lines for v in line)


@given(st.floats(7, 500))
def test_square_grids_have_squares_from_the_top_left(square: float) -> None:
    grid = make_grid(CANVAS, "square", square_mm=square)
    xs = sorted(line[0] for line in grid.lines if line[0] == line[2])
    assert xs == pytest.approx([square * (i + 1) for i in range(len(xs))])
    assert 300 - (xs[-1] if xs else 0) <= square * 1.011


def test_rows_are_lettered_past_z_and_diagonals_meet_the_corners() -> None:
    assert make_grid(CANVAS, "count", 1, 28).rows[27][1] == "AB"
    assert [n for _, n in make_grid(CANVAS, "thirds").columns] == ["1", "2", "3"]
    diagonals = make_grid(CANVAS, "diagonals")
    assert (0.0, 0.0, 300.0, 400.0) in diagonals.lines
    assert diagonals.cell_mm is None
    slanting = [line for line in diagonals.lines if line[0] != line[2] and line[1] != line[3]]
    sides = [line for line in slanting if {line[0], line[2]} != {0.0, 300.0}]
    ends = Counter(end for line in sides for end in (line[:2], line[2:]))
    assert ends == dict.fromkeys([(150, 0), (300, 200), (150, 400), (0, 200)], 2), "the diamond is closed"


@pytest.mark.parametrize(
    ("start", "end", "mm", "angle"),
    [
        ((0, 0), (1, 0), 300, 0),
        ((0, 0), (0, 1), 400, 90),
        ((0, 1), (1, 0), 500, math.degrees(math.atan2(400, 300))),
        ((1, 0), (0, 1), 500, math.degrees(math.atan2(400, 300))),
        ((0, 0), (1, 1), 500, -math.degrees(math.atan2(400, 300))),
    ],
)
def test_callipers_read_what_a_rule_and_a_protractor_would(
    start: tuple[float, float], end: tuple[float, float], mm: float, angle: float
) -> None:
    """Worked by hand on a 300 × 400 mm canvas (3-4-5 triangle)."""
    reading = read(start, end, CANVAS, unit_mm=100)
    assert reading.mm == pytest.approx(mm)
    assert reading.angle == pytest.approx(angle)
    assert reading.multiple == pytest.approx(mm / 100)
    assert read(start, end, CANVAS).multiple is None


@given(st.tuples(unit, unit), st.tuples(unit, unit))
def test_a_measure_is_the_same_from_either_end(a: tuple[float, float], b: tuple[float, float]) -> None:
    there, back = read(a, b, CANVAS), read(b, a, CANVAS)
    assert there.mm == back.mm
    if there.mm > 1e-6:
        assert there.angle == pytest.approx(back.angle)
        assert -90 < there.angle <= 90


@given(st.floats(-40, 40), st.booleans())
def test_a_drawn_line_comes_out_level_or_plumb(tilt: float, upright: bool) -> None:
    radians = math.radians(tilt + (90 if upright else 0))
    end = (0.5 + 0.2 * math.cos(radians), 0.5 - 0.2 * math.sin(radians))
    assert levelling_turn((0.5, 0.5), end, (1, 1)) == pytest.approx(-tilt, abs=1e-9)
    assert levelling_turn(end, (0.5, 0.5), (1, 1)) == pytest.approx(-tilt, abs=1e-9)


def test_a_line_without_length_levels_nothing() -> None:
    with pytest.raises(Refusal, match="draw a line"):
        levelling_turn((0.5, 0.5), (0.5, 0.5), (1, 1))


def test_straightening_by_a_line_makes_it_level_in_the_frame() -> None:
    from truesitter.core.reference.frame import Frame, apply

    picture = np.full((400, 300, 3), 200, np.uint8)
    for x in range(300):
        y = int(200 - (x - 150) * math.tan(math.radians(10)))
        picture[y - 1 : y + 2, x] = 0
    turn = levelling_turn((0.2, 0.5 + 0.3 * 0.75 * math.tan(math.radians(10))), (0.8, 0.5 - 0.3 * 0.75
                          * math.tan(math.radians(10))), (300, 400))  # fmt: skip
    assert turn == pytest.approx(-10, abs=0.01)
    level = apply(picture, Frame((300, 400), straighten=turn))[..., 0]
    dark = [np.flatnonzero(level[:, x] < 100).mean() for x in range(20, level.shape[1] - 20, 30)]
    assert np.ptp(dark) < 1.5


def test_proportions_of_a_face_are_near_the_usual_and_turn_with_the_head() -> None:
    """The rules of thumb are common practice, no source: a made-up but ordinary face lies near them."""
    face = study_of("maren").sitter.face
    assert face is not None
    landmarks = face.points
    assert len(study_of("maren").sitter.proportions()) == 7, "with eye line and forehead"
    for proportion in study_of("maren").sitter.proportions():
        assert 0.5 * proportion.usual < proportion.here < 1.6 * proportion.usual, proportion.name
    found = face_proportions(face, 1.25)
    assert len(found) == 5
    for proportion in found:
        assert 0.5 * proportion.usual < proportion.here < 1.6 * proportion.usual, proportion.name
    turn = math.radians(20)
    centre = landmarks[:, :2].mean(axis=0)
    rotation = np.array([[math.cos(turn), -math.sin(turn)], [math.sin(turn), math.cos(turn)]])
    square = (landmarks[:, :2] - centre) * (1, 1.25) @ rotation.T / (1, 1.25) + centre
    turned = face_proportions(Face(np.column_stack([square, landmarks[:, 2]])), 1.25)
    for before, after in zip(found, turned, strict=True):
        assert after.here == pytest.approx(before.here, rel=1e-6)
