"""Knot, shine, hairline, brows and moustache, practice, brush directions: on drawn hair of known make."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import jpeg, made_head, study_of
from truesitter.core.hair.checks.practice import check_strokes
from truesitter.core.hair.field.direction_field import AxisField
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.field.knot import find_knot
from truesitter.core.hair.locks.hair_shapes import (
    BROW_PAIR,
    MOUSTACHE_PAIR,
    light_forms,
    moustache_gap,
    pair_of,
    shape_of,
)  # fmt: skip
from truesitter.core.hair.locks.hair_shine import band_mask, expected_band, shine_of
from truesitter.core.hair.locks.hairline import passage_width, read_hairline
from truesitter.core.hair.locks.volumes import Volumes
from truesitter.core.hair.strokes.hair_strokes import StrokeGround
from truesitter.core.hair.strokes.stroke_types import SHORT, STRAIGHT
from truesitter.core.light.form.brush_direction import brush_directions
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study

SHAPE = (300, 240)
MM = 0.5


def grid() -> tuple[np.ndarray, np.ndarray]:
    y, x = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]].astype(float)
    return y, x


def along(angle: np.ndarray) -> np.ndarray:
    return np.dstack([np.cos(angle), np.sin(angle)]).astype(np.float32)


def field_of(angle: np.ndarray, kinds: np.ndarray) -> AxisField:
    z = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]).astype(np.float32)
    return AxisField(z, np.ones(SHAPE, np.float32), kinds)


# Knot


def head(knot: bool, coil: bool = True) -> tuple[AxisField, np.ndarray, np.ndarray]:
    """A head drawn up to a ball of hair on top, or without one; figure and face."""
    y, x = grid()
    skull = ((x - 120) / 60) ** 2 + ((y - 170) / 70) ** 2 < 1
    ball = np.hypot((x - 120) / 1.15, y - 85) < 28
    face = ((x - 120) / 45) ** 2 + ((y - 190) / 55) ** 2 < 1
    figure = skull | ball if knot else skull
    kinds = np.where(figure & ~face, Kind.SCALP, 0).astype(np.uint8)
    kinds[200:] = 0
    upward = np.arctan2(-(85 - y), 120 - x)
    angle = np.where(ball & (y < 102), 0.0 if coil else np.pi / 2, upward)
    return field_of(angle, kinds), figure | face, face


def test_hair_drawn_up_into_a_coil_is_a_knot() -> None:
    field, figure, face = head(True)
    knot = find_knot(field, figure, face)
    assert knot is not None
    assert knot.middle == pytest.approx((120, 85), abs=10)
    y, x = grid()
    ball = np.hypot((x - 120) / 1.15, y - 85) < 28
    assert (knot.mask & ball).sum() > 0.8 * knot.mask.sum()
    turned = AxisField(field.z[:, ::-1] * (1, -1), field.coherence, field.kinds[:, ::-1])
    assert find_knot(
        turned.__class__(turned.z.astype(np.float32), turned.coherence, turned.kinds), figure, face
    )


def test_a_round_head_and_a_bulge_that_strands_run_on_through_are_no_knots() -> None:
    assert find_knot(*head(False)) is None
    assert find_knot(*head(True, coil=False)) is None
    field, figure, face = head(True)
    assert find_knot(field, figure, np.ones(SHAPE, bool)) is None, "no knot over the face"
    none = AxisField(field.z, field.coherence, np.zeros(SHAPE, np.uint8))
    assert find_knot(none, figure, face) is None


def test_a_low_cap_of_hair_is_no_knot() -> None:
    """A coil that hardly stands out from the head: level strands on a flat bump."""
    y, x = grid()
    skull = ((x - 120) / 60) ** 2 + ((y - 170) / 70) ** 2 < 1
    bump = (np.abs(x - 120) < 30) & (y > 92) & (y < 110)
    face = ((x - 120) / 45) ** 2 + ((y - 190) / 55) ** 2 < 1
    kinds = np.where((skull | bump) & ~face, Kind.SCALP, 0).astype(np.uint8)
    kinds[200:] = 0
    angle = np.where(bump & (y < 104), 0.0, np.pi / 2)
    assert find_knot(field_of(angle, kinds), skull | bump | face, face) is None


# Shine


def test_the_band_of_light_lies_where_a_hair_mirrors_the_light() -> None:
    """Source: Kajiya & Kay (1989): lightest where the strand is at right angles to the middle between
    light and eye. Hair hanging over a round head under a high light is banded above its middle.
    """
    y, x = grid()
    round_head = ((x - 120) / 80) ** 2 + ((y - 150) / 100) ** 2 < 1
    down = along(np.full(SHAPE, -np.pi / 2))
    high = expected_band(down, round_head, (0.0, 0.7071, 0.7071))
    low = expected_band(down, round_head, (0.0, -0.7071, 0.7071))
    rows = [float((band.sum(axis=1) * np.arange(SHAPE[0])).sum() / band.sum()) for band in (high, low)]
    assert rows[0] < 140
    assert rows[1] > 160
    left = expected_band(along(np.zeros(SHAPE)), round_head, (-0.7071, 0.0, 0.7071))
    assert (left.sum(axis=0) * np.arange(SHAPE[1])).sum() / left.sum() < 110
    front = expected_band(down, round_head, (0.0, 0.0, 1.0))
    assert front[150, 120] > 2 * front[75, 120], "lightest where the strand lies across the light"
    assert not expected_band(down, np.zeros(SHAPE, bool), (0, 0, 1)).any()
    ring = band_mask(high, round_head)
    assert 0.03 < ring[round_head].mean() < 0.5
    assert not ring[~round_head].any()


def volumes_with(rise: float) -> tuple[Volumes, np.ndarray, np.ndarray]:
    """Hair of value 3 with a band that rises by so much; L*a*b* in which the band is bluer by 6."""
    y, _ = grid()
    band = np.exp(-(((y - 150) / 30) ** 2)).astype(np.float32)
    zero = np.zeros(SHAPE, np.float32)
    lab = np.dstack([30 + 10 * rise * band, zero + 5, 12 - 6 * band]).astype(np.float32)
    mask = np.ones(SHAPE, bool)
    return Volumes(zero + 3, rise * band, zero, mask), lab, band


@pytest.mark.parametrize(("rise", "word"), [(0.3, "matte"), (1.4, "satin"), (2.6, "glossy")])
def test_shine_is_told_by_its_range(rise: float, word: str) -> None:
    volumes, lab, band = volumes_with(rise)
    shine = shine_of(volumes, lab, volumes.mask, band)
    assert shine is not None
    assert shine.word == word
    assert shine.range_steps == pytest.approx(rise, rel=0.25)
    assert shine.agrees > 0.99
    assert f"{shine.range_steps:.1f}" in shine.advice or rise < 0.31


def test_cooler_lights_are_told_and_their_lightness_alone_is_not() -> None:
    volumes, lab, band = volumes_with(2.0)
    plain = lab.copy()
    plain[..., 2] = 0.3 * lab[..., 0]
    steady = shine_of(volumes, plain, volumes.mask, band)
    assert steady is not None
    assert steady.temperature == "as warm as the hair"
    blue = plain.copy()
    blue[..., 2] -= 8 * (band > 0.6)
    cool = shine_of(volumes, blue, volumes.mask, -band)
    assert cool is not None
    assert cool.temperature == "cooler than the hair"
    assert cool.agrees < -0.99
    assert shine_of(volumes, lab, np.zeros(SHAPE, bool), band) is None


# Hairline


@settings(max_examples=20)
@given(st.floats(1.0, 5.0), st.booleans())
def test_the_width_of_a_passage_is_its_ten_to_ninety(sigma: float, falls: bool) -> None:
    """Source: a step blurred by a Gaussian rises from 10 to 90 % over 2.563 σ."""
    from scipy.special import ndtr

    t = np.linspace(-15, 15, 121)
    profile = ndtr(t / sigma) * 4 + 2
    found = passage_width(profile[::-1] if falls else profile, 0.25)
    assert found == pytest.approx(2.563 * sigma, rel=0.03)


def forehead(blur: float, shadow: float = 0.0) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Hair of value 2 over skin of value 7 with a border at row 120; kinds, skin, value."""
    y, _ = grid()
    hair = (y < 120).astype(np.float32)
    value = 7 - 5 * cv2.GaussianBlur(hair, (0, 0), blur)
    value -= shadow * np.exp(-(((y - 126) / 5) ** 2)) * (y >= 120)
    kinds = np.where(y < 120, Kind.SCALP, 0).astype(np.uint8)
    return kinds, y >= 120, value.astype(np.float32)


