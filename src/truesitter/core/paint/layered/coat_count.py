"""Whole coats of two transparent mixtures: how many of each a place takes.

Every value is approached from its light side: a coat too few costs one coat, a coat too many cannot
be taken back. So no place is ever made darker than it is wanted, as long as the bare ground is not.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.paint.layered.tuning import AB_CELL, CHUNK, L_CELL, MOST_COATS
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.tubes.rack import LIBRARY, Rack
from truesitter.core.types import Bytes, Doubles, Floats, Ints


@dataclass(frozen=True)
class Coats:
    """What coats of two mixtures come to.

    Attributes
    ----------
    labs
        (n + 1, m + 1, 3) L*a*b* after so many coats of the first, then so many of the second.
    """

    labs: Doubles

    @property
    def most(self) -> tuple[int, int]:
        """Most coats of either."""
        return self.labs.shape[0] - 1, self.labs.shape[1] - 1


def coats_of(
    first: Mapping[str, float],
    second: Mapping[str, float],
    films: tuple[DryMm, DryMm],
    ground: Doubles,
    rack: Rack = LIBRARY,
    most: int = MOST_COATS,
) -> Coats:
    """Every number of coats of two mixtures, the first laid first.

    Parameters
    ----------
    first, second
        Parts by volume.
    films
        Dry film of one coat of either.
    ground
        (31,) internal reflectance.
    """
    counts = np.arange(most + 1.0)[:, None]
    k, s = rack.mixture(first)
    # Coats of one mixture are one film of their summed thickness (Kubelka 1948).
    below = film_reflectance(k, s, counts * films[0], ground)
    k, s = rack.mixture(second)
    both = film_reflectance(k, s, counts[None] * films[1], below[:, None])
    return Coats(reflectance_to_lab(leave_surface(both)))


def coat_map(lab: Floats, coats: Coats) -> tuple[Ints, Ints]:
    """How many coats of either bring each place nearest to its colour without going past it.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b* wanted.

    Returns
    -------
    first, second
        (h, w) coats; none where even one coat would be too dark.
    """
    cells = np.rint(lab / np.array((L_CELL, AB_CELL, AB_CELL), np.float32)).astype(np.int32) + 512
    code = (cells[..., 0] << 20) | (cells[..., 1] << 10) | cells[..., 2]
    distinct, which = np.unique(code, return_inverse=True)
    wanted = np.stack([distinct >> 20, (distinct >> 10) & 1023, distinct & 1023], axis=1) - 512.0
    wanted *= (L_CELL, AB_CELL, AB_CELL)
    table = coats.labs.reshape(-1, 3)
    best = np.empty(len(wanted), np.int64)
    for start in range(0, len(wanted), CHUNK):
        some = wanted[start : start + CHUNK]
        away = ((table - some[:, None]) ** 2 @ (2.5, 1.0, 1.0)).astype(float)
        # The lightest colour of the cell decides what is past it.
        away[table[:, 0] < some[:, :1] + L_CELL / 2] = np.inf
        best[start : start + CHUNK] = np.where(np.isfinite(away).any(axis=1), away.argmin(axis=1), 0)
    counts = np.stack(np.unravel_index(best, coats.labs.shape[:2]), axis=1).astype(np.int32)[which]
    found = counts.reshape(*lab.shape[:2], 2)
    return found[..., 0], found[..., 1]


def paintable(counts: Ints, radius_px: float) -> Ints:
    """Counts of coats without anything too small to spray: opened, so that no place gets more than before.

    Parameters
    ----------
    counts
        (h, w) coats.
    radius_px
        Of the smallest place that can be sprayed.
    """
    size = 2 * max(0, round(radius_px)) + 1
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    opened: Bytes = cv2.morphologyEx(counts.astype(np.uint8), cv2.MORPH_OPEN, disc).astype(np.uint8)
    return opened.astype(np.int32)


def coats_error(lab: Floats, first: Ints, second: Ints, coats: Coats) -> float:
    """Mean distance of the coats from what is wanted: ΔE2000, a value error counting more.

    Parameters
    ----------
    lab
        (h, w, 3) wanted.
    first
        (h, w) coats of the first mixture.
    second
        (h, w) of the second.
    coats
        Colours of every number of both.

    Returns
    -------
    float
        ΔE00 with its weight on value.
    """
    step = max(1, int(np.sqrt(lab.shape[0] * lab.shape[1] / 40_000)))
    made = coats.labs[first[::step, ::step], second[::step, ::step]]
    wanted = lab[::step, ::step].astype(np.float64)
    return float(recipe_cost(made.reshape(-1, 3), wanted.reshape(-1, 3)).mean())
