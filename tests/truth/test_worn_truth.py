"""Straps on skin and microphones before it, painted over made sitters, whose masks are true."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.conftest import begun, jpeg, truth
from tests.restaged import restaged
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study


def photograph(name: str) -> np.ndarray:
    return np.asarray(cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_COLOR)[..., ::-1])


def covered(photo: np.ndarray, what: np.ndarray, colour: tuple[int, int, int]) -> np.ndarray:
    """A thing of one colour laid on a photograph, lit as broadly as what lies below it."""
    light = cv2.GaussianBlur(photo.astype(np.float32).mean(axis=2), (0, 0), 30)
    light /= np.median(light[what])
    lit = np.clip(np.array(colour) * np.clip(light, 0.2, 1.5)[..., None], 0, 255)
    return np.where(what[..., None], lit, photo).astype(np.uint8)


def judged(photo: np.ndarray, what: np.ndarray, skin: np.ndarray) -> tuple[float, float]:
    """Share of a thing that is taken for skin, and overlap of the skin beside it."""
    height, width = photo.shape[:2]
    labels = Study.of_bytes(jpeg(photo), begun(width, height)).sitter.regions().labels
    size = labels.shape[::-1]
    what, skin = (
        cv2.resize(m.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST) > 0 for m in (what, skin)
    )
    seen, true = (labels == Region.SKIN) & ~what, skin & ~what
    return float((labels[what] == Region.SKIN).mean()), float((seen & true).sum() / (seen | true).sum())


def straps(skin: np.ndarray) -> np.ndarray:
    """Two narrow straps over bare shoulders, a sixtieth of the height wide."""
    low = skin.copy()
    low[: int(0.62 * len(low))] = False
    lines = np.zeros(skin.shape, np.uint8)
    for share in (0.25, 0.75):
        x = int(np.quantile(np.nonzero(low)[1], share))
        ends = (x, int(0.6 * len(low))), (x + int(0.05 * low.shape[1]), len(low))
        cv2.line(lines, *ends, 1, round(len(low) / 62))
    return (lines > 0) & skin


@pytest.mark.parametrize("room", [72, 74])
def test_shoulders_behind_straps_are_skin_in_other_rooms(room: int) -> None:
    photo, labels = restaged("selda", room)
    what = straps(labels == 1)
    for colour in ((25, 25, 30), (150, 40, 45)):
        assert judged(covered(photo, what, colour), what, labels == 1)[1] > 0.9


@pytest.mark.parametrize("mirrored", [False, True])
@pytest.mark.parametrize("colour", [(25, 25, 30), (230, 228, 225), (150, 40, 45)])
def test_a_strap_is_cloth_and_the_shoulder_behind_it_is_skin(
    colour: tuple[int, int, int], mirrored: bool
) -> None:
    """Narrow straps over bare shoulders part them from the neck."""
    photo, skin = photograph("selda"), truth("selda").labels == 1
    what = straps(skin)
    worn = covered(photo, what, colour)
    if mirrored:
        worn, what, skin = worn[:, ::-1].copy(), what[:, ::-1], skin[:, ::-1]
    as_skin, overlap = judged(worn, what, skin)
    assert as_skin < 0.15
    assert overlap > 0.93, "0.62 to 0.77 where growing ended at the straps"


@pytest.mark.parametrize("name", ["maren", "orsolya", "hedda"])
@pytest.mark.parametrize("colour", [(50, 50, 52), (150, 150, 155)])
def test_a_microphone_is_no_skin_and_spoils_none(name: str, colour: tuple[int, int, int]) -> None:
    """Before the chin, on a stand over the clothes."""
    photo = photograph(name)
    study = Study.of_bytes(truth(name).data, begun(photo.shape[1], photo.shape[0]))
    face = study.sitter.face
    assert face is not None
    height, width = photo.shape[:2]
    size, (x, y) = face.height((height, width)), face.chin * (width, height)
    held = np.zeros((height, width), np.uint8)
    at = (int(x), int(y - 0.02 * size))
    cv2.line(held, at, (int(x + 0.2 * size), height), 1, int(0.08 * size))
    cv2.circle(held, at, int(0.14 * size), 1, -1)
    labels = truth(name).labels == 1
    skin = cv2.resize(labels.astype(np.uint8), (width, height), interpolation=cv2.INTER_NEAREST) > 0
    as_skin, overlap = judged(covered(photo, held > 0, colour), held > 0, skin)
    _, before = judged(photo, held > 0, skin)
    assert as_skin < 0.1
    assert overlap > before - 0.03


@pytest.mark.parametrize("name", ["orsolya", "maren"])
def test_hair_fallen_before_the_chin_is_no_cloth(name: str) -> None:
    """A handful of the sitter's own hair laid over chin and neck."""
    photo = photograph(name)
    height, width = photo.shape[:2]
    face = Study.of_bytes(truth(name).data, begun(width, height)).sitter.face
    assert face is not None
    size, (x, y) = int(face.height((height, width))), face.chin * (width, height)
    labels = cv2.resize(truth(name).labels, (width, height), interpolation=cv2.INTER_NEAREST)
    side = int(0.22 * size)
    hair = cv2.boxFilter((labels == 2).astype(np.float32), -1, (side, side))
    row, column = np.unravel_index(int(hair.argmax()), hair.shape)
    piece = photo[row - side // 2 : row + side // 2, column - side // 2 : column + side // 2]
    fallen = photo.copy()
    for down in (-0.2, 0.0):
        top, left = int(y + down * size), int(x - side // 2)
        fallen[top : top + piece.shape[0], left : left + piece.shape[1]] = piece
    what = np.zeros((height, width), bool)
    what[
        int(y - 0.2 * size) : int(y) + piece.shape[0],
        int(x - side // 2) : int(x - side // 2) + piece.shape[1],
    ] = True
    found = Study.of_bytes(jpeg(fallen), begun(width, height)).sitter.regions().labels
    what = cv2.resize(what.astype(np.uint8), found.shape[::-1], interpolation=cv2.INTER_NEAREST) > 0
    assert (found[what] == Region.GARMENT).mean() < 0.15
