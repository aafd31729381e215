"""Kubelka–Munk: what light does in a film of paint.

K (absorption) and S (scattering) are per mm of film, film thickness X in mm.
Reflectances in here are *internal*; `leave_surface` and `enter_surface` pass
through the boundary between paint and air (Saunderson 1942).

References
----------
Kubelka, P. & Munk, F. (1931). Ein Beitrag zur Optik der Farbanstriche.
Kubelka, P. (1948). New contributions to the optics of intensely light-scattering materials.
Saunderson, J. L. (1942). Calculation of the color of pigmented plastics.
"""

from __future__ import annotations

from typing import TypeVar

import numpy as np
from numpy.typing import ArrayLike, NDArray

from truesitter.core.paint.optics.tuning import SAUNDERSON_K1, SAUNDERSON_K2
from truesitter.core.types import Doubles

Real = TypeVar("Real", np.float32, np.float64)


def ratio_from_reflectance(reflectance: ArrayLike) -> Doubles:
    """K/S of an opaque layer: (1 − R)² / 2R, R in (0, 1].

    Examples
    --------
    >>> float(ratio_from_reflectance(0.5))
    0.25
    """
    r = np.asarray(reflectance, dtype=np.float64)
    return np.asarray((1 - r) ** 2 / (2 * r))


def opaque_reflectance(ratio: ArrayLike) -> Doubles:
    """Reflectance of a layer too thick to see through, from K/S ≥ 0.

    Examples
    --------
    >>> float(opaque_reflectance(0.25))
    0.5
    """
    q = np.asarray(ratio, dtype=np.float64)
    return np.asarray(1 / (1 + q + np.sqrt(q * (q + 2))))


def film_reflectance(
    absorption: ArrayLike, scattering: ArrayLike, thickness: ArrayLike, ground: ArrayLike
) -> Doubles:
    """Reflectance of a film on a ground, Kubelka's hyperbolic solution.

    Parameters
    ----------
    absorption, scattering
        K ≥ 0 and S > 0 per mm.
    thickness
        X ≥ 0 in mm.
    ground
        Internal reflectance of what lies below, 0–1.

    Notes
    -----
    Written with tanh(bSX)/b, which stays finite both for b → 0 (no absorption) and
    for a film of any thickness.

    Examples
    --------
    >>> float(film_reflectance(0.0, 10.0, 0.1, 0.0).round(3))
    0.5
    """
    below = np.asarray(ground, dtype=np.float64)
    return over_ground(*film_terms(absorption, scattering, thickness), below)


def film_terms(absorption: ArrayLike, scattering: ArrayLike, thickness: ArrayLike) -> tuple[Doubles, Doubles]:
    """What `over_ground` needs to know of a film: 1 + K/S, and tanh(bSX)/b.

    Parameters
    ----------
    absorption
        K, 1/mm, 0 or more.
    scattering
        S, 1/mm, > 0.
    thickness
        X, mm.

    Returns
    -------
    tuple[Doubles, Doubles]
        a and t, of the broadcast shape.
    """
    k = np.asarray(absorption, dtype=np.float64)
    s = np.asarray(scattering, dtype=np.float64)
    q = k / s
    b = np.sqrt(q * (q + 2))
    sx = s * np.asarray(thickness, dtype=np.float64)
    small = b < 1e-7
    safe = np.where(small, 1.0, b)
    return 1 + q, np.asarray(np.where(small, sx, np.tanh(safe * sx) / safe))


def over_ground(a: NDArray[Real], t: NDArray[Real], below: NDArray[Real]) -> NDArray[Real]:
    """Reflectance of a film, by its terms, over a ground of internal reflectance 0–1; any precision.

    Parameters
    ----------
    a
        1 + K/S.
    t
        tanh(bSX)/b.
    below
        Internal reflectance of the ground, 0–1.

    Returns
    -------
    NDArray[Real]
        0–1.
    """
    return np.asarray((t * (1 - a * below) + below) / (t * (a - below) + 1))


def leave_surface(internal: ArrayLike, k1: float = SAUNDERSON_K1, k2: float = SAUNDERSON_K2) -> Doubles:
    """Internal reflectance to what the eye sees, specular excluded (Saunderson 1942).

    Parameters
    ----------
    internal
        0–1.
    k1
        Reflectance of the surface from outside, 0–1.
    k2
        Reflectance of the surface from inside, 0–1.

    Returns
    -------
    Doubles
        0–1.

    Examples
    --------
    >>> float(leave_surface(1.0).round(3))
    0.97
    """
    return seen_from(np.asarray(internal, dtype=np.float64), k1, k2)


def seen_from(internal: NDArray[Real], k1: float = SAUNDERSON_K1, k2: float = SAUNDERSON_K2) -> NDArray[Real]:
    """`leave_surface` in any precision; parameters as there."""
    return np.asarray((1 - k1) * (1 - k2) * internal / (1 - k2 * internal))


def enter_surface(seen: ArrayLike, k1: float = SAUNDERSON_K1, k2: float = SAUNDERSON_K2) -> Doubles:
    """What the eye sees to internal reflectance; the inverse of `leave_surface`.

    Parameters
    ----------
    seen
        0–1.
    k1
        Reflectance of the surface from outside, 0–1.
    k2
        Reflectance of the surface from inside, 0–1.

    Returns
    -------
    Doubles
        0–1.

    Examples
    --------
    >>> float(enter_surface(leave_surface(0.4)).round(6))
    0.4
    """
    return internal_of(np.asarray(seen, dtype=np.float64), k1, k2)


def internal_of(seen: NDArray[Real], k1: float = SAUNDERSON_K1, k2: float = SAUNDERSON_K2) -> NDArray[Real]:
    """`enter_surface` in any precision; parameters as there."""
    return np.asarray(seen / ((1 - k1) * (1 - k2) + k2 * seen))
