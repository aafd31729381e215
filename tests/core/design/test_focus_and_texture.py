"""Focus, finish, texture: sharp where it is looked at, marks only on skin that has them, in no pattern."""

from __future__ import annotations

import xml.etree.ElementTree as ET

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.spatial import cKDTree

from tests.core.school.test_schools import planned
from truesitter.core.colour.spaces import picture_to_lab
from truesitter.core.design.focus import (
    Finish,
    FocusMark,
    finish_for,
    finished_picture,
    focus_weight,
    small_contrast,
    words_for,
)
from truesitter.core.design.texture import lay_texture
from truesitter.core.design.tuning import (
    FOCUS_LEAST,
    LIGHT_AT,
    PORE_MM,
    REACH,
    SHARPEST_MM,
    SIZES,
    SOFTEST_MM,
    TEXTURE_LEAST,
)
from truesitter.core.sitter.region_names import Region
from truesitter.formats.print.stencil import stencil_svg

NEAR = FocusMark(0.5, 0.5, "near")


@settings(max_examples=40, deadline=None)
@given(st.floats(0, 1), st.floats(0, 1), st.sampled_from(["near", "middle", "far"]))
def test_weight_falls_from_the_focus_and_never_to_nothing(x: float, y: float, depth: str) -> None:
    weight = focus_weight((60, 80), (FocusMark(x, y, depth),), 20.0)  # type: ignore[arg-type]
    assert weight.min() >= FOCUS_LEAST - 1e-6
    assert weight.max() <= 1
    rows, columns = np.indices(weight.shape)
    away = np.hypot(rows - y * 60, columns - x * 80)
    order = np.argsort(away.ravel())
    assert (np.diff(weight.ravel()[order]) <= 1e-5).all()


def test_weight_is_half_way_at_the_reach() -> None:
    weight = focus_weight((201, 201), (FocusMark(100 / 201, 100 / 201, "near"),), 50.0)
    assert weight[100, 100] == pytest.approx(1, abs=0.01)
    assert weight[100, 100 + round(REACH * 50)] == pytest.approx(
        FOCUS_LEAST + (1 - FOCUS_LEAST) / 2, abs=0.02
    )


def test_a_far_mark_quiets_what_lies_round_it() -> None:
    alone = focus_weight((100, 100), (FocusMark(0.2, 0.5, "near"),), 60.0)
    both = focus_weight((100, 100), (FocusMark(0.2, 0.5, "near"), FocusMark(0.8, 0.5, "far")), 60.0)
    assert both[50, 80] < alone[50, 80] - 0.1
    assert both[50, 20] == pytest.approx(alone[50, 20], abs=0.05)


def test_edges_may_be_sharp_at_the_focus_and_soft_away_from_it() -> None:
    value = np.random.default_rng(1).uniform(2, 8, (120, 120)).astype(np.float32)
    regions = np.full(value.shape, Region.SKIN, np.uint8)
    shadow = np.zeros(value.shape, bool)
    shadow[:, :60] = True
    found = finish_for(value, regions, (NEAR,), 30.0, shadow)
    assert found.edge_mm[60, 60] == pytest.approx(SHARPEST_MM, abs=0.1)
    assert found.edge_mm.max() <= SOFTEST_MM
    assert found.edge_mm[0, 0] > 4
    assert (found.allowed <= found.small + 1e-6).all()
    lit, dim = found.allowed / found.small, found.weight
    np.testing.assert_allclose(lit[60, 70], dim[60, 70], rtol=1e-4)
    np.testing.assert_allclose(lit[60, 50], 0.5 * dim[60, 50], rtol=1e-4)


def test_pale_hair_keeps_its_marks_in_the_shadow_side() -> None:
    """Common practice: by material, unlike in skin."""
    rng = np.random.default_rng(2)
    regions = np.full((100, 100), Region.HAIR, np.uint8)
    shadow = np.zeros((100, 100), bool)
    shadow[:, :50] = True
    pale = finish_for(
        rng.uniform(6, 8, (100, 100)).astype(np.float32),
        regions,
        (FocusMark(0.5, 0.5, "middle"),),
        200.0,
        shadow,
    )
    dark = finish_for(
        rng.uniform(1, 3, (100, 100)).astype(np.float32),
        regions,
        (FocusMark(0.5, 0.5, "middle"),),
        200.0,
        shadow,
    )
    share = [f.allowed / f.small / f.weight for f in (pale, dark)]
    assert share[0][50, 20] == pytest.approx(1.25, abs=0.01)
    assert share[1][50, 20] == pytest.approx(1, abs=0.01)


def test_small_contrast_is_what_squinting_takes_away() -> None:
    flat = np.full((500, 80), 5, np.float32)
    assert small_contrast(flat).max() < 1e-3
    checks = flat + np.where(np.indices(flat.shape).sum(axis=0) % 2, 0.5, -0.5).astype(np.float32)
    assert small_contrast(checks)[40, 40] == pytest.approx(0.5, abs=0.1)


def test_a_softened_edge_mixes_light_and_not_its_code() -> None:
    """Half black and half white light is L* 76 (CIE 15), as whoever squints at a chequer sees it."""
    lab = np.zeros((60, 200, 3), np.float32)
    lab[:, 100:, 0] = 100
    flat = np.zeros((60, 200), np.float32)
    finish = Finish(flat, flat, flat, flat + SOFTEST_MM)
    softened = finished_picture(lab, finish, 1.0)
    middle = (picture_to_lab(softened)[30, 99, 0] + picture_to_lab(softened)[30, 100, 0]) / 2
    assert middle == pytest.approx(76.1, abs=1.5)
    assert (softened[30, 40] == 0).all()
    assert (softened[30, 160] == 255).all()


