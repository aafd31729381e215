"""Shared by the tests of the easel: paintings photographed, and faults planted by another way."""

from __future__ import annotations

import hashlib
from functools import cache
from typing import Any

import cv2
import numpy as np

from tests.conftest import BACK_VIEW_SCRIBBLES, jpeg, truth
from truesitter.core.colour.value import lightness_map_to_value, value_to_lightness
from truesitter.core.graph.memo import Memo
from truesitter.core.settings import PaintingSettings, StudySettings
from truesitter.core.stages import Study
from truesitter.devices.camera import Studio, photograph

SHOTS: dict[str, bytes] = {}
_MEMO = Memo()


@cache
def painter(name: str, school: str = "layered-oil") -> Study:
    """A demo sitter on a canvas of 320 × 400 mm, and whatever was photographed on the easel."""
    chosen: dict[str, Any] = {
        "reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}, "passes": {"school": school},
    }  # fmt: skip
    if name == "ines":
        chosen["regions"] = {"scribbles": BACK_VIEW_SCRIBBLES}
    if school.startswith("watercolour"):
        chosen["flesh"] = {"medium": "watercolour"}
    settings = StudySettings.model_validate(chosen)
    return Study.of_bytes(truth(name).data, settings, _MEMO, SHOTS.__getitem__)


def shot(picture: np.ndarray, after: int | None = None, **more: Any) -> PaintingSettings:
    """A photograph taken in: how it is read."""
    data = jpeg(picture)
    sha256 = hashlib.sha256(data).hexdigest()
    SHOTS[sha256] = data
    known = {"key": sha256[:12], "sha256": sha256, "name": "x.jpg", "taken_at": "2026-11-27", "after": after}
    return PaintingSettings.model_validate({**known, **more})


def photographed(canvas: np.ndarray, seed: int, after: int | None = None, **more: Any) -> PaintingSettings:
    """A canvas photographed in a studio drawn by lot."""
    return shot(photograph(canvas, Studio.by_lot(seed)).picture, after, **more)


def relit(canvas: np.ndarray, where: np.ndarray, steps: float) -> np.ndarray:
    """A canvas with a place made lighter by so many value steps: in OpenCV's L*a*b*, its rim blurred."""
    lab = cv2.cvtColor((canvas / 255).astype(np.float32), cv2.COLOR_RGB2LAB)
    share = cv2.GaussianBlur(where.astype(np.float32), (0, 0), 4)
    value = lightness_map_to_value(np.ascontiguousarray(lab[..., 0]))
    lab[..., 0] = value_to_lightness(np.clip(value + steps * share, 0.3, 9.6))
    return np.clip(cv2.cvtColor(lab, cv2.COLOR_LAB2RGB) * 255, 0, 255).round().astype(np.uint8)


def pushed(canvas: np.ndarray, box: tuple[int, int, int, int], right: float, down: float) -> np.ndarray:
    """A canvas with what is in a box moved by so many pixels: cut out along an ellipse and pasted."""
    left, top, x2, y2 = box
    height, width = canvas.shape[:2]
    matrix = np.array([[1, 0, right], [0, 1, down]], np.float32)
    moved = cv2.warpAffine(canvas, matrix, (width, height), borderMode=cv2.BORDER_REPLICATE)
    mask = np.zeros((height, width), np.float32)
    middle = ((left + x2) / 2 + right, (top + y2) / 2 + down)
    axes = (int((x2 - left) * 0.48), int((y2 - top) * 0.48))
    cv2.ellipse(mask, tuple(round(v) for v in middle), axes, 0, 0, 360, 1.0, -1)
    share = cv2.GaussianBlur(mask, (0, 0), 3)[..., None]
    return (moved * share + canvas * (1 - share)).round().astype(np.uint8)


def bristly(canvas: np.ndarray, amount: float, seed: int = 0) -> np.ndarray:
    """A canvas with marks of a coarse brush all over."""
    rng = np.random.default_rng(seed)
    marks = cv2.GaussianBlur(rng.normal(0, 1, canvas.shape[:2]).astype(np.float32), (0, 0), 6, sigmaY=1.2)
    return np.clip(canvas * (1 + amount * marks / marks.std())[..., None], 0, 255).round().astype(np.uint8)
