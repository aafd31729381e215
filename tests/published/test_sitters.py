"""Regions, hair and light against the demo sitters' true masks, strand directions and lights."""

from __future__ import annotations

import json

import cv2
import numpy as np
import pytest
from skimage.feature import structure_tensor as skimage_tensor

from tests.conftest import BACK_VIEW_SCRIBBLES, TRUTH, jpeg, study_of, truth
from truesitter.core.hair.field import AxisField, solve_axes, structure_tensor_field
from truesitter.core.hair.sense import find_whorls
from truesitter.core.reference.tone import Tone, correct
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.study import Study

# Strokes (region, points, width) on top of nothing else: what a painter would draw.
MENDING = {
    name: [{"region": region, "points": points, "width": width} for region, points, width in strokes]
    for name, strokes in {
        "maren": [
            ("skin", [(0.275, 0.72), (0.29, 0.68), (0.30, 0.65)], 0.02),
            ("skin", [(0.565, 0.70), (0.60, 0.715), (0.62, 0.72)], 0.02),
            ("skin", [(0.63, 0.29), (0.65, 0.33), (0.66, 0.38)], 0.015),
            ("skin", [(0.265, 0.45), (0.26, 0.485)], 0.012),
            ("hair", [(0.278, 0.53), (0.295, 0.56), (0.305, 0.60)], 0.012),
            ("hair", [(0.64, 0.58), (0.60, 0.64), (0.57, 0.665)], 0.012),
        ],
        "tobias": [
            ("skin", [(0.705, 0.70), (0.735, 0.69), (0.77, 0.685)], 0.012),
            ("hair", [(0.735, 0.405), (0.737, 0.43)], 0.008),
            ("skin", [(0.742, 0.46), (0.745, 0.50)], 0.01),
            ("skin", [(0.37, 0.235), (0.43, 0.232), (0.5, 0.228), (0.56, 0.22)], 0.012),
            ("hair", [(0.307, 0.30), (0.306, 0.38)], 0.008),
        ],
        "ines": [
            ("skin", BACK_VIEW_SCRIBBLES[0]["points"], 0.02),
            ("skin", BACK_VIEW_SCRIBBLES[1]["points"], 0.02),
            ("garment", BACK_VIEW_SCRIBBLES[3]["points"], 0.02),
            ("hair", [(0.46, 0.25), (0.56, 0.26), (0.66, 0.36), (0.74, 0.42)], 0.02),
            ("hair", [(0.68, 0.25), (0.75, 0.10), (0.85, 0.15), (0.90, 0.25)], 0.02),
            ("skin", [(0.57, 0.34), (0.60, 0.41), (0.66, 0.47), (0.70, 0.56)], 0.02),
        ],
    }.items()
}


def overlap(found: np.ndarray, true: np.ndarray) -> float:
    return float((found & true).sum() / (found | true).sum())


