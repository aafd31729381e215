"""Knot, shine, hairline, brows and moustache, practice, brush directions: on drawn hair of known make."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from truesitter.core.hair.field.direction_field import AxisField
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.field.knot import find_knot
from truesitter.core.hair.locks.facial_hair import FacialHair
from truesitter.core.hair.locks.hair_edges import edges_of
from truesitter.core.hair.locks.hair_shapes import (
    BROW_PAIR,
    MOUSTACHE_PAIR,
    moustache_gap,
    pair_of,
    shape_of,
)  # fmt: skip
from truesitter.core.hair.locks.hair_shine import band_mask, expected_band, shine_of
from truesitter.core.hair.locks.hairline import passage_width, read_hairline
from truesitter.core.hair.locks.volumes import Volumes

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


def test_the_skin_in_the_shadow_of_the_hair_is_told() -> None:
    up = along(np.full(SHAPE, np.pi / 2))
    line = read_hairline(*forehead(1.5, shadow=1.0), up, MM)
    assert line.shaded
    kinds, skin, _ = forehead(1.5)
    for x, y in line.shaded:
        row, column = int(y * SHAPE[0]), int(x * SHAPE[1])
        assert skin[row, column]
        assert 120 < row < 120 + 9 / MM, "within the reach of the hair"
    assert kinds.any()
    assert not read_hairline(*forehead(1.5), up, MM).shaded


@pytest.mark.parametrize("turned", [False, True])
def test_both_edges_of_a_brow_are_read(turned: bool) -> None:
    """Soft above and firm below, or the other way round: blurs of known width (10–90 % = 2.563 sigma)."""
    y, x = grid()
    mask = (np.abs(y - 150) < 10) & (np.abs(x - 120) < 60)
    bar = (np.abs(y - 150) < 10).astype(np.float32) * (np.abs(x - 120) < 60)
    soft, firm = cv2.GaussianBlur(bar, (0, 0), 2.4), cv2.GaussianBlur(bar, (0, 0), 0.8)
    above = (y < 150) != turned
    edges = edges_of(mask, (7 - 4 * np.where(above, soft, firm)).astype(np.float32), MM)
    assert edges is not None
    wide, narrow = (edges.lower_mm, edges.upper_mm) if turned else (edges.upper_mm, edges.lower_mm)
    assert wide == pytest.approx(2.563 * 2.4 * MM, rel=0.2)
    assert narrow == pytest.approx(2.563 * 0.8 * MM, rel=0.35)
    assert edges.firm_above == turned
    flat = edges_of(mask, np.full(SHAPE, 5, np.float32), MM)
    assert flat is not None
    assert (flat.upper_mm, flat.lower_mm, flat.firm_above) == (None, None, False)
    assert edges_of(np.zeros(SHAPE, bool), np.full(SHAPE, 5, np.float32), MM) is None


def test_a_fringe_is_no_hairline() -> None:
    down = along(np.full(SHAPE, -np.pi / 2))
    assert read_hairline(*forehead(2.0), down, MM).spots == ()


def test_the_hairs_shadow_on_the_skin_is_seen() -> None:
    line = read_hairline(*forehead(1.0, shadow=1.5), along(np.full(SHAPE, np.pi / 2)), MM)
    assert line.has_shadow
    assert np.median([s.shadow for s in line.spots]) == pytest.approx(1.4, abs=0.3)


# Brows, moustache, beard


@pytest.mark.parametrize(("blur", "steps", "apart"), [(1.5, 5.0, True), (8.0, 5.0, False), (1.5, 1.0, False)])
def test_a_beard_of_the_skin_is_told_from_one_that_stands_apart(
    blur: float, steps: float, apart: bool
) -> None:
    """Soft passages and little contrast belong to the skin, both at once stand apart (common practice)."""
    kinds, skin, value = forehead(blur)
    kinds = np.where(kinds, Kind.BEARD, 0).astype(np.uint8)
    value = 7 - (7 - value) * (steps / 5)
    up = along(np.full(SHAPE, np.pi / 2))
    line = read_hairline(kinds, skin, value, up, MM, (Kind.BEARD,))
    assert line.spots
    assert np.median([s.contrast for s in line.spots]) == pytest.approx(steps, rel=0.1)
    assert FacialHair(cheek_line=line).beard_apart == apart
    assert FacialHair(cheek_line=read_hairline(kinds, skin, value, up, MM)).beard_apart is None


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
