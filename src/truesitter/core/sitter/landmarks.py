"""Face landmarks and the person mask: the one module that knows the detector.

The detector and its models come inside the mediapipe wheel; nothing is fetched.
Everything else in the core works from the plain arrays returned here, and
works without them when no face is found.
"""

from __future__ import annotations

import contextlib
import importlib.util
import os
import re
import sys
import tempfile
import threading
import types
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import Face
from truesitter.core.sitter.tuning import (
    BODY_ABOVE,
    BODY_BELOW,
    BODY_SIDE,
    CLOSE_LONG_SIDE,
    FACE_LONG_SIDE,
    FACE_ROOM,
    FACE_SURE,
    LEAST_FACE_PX,
    LEAST_ON_SITTER,
    LEAST_PERSON,
    PERSON_LONG_SIDE,
    PERSON_SURE,
)
from truesitter.core.types import Bytes, Floats

_lock = threading.Lock()
_started: list[bool] = []
"""Holds something once a face was found: all parts of the detector have then said their first words."""

Box = tuple[float, float, float, float]
"""Left, top, width and height, in fractions."""

_CHATTER = re.compile(rb"INFO: Created |WARNING: All log messages|[IW]\d{4} ")


@dataclass(frozen=True)
class Detection:
    """What was found in a picture.

    Attributes
    ----------
    face
        Frontal or three-quarter, or None when none was found.
    person
        (h, w) probability in [0, 1] that a pixel belongs to the sitter, at a
        reduced size with the picture's proportions.
    """

    face: Face | None
    person: Floats


def _shrink(picture: Bytes, long_side: int) -> Bytes:
    height, width = picture.shape[:2]
    scale = long_side / max(height, width)
    if scale >= 1:
        return np.ascontiguousarray(picture)
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    return cv2.resize(picture, size, interpolation=cv2.INTER_AREA)


@contextlib.contextmanager
def _chatter_held_back() -> Iterator[None]:
    """Take the native code's start-up chatter out of standard error; all else is passed on, a moment later.

    The detector offers no way to quieten it, and writes to the descriptor that the whole process shares.
    """
    saved = os.dup(2)
    with tempfile.TemporaryFile() as held:
        try:
            os.dup2(held.fileno(), 2)
            yield
        finally:
            os.dup2(saved, 2)
            os.close(saved)
            held.seek(0)
            os.write(2, b"".join(line for line in held if not _CHATTER.match(line)))


def _only_what_is_used() -> None:
    """Let mediapipe's packages be entered without running what they import by themselves.

    They load plotting, hands, poses, text and audio, which takes four times as long as the two models
    that are asked for. Their modules are found all the same, as in any package.
    """
    found = importlib.util.find_spec("mediapipe")
    if found is None or not found.submodule_search_locations or "mediapipe" in sys.modules:
        return
    root = Path(found.submodule_search_locations[0])
    for name in ("mediapipe", "mediapipe.python", "mediapipe.python.solutions"):
        package = types.ModuleType(name)
        package.__path__ = [str(root.joinpath(*name.split(".")[1:]))]
        sys.modules[name] = package
        above, _, own = name.rpartition(".")
        if above:
            setattr(sys.modules[above], own, package)


@cache
def _models() -> tuple[Any, Any, Any]:
    _only_what_is_used()
    from mediapipe.python.solutions import face_detection, face_mesh, selfie_segmentation

    # The one for faces at any distance: the mesh's own finds heads of a seventh of the picture or more.
    boxes = face_detection.FaceDetection(model_selection=1, min_detection_confidence=FACE_SURE)
    # It is asked seldom: its first words are to be said while they are held back.
    boxes.process(np.zeros((64, 64, 3), np.uint8))
    return (
        face_mesh.FaceMesh(static_image_mode=True, refine_landmarks=True, max_num_faces=1),
        selfie_segmentation.SelfieSegmentation(model_selection=0),
        boxes,
    )


def warm_up() -> None:
    """Load the models now, so that the first photograph need not wait for them."""
    detect(np.zeros((64, 64, 3), np.uint8))


def detect(picture: Bytes) -> Detection:
    """Find the face landmarks and the person mask in an sRGB picture (H, W, 3) uint8.

    A head too small for the landmarks to be found in the whole picture is looked for closer.
    """
    with _running():
        person = _person(_shrink(picture, PERSON_LONG_SIDE))
        face = _mesh(_shrink(picture, FACE_LONG_SIDE))
        if face is not None and share_on_sitter(face, person) >= LEAST_ON_SITTER:
            return Detection(face, person)
        boxes = _face_boxes(picture)
        for box in boxes:
            near = _mesh_within(picture, box)
            if near is None:
                continue
            closer = _person_within(picture, box, person)
            if share_on_sitter(near, closer) >= LEAST_ON_SITTER:
                return Detection(near, closer)
    return Detection(None, without_doubtful(person, bool(boxes)))


