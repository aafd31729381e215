"""Curls: read from drawn hair whose curl is known, drawn again, and judged when practised.

The waves of `tests/curls.py` are ours; that a mean of unit vectors shrinks as they spread is Mardia 1972.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from tests.conftest import small_photo, study_of
from tests.core.hair.test_hair_strokes import SHAPE, flowing, oval, size_mm
from tests.curls import LOCK, drawn_hair
from tests.curls import SHAPE as SHAPE_OF_HAIR
from truesitter.core.graph.memo import Memo
from truesitter.core.hair.checks.practice import Practised, check_strokes
from truesitter.core.hair.field.direction_field import solve_axes, strand_detail, structure_tensor_field
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.field.whorls import find_whorls
from truesitter.core.hair.locks.lock_strands import Strands, read_strands
from truesitter.core.hair.strokes.curls import curled, lock_way, resampled_periods, uncurled
from truesitter.core.hair.strokes.hair_strokes import StrokeGround, Wish, lay_strokes
from truesitter.core.hair.strokes.strays import lay_strays
from truesitter.core.hair.strokes.stroke_types import (
    COILY,
    FRIZZ,
    SHORT,
    STRAIGHT,
    WAVY,
    StrokeMap,
    StrokeType,
    lock_type,
)
from truesitter.core.imaging.blur import blur_within
from truesitter.core.imaging.line import Line
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study

DRAWN = [(30, 6, 80), (50, 10, 80), (30, 6, 35), (40, 9, 10)]


@cache
def read(period: float, amplitude: float, slant: float = 80.0) -> list[Strands]:
    """Strands of patches of drawn hair, of the size of a few locks."""
    lightness, mask = drawn_hair(period, amplitude, slant)
    detail, inside = strand_detail(lightness, mask)
    y, x = np.mgrid[: mask.shape[0], : mask.shape[1]]
    numbers = np.where(mask, 1 + (y // 120) * 6 + x // 100, 0)
    turn = np.zeros(mask.shape, np.float32)
    tensor = structure_tensor_field(detail, inside)
    found = read_strands(tensor, detail, inside > 0, numbers.astype(np.int32), turn, LOCK)
    return [one for n, one in found.items() if ((numbers == n) & (inside > 0)).sum() > 2500]


@pytest.mark.parametrize(("period", "amplitude", "slant"), DRAWN)
def test_a_drawn_curl_is_read(period: float, amplitude: float, slant: float) -> None:
    """Period within 30 % where one is read, which it mostly is; amplitude within 35 % on the whole."""
    patches = read(period, amplitude, slant)
    curling = [one for one in patches if one.period]
    assert len(curling) >= 0.65 * len(patches)
    near = [one for one in curling if abs(one.period - period) <= 0.3 * period]
    assert len(near) >= 0.8 * len(curling)
    assert np.median([one.amplitude for one in near]) == pytest.approx(amplitude, rel=0.35)
    assert np.median([one.order for one in patches]) < 0.5


def test_straight_hair_has_no_curl_and_lies_alike() -> None:
    patches = read(30, 0)
    assert sum(bool(one.period) for one in patches) <= 0.15 * len(patches)
    assert np.median([one.order for one in patches]) > 0.8
    assert np.median([one.disorder for one in patches]) < 0.5 * np.median([o.disorder for o in read(30, 6)])


def test_the_type_of_a_lock_is_how_its_strands_run() -> None:
    def usual(patches: list[Strands]) -> set[str | None]:
        types = [lock_type(one, False) for one in patches]
        return {t for t in types if types.count(t) > 0.2 * len(types)}

    assert usual(read(30, 0)) == {"straight"}
    assert usual(read(30, 6)) == {"coily"}
    assert lock_type(Strands(0.2, 0.2, 5.0, 0.1), False) == "frizz", (
        "no strand is plain, though it is light enough"
    )
    combed = Strands(0.9, 0.6, 3.0, 0.1)
    assert lock_type(combed, True) == "short"
    assert lock_type(replace(combed, turn=0.5), False) == "wavy"
    assert lock_type(replace(combed, period=9.0), False) == "wavy"
    assert lock_type(replace(combed, order=0.2), True) == "coily"
    assert lock_type(Strands(0.2, 0.1, 0.5, 0.1), False) is None, "too dark to tell"
    assert lock_type(Strands(0.8, 0.1, 5.0, 0.1), False) is None


@pytest.mark.parametrize("slant", [80, 35, 10])
def test_the_way_of_curling_hair_is_that_of_its_locks_and_no_whorl(slant: float) -> None:
    lightness, mask = drawn_hair(30, 6, slant)
    field = solve_axes(lightness, np.where(mask, Kind.SCALP, 0).astype(np.uint8))
    # What the field follows of each curl cancels over a lock.
    z = blur_within(field.z * 1.0, field.mask[..., None] * np.ones(2, np.float32), 0.02 * SHAPE_OF_HAIR[0])
    angle = np.arctan2(z[..., 1], z[..., 0])[field.mask] / 2
    # Slant counts clockwise, angles anticlockwise.
    off = np.abs((angle + np.radians(slant) + np.pi / 2) % np.pi - np.pi / 2)
    assert np.degrees(np.median(off)) <= 15
    assert find_whorls(field) == ()


@settings(max_examples=40, deadline=None)
@given(st.floats(4, 30), st.floats(0.1, 4), st.floats(0, 6), st.floats(-0.01, 0.01))
def test_a_curl_swings_about_its_way(period: float, amplitude: float, phase: float, bend: float) -> None:
    x = np.linspace(0, 120, 40)
    way = np.column_stack([x, bend * x**2])
    drawn = curled(way, period, amplitude, phase)
    assert drawn[0] == pytest.approx(way[0])
    off = drawn[:, 1] - np.interp(drawn[:, 0], way[:, 0], way[:, 1]) if abs(bend) < 1e-3 else None
    if off is not None:
        assert np.abs(off).max() == pytest.approx(amplitude, rel=0.15, abs=0.05)
        crossings = np.count_nonzero(np.diff(np.sign(off[1:])))
        assert crossings == pytest.approx(2 * 120 / period, abs=3)
    assert curled(way, 0, amplitude) is way


def test_what_curls_is_straightened_by_its_mean() -> None:
    way = np.column_stack([np.linspace(0, 100, 30), np.linspace(0, 40, 30)])
    back = uncurled(curled(way, 12, 2.5), 12)
    off = (back - way[0]) @ np.array((-0.371, 0.928))
    assert np.abs(off).max() < 0.9
    assert back[0] == pytest.approx(way[0])


def curling(period: float = 6.0, amplitude: float = 1.2) -> StrokeGround:
    full = np.ones(SHAPE, np.float32)
    return replace(flowing(0.2), curl_period=period * full, curl_amplitude=amplitude * full)


def swing(line: Line) -> float:
    """How often a line turns from one side to the other for its length in mm: its curls to a mm."""
    points = line.points * size_mm()
    steps = np.diff(points, axis=0)
    heading = np.unwrap(np.arctan2(steps[:, 1], steps[:, 0]))
    level = heading - np.polyval(np.polyfit(np.arange(len(heading)), heading, 1), np.arange(len(heading)))
    chord = np.hypot(*(points[-1] - points[0]))
    return np.count_nonzero(np.diff(np.sign(level))) / 2 / max(chord, 1e-6)


@pytest.mark.parametrize("type_", [COILY, WAVY], ids=lambda t: t.name)
def test_strokes_curl_as_their_lock_was_read(type_: StrokeType) -> None:
    lines = lay_strokes(curling(), oval(), Wish(type_, 0.6, 0.35, 3))
    long = [line for line in lines if np.hypot(*((line.points[-1] - line.points[0]) * size_mm())) > 14]
    if type_ is WAVY:
        assert np.median([swing(line) for line in long]) == pytest.approx(1 / 6.0, rel=0.3)
    plain = lay_strokes(flowing(0.2), oval(), Wish(type_, 0.6, 0.35, 3))
    assert np.mean([len(line.points) for line in lines]) > np.mean([len(line.points) for line in plain])
    strays, loose = (lay_strays(g, oval(), oval(), 1.0, 2, type_) for g in (curling(), flowing(0.2)))
    assert np.mean([len(line.points) for line in strays]) > np.mean([len(line.points) for line in loose])


@pytest.mark.parametrize("type_", [COILY, WAVY], ids=lambda t: t.name)
def test_own_curls_pass_as_what_they_were_asked_to_be(type_: StrokeType) -> None:
    ground = curling()
    lines = lay_strokes(ground, oval(), Wish(type_, 0.6, 0.35, 1))
    asked = [Practised(tuple((float(x), float(y)) for x, y in n.points), type_, n.widths_mm) for n in lines]
    report = check_strokes(asked, ground)
    assert report.strokes > 20
    assert report.right >= 0.9 * report.strokes
    # Where no curl was read the same strokes swing off the hair.
    assert check_strokes(asked, flowing(0.2)).right < 0.75 * report.strokes


def test_curls_side_by_side_swing_together() -> None:
    full = np.ones(SHAPE, np.float32)
    ground = replace(flowing(0.0, -np.pi / 2), curl_period=8 * full, curl_amplitude=1.5 * full)
    lines = lay_strokes(ground, oval(), Wish(WAVY, 0.6, 0.3, 2))
    phases = []
    for line in lines:
        x, y = (line.points * size_mm()).T
        late = slice(len(x) // 4, None)
        turn = np.exp(2j * np.pi * y[late] / 8)
        phases.append(np.angle(((x[late] - x[late].mean()) * turn).sum()))
    assert len(phases) > 20
    assert abs(np.exp(1j * np.array(phases)).mean()) > 0.8


def test_the_way_of_a_lock_is_without_its_curls() -> None:
    y, _ = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]].astype(float)
    angle = -np.pi / 2 + 0.8 * np.sin(2 * np.pi * y / 16)
    directed = np.dstack([np.cos(angle), np.sin(angle)]).astype(np.float32)
    curls = np.zeros(SHAPE, bool)
    curls[:, :120] = True
    found = lock_way(directed, curls, 0.4 * 16)
    inner = found[40:-40, 30:90]
    assert np.degrees(np.abs(np.arctan2(inner[..., 0], -inner[..., 1]))).max() < 15
    assert np.hypot(inner[..., 0], inner[..., 1]) == pytest.approx(1, abs=1e-4)
    np.testing.assert_array_equal(found[:, 120:], directed[:, 120:])


def test_growth_lines_are_drawn_curled_where_locks_are(monkeypatch: pytest.MonkeyPatch) -> None:
    hair = study_of("maren").hair
    plain = hair.map().lines
    assert hair.drawn_lines() == plain
    curls = {lock.number: Strands(0.3, 0.6, 4.0, 0.1, 20.0, 4.0) for lock in hair.locks().locks}
    monkeypatch.setattr(hair, "strands", lambda: curls)
    drawn = hair.drawn_lines()
    longest = max(range(len(plain)), key=lambda n: len(plain[n].points))
    assert len(drawn[longest].points) > len(plain[longest].points)
    height, width = hair.shape()
    off = (drawn[longest].points - drawn[longest].points.mean(axis=0)) * (width, height)
    assert drawn[longest].points[0] == pytest.approx(plain[longest].points[0], abs=1e-6)
    assert np.abs(np.diff(np.arctan2(*np.diff(off, axis=0).T))).max() > 0.3
    assert [one.kind for one in drawn] == [one.kind for one in plain]


def test_a_line_fades_out_of_a_curl_without_endless_ones(monkeypatch: pytest.MonkeyPatch) -> None:
    """Half of the locks curl: where a line leaves them its curls get longer, not ever finer."""
    hair = study_of("maren").hair
    plain, locks = hair.map().lines, hair.locks().locks
    curls = {one.number: Strands(0.3, 0.6, 4.0, 0.1, 20.0, 4.0) for one in locks if one.number % 2}
    monkeypatch.setattr(hair, "strands", lambda: curls)
    height, width = hair.shape()
    for line, drawn in zip(plain, hair.drawn_lines(), strict=True):
        length = float(np.hypot(*np.diff(line.points * (width, height), axis=0).T).sum())
        assert len(drawn.points) <= max(len(line.points), 8 * length / 20 + 16) * 3


@given(arrays(np.float64, st.integers(1, 12), elements=st.just(0.0) | st.floats(0.5, 60)), st.integers(1, 60))
def test_periods_between_two_lie_between_them_or_are_longer(read: np.ndarray, count: int) -> None:
    found = resampled_periods(read, count)
    assert found.shape == (count,)
    curls = found[found > 0]
    if (read > 0).any():
        assert (curls >= read[read > 0].min() * (1 - 1e-9)).all()
    else:
        assert not len(curls)


def test_strokes_go_the_way_of_a_curling_lock(monkeypatch: pytest.MonkeyPatch) -> None:
    """They are laid on a field without the curls, which they are given themselves."""
    study = Study.of_bytes(small_photo("maren"), StudySettings(), Memo())
    locks = study.hair.locks()
    largest = max(locks.locks, key=lambda one: one.area).number
    monkeypatch.setattr(study.hair, "strands", lambda: {largest: Strands(0.3, 0.6, 4.0, 0.1, 40.0, 4.0)})
    ground, _ = study.hair_layers.ground()
    directed, _ = study.hair.directed()
    inside = locks.numbers == largest
    assert ground.curl_period is not None
    assert (ground.curl_period[inside] > 0).all()
    assert not ground.curl_period[~inside].any()
    assert np.abs(ground.directed - directed)[inside].max() > 0.05
    np.testing.assert_array_equal(ground.directed[~inside], directed[~inside])


@pytest.mark.parametrize("type_", [COILY, WAVY], ids=lambda t: t.name)
def test_curls_that_a_hand_must_pull_from_the_tip_pass_too(type_: StrokeType) -> None:
    ground = replace(curling(), directed=flowing(swing=0.1, slant=2.2).directed)
    lines = lay_strokes(ground, oval(), Wish(type_, 0.6, 0.35, 1))
    pulled = [Practised(tuple((float(x), float(y)) for x, y in n.points[::-1]), type_) for n in lines]
    assert len(pulled) > 20
    assert check_strokes(pulled, ground, "right").right >= 0.9 * len(pulled)


def test_frizz_lies_mostly_at_the_rim() -> None:
    mask = oval()
    ground = replace(flowing(0.1), directed=flowing(0.1).directed * mask[..., None])

    def outer(type_: StrokeType) -> float:
        lines = lay_strokes(ground, mask, Wish(type_, 0.4, 0.15, 5))
        middles = np.array([line.points[len(line.points) // 2] for line in lines]) * SHAPE[::-1]
        u = (middles - (120, 150)) / (90 - 8, 120 - 8)
        return float((np.hypot(*u.T) > 1).mean())

    assert outer(FRIZZ) > 2 * outer(SHORT)
    assert outer(FRIZZ) > 0.5


def test_a_map_parts_a_place_by_type() -> None:
    numbers = np.array([[0, 1, 1], [2, 2, 0]], np.uint8)
    where = StrokeMap(numbers, (STRAIGHT, COILY))
    assert where.at(0, 0) is None
    assert where.at(1, 1) is COILY
    parts = list(where.parts(np.array([[1, 1, 1], [0, 0, 1]], bool)))
    assert [type_ for type_, _ in parts] == [STRAIGHT]
    assert parts[0][1].sum() == 2
