"""Edge width, perspective, largest circle and grids against libraries and arithmetic."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
import shapely
from scipy.special import ndtr
from skimage.transform import ProjectiveTransform

from tests.conftest import truth
from truesitter.core.reference.frame import keystone_matrix, rectify
from truesitter.core.refusal import Refusal
from truesitter.core.values.edges import Sharpness, read_edges, read_profiles, sharpness_of
from truesitter.core.values.outlines import trace_outlines
from truesitter.core.values.shapes import find_shapes, largest_circles

QUAD = ((0.12, 0.08), (0.9, 0.15), (0.82, 0.9), (0.2, 0.8))


@pytest.mark.parametrize("sigma", [2.0, 4.0, 8.0])
@pytest.mark.parametrize("turn", [0.0, 30.0, 90.0])
def test_a_blurred_step_is_as_wide_as_its_blur_says(sigma: float, turn: float) -> None:
    """10–90 % of a Gaussian-blurred step is 2.563 σ (quantiles of the normal distribution)."""
    y, x = np.mgrid[0:160, 0:160] + 0.5
    across = (x - 80) * np.cos(np.radians(turn)) + (y - 80) * np.sin(np.radians(turn))
    value = (3 + 4 * ndtr(across / sigma)).astype(np.float32)
    samples = read_edges((across > 0).astype(np.uint8), value, mm_per_px=0.5)
    inner = np.abs(samples.points - 80).max(axis=1) < 40
    assert np.median(samples.width[inner]) == pytest.approx(2.563 * sigma, rel=0.03)
    assert np.median(samples.contrast[inner]) == pytest.approx(4, abs=0.05)


def test_an_edge_ends_where_the_next_begins_and_grain_does_not_end_it() -> None:
    x = np.arange(-40, 41.0)
    line = 3 + 3 * ndtr(x / 4) - 3 * ndtr((x - 25) / 3)
    grain = np.random.default_rng(0).normal(0, 0.03, (200, x.size))
    found = read_profiles(line + grain)
    assert np.median(found.width) == pytest.approx(2.563 * 4, rel=0.12)
    assert np.median(found.contrast) == pytest.approx(3, abs=0.2)


SIGMAS = [(2.0, 2.0), (2.0, 8.0), (3.0, 6.0), (1.5, 6.0), (4.0, 12.0)]


@pytest.mark.parametrize(("dark", "light"), [*SIGMAS, *(pair[::-1] for pair in SIGMAS)])
@pytest.mark.parametrize(("turn", "lit"), [(0.0, 1), (0.0, 0), (35.0, 1), (180.0, 0)])
def test_the_soft_side_of_an_edge_is_found_and_how_soft(
    dark: float, light: float, turn: float, lit: int
) -> None:
    """The integral of two half-Gaussians of known σ: a side is 1.2816 σ, half a symmetric edge's 10–90 %."""
    y, x = np.mgrid[0:200, 0:200] + 0.5
    across = (x - 100) * np.cos(np.radians(turn)) + (y - 100) * np.sin(np.radians(turn))
    share = dark / (dark + light)
    way = np.where(
        across < 0, 2 * share * ndtr(across / dark), 1 - 2 * (1 - share) * (1 - ndtr(across / light))
    )
    labels = ((across > 0) == lit).astype(np.uint8)
    samples = read_edges(labels, (3 + 4 * way).astype(np.float32), mm_per_px=0.4)
    inner = np.abs(samples.points - 100).max(axis=1) < 40
    sides = np.median(samples.sides[inner], axis=0)
    assert sides == pytest.approx(np.array([1.2816 * dark, 1.2816 * light]), rel=0.1)
    towards = samples.lighter[inner] @ [np.cos(np.radians(turn)), np.sin(np.radians(turn))]
    assert towards == pytest.approx(1, abs=0.01)


@pytest.mark.parametrize(
    ("width", "contrast", "kind"),
    [(0.8, 3, Sharpness.HARD), (3, 3, Sharpness.FIRM), (7, 2, Sharpness.SOFT), (20, 2, Sharpness.LOST),
     (0.5, 0.1, Sharpness.LOST)],
)  # fmt: skip
def test_four_kinds_of_edges(width: float, contrast: float, kind: Sharpness) -> None:
    assert sharpness_of(width, contrast) is kind


