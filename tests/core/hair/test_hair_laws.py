"""Laws of what is read of hair, by hand: spread along strands, a band of light on a ball, a whorl."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.hair.test_growth import SIZE, whorl_field
from truesitter.core.hair.field.whorls import find_whorls
from truesitter.core.hair.locks.hair_shine import expected_band
from truesitter.core.hair.locks.volumes import Along, masked_blur


def straight(degrees: float, shape: tuple[int, int]) -> np.ndarray:
    """Strands of one direction, y up."""
    way = np.array([np.cos(np.radians(degrees)), np.sin(np.radians(degrees))], np.float32)
    return np.broadcast_to(way, (*shape, 2)).copy()


@pytest.mark.parametrize("sigma", [1.5, 4.0, 9.0, 20.0])
@pytest.mark.parametrize("degrees", [0, 90, 30, 135])
def test_light_spreads_along_strands_by_its_sigma_and_not_across(degrees: int, sigma: float) -> None:
    """The second moments of a spot after blurring: sigma squared along, next to nothing across."""
    shape = (201, 201)
    light = np.zeros(shape, np.float32)
    light[100, 100] = 1.0
    out = Along(straight(degrees, shape), np.ones(shape, bool)).blur(light, sigma)
    rows, columns = np.mgrid[0:201, 0:201] - 100.0
    along = columns * np.cos(np.radians(degrees)) - rows * np.sin(np.radians(degrees))
    across = columns * np.sin(np.radians(degrees)) + rows * np.cos(np.radians(degrees))
    total = float(out.sum())
    assert total == pytest.approx(1, abs=0.03)
    assert float((out * along**2).sum() / total) == pytest.approx(sigma**2, rel=0.12, abs=0.6)
    assert float((out * across**2).sum() / total) < 0.1 * sigma**2 + 1.2
    assert abs(float((out * along).sum() / total)) < 0.2


def test_nothing_is_taken_from_outside_the_hair() -> None:
    mask = np.zeros((60, 80), bool)
    mask[10:50, 20:60] = True
    light = np.where(mask, 2.0, 50.0).astype(np.float32)
    out = Along(straight(20, mask.shape), mask).blur(light, 6.0)
    np.testing.assert_allclose(out[mask], 2.0, atol=0.02)
    np.testing.assert_array_equal(out[~mask], light[~mask])
    np.testing.assert_allclose(masked_blur(light, mask, 5.0)[mask], 2.0, atol=0.02)
    nothing = Along(straight(20, mask.shape), np.zeros_like(mask)).blur(light, 6.0)
    np.testing.assert_array_equal(nothing, light)


@pytest.mark.parametrize("up", [20.0, 45.0, 70.0])
def test_the_band_of_light_lies_where_hair_is_square_to_the_middle_of_light_and_eye(
    up: float,
) -> None:
    """Hair down the meridians of a ball: a strand at latitude t makes sin(t - up / 2) with that middle."""
    radius = 70
    rows, columns = np.mgrid[0:181, 0:181] - 90.0
    ball = np.hypot(rows, columns) < radius
    key = (0.0, float(np.sin(np.radians(up))), float(np.cos(np.radians(up))))
    band = expected_band(straight(-90, ball.shape), ball, key)
    row = int(np.argmax(band[:, 90] * ball[:, 90]))
    assert (90 - row) / radius == pytest.approx(np.sin(np.radians(up / 2)), abs=0.06)
    assert band.max() <= 1
    # It falls off to either side, and is the same left and right.
    assert band[row, 90] > 2 * band[90 + radius // 2, 90]
    np.testing.assert_allclose(band, band[:, ::-1], atol=0.02)
    turned = expected_band(straight(90, ball.shape)[::-1], ball[::-1], (key[0], -key[1], key[2]))
    np.testing.assert_allclose(turned, band[::-1], atol=0.02)


def test_a_whorl_is_found_where_it_turns() -> None:
    for x, y in ((60.3, 60.3), (40.3, 75.3)):
        rows, columns = np.mgrid[0:SIZE, 0:SIZE].astype(float)
        angle = np.arctan2(-(rows - y), columns - x)
        z = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]).astype(np.float32)
        field = whorl_field(1.0)
        (found,) = find_whorls(type(field)(z, field.coherence, field.kinds))
        assert (found.x * SIZE, found.y * SIZE) == pytest.approx((x + 0.5, y + 0.5), abs=0.8)
        assert found.index == 1.0
