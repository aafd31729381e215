"""The section of a lock, drawn as known: round, two planes, flat; in any direction, on a noisy photograph."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.hair.locks.lock_forms import LockForm, read_forms
from truesitter.core.hair.locks.lock_shapes import Lock

SIDE, HALF = 200, 14.0


def drawn(angle: float, section: str, seed: int, steps: float = 1.2) -> LockForm:
    """A straight lock through the middle, its root at the lower end for an angle of 90 degrees."""
    way = np.array((np.cos(np.radians(angle)), -np.sin(np.radians(angle))))
    y, x = np.mgrid[0:SIDE, 0:SIDE] + 0.5 - SIDE / 2
    along = x * way[0] + y * way[1]
    right = way[0] * y - way[1] * x
    inside = (np.abs(right) < HALF) & (np.abs(along) < 70)
    u = right / HALF
    profile = {
        "round": steps * (1 - u**2), "round right": -steps / 2 * (u - 0.9) ** 2,
        "planes left": steps * (u < 0.2), "planes right": steps * (u > -0.3), "ribbon": 0 * u,
    }[section]  # fmt: skip
    # The light falls off along it, and the photograph is noisy.
    noise = np.random.default_rng(seed).normal(0, 0.25, u.shape)
    value = (4 + profile + along / 140 + noise).astype(np.float32)
    spine = (np.linspace(-70, 70, 12)[:, None] * way + SIDE / 2) / SIDE
    lock = Lock(1, spine, 2 * HALF, 140.0, int(inside.sum()), 0.5, steps, ())
    return read_forms(inside.astype(np.int32), value, [lock])[1]


@pytest.mark.parametrize("angle", [90, 0, 200, 305, 47])
@pytest.mark.parametrize("seed", range(3))
def test_each_section_is_told(angle: float, seed: int) -> None:
    found = drawn(angle, "round", seed)
    assert (found.form, found.lit, found.edge) == ("round", "middle", None)
    assert found.steps == pytest.approx(1.2, abs=0.35)
    found = drawn(angle, "round right", seed)
    assert (found.form, found.lit) == ("round", "right")
    for section, lit, edge in (("planes left", "left", 0.2), ("planes right", "right", -0.3)):
        found = drawn(angle, section, seed)
        assert (found.form, found.lit) == ("two planes", lit)
        assert found.edge == pytest.approx(edge, abs=0.25)
    assert drawn(angle, "ribbon", seed).form == "ribbon"


def test_light_that_falls_along_a_lock_is_not_of_its_section() -> None:
    """A flat lock, broad in the middle, where the light lies too: only there its borders are seen."""
    y, x = np.mgrid[0:SIDE, 0:SIDE] + 0.5 - SIDE / 2
    inside = (np.abs(y) < 70) & (np.abs(x) < HALF * (1 - (y / 72) ** 2))
    value = (4 + 2 * np.exp(-((y / 25) ** 2))).astype(np.float32)
    spine = np.column_stack([np.full(12, 0.5), np.linspace(70, -70, 12) / SIDE + 0.5])
    lock = Lock(1, spine, 2 * HALF, 140.0, int(inside.sum()), 0.5, 0.0, ())
    assert read_forms(inside.astype(np.int32), value, [lock])[1].form == "ribbon"


def test_what_is_too_small_has_no_section() -> None:
    numbers = np.zeros((40, 40), np.int32)
    numbers[10:14, 10:20] = 1
    lock = Lock(1, np.array([[0.25, 0.3], [0.5, 0.3]]), 4.0, 10.0, 40, 0.5, 0.5, ())
    assert read_forms(numbers, np.full((40, 40), 5, np.float32), [lock]) == {}


def test_a_mirrored_sitter_has_its_lit_sides_mirrored() -> None:
    hair = study_of("maren").hair
    locks, volumes = hair.locks(), hair.volumes()
    value = volumes.skull + volumes.locks
    as_is = read_forms(locks.numbers, value, locks.locks)
    flipped = [
        Lock(
            one.number, one.spine * (-1, 1) + (1, 0), one.width, one.length, one.area, one.turns,
            one.contrast, one.over,
        )
        for one in locks.locks
    ]  # fmt: skip
    mirrored = read_forms(locks.numbers[:, ::-1], value[:, ::-1], flipped)
    assert as_is
    same = [as_is[n].form == mirrored[n].form for n in as_is if n in mirrored]
    assert np.mean(same) > 0.9
    sides = {"left": "right", "right": "left", "middle": "middle"}
    assert np.mean([sides[as_is[n].lit] == mirrored[n].lit for n in as_is if n in mirrored]) > 0.9
