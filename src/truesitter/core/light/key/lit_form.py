"""Skin as a matt form: how light it would be under a light from any side, and the fit to a photograph."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.light.key.tuning import LEAST_PIXELS, ROUNDS, SAMPLES, TRUSTED
from truesitter.core.types import Doubles, Floats, Mask


class LitForm:
    """Skin as a matt form, squinted; and how light it is in the photograph."""

    def __init__(self, light: Floats, on: Mask, normals: Floats, sigma: float) -> None:
        self.enough = int(on.sum()) >= LEAST_PIXELS
        if not self.enough:
            return
        rows, columns = (np.flatnonzero(on.any(axis=axis)) for axis in (1, 0))
        box = slice(rows[0], rows[-1] + 1), slice(columns[0], columns[-1] + 1)
        self._normals, self._part = normals[box], on[box].astype(np.float32)
        self._sigma = sigma
        # Not every pixel is needed to tell a direction.
        self._at = np.flatnonzero(on[box])[:: max(1, int(on.sum()) // SAMPLES)]
        self._weight = cv2.GaussianBlur(self._part, (0, 0), self._sigma).ravel()[self._at]
        self.seen = self._squinted(light[box] * self._part)[:, 0]

    def _squinted(self, light: Floats) -> Floats:
        """Of each of up to four maps, blurred over the skin alone; (n, maps)."""
        blurred = cv2.GaussianBlur(light, (0, 0), self._sigma).reshape(self._part.size, -1)
        return np.asarray(blurred[self._at] / self._weight[:, None])

    def lit(self, directions: Doubles) -> Floats:
        """How strongly each pixel is lit from each direction, (n, directions), 0–1."""
        turned = np.clip(self._normals @ directions.T.astype(np.float32), 0, None) * self._part[..., None]
        return np.concatenate(
            [self._squinted(turned[..., i : i + 4]) for i in range(0, len(directions), 4)], axis=1
        )


@dataclass(frozen=True)
class LightFit:
    """For each of d directions the strengths of the lights and of the even rest, and the squared error.

    Attributes
    ----------
    strengths
        (d, lights + 1), the rest last; none negative.
    error
        (d,) mean over what is trusted.
    trusted
        (n, d)
    """

    strengths: Doubles
    error: Doubles
    trusted: Mask

    @property
    def best(self) -> int:
        """The direction of least error."""
        return int(self.error.argmin())


def fit_light(lit: Floats, seen: Floats, others: Floats | None = None) -> LightFit:
    """Least squares of strengths · lights + rest on the best fitting part of the skin.

    Parameters
    ----------
    lit
        (n, d) one light from each of d directions.
    others
        (n, k) lights that are there whatever that one is.
    """
    count, tried = lit.shape
    known = np.zeros((count, 0), np.float32) if others is None else others
    fixed = np.column_stack([known, np.ones(count, np.float32)])
    trusted = np.ones(lit.shape, np.float32)
    at = int(TRUSTED * (count - 1))
    for _ in range(ROUNDS):
        lights = fixed.shape[1] + 1
        normal = np.empty((tried, lights, lights))
        wanted = np.empty((tried, lights))
        weighted = trusted * lit
        normal[:, 0, 0] = (weighted * lit).sum(axis=0)
        normal[:, 0, 1:] = normal[:, 1:, 0] = weighted.T @ fixed
        normal[:, 1:, 1:] = np.einsum("nd,ni,nj->dij", trusted, fixed, fixed, optimize=True)
        wanted[:, 0] = weighted.T @ seen
        wanted[:, 1:] = trusted.T @ (fixed * seen[:, None])
        strengths = np.linalg.solve(normal + 1e-6 * np.eye(lights), wanted[..., None])[..., 0]
        # No light takes light away: what would is left out, and the rest found without it.
        dark = strengths[:, -1] < 0
        few = np.linalg.solve(normal[dark][:, :-1, :-1] + 1e-6 * np.eye(lights - 1), wanted[dark, :-1, None])
        strengths[dark] = np.column_stack([few[..., 0], np.zeros(dark.sum())])
        strengths = np.maximum(strengths, 0)
        away = np.abs(lit * strengths[:, 0] + fixed @ strengths[:, 1:].T.astype(np.float32) - seen[:, None])
        trusted = (away <= np.partition(away, at, axis=0)[at]).astype(np.float32)
    error = (trusted * away**2).sum(axis=0) / trusted.sum(axis=0)
    return LightFit(strengths, error, trusted > 0)
