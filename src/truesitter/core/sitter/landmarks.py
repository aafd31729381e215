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
from truesitter.core.sitter.tuning import FACE_LONG_SIDE, LEAST_ON_SITTER, PERSON_LONG_SIDE
from truesitter.core.types import Bytes, Floats

_lock = threading.Lock()
_started: list[bool] = []
"""Holds something once a face was found: all parts of the detector have then said their first words."""

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
def _models() -> tuple[Any, Any]:
    _only_what_is_used()
    from mediapipe.python.solutions import face_mesh, selfie_segmentation

    return (
        face_mesh.FaceMesh(static_image_mode=True, refine_landmarks=True, max_num_faces=1),
        selfie_segmentation.SelfieSegmentation(model_selection=0),
    )


def warm_up() -> None:
    """Load the models now, so that the first photograph need not wait for them."""
    detect(np.zeros((64, 64, 3), np.uint8))


def detect(picture: Bytes) -> Detection:
    """Find the face landmarks and the person mask in an sRGB picture (H, W, 3) uint8."""
    face_input = _shrink(picture, FACE_LONG_SIDE)
    person_input = _shrink(picture, PERSON_LONG_SIDE)
    with _lock, _chatter_held_back() if not _started else contextlib.nullcontext():
        face_model, person_model = _models()
        found = face_model.process(face_input).multi_face_landmarks
        person = np.asarray(person_model.process(person_input).segmentation_mask, dtype=np.float32)
        _started.extend([True] if found else [])
    face = None
    if found:
        face = Face(np.array([(p.x, p.y, p.z) for p in found[0].landmark], dtype=np.float64))
        if share_on_sitter(face, person) < LEAST_ON_SITTER:
            face = None
    return Detection(face=face, person=np.clip(person, 0, 1))


def share_on_sitter(face: Face, person: Floats) -> float:
    """Mean likelihood, 0–1, that a face's landmarks lie on the sitter.

    Only those inside the picture are asked: a face may be cropped by the frame. 0 when none is.
    """
    height, width = person.shape
    x, y = np.floor(in_pixels(face.points[:, :2], (height, width))).astype(int).T
    inside = (x >= 0) & (x < width) & (y >= 0) & (y < height)
    return float(person[y[inside], x[inside]].mean()) if inside.any() else 0.0
