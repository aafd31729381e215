"""The big masses against the small marks, and where the marks outweigh the masses."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.blur import blur
from truesitter.core.types import Floats, Mask
from truesitter.core.values.tuning import WINDOW


@dataclass(frozen=True)
class Contrast:
    """Contrast of masses and of marks.

    Attributes
    ----------
    masses, marks
        (H, W) local spread, in value steps, of the squinted values and of what the squint loses.
    """

    masses: Floats
    marks: Floats

    def at_risk(self, least: float = 0.25) -> Mask:
        """Where marks outweigh masses and are strong enough to be seen: likely to be overworked."""
        return np.asarray((self.marks > self.masses) & (self.marks > least))


def read_contrast(value: Floats, masses: Floats, sigma: float) -> Contrast:
    """Split a value map into masses and marks at a squint.

    Parameters
    ----------
    value, masses
        (H, W) value map, and that of the squinted picture: blurred as light.
    sigma
        Of the squint, in pixels, > 0.
    """
    marks = value - masses
    window = WINDOW * sigma
    mean = blur(masses, window)
    between = np.sqrt(np.maximum(blur(masses * masses, window) - mean * mean, 0))
    within = np.sqrt(np.maximum(blur(marks * marks, window), 0))
    return Contrast(np.asarray(between, dtype=np.float32), np.asarray(within, dtype=np.float32))


def largest_patches(mask: Mask, most: int) -> list[tuple[int, float, float]]:
    """Area in pixels and centre (x, y) in fractions of the largest connected patches, largest first."""
    count, _, stats, centres = cv2.connectedComponentsWithStats(mask.astype(np.uint8), connectivity=8)
    order = 1 + np.argsort(-stats[1:, cv2.CC_STAT_AREA], kind="stable")[:most]
    height, width = mask.shape
    if count == 1:
        return []
    return [
        (
            int(stats[i, cv2.CC_STAT_AREA]),
            float((centres[i][0] + 0.5) / width),
            float((centres[i][1] + 0.5) / height),
        )
        for i in order
    ]
