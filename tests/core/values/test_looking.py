"""Two spots, masses against marks, and edges joined into strokes."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import jpeg
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.core.values.contrast import largest_patches, read_contrast
from truesitter.core.values.edge_runs import EdgeRun, join_edges
from truesitter.core.values.edges import EdgeSamples, Sharpness
from truesitter.core.values.shapes import find_shapes, largest_circles
from truesitter.core.values.value_comparison import compare, read_spot


def spot_on(spot: float, surround: float, far: float = 5.0) -> np.ndarray:
    """A small patch of one value on a ring of another, on a picture 1000 wide."""
    y, x = np.mgrid[0:400, 0:1000]
    away = np.hypot(y - 200, x - 300)
    value = np.full((400, 1000), far, np.float32)
    value[away < 36] = surround
    value[away < 9] = spot
    return value


@pytest.mark.parametrize(
    ("spot", "surround", "seems"),
    [(5, 2, "lighter"), (5, 8, "darker"), (5, 5.5, "as it is"), (5, 4.2, "as it is"), (3, 1.9, "lighter")],
)
def test_a_surround_makes_a_spot_seem_other_than_it_is(spot: float, surround: float, seems: str) -> None:
    """Simultaneous contrast: on dark a spot seems lighter, on light darker (common practice)."""
    read = read_spot(spot_on(spot, surround, far=9.9), 0.3, 0.5)
    assert read.value == pytest.approx(spot, abs=0.05)
    assert read.surround == pytest.approx(surround, abs=0.15), "the ring ends where the surround does"
    assert read.seems == seems


def test_two_spots_in_words() -> None:
    value = spot_on(5, 2)
    value[100:300, 600:800] = 7
    found = compare(value, (0.3, 0.5), (0.7, 0.5))
    assert found.steps == pytest.approx(-2, abs=0.05)
    assert found.sentence().startswith("The first spot is 2.0 steps darker than the second.")
    assert "the first looks lighter than it is, because its surround is value 2" in found.sentence()
    back = compare(value, (0.7, 0.5), (0.3, 0.5)).sentence()
    assert back.startswith("The first spot is 2.0 steps lighter")
    near = spot_on(5.5, 5.0)
    assert compare(near, (0.3, 0.5), (0.8, 0.5)).sentence().startswith("The first spot is 0.5 steps lighter")
    assert compare(value, (0.7, 0.5), (0.72, 0.5)).sentence() == "The two spots have the same value."


def test_marks_outweigh_masses_only_where_they_are_strong_and_the_masses_flat() -> None:
    x = np.mgrid[0:200, 0:200][1].astype(np.float32)
    masses = np.full((200, 200), 5, np.float32)
    masses[:, 100:] = 5 + 0.05 * (x[:, 100:] - 100)
    marks = np.zeros_like(masses)
    marks[60:140] = 0.6 * np.sign(np.sin(x[60:140] * 2))
    found = read_contrast(masses + marks, masses, 4.0)
    assert found.at_risk()[100, 50]
    assert not found.at_risk()[20, 50], "no marks"
    assert found.marks[100, 50] == pytest.approx(0.6, abs=0.06)
    assert found.masses[100, 50] < 0.1
    faint = read_contrast(masses + marks * 0.2, masses, 4.0)
    assert not faint.at_risk().any(), "too weak to be seen"


def samples(
    points: list[tuple[float, float]], direction: tuple[float, float], width: float, contrast: float
) -> list[np.ndarray]:
    n = len(points)
    return [
        np.array(points, float),
        np.tile(direction, (n, 1)).astype(float),
        np.full(n, width),
        np.full(n, contrast),
        np.tile((width / 4, width * 3 / 4), (n, 1)),
        np.tile((-direction[1], direction[0]), (n, 1)).astype(float),
    ]


def test_readings_of_one_kind_in_a_row_become_one_stroke() -> None:
    """Two parallel borders 20 mm apart: one hard, one soft; a gap of 10 mm parts a stroke."""
    hard = samples([(2.0 * i, 10.0) for i in range(20)], (1, 0), 0.5, 3)
    soft = samples([(2.0 * i, 30.0) for i in range(20)], (1, 0), 8, 3)
    after = samples([(60.0 + 2.0 * i, 10.0) for i in range(10)], (1, 0), 0.5, 3)
    joined = EdgeSamples(*(np.concatenate(parts) for parts in zip(hard, soft, after, strict=True)))
    edges = join_edges(joined, (100, 100), 1.0)
    assert [e.kind for e in edges].count(Sharpness.SOFT) == 1
    assert sorted(round(e.length_mm) for e in edges) == [18, 38, 38]
    assert [e.length_mm for e in edges] == sorted((e.length_mm for e in edges), reverse=True)
    first = next(e for e in edges if e.kind is Sharpness.SOFT)
    assert first.points[:, 1] == pytest.approx(np.full(20, 0.3))
    assert (np.diff(first.points[:, 0]) > 0).all() or (np.diff(first.points[:, 0]) < 0).all()
    assert (first.width_mm, first.contrast) == pytest.approx((8, 3))
    assert first.sides_mm == pytest.approx((2, 6))
    assert first.softer == "lighter"
    assert {e.softer for e in edges if e.kind is Sharpness.HARD} == {None}, (
        "a hard edge is crisp on both sides"
    )
    none, nowhere = np.zeros(0), np.zeros((0, 2))
    assert join_edges(EdgeSamples(nowhere, nowhere, none, none, nowhere, nowhere), (9, 9), 1.0) == ()


@pytest.mark.parametrize("step", [0.5, 0.7, 1.0, 3.0])
def test_a_stroke_goes_through_all_its_readings_in_order(step: float) -> None:
    """However close they lie: several are within reach at once."""
    row = samples([(5 + step * i, 10.0) for i in range(30)], (1, 0), 0.5, 3)
    (edge,) = join_edges(EdgeSamples(*row), (100, 100), 1.0)
    assert np.abs(np.diff(edge.points[:, 0])) == pytest.approx(np.full(29, step / 100))
    assert edge.length_mm == pytest.approx(29 * step)


def test_a_border_that_turns_is_followed() -> None:
    turn = np.linspace(0, np.pi, 40)
    points = np.column_stack([50 + 25 * np.cos(turn), 50 + 25 * np.sin(turn)])
    direction = np.column_stack([-np.sin(turn), np.cos(turn)])
    sides = np.full((40, 2), 0.5)
    found = EdgeSamples(points, direction, np.full(40, 1.0), np.full(40, 2.0), sides, direction[:, ::-1])
    (edge,) = join_edges(found, (100, 100), 1.0)
    assert edge.length_mm == pytest.approx(np.pi * 25, rel=0.02)


def test_patches_are_said_where_they_lie_largest_first() -> None:
    mask = np.zeros((100, 200), bool)
    mask[10:21, 20:41] = True
    mask[60:90, 150:190] = True
    large, small = largest_patches(mask, 5)
    assert (large[0], small[0]) == (1200, 231)
    assert large[1:] == pytest.approx((170 / 200, 75 / 100))
    assert small[1:] == pytest.approx((30.5 / 200, 15.5 / 100))
    assert [p[0] for p in largest_patches(mask, 1)] == [1200]
    assert largest_patches(np.zeros((9, 9), bool), 3) == []


def test_an_edge_is_named_half_way_along() -> None:
    points = np.column_stack([np.linspace(0, 1, 9), np.full(9, 0.25)])
    assert EdgeRun(Sharpness.HARD, points, 30, 1, 3, (0.5, 0.5)).middle == (0.5, 0.25)


def test_the_largest_circle_lies_in_the_middle_of_a_square() -> None:
    """Odd sides, so that there is one middle pixel: 21 wide is 10.5 from the middle to the edge."""
    labels = np.zeros((80, 120), np.uint8)
    labels[20:41, 30:51] = 1
    shapes = find_shapes(labels)
    circles = largest_circles(shapes)
    n = int(shapes.number[30, 40])
    assert (circles.x[n], circles.y[n], circles.radius[n]) == pytest.approx((40.5, 30.5, 10.5), abs=0.5)
    assert (circles.x[n], circles.y[n]) == (40.5, 30.5)


def test_grain_is_no_shape_however_large_the_canvas() -> None:
    """With no smallest shape asked for, and on a canvas of metres, noise is not a thousand shapes."""
    noisy = jpeg(np.random.default_rng(5).integers(60, 200, (420, 340, 3), dtype=np.uint8))
    for chosen in ({"smallest_mm": 0, "features_mm": 0}, {}):
        wide = {"canvas_width_mm": 4000, "canvas_height_mm": 5000}
        settings = StudySettings.model_validate({"reference": wide, "values": {"groups": 5, **chosen}})
        plan = Study.of_bytes(noisy, settings).values.plan()
        areas = find_shapes(plan.labels).area
        assert len(areas) == 1 or areas.min() >= np.pi / 4 * 3**2
