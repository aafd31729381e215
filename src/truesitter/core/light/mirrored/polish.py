"""How a surface carries the light: matt cloth, or polished like metal and stones.

What is polished mirrors its surroundings: its values run from very dark to very light, its
edges are hard, and its lights and darks take the colours of what faces them (common practice).
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.families import at_one_lightness
from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.light.mirrored.tuning import EDGE, ENDS, LEANS, LIKE, MOSTLY_HARD, NEARLY, WIDE_RANGE
from truesitter.core.types import Doubles, Floats, Mask
from truesitter.core.values.tuning import HARD_MM, SOFT_MM


@dataclass(frozen=True)
class Polish:
    """How a surface carries the light.

    Attributes
    ----------
    darkest, lightest
        In value steps.
    hard
        Share of its edges that are hard, 0–1.
    lights, darks
        The neighbour whose colour its lights and its darks lean to; None for none.
    """

    darkest: float
    lightest: float
    hard: float
    lights: str | None
    darks: str | None

    @property
    def polished(self) -> bool:
        """True for what looks like metal, stones or satin."""
        return self.lightest - self.darkest >= WIDE_RANGE and self.hard >= MOSTLY_HARD


@dataclass(frozen=True, eq=False)
class SurfaceEdges:
    """Edges inside a surface: (h, w) where they are hard, and the share of them that is, 0–1."""

    hard: Mask
    share: float


def edges_of(value: Floats, mask: Mask, mm_per_px: float) -> SurfaceEdges:
    """Edges inside a mask, and which of them are hard.

    The band in which a window sees most of an edge's fall is as wide as the window for a hard
    edge, and empty for one wider than it: bands of a narrow and of a wide window are compared.

    Parameters
    ----------
    value
        (h, w) Munsell values 0–10.
    mask
        (h, w) where it is looked at.
    mm_per_px
        Canvas mm to a pixel, > 0.

    Returns
    -------
    SurfaceEdges
        With a share of 0 where there are none.
    """
    sizes = [max(3, round(mm / mm_per_px) | 1) for mm in (HARD_MM, SOFT_MM)]
    inside = cv2.erode(mask.astype(np.uint8), np.ones((sizes[1], sizes[1]), np.uint8)) > 0
    falls = [cv2.morphologyEx(value, cv2.MORPH_GRADIENT, np.ones((n, n), np.uint8)) for n in sizes]
    edges = inside & (falls[1] >= EDGE)
    hard = edges & (falls[0] >= NEARLY * falls[1])
    share = hard.sum() / max(1, edges.sum()) * (sizes[1] - 1) / (sizes[0] - 1)
    return SurfaceEdges(hard, min(1.0, float(share)))


def polish_of(lab: Floats, mask: Mask, mm_per_px: float, neighbours: dict[str, Doubles]) -> Polish:
    """How the surface in a mask carries the light.

    Parameters
    ----------
    lab
        (h, w, 3) picture, grain evened out.
    mask
        (h, w) where the surface lies; not empty.
    neighbours
        Mean L*a*b* (3,) of what it may mirror, by name.
    """
    value = lightness_map_to_value(lab[..., 0])
    inside = value[mask]
    darkest, lightest = (float(v) for v in np.quantile(inside, ENDS))
    colours = lab[mask]
    mean = at_one_lightness(colours).mean(axis=0, dtype=np.float64)
    thirds = np.quantile(inside, (1 / 3, 2 / 3))
    ends = {
        "darks": colours[(inside <= thirds[0]) & (colours[:, 0] > 10)],
        "lights": colours[inside >= thirds[1]],
    }
    lean = {name: _leans(part, mean, neighbours) for name, part in ends.items()}
    return Polish(darkest, lightest, edges_of(value, mask, mm_per_px).share, lean["lights"], lean["darks"])


def _leans(colours: Floats, mean: Doubles, neighbours: dict[str, Doubles]) -> str | None:
    """The neighbour that some colours of a surface lean to."""
    if not len(colours):
        return None
    way = at_one_lightness(colours).mean(axis=0, dtype=np.float64) - mean
    if np.hypot(*way) < LEANS:
        return None
    best, likest = None, LIKE
    for name, lab in neighbours.items():
        there = at_one_lightness(np.asarray(lab, np.float32)) - mean
        like = float(way @ there) / max(1e-9, float(np.hypot(*way) * np.hypot(*there)))
        if like > likest:
            best, likest = name, like
    return best
