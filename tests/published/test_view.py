"""Where a painting lies in its photograph, and the fall of a lamp, against geometry known from elsewhere."""

from __future__ import annotations

import numpy as np
import pytest
from skimage.transform import ProjectiveTransform

from truesitter.core.easel.find.view import UNIT, View
from truesitter.core.easel.lamp.lighting import lighting_of

GRID = np.stack(np.meshgrid(np.linspace(0.03, 0.97, 9), np.linspace(0.03, 0.97, 9)), -1).reshape(-1, 2)


def test_a_view_is_a_homography() -> None:
    """Source: scikit-image's ProjectiveTransform from four points given by hand (0.01 px)."""
    corners = np.array([(0.14, 0.11), (0.86, 0.17), (0.90, 0.93), (0.10, 0.88)])
    view = View.of_corners(corners, (1600, 1200))
    theirs = ProjectiveTransform.from_estimate(UNIT, corners * (1200, 1600))
    assert theirs
    assert np.abs(view.seen(GRID) - theirs(GRID)).max() < 0.01
    assert np.abs(view.corners() - corners).max() < 1e-6


def test_a_lamp_close_by_falls_off_in_a_curve() -> None:
    """Source: the inverse square of the distance. A made canvas, a lamp that loses two thirds across it."""
    rng = np.random.default_rng(6)
    wanted = rng.uniform(0.05, 0.8, (200, 160, 3)).astype(np.float32)
    x = np.arange(160)[None].repeat(200, 0)
    lamp = (1.3 / (1.3 + (x + 0.5) / 160 - 0.5)) ** 2 * 0.5
    seen = (wanted * lamp[..., None] * (1.0, 0.8, 0.6)).astype(np.float32)
    found = lighting_of(seen, wanted, np.ones((200, 160), bool))
    ratio = found.over((200, 160)) / (lamp[..., None] * (1.0, 0.8, 0.6))
    assert np.abs(np.log(ratio[5:-5, 5:-5])).max() < 0.03
    assert found.fall_off == pytest.approx(1 - lamp.min() / lamp.max(), abs=0.05)
