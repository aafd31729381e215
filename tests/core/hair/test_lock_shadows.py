"""Shadows that locks cast on one another, on made locks."""

from __future__ import annotations

import numpy as np
import pytest

from truesitter.core.hair.locks.lock_shadows import cast_shadows
from truesitter.core.hair.locks.lock_shapes import Lock

SHAPE = (160, 120)
X = np.arange(SHAPE[1]) + 0.5


def lock(number: int, over: tuple[int, ...] = ()) -> Lock:
    return Lock(number, np.array([(0.5, 0.1), (0.5, 0.9)]), 40, 160, 6400, 0.5, 1.0, over)


def side_by_side() -> np.ndarray:
    """Lock 1 at the left, 2 in the middle, nothing at the right."""
    return np.broadcast_to(np.select([X < 40, X < 80], [1, 2], 0), SHAPE).astype(np.int32)


def valued(across: np.ndarray) -> np.ndarray:
    return np.broadcast_to(across, SHAPE).astype(np.float32)


@pytest.mark.parametrize("steps", [0.5, 1.5])
@pytest.mark.parametrize("wide", [5.0, 12.0])
def test_a_planted_shadow_is_read(steps: float, wide: float) -> None:
    """A ramp of known depth on an even lock: half of it is left in the middle."""
    across = 5 - steps * np.clip(1 - (X - 40) / (2 * wide), 0, 1) * (X > 40)
    (shadow,) = cast_shadows(side_by_side(), valued(across), (lock(1, (2,)), lock(2)))[1]
    assert shadow.on == 2
    assert shadow.steps == pytest.approx(steps, rel=0.3)
    assert shadow.width == pytest.approx(wide, rel=0.4, abs=2.5)


def test_a_round_lock_lies_in_no_shadow() -> None:
    """Both borders of it are as dark."""
    across = 6 - 2 * ((X - 60) / 20) ** 2
    assert cast_shadows(side_by_side(), valued(across), (lock(1, (2,)), lock(2))) == {}


def test_light_that_is_left_beside_the_upper_lock_is_no_shadow() -> None:
    across = 5 + np.clip(1 - (X - 40) / 10, 0, 1) * (X > 40)
    assert cast_shadows(side_by_side(), valued(across), (lock(1, (2,)), lock(2))) == {}


def test_only_what_lies_over_another_casts() -> None:
    across = 5 - 1.5 * np.clip(1 - (X - 40) / 10, 0, 1) * (X > 40)
    assert cast_shadows(side_by_side(), valued(across), (lock(1), lock(2))) == {}


def test_the_darkest_shadow_comes_first_and_mirrors() -> None:
    numbers = np.broadcast_to(np.select([X < 4, X < 40, X < 60, X < 100], [0, 1, 2, 3], 0), SHAPE).astype(
        np.int32
    )
    across = (
        5
        - 0.6 * np.clip(1 - np.abs(X - 40) / 8, 0, 1) * (X < 40)
        - 1.4 * np.clip(1 - (X - 60) / 20, 0, 1) * (X > 60)
    )
    locks = (lock(1), lock(2, (1, 3)), lock(3))
    seen = cast_shadows(numbers, valued(across), locks)[2]
    assert [one.on for one in seen] == [3, 1]
    mirrored = cast_shadows(
        np.ascontiguousarray(numbers[:, ::-1]), np.ascontiguousarray(valued(across)[:, ::-1]), locks
    )[2]
    for one, other in zip(seen, mirrored, strict=True):
        assert (one.on, one.steps, one.width) == pytest.approx((other.on, other.steps, other.width), abs=0.02)
