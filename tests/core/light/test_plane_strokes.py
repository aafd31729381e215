"""Strokes on skin, cloth and wall: straight ones in the way of the brush are right, others have a name."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.light.form.plane_strokes import check_plane_stroke
from truesitter.core.usecases.practised import practised

Line = list[tuple[float, float]]


def field(angle: float) -> np.ndarray:
    """The brush goes one way everywhere; degrees from the right, upwards."""
    way = np.array((np.cos(np.radians(angle)), np.sin(np.radians(angle))), np.float32)
    return np.broadcast_to(way, (100, 80, 2))


def stroke(angle: float, length: float = 30.0, bend: float = 0.0) -> Line:
    """Through the middle of 80 by 100 pixels, its middle off the chord by a part of its length."""
    t = np.linspace(-0.5, 0.5, 15)
    way = np.array((np.cos(np.radians(angle)), -np.sin(np.radians(angle))))
    side = np.array((-way[1], way[0]))
    points = (40, 50) + length * (t[:, None] * way + bend * (1 - 4 * t[:, None] ** 2) * side)
    return [(float(x) / 80, float(y) / 100) for x, y in points]


@given(st.floats(0, 360), st.floats(-15, 15), st.booleans())
def test_straight_strokes_in_the_way_of_the_brush_are_right(angle: float, off: float, back: bool) -> None:
    drawn = stroke(angle + off)
    assert check_plane_stroke(drawn[::-1] if back else drawn, field(angle)) is None


@given(st.floats(0, 360), st.floats(35, 145))
def test_strokes_that_cross_the_form_are_named_with_their_angle(angle: float, off: float) -> None:
    found = check_plane_stroke(stroke(angle + off), field(angle))
    assert found is not None
    assert found.kind == "against the form"
    assert abs(float(found.said.split("lies ")[1].split("°")[0]) - min(off, 180 - off)) < 1.5


@given(st.floats(0, 360), st.floats(0.12, 0.5), st.booleans())
def test_bent_strokes_say_nothing(angle: float, bend: float, left: bool) -> None:
    found = check_plane_stroke(stroke(angle, bend=-bend if left else bend), field(angle))
    assert found is not None
    assert found.kind == "curved"


def test_where_nothing_says_which_way_any_straight_stroke_will_do() -> None:
    assert check_plane_stroke(stroke(30), np.zeros((100, 80, 2), np.float32)) is None
    back = [(0.5, 0.5), (0.6, 0.5), (0.5, 0.5)]
    found = check_plane_stroke(back, field(0))
    assert found is not None
    assert found.kind == "curved"


@pytest.mark.parametrize("across", [False, True])
def test_the_programs_own_arrows_are_right(across: bool) -> None:
    """Of maren: nine of ten arrows on skin, and hardly any of them turned by a right angle."""
    study = study_of("maren")
    arrows = study.brush.arrows(across)["skin"]
    # An arrow may bend with the form; a stroke goes from one of its ends to the other.
    ends = [np.linspace(line.points[0], line.points[-1], 7) for line in arrows]
    drawn = [[(float(x), float(y)) for x, y in points] for points in ends]
    kinds = study.hair.directed()[1]
    way = "across the planes" if across else "along the form"
    report = practised(study, [tuple(d) for d in drawn], None, way)  # type: ignore[arg-type]
    assert report.strokes == len(drawn)
    assert report.right >= 0.8 * len(drawn)
    size = np.array((320, 400))
    turned = []
    for line in drawn:
        points = np.array(line) * size
        off = points - points.mean(axis=0)
        turned.append([tuple(p / size) for p in points.mean(axis=0) + off[:, ::-1] * (1, -1)])
    wrong = practised(study, [tuple(d) for d in turned], None, way)  # type: ignore[arg-type]
    assert wrong.right < 0.35 * len(drawn)
    assert {f.kind for f in wrong.faults} <= {"curved", "against the form"} or kinds.any()
