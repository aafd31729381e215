"""What a stroke reaches, whose word is taken, and what is left of wrong guesses."""

from __future__ import annotations

import warnings

import cv2
import numpy as np
import pytest
from skimage.graph import MCP

from tests.conftest import jpeg, made_head, study_of
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.face import BROWS, OVAL, Face
from truesitter.core.sitter.landmarks import Detection, share_on_sitter
from truesitter.core.sitter.region_names import SOLVED, Region
from truesitter.core.sitter.segmentation.first_guess import FirstGuess
from truesitter.core.sitter.segmentation.posterior import Looks, drop_islands, pixel_features
from truesitter.core.sitter.segmentation.region_map import Scribble, solve_regions
from truesitter.core.sitter.segmentation.scribbles import (
    edge_resistance,
    hear_strokes,
    lengths_away,
    spread_from,
)
from truesitter.core.stages import Study


def test_spreading_is_the_cheapest_way() -> None:
    """Source: skimage.graph.MCP, cheapest ways over the same grid of costs."""
    draw = np.random.default_rng(3)
    costs = draw.uniform(0.001, 0.02, (40, 30)).astype(np.float32)
    costs[10:30, 12] = 0.6
    start = np.zeros(costs.shape, bool)
    start[20, 3] = True
    double = np.kron(costs, np.ones((2, 2), np.float32)) / 2
    found = spread_from(np.kron(start, np.ones((2, 2))) > 0, double)
    expected, _ = MCP(np.where(start, 0, costs)).find_costs([(20, 3)])
    halved = cv2.resize(found, (30, 40), interpolation=cv2.INTER_AREA)[1:-1, 1:-1]
    smooth = cv2.resize(
        cv2.resize(expected.astype(np.float32), (60, 80), interpolation=cv2.INTER_LINEAR),
        (30, 40), interpolation=cv2.INTER_AREA,
    )[1:-1, 1:-1]  # fmt: skip
    np.testing.assert_allclose(halved, smooth, atol=1e-5)


def shaded(step: bool) -> np.ndarray:
    """The same change from dark to light, at one place or spread over the picture."""
    ramp = np.clip((np.arange(200) - 99) / (1 if step else 120) + 0.5, 0, 1)
    return np.repeat(np.repeat((70 + 90 * ramp)[None, :, None], 120, axis=0), 3, axis=2).astype(np.uint8)


def test_a_stroke_follows_a_gradation_and_stops_at_an_edge() -> None:
    start = np.zeros((120, 200), bool)
    start[20:100, 20:23] = True
    reached = [
        float(spread_from(start, edge_resistance(pixel_features(shaded(step))))[60, 140])
        for step in (False, True)
    ]
    assert reached[1] > 2.5 * reached[0]


def test_a_long_stroke_speaks_further_than_a_dab() -> None:
    strokes = np.zeros((100, 300), bool)
    strokes[10:90, 20] = True
    strokes[45:50, 280] = True
    away = lengths_away(strokes)
    assert away[50, 100] == pytest.approx(1, abs=0.05)
    assert away[50, 275] == pytest.approx(5 / np.hypot(1, 5), rel=0.05)


def test_what_a_stroke_says_overrules_place_and_seeds_only_where_it_reaches() -> None:
    looks = Looks.of(shaded(step=True))
    drawn = np.full(looks.features.shape[:2], 255, np.uint8)
    drawn[10:110, 30:34] = Region.SKIN
    beliefs = {r: np.zeros(drawn.shape, np.float32) for r in SOLVED}
    beliefs[Region.SKIN] -= 9
    beliefs[Region.GARMENT] += 2
    seeds = np.full(drawn.shape, Region.GARMENT, np.uint8)
    told = hear_strokes(beliefs, seeds, looks, drawn)
    near, beyond = (60, 45), (60, 180)
    assert beliefs[Region.SKIN][near] > beliefs[Region.GARMENT][near]
    assert beliefs[Region.SKIN][beyond] < -8.5
    assert beliefs[Region.GARMENT][beyond] > 1.9
    assert (seeds[near], seeds[beyond]) == (255, Region.GARMENT)
    assert (told.heard[near], told.heard[beyond]) == (True, False)
    assert set(told.looks) == {Region.SKIN}


def bare_shoulders() -> tuple[np.ndarray, np.ndarray]:
    """A made sitter whose bare body stands in blue shade, unlike the face; and where the body is."""
    picture = made_head()
    body = np.zeros(picture.shape[:2], np.uint8)
    cv2.ellipse(body, (240, 640), (200, 190), 0, 0, 360, 1, -1)
    light = np.linspace(0.2, 0.6, 480)[None, :, None]
    picture[body > 0] = (np.array([120, 150, 190]) * light * np.ones((600, 1, 1)))[body > 0]
    return picture, body > 0


def face_of_the_made_head() -> Face:
    """A face standing in the made head: a plain oval with the points the rules look at."""
    points = np.tile([0.5, 0.5, 0.0], (478, 1))
    turn = np.linspace(0, 2 * np.pi, len(OVAL), endpoint=False)
    points[list(OVAL), :2] = np.column_stack([0.5 + 0.19 * np.sin(turn), 0.52 - 0.22 * np.cos(turn)])
    points[[10, 2, 14, 152], 1] = 0.3, 0.58, 0.64, 0.74
    for brow, x in zip(BROWS, (0.42, 0.58), strict=True):
        points[list(brow), :2] = [(x + 0.004 * i, 0.45 + 0.004 * (i % 2)) for i in range(len(brow))]
    return Face(points)