def test_keystone_agrees_with_scikit_image() -> None:
    """Four corners onto a rectangle worked out by hand, and 50 other spots by scikit-image's homography.

    The corners lie at (96, 80), (720, 150), (656, 900), (160, 800); opposite sides are 627.9 and
    506.0, 752.7 and 722.8 long, so the rectangle is 566.9 × 737.8 about the middle (408, 482.5).
    """
    rectangle = [(124.53, 113.61), (691.47, 113.61), (691.47, 851.39), (124.53, 851.39)]
    matrix = keystone_matrix(QUAD, 800, 1000)
    corners = np.array(QUAD) * (800, 1000)
    theirs = ProjectiveTransform.from_estimate(corners, np.array(rectangle))
    spots = np.random.default_rng(1).uniform(0.1, 0.9, (50, 2)) * (800, 1000)
    np.testing.assert_allclose(cv2.perspectiveTransform(corners[None], matrix)[0], rectangle, atol=0.01)
    np.testing.assert_allclose(cv2.perspectiveTransform(spots[None], matrix)[0], theirs(spots), atol=0.05)


def by_pixel(matrix: np.ndarray) -> np.ndarray:
    """A homography of positions as one of pixel numbers: centres lie half a pixel in."""
    shift = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    return np.linalg.inv(shift) @ matrix @ shift


def test_a_warped_sitter_comes_back_to_within_half_a_pixel() -> None:
    """A demo picture is seen from aside by a known homography and put right again."""
    data = np.frombuffer(truth("maren").data, np.uint8)
    picture = cv2.imdecode(data, cv2.IMREAD_REDUCED_COLOR_2)
    height, width = picture.shape[:2]
    seen = np.array([[0.15, 0.1], [0.85, 0.18], [0.8, 0.9], [0.2, 0.82]])
    flat = np.array([[0.2, 0.14], [0.8, 0.14], [0.8, 0.86], [0.2, 0.86]])
    aside = cv2.getPerspectiveTransform(
        (flat * (width, height)).astype(np.float32), (seen * (width, height)).astype(np.float32)
    )
    warped = cv2.warpPerspective(picture, by_pixel(aside), (width, height))
    right = rectify(warped, tuple(map(tuple, seen)))
    box = np.array(seen) * (width, height)
    sides = np.hypot(*(np.roll(box, -1, axis=0) - box).T)
    size = ((sides[0] + sides[2]) / 2, (sides[1] + sides[3]) / 2)
    middle = box.mean(axis=0)
    scale = (size[0] / (0.6 * width), size[1] / (0.72 * height))
    offset = (middle[0] - 0.5 * width * scale[0], middle[1] - 0.5 * height * scale[1])
    turn = np.array([[scale[0], 0, offset[0]], [0, scale[1], offset[1]], [0, 0, 1]])
    expected = cv2.warpPerspective(picture, by_pixel(turn), (width, height))
    inner = (slice(height // 3, height // 2), slice(width // 3, width // 2))
    a, b = (cv2.cvtColor(p[inner], cv2.COLOR_BGR2GRAY).astype(np.float32) for p in (right, expected))
    _, found = cv2.findTransformECC(
        cv2.GaussianBlur(a, (0, 0), 1), cv2.GaussianBlur(b, (0, 0), 1), np.eye(2, 3, dtype=np.float32),
        cv2.MOTION_TRANSLATION,
    )  # fmt: skip
    assert np.hypot(*found[:, 2]) < 0.5


@pytest.mark.parametrize("corners", [QUAD[::-1], (QUAD[0], QUAD[2], QUAD[1], QUAD[3]), (QUAD[0],) * 4])
def test_corners_that_cross_are_refused(corners: tuple[tuple[float, float], ...]) -> None:
    with pytest.raises(Refusal, match="corners"):
        keystone_matrix(corners, 100, 100)


def test_largest_circles_agree_with_shapely() -> None:
    y, x = np.mgrid[0:150, 0:200]
    labels = ((np.hypot(x - 60, (y - 70) * 1.3) < 45) * 1 + (x + y > 260) * 2).astype(np.uint8)
    circles = largest_circles(find_shapes(labels))
    for outline in trace_outlines(labels, tolerance=0):
        line = shapely.maximum_inscribed_circle(outline.polygon, tolerance=0.1)
        assert circles.radius[outline.shape] == pytest.approx(line.length, abs=1)
