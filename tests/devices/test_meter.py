"""The simulated colour meter: noisy readings of what is truly in a tube."""

from __future__ import annotations

import numpy as np
import pytest

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.paint.tubes.pigments import pigment_curves
from truesitter.core.refusal import Refusal
from truesitter.devices.meter import SimulatedMeter, made_up_paint, true_reflectance


def test_readings_scatter_as_a_hand_held_meters_do() -> None:
    """Short-term repeatability of hand-held meters is a few tenths of ΔE (from memory)."""
    meter = SimulatedMeter(seed=1)
    labs = np.array([meter.read("jar", "yellow-ochre", "masstone").lab for _ in range(60)])
    true = reflectance_to_lab(true_reflectance(made_up_paint("jar", "yellow-ochre"), "masstone"))
    off = delta_e_2000(labs, true)
    assert 0.02 < np.median(off) < 0.4
    assert off.max() < 1
    assert np.linalg.norm(labs.mean(axis=0) - true) < 0.1


def test_the_same_tube_holds_the_same_paint_and_another_one_another() -> None:
    one, again = made_up_paint("jar", "yellow-ochre"), made_up_paint("jar", "yellow-ochre")
    np.testing.assert_array_equal(one.curves.absorption, again.curves.absorption)
    other = made_up_paint("tin", "yellow-ochre")
    assert not np.allclose(one.curves.absorption, other.curves.absorption, rtol=0.01)
    assert not np.allclose(one.curves.absorption, pigment_curves()["yellow-ochre"].absorption, rtol=0.01)


def test_a_seed_repeats_the_noise_and_an_unknown_patch_is_refused() -> None:
    first, second = (SimulatedMeter(7).read("jar", "viridian", "tint") for _ in range(2))
    assert first == second
    assert len(first.reflectance) == 31
    with pytest.raises(Refusal, match="no patch called “lid”"):
        SimulatedMeter(7).read("jar", "viridian", "lid")
