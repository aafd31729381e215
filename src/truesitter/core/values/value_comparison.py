"""Two spots side by side: how far apart in value, and how their surrounds fool the eye."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.imaging.pixels import window_at
from truesitter.core.types import Floats
from truesitter.core.values.tuning import FELT, RING, SPOT


@dataclass(frozen=True)
class SpotValue:
    """Mean value of a spot and of the ring round it."""

    value: float
    surround: float

    @property
    def seems(self) -> str:
        """How the surround makes the spot look."""
        if self.surround < self.value - FELT:
            return "lighter"
        return "darker" if self.surround > self.value + FELT else "as it is"


@dataclass(frozen=True)
class ValueComparison:
    """Two spots.

    Attributes
    ----------
    first, second
        The spots.
    steps
        First minus second, in value steps.
    """

    first: SpotValue
    second: SpotValue
    steps: float

    def sentence(self) -> str:
        """What a painter should know, in words."""
        if abs(self.steps) < 0.15:
            words = "The two spots have the same value."
        else:
            kind = "lighter" if self.steps > 0 else "darker"
            words = f"The first spot is {abs(self.steps):.1f} steps {kind} than the second."
        fooled = [
            f"the {name} looks {spot.seems} than it is, because its surround is value {spot.surround:.1f}"
            for name, spot in (("first", self.first), ("second", self.second))
            if spot.seems != "as it is"
        ]
        return words + (f" Do not trust your eye here: {'; '.join(fooled)}." if fooled else "")


def read_spot(value: Floats, x: float, y: float) -> SpotValue:
    """Value of a spot (fractions of the picture) and of its surround.

    Parameters
    ----------
    value
        (h, w) Munsell values 0–10.
    x
        In fractions.
    y
        In fractions, down.

    Returns
    -------
    SpotValue
        0–10 both.
    """
    height, width = value.shape
    column, row = x * width, y * height
    rows, columns = window_at(x, y, value.shape, int(np.ceil(RING * width)) + 1)
    cut = value[rows, columns]
    yy, xx = np.mgrid[rows, columns][:, : cut.shape[0], : cut.shape[1]]
    away = np.hypot(xx + 0.5 - column, yy + 0.5 - row) / width
    spot = away <= max(SPOT, away.min())
    ring = (away > 2 * SPOT) & (away <= RING)
    own = float(cut[spot].mean())
    return SpotValue(own, float(cut[ring].mean()) if ring.any() else own)


def compare(value: Floats, first: tuple[float, float], second: tuple[float, float]) -> ValueComparison:
    """Compare two spots of a value map (H, W).

    Parameters
    ----------
    value
        (h, w) Munsell values 0–10.
    first, second
        x, y in fractions.

    Returns
    -------
    ValueComparison
        Both and their difference.
    """
    one, other = read_spot(value, *first), read_spot(value, *second)
    return ValueComparison(one, other, one.value - other.value)