@pytest.mark.parametrize(
    ("name", "skin", "hair"), [("maren", 0.88, 0.85), ("tobias", 0.86, 0.83), ("ines", 0.88, 0.80)]
)
def test_regions_overlap_the_true_masks(name: str, skin: float, hair: float) -> None:
    """Without scribbles where a face is found; four scribbles on the back view.

    The bars are what is reached. The rules were adjusted on these sitters.
    """
    regions, labels = study_of(name).sitter.regions(), truth(name).labels
    assert study_of(name).sitter.detection().has_face == (name != "ines")
    assert overlap(regions.mask(Region.SKIN), labels == 1) >= skin
    assert overlap(regions.mask(Region.HAIR), labels == 2) >= hair


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_regions_hold_on_a_mirrored_darker_and_noisier_copy(name: str) -> None:
    """Not the pictures the rules were adjusted on, but near kin: turned, darker, grained."""
    picture = cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_COLOR)[..., ::-1]
    small = cv2.resize(picture[:, ::-1], None, fx=0.6, fy=0.6, interpolation=cv2.INTER_AREA)
    darker = correct(small, Tone(exposure=-0.5)).astype(float)
    noise = np.random.default_rng(4).normal(0, 3, darker.shape)
    study = Study.of_bytes(
        jpeg(np.clip(darker + noise, 0, 255).astype(np.uint8)),
        StudySettings.model_validate({"reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}}),
    )
    regions = study.sitter.regions()
    true = cv2.resize(
        truth(name).labels[:, ::-1], regions.labels.shape[::-1], interpolation=cv2.INTER_NEAREST
    )
    assert overlap(regions.mask(Region.SKIN), true == 1) >= 0.80
    assert overlap(regions.mask(Region.HAIR), true == 2) >= 0.75


def test_six_scribbles_mend_the_regions() -> None:
    """At most six strokes a sitter, drawn where a painter would see the errors."""
    for name, (skin, hair) in {"maren": (0.91, 0.90), "tobias": (0.865, 0.845), "ines": (0.93, 0.86)}.items():
        study = Study.of_bytes(
            truth(name).data,
            StudySettings.model_validate(
                {
                    "reference": {"canvas_width_mm": 320, "canvas_height_mm": 400},
                    "regions": {"scribbles": MENDING[name]},
                }
            ),
        )
        regions, labels = study.sitter.regions(), truth(name).labels
        assert overlap(regions.mask(Region.SKIN), labels == 1) >= skin
        assert overlap(regions.mask(Region.HAIR), labels == 2) >= hair


def test_the_person_of_the_back_view_is_found_without_help() -> None:
    study = Study.of_bytes(
        truth("ines").data,
        StudySettings.model_validate({"reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}}),
    )
    person = study.sitter.regions().labels != Region.BACKGROUND
    assert overlap(person, truth("ines").labels != 0) > 0.9
    assert not study.sitter.regions().mask(Region.SKIN, Region.HAIR).any()


def undirected_error(z: np.ndarray, true: np.ndarray) -> np.ndarray:
    height, width = true.shape
    big = cv2.resize(z, (width, height), interpolation=cv2.INTER_LINEAR)
    error = np.degrees(np.abs(0.5 * np.arctan2(big[..., 1], big[..., 0]) - true)) % 180
    return np.minimum(error, 180 - error)


@pytest.mark.parametrize(("name", "bar"), [("maren", 12), ("tobias", 12)])
def test_hair_direction_without_guides(name: str, bar: float) -> None:
    mask, undirected, _ = truth(name).smoothed_direction()
    field = solve_axes(study_of(name).picture.lab()[..., 0], mask)
    assert np.median(undirected_error(field.z, undirected)[mask]) <= bar


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_most_hair_is_sensed_from_root_to_tip(name: str) -> None:
    """On the regions found, not the true mask: the whole way that the screen goes."""
    _, _, directed = truth(name).smoothed_direction()
    study = study_of(name)
    codes = study.hair.map().field_codes(study.sitter.hair_mask())
    both = (codes > 0) & np.isin(truth(name).labels, (2, 4)) & (truth(name).direction > 0)
    angle = np.radians((codes.astype(float) - 1) / 100)
    agree = np.cos(angle - directed)[both] > 0
    assert agree.mean() > 0.85


@pytest.mark.parametrize("degrees", [0, 20, 45, 70, 90, 120, 150])
def test_structure_tensor_reads_gratings(degrees: float) -> None:
    """Source: gratings at known angles, and skimage.feature.structure_tensor on the same picture."""
    y, x = np.mgrid[0:160, 0:160].astype(np.float32)
    across = np.radians(degrees + 90)
    grating = (50 + 30 * np.sin((x * np.cos(across) - y * np.sin(across)) * 0.8)).astype(np.float32)
    z, _ = structure_tensor_field(grating)
    middle = z[50:110, 50:110].mean(axis=(0, 1))
    ours = np.degrees(0.5 * np.arctan2(middle[1], middle[0])) % 180
    rr, rc, cc = (a[50:110, 50:110].mean() for a in skimage_tensor(grating, sigma=2, order="rc"))
    theirs = np.degrees(0.5 * np.arctan2(2 * rc, rr - cc)) % 180
    for found in (ours, theirs):
        assert min(abs(found - degrees), 180 - abs(found - degrees)) < 1


def test_a_swirl_winds_once_and_a_saddle_is_none() -> None:
    """Source: the winding number of a circular field is +1."""
    y, x = np.mgrid[-30:31, -30:31].astype(np.float32) + 0.25
    angle = np.arctan2(-y, x) + np.pi / 2
    inside = np.ones(angle.shape, bool)
    for factor, expected in ((1, [1.0]), (-1, [])):
        z = np.dstack([np.cos(2 * factor * angle), np.sin(2 * factor * angle)]).astype(np.float32)
        whorls = find_whorls(AxisField(z, np.ones(angle.shape, np.float32), inside))
        assert [w.index for w in whorls] == expected
    assert whorls == ()


def test_light_direction_of_the_three_quarter_view() -> None:
    true = np.array(
        json.loads((TRUTH / "maren" / "meta.json").read_text())["lights"]["key"]["direction_camera"]
    )
    found = study_of("maren").light.direction()
    assert found is not None
    angle = np.degrees(np.arccos(np.clip(np.dot(found.vector, true / np.linalg.norm(true)), -1, 1)))
    assert angle < 20
    assert found.in_words().startswith("upper left")
