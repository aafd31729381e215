"""Fit absorption and scattering curves of a tube to its swatches.

Unknowns are log K and log S as natural cubic splines on 11 knots. Residuals:
L*a*b* of the masstone, of the tint and of a thin film over black and over white (ΔE
units, weight 1), log(S / S_white) at every wavelength against what the opacity class leads
one to expect (less when films show the opacity themselves), how much a thin film of a
transparent tube lightens what is darker than itself, and smoothness (second differences of
log K, first differences of log S).

Two swatches alone do not tell how much a tube scatters: with the class left to the mean of
log S, a rose scattered ten times what its class allows at the ends of the spectrum and a
thin film of it lightened a dark ground by half a step.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np

from truesitter.core.colour.spaces import Lab
from truesitter.core.colour.spectrum import (
    WAVELENGTHS,
    reflectance_to_lab,
    reflectance_to_xyz,
    smoothest_reflectance,
)
from truesitter.core.colour.value import lab_value, value_to_luminance
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import (
    enter_surface,
    film_reflectance,
    leave_surface,
    opaque_reflectance,
    ratio_from_reflectance,
)
from truesitter.core.paint.tubes.pigments import Curves
from truesitter.core.paint.tubes.tuning import (
    DARKEST_GROUND,
    FILM_WEIGHT,
    FIT_STRONGEST,
    HIDING,
    LIFT_ALLOWED,
    LIFT_WEIGHT,
    SEEN_OPACITY,
    SMOOTH_K,
    SMOOTH_S,
    STRONGEST_WEIGHT,
    TINT_WHITE_PARTS,
)
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles

OPACITY_PRIOR = {"opaque": 1.0, "semi-opaque": 0.4, "semi-transparent": 0.12, "transparent": 0.03}
"""Scattering relative to titanium white, by opacity class (from memory)."""

HIDING_FILM_MM = DryMm(0.05)

_KNOTS = np.linspace(400, 700, 11)


@cache
def _basis() -> Doubles:
    """What turns heights at the knots into a smooth curve."""
    # Solvers are loaded when something is solved: a start need not wait for them.
    from scipy.interpolate import CubicSpline

    return np.asarray(CubicSpline(_KNOTS, np.eye(11), bc_type="natural")(WAVELENGTHS))


PRINTED_BLACK, PAPER_REFLECTANCE = 0.03, WHITE_PAPER.reflectance
"""Reflectance, as seen, of a printed black line and of white paper (from memory)."""

FILM_MM = DryMm(0.03)
"""A film scraped thin with a card, dry (from memory); the fit finds the true one."""

_CLASS_WEIGHT = {"opaque": 0.3, "semi-opaque": 0.7, "semi-transparent": 1.0, "transparent": 1.5}
"""How strongly S keeps to its class: as strongly as leaves both swatches within ΔE 0.5 for every pigment
of the library (0.3, 0.7, 1, 1.7, 2 and 3 were tried)."""
_THIN_FILMS_MM = np.array([0.00025, 0.0005, 0.001])


@dataclass(frozen=True)
class Fit:
    """Curves and how well they return to their swatches.

    Attributes
    ----------
    curves
        K and S.
    masstone_error, tint_error, film_error
        Euclidean ΔE in L*a*b*; the larger one of the two films; None for swatches not given.
    film_mm
        Thickness of the film that was scraped, as found; None without films.
    """

    curves: Curves
    masstone_error: float
    tint_error: float | None = None
    film_error: float | None = None
    film_mm: DryMm | None = None


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

    from scipy.optimize import brentq

    s = float(brentq(hiding, 1.0, 5000.0))
    return Curves(absorption=ratio * s, scattering=np.full(31, s))


def fit_white(masstone: Lab, opacity: str, titanium: Curves) -> Curves:
    """Curves of another white: K from the masstone, S from its opacity class.

    Parameters
    ----------
    masstone
        L*a*b* of the full strength.
    opacity
        Class of opacity.
    titanium
        Curves of the white it is measured by.

    Returns
    -------
    Curves
        K and S, 400–700 nm.
    """
    scattering = titanium.scattering * OPACITY_PRIOR[opacity]
    return Curves(absorption=_ratio_of(masstone) * scattering, scattering=scattering)


def film_labs(absorption: Doubles, scattering: Doubles, mm: DryMm) -> Doubles:
    """L*a*b* (2, 3) of a film over the swatch sheet's black line and over its paper.

    Parameters
    ----------
    absorption
        (31,) K.
    scattering
        (31,) S.
    mm
        Dry thickness.

    Returns
    -------
    Doubles
        (2, 3) over black and over paper.
    """
    grounds = enter_surface(np.array([[PRINTED_BLACK], [PAPER_REFLECTANCE]]) * np.ones(31))
    return reflectance_to_lab(leave_surface(film_reflectance(absorption, scattering, mm, grounds)))


def tint_lab(curves: Curves, white: Curves) -> Doubles:
    """L*a*b* (3,) of one part of a tube in ten of a white."""
    share = 1 / (1 + TINT_WHITE_PARTS)
    return _thick_lab(
        share * curves.absorption + (1 - share) * white.absorption,
        share * curves.scattering + (1 - share) * white.scattering,
    )


def _lifts(curves: Curves, grounds: Doubles) -> Doubles:
    """Value steps (3 n,) by which thin films lighten greys of those values (n,)."""
    below = enter_surface(value_to_luminance(grounds)[:, None] * np.ones(len(WAVELENGTHS)))
    laid = film_reflectance(curves.absorption, curves.scattering, _THIN_FILMS_MM[:, None, None], below)
    return np.asarray(lab_value(reflectance_to_lab(leave_surface(laid))) - grounds).ravel()


def masstone_lab(curves: Curves) -> Doubles:
    """L*a*b* (3,) of a thick film."""
    return _thick_lab(curves.absorption, curves.scattering)


def fit_pigment(
    masstone: Lab,
    tint: Lab | None,
    opacity: str,
    white: Curves,
    films: tuple[Lab, Lab] | None = None,
    typical: Curves | None = None,
) -> Fit:
    """Fit one tube to its swatches.

    Parameters
    ----------
    masstone, tint
        L*a*b* at full strength and as 1 part in 10 parts of `white` by volume; without a
        tint the strength is guessed from the opacity class.
    opacity
        A key of `OPACITY_PRIOR`.
    white
        Curves of the white of the tint.
    films
        L*a*b* of one thin film over the sheet's black line and over its paper.
    typical
        Curves of the same pigment from another tube: the fit begins with them, and what it is
        smooth in is the difference from them.

    Raises
    ------
    Refusal
        For an unknown opacity class or a colour no surface can have.
    """
    if opacity not in OPACITY_PRIOR:
        raise Refusal(f"“{opacity}” is not an opacity class: {', '.join(OPACITY_PRIOR)}")
    log_white = np.log(white.scattering)
    log_prior = float(np.log(OPACITY_PRIOR[opacity]))
    start_s = log_white + log_prior
    start_k = np.log(_ratio_of(masstone)) + start_s
    inverse = np.linalg.pinv(_basis())
    usual = np.zeros(22)
    if typical is not None:
        start_k, start_s = np.log(typical.absorption), np.log(typical.scattering)
        usual = np.concatenate([inverse @ start_k, inverse @ start_s])
    start = np.concatenate([inverse @ start_k, inverse @ start_s, [np.log(FILM_MM)] if films else []])
    class_weight = _CLASS_WEIGHT[opacity] * (SEEN_OPACITY if films else 1) / np.sqrt(len(WAVELENGTHS))
    own_value = float(lab_value(np.array(masstone)))
    clear = opacity == "transparent" and films is None and own_value > DARKEST_GROUND
    darker = np.linspace(DARKEST_GROUND, own_value, 6)[:-1]

    def curves(x: Doubles) -> Curves:
        return Curves(np.exp(_basis() @ x[:11]), np.exp(_basis() @ x[11:22]))

    def misses(x: Doubles) -> list[Doubles]:
        """Differences to the masstone, the tint and the films, as far as they are given."""
        found = curves(x)
        out = [masstone_lab(found) - masstone]
        if tint is not None:
            out.append(tint_lab(found, white) - tint)
        if films is not None:
            mm = DryMm(float(np.exp(x[22])))
            out.extend(film_labs(found.absorption, found.scattering, mm) - np.array(films))
        return out

    def residuals(x: Doubles) -> Doubles:
        found = curves(x)
        out = [*misses(x), class_weight * (np.log(found.scattering) - log_white - log_prior)]
        out.append(STRONGEST_WEIGHT * np.maximum(0, np.log(found.absorption / FIT_STRONGEST)))
        if films is not None:
            out.append(FILM_WEIGHT * (x[22:] - np.log(FILM_MM)))
        if clear:
            out.append(LIFT_WEIGHT * np.maximum(0, _lifts(found, darker) - LIFT_ALLOWED))
        unlike = x[:22] - usual
        out += [SMOOTH_K * np.diff(unlike[:11], 2), SMOOTH_S * np.diff(unlike[11:])]
        return np.concatenate(out)

    from scipy.optimize import least_squares

    solution = least_squares(residuals, start, method="trf", max_nfev=200).x
    errors = [float(np.linalg.norm(miss)) for miss in misses(solution)]
    return Fit(
        curves=curves(solution),
        masstone_error=errors[0],
        tint_error=errors[1] if tint is not None else None,
        film_error=max(errors[-2:]) if films is not None else None,
        film_mm=DryMm(float(np.exp(solution[22]))) if films is not None else None,
    )
