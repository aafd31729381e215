"""Scribbles, places, light zones and hair on pictures made by hand."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import made_head, study_of, truth
from truesitter.core.hair.field.direction_field import solve_axes
from truesitter.core.hair.field.growth_lines import growth_lines
from truesitter.core.hair.field.guides import Guide, Handles
from truesitter.core.hair.field.hair_beliefs import Signs
from truesitter.core.hair.field.root_sense import orient
from truesitter.core.light.form.peaks import find_peaks
from truesitter.core.light.form.zones import grow_zones
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.face import UPPER_LIP_FIELD
from truesitter.core.sitter.landmarks import Detection, detect
from truesitter.core.sitter.places import place_of
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.first_guess import FirstGuess
from truesitter.core.sitter.segmentation.posterior import Looks
from truesitter.core.sitter.segmentation.region_borders import as_masses, refine_borders
from truesitter.core.sitter.segmentation.region_map import Scribble, rasterise, solve_regions
from truesitter.core.sitter.segmentation.tuning import BAND


def test_scribbles_win_where_they_are_drawn() -> None:
    picture, detection = made_head(), detect(made_head())
    person = np.zeros((60, 48), np.float32)
    person[12:50, 10:38] = 1
    detection = Detection(None, person)
    strokes = (
        Scribble(Region.SKIN, ((0.45, 0.5), (0.55, 0.6))),
        Scribble(Region.HAIR, ((0.42, 0.26), (0.58, 0.26))),
        Scribble(Region.BACKGROUND, ((0.05, 0.05), (0.95, 0.05))),
        Scribble(Region.LIPS, ((0.5, 0.66), (0.52, 0.66))),
    )
    regions = solve_regions(FirstGuess.of(Looks.of(picture), detection), picture.shape[:2], strokes)
    drawn = rasterise(strokes, picture.shape[:2])
    agree = regions.labels[drawn != 255] == drawn[drawn != 255]
    assert agree.mean() > 0.97
    lit_skin = regions.labels[int(0.5 * 600), int(0.45 * 480)]
    assert lit_skin == Region.SKIN
    assert sum(regions.shares().values()) == pytest.approx(1)


def test_a_later_scribble_wins_over_an_earlier_one() -> None:
    line = ((0.3, 0.5), (0.7, 0.5))
    drawn = rasterise((Scribble(Region.SKIN, line), Scribble(Region.HAIR, line)), (100, 100))
    assert set(np.unique(drawn)) == {int(Region.HAIR), 255}
    assert (rasterise((Scribble(Region.SKIN, ((0.5, 0.5),)),), (100, 100)) == Region.SKIN).any()


def test_places_are_named_as_the_painter_sees_them() -> None:
    face = study_of("maren").sitter.face
    assert face is not None
    landmarks = face.points
    nose, chin = landmarks[4], landmarks[152]
    assert place_of(nose[0], nose[1], face, 1.25) == "nose tip"
    assert place_of(landmarks[50][0], landmarks[50][1], face, 1.25) == "left cheekbone"
    assert place_of(chin[0], chin[1] + 0.08, face, 1.25) == "neck"
    jaw = landmarks[397]
    assert place_of(jaw[0] + 0.05, jaw[1], face, 1.25) == "neck"
    assert place_of(landmarks[454][0] + 0.05, landmarks[454][1], face, 1.25) == "right ear"
    assert study_of("tobias").sitter.place_at(0.744, 0.464) == "right ear"
    assert place_of(0.02, 0.02, face, 1.25) == "figure"
    assert place_of(0.5, 0.5, None, 1.25) == "middle of the figure"


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_light_keeps_to_skin_and_lips_and_never_enters_shadow(name: str) -> None:
    study = study_of(name)
    light, face = study.light.zones(), study.sitter.face
    assert face is not None
    assert len(light.peaks) >= 3
    assert [p.prominence for p in light.peaks] == sorted((p.prominence for p in light.peaks), reverse=True)
    lip = face.outline_mask(UPPER_LIP_FIELD, light.zones.shape, 0.9)
    if name == "maren":
        assert (light.zones[lip] > 0).mean() > 0.1, "no school keeps it dark"
    lit = light.zones > 0
    assert study.sitter.regions().mask(Region.SKIN, Region.LIPS)[lit].mean() > 0.98
    assert (study.picture.value()[lit] < study.light.shadow_value() - 0.7).mean() < 0.01


def test_lights_fall_on_the_lit_side_of_a_ball() -> None:
    y, x = np.mgrid[0:300, 0:300].astype(np.float32)
    u, v = (x - 150) / 110, (y - 150) / 110
    ball = u**2 + v**2 < 1
    z = np.sqrt(np.clip(1 - u**2 - v**2, 0, 1))
    value = np.where(ball, 2 + 6 * np.clip(-0.5 * u - 0.5 * v + 0.7 * z, 0, 1), 1).astype(np.float32)
    lit = ball & (value > 3)
    peaks = find_peaks(value, lit, None, 90)
    assert len(peaks) == 1
    assert abs(peaks[0].x - (150 - 110 * 0.5) / 300) < 0.04
    assert abs(peaks[0].y - (150 - 110 * 0.5) / 300) < 0.04
    zones = grow_zones(value, lit, peaks, 14)
    areas = [int((zones.zones == n).sum()) for n in (1, 2, 3, 4)]
    assert areas[0] < areas[1] < areas[2]
    # Zone 2 reaches twice as far, so zones 1 and 2 together cover about four times zone 1.
    assert 3.4 < (areas[0] + areas[1]) / areas[0] < 4.4
    assert not zones.zones[~lit].any()


def test_nothing_to_light_is_said_by_empty_results() -> None:
    value, none = np.full((80, 80), 5, np.float32), np.zeros((80, 80), bool)
    assert find_peaks(value, none, None, 20) == ()
    assert find_peaks(value, ~none, None, 20) == ()
    assert not grow_zones(value, none, (), 5).zones.any()


def upright_stripes() -> tuple[np.ndarray, np.ndarray]:
    x = np.tile(np.arange(300, dtype=np.float32), (300, 1))
    mask = np.zeros((300, 300), bool)
    mask[30:270, 30:270] = True
    return (50 + 30 * np.sin(x * 0.7)).astype(np.float32), mask


def test_a_guide_bends_the_field_near_it_and_leaves_the_rest() -> None:
    lightness, mask = upright_stripes()
    hair = mask.astype(np.uint8)
    free = solve_axes(lightness, hair)
    guide = Guide(((0.2, 0.3), (0.8, 0.3)), reach=0.06)
    bent = solve_axes(lightness, hair, Handles((guide,)))
    at, far = (90, 150), (250, 150)
    assert abs(np.degrees(free.angle[at])) > 80
    assert abs(np.degrees(bent.angle[at])) < 15
    assert abs(np.degrees(bent.angle[far])) > 75


def test_a_guide_sets_the_sense_from_root_to_tip() -> None:
    lightness, mask = upright_stripes()
    hair = mask.astype(np.uint8)
    signs = Signs(hair, np.zeros_like(mask))
    up = Handles((Guide(((0.5, 0.8), (0.5, 0.2))),))
    field = solve_axes(lightness, hair, up)
    assert orient(field, signs, up)[150, 150, 1] > 0.9
    assert orient(solve_axes(lightness, hair), signs)[150, 150, 1] < -0.9  # hair hangs


def test_growth_lines_keep_their_distance_and_follow_the_field() -> None:
    _, mask = upright_stripes()
    down = np.zeros((300, 300, 2), np.float32)
    down[..., 1] = -1
    lines = growth_lines(down, mask, spacing=20)
    assert 9 <= len(lines) <= 24
    for line in lines:
        assert (np.diff(line.points[:, 1]) > 0).all()
        assert np.ptp(line.points[:, 0]) < 1e-6
    columns = sorted({round(float(line.points[0, 0] * 300), 1) for line in lines})
    assert min(np.diff(columns)) >= 0.5 * 20
    with pytest.raises(Refusal, match="spacing"):
        growth_lines(down, mask, 0)


def test_no_hair_gives_no_lines() -> None:
    nothing = np.zeros((80, 80), np.uint8)
    field = solve_axes(np.full((80, 80), 40, np.float32), nothing)
    signs = Signs(nothing, nothing > 0)
    assert growth_lines(orient(field, signs), field.mask, 5) == ()


def test_hair_codes_are_those_of_the_plan_format() -> None:
    study = study_of("maren")
    codes = study.hair.map().field_codes(study.sitter.hair_mask())
    assert codes.dtype == np.uint16
    assert codes.shape == truth("maren").labels.shape
    assert (codes[~study.sitter.hair_mask()] == 0).all()
    assert codes.max() <= 36000
    hanging = codes[1300:1900, 200:450]
    degrees = (hanging[hanging > 0].astype(float) - 1) / 100
    assert 200 < np.median(degrees) < 340


def test_erasing_takes_earlier_strokes_away_and_only_those() -> None:
    line = ((0.2, 0.5), (0.8, 0.5))
    kept = rasterise(
        (Scribble(Region.HAIR, line, 0.1), Scribble(None, ((0.5, 0.2), (0.5, 0.8)), 0.1)), (100, 100)
    )
    assert kept[50, 30] == Region.HAIR
    assert kept[50, 50] == 255
    again = rasterise((Scribble(None, line, 0.1), Scribble(Region.SKIN, line, 0.1)), (100, 100))
    assert again[50, 50] == Region.SKIN


@given(st.integers(0, 2**32 - 1))
@settings(max_examples=20)
def test_borders_move_only_in_their_band_and_never_under_a_stroke(seed: int) -> None:
    """On any picture: what is far from a border, or kept, or background, stays as it is."""
    rng = np.random.default_rng(seed)
    coarse = rng.integers(0, 8, (5, 4)).astype(np.uint8)
    labels = np.asarray(cv2.resize(coarse, (160, 200), interpolation=cv2.INTER_NEAREST))
    lab = rng.uniform(0, 100, (200, 160, 3)).astype(np.float32)
    kept = rng.random(labels.shape) < 0.2
    out = refine_borders(labels, lab, kept)
    moved = out != labels
    assert not (moved & kept).any()
    assert not (moved & (labels == Region.BACKGROUND)).any()
    assert not ((out == Region.BACKGROUND) & moved).any()
    inner = np.stack(
        [cv2.distanceTransform((labels == r).astype(np.uint8), cv2.DIST_L2, 5) for r in range(8)]
    ).max(axis=0)
    assert not (moved & (inner > BAND * 200 + 4)).any()


def test_a_ragged_border_is_drawn_pixel_by_pixel() -> None:
    """Skin and hair of plainly different colour whose true border is a comb the regions cut straight."""
    true = np.full((400, 320), Region.SKIN, np.uint8)
    true[:200] = Region.HAIR
    for x in range(0, 320, 12):
        true[197:204, x : x + 6] = Region.HAIR if x % 24 else Region.SKIN
    colours = {Region.SKIN: (65, 18, 22), Region.HAIR: (30, 4, 8)}
    lab = np.zeros((*true.shape, 3), np.float32)
    for region, colour in colours.items():
        lab[true == region] = colour
    straight = np.where(np.arange(400)[:, None] < 200, Region.HAIR, Region.SKIN).astype(np.uint8)
    straight = np.broadcast_to(straight, true.shape).copy()
    out = refine_borders(straight, lab, np.zeros(true.shape, bool))
    assert (straight != true).sum() > 500
    assert (out != true).sum() < 0.05 * (straight != true).sum()


def test_outlines_go_round_masses_not_strands() -> None:
    draw = np.random.default_rng(5)
    plain = np.full((120, 100), Region.SKIN, np.uint8)
    plain[:, 50:] = Region.HAIR
    strands = plain.copy()
    strands[::4, 44:50] = Region.HAIR
    strands[draw.random(plain.shape) < 0.03] = Region.GARMENT
    found = as_masses(strands, 2.0)
    assert set(np.unique(found)) == {int(Region.SKIN), int(Region.HAIR)}
    assert (found[:, :43] == Region.SKIN).all()
    assert (found[:, 51:] == Region.HAIR).all()
    np.testing.assert_array_equal(as_masses(plain, 2.0), plain)
