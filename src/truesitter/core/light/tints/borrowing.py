"""Shadow that takes its colour from what faces it: a green wall greens the far cheek."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.light.tints.skin_colour import off_mean
from truesitter.core.light.tints.tuning import BORROWS, LEAST_PATCH, LIKE
from truesitter.core.types import Doubles, Floats, Mask


def borrowed(off: Doubles, own: Doubles, neighbours: dict[str, Doubles]) -> str | None:
    """The neighbour whose colour a shadow takes on; None where it leans to none.

    Parameters
    ----------
    off
        (2,) mean a*, b* of the shadow less the skin's own at its value.
    own
        (2,) the skin's own a*, b*.
    neighbours
        a*, b* of what faces the shadow, by name.
    """
    if np.hypot(*off) < BORROWS:
        return None
    best, likest = None, LIKE
    for name, there in neighbours.items():
        way = there - own
        like = float(off @ way) / max(1e-9, float(np.hypot(*off) * np.hypot(*way)))
        if like > likest:
            best, likest = name, like
    return best


def cloth_borrows(lab: Floats, cloth: Mask, scale: float, neighbours: dict[str, Doubles]) -> tuple[str, ...]:
    """The neighbours whose colours the darks of a cloth take on.

    Parameters
    ----------
    lab, cloth
        (h, w, 3) picture, and where the cloth lies; not empty.
    scale
        Height of the face in pixels.
    neighbours
        a*, b* of what faces it, by name.
    """
    off, _ = off_mean(lab, cloth, scale)
    dark = cloth & (lab[..., 0] <= np.quantile(lab[cloth][:, 0], 1 / 3))
    own = lab[cloth][:, 1:].mean(axis=0, dtype=np.float64)
    # Patch by patch: darks of one side may face the wall, those of the other the skin.
    count, numbers, stats, _ = cv2.connectedComponentsWithStats(dark.astype(np.uint8))
    names = {
        borrowed(off[numbers == n].mean(axis=0, dtype=np.float64), own, neighbours)
        for n in range(1, count)
        if stats[n][4] >= LEAST_PATCH * cloth.sum()
    }
    return tuple(sorted(name for name in names if name))
