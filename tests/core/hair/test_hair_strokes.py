"""Strokes of hair: laws that hold for every type, on drawn fields."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from truesitter.core.canvas.drawn.painted_lines import line_cover
from truesitter.core.canvas.tuning import LEVELS
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.field.tuning import ROOT_PART
from truesitter.core.hair.field.whorls import Whorl
from truesitter.core.hair.strokes.hair_strokes import StrokeGround, Wish, curvature, lay_strokes, widest_brush
from truesitter.core.hair.strokes.strays import lay_strays
from truesitter.core.hair.strokes.stroke_types import (
    ALL_TYPES,
    BEARD,
    BROW,
    COILY,
    FRIZZ,
    MOUSTACHE_TYPE,
    SHORT,
    STRAIGHT,
    WAVY,
    StrokeType,
    hair_type,
    type_for,
)  # fmt: skip
from truesitter.core.hair.strokes.tuning import BROAD_PX, POINTS
from truesitter.core.imaging.line import Line

SHAPE = (300, 240)
MM = 0.5


def flowing(swing: float = 0.5, slant: float = -1.4, whorls: tuple[Whorl, ...] = ()) -> StrokeGround:
    """Hair that hangs in waves over 120 × 150 mm; locks 60 mm long and 9 mm wide."""
    y, x = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]].astype(float)
    angle = slant + swing * np.sin(y / 40 + x / 90)
    directed = np.dstack([np.cos(angle), np.sin(angle)]).astype(np.float32)
    full = np.ones(SHAPE, np.float32)
    return StrokeGround(directed, MM, 60 * full, 9 * full, 80.0, whorls)


def oval() -> np.ndarray:
    y, x = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]].astype(float)
    return ((x - 120) / 90) ** 2 + ((y - 150) / 120) ** 2 < 1


def size_mm() -> np.ndarray:
    return np.array(SHAPE[::-1]) * MM


def way(line: Line, count: int = 1) -> np.ndarray:
    """Unit direction of the first steps, x right and y up."""
    step = np.diff(line.points[: count + 1] * size_mm(), axis=0) * (1, -1)
    return step / np.hypot(*step.T)[:, None]


def flow_at(ground: StrokeGround, line: Line, number: int) -> np.ndarray:
    column, row = (line.points[number] * SHAPE[::-1]).astype(int)
    return ground.directed[min(row, SHAPE[0] - 1), min(column, SHAPE[1] - 1)]


def length(line: Line) -> float:
    return float(np.hypot(*np.diff(line.points * size_mm(), axis=0).T).sum())


def area(lines: tuple[Line, ...]) -> float:
    total = 0.0
    for line in lines:
        steps = np.hypot(*np.diff(line.points * size_mm(), axis=0).T)
        total += float((steps * (line.widths_mm[:-1] + line.widths_mm[1:]) / 2).sum())
    return total


@pytest.mark.parametrize("type_", ALL_TYPES, ids=lambda t: t.name)
def test_strokes_begin_exactly_along_the_growth(type_: StrokeType) -> None:
    """Root deviation of at most 3°, and none in the root part beyond what one step of a curve turns."""
    ground = flowing()
    lines = lay_strokes(ground, oval(), Wish(type_, 2.0, 0.8, 1))
    assert len(lines) > 20
    off = [np.degrees(np.arccos(np.clip(way(line)[0] @ flow_at(ground, line, 0), -1, 1))) for line in lines]
    assert max(off) <= 3
    for line in lines[:60]:
        root = int(ROOT_PART * (POINTS - 1))
        for n, step in enumerate(way(line, min(root, len(line.points) - 1))):
            assert step @ flow_at(ground, line, n) > np.cos(np.radians(5))


@settings(max_examples=12)
@given(st.integers(0, 50), st.sampled_from(ALL_TYPES), st.floats(0.6, 5))
def test_strokes_leave_their_place_by_no_more_than_their_width(
    seed: int, type_: StrokeType, brush: float
) -> None:
    from scipy.ndimage import distance_transform_edt

    mask = oval()
    away = distance_transform_edt(~mask) * MM
    for line in lay_strokes(flowing(), mask, Wish(type_, brush, 0.7, seed)):
        columns, rows = np.clip(
            (line.points * SHAPE[::-1]).astype(int).T, 0, [[SHAPE[1] - 1], [SHAPE[0] - 1]]
        )
        assert away[rows, columns].max() <= brush + MM


@settings(max_examples=10)
@given(st.floats(0.3, 2.5), st.sampled_from((STRAIGHT, WAVY, SHORT, COILY)), st.integers(0, 9))
def test_density_is_what_was_asked_for(density: float, type_: StrokeType, seed: int) -> None:
    """Of fine strokes their area; broad ones cover as much as random ones of that area would (Poisson)."""
    mask = oval()
    fine = area(lay_strokes(flowing(), mask, Wish(type_, 0.9 * BROAD_PX * MM, density, seed)))
    assert fine == pytest.approx(density * mask.sum() * MM**2, rel=0.1)
    broad = lay_strokes(flowing(), mask, Wish(type_, 4 * MM, density, seed))
    rows, columns, levels = line_cover(broad, SHAPE, MM)
    covered = np.zeros(SHAPE)
    covered[rows, columns] = levels / LEVELS
    assert covered[mask].mean() == pytest.approx(1 - np.exp(-density), abs=0.09)


def test_what_is_left_of_a_place_is_filled_with_shorter_strokes() -> None:
    """Long hair in a place of narrow arms: hardly any of the usual length goes in, yet it is covered."""
    y, x = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]]
    arms = (y // 12 % 2 == 0) & (np.abs(x - 120) < 80)
    full = np.ones(SHAPE, np.float32)
    ground = StrokeGround(flowing(0).directed, MM, 80 * full, 9 * full, 80.0)
    lines = lay_strokes(ground, arms, Wish(STRAIGHT, 4 * MM, 2.2, 3))
    rows, columns, levels = line_cover(lines, SHAPE, MM)
    covered = np.zeros(SHAPE)
    covered[rows, columns] = levels / LEVELS
    assert covered[arms].mean() > 0.55
    assert covered[~arms].mean() < 0.25, "it hardly runs out of its place"


@pytest.mark.parametrize("type_", [STRAIGHT, COILY], ids=lambda t: t.name)
def test_a_last_stroke_far_broader_than_most_is_no_error(type_: StrokeType) -> None:
    """Fine hair with one broad lock: a stroke in it overshoots what was asked for by many of the others."""
    limit = np.full(SHAPE, 0.3, np.float32)
    limit[:, 110:130] = 12.0
    for seed in range(40):
        assert lay_strokes(flowing(swing=0), oval(), Wish(type_, 12.0, 0.02, seed), limit)


def test_strokes_cover_their_place_evenly() -> None:
    """Where strokes lie is no denser in the middle than at the border: quarters differ by under a third."""
    mask = np.zeros(SHAPE, bool)
    mask[40:260, 40:200] = True
    lines = lay_strokes(flowing(0.2), mask, Wish(SHORT, 1.0, 1.2, 5))
    at = np.concatenate([line.points for line in lines]) * SHAPE[::-1]
    quarters = np.histogram2d(at[:, 0], at[:, 1], bins=[[40, 120, 200], [40, 150, 260]])[0]
    assert quarters.max() / quarters.min() < 1.35


def test_the_border_at_the_roots_is_covered_too() -> None:
    """Strokes are seeded in their middles and walked back to their roots."""
    mask = np.zeros(SHAPE, bool)
    mask[60:260, 40:200] = True
    straight_down = flowing(0.0, -np.pi / 2)
    lines = lay_strokes(straight_down, mask, Wish(STRAIGHT, 1.0, 1.2, 5))
    rows = np.concatenate([line.points[:, 1] for line in lines]) * SHAPE[0]
    assert ((rows >= 60) & (rows < 80)).mean() > 0.6 * 20 / 200


def test_the_same_seed_gives_the_same_strokes_and_another_does_not() -> None:
    one, two, other = (lay_strokes(flowing(), oval(), Wish(WAVY, 2.0, 0.6, seed)) for seed in (4, 4, 5))
    assert len(one) == len(two)
    assert all(np.array_equal(a.points, b.points) for a, b in zip(one, two, strict=True))
    assert not all(np.array_equal(a.points, b.points) for a, b in zip(one, other, strict=False))


@pytest.mark.parametrize("type_", ALL_TYPES, ids=lambda t: t.name)
def test_strokes_taper_and_are_staggered_as_their_type_rules(type_: StrokeType) -> None:
    """Widest in the first or middle third, ends at most a quarter; starts spread by 15 % of the length."""
    assert type_.widest <= 2 / 3
    assert type_.end <= 0.25
    assert type_.stagger >= 0.15
    lines = lay_strokes(flowing(0.2), oval(), Wish(type_, 1.5, 0.8, 2))
    for line in lines:
        assert line.widths_mm[-1] <= 0.26 * line.widths_mm.max()
        assert line.widths_mm.argmax() <= 2 / 3 * (len(line.widths_mm) - 1) + 1
        assert line.widths_mm.max() <= 1.5 + 1e-9
    # Roots of strokes side by side, along their common flow.
    near = [line for line in lines if abs(line.points[0, 0] - 0.5) < 0.12]
    roots = np.array([line.points[0] for line in near]) * size_mm()
    along = roots @ (np.mean([way(line)[0] for line in near], axis=0) * (1, -1))
    assert along.std() > 0.15 * np.mean([length(line) for line in near])


def test_long_hair_is_stroked_in_half_to_whole_locks_and_short_hair_by_the_face() -> None:
    whole = [length(line) for line in lay_strokes(flowing(0.1), oval(), Wish(STRAIGHT, 1.0, 0.6, 3))]
    assert max(whole) <= 60.5
    assert np.median(whole) > 25
    short = [length(line) for line in lay_strokes(flowing(0.1), oval(), Wish(BROW, 0.5, 0.3, 3))]
    assert max(short) <= 0.055 * 80 + 0.1


def test_coils_come_in_bundles_that_curl_the_same_way() -> None:
    lines = lay_strokes(flowing(0.1), oval(), Wish(COILY, 0.6, 0.3, 1))
    turns = []
    for line in lines:
        steps = way(line, len(line.points) - 1)
        turns.append(np.sum(steps[:-1, 0] * steps[1:, 1] - steps[:-1, 1] * steps[1:, 0]))
    runs = np.diff(np.concatenate([[0], np.flatnonzero(np.diff(np.sign(turns))) + 1, [len(turns)]]))
    assert np.median(np.abs(turns)) > 1
    assert runs.mean() > 3, "neighbours in the list curl together"


def test_no_stroke_crosses_a_whorl() -> None:
    y, x = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]].astype(float)
    angle = np.arctan2(-(y - 150), x - 120) - 0.8
    directed = np.dstack([np.cos(angle), np.sin(angle)]).astype(np.float32)
    none = np.zeros(SHAPE, np.float32)
    ground = StrokeGround(directed, MM, none, none, 80.0, (Whorl(0.5, 0.5, 1.0),))
    for brush in (1.0, 3.0):
        for line in lay_strokes(ground, oval(), Wish(SHORT, brush, 0.8, 1)):
            at = line.points * size_mm() - (60, 75)
            assert np.hypot(*at.T).min() > brush - MM
            steps = np.diff(np.unwrap(np.arctan2(at[:, 1], at[:, 0])))
            assert np.abs(steps.sum()) < np.pi, "it does not run round the crown"


def test_the_widest_brush_is_the_least_of_lock_curve_and_whorl() -> None:
    """⅔ of the lock's width, 0.3 × the radius of curvature, the distance to the whorl."""
    y, x = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]].astype(float)
    radius = np.hypot(x - 120, y + 200)
    angle = np.arctan2(-(y + 200), x - 120) + np.pi / 2
    directed = np.dstack([np.cos(angle), np.sin(angle)]).astype(np.float32)
    middle = (slice(60, 240), slice(40, 200))
    np.testing.assert_allclose(1 / curvature(directed)[middle], radius[middle], rtol=0.05)
    none, locks = np.zeros(SHAPE, np.float32), np.full(SHAPE, 30.0, np.float32)
    free = widest_brush(StrokeGround(directed, MM, none, none, 80.0))
    np.testing.assert_allclose(free[middle], 0.3 * radius[middle] * MM, rtol=0.06)
    held = widest_brush(StrokeGround(directed, MM, locks, locks, 80.0))
    assert held[middle].max() <= 20 + 1e-5
    whorl = widest_brush(StrokeGround(directed, MM, none, none, 80.0, (Whorl(0.5, 0.5, 1.0),)))
    assert whorl[150, 126] == pytest.approx(6.5 * MM, abs=0.6)


