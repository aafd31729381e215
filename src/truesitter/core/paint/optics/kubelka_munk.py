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

import numpy as np
from numpy.typing import ArrayLike

from truesitter.core.types import Doubles

SAUNDERSON_K1 = 0.03
"""Reflected at the outer surface, specular excluded from what is seen (from memory)."""

SAUNDERSON_K2 = 0.6
"""Reflected back into the paint at the inner surface (from memory)."""


def ratio_from_reflectance(reflectance: ArrayLike) -> Doubles:
    """K/S of an opaque layer: (1 − R)² / 2R, R in (0, 1]."""
    r = np.asarray(reflectance, dtype=np.float64)
    return np.asarray((1 - r) ** 2 / (2 * r))


def opaque_reflectance(ratio: ArrayLike) -> Doubles:
    """Reflectance of a layer too thick to see through, from K/S ≥ 0."""
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
    """
    k = np.asarray(absorption, dtype=np.float64)
    s = np.asarray(scattering, dtype=np.float64)
    below = np.asarray(ground, dtype=np.float64)
    q = k / s
    a = 1 + q
    b = np.sqrt(q * (q + 2))
    sx = s * np.asarray(thickness, dtype=np.float64)
    small = b < 1e-7
    safe = np.where(small, 1.0, b)
    t = np.where(small, sx, np.tanh(safe * sx) / safe)
    return np.asarray((t * (1 - a * below) + below) / (t * (a - below) + 1))


def leave_surface(internal: ArrayLike, k1: float = SAUNDERSON_K1, k2: float = SAUNDERSON_K2) -> Doubles:
    """Internal reflectance to what the eye sees, specular excluded (Saunderson 1942)."""
    r = np.asarray(internal, dtype=np.float64)
    return np.asarray((1 - k1) * (1 - k2) * r / (1 - k2 * r))


def enter_surface(seen: ArrayLike, k1: float = SAUNDERSON_K1, k2: float = SAUNDERSON_K2) -> Doubles:
    """What the eye sees to internal reflectance; the inverse of `leave_surface`."""
    r = np.asarray(seen, dtype=np.float64)
    return np.asarray(r / ((1 - k1) * (1 - k2) + k2 * r))
