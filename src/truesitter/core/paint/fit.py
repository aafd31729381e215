"""Fit absorption and scattering curves of a tube to two swatches.

Unknowns are log K and log S as natural cubic splines on 11 knots. Residuals:
L*a*b* of the masstone and of the tint (ΔE units, weight 1), the mean of
log(S / S_white) against what the opacity class leads one to expect (weight
0.3), and smoothness (second differences of log K, first differences of log S, weight 0.15).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.interpolate import CubicSpline
from scipy.optimize import brentq, least_squares

from truesitter.core.colour.spectrum import (
    WAVELENGTHS,
    reflectance_to_lab,
    reflectance_to_xyz,
    smoothest_reflectance,
)
from truesitter.core.paint.kubelka_munk import (
    enter_surface,
    film_reflectance,
    leave_surface,
    opaque_reflectance,
    ratio_from_reflectance,
)
from truesitter.core.paint.pigments import Curves, Lab
from truesitter.core.types import Doubles

TINT_WHITE_PARTS = 10
OPACITY_PRIOR = {"opaque": 1.0, "semi-opaque": 0.4, "semi-transparent": 0.12, "transparent": 0.03}
"""Scattering relative to titanium white, by opacity class (from memory)."""

HIDING_FILM_MM = 0.05
HIDING = 0.96
"""A 50 µm film of titanium white hides 96 % (contrast ratio over black and 80 % white; from memory)."""

_KNOTS = np.linspace(400, 700, 11)
_BASIS: Doubles = CubicSpline(_KNOTS, np.eye(11), bc_type="natural")(WAVELENGTHS)


@dataclass(frozen=True)
class Fit:
    """Curves and how well they return to their swatches (Euclidean ΔE in L*a*b*)."""

    curves: Curves
    masstone_error: float
    tint_error: float


def _ratio_of(lab: Lab) -> Doubles:
    inside = np.clip(enter_surface(smoothest_reflectance(lab)), 1e-4, 0.9999)
    return ratio_from_reflectance(inside)


def _thick_lab(absorption: Doubles, scattering: Doubles) -> Doubles:
    return reflectance_to_lab(leave_surface(opaque_reflectance(absorption / scattering)))


def fit_titanium_white(masstone: Lab) -> Curves:
    """Curves of the white against which all tints are made: S even over the spectrum."""
    ratio = _ratio_of(masstone)

    def hiding(s: float) -> float:
        over = [
            film_reflectance(ratio * s, np.full(31, s), HIDING_FILM_MM, enter_surface(np.full(31, g)))
            for g in (0.0, 0.8)
        ]
        black, white = (reflectance_to_xyz(leave_surface(r))[1] for r in over)
        return float(black / white - HIDING)

    s = float(brentq(hiding, 1.0, 5000.0))
    return Curves(absorption=ratio * s, scattering=np.full(31, s))


def fit_white(masstone: Lab, opacity: str, titanium: Curves) -> Curves:
    """Curves of another white: K from the masstone, S from its opacity class."""
    scattering = titanium.scattering * OPACITY_PRIOR[opacity]
    return Curves(absorption=_ratio_of(masstone) * scattering, scattering=scattering)


def fit_pigment(masstone: Lab, tint: Lab, opacity: str, white: Curves) -> Fit:
    """Fit one tube to its masstone and its tint.

    Parameters
    ----------
    masstone, tint
        L*a*b* at full strength and as 1 part in 10 parts of `white` by volume.
    opacity
        A key of `OPACITY_PRIOR`.
    white
        Curves of the white of the tint.

    Raises
    ------
    ValueError
        For an unknown opacity class or a colour no surface can have.
    """
    if opacity not in OPACITY_PRIOR:
        raise ValueError(f"“{opacity}” is not an opacity class: {', '.join(OPACITY_PRIOR)}")
    share = 1 / (1 + TINT_WHITE_PARTS)
    log_white = np.log(white.scattering)
    log_prior = float(np.log(OPACITY_PRIOR[opacity]))
    start_s = log_white + log_prior
    start_k = np.log(_ratio_of(masstone)) + start_s
    inverse = np.linalg.pinv(_BASIS)
    start = np.concatenate([inverse @ start_k, inverse @ start_s])

    def curves(x: Doubles) -> tuple[Doubles, Doubles]:
        return np.exp(_BASIS @ x[:11]), np.exp(_BASIS @ x[11:])

    def labs(x: Doubles) -> tuple[Doubles, Doubles]:
        k, s = curves(x)
        mixed_k = share * k + (1 - share) * white.absorption
        mixed_s = share * s + (1 - share) * white.scattering
        return _thick_lab(k, s), _thick_lab(mixed_k, mixed_s)

    def residuals(x: Doubles) -> Doubles:
        thick, tinted = labs(x)
        prior = float((_BASIS @ x[11:] - log_white).mean()) - log_prior
        return np.concatenate(
            [
                thick - masstone,
                tinted - tint,
                [0.3 * prior],
                0.15 * np.diff(x[:11], 2),
                0.15 * np.diff(x[11:]),
            ]
        )

    solution = least_squares(residuals, start, method="trf", max_nfev=200).x
    thick, tinted = labs(solution)
    k, s = curves(solution)
    return Fit(
        curves=Curves(absorption=k, scattering=s),
        masstone_error=float(np.linalg.norm(thick - masstone)),
        tint_error=float(np.linalg.norm(tinted - tint)),
    )
