"""The fit against invented pigments whose K and S are known."""

from __future__ import annotations

import numpy as np
import pytest

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import WAVELENGTHS, reflectance_to_lab
from truesitter.core.paint.optics.kubelka_munk import leave_surface, opaque_reflectance
from truesitter.core.paint.tubes.fit import fit_pigment
from truesitter.core.paint.tubes.pigments import pigment_curves
from truesitter.core.paint.tubes.tuning import TINT_WHITE_PARTS
from truesitter.core.types import Doubles

WHITE = pigment_curves()["titanium-white"]
UNSEEN = (0.02, 0.05, 0.2, 0.35, 0.5, 0.7)
"""Shares of the tube in white that no swatch showed."""


def invented(centre: float, width: float, strength: float, scattering: float) -> tuple[Doubles, Doubles]:
    """One broad absorption band and a gently sloping scattering, per mm."""
    band = np.exp(-0.5 * ((WAVELENGTHS - centre) / width) ** 2)
    slope = 1 + 0.15 * (550 - WAVELENGTHS) / 150
    return strength * (0.02 + band), WHITE.scattering.mean() * scattering * slope


def thick(k: Doubles, s: Doubles, share: float) -> Doubles:
    """L*a*b* of a thick film of that share in titanium white (Kubelka and Munk 1931, Saunderson 1942)."""
    mixed_k = share * k + (1 - share) * WHITE.absorption
    mixed_s = share * s + (1 - share) * WHITE.scattering
    return reflectance_to_lab(leave_surface(opaque_reflectance(mixed_k / mixed_s)))


@pytest.mark.parametrize(
    ("centre", "width", "strength", "scattering", "opacity"),
    [
        (430.0, 60.0, 300.0, 1.0, "opaque"),
        (540.0, 55.0, 250.0, 0.4, "semi-opaque"),
        (620.0, 70.0, 150.0, 0.12, "semi-transparent"),
    ],
    ids=["yellow", "red", "blue"],
)
def test_mixtures_no_swatch_showed_are_predicted(
    centre: float, width: float, strength: float, scattering: float, opacity: str
) -> None:
    """Two swatches read with noise; unseen ratios within ΔE2000 1.5 of the invented truth."""
    k, s = invented(centre, width, strength, scattering)
    noise = np.random.default_rng(6).normal(0, 0.15, (2, 3))
    tinted = 1 / (1 + TINT_WHITE_PARTS)
    masstone, tint = (tuple(thick(k, s, share) + n) for share, n in zip((1.0, tinted), noise, strict=True))
    fit = fit_pigment(masstone, tint, opacity, WHITE)
    found = fit.curves
    for share in UNSEEN:
        predicted = thick(found.absorption, found.scattering, share)
        assert float(delta_e_2000(predicted, thick(k, s, share))) < 1.5, share