def test_words_follow_the_weight() -> None:
    said = [words_for(w, 0.3, False) for w in (1.0, 0.6, 0.3, 0.15)]
    assert len(set(said)) == 4
    assert "shadow" in words_for(1.0, 0.3, True)
    assert "little to leave out" in words_for(1.0, 0.01, False)


@pytest.mark.parametrize("name", ["maren", "tobias", "selda"])
def test_the_eyes_are_the_focus_unless_another_is_set(name: str) -> None:
    study = planned(name, "skin-string")
    places = study.finish.places()
    by = {p.place: p for p in places}
    assert by["left eye socket"].weight > by["chin"].weight > by["garment"].weight
    assert by["garment"].edge_mm > by["left eye socket"].edge_mm
    picture = study.finish.picture()
    assert picture.shape[:2] == study.finish.finish().weight.shape


def rough(contrast: float) -> np.ndarray:
    """Skin with grain as large as pores: 0.4 mm a pixel, life size."""
    import cv2

    grain = np.random.default_rng(5).normal(0, 1, (500, 400)).astype(np.float32)
    grain = cv2.GaussianBlur(grain, (0, 0), 1.2)
    return (6 + grain / grain.std() * contrast).astype(np.float32)


SKIN = np.ones((500, 400), bool)


def test_smooth_skin_gets_no_marks_and_rough_skin_does() -> None:
    """Common practice."""
    smooth = lay_texture(rough(0.04), SKIN, SKIN, 0.4, 1.0, (1, 0), 1)
    coarse = lay_texture(rough(0.3), SKIN, SKIN, 0.4, 1.0, (1, 0), 1)
    assert smooth.darks == smooth.lights == ()
    assert smooth.contrast < TEXTURE_LEAST < coarse.contrast
    assert len(coarse.darks) > 200
    assert lay_texture(rough(0.3), SKIN, ~SKIN, 0.4, 1.0, (1, 0), 1).darks == (), "none in the shadow"
    assert planned("selda", "airbrush").finish.texture().darks == ()
    assert planned("tobias", "airbrush").finish.texture().darks


def test_marks_keep_to_the_part_of_a_skin_that_is_rough() -> None:
    value = rough(0.3)
    value[:, 280:] = rough(0.03)[:, 280:]
    marks = lay_texture(value, SKIN, SKIN, 0.4, 1.0, (1, 0), 1).darks
    across = np.array([m.points[:, 0].mean() for m in marks])
    assert len(marks) > 150
    assert (across > 320 / 400).mean() < 0.02


def test_marks_are_irregular_in_place_and_size() -> None:
    """Gaps vary by 0.3 to 0.6 of their mean, in three sizes, some of them short waves."""
    texture = lay_texture(rough(0.3), SKIN, SKIN, 0.4, 1.0, (1, 0), 1)
    middles = np.array([d.points.mean(axis=0) * (160, 200) for d in texture.darks])
    gaps = cKDTree(middles).query(middles, k=2)[0][:, 1]
    assert 0.3 <= gaps.std() / gaps.mean() <= 0.6
    sizes = {round(float(d.widths_mm.max()) / PORE_MM, 2) for d in texture.darks if len(d.points) == 2}
    assert sizes == set(SIZES)
    waves = sum(len(d.points) > 2 for d in texture.darks)
    assert 0.1 * len(middles) < waves < 0.35 * len(middles)
    again = lay_texture(rough(0.3), SKIN, SKIN, 0.4, 1.0, (1, 0), 1)
    np.testing.assert_array_equal(again.darks[7].points, texture.darks[7].points)


@pytest.mark.parametrize("light", [(1.0, 0.0), (-0.6, -0.8), (0.0, 2.0)])
def test_every_dark_has_its_light_on_the_lit_side(light: tuple[float, float]) -> None:
    """Common practice: 1 to 1.5 diameters away, or it looks like a spot."""
    texture = lay_texture(rough(0.3), SKIN, SKIN, 0.4, 1.0, light, 3)
    assert len(texture.lights) == len(texture.darks)
    towards = np.array(light) / np.hypot(*light)
    for dark, bright in zip(texture.darks, texture.lights, strict=True):
        step = (bright.points - dark.points).mean(axis=0) * (160, 200)
        size = float(dark.widths_mm.max())
        size = size if len(dark.points) == 2 else size / 0.6
        assert LIGHT_AT[0] - 1e-6 <= np.hypot(*step) / size <= LIGHT_AT[1] + 1e-6
        assert step @ towards == pytest.approx(np.hypot(*step), rel=1e-6)


def test_the_stencil_holds_every_mark_at_true_size() -> None:
    texture = lay_texture(rough(0.3), SKIN, SKIN, 0.4, 1.0, (1, 0), 1)
    root = ET.fromstring(stencil_svg(texture, (160.0, 200.0)))
    darks, lights = (next(g for g in root if g.get("id") == key) for key in ("darks", "lights"))
    assert (len(darks), len(lights)) == (len(texture.darks), len(texture.lights))
    assert root.get("width") == "160mm"
