"""Mixtures of Gaussians over pixel features, as used to tell one region from another."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.types import Floats

_COMPONENTS = 4
_SAMPLE = 3000
_FLOOR_STD = 1.2


def log_likelihood(sample: Floats, query: Floats) -> Floats:
    """Log density of `query` under a Gaussian mixture fitted to `sample`.

    Parameters
    ----------
    sample
        (n, d) features known to belong to the class, n ≥ 1.
    query
        (m, d) features to be judged.

    Returns
    -------
    (m,) float32 log densities. The components are found by k-means with fixed
    starting points, so the same picture always gives the same regions.
    """
    step = max(1, len(sample) // _SAMPLE)
    data = np.ascontiguousarray(sample[::step], dtype=np.float32)
    count = min(_COMPONENTS, max(1, len(data) // 40))
    if count > 1:
        order = data[:, 0].argsort(kind="stable")
        first = np.empty((len(data), 1), np.int32)
        first[order, 0] = np.arange(len(data)) * count // len(data)
        criteria = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 12, 0.1)
        _, member, _ = cv2.kmeans(data, count, first, criteria, 1, cv2.KMEANS_USE_INITIAL_LABELS)
        member = member.ravel()
    else:
        member = np.zeros(len(data), np.int32)
    dims = data.shape[1]
    logs = []
    for k in range(count):
        part = data[member == k]
        if len(part) < dims + 1:
            continue
        mean = part.mean(axis=0)
        cov = np.cov(part, rowvar=False) + np.eye(dims) * _FLOOR_STD**2
        whiten = np.linalg.inv(np.linalg.cholesky(cov)).T.astype(np.float32)
        away = query @ whiten
        away -= (mean @ whiten).astype(np.float32)
        distance = np.einsum("ij,ij->i", away, away)
        weight = np.log(len(part) / len(data)) - 0.5 * np.linalg.slogdet(cov)[1]
        logs.append(weight - 0.5 * distance)
    if not logs:
        centred = query - data.mean(axis=0)
        return np.asarray(-0.5 * (centred**2).sum(axis=1) / _FLOOR_STD**2, dtype=np.float32)
    stacked = np.stack(logs).astype(np.float32)
    peak = stacked.max(axis=0)
    stacked -= peak
    return np.asarray(peak + np.log(np.exp(stacked, out=stacked).sum(axis=0)), dtype=np.float32)
