"""Framing held to made sitters: no head is cut, and photographs that lie are stood upright."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.conftest import truth
from truesitter.core.reference.decode import decode
from truesitter.core.reference.frame import Frame, place
from truesitter.core.sitter.framing import framings, head_of
from truesitter.core.sitter.landmarks import detect, detect_faces
from truesitter.core.sitter.orientation import turns_wanted
from truesitter.core.types import Bytes

FACES = ("maren", "tobias", "selda", "orsolya", "hedda")
SKIN, HAIR, BEARD = 1, 2, 4


def photograph(name: str, mirrored: bool = False) -> Bytes:
    picture = decode(truth(name).data, 1000)
    return np.ascontiguousarray(picture[:, ::-1]) if mirrored else picture


@pytest.mark.parametrize("mirrored", [False, True])
@pytest.mark.parametrize("name", FACES)
def test_no_frame_cuts_the_head(name: str, mirrored: bool) -> None:
    """Crown by the true hair of the sitter; all of the face between brows and chin lies inside."""
    picture = photograph(name, mirrored)
    found = detect(picture)
    assert found.face is not None
    height, width = picture.shape[:2]
    head = head_of(found.face, found.person)
    labels = truth(name).labels
    crown = np.flatnonzero((np.isin(labels, (HAIR, BEARD, SKIN))).mean(axis=1) > 0.01)[0] / labels.shape[0]
    assert head.top == pytest.approx(crown, abs=0.05)
    offered = framings((head,), picture.shape, (300.0, 400.0), (320.0, 400.0))
    assert offered[-1].name == "as photographed"
    for one in offered:
        crop = place(Frame(one.canvas_mm, one.centre, one.zoom), width, height)
        left, top = crop.corners()[0] / (width, height)
        right, bottom = crop.corners()[2] / (width, height)
        assert top <= max(0.0, crown - 0.01)
        assert bottom > head.bottom
        assert left <= max(0.0, head.left)
        assert right >= min(1.0, head.right)
        points = found.face.points[:, :2]
        assert ((points > (left, top)) & (points < (right, bottom))).all()


@pytest.mark.parametrize("mirrored", [False, True])
@pytest.mark.parametrize("name", FACES)
def test_a_photograph_that_lies_is_stood_upright(name: str, mirrored: bool) -> None:
    picture = photograph(name, mirrored)
    for turned in range(4):
        assert turns_wanted(np.ascontiguousarray(np.rot90(picture, turned))) == -turned % 4


def test_where_no_face_is_found_nothing_is_turned() -> None:
    assert turns_wanted(photograph("ines")) == 0
    assert turns_wanted(np.full((300, 400, 3), 128, np.uint8)) == 0


@pytest.mark.parametrize("mirrored", [False, True])
@pytest.mark.parametrize("name", FACES)
def test_a_head_is_found_in_a_third_of_the_picture(name: str, mirrored: bool) -> None:
    """A figure far off, in a plain room: its face lies where it lay, three times smaller."""
    close = photograph(name, mirrored)
    whole = detect(close).face
    assert whole is not None
    height, width = close.shape[:2]
    room = np.full_like(close, 130)
    small = cv2.resize(close, (width // 3, height // 3), interpolation=cv2.INTER_AREA)
    top, left = height // 3, width // 4
    room[top : top + small.shape[0], left : left + small.shape[1]] = small
    found = detect(room).face
    assert found is not None
    there = whole.points[:, :2] * (small.shape[1], small.shape[0]) + (left, top)
    apart = np.hypot(*((found.points[:, :2] * (width, height)) - there).T)
    assert np.median(apart) < 0.04 * found.height((height, width))


def test_of_two_sitters_each_can_be_chosen() -> None:
    one, other = photograph("maren"), photograph("selda")
    high = min(one.shape[0], other.shape[0])
    both = np.hstack([one[:high], other[:high]])
    faces = detect_faces(both)
    person = detect(both).person
    heads = tuple(head_of(face, person) for face in faces)
    offered = framings(heads, both.shape, (300.0, 400.0), (400.0, 250.0))
    assert [f.name for f in offered] == ["head", "as photographed", "second head"]
    x = [f.centre[0] for f in offered]
    assert x[0] < 0.5 < x[2]
