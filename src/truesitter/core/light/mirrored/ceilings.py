"""Ceilings: how light each light may become, and which lights are in danger.

A light stays inside its own value group; inside a shadow it is at most about a step above its
neighbour, and may look brilliant there all the same. A light on a cheekbone has to stand a step
off what it turns from, else it is lost in the painting (common practice).
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.light.mirrored.tuning import IN_SHADOW, LEAST_OVER, RING, STANDS_OFF
from truesitter.core.types import Floats, Mask


@dataclass(frozen=True)
class Ceiling:
    """How light one light may be.

    Attributes
    ----------
    place
        Its name.
    x, y
        In fractions.
    value, ceiling
        What it is in the photograph, and the highest it may take.
    neighbour
        Value of what lies round it.
    in_shadow
        True when the shadow's rule is the tighter one.
    vanishing
        True for a light that hardly stands off what it turns from.
    """

    place: str
    x: float
    y: float
    value: float
    ceiling: float
    neighbour: float
    in_shadow: bool
    vanishing: bool

    @property
    def over(self) -> float:
        """Value steps that it exceeds its ceiling by, 0 or more."""
        return max(0.0, self.value - self.ceiling)

    @property
    def harm(self) -> float:
        """How much it would hurt the likeness, in value steps: too light, or hardly there at all."""
        return self.over + (STANDS_OFF - min(STANDS_OFF, self.value - self.neighbour)) * self.vanishing

    @property
    def wrong(self) -> bool:
        """True when there is something to say of it."""
        return self.over >= LEAST_OVER or self.vanishing


def neighbour_of(value: Floats, where: Mask, x: float, y: float, scale: float, darkest: bool) -> float:
    """Value of what lies round a spot: the middle of its ring, or the darkest quarter of it.

    Parameters
    ----------
    value, where
        (h, w) values, and what counts as a neighbour.
    """
    row, column = pixel_at(x, y, value.shape)
    reach = max(2, round(RING[1] * scale))
    height, width = value.shape
    # Cut by the picture's border on every side: the window has the shape of what it looks at.
    box = (
        slice(max(0, row - reach), min(height, row + reach + 1)),
        slice(max(0, column - reach), min(width, column + reach + 1)),
    )
    rows, columns = np.ogrid[box]
    away = np.hypot(rows - row, columns - column)
    ring = (away >= RING[0] * scale) & (away <= reach) & where[box]
    if not ring.any():
        return float(value[row, column])
    return float(np.quantile(value[box][ring], 0.25 if darkest else 0.5))


def ceilings(
    lights: tuple[tuple[str, float, float], ...], value: Floats, squinted: Floats, skin: Mask, shadow: Mask,
    cuts: tuple[float, ...], scale: float,
) -> tuple[Ceiling, ...]:  # fmt: skip
    """The ceiling of each light, what would hurt most first.

    Parameters
    ----------
    lights
        Name, x and y in fractions.
    value, squinted
        (h, w) values of the photograph, fine and squinted.
    skin, shadow
        (h, w) skin, and the part of it that lies in shadow.
    cuts
        Between the value groups, ascending.
    scale
        Height of the face in pixels.
    """
    around = max(1, round(0.012 * scale))
    # The brightest of its own spot, not one bright grain.
    fine = cv2.dilate(cv2.GaussianBlur(value, (0, 0), 0.7), np.ones((2 * around + 1,) * 2, np.uint8))
    edges = (*cuts, 10.0)
    found = []
    for place, x, y in lights:
        at = pixel_at(x, y, value.shape)
        group = int(np.searchsorted(cuts, squinted[at], side="right"))
        cheekbone = "cheekbone" in place
        dim = bool(shadow[at])
        neighbour = neighbour_of(value, shadow if dim else skin, x, y, scale, cheekbone)
        own = edges[group]
        ceiling = min(own, neighbour + IN_SHADOW) if dim else own
        top = float(min(10.0, fine[at]))
        vanishing = cheekbone and not dim and float(squinted[at]) - neighbour < STANDS_OFF
        found.append(Ceiling(place, x, y, top, ceiling, neighbour, dim and ceiling < own, vanishing))
    return tuple(sorted(found, key=lambda c: -c.harm))