def test_nothing_is_stroked_where_there_is_nothing() -> None:
    ground = flowing()
    assert lay_strokes(ground, np.zeros(SHAPE, bool), Wish(WAVY, 1.0, 1.0, 0)) == ()
    assert lay_strokes(ground, oval(), Wish(WAVY, 1.0, 0.0, 0)) == ()
    assert lay_strays(ground, oval(), np.zeros(SHAPE, bool), 1.0, 0) == ()


@pytest.mark.parametrize("seed", range(6))
def test_strays_are_few_short_and_begin_along_the_hair(seed: int) -> None:
    """Common practice: a few in every colour, from the hair beneath, then leaving it."""
    ground, mask = flowing(), oval()
    upper = mask.copy()
    upper[150:] = False
    strays = lay_strays(ground, upper, mask, 2.0, seed)
    assert 2 <= len(strays) <= 5
    for line in strays:
        assert length(line) <= 0.35 * 60 + 0.1
        assert way(line)[0] @ flow_at(ground, line, 0) > np.cos(np.radians(3))
        assert line.points[0, 1] * SHAPE[0] <= 151
        for n, step in enumerate(way(line, int(ROOT_PART * (POINTS - 1)))):
            assert step @ flow_at(ground, line, n) > np.cos(np.radians(5)), "the root part first"
        assert line.widths_mm[-1] <= 0.25 * line.widths_mm.max()


