"""The guided filter (He, Sun & Tang 2013): one map smoothed along the edges of another."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.types import Floats


class GuidedFilter:
    """Smooths maps along the edges of one grey guide.

    Parameters
    ----------
    guide
        (h, w) float32.
    radius
        Of the window, in pixels.
    eps
        Spread of the guide below which it counts as flat, squared.
    """

    def __init__(self, guide: Floats, radius: int, eps: float = 6.0) -> None:
        self._guide, self._size = guide, (2 * radius + 1, 2 * radius + 1)
        self._mean = cv2.blur(guide, self._size)
        self._spread = cv2.blur(guide * guide, self._size) - self._mean * self._mean + eps

    def smooth(self, map_: Floats) -> Floats:
        """The map (h, w) along the guide's edges; it may overshoot its own range a little."""
        slope, offset = self._line(map_)
        return np.asarray(slope * self._guide + offset)

    def enlarge(self, map_: Floats, fine: Floats) -> Floats:
        """The map at the size of `fine`, the same guide at that size, following its edges.

        (Fast guided filter, He & Sun 2015.)
        """
        large = (fine.shape[1], fine.shape[0])
        slope, offset = (cv2.resize(part, large) for part in self._line(map_))
        return np.asarray(slope * fine + offset)

    def _line(self, map_: Floats) -> tuple[Floats, Floats]:
        mean = cv2.blur(map_, self._size)
        slope = (cv2.blur(self._guide * map_, self._size) - self._mean * mean) / self._spread
        return cv2.blur(slope, self._size), cv2.blur(mean - slope * self._mean, self._size)
