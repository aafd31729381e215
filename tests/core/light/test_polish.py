"""Matt cloth and polished metal, drawn: range, hard edges, and what they mirror."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.light.mirrored.polish import edges_of, polish_of

SHAPE = (240, 240)
MM = 0.4
INSIDE = np.zeros(SHAPE, bool)
INSIDE[20:220, 20:220] = True


def bands(blur: float, low: float = 10, high: float = 95) -> np.ndarray:
    """Upright bands of dark and light L*, their borders blurred by so many pixels."""
    x = np.arange(SHAPE[1])
    lightness = np.where((x // 40) % 2, high, low).astype(np.float32)
    return cv2.GaussianBlur(np.repeat(lightness[None], SHAPE[0], axis=0), (0, 0), blur)


@pytest.mark.parametrize(("blur", "least", "most"), [(0.5, 0.85, 1.0), (5.0, 0.0, 0.05)])
def test_hard_edges_are_told_from_soft_ones(blur: float, least: float, most: float) -> None:
    """Steps blurred by a Gaussian of 0.2 mm are hard, of 2 mm (10–90 %: 5.1 mm) soft."""
    assert least <= edges_of(bands(blur) / 10, INSIDE, MM).share <= most


def test_half_the_edges_hard_is_about_half() -> None:
    both = bands(0.5)
    both[120:] = bands(5.0)[120:]
    both[112:128] = 50
    assert edges_of(both / 10, INSIDE, MM).share == pytest.approx(0.5, abs=0.15)
    assert edges_of(np.full(SHAPE, 5, np.float32), INSIDE, MM).share == 0


def test_metal_has_a_wide_range_and_hard_edges_and_cloth_has_not() -> None:
    def polish(lightness: np.ndarray) -> bool:
        lab = np.dstack([lightness, np.full(SHAPE, 3), np.full(SHAPE, 10)]).astype(np.float32)
        return polish_of(lab, INSIDE, MM, {}).polished

    assert polish(bands(0.5))
    assert not polish(bands(5.0)), "soft folds of great contrast are cloth"
    assert not polish(bands(0.5, 40, 65)), "printed stripes of small contrast are cloth"


def test_lights_and_darks_lean_to_what_they_mirror() -> None:
    """A gold tray between a green wall and red cloth: lights greened, darks reddened."""
    lightness = bands(0.5, 25, 85)
    light = lightness > 50
    lab = np.dstack([lightness, np.where(light, 2, 25), np.where(light, 38, 12)]).astype(np.float32)
    around = {"background": np.array([60.0, -40, 20]), "garment": np.array([40.0, 50, 5])}
    found = polish_of(lab, INSIDE, MM, around)
    assert (found.lights, found.darks) == ("background", "garment")
    assert found.darkest < 3
    assert found.lightest > 8
    even = np.dstack([lightness, 0.2 * lightness, 0.4 * lightness]).astype(np.float32)
    alone = polish_of(even, INSIDE, MM, around)
    assert alone.lights is alone.darks is None


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_the_demo_sitters_wear_cloth(name: str) -> None:
    study = study_of(name)
    found = study.flesh.polish("garment")
    assert found is not None
    assert not found.polished
    assert study.flesh.polish("hair") is None
