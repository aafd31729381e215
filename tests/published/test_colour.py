"""Colour against published standards and the reference library colour-science."""

from __future__ import annotations

import colour
import numpy as np
import pytest
from skimage.color import lab2rgb

from truesitter.core.colour import (
    delta_e_2000,
    luminance_to_value,
    srgb_to_lab,
    srgb_to_linear,
    value_to_luminance,
)
from truesitter.core.colour.spaces import (
    RGB_TO_XYZ,
    WHITE_XYZ,
    lab_to_srgb,
    lab_to_xyz,
    linear_to_srgb,
    picture_to_lab,
    xyz_to_lab,
)
from truesitter.core.colour.spectrum import (
    WAVELENGTHS,
    observer_weights,
    reflectance_to_lab,
    smoothest_reflectance,
)
from truesitter.core.colour.value import (
    lstar_to_value,
    picture_luminance,
    value_to_lightness,
)
from truesitter.core.data import read_table
from truesitter.core.refusal import Refusal

RANDOM = np.random.default_rng(1).random((10_000, 3))
WHITE_XY = colour.XYZ_to_xy(WHITE_XYZ)


def test_srgb_to_xyz_and_lab_agree_with_colour_science() -> None:
    """Source: IEC 61966-2-1 and CIE 15, through colour-science."""
    linear = srgb_to_linear(RANDOM)
    np.testing.assert_allclose(linear, colour.models.eotf_sRGB(RANDOM), atol=1e-6)
    reference = colour.models.eotf_sRGB(RANDOM) @ colour.RGB_COLOURSPACES["sRGB"].matrix_RGB_to_XYZ.T
    np.testing.assert_allclose(linear @ RGB_TO_XYZ.T, reference, atol=1e-4)
    np.testing.assert_allclose(xyz_to_lab(reference), colour.XYZ_to_Lab(reference, WHITE_XY), atol=0.01)


def test_lab_to_srgb_agrees_with_scikit_image() -> None:
    """Second opinion: scikit-image, whose white differs in the fourth digit."""
    lab = srgb_to_lab(RANDOM)
    np.testing.assert_allclose(lab_to_srgb(lab), lab2rgb(lab, illuminant="D65"), atol=2e-3)
    np.testing.assert_allclose(lab_to_srgb(lab), RANDOM, atol=1e-9)
    np.testing.assert_allclose(lab_to_xyz(xyz_to_lab(lab_to_xyz(lab))), lab_to_xyz(lab), atol=1e-12)


def test_encoding_is_the_inverse_of_decoding() -> None:
    np.testing.assert_allclose(linear_to_srgb(srgb_to_linear(RANDOM)), RANDOM, atol=1e-9)


def test_value_agrees_with_astm_d1535() -> None:
    """Source: ASTM D1535 polynomial, through colour-science."""
    y = np.linspace(0.05, 100, 400)
    expected = colour.notation.munsell_value_ASTMD1535(y)
    np.testing.assert_allclose(luminance_to_value(y / 100), expected, atol=0.01)


MAGNESIUM_OXIDE = 1.0257
"""Reflectance of magnesium oxide, the 1943 reference white, to a perfect diffuser (ASTM D1535)."""


def test_value_agrees_with_the_1943_renotation() -> None:
    """Source: Newhall, Nickerson & Judd (1943), Y of neutral values 1 … 9 relative to magnesium oxide."""
    y = np.array([1.210, 3.126, 6.555, 12.00, 19.77, 30.05, 43.06, 59.10, 78.66])
    np.testing.assert_allclose(luminance_to_value(y / MAGNESIUM_OXIDE / 100), np.arange(1, 10), atol=0.02)


def test_values_go_there_and_back() -> None:
    steps = np.linspace(0, 10, 101)
    np.testing.assert_allclose(luminance_to_value(value_to_luminance(steps)), steps, atol=1e-3)
    np.testing.assert_allclose(lstar_to_value(value_to_lightness(steps)), steps, atol=1e-3)


