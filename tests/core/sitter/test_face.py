"""A made face with every point where it is wanted: proportions, places and pixels."""

from __future__ import annotations

import subprocess
import sys

import numpy as np
import pytest

from truesitter.core.imaging.pixels import in_pixels, pixel_at, window_at
from truesitter.core.sitter.face import EYES, LIPS, MESH_POINTS, OVAL, Face
from truesitter.core.sitter.face_proportions import face_proportions
from truesitter.core.sitter.places import PLACES, place_centres, place_of


def made_face() -> Face:
    """In a square picture: face from 0.2 to 0.8, eyes 0.1 wide and 0.1 apart, and so on."""
    points = np.full((478, 3), 0.5)
    turn = np.linspace(0, 2 * np.pi, len(OVAL), endpoint=False)
    points[list(OVAL), 0], points[list(OVAL), 1] = 0.5 + 0.25 * np.sin(turn), 0.5 - 0.3 * np.cos(turn)
    spots = {
        10: (0.5, 0.2), 152: (0.5, 0.8), 9: (0.5, 0.4), 2: (0.5, 0.58), 14: (0.5, 0.68),
        33: (0.35, 0.42), 133: (0.45, 0.42), 362: (0.55, 0.42), 263: (0.65, 0.42),
        468: (0.4, 0.42), 473: (0.6, 0.42), 61: (0.41, 0.68), 291: (0.59, 0.68),
        129: (0.45, 0.56), 358: (0.55, 0.56), 234: (0.25, 0.5), 454: (0.75, 0.5),
        105: (0.4, 0.38), 334: (0.6, 0.38), 127: (0.26, 0.4), 356: (0.74, 0.4),
    }  # fmt: skip
    for number, spot in spots.items():
        points[number, :2] = spot
    return Face(points)


def test_proportions_are_those_of_the_drawing() -> None:
    found = {p.name: p.here for p in face_proportions(made_face(), 1.0, (0.5, 0.1), (0.5, 0.25))}
    expected = {
        "eye line above the chin over the height of the head": (0.8 - 0.42) / 0.7,
        "hairline to brow over brow to nose base": 0.15 / 0.18,
        "brow to nose base over nose base to chin": 0.18 / 0.22,
        "between the eyes over the width of an eye": 1.0,
        "width of the face over the width of an eye": 5.0,
        "width of the nose over the distance between the eyes": 1.0,
        "width of the mouth over the distance between the pupils": 0.9,
    }
    assert found == pytest.approx(expected)


def test_named_points_and_sizes() -> None:
    face = made_face()
    assert face.chin == pytest.approx((0.5, 0.8))
    assert face.top == pytest.approx((0.5, 0.2))
    assert (face.mouth_row, face.nose_base_row, face.brow_peak_row) == pytest.approx((0.68, 0.58, 0.38))
    assert face.height((100, 50)) == pytest.approx(60)
    assert face.axis(1.0) == pytest.approx((0, -1))
    assert face.spot(33, 133) == pytest.approx((0.4, 0.42))
    mesh = face.mesh((100, 50))
    assert len(mesh) == MESH_POINTS - len(OVAL)
    assert mesh[:, 1].max() <= 100


def test_masks_follow_their_outlines() -> None:
    points = made_face().points.copy()
    turn = np.linspace(0, 2 * np.pi, len(LIPS), endpoint=False)
    points[list(LIPS), 0], points[list(LIPS), 1] = 0.5 + 0.1 * np.cos(turn), 0.68 + 0.04 * np.sin(turn)
    for eye, x in zip(EYES, (0.4, 0.6), strict=True):
        turn = np.linspace(0, 2 * np.pi, len(eye), endpoint=False)
        points[list(eye), 0], points[list(eye), 1] = x + 0.05 * np.cos(turn), 0.42 + 0.02 * np.sin(turn)
    face = Face(points)
    lips = face.outline_mask(LIPS, (400, 400))
    assert lips.mean() == pytest.approx(np.pi * 0.1 * 0.04, rel=0.05)
    assert face.outline_mask(LIPS, (400, 400), 2.0).mean() == pytest.approx(4 * lips.mean(), rel=0.05)
    features = face.feature_mask((400, 400))
    assert features[168, 160]
    assert features[168, 240]
    assert features[272, 200]
    assert not features[120, 200]


def test_every_place_is_named_at_its_own_middle() -> None:
    face = made_face()
    centres = {name: (x, y) for name, x, y in place_centres(face)}
    assert set(centres) == set(PLACES)
    assert place_of(0.5, 0.2, face, 1.0) in PLACES
    assert place_of(0.5, 0.95, face, 1.0) == "neck"
    assert place_of(0.72, 0.5, face, 1.0) in PLACES
    assert place_of(0.8, 0.5, face, 1.0) == "right ear"
    assert place_of(0.2, 0.5, face, 1.0) == "left ear"
    assert place_of(0.03, 0.1, face, 1.0) == "figure"
    thirds = [place_of(x, y, None, 1.0) for x, y in ((0.1, 0.1), (0.5, 0.5), (0.9, 0.5), (0.5, 0.9))]
    assert thirds == [
        "upper left of the figure", "middle of the figure", "middle right of the figure",
        "lower middle of the figure",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("x", "y", "pixel"),
    [(0, 0, (0, 0)), (1, 1, (9, 19)), (0.499, 0.5, (5, 9)), (-0.2, 1.4, (9, 0)), (0.05, 0.1, (1, 1))],
)
def test_fractions_fall_in_pixels(x: float, y: float, pixel: tuple[int, int]) -> None:
    assert pixel_at(x, y, (10, 20, 3)) == pixel


def test_windows_are_cut_off_at_the_edge() -> None:
    rows, columns = window_at(0.0, 1.0, (10, 20), 3)
    assert (rows, columns) == (slice(6, 13), slice(0, 4))
    assert np.zeros((10, 20))[rows, columns].shape == (4, 4)
    np.testing.assert_array_equal(in_pixels([(0.5, 0.25)], (8, 4)), [[2.0, 2.0]])


def test_the_detector_starts_quietly_and_nobody_else_is_silenced() -> None:
    """Its first words are held back from standard error; what others write meanwhile is passed on."""
    run = """
import os, numpy as np
from tests.conftest import truth
from truesitter.core.sitter import landmarks
import cv2
picture = cv2.imdecode(np.frombuffer(truth("maren").data, np.uint8), cv2.IMREAD_REDUCED_COLOR_2)[..., ::-1]
models = landmarks._models
said = []
def talking():
    if not said:
        said.append(os.write(2, b"a trace of somebody else\\n"))
    return models()
landmarks._models = talking
assert landmarks.detect(np.ascontiguousarray(picture)).face is not None
assert landmarks.detect(np.zeros((90, 70, 3), np.uint8)).face is None
assert len(landmarks.detect_faces(np.ascontiguousarray(picture))) == 1
os.write(2, b"the end")
"""
    done = subprocess.run([sys.executable, "-c", run], capture_output=True, text=True, check=True)
    assert done.stderr == "a trace of somebody else\nthe end"
