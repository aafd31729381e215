"""The best proportions of every set of tubes for one target, all sets side by side.

A damped Gauss–Newton iteration on the logarithms of the amounts. The derivative is
worked out along the chain amounts → K, S → reflectance → XYZ → L*a*b*, so that one
step costs one evaluation however many tubes a set has.
"""

from __future__ import annotations

import numpy as np

from truesitter.core.colour.spaces import WHITE_XYZ
from truesitter.core.colour.spectrum import observer_weights, reflectance_to_lab
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.optics.tuning import SAUNDERSON_K1, SAUNDERSON_K2
from truesitter.core.paint.recipes.mixing import mixture_reflectance
from truesitter.core.paint.recipes.tuning import FEWEST, FIRST_WASH_MM, NUDGE, SETTLED, STAGES, VALUE_WEIGHT
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.types import Doubles, Ints


def weighting(target: Doubles) -> Doubles:
    """(3, 3) matrix that turns an L*a*b* difference into residuals of lightness, chroma and hue.

    The squares of the residuals add up to about the squared cost of a recipe; chroma
    and hue are eased by the target's chroma as in CIE94.
    """
    chroma = float(np.hypot(target[1], target[2]))
    hue = np.arctan2(target[2], target[1]) if chroma > 1e-6 else 0.0
    along = np.array([0.0, np.cos(hue), np.sin(hue)]) / (1 + 0.045 * chroma)
    across = np.array([0.0, -np.sin(hue), np.cos(hue)]) / (1 + 0.015 * chroma)
    return np.stack([np.array([1.0 + VALUE_WEIGHT / 10, 0.0, 0.0]), along, across])


