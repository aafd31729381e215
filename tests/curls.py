"""Hair that is drawn strand by strand, so that its curl is known."""

from __future__ import annotations

import cv2
import numpy as np

SHAPE = (700, 560)
LOCK = 34.0
"""Pixels across a lock: the strands of one share their phase."""


def drawn_hair(
    period: float = 30.0, amplitude: float = 6.0, slant: float = 80.0, seed: int = 1
) -> tuple[np.ndarray, np.ndarray]:
    """An oval of hair on a light wall: L* (h, w) float32, and where it is.

    Parameters
    ----------
    period, amplitude
        Of the curl, in pixels; an amplitude of 0 draws it straight.
    slant
        Degrees of its way, counted clockwise from level.
    """
    rng = np.random.default_rng(seed)
    height, width = SHAPE
    picture = np.full(SHAPE, 40, np.float32)
    along = np.array((np.cos(np.radians(slant)), np.sin(np.radians(slant))))
    across = np.array((-along[1], along[0]))
    reach = np.hypot(height, width) / 2
    s = np.arange(-reach, reach, 1.0)
    middle = np.array((width / 2, height / 2))
    for lock in rng.permutation(np.arange(-reach, reach, LOCK)):
        phase = rng.uniform(0, 2 * np.pi)
        for t in np.arange(lock, lock + LOCK, 2.2):
            at = 2 * np.pi * s / period + phase + rng.normal(0, 0.25) + np.cumsum(rng.normal(0, 0.02, len(s)))
            off = t + amplitude * np.cos(at)
            points = middle + s[:, None] * along + off[:, None] * across
            lit = 70 + 40 * rng.random() - 25 * np.cos(2 * np.pi * (t - lock) / LOCK)
            whole = np.round(points * 8).astype(np.int32)
            for n in range(0, len(s) - 4, 4):
                run = whole[n : n + 5].reshape(-1, 1, 2)
                cv2.polylines(picture, [run], False, float(lit), 1, cv2.LINE_AA, 3)
    picture += rng.normal(0, 2, SHAPE).astype(np.float32)
    inside = oval(SHAPE)
    return (np.clip(np.where(inside, picture, 190), 0, 255) / 255 * 100).astype(np.float32), inside


def oval(shape: tuple[int, int]) -> np.ndarray:
    y, x = np.mgrid[: shape[0], : shape[1]].astype(float)
    return ((x / shape[1] - 0.5) / 0.38) ** 2 + ((y / shape[0] - 0.5) / 0.38) ** 2 < 1
