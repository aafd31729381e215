"""Recesses: valleys drawn with known depth and width, and those of the demo faces."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.canvas.drawn.crease_lines import crease_lines
from truesitter.core.light.form.recesses import Recesses, find_recesses, valley_depth
from truesitter.core.light.form.tuning import DARK_SHARE, LEAST_DEPTH, WIDEST

SHAPE = (300, 300)
SCALE = 250.0


def valley(
    depth: float, width: float, turn: float = 0.0, length: int = 120, other: float = 0.0
) -> np.ndarray:
    """A groove through the middle of level skin of value 6, `other` lower on the side it is turned to."""
    y, x = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]] - 149.5
    along = x * np.cos(turn) + y * np.sin(turn)
    across = -x * np.sin(turn) + y * np.cos(turn)
    value = np.where(across > 0, 6.0 - other, 6.0)
    groove = (np.abs(across) < width / 2) & (np.abs(along) < length / 2) & (depth > 0)
    return np.where(groove, 6.0 - depth, value).astype(np.float32)


def found(value: np.ndarray) -> Recesses:
    return find_recesses(value, np.ones(value.shape, bool), None, SCALE)


@settings(max_examples=30)
@given(st.floats(0.6, 4), st.floats(3, 0.8 * WIDEST * SCALE), st.floats(0, np.pi))
def test_a_groove_is_found_with_its_depth_and_width(depth: float, width: float, turn: float) -> None:
    recesses = found(valley(depth, width, turn)).recesses
    assert len(recesses) == 1
    assert recesses[0].depth == pytest.approx(depth, abs=0.01)
    # A slanting groove's box is as long as its diagonal.
    assert recesses[0].width == pytest.approx(width, abs=0.25 * width + 1.2)
    assert abs(recesses[0].x - 0.5) < 0.25
    assert abs(recesses[0].y - 0.5) < 0.25


@pytest.mark.parametrize(
    ("value", "why"),
    [
        (valley(0.4, 6), "shallower than half a step"),
        (valley(2, 4 * WIDEST * SCALE), "wider than a recess is"),
        (valley(2, 6, length=4), "a spot"),
        (valley(0, 6, other=2), "a step has only one lower side"),
        (valley(1, 6, other=0.7), "it lies 0.3 below its lower side"),
    ],
)
def test_what_is_no_recess_is_not_told(value: np.ndarray, why: str) -> None:
    assert found(value).recesses == (), why


def test_depth_counts_from_the_lower_side() -> None:
    (recess,) = found(valley(2, 6, length=240, other=0.7)).recesses
    assert recess.depth == pytest.approx(1.3, abs=0.01)


def test_directions_across_are_right() -> None:
    for n in range(8):
        # Along y-down angle −n·22.5° + 90°: across is n·22.5° with y up.
        turn = np.pi / 2 - np.pi * n / 8
        depth, across = valley_depth(valley(2, 6, turn), 10)
        strip = (np.abs(depth - 2) < 0.01) & (np.hypot(*(np.mgrid[0:300, 0:300] - 149.5)) < 40)
        off = np.degrees(np.arctan2(across[strip, 1], across[strip, 0]) / 2) - 22.5 * n
        assert np.abs((off + 90) % 180 - 90).max() < 3


def test_the_soft_side_is_where_the_value_rises_slowly() -> None:
    """A crease that is crisp above and runs out over eight pixels below."""
    profile = np.full(SHAPE[0], 6.0)
    profile[150:160] = 6 - 2 * np.linspace(1, 0, 10)
    value = np.repeat(profile[:, None], SHAPE[1], axis=1).astype(np.float32)
    value[:, :90] = value[:, 210:] = 6.0
    result = found(cv2.GaussianBlur(value, (0, 0), 0.5))
    (recess,) = result.recesses
    assert recess.soft is not None
    assert recess.soft[1] > 0.9, "down the picture"
    flipped = found(cv2.GaussianBlur(value[::-1].copy(), (0, 0), 0.5)).recesses[0]
    assert flipped.soft is not None
    assert flipped.soft[1] < -0.9
    even = found(cv2.GaussianBlur(valley(2, 6), (0, 0), 1.5)).recesses[0]
    assert even.soft is None
    assert 0 < result.dark.sum() <= 0.5 * (result.first > 0).sum()


@pytest.mark.parametrize("name", ["maren", "tobias", "orsolya", "selda"])
def test_recesses_of_a_face(name: str) -> None:
    """The mouth line is among the three darkest recesses of a frontal face (common practice)."""
    result = study_of(name).light.recesses()
    names = [r.place for r in result.recesses]
    assert len(set(names)) == len(names)
    depths = [r.depth for r in result.recesses]
    assert depths == sorted(depths, reverse=True)
    assert min(depths) >= LEAST_DEPTH
    assert any("nostril" in n for n in names[:4])
    assert any("lid" in n for n in names[:4])
    if name in ("orsolya", "selda"):
        assert "mouth line" in names[:3]
    assert "mouth line" in names
    # The dark coat lies inside the first, on half of it at most.
    assert not (result.dark & (result.first == 0)).any()
    for recess in result.recesses:
        own = result.first == recess.number
        assert 0 < (result.dark & own).sum() <= 0.5 * own.sum() + 1
        assert DARK_SHARE <= 0.5


def test_wrinkles_are_lines_along_the_middle_of_their_fold() -> None:
    study = study_of("tobias")
    result = study.light.recesses()
    height, width = result.first.shape
    lines = crease_lines(result, 320 / width)
    assert 8 <= len(lines) <= 24
    for line in lines:
        rows, columns = (line.points[:, ::-1] * (height, width)).astype(int).T
        assert result.dark[rows, columns].mean() > 0.8
        assert line.widths_mm[0] < line.widths_mm.max() > line.widths_mm[-1]
        assert line.widths_mm.max() < WIDEST * result.scale * 320 / width
    forehead = [line for line in lines if line.points[:, 1].mean() < 0.34]
    across = [abs(np.ptp(line.points[:, 0])) > abs(np.ptp(line.points[:, 1])) for line in forehead]
    assert len(forehead) >= 4
    assert np.mean(across) > 0.8, "the folds of a forehead run across it"
    assert len(crease_lines(study_of("maren").light.recesses(), 320 / width)) < len(lines) / 2
