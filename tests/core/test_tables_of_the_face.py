"""The lists of landmarks hold together: no point twice, outlines do not cross, places are places."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
import shapely

from tests.conftest import study_of
from truesitter.core.sitter.face import (
    BROWS,
    EYES,
    LEFT_EYE_CORNERS,
    LIPS,
    MESH_POINTS,
    MOUTH_CORNERS,
    NOSTRILS,
    OVAL,
    RIGHT_EYE_CORNERS,
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
