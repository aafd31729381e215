"""Films on grounds against the two-flux equations themselves, integrated numerically.

Source: Kubelka & Munk (1931): dI/dx = −(K+S) I + S J, dJ/dx = (K+S) J − S I, solved as a boundary
value problem by scipy.integrate.solve_bvp, without any of the closed forms the project uses.
"""

from __future__ import annotations

import numpy as np
import pytest
from scipy.integrate import solve_bvp

from truesitter.core.paint.optics.kubelka_munk import film_reflectance, opaque_reflectance


def two_fluxes(k: float, s: float, x: float, ground: float) -> float:
    """Reflectance of a film of thickness x over a ground, by integration."""

    def slopes(_: np.ndarray, flux: np.ndarray) -> np.ndarray:
        down, up = flux
        return np.vstack([-(k + s) * down + s * up, (k + s) * up - s * down])

    def ends(top: np.ndarray, bottom: np.ndarray) -> np.ndarray:
        return np.array([top[0] - 1, bottom[1] - ground * bottom[0]])

    depth = np.linspace(0, x, 60)
    solution = solve_bvp(slopes, ends, depth, np.full((2, 60), 0.5), tol=1e-7, max_nodes=50_000)
    assert solution.success
    return float(solution.sol(0)[1])


@pytest.mark.parametrize("seed", range(30))
def test_films_agree_with_the_equations_they_solve(seed: int) -> None:
    rng = np.random.default_rng(seed)
    k, s = 10 ** rng.uniform(-1, 2, 2)
    x, ground = 10 ** rng.uniform(-3, -0.5), rng.uniform(0, 0.95)
    assert film_reflectance(k, s, x, ground) == pytest.approx(two_fluxes(k, s, x, ground), abs=1e-4)


def test_a_film_too_thick_to_see_through_agrees_too() -> None:
    for k, s in ((3.0, 40.0), (30.0, 20.0), (0.5, 60.0)):
        assert opaque_reflectance(k / s) == pytest.approx(two_fluxes(k, s, 1.0, 0.0), abs=2e-3)