@pytest.mark.parametrize("blur", [1.5, 4.0])
def test_the_hairline_is_read_softened_and_called_hard(blur: float) -> None:
    up = along(np.full(SHAPE, np.pi / 2))
    line = read_hairline(*forehead(blur), up, MM)
    assert len(line.spots) >= 8
    assert line.length_mm == pytest.approx(120, rel=0.1)
    widths = [s.width_mm for s in line.spots]
    assert np.median(widths) == pytest.approx(2.563 * blur * MM, rel=0.15)
    assert all(s.too_hard == (s.width_mm < 1.5) for s in line.spots)
    assert all(s.soften_mm + s.width_mm >= 3 - 1e-6 for s in line.spots), "softer than it is seen"
    wide = [s for s in line.spots if s.width_mm > 5]
    assert all(s.soften_mm == pytest.approx(0.6 * s.width_mm, rel=0.01) for s in wide)
    assert bool(wide) == (blur > 3)
    assert not line.has_shadow
    assert line.first_hairs == pytest.approx(0.6 * line.length_mm, rel=0.05)


def test_a_fringe_is_no_hairline() -> None:
    down = along(np.full(SHAPE, -np.pi / 2))
    assert read_hairline(*forehead(2.0), down, MM).spots == ()


def test_the_hairs_shadow_on_the_skin_is_seen() -> None:
    line = read_hairline(*forehead(1.0, shadow=1.5), along(np.full(SHAPE, np.pi / 2)), MM)
    assert line.has_shadow
    assert np.median([s.shadow for s in line.spots]) == pytest.approx(1.4, abs=0.3)


