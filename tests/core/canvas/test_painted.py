"""The canvas with borders as soft as they are painted, and paint taken off it again."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.canvas.painted import Painting, carried_on, paint, reached
from truesitter.core.canvas.painted_borders import Borders, cover, even_borders, measure_borders
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.canvas.tuning import FLOOR_PX, LEVELS, WIDEST_SIDE_MM
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import srgb_to_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.paint.media.supports import PRIMED_CANVAS
from truesitter.core.paint.optics.kubelka_munk import (
    enter_surface,
    film_reflectance,
    leave_surface,
    opaque_reflectance,
)
from truesitter.core.paint.tubes.rack import LIBRARY

SIZE = (60, 80)
WHITE, UMBER, BLACK = {"titanium-white": 1}, {"burnt-umber": 1}, {"ivory-black": 1}


def split(column: int = 40) -> Patchwork:
    left = np.zeros(SIZE, bool)
    left[:, :column] = True
    return Patchwork.of(SIZE, left)


HALVES = split()
RIGHT, LEFT = np.array([True, False]), np.array([False, True])


def step(dark: float, light: float, column: int = 40, mm_per_px: float = 0.5) -> Borders:
    """Borders of a picture of one edge whose sides are half-Gaussians of so many mm."""
    from scipy.special import ndtr

    x = (np.arange(SIZE[1]) + 0.5 - column) * mm_per_px
    share = dark / (dark + light)
    way = np.where(x < 0, 2 * share * ndtr(x / dark), 1 - 2 * (1 - share) * (1 - ndtr(x / light)))
    value = np.broadcast_to(2 + 6 * way, SIZE).astype(np.float32)
    return measure_borders(split(column), value, mm_per_px)


def full(borders: Borders, pieces: np.ndarray, later: np.ndarray | None = None) -> np.ndarray:
    rows, columns, levels = cover(borders, pieces, later)
    out = np.zeros(SIZE, np.uint8)
    out[rows, columns] = levels
    return out


@pytest.mark.parametrize(("dark", "light"), [(1.0, 1.0), (1.0, 3.0), (3.0, 1.0)])
def test_a_border_is_painted_as_wide_as_it_is_seen_on_both_sides(dark: float, light: float) -> None:
    """10–50 % of a half-Gaussian is 1.2816 σ: there a straight ramp has come to a tenth of the way."""
    found = full(step(dark, light), LEFT)[30] / LEVELS
    at = np.arange(SIZE[1]) + 0.5
    tenth, most = (float(np.interp(-share, -found, at)) for share in (0.1, 0.9))
    assert 40 - most == pytest.approx(1.2816 * dark / 0.5, abs=0.6)
    assert tenth - 40 == pytest.approx(1.2816 * light / 0.5, abs=0.6)
    assert np.interp(-0.5, -found, at) == pytest.approx(40, abs=0.51)
    np.testing.assert_allclose(full(step(dark, light), RIGHT)[30], LEVELS - found * LEVELS, atol=1)


def test_no_border_is_sharper_than_a_brush_leaves_it_nor_softer_than_it_reaches() -> None:
    hard, soft = step(0.01, 0.01), step(30, 30)
    assert (hard.sides_px == 0.5).all()
    fine = measure_borders(split(), np.full(SIZE, 5, np.float32), 0.001)
    assert fine.sides_px.max() <= 25, "a piece is never softened past its middle"
    assert (soft.sides_px * 0.5 * 0.8 <= WIDEST_SIDE_MM + 1e-5).all()
    same = measure_borders(split(), np.full(SIZE, 5, np.float32), 0.5)
    assert np.median(same.sides_px) * 0.5 * 0.8 > 3, "an edge nobody sees is lost"


def test_a_narrow_shape_is_no_softer_than_half_its_width_on_either_side() -> None:
    stripe = np.zeros(SIZE, np.uint8)
    stripe[:, 36:44] = 1
    stripe[:, 44:] = 2
    found = measure_borders(Patchwork.of(SIZE, stripe), np.full(SIZE, 5, np.float32), 0.5)
    assert found.sides_px.max() <= 4.5


def test_paint_runs_under_what_is_laid_later_by_half_the_border() -> None:
    borders = step(2.0, 2.0)
    alone, under = full(borders, LEFT)[30], full(borders, LEFT, RIGHT)[30]
    assert (under[:40] == LEVELS).all()
    half = float(np.interp(-LEVELS / 2, -under.astype(float), np.arange(SIZE[1]) + 0.5))
    assert half == pytest.approx(40 + 2 * borders.sides_px.max(), abs=0.3)
    assert alone[38] < LEVELS
    two = [Painting((Layer(p, parts, None),)) for p, parts in ((LEFT, WHITE), (RIGHT, BLACK))]
    black_first = paint(borders, [Painting((Layer(RIGHT | LEFT, BLACK, None),)), *two]).picture(3)
    white_first = paint(borders, [Painting((Layer(RIGHT | LEFT, WHITE, None),)), *two]).picture(3)
    np.testing.assert_allclose(black_first.astype(int), white_first.astype(int), atol=6)


def one_film(layer: Layer, below: np.ndarray, part: np.ndarray) -> np.ndarray:
    """A layer over spectra (…, 31), covering a part (…, 1) of each place."""
    k, s = LIBRARY.mixture(layer.parts)
    if layer.film_mm is None:
        over = np.broadcast_to(opaque_reflectance(k / s), below.shape)
    else:
        over = film_reflectance(k, s, layer.film_mm * part if layer.fades else layer.film_mm, below)
    if layer.fades:
        return over
    return enter_surface(part * leave_surface(over) + (1 - part) * leave_surface(below))


def by_pixel(borders: Borders, passes: list[Painting]) -> np.ndarray:
    """31 bands at every pixel, coverage not rounded, no stacks: (h, w, 3) L*a*b*."""
    picture = np.broadcast_to(PRIMED_CANVAS.internal(), (*SIZE, 31)).copy()
    every = np.arange(SIZE[1]) + 0.5 - 40
    laid = [operation for one in passes for operation in one.operations if isinstance(operation, Layer)]
    for number, layer in enumerate(laid):
        later = any(not other.fades and (other.pieces & ~layer.pieces).any() for other in laid[number + 1 :])
        sides = borders.sides_px.max(axis=0)
        signed = -every if layer.pieces[1] else every
        if layer.pieces.all():
            part = np.ones(SIZE[1])
        else:
            inner, outer = sides if layer.pieces[1] == (borders.pieces[0, 0] == 1) else sides[::-1]
            part = np.where(signed > 0, signed / inner, signed / outer)
            part = np.clip((part + (2 if later and not layer.fades else 0) + 1) / 2, 0, 1)
        part = np.broadcast_to(part[None, :, None], picture.shape)
        picture = one_film(layer, picture, part)
    return reflectance_to_lab(leave_surface(picture))


LAYERS = st.lists(
    st.tuples(
        st.sampled_from([LEFT, RIGHT, LEFT | RIGHT]),
        st.sampled_from([WHITE, UMBER, {"titanium-white": 3, "light-red": 2}, {"ultramarine-blue": 1}]),
        st.sampled_from([None, 0.1, 0.02, 0.004]),
        st.booleans(),
    ),
    min_size=1,
    max_size=8,
)


@settings(max_examples=25)
@given(LAYERS, st.sampled_from([(0.5, 0.5), (1.5, 1.5), (1.0, 3.0)]))
def test_the_canvas_equals_31_bands_laid_pixel_by_pixel(
    drawn: list[tuple[np.ndarray, dict[str, int], float | None, bool]], sides: tuple[float, float]
) -> None:
    """A quarter of these pixels is border, down to black; a whole sitter is below."""
    borders = step(*sides)
    passes = [
        Painting((Layer(pieces, parts, film, fades and film in (0.02, 0.004)),))
        for pieces, parts, film, fades in drawn
    ]
    found = paint(borders, passes)
    shown = found.labs[found.stacks(len(passes))].astype(float)
    away = delta_e_2000(shown, by_pixel(borders, passes))
    assert away.mean() <= 0.15
    assert np.quantile(away, 0.99) <= 3


@pytest.mark.parametrize("name", ["maren", "ines"])
def test_a_sitters_canvas_equals_31_bands_at_every_pixel(name: str) -> None:
    """Every 37th pixel, coverage not rounded, nothing merged: mean ΔE2000 ≤ 0.1, 99th percentile ≤ 1."""
    study = study_of(name)
    plan, borders, painted = study.passes.plan(), study.passes.borders(), study.passes.painted()
    at = np.arange(0, borders.patchwork.labels.size, 37)
    passes = tuple(Painting(p.operations, p.into_wet) for p in plan.passes)
    operations = [operation for one in passes for operation in one.operations]
    picture = np.broadcast_to(plan.support.internal(), (len(at), 31)).copy()
    for operation, later in zip(operations, carried_on(passes), strict=True):
        assert isinstance(operation, Layer)
        where, levels = reached(borders, operation, later)
        part = np.zeros(borders.patchwork.labels.size)
        part[where] = levels / LEVELS
        picture = one_film(operation, picture, part[at][:, None])
    shown = painted.labs[painted.stacks(len(passes)).ravel()[at]].astype(float)
    away = delta_e_2000(shown, reflectance_to_lab(leave_surface(picture)))
    assert away.mean() <= 0.1
    assert np.quantile(away, 0.99) <= 1


def test_where_no_border_is_near_the_canvas_is_the_planned_one() -> None:
    study = study_of("maren")
    plan, painted = study.passes.plan(), study.passes.painted()
    last = len(plan.passes)
    assert painted.picture(0).std() == 0
    hard, soft = plan.canvases[-1].picture().astype(int), painted.picture(last).astype(int)
    same = np.abs(hard - soft).max(axis=2) <= 3
    assert same.mean() > 0.6
    for number in range(1, last + 1):
        before, after = painted.stacks(number - 1), painted.stacks(number)
        where = painted.changes[number - 1].where
        outside = np.ones(before.size, bool)
        outside[where] = False
        np.testing.assert_array_equal(before.ravel()[outside], after.ravel()[outside])


def test_opaque_paint_mixes_across_a_border_by_area_in_every_band() -> None:
    """And a wash thins out instead: the two differ (coverage against film, by ΔE 2 and more half way)."""
    borders = step(3.0, 3.0)
    ground = Painting((Layer(LEFT | RIGHT, WHITE, None),))
    pictures = [
        paint(borders, [ground, Painting((Layer(LEFT, {"quinacridone-rose": 1}, 0.03, fades),))]).picture(2)
        for fades in (False, True)
    ]
    labs = [srgb_to_lab(p[30] / 255) for p in pictures]
    np.testing.assert_allclose(labs[0][:20], labs[1][:20], atol=1)
    assert delta_e_2000(labs[0][39], labs[1][39]) > 2
    for lab in labs:
        assert (np.diff(lab[20:60, 0]) >= -0.3).all(), "lightness climbs from the paint to the white"


def test_only_what_lies_wet_on_some_pieces_can_be_moved_there() -> None:
    wet = Canvas.bare(HALVES).do(Layer(LEFT, UMBER, 0.02))
    assert wet.open_on(LEFT)
    assert not wet.open_on(RIGHT)
    assert not wet.dried().open_on(LEFT)
    assert not Canvas.bare(HALVES).open_on(LEFT)


def test_borders_of_one_width_reach_half_of_it_to_either_side() -> None:
    found = even_borders(HALVES, 6.0, 0.5)
    assert found.sides_px == pytest.approx(np.full(found.sides_px.shape, 6.0))
    assert even_borders(HALVES, 0.0, 0.5).sides_px.max() == FLOOR_PX