def without_doubtful(person: Floats, head: bool) -> Floats:
    """The map of the sitter, empty where nothing but a small patch of it speaks for a person.

    The model for persons takes a cup or a horse for one; where no head is found either, whichever way it
    looks, only what fills much of the picture is believed (a back, a figure cut off at the neck).

    Parameters
    ----------
    person
        (h, w) likelihood of being the sitter, 0–1.
    head
        True where the detector of faces found one, though no landmarks in it.

    Examples
    --------
    >>> patch = np.zeros((10, 10), np.float32)
    >>> patch[:3, :3] = 1
    >>> float(without_doubtful(patch, head=False).max()), float(without_doubtful(patch, head=True).max())
    (0.0, 1.0)
    """
    if head or float((person > PERSON_SURE).mean()) >= LEAST_PERSON:
        return person
    return np.zeros_like(person)


def detect_faces(picture: Bytes) -> tuple[Face, ...]:
    """All faces in an sRGB picture (H, W, 3) uint8 whose landmarks can be found, the largest first."""
    with _running():
        found = [face for box in _face_boxes(picture) if (face := _mesh_within(picture, box))]
    return tuple(sorted(found, key=lambda face: -face.height(picture.shape)))


@contextlib.contextmanager
def _running() -> Iterator[None]:
    """The detectors are asked by one thread at a time; what they say when they start is held back."""
    with _lock, _chatter_held_back() if not _started else contextlib.nullcontext():
        yield


def _mesh(picture: Bytes) -> Face | None:
    found = _models()[0].process(picture).multi_face_landmarks
    if not found:
        return None
    if not _started:
        _started.append(True)
    return Face(np.array([(p.x, p.y, p.z) for p in found[0].landmark], dtype=np.float64))


def _person(picture: Bytes) -> Floats:
    return np.clip(np.asarray(_models()[1].process(picture).segmentation_mask, np.float32), 0, 1)


def _person_within(picture: Bytes, box: Box, person: Floats) -> Floats:
    """The map of the sitter with what a closer look at a face and the body below it adds."""
    left, top, wide, high = box
    x, y = left + wide / 2, top + high / 2
    sides = (x - BODY_SIDE * wide, x + BODY_SIDE * wide, y - BODY_ABOVE * high, y + BODY_BELOW * high)
    x0, x1, y0, y1 = np.clip(sides, 0, 1)
    pictured, mapped = (
        (slice(round(y0 * height), round(y1 * height)), slice(round(x0 * width), round(x1 * width)))
        for height, width in (picture.shape[:2], person.shape)
    )
    merged = person.copy()
    close, part = picture[pictured], merged[mapped]
    if min(*part.shape, *close.shape[:2]) < LEAST_FACE_PX / 4:
        return person
    near = _person(_shrink(np.ascontiguousarray(close), PERSON_LONG_SIDE))
    np.maximum(part, cv2.resize(near, part.shape[::-1], interpolation=cv2.INTER_AREA), out=part)
    return merged


def _face_boxes(picture: Bytes) -> list[Box]:
    """Boxes of faces in fractions: left, top, width, height; the surest first."""
    found = _models()[2].process(_shrink(picture, FACE_LONG_SIDE)).detections or []
    boxes = [d.location_data.relative_bounding_box for d in sorted(found, key=lambda d: -d.score[0])]
    return [(b.xmin, b.ymin, b.width, b.height) for b in boxes]


def _mesh_within(picture: Bytes, box: Box) -> Face | None:
    """The face of a box, looked for in a closer crop and told in fractions of the whole picture."""
    height, width = picture.shape[:2]
    left, top, wide, high = box
    reach = FACE_ROOM / 2 * max(wide * width, high * height)
    x, y = (left + wide / 2) * width, (top + high / 2) * height
    x0, x1 = (int(np.clip(v, 0, width)) for v in (x - reach, x + reach))
    y0, y1 = (int(np.clip(v, 0, height)) for v in (y - reach, y + reach))
    if min(x1 - x0, y1 - y0) < LEAST_FACE_PX:
        return None
    close = picture[y0:y1, x0:x1]
    # The landmarks are found no better in more pixels, and not at all in too few.
    scale = max(1.0, CLOSE_LONG_SIDE / max(close.shape[:2]))
    close = cv2.resize(close, None, fx=scale, fy=scale, interpolation=cv2.INTER_CUBIC)
    face = _mesh(_shrink(close, FACE_LONG_SIDE))
    if face is None:
        return None
    size = np.array([(x1 - x0) / width, (y1 - y0) / height, (x1 - x0) / width])
    return Face(face.points * size + (x0 / width, y0 / height, 0.0))


def share_on_sitter(face: Face, person: Floats) -> float:
    """Mean likelihood, 0–1, that a face's landmarks lie on the sitter.

    Only those inside the picture are asked: a face may be cropped by the frame. 0 when none is.
    """
    height, width = person.shape
    x, y = np.floor(in_pixels(face.points[:, :2], (height, width))).astype(int).T
    inside = (x >= 0) & (x < width) & (y >= 0) & (y < height)
    return float(person[y[inside], x[inside]].mean()) if inside.any() else 0.0