def test_what_hair_looks_like_names_its_type() -> None:
    assert hair_type(0.2, 1.0, 0.1) == "coily"
    assert hair_type(0.6, 0.2, 0.5) == "short"
    assert hair_type(0.6, 1.0, 0.1) == "straight"
    assert hair_type(0.6, 1.0, 0.4) == "wavy"
    assert type_for(Kind.BEARD, "straight") is BEARD
    assert type_for(Kind.RIGHT_MOUSTACHE, "wavy") is MOUSTACHE_TYPE
    assert type_for(Kind.LEFT_BROW, "wavy") is BROW
    assert type_for(Kind.SCALP, "coily") is COILY


@pytest.mark.parametrize("seed", range(4))
def test_strays_follow_the_type_of_the_hair(seed: int) -> None:
    """Straight ones bend little, those of coils curl round, those of frizz sway; tangled hair leaves more."""
    mask, ground = oval(), flowing(0.1)

    def turned(type_: StrokeType) -> tuple[int, float, float]:
        lines = lay_strays(ground, mask, mask, 1.0, seed, type_)
        whole, swayed = [], []
        for line in lines:
            steps = np.diff(line.points * size_mm(), axis=0)
            heading = np.unwrap(np.arctan2(-steps[:, 1], steps[:, 0]))
            whole.append(abs(heading[-1] - heading[0]))
            swayed.append(float(np.abs(np.diff(heading, 2)).max()))
        return len(lines), float(np.max(whole)), float(np.mean(swayed))

    straight, coily, frizz = (turned(t) for t in (STRAIGHT, COILY, FRIZZ))
    assert straight[1] < 1.1
    assert coily[1] > 1.5
    assert frizz[2] > 2 * straight[2]
    assert min(coily[0], frizz[0]) >= 8 > straight[0]
