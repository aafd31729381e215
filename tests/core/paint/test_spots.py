"""What is read under a finger: a spot, a rectangle, the shape and the group it lies in."""

from __future__ import annotations

import io

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image
from skimage.color import rgb2lab

from tests.conftest import study_of
from truesitter.core.colour.spaces import hex_to_srgb, srgb_to_hex
from truesitter.core.graph.memo import Memo
from truesitter.core.paint.tubes.fit import OPACITY_PRIOR, fit_white, masstone_lab
from truesitter.core.paint.tubes.pigments import pigment_curves, pigment_library
from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study

QUARTERS = ((200, 60, 40), (40, 160, 60), (50, 70, 190), (220, 200, 60))
"""Upper left, upper right, lower left, lower right."""


def quartered() -> Study:
    picture = np.zeros((400, 320, 3), np.uint8)
    for n, colour in enumerate(QUARTERS):
        picture[(n // 2) * 200 : (n // 2 + 1) * 200, (n % 2) * 160 : (n % 2 + 1) * 160] = colour
    buffer = io.BytesIO()
    Image.fromarray(picture).save(buffer, "PNG")
    chosen = {"reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}}
    return Study.of_bytes(buffer.getvalue(), StudySettings.model_validate(chosen), Memo())


def lab_of(*quarters: int) -> np.ndarray:
    """Mean L*a*b* of some quarters, by scikit-image."""
    return np.mean([rgb2lab(np.array(QUARTERS[q]) / 255) for q in quarters], axis=0)


def test_a_spot_is_read_where_it_lies() -> None:
    picture = quartered().picture
    for n, spot in enumerate(((0.25, 0.25), (0.75, 0.25), (0.25, 0.75), (0.75, 0.75))):
        np.testing.assert_allclose(picture.colour_at(spot), lab_of(n), atol=0.1)


@pytest.mark.parametrize(
    "corners", [((0.1, 0.2), (0.4, 0.9)), ((0.4, 0.9), (0.1, 0.2)), ((0.4, 0.2), (0.1, 0.9))]
)
def test_a_rectangle_is_read_whole_whichever_corners_mark_it(
    corners: tuple[tuple[float, float], ...],
) -> None:
    """Upper and lower left, 120 and 160 of 280 rows."""
    wanted = (3 * lab_of(0) + 4 * lab_of(2)) / 7
    np.testing.assert_allclose(quartered().picture.colour_at(*corners), wanted, atol=0.6)


def test_the_group_of_a_spot_is_read_over_its_own_region_only() -> None:
    study = study_of("maren")
    labels, regions = study.values.plan().labels, study.sitter.regions().labels
    lab = study.picture.lab()
    rng = np.random.default_rng(3)
    for row, col in zip(
        rng.integers(0, labels.shape[0], 12), rng.integers(0, labels.shape[1], 12), strict=True
    ):
        spot = ((col + 0.5) / labels.shape[1], (row + 0.5) / labels.shape[0])
        group, mean = study.flesh.colour_of_group(spot)
        same = (labels == labels[row, col]) & (regions == regions[row, col])
        assert group == labels[row, col]
        np.testing.assert_allclose(mean, lab[same].astype(float).mean(axis=0), atol=1e-3)


@given(st.tuples(*[st.integers(0, 255)] * 3))
def test_a_colour_written_down_is_read_back(colour: tuple[int, int, int]) -> None:
    srgb = np.array(colour) / 255
    assert srgb_to_hex(srgb) == "#{:02x}{:02x}{:02x}".format(*colour)
    np.testing.assert_allclose(hex_to_srgb(srgb_to_hex(srgb)), srgb, atol=1e-12)


@pytest.mark.parametrize(
    ("words", "sentence"),
    [("no such tube", "No such tube."), ("is it wet?", "Is it wet?"), ("Stop.", "Stop."), ("", ".")],
)
def test_a_refusal_is_a_whole_sentence(words: str, sentence: str) -> None:
    assert Refusal(words).sentence == sentence


@pytest.mark.parametrize("key", ["zinc-white", "lead-white"])
def test_other_whites_look_like_themselves_and_scatter_as_their_class(key: str) -> None:
    pigment, titanium = pigment_library()[key], pigment_curves()["titanium-white"]
    found = fit_white(pigment.masstone, pigment.opacity, titanium)
    np.testing.assert_allclose(masstone_lab(found), pigment.masstone, atol=0.05)
    np.testing.assert_allclose(found.scattering / titanium.scattering, OPACITY_PRIOR[pigment.opacity])
