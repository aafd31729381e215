"""What drills are made from: one picture, small, with what is known of it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.types import Doubles, Floats, Labels, Mask


class Peak(NamedTuple):
    """A place where the skin is lightest, in fractions of the picture."""

    x: float
    y: float
    name: str


@dataclass(frozen=True)
class DrillPicture:
    """A picture for drills; maps are of one size.

    Attributes
    ----------
    lab
        (h, w, 3) L*a*b* of the framed picture.
    places, names
        (h, w) number of the place each pixel belongs to, and their names.
    figure, shadow
        (h, w) all but the background, and the darker of its two best masses when squinted at.
    peaks
        Of the skin's light, most prominent first.
    outline
        (n, 2) the figure's border inside the picture, in fractions; empty where there is none.
    growth
        (h, w, 2) unit vectors along the hair, root to tip, x right and y down; 0 where there is none.
    palette
        Opaque tubes to mix from.
    """

    lab: Floats
    places: Labels
    names: tuple[str, ...]
    figure: Mask
    shadow: Mask
    peaks: tuple[Peak, ...]
    outline: Doubles
    growth: Floats
    palette: Palette

    @property
    def shape(self) -> tuple[int, int]:
        """Height and width."""
        return self.lab.shape[0], self.lab.shape[1]
