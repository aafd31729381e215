"""Regions, hair and light against the demo sitters' true masks, strand directions and lights."""

from __future__ import annotations

import json

import cv2
import numpy as np
import pytest

from tests.conftest import TRUTH, jpeg, overlap, study_of, truth
from tests.restaged import restaged
from tests.robot import TRUE_REGIONS, next_stroke
from truesitter.core.colour.spaces import linear_to_srgb, srgb_to_linear
from truesitter.core.reference.tone import PictureTone, correct
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.landmarks import detect
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.first_guess import FirstGuess
from truesitter.core.sitter.segmentation.posterior import Looks
from truesitter.core.sitter.segmentation.region_map import Regions, Scribble, solve_regions
from truesitter.core.stages import Study


@pytest.mark.parametrize(
    ("name", "skin", "hair"),
    [
        ("maren", 0.90, 0.89), ("tobias", 0.88, 0.85), ("ines", 0.90, 0.81), ("orsolya", 0.91, 0.94),
        ("selda", 0.95, 0.77),
    ],
)  # fmt: skip
def test_regions_overlap_the_true_masks(name: str, skin: float, hair: float) -> None:
    """Without scribbles where a face is found; four scribbles on the back view.

    The bars are what is reached. The rules were adjusted on the first three; skin below the neck
    (selda's shoulders) on selda and tobias.
    """
    regions, labels = study_of(name).sitter.regions(), truth(name).labels
    assert (study_of(name).sitter.face is not None) == (name != "ines")
    assert overlap(regions.mask(Region.SKIN), labels == 1) >= skin
    assert overlap(regions.mask(Region.HAIR), labels == 2) >= hair


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_regions_hold_on_a_mirrored_darker_and_noisier_copy(name: str) -> None:
    """Not the pictures the rules were adjusted on, but near kin: turned, darker, grained."""
    picture = cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_COLOR)[..., ::-1]
    small = cv2.resize(picture[:, ::-1], None, fx=0.6, fy=0.6, interpolation=cv2.INTER_AREA)
    darker = correct(small, PictureTone(exposure=-0.5)).astype(float)
    noise = np.random.default_rng(4).normal(0, 3, darker.shape)
    study = Study.of_bytes(
        jpeg(np.clip(darker + noise, 0, 255).astype(np.uint8)),
        StudySettings.model_validate({"reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}}),
    )
    regions = study.sitter.regions()
    true = cv2.resize(
        truth(name).labels[:, ::-1], regions.labels.shape[::-1], interpolation=cv2.INTER_NEAREST
    )
    assert overlap(regions.mask(Region.SKIN), true == 1) >= 0.87
    assert overlap(regions.mask(Region.HAIR), true == 2) >= 0.83


def masses(labels: np.ndarray, region: int) -> np.ndarray:
    """One true region without its single strands: its outline rounded over 0.6 mm of the canvas."""
    sigma = 0.0015 * labels.shape[0]
    return cv2.GaussianBlur((labels == region).astype(np.float32), (0, 0), sigma) > 0.5


def six_strokes(guess: FirstGuess, labels: np.ndarray) -> tuple[Regions, float]:
    """Regions after six strokes by rule, and the worst that any one of them did to the sum of overlaps."""
    strokes: tuple[Scribble, ...] = ()
    sums = []
    for number in range(7):
        found = solve_regions(guess, labels.shape, strokes)
        sums.append(
            overlap(found.mask(Region.SKIN), labels == 1) + overlap(found.mask(Region.HAIR), labels == 2)
        )
        if number < 6:
            strokes = (*strokes, next_stroke(found.labels, labels, strokes))
    return found, float(np.diff(sums).min())


@pytest.mark.parametrize(
    ("name", "skin", "hair", "skin_mass", "hair_mass"),
    [
        ("maren", 0.94, 0.925, 0.95, 0.945),
        ("tobias", 0.90, 0.85, 0.925, 0.90),
        ("ines", 0.945, 0.89, 0.955, 0.92),
    ],
)
def test_six_strokes_by_rule_mend_the_regions(
    name: str, skin: float, hair: float, skin_mass: float, hair_mass: float
) -> None:
    """The bars are what is reached, against the true masks and against their masses.

    The true masks follow single strands: their own masses overlap them by only 0.95, 0.89
    and 0.93 for hair (Maren, Tobias, Ines), so no outline of masses can do better. Source of
    the strokes' rule: the robot user in `tests.robot`.
    """
    sitter, labels = study_of(name).sitter, truth(name).labels
    mended, worst = six_strokes(sitter.first_guess(), labels)
    assert worst > -0.01, "a stroke made the regions worse"
    assert overlap(mended.mask(Region.SKIN), labels == 1) >= skin
    assert overlap(mended.mask(Region.HAIR), labels == 2) >= hair
    assert overlap(mended.mask(Region.SKIN), masses(labels, 1)) >= skin_mass
    assert overlap(mended.mask(Region.HAIR), masses(labels, 2)) >= hair_mass


def regions_of(picture: np.ndarray) -> Regions:
    return solve_regions(FirstGuess.of(Looks.of(picture), detect(picture)), picture.shape[:2])


def without_hue(picture: np.ndarray, tint: tuple[float, float, float] = (1, 1, 1)) -> np.ndarray:
    grey = cv2.cvtColor(np.ascontiguousarray(picture), cv2.COLOR_RGB2GRAY)[..., None]
    return np.ascontiguousarray((grey * np.array(tint)).astype(np.uint8))


@pytest.mark.parametrize(
    ("name", "tint", "skin", "hair"),
    [
        ("maren", (1, 1, 1), 0.92, 0.78), ("tobias", (1, 1, 1), 0.82, 0.74),
        ("orsolya", (1, 1, 1), 0.91, 0.87), ("orsolya", (1.0, 0.9, 0.75), 0.91, 0.87),
        ("selda", (1, 1, 1), 0.78, 0.78),
    ],
)  # fmt: skip
def test_regions_of_a_photograph_without_colour(
    name: str, tint: tuple[float, float, float], skin: float, hair: float
) -> None:
    """By texture instead of hue; in grey, skin/hair were 0.88/0.55, 0.50/0.49, 0.72/0.74 before it, and
    selda's bare shoulders were cloth: 0.31.
    """
    picture = cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_COLOR)[..., ::-1]
    regions, labels = regions_of(without_hue(picture, tint)), truth(name).labels
    assert overlap(regions.mask(Region.SKIN), labels == 1) >= skin
    assert overlap(regions.mask(Region.HAIR), labels == 2) >= hair


@pytest.mark.parametrize(("name", "skin", "hair"), [("maren", 0.91, 0.83), ("orsolya", 0.84, 0.85)])
def test_regions_without_colour_hold_in_a_room_drawn_by_lot(name: str, skin: float, hair: float) -> None:
    picture, labels = restaged(name, 701)
    regions = regions_of(without_hue(picture))
    assert overlap(regions.mask(Region.SKIN), labels == 1) >= skin
    assert overlap(regions.mask(Region.HAIR), labels == 2) >= hair


@pytest.mark.parametrize("seed", [601, 603, 606])
def test_bare_shoulders_are_skin_in_rooms_drawn_by_lot(seed: int) -> None:
    """Rooms that no rule was adjusted on; without the rule for bare skin selda's is found to 0.31."""
    picture, labels = restaged("selda", seed)
    found = regions_of(picture)
    assert overlap(found.mask(Region.SKIN), labels == 1) >= 0.92
    assert overlap(found.mask(Region.GARMENT), labels == 7) >= 0.9


@pytest.mark.parametrize(
    "tone",
    [
        (0.35, 0.5, 1.1),
        (0.2, 0.2, 0.22),
        (1.15, 1.35, 1.6),
        (0.95, 1.02, 1.0),
        (1.0, 0.8, 0.85),
        (0.25, 0.25, 0.25),
    ],
)
def test_a_painted_top_is_cloth_even_in_a_colour_near_skin(tone: tuple[float, float, float]) -> None:
    """The shoulders below a neckline dyed blue, black, white, beige and pink in linear light, or far
    darker; a top of exactly the skin's own hue in a lighter tone is not told apart.
    """
    labels = truth("selda").labels.copy()
    picture = cv2.imdecode(np.frombuffer(truth("selda").data, np.uint8), cv2.IMREAD_COLOR)[..., ::-1]
    found = detect(picture)
    assert found.face is not None
    height, width = labels.shape
    y, x = np.mgrid[0:height, 0:width]
    chin, size = found.face.chin * (width, height), found.face.height(labels.shape)
    top = (labels == 1) & (y > chin[1] + size * 0.75 - 0.25 * np.abs(x - chin[0]))
    soft = cv2.GaussianBlur(top.astype(np.float32), (0, 0), 0.8)[..., None]
    light = srgb_to_linear(picture / 255) * (1 - soft * (1 - np.array(tone)))
    dyed = (linear_to_srgb(np.clip(light, 0, 1)) * 255).astype(np.uint8)
    labels[top] = 7
    regions = regions_of(dyed)
    assert overlap(regions.mask(Region.SKIN), labels == 1) >= 0.92
    assert overlap(regions.mask(Region.GARMENT), labels == 7) >= 0.96


@pytest.mark.parametrize("seed", [1, 2])
@pytest.mark.parametrize("name", ["maren", "tobias", "ines"])
def test_regions_hold_in_rooms_drawn_by_lot(name: str, seed: int) -> None:
    """Hair, skin, cloth, wall, light, framing that no rule was adjusted on; the bars are what is reached."""
    picture, labels = restaged(name, seed)
    guess = FirstGuess.of(Looks.of(picture), detect(picture))
    assert (guess.detection.face is not None) == (name != "ines")
    mended, worst = six_strokes(guess, labels)
    if guess.detection.face is not None:
        alone = solve_regions(guess, labels.shape)
        assert overlap(alone.mask(Region.SKIN), labels == 1) >= 0.83
        assert overlap(alone.mask(Region.HAIR), labels == 2) >= 0.80
        assert worst > -0.03, "a stroke made the regions worse"
        named = np.array([int(r) for r in TRUE_REGIONS])[labels]
        right = (alone.labels == named)[alone.labels != Region.BACKGROUND].mean()
        assert alone.sureness == pytest.approx(right, abs=0.05), "as sure as it is right"
    assert overlap(mended.mask(Region.SKIN), masses(labels, 1)) >= 0.91
    assert overlap(mended.mask(Region.HAIR), masses(labels, 2)) >= 0.885


def test_the_person_of_the_back_view_is_found_without_help() -> None:
    study = Study.of_bytes(
        truth("ines").data,
        StudySettings.model_validate({"reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}}),
    )
    person = study.sitter.regions().labels != Region.BACKGROUND
    assert overlap(person, truth("ines").labels != 0) > 0.9


def key_light(name: str) -> np.ndarray:
    """The true direction towards the key light: x right, y up, z towards the viewer; unit length."""
    lights = json.loads((TRUTH / name / "meta.json").read_text())["lights"]
    true = np.array(lights["key"]["direction_camera"])
    return true / np.linalg.norm(true)


@pytest.mark.parametrize(("name", "words"), [("maren", "upper left"), ("tobias", "upper right")])
def test_light_direction(name: str, words: str) -> None:
    found = study_of(name).light.direction()
    assert found is not None
    assert np.degrees(np.arccos(np.clip(np.dot(found.vector, key_light(name)), -1, 1))) < 10
    assert found.in_words().startswith(words)


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_light_direction_does_not_hang_on_colours(name: str) -> None:
    """The same light in a room drawn by lot, and from the other side in a mirror."""
    picture, labels = restaged(name, 1)
    true = cv2.resize(truth(name).labels, labels.shape[::-1], interpolation=cv2.INTER_NEAREST)
    mirrored = (true[:, ::-1] == labels).mean() > (true == labels).mean()
    for turned in (False, True):
        study = Study.of_bytes(
            jpeg(np.ascontiguousarray(picture[:, ::-1] if turned else picture)), StudySettings()
        )
        found = study.light.direction()
        assert found is not None
        key = key_light(name) * (-1 if mirrored != turned else 1, 1, 1)
        assert np.degrees(np.arccos(np.clip(np.dot(found.vector, key), -1, 1))) < 16


@pytest.mark.parametrize(("name", "eyes", "lips"), [("maren", 0.825, 0.89), ("tobias", 0.68, 0.75)])
def test_eyes_and_lips_overlap_the_true_ones(name: str, eyes: float, lips: float) -> None:
    """Straight from the landmarks; the bars are what is reached."""
    regions, labels = study_of(name).sitter.regions(), truth(name).labels
    assert overlap(regions.mask(Region.EYES), labels == 6) >= eyes
    assert overlap(regions.mask(Region.LIPS), labels == 5) >= lips