# Brows, moustache, beard


def brows(lift: float = 0.0, longer: float = 0.0) -> np.ndarray:
    """Two arched brows about column 120, 8 pixels high, the right one lifted and longer by so many pixels."""
    y, x = grid()
    kinds = np.zeros(SHAPE, np.uint8)
    for kind, side, up, more in ((Kind.LEFT_BROW, -1, 0.0, 0.0), (Kind.RIGHT_BROW, 1, lift, longer)):
        out = side * (x - 120)
        part = (out - 15) / (50 + more)
        middle = 120 - up - 10 * np.sin(np.clip(part, 0, 1) * np.pi)
        half = 4 * np.clip(1.3 - part, 0.3, 1)
        kinds[(part > 0) & (part < 1) & (np.abs(y - middle) < half)] = kind
    return kinds


def test_a_brow_is_measured() -> None:
    shape = shape_of(Kind.LEFT_BROW, brows(), np.array((120.0, 115.0)), MM)
    assert shape is not None
    assert shape.widths_mm.max() == pytest.approx(4, rel=0.2)
    assert shape.widths_mm[0] > 2 * shape.widths_mm[-1], "fuller at the nose than at the other end"
    assert shape.length_mm == pytest.approx(28, rel=0.2)
    assert shape.full_at <= 0.35
    assert len(shape.turns_at) == 1
    assert shape.turns_at[0] == pytest.approx(0.5, abs=0.11)
    assert 10 < shape.slope < 40
    assert shape_of(Kind.BEARD, brows(), np.array((120.0, 115.0)), MM) is None


