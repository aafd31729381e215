"""Reflectance spectra, 400–700 nm by 10 nm: to colour, and the smoothest one for a colour."""

from __future__ import annotations

from functools import cache

import numpy as np
from numpy.typing import ArrayLike

from truesitter.core.colour.spaces import WHITE_XYZ, lab_to_xyz, xyz_to_lab
from truesitter.core.data import read_table
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles

WAVELENGTHS: Doubles = np.arange(400.0, 701.0, 10.0)


@cache
def observer_weights() -> Doubles:
    """Weights (31, 3) that turn reflectance into XYZ under D65, 2-degree observer (CIE 15).

    Each column is scaled so that a perfect diffuser gives exactly the white of the
    colour spaces: the ends of the spectrum beyond 400–700 nm are left out.
    """
    rows = read_table("observer.csv")
    columns = ("x_bar", "y_bar", "z_bar")
    weights = np.array([[float(r[c]) * float(r["d65"]) for c in columns] for r in rows])
    return np.asarray(weights * (WHITE_XYZ / weights.sum(axis=0)))


def reflectance_to_xyz(reflectance: ArrayLike) -> Doubles:
    """Reflectance (..., 31) in [0, 1] to XYZ (..., 3), white Y = 1."""
    return np.asarray(np.asarray(reflectance, dtype=np.float64) @ observer_weights())


def reflectance_to_lab(reflectance: ArrayLike) -> Doubles:
    """Reflectance (..., 31) in [0, 1] to L*a*b* (..., 3), D65.

    Examples
    --------
    >>> (reflectance_to_lab([0.18] * 31).round(1) + 0.0).tolist()
    [49.5, 0.0, 0.0]
    """
    return xyz_to_lab(reflectance_to_xyz(reflectance))


def smoothest_reflectance(lab: ArrayLike, iterations: int = 60) -> Doubles:
    """Find the smoothest reflectance that has a given colour.

    Parameters
    ----------
    lab
        L*a*b* (3,) of a surface colour, 0 < L* < 100.

    Returns
    -------
    (31,) reflectance strictly between 0 and 1.

    Raises
    ------
    Refusal
        When no surface can have that colour.

    References
    ----------
    Burns, S. A. Generating reflectance curves from sRGB triplets: the least slope
    squared of atanh-transformed reflectance, solved by Newton's method with
    Lagrange multipliers.

    Examples
    --------
    >>> smoothest_reflectance((50, 0, 0)).round(2)[:3].tolist()
    [0.18, 0.18, 0.18]
    """
    target = lab_to_xyz(lab)
    weights = observer_weights()
    n = len(WAVELENGTHS)
    slope = np.diff(np.eye(n), axis=0)
    hessian = 2 * slope.T @ slope
    z = np.full(n, np.arctanh(np.clip(2 * target[1] - 1, -0.98, 0.98)))
    multipliers = np.zeros(3)
    for _ in range(iterations):
        tanh = np.tanh(z)
        derivative = (1 - tanh**2) / 2
        constraint = ((tanh + 1) / 2) @ weights - target
        gradient = hessian @ z + derivative * (weights @ multipliers)
        curvature = hessian + np.diag(-tanh * (1 - tanh**2) * (weights @ multipliers))
        jacobian = derivative[:, None] * weights
        system = np.block([[curvature, jacobian], [jacobian.T, np.zeros((3, 3))]])
        try:
            step = np.linalg.solve(system, -np.concatenate([gradient, constraint]))
        except np.linalg.LinAlgError:
            # A curve driven to 0 or 1 everywhere cannot move any more: no surface has the colour.
            break
        length = min(1.0, 2.0 / max(1e-9, float(np.abs(step[:n]).max())))
        z += length * step[:n]
        multipliers += length * step[n:]
        if length == 1.0 and np.abs(step[:n]).max() < 1e-10:
            break
    result = (np.tanh(z) + 1) / 2
    if not np.all(np.isfinite(result)) or np.abs(result @ weights - target).max() > 1e-6:
        raise Refusal(f"no surface can have the colour {np.round(np.asarray(lab), 1).tolist()}")
    return np.asarray(result)