# Source: Sharma, Wu & Dalal (2005), table of 34 pairs.
SHARMA = np.array([
    (50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425), (50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615),
    (50, 2.8361, -74.0200, 50, 0, -82.7485, 3.4412), (50, -1.3802, -84.2814, 50, 0, -82.7485, 1.0000),
    (50, -1.1848, -84.8006, 50, 0, -82.7485, 1.0000), (50, -0.9009, -85.5211, 50, 0, -82.7485, 1.0000),
    (50, 0, 0, 50, -1, 2, 2.3669), (50, -1, 2, 50, 0, 0, 2.3669),
    (50, 2.4900, -0.0010, 50, -2.4900, 0.0009, 7.1792), (50, 2.4900, -0.0010, 50, -2.4900, 0.0010, 7.1792),
    (50, 2.4900, -0.0010, 50, -2.4900, 0.0011, 7.2195), (50, 2.4900, -0.0010, 50, -2.4900, 0.0012, 7.2195),
    (50, -0.0010, 2.4900, 50, 0.0009, -2.4900, 4.8045), (50, -0.0010, 2.4900, 50, 0.0010, -2.4900, 4.8045),
    (50, -0.0010, 2.4900, 50, 0.0011, -2.4900, 4.7461), (50, 2.5, 0, 50, 0, -2.5, 4.3065),
    (50, 2.5, 0, 73, 25, -18, 27.1492), (50, 2.5, 0, 61, -5, 29, 22.8977),
    (50, 2.5, 0, 56, -27, -3, 31.9030), (50, 2.5, 0, 58, 24, 15, 19.4535),
    (50, 2.5, 0, 50, 3.1736, 0.5854, 1.0000), (50, 2.5, 0, 50, 3.2972, 0, 1.0000),
    (50, 2.5, 0, 50, 1.8634, 0.5757, 1.0000), (50, 2.5, 0, 50, 3.2592, 0.3350, 1.0000),
    (60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644),
    (63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.2630),
    (61.2901, 3.7196, -5.3901, 61.4292, 2.2480, -4.9620, 1.8731),
    (35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645),
    (22.7233, 20.0904, -46.6940, 23.0331, 14.9730, -42.5619, 2.0373),
    (36.4612, 47.8580, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146),
    (90.8027, -2.0831, 1.4410, 91.1528, -1.6435, 0.0447, 1.4441),
    (90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381),
    (6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377),
    (2.0776, 0.0795, -1.1350, 0.9033, -0.0636, -0.5514, 0.9082),
])  # fmt: skip


def test_ciede2000_gives_all_34_published_pairs() -> None:
    assert len(SHARMA) == 34
    np.testing.assert_allclose(delta_e_2000(SHARMA[:, :3], SHARMA[:, 3:6]), SHARMA[:, 6], atol=1e-4)


def test_observer_table_is_that_of_cie_15() -> None:
    """Source: CIE 1931 observer and D65 as carried by colour-science."""
    observer = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"]
    light = colour.SDS_ILLUMINANTS["D65"]
    for row in read_table("observer.csv"):
        nm = float(row["wavelength_nm"])
        np.testing.assert_allclose(
            [float(row["x_bar"]), float(row["y_bar"]), float(row["z_bar"])], observer[nm], atol=1e-6
        )
        assert float(row["d65"]) == pytest.approx(float(light[nm]), abs=1e-4)


@pytest.mark.parametrize(
    "lab", [(66, 14, 17), (38, 14, 14), (20, 1, -3), (83, 4, 80), (30, 20, -50), (95, 0, 3)]
)
def test_smoothest_reflectance_returns_to_its_colour(lab: tuple[float, float, float]) -> None:
    """Source: Burns' least-slope method; the colour is the check, colour-science integrates it too."""
    curve = smoothest_reflectance(lab)
    assert curve.min() > 0
    assert curve.max() < 1
    assert delta_e_2000(reflectance_to_lab(curve), lab) < 0.05
    spectrum = colour.SpectralDistribution(dict(zip(WAVELENGTHS, curve, strict=True)))
    xyz = colour.sd_to_XYZ(
        spectrum,
        colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"],
        colour.SDS_ILLUMINANTS["D65"],
        method="Integration",
    )
    # Ours leaves out the ends of the spectrum, so the second opinion may differ a little.
    assert delta_e_2000(xyz_to_lab(xyz / 100), lab) < 1.5
    assert np.abs(np.diff(curve)).max() < 0.25


def test_an_impossible_surface_is_refused() -> None:
    with pytest.raises(Refusal, match="no surface"):
        smoothest_reflectance((90, 90, -90))


def test_pictures_agree_with_exact_arithmetic() -> None:
    picture = (RANDOM[:2500].reshape(50, 50, 3) * 255).astype(np.uint8)
    np.testing.assert_allclose(picture_to_lab(picture), srgb_to_lab(picture / 255), atol=0.1)
    exact = srgb_to_linear(picture / 255) @ RGB_TO_XYZ[1]
    np.testing.assert_allclose(picture_luminance(picture), exact, atol=1e-5)
    np.testing.assert_allclose(observer_weights().sum(axis=0), WHITE_XYZ, atol=1e-12)
