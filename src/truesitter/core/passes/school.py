"""What a school is: the order in which a medium builds a picture, as data.

Times are room temperature, thin films, from memory; the painter can change them.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from truesitter.core.paint.media.media import MEDIA, Medium, MediumName
from truesitter.core.paint.media.supports import SupportName
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.laying import Laying
from truesitter.core.sitter.region_names import Region

DAY = 24 * 60


class Band(Enum):
    """Which values of its regions a pass covers."""

    EVERYTHING = "everything"
    EACH_GROUP = "each group, dark to light"
    THIRDS = "darks, middle, lights"
    NESTED_THIRDS = "darks over all of it, the middle inside them, lights inside that"
    LINES = "lines"
    SHADOW_AND_HALFTONE = "shadow and halftone"
    ZONES = "zone by zone round the peaks, each over those before"
    PEAKS = "the lightest of the zones round the peaks"


@dataclass(frozen=True)
class PassTemplate:
    """One step of a school.

    Attributes
    ----------
    key
        Unlike any other's of its school; ticks and links hold on to it.
    name
        May hold ``{band}``, which becomes the group or third.
    kind, regions, band
        How it is laid, where, and in which values.
    film
        As it is laid.
    fat
        Oil content, 0 lean … 3 fat: never falls from one layer to the layer over it.
    dries_minutes
        Before another layer may go over it, for a pigment of medium drying.
    edge, tool, note
        How to lay it, in the painter's words.
    into_wet
        True when it goes into what is still wet, and waits for nothing laid in the same sitting.
    """

    key: str
    name: str
    kind: Laying
    regions: tuple[Region, ...]
    band: Band
    film: WetMm
    fat: int
    dries_minutes: int
    edge: str
    tool: str
    note: str
    into_wet: bool = False


@dataclass(frozen=True)
class School:
    """An ordered list of templates, its ground, and places that stay without light.

    Attributes
    ----------
    media
        What it can be painted in; times are those of the first.
    ground_value, ground_tint
        Value of its ground, and a* and b*.
    support
        What it is usually painted on.
    """

    key: str
    name: str
    media: tuple[MediumName, ...]
    ground_value: float
    templates: tuple[PassTemplate, ...]
    ground_tint: tuple[float, float] = (2.0, 8.0)
    support: SupportName = "primed canvas"
    unlit: tuple[str, ...] = ()

    @property
    def medium(self) -> Medium:
        """The one its times are written for."""
        return MEDIA[self.media[0]]
