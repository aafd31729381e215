"""The lists of landmarks hold together: no point twice, outlines do not cross, places are places."""

from __future__ import annotations

import itertools
from functools import cache

import numpy as np
import pytest
import shapely
from scipy.optimize import linear_sum_assignment

from tests.conftest import study_of
from truesitter.core.sitter.face import (
    BROW_MIDDLE,
    BROW_PEAKS,
    BROWS,
    CHEEKS,
    CHIN,
    EYES,
    LEFT_EYE_CORNERS,
    LIPS,
    MESH_POINTS,
    MOUTH_CORNERS,
    MOUTH_MIDDLE,
    NOSE_BASE,
    NOSE_WINGS,
    NOSTRILS,
    OVAL,
    RIGHT_EYE_CORNERS,
    TEMPLES,
    TOP,
    UPPER_LIP_FIELD,
    Face,
)  # fmt: skip
from truesitter.core.sitter.places import PLACES, place_centres, place_of

OUTLINES = {
    "oval": OVAL, "lips": LIPS, "left eye": EYES[0], "right eye": EYES[1], "left brow": BROWS[0],
    "right brow": BROWS[1], "left nostril": NOSTRILS[0], "right nostril": NOSTRILS[1],
    "field": UPPER_LIP_FIELD,
}  # fmt: skip
SHAPES = {
    # Share of the oval's area, from memory of any face: an eye a fiftieth, the lips a twentieth …
    "lips": (0.02, 0.08), "left eye": (0.004, 0.03), "right eye": (0.004, 0.03), "left brow": (0.005, 0.03),
    "right brow": (0.005, 0.03), "left nostril": (0.0003, 0.01), "right nostril": (0.0003, 0.01),
    "field": (0.015, 0.08),
}  # fmt: skip


def faces() -> list[Face]:
    found = [study_of(name).sitter.face for name in ("maren", "tobias")]
    return [face for face in found if face is not None]


@cache
def mirrored() -> np.ndarray:
    """The landmark that mirrors each: the pairing that moves a mirrored face least onto itself.

    Each of the faces at hand, and their mean, gives the same pairs, and the mirror of a mirror is the point
    itself: the mesh of the detector is symmetrical, and nothing of it is written down here.
    """
    found = []
    for face in faces():
        points = face.points[:MESH_POINTS] * (1, 1.25, 1)
        left, right = (
            points[list(corners)].mean(axis=0) for corners in (LEFT_EYE_CORNERS, RIGHT_EYE_CORNERS)
        )
        across = (right - left) / np.linalg.norm(right - left)
        down = points[CHIN] - points[TOP]
        down -= across * (down @ across)
        down /= np.linalg.norm(down)
        own = np.stack([across, down, np.cross(across, down)], axis=1)
        found.append((points - (left + right) / 2) @ own / np.linalg.norm(right - left))
    mean = np.mean(found, axis=0)
    away = np.linalg.norm(mean[:, None] - mean * (-1, 1, 1), axis=2)
    partners = linear_sum_assignment(away**2)[1]
    np.testing.assert_array_equal(partners[partners], np.arange(MESH_POINTS))
    return np.asarray(partners)


@pytest.mark.parametrize("name", [n for n in PLACES if not n.startswith("right")])
def test_places_on_both_sides_mirror_each_other(name: str) -> None:
    other = {int(mirrored()[i]) for i in PLACES[name]}
    assert other == set(PLACES[name.replace("left ", "right ") if name.startswith("left") else name])


@pytest.mark.parametrize(
    ("one", "other"),
    [(*EYES,), (*BROWS,), (*NOSTRILS,), (OVAL, OVAL), (LIPS, LIPS), (UPPER_LIP_FIELD, UPPER_LIP_FIELD),
     (LEFT_EYE_CORNERS, RIGHT_EYE_CORNERS[::-1]), (MOUTH_CORNERS, MOUTH_CORNERS), (NOSE_WINGS, NOSE_WINGS),
     (CHEEKS, CHEEKS), (TEMPLES, TEMPLES), (BROW_PEAKS[:1], BROW_PEAKS[1:]),
     ((TOP, BROW_MIDDLE, NOSE_BASE, MOUTH_MIDDLE, CHIN),) * 2],
)  # fmt: skip
def test_outlines_and_marks_mirror_each_other(one: tuple[int, ...], other: tuple[int, ...]) -> None:
    assert {int(mirrored()[i]) for i in one} == set(other)