def test_left_and_right_are_compared_in_the_heads_own_upright() -> None:
    middle, up = np.array((120.0, 115.0)), np.array((0.0, -1.0))
    alike = pair_of(BROW_PAIR, brows(), middle, up, MM)
    assert alike is not None
    assert alike.alike
    other = pair_of(BROW_PAIR, brows(8, 20), middle, up, MM)
    assert other is not None
    assert not other.alike
    assert other.height_mm == pytest.approx(4, abs=0.7)
    assert other.length_mm == pytest.approx(10, rel=0.3)
    # The whole head tilted: nothing has become uneven.
    turn = cv2.getRotationMatrix2D((120, 120), 10, 1)
    tilted = cv2.warpAffine(brows(), turn, SHAPE[::-1], flags=cv2.INTER_NEAREST)
    s, c = np.sin(np.radians(10)), np.cos(np.radians(10))
    same = pair_of(BROW_PAIR, tilted, np.array((120 - 5 * s, 120 - 5 * c)), np.array((-s, -c)), MM)
    assert same is not None
    assert abs(same.height_mm) < 1
    assert abs(same.slope) < 6
    assert pair_of(MOUSTACHE_PAIR, brows(), middle, up, MM) is None


def test_the_skin_between_moustache_and_beard_is_measured() -> None:
    kinds = np.zeros(SHAPE, np.uint8)
    kinds[140:150, 80:120], kinds[140:150, 120:160] = Kind.LEFT_MOUSTACHE, Kind.RIGHT_MOUSTACHE
    assert moustache_gap(kinds, MM) is None
    kinds[158:220, 70:170] = Kind.BEARD
    assert moustache_gap(kinds, MM) == pytest.approx(9 * MM, abs=0.6)


def test_light_forms_of_a_grey_beard_are_evenly_spread() -> None:
    y, x = grid()
    mask = ((x - 120) / 60) ** 2 + ((y - 180) / 80) ** 2 < 1
    value = (5 + np.random.default_rng(1).normal(0, 0.4, SHAPE) - (x > 125)).astype(np.float32)
    forms = light_forms(mask, value, 200)
    assert len(forms.places) > 20
    assert forms.evenness < 0.15
    at = (forms.places * SHAPE[::-1]).astype(int)
    assert mask[at[:, 1], at[:, 0]].all()
    near = forms.places[forms.near_shadow, 0].mean()
    assert near > forms.places[~forms.near_shadow, 0].mean(), "the second light goes towards the shadow"
    assert len(light_forms(np.zeros(SHAPE, bool), value, 200).places) == 0


# Practice


def hanging() -> StrokeGround:
    full = np.ones(SHAPE, np.float32)
    return StrokeGround(along(np.full(SHAPE, -np.pi / 2)), MM, 60 * full, 9 * full, 80.0)


Drawn = tuple[tuple[float, float], ...]


def stroke(x: float, top: float, length: float, bend: float = 0.0, free: float = 0.5) -> Drawn:
    """A stroke that hangs, then leaves by so many radians past a part of its length."""
    points, at, angle = [], np.array((x, top)), 0.0
    for n in range(21):
        points.append((float(at[0]), float(at[1])))
        angle = bend if n / 20 >= free else 0.0
        at = at + np.array((np.sin(angle) * SHAPE[0] / SHAPE[1], np.cos(angle))) * length / 20
    return tuple(points)


def staggered(**kind: float) -> tuple[Drawn, ...]:
    return tuple(stroke(0.3 + 0.05 * n, 0.2 + 0.08 * (n % 3), 0.4, **kind) for n in range(6))


def kinds_of_fault(*strokes: Drawn) -> list[str]:
    return [f.kind for f in check_strokes(strokes, hanging(), STRAIGHT).faults]


def test_right_strokes_pass() -> None:
    report = check_strokes(staggered(bend=0.3, free=0.6), hanging(), STRAIGHT)
    assert report.faults == ()
    assert (report.right, report.strokes) == (6, 6)