class TubeSets:
    """Sets of tubes of one size against one target.

    Parameters
    ----------
    target
        L*a*b* (3,).
    palette
        Its tubes, and whether they are thinned to washes.
    sets
        (m, n) tube numbers.
    """

    def __init__(self, target: Doubles, palette: Palette, sets: Ints) -> None:
        self.target, self.palette, self.sets = target, palette, sets
        self.k, self.s = palette.rack.curves(palette.tubes)
        self._weighting = weighting(target)
        weights = observer_weights() / WHITE_XYZ
        tubes = len(palette.tubes)
        # How XYZ over white answers to a change of K and of S, for every tube at once: (31, tubes · 3).
        self._by_k = np.moveaxis(self.k[..., None] * weights, 0, 1).reshape(-1, tubes * 3)
        self._by_s = np.moveaxis(self.s[..., None] * weights, 0, 1).reshape(-1, tubes * 3)
        self._ground = palette.below() if palette.transparent else None

    def amounts(self, logs: Doubles) -> Doubles:
        """Shares (..., n) that add up to 1; for washes, mm of dry paint."""
        if self.palette.transparent:
            return np.exp(logs)
        weights = np.exp(logs - logs.max(axis=-1, keepdims=True))
        return np.asarray(weights / weights.sum(axis=-1, keepdims=True))

    def lab(self, amounts: Doubles, rows: Ints) -> Doubles:
        """Colours of amounts (m, n) for the sets of those rows (m,)."""
        every = self._spread(amounts, self.sets[rows])
        return reflectance_to_lab(mixture_reflectance(every, self.k, self.s, self.palette))

    def _spread(self, amounts: Doubles, members: Ints) -> Doubles:
        """Amounts (m, n) of the members laid out over all tubes, (m, tubes)."""
        every = np.zeros((len(amounts), len(self.palette.tubes)))
        np.put_along_axis(every, members, amounts, axis=1)
        return every

    def solve(self) -> tuple[Ints, Doubles, Doubles]:
        """The promising sets (m,), their best amounts (m, n) and residuals (m,), best first."""
        rows, logs = np.arange(len(self.sets), dtype=np.int32), self._start()
        # Nothing is to be given up where there are few.
        few = len(rows) <= FEWEST
        for iterations, part in ((sum(n for n, _ in STAGES), 1.0),) if few else STAGES:
            logs, error = self._improve(logs, rows, iterations)
            best = np.argsort(error, kind="stable")[: max(FEWEST, int(part * len(rows)))]
            rows, logs, error = rows[best], logs[best], error[best]
        return rows, self.amounts(logs), error

    def errors(self, iterations: int) -> Doubles:
        """Residual (m,) of every set after so many iterations, in the order given."""
        every = np.arange(len(self.sets), dtype=np.int32)
        return self._improve(self._start(), every, iterations)[1]

    def _start(self) -> Doubles:
        """First guess: every tube about as strong as every other, washes thin."""
        strength = self.k.mean(axis=1) + 0.05 * self.s.mean(axis=1)
        logs = -0.7 * np.log(strength)[self.sets]
        if self.palette.transparent:
            logs += np.log(FIRST_WASH_MM) - np.log(np.exp(logs).sum(axis=1, keepdims=True))
        return np.asarray(logs)

    def _improve(self, logs: Doubles, rows: Ints, iterations: int) -> tuple[Doubles, Doubles]:
        """Damped Gauss–Newton on log amounts (m, n) of those sets; better logs and residuals (m,)."""
        n = self.sets.shape[1]
        limit = (
            (np.log(1e-7), np.log(self.palette.thinning.thickest)) if self.palette.transparent else (-14, 14)
        )
        damping = np.full(len(rows), 0.3)
        residual, jacobian = self.linearise(logs, rows)
        error = (residual**2).sum(axis=1)
        for _ in range(iterations):
            transposed = np.swapaxes(jacobian, 1, 2)
            normal = transposed @ jacobian
            gradient = transposed @ residual[..., None]
            ridge = damping * (np.trace(normal, axis1=1, axis2=2) / n + 1e-6)
            normal += ridge[:, None, None] * np.eye(n)
            delta = -np.linalg.solve(normal, gradient)[..., 0]
            trial = np.clip(logs + np.clip(delta, -1.0, 1.0), *limit)
            trial_residual, trial_jacobian = self.linearise(trial, rows)
            trial_error = (trial_residual**2).sum(axis=1)
            better = trial_error < error
            settled = better & (error - trial_error < SETTLED) | (error < SETTLED)
            logs = np.where(better[:, None], trial, logs)
            residual = np.where(better[:, None], trial_residual, residual)
            jacobian = np.where(better[:, None, None], trial_jacobian, jacobian)
            error = np.where(better, trial_error, error)
            damping = np.where(better, damping * 0.25, damping * 6).clip(1e-6, 1e4)
            if settled.all():
                break
        return logs, np.sqrt(error)

    def linearise(self, logs: Doubles, rows: Ints) -> tuple[Doubles, Doubles]:
        """Residuals (m, 3) and their derivative (m, 3, n) by the log amounts."""
        amounts, members = self.amounts(logs), self.sets[rows]
        every = self._spread(amounts, members)
        inner, by_k, by_s = self._internal(every @ self.k, every @ self.s)
        surface = (1 - SAUNDERSON_K1) * (1 - SAUNDERSON_K2) / (1 - SAUNDERSON_K2 * inner) ** 2
        xyz = leave_surface(inner) @ observer_weights() / WHITE_XYZ
        by_tube = (by_k * surface) @ self._by_k + (by_s * surface) @ self._by_s
        by_tube = by_tube.reshape(len(rows), -1, 3)
        by_xyz = np.take_along_axis(by_tube, members[..., None], axis=1) * amounts[..., None]
        f, slope = _lab_curve(xyz)
        lab = np.stack([116 * f[:, 1] - 16, 500 * (f[:, 0] - f[:, 1]), 200 * (f[:, 1] - f[:, 2])], axis=1)
        moved = by_xyz * slope[:, None]
        by_lab = np.stack(
            [
                116 * moved[..., 1],
                500 * (moved[..., 0] - moved[..., 1]),
                200 * (moved[..., 1] - moved[..., 2]),
            ],
            axis=1,
        )
        return (lab - self.target) @ self._weighting.T, self._weighting @ by_lab

    def _internal(self, k: Doubles, s: Doubles) -> tuple[Doubles, Doubles, Doubles]:
        """Internal reflectance (m, 31) and its derivatives by K and by S."""
        if self._ground is None:
            ratio = k / s
            root = np.sqrt(ratio * (ratio + 2))
            inner = 1 / (1 + ratio + root)
            by_ratio = -inner / np.maximum(root, 1e-9)
            return inner, by_ratio / s, -by_ratio * ratio / s
        inner = film_reflectance(k, s, 1.0, self._ground)
        more_k = film_reflectance(k * (1 + NUDGE), s, 1.0, self._ground)
        more_s = film_reflectance(k, s * (1 + NUDGE), 1.0, self._ground)
        return inner, (more_k - inner) / (NUDGE * k), (more_s - inner) / (NUDGE * s)


def _lab_curve(ratio: Doubles) -> tuple[Doubles, Doubles]:
    """CIE's cube-root curve of XYZ over white, and its slope."""
    edge = (6 / 29) ** 3
    root = np.cbrt(ratio)
    low = ratio <= edge
    f = np.where(low, ratio * (841 / 108) + 4 / 29, root)
    return f, np.where(low, 841 / 108, 1 / (3 * np.maximum(root, 1e-3) ** 2))