@pytest.mark.parametrize("name", list(OUTLINES))
def test_outlines_do_not_cross_themselves_and_have_their_size(name: str) -> None:
    landmarks = OUTLINES[name]
    assert len(set(landmarks)) == len(landmarks)
    assert max(landmarks) < MESH_POINTS
    for face in faces():
        ring = shapely.Polygon(face.points[list(landmarks), :2] * (1, 1.25))
        oval = shapely.Polygon(face.points[list(OVAL), :2] * (1, 1.25))
        assert ring.is_valid, name
        if name in SHAPES:
            low, high = SHAPES[name]
            assert low < ring.area / oval.area < high
            assert oval.buffer(0.02).contains(ring)


def test_every_place_is_one_spot_with_points_of_its_own() -> None:
    every = list(itertools.chain.from_iterable(PLACES.values()))
    assert len(set(every)) == len(every), "no landmark names two places"
    for face in faces():
        size = float(np.hypot(*((face.top - face.chin) * (1, 1.25))))
        for name, landmarks in PLACES.items():
            points = face.points[list(landmarks), :2] * (1, 1.25)
            apart = np.hypot(*(points - points.mean(axis=0)).T).max()
            assert apart < (0.4 if name == "forehead" else 0.2) * size, name


def test_left_places_lie_left_of_right_ones_and_high_ones_above_low_ones() -> None:
    for face in faces():
        centre = {name: (x, y) for name, x, y in place_centres(face)}
        for name in [n for n in centre if n.startswith("left")]:
            other = name.replace("left", "right", 1)
            assert centre[name][0] < centre[other][0] - 0.01, name
            assert abs(centre[name][1] - centre[other][1]) < 0.06, name
        order = ("forehead", "nose bridge", "nose tip", "above the upper lip", "lower lip", "chin")
        heights = [centre[name][1] for name in order]
        assert heights == sorted(heights)
        for left, right in (LEFT_EYE_CORNERS, RIGHT_EYE_CORNERS, MOUTH_CORNERS):
            assert face.points[left, 0] < face.points[right, 0]


def test_the_landmark_of_a_place_is_named_after_it() -> None:
    for face in faces():
        for name, landmarks in PLACES.items():
            for landmark in landmarks:
                x, y = face.spot(landmark)
                found = place_of(x, y, face, 1.25)
                assert found in (name, "left ear", "right ear"), (name, landmark)


@pytest.mark.parametrize(
    ("x", "y", "name"),
    [
        (0.1, 0.1, "upper left of the figure"),
        (0.5, 0.5, "middle of the figure"),
        (0.5, 0.9, "lower middle of the figure"),
        (0.9, 0.4, "middle right of the figure"),
        (0.34, 0.66, "middle middle of the figure"),
    ],
)
def test_without_a_face_a_ninth_of_the_figure_is_named(x: float, y: float, name: str) -> None:
    assert place_of(x, y, None, 1.25) == name.replace("middle middle", "middle")


def test_beside_and_below_the_face_are_ears_neck_and_the_rest() -> None:
    for face in faces():
        (left, _), (right, _) = face.points[234, :2], face.points[454, :2]
        row = float((face.brow_peak_row + face.mouth_row) / 2)
        chin_x, chin_y = (float(v) for v in face.chin)
        assert place_of(float(left) - 0.03, row, face, 1.25) == "left ear"
        assert place_of(float(right) + 0.03, row, face, 1.25) == "right ear"
        assert place_of(chin_x, chin_y + 0.12, face, 1.25) == "neck"
        assert place_of(0.02, 0.98, face, 1.25) == "figure"
