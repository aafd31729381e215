"""Mixtures of Gaussians over pixel features, as used to tell one region from another."""

from __future__ import annotations

from typing import Self

import cv2
import numpy as np

from truesitter.core.sitter.segmentation.tuning import COMPONENTS, FLOOR_STD, SAMPLE
from truesitter.core.types import Doubles, Floats


def quadratic_terms(features: Floats) -> Floats:
    """Products of pairs of features, features, and 1: (..., d) → (n, d(d+1)/2 + d + 1) float32.

    Any number of Gaussians is then judged with a single product of matrices.
    """
    flat = np.asarray(features, dtype=np.float32).reshape(-1, features.shape[-1])
    first, second = np.triu_indices(flat.shape[1])
    return np.concatenate([flat[:, first] * flat[:, second], flat, np.ones_like(flat[:, :1])], axis=1)


class ColourModel:
    """A Gaussian mixture fitted to what one region looks like.

    Attributes
    ----------
    coefficients
        (terms, k) float32: log density of each of k components as a linear function of
        `quadratic_terms`, up to a constant common to all models.
    """

    def __init__(self, coefficients: Floats) -> None:
        self.coefficients = coefficients

    @classmethod
    def of(cls, sample: Floats) -> Self:
        """Fit to (n, d) features known to belong to the region, n ≥ 1.

        The components are found by k-means with fixed starting points, so the same
        picture always gives the same regions.
        """
        data = np.ascontiguousarray(sample[:: max(1, len(sample) // SAMPLE)], dtype=np.float32)
        dims = data.shape[1]
        logs = [
            _gaussian(part.mean(axis=0), np.cov(part, rowvar=False), len(part) / len(data))
            for part in _clusters(data)
            if len(part) > dims
        ]
        if not logs:
            logs = [_gaussian(data.mean(axis=0), np.zeros((dims, dims)), 1.0)]
        return cls(np.stack(logs, axis=1).astype(np.float32))

    def log_density(self, terms: Floats) -> Floats:
        """Log density of features given as `quadratic_terms` (n, terms); (n,) float32."""
        logs = self.coefficients.T @ terms.T
        peak = logs.max(axis=0)
        return np.asarray(peak + np.log(np.exp(logs - peak).sum(axis=0)))


def log_likelihood(sample: Floats, query: Floats) -> Floats:
    """Log density (m,) of `query` (m, d) under a mixture fitted to `sample` (n, d)."""
    return ColourModel.of(sample).log_density(quadratic_terms(query))


def _clusters(data: Floats) -> list[Floats]:
    count = min(COMPONENTS, max(1, len(data) // 40))
    if count == 1:
        return [data]
    order = data[:, 0].argsort(kind="stable")
    first = np.empty((len(data), 1), np.int32)
    first[order, 0] = np.arange(len(data)) * count // len(data)
    criteria = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 12, 0.1)
    _, member, _ = cv2.kmeans(data, count, first, criteria, 1, cv2.KMEANS_USE_INITIAL_LABELS)
    return [data[member.ravel() == k] for k in range(count)]


def _gaussian(mean: Floats, spread: Doubles, weight: float) -> Doubles:
    """Coefficients of a weighted Gaussian's log density over `quadratic_terms`."""
    covariance = spread + np.eye(len(mean)) * FLOOR_STD**2
    precision = np.linalg.inv(covariance)
    first, second = np.triu_indices(len(mean))
    pairs = np.where(first == second, -0.5, -1.0) * precision[first, second]
    constant = np.log(weight) - 0.5 * np.linalg.slogdet(covariance)[1] - 0.5 * mean @ precision @ mean
    return np.concatenate([pairs, precision @ mean, [constant]])