def test_every_fault_of_a_stroke_is_named() -> None:
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4, bend=0.5, free=0.0)) == ["root"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4)[::-1]) == ["root"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4, bend=0.7, free=0.2)) == ["leaves early"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4, bend=1.3, free=0.6)) == ["crosses"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.08)) == ["short"]
    assert kinds_of_fault(*(stroke(0.3 + 0.1 * n, 0.2, 0.4) for n in range(5))) == ["one line"]
    bald = StrokeGround(
        np.zeros((*SHAPE, 2), np.float32), MM, np.zeros(SHAPE, np.float32), np.zeros(SHAPE, np.float32), 80
    )
    assert [f.kind for f in check_strokes((stroke(0.5, 0.2, 0.4),), bald, SHORT).faults] == ["no hair"]


def test_short_strokes_are_right_for_short_hair() -> None:
    assert check_strokes((stroke(0.5, 0.2, 0.06),), hanging(), SHORT).faults == ()


def test_strokes_of_the_planner_pass_its_own_check() -> None:
    """Real hair: what the layers stroke is what the check calls right."""
    study = study_of("orsolya")
    layer = next(one for one in study.hair_layers.layers() if one.name == "Hair: locks")
    drawn = tuple(tuple((float(x), float(y)) for x, y in line.points) for line in layer.lines[:40])
    report = study.hair_layers.practised(drawn)
    wrong = [f for f in report.faults if f.kind in ("root", "no hair", "leaves early")]
    assert len(wrong) <= 4


# Brush


def test_the_brush_goes_round_a_cylinder_or_along_it() -> None:
    """An upright cylinder's normals turn level: round it is level, along its planes upright."""
    _, x = grid()
    u = np.clip((x - 120) / 90, -0.99, 0.99)
    normals = np.dstack([u, np.zeros(SHAPE), np.sqrt(1 - u**2)]).astype(np.float32)
    mask = np.abs(u) < 0.9
    round_it = brush_directions(normals, mask, 200)
    planes = brush_directions(normals, mask, 200, "across the planes")
    middle = (slice(60, 240), slice(80, 160))
    assert np.abs(round_it[middle][..., 0]).min() > 0.95
    assert np.abs(planes[middle][..., 1]).min() > 0.95
    assert not round_it[~mask].any()


def test_the_brush_follows_the_light_across_folds() -> None:
    """Folds that hang slantwise: round them is at right angles to their run."""
    y, x = grid()
    slant = np.radians(60)
    value = (5 + np.sin((x * np.sin(slant) + y * np.cos(slant)) / 9)).astype(np.float32)[..., None]
    found = brush_directions(value, np.ones(SHAPE, bool), 120)[80:220, 60:180]
    wanted = np.array((np.sin(slant), -np.cos(slant)))
    assert np.abs(found @ wanted).min() > 0.95
    assert np.allclose(np.hypot(found[..., 0], found[..., 1]), 1, atol=1e-5)


def test_arrows_of_a_sitter_are_told_by_region_and_are_short() -> None:
    arrows = study_of("maren").brush.arrows(False)
    assert {"skin", "garment", "background"} == set(arrows)
    assert all(len(lines) > 5 for lines in arrows.values())
    for line in arrows["skin"]:
        assert np.hypot(*((line.points[-1] - line.points[0]) * (320, 400))) < 35


@pytest.mark.parametrize("size", [(830, 1001), (1001, 830)])
def test_maps_reduced_twice_and_at_once_lie_on_one_another(size: tuple[int, int]) -> None:
    """By way of 1000 a side may come to a row more than at once: so for one picture in ten."""
    whole = {"reference": {"canvas_width_mm": size[0] / 2, "canvas_height_mm": size[1] / 2}}
    study = Study.of_bytes(jpeg(made_head(*size)), StudySettings.model_validate(whole))
    assert study.picture.framed().shape[1::-1] == size
    assert set(study.brush.arrows(False)) == {"skin", "garment", "background"}
    picture = study.drills.picture()
    assert picture.shadow.shape == picture.figure.shape == picture.lab.shape[:2]
