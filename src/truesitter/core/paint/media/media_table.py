"""Media: what paint is bound with, and films that are wet or dry.

K and S of the library are those of *dry* paint; a wet film shrinks as it dries.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from truesitter.core.paint.media.dilution import Thinning
from truesitter.core.paint.media.drying import DryingShift
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.media.tuning import IN_WATER

MediumName = Literal["oil", "quick oil", "acrylic", "gouache", "watercolour", "egg tempera", "airbrush"]

_HOUR, _DAY = 60.0, 24 * 60.0
_AS_IT_WAS = DryingShift(((0.0, 0.0), (10.0, 10.0)))


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
    thinning
        What it is thinned with, and what a thin layer of it leaves.
    wait_minutes
        Before another layer may go over a thin film, at room temperature (from memory).
    open_minutes
        Shortest and longest time in which an edge can still be moved [try].
    dryer
        How many times faster it dries under a hair dryer (from memory); 1 where warm air does not help.
    oily
        True where fat goes over lean.
    caution
        What to mind, in a sentence; empty where there is nothing beyond the tubes' own.
    keeps
        How long a heap of it can be used (common practice).
    """

    name: MediumName
    solids: float
    shift: DryingShift
    thinning: Thinning
    wait_minutes: float
    open_minutes: tuple[float, float]
    dryer: float = 1.0
    oily: bool = False
    caution: str = ""
    keeps: str = ""

    def dry(self, film: WetMm) -> DryMm:
        """Thickness that a wet film of undiluted paint, laid to cover, has once dry."""
        return DryMm(film * self.solids)

    def wet(self, film: DryMm) -> WetMm:
        """Thickness to lay for a dry film."""
        return WetMm(film / self.solids)

    @property
    def watery(self) -> bool:
        """True where water thins it."""
        return self.thinning.thinner == "water"

    @property
    def sprayed(self) -> bool:
        """True where no brush touches the surface."""
        return self.name == "airbrush"


_GLAZE, _WASH, _COAT = WetMm(0.0075), WetMm(0.1), WetMm(0.01)
"""A glaze wiped thin, a wash, a coat of sprayed paint, wet (from memory)."""


_SOLVENT = (
    "Air the room; oily rags heat up by themselves and can catch fire: lay them flat to dry "
    "or keep them in a closed metal can with water."
)
_SPRAY = "Wear a respirator and draw the mist off; never spray toxic pigments."

MEDIA: dict[MediumName, Medium] = {
    m.name: m
    for m in (
        Medium(
            "oil", 0.95, _AS_IT_WAS, Thinning("medium", 0.2, _GLAZE), 3 * _DAY, (12 * _HOUR, _DAY),
            oily=True, caution=_SOLVENT,
            keeps="covered and cool, two or three days",
        ),
        Medium(
            "quick oil", 0.9, _AS_IT_WAS, Thinning("quick medium", 0.2, _GLAZE), 14 * _HOUR,
            (_HOUR, 4 * _HOUR), oily=True, caution=_SOLVENT,
            keeps="this sitting; covered, a few hours more",
        ),
        Medium(
            "acrylic", 0.5, DryingShift(((1.0, 0.8), (5.0, 4.7), (9.0, 8.9))),
            Thinning("water", IN_WATER, _WASH), 15.0, (5.0, 15.0), dryer=5.0,
            keeps="minutes in the open; on damp paper under a lid a day or two",
        ),
        Medium(
            "gouache", 0.45, DryingShift(((1.0, 1.4), (5.0, 5.2), (9.0, 8.9))),
            Thinning("water", IN_WATER, _WASH), 15.0, (2.0, 5.0), dryer=10.0,
            keeps="dries within minutes and can be wetted again",
        ),
        Medium(
            "watercolour", 0.4, DryingShift(((2.0, 3.2), (5.0, 5.9), (9.0, 9.2))),
            Thinning("water", IN_WATER, _WASH), 20.0, (1.0, 3.0), dryer=20.0,
            keeps="dries and can be wetted again",
        ),
        Medium(
            "egg tempera", 0.45, DryingShift(((1.0, 1.3), (5.0, 5.3), (9.0, 9.1))),
            Thinning("water", IN_WATER, _WASH), 5.0, (0.5, 1.0), dryer=3.0,
            caution="Raw egg spoils and can carry germs: use it fresh and wash your hands.",
            keeps="a day, cool and covered; egg spoils",
        ),
        Medium(
            "airbrush", 0.3, _AS_IT_WAS, Thinning("water", IN_WATER, _COAT), 1.0, (0.0, 0.2), dryer=3.0,
            caution=_SPRAY,
            keeps="in a closed jar for weeks; strain it before use",
        ),
    )
}  # fmt: skip
"""Usual media; solids and shifts from memory, the shifts to be replaced by the painter's own swatches."""

if set(MEDIA) != set(get_args(MediumName)):
    raise AssertionError("every medium that can be named is known")
