"""Media and supports: what paint is bound with and laid on, and films that are wet or dry.

K and S of the library are those of *dry* paint. A wet film shrinks as it dries; `WetMm` and
`DryMm` are types of their own, so that neither can stand for the other.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, NewType, get_args

import numpy as np

from truesitter.core.paint.media.drying import DryingShift
from truesitter.core.paint.optics.kubelka_munk import enter_surface
from truesitter.core.types import Doubles

WetMm = NewType("WetMm", float)
"""Thickness of a film as it is laid, in mm."""

DryMm = NewType("DryMm", float)
"""Thickness of a film once dry, in mm: what Kubelka–Munk reckons with."""

MediumName = Literal["oil", "acrylic", "gouache", "watercolour"]


@dataclass(frozen=True)
class Medium:
    """What the pigment is bound with.

    Attributes
    ----------
    name
        As the painter calls it.
    solids
        Part of a wet film's volume that is left when it is dry, 0–1 (from memory).
    shift
        How much lighter or darker it dries.
    """

    name: MediumName
    solids: float
    shift: DryingShift

    def dry(self, film: WetMm) -> DryMm:
        """Thickness that a wet film has once dry."""
        return DryMm(film * self.solids)

    def wet(self, film: DryMm) -> WetMm:
        """Thickness to lay for a dry film."""
        return WetMm(film / self.solids)


MEDIA: dict[MediumName, Medium] = {
    m.name: m
    for m in (
        Medium("oil", 0.95, DryingShift(((0.0, 0.0), (10.0, 10.0)))),
        Medium("acrylic", 0.5, DryingShift(((1.0, 0.8), (5.0, 4.7), (9.0, 8.9)))),
        Medium("gouache", 0.45, DryingShift(((1.0, 1.4), (5.0, 5.2), (9.0, 8.9)))),
        Medium("watercolour", 0.4, DryingShift(((2.0, 3.2), (5.0, 5.9), (9.0, 9.2)))),
    )
}
"""Usual media; solids and shifts from memory, the shifts to be replaced by the painter's own swatches."""

if set(MEDIA) != set(get_args(MediumName)):
    raise AssertionError("every medium that can be named is known")


@dataclass(frozen=True)
class Support:
    """What the first layer lies on: reflectance 0–1 as the eye sees it, even over the spectrum."""

    name: str
    reflectance: float

    def seen(self) -> Doubles:
        """Reflectance (31,) as the eye sees it."""
        return np.full(31, self.reflectance)

    def internal(self) -> Doubles:
        """Reflectance (31,) below the surface, as films are laid on it."""
        return enter_surface(self.seen())


WHITE_PAPER: Support = Support("white paper", 0.88)
PRIMED_CANVAS: Support = Support("white primed canvas", 0.85)
"""Reflectances from memory."""
