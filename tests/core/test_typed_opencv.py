"""The types written for OpenCV are those its functions give back."""

from __future__ import annotations

import ast
import re
from pathlib import Path

import cv2
import numpy as np
import pytest

ROOT = Path(__file__).parents[2]
STUB = ast.parse((ROOT / "typings" / "cv2" / "__init__.pyi").read_text("utf-8"))
DISC = cv2.circle(np.zeros((40, 50), np.uint8), (25, 20), 9, 1, -1)
MOVE = np.array([[1, 0, 1], [0, 1, 1]], np.float32)
LOOK = np.zeros((40, 50), np.float32)
CORNERS = np.array([[0, 0], [9, 0], [9, 9], [0, 9]], np.float32)
KERNEL = np.ones((3, 3), np.uint8)

KEEPING = {
    "resize": lambda p: cv2.resize(p, (20, 20), interpolation=cv2.INTER_AREA),
    "GaussianBlur": lambda p: cv2.GaussianBlur(p, (0, 0), 2),
    "blur": lambda p: cv2.blur(p, (3, 3)),
    "medianBlur": lambda p: cv2.medianBlur(p, 5),
    "bilateralFilter": lambda p: cv2.bilateralFilter(p, 5, 12, 3),
    "dilate": lambda p: cv2.dilate(p, KERNEL),
    "erode": lambda p: cv2.erode(p, KERNEL),
    "morphologyEx": lambda p: cv2.morphologyEx(p, cv2.MORPH_GRADIENT, KERNEL),
    "remap": lambda p: cv2.remap(p, LOOK, LOOK, cv2.INTER_LINEAR),
    "warpAffine": lambda p: cv2.warpAffine(p, MOVE, (50, 40)),
    "warpPerspective": lambda p: cv2.warpPerspective(p, np.eye(3), (50, 40)),
    "copyMakeBorder": lambda p: cv2.copyMakeBorder(p, 1, 1, 1, 1, cv2.BORDER_REPLICATE),
    "split": lambda p: cv2.split(np.dstack([p, p, p]))[0],
    "cvtColor": lambda p: cv2.cvtColor(np.dstack([p, p, p]), cv2.COLOR_RGB2GRAY),
    "transform": lambda p: cv2.transform(np.dstack([p, p, p]), MOVE),
    "absdiff": lambda p: cv2.absdiff(p, p),
    "add": lambda p: cv2.add(p, p),
    "multiply": lambda p: cv2.multiply(p, p),
    "scaleAdd": lambda p: cv2.scaleAdd(p, 2.0, p),
}
MAKING = {
    "inRange": (lambda: cv2.inRange(LOOK, 1, 2), np.uint8),
    "Canny": (lambda: cv2.Canny(DISC, 8, 24), np.uint8),
    "getStructuringElement": (lambda: cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (5, 5)), np.uint8),
    "distanceTransform": (lambda: cv2.distanceTransform(DISC, cv2.DIST_L2, 5), np.float32),
    "distanceTransformWithLabels": (
        lambda: cv2.distanceTransformWithLabels(1 - DISC, cv2.DIST_L2, 5)[1],
        np.int32,
    ),
    "connectedComponents": (lambda: cv2.connectedComponents(DISC)[1], np.int32),
    "connectedComponentsWithStats": (lambda: cv2.connectedComponentsWithStats(DISC)[2], np.int32),
    "calcHist": (lambda: cv2.calcHist([DISC], [0], None, [256], [0, 256]), np.float32),
    "Sobel, 32": (lambda: cv2.Sobel(DISC, cv2.CV_32F, 1, 0), np.float32),
    "Sobel, 64": (lambda: cv2.Sobel(DISC, cv2.CV_64F, 1, 0), np.float64),
    "Laplacian": (lambda: cv2.Laplacian(DISC, cv2.CV_32F), np.float32),
    "findContours": (lambda: cv2.findContours(DISC, cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)[0][0], np.int32),
    "getPerspectiveTransform": (
        lambda: cv2.getPerspectiveTransform(
            *[np.eye(4, 2, dtype=np.float32) + np.eye(4, 2, -2, np.float32)] * 2
        ),
        np.float64,
    ),
    "getAffineTransform": (lambda: cv2.getAffineTransform(CORNERS[:3], CORNERS[1:]), np.float64),
    "createHanningWindow": (lambda: cv2.createHanningWindow((8, 8), cv2.CV_64F), np.float64),
    "convertMaps": (lambda: cv2.convertMaps(LOOK, LOOK, cv2.CV_16SC2)[0], np.int16),
    "imencode": (lambda: cv2.imencode(".png", DISC)[1], np.uint8),
}


@pytest.mark.parametrize("name", KEEPING)
def test_a_picture_keeps_its_element_type(name: str) -> None:
    for element in (np.uint8, np.float32):
        assert KEEPING[name](DISC.astype(element)).dtype == element


@pytest.mark.parametrize("name", MAKING)
def test_what_is_made_has_the_type_that_is_said(name: str) -> None:
    make, element = MAKING[name]
    assert make().dtype == element


def test_a_table_answers_with_its_own_type() -> None:
    for element in (np.uint8, np.float32, np.int32):
        assert cv2.LUT(DISC, np.zeros(256, element)).dtype == element


def test_nothing_is_listed_that_is_not_there_or_not_used() -> None:
    used = set()
    for path in (ROOT / "src").rglob("*.py"):
        used |= set(re.findall(r"\bcv2\.(\w+)", path.read_text("utf-8")))
    functions = {n.name for n in STUB.body if isinstance(n, ast.FunctionDef)}
    numbers = {
        n.target.id: n.annotation
        for n in STUB.body
        if isinstance(n, ast.AnnAssign) and isinstance(n.target, ast.Name) and n.value is None
    }
    for name in functions | set(numbers):
        assert hasattr(cv2, name), name
        assert name in used, name
    for name, said in numbers.items():
        if isinstance(said, ast.Subscript):
            assert getattr(cv2, name) == ast.literal_eval(said.slice), name
