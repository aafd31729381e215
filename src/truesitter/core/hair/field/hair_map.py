"""The finished map of the hair."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.hair.field.growth_lines import GrowthLine
from truesitter.core.hair.field.knot import Knot
from truesitter.core.hair.field.whorls import Whorl
from truesitter.core.types import Floats, Mask


@dataclass(frozen=True)
class Sense:
    """Which end of the hair is the root.

    Attributes
    ----------
    directed
        (h, w, 2) root→tip unit direction on a reduced grid, y up.
    whorls
        Places from which hair turns outward.
    knot
        Hair gathered up: inside it the sense is undecided.
    """

    directed: Floats
    whorls: tuple[Whorl, ...]
    knot: Knot | None = None


@dataclass(frozen=True)
class HairMap:
    """Direction of the hair.

    Attributes
    ----------
    directed
        (h, w, 2) root→tip unit direction on a reduced grid, y up.
    mask
        (h, w) where there is hair on that grid.
    lines, whorls
        Growth lines, root first, and whorls.
    coherence
        Mean coherence inside the hair, 0–1: how plainly the strands showed.
    """

    directed: Floats
    mask: Mask
    lines: tuple[GrowthLine, ...]
    whorls: tuple[Whorl, ...]
    coherence: float

    def field_codes(self, hair: Mask) -> np.ndarray[tuple[int, int], np.dtype[np.uint16]]:
        """Direction as 16-bit codes at the size of `hair`: 0 outside, else 1 + round(100·degrees)."""
        height, width = hair.shape
        big = cv2.resize(self.directed, (width, height), interpolation=cv2.INTER_LINEAR)
        degrees = np.degrees(np.arctan2(big[..., 1], big[..., 0])) % 360
        codes = 1 + np.round(degrees * 100) % 36000
        inside = hair & (np.hypot(big[..., 0], big[..., 1]) > 1e-6)
        return np.where(inside, codes, 0).astype(np.uint16)