def test_one_stroke_down_bare_shoulders_makes_them_skin() -> None:
    """Below the chin cloth is expected; a painter of figures says otherwise once, not five times."""
    picture, body = bare_shoulders()
    person = ((picture.astype(int) - (96, 100, 104)).any(axis=2)).astype(np.float32)
    detection = Detection(face_of_the_made_head(), person)
    guess = FirstGuess.of(Looks.of(picture), detection)
    stroke = Scribble(Region.SKIN, tuple((float(x), 0.9) for x in np.linspace(0.15, 0.85, 12)), 0.02)
    before = solve_regions(guess, body.shape)
    after = solve_regions(guess, body.shape, (stroke,))
    inner = cv2.erode(body.astype(np.uint8), np.ones((25, 25))) > 0
    assert before.mask(Region.SKIN)[inner].mean() < 0.6
    assert after.mask(Region.SKIN)[inner].mean() > 0.97


def test_a_face_in_the_air_is_told_from_one_on_the_sitter() -> None:
    person = np.zeros((100, 80), np.float32)
    person[:, :40] = 1
    points = np.column_stack([np.linspace(0.1, 0.4, 478), np.full(478, 0.5), np.zeros(478)])
    assert share_on_sitter(Face(points), person) == 1
    assert share_on_sitter(Face(points + np.array([0.25, 0, 0])), person) == pytest.approx(0.5, abs=0.01)
    assert share_on_sitter(Face(points - np.array([0.25, 0, 0])), person) == 1, "cropped by the frame"
    assert share_on_sitter(Face(points + np.array([0.95, 0, 0])), person) == 0
    upper = np.zeros((100, 80), np.float32)
    upper[:50] = 1
    points[:100, :2], points[100:, :2] = (0.9, 0.1), (0.2, 0.9)
    assert share_on_sitter(Face(points), upper) == pytest.approx(100 / 478)


def test_a_face_that_the_frame_crops_is_still_a_face() -> None:
    framed, found = study_of("maren").picture.framed(), study_of("maren").sitter.face
    assert found is not None
    height, width = framed.shape[:2]
    spots = (found.points[:, :2] * (width, height)).astype(int)
    (left, top), (right, low) = spots.min(axis=0), spots.max(axis=0)
    no_chin = framed[top - 200 : low - (low - top) // 5, left - 100 : right + 100]
    half = framed[top - 100 : low + 100, left + (right - left) * 3 // 10 : right + 100]
    for part in (no_chin, half):
        sitter = Study.of_bytes(jpeg(np.ascontiguousarray(part)), StudySettings()).sitter
        assert sitter.face is not None
        with warnings.catch_warnings():
            warnings.simplefilter("error")
            top = sitter.head_top()
        assert top is None or 0 <= top[1] < 0.5


@pytest.mark.parametrize(("mouth", "is_hair"), [(60.0, False), (80.0, True)])
def test_hair_grows_from_the_head(mouth: float, is_hair: bool) -> None:
    posterior = np.zeros((len(SOLVED), 100, 80), np.float32)
    hair, cloth = SOLVED.index(Region.HAIR), SOLVED.index(Region.GARMENT)
    posterior[hair, 10:50, 20:60] = 1
    posterior[cloth, 50:100] = 1
    posterior[cloth, 70:95, 20:60], posterior[hair, 70:95, 20:60] = 0, 1
    nothing = np.full((100, 80), 255, np.uint8)
    drop_islands(posterior, nothing, mouth)
    assert (posterior[hair, 80, 40] == 1) == is_hair
    assert posterior[hair, 30, 40] == 1


@pytest.mark.parametrize(("row", "col"), [(0, 0), (0, 40), (95, 75), (50, 30)])
def test_a_crumb_goes_whole_to_what_lies_round_it(row: int, col: int) -> None:
    """In the corners of the picture too."""
    posterior = np.zeros((len(SOLVED), 100, 80), np.float32)
    cloth, skin = SOLVED.index(Region.GARMENT), SOLVED.index(Region.SKIN)
    posterior[skin] = 1
    for y, x, height, width in ((60, 5, 30, 20), (row, col, 5, 5)):
        posterior[skin, y : y + height, x : x + width] = 0
        posterior[cloth, y : y + height, x : x + width] = 1
    drop_islands(posterior, np.full((100, 80), 255, np.uint8), 100.0)
    assert posterior[cloth].sum() == 600
    np.testing.assert_array_equal(posterior.sum(axis=0), 1)


def test_hair_that_the_painter_marked_stays() -> None:
    posterior = np.zeros((len(SOLVED), 100, 80), np.float32)
    posterior[SOLVED.index(Region.GARMENT)] = 0.5
    posterior[SOLVED.index(Region.HAIR), 10:50, 20:60] = 1
    posterior[SOLVED.index(Region.HAIR), 70:95, 20:60] = 1
    drawn = np.full((100, 80), 255, np.uint8)
    drawn[80, 30:50] = Region.HAIR
    drop_islands(posterior, drawn, 60.0)
    assert posterior[SOLVED.index(Region.HAIR), 80, 40] == 1
