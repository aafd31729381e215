"""The painter's corrections of the regions."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from truesitter.core.settings.base import Settings
from truesitter.core.settings.setting_kinds import Spot
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.region_map import Scribble

RegionName = Literal[
    "background",
    "skin",
    "hair",
    "brows",
    "facial_hair",
    "lips",
    "eyes",
    "garment",
    "mouth",
    "spectacles",
    "hat",
    "jewellery",
]
ScribbleName = Literal[RegionName, "erase"]


class ScribbleSettings(Settings):
    """One correcting stroke."""

    region: ScribbleName
    points: tuple[Spot, ...] = Field(min_length=1, max_length=2000)
    width: float = Field(0.02, gt=0, le=0.2)

    def scribble(self) -> Scribble:
        """For the core."""
        region = None if self.region == "erase" else Region[self.region.upper()]
        return Scribble(region, self.points, self.width)


class NamedPlace(Settings):
    """A spot of the figure, and what the painter calls it."""

    name: str = Field(min_length=1, max_length=60)
    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)


class RegionSettings(Settings):
    """The painter's corrections of the regions, in the order they were drawn, and names of places."""

    ROWS: ClassVar[tuple[str, ...]] = ("scribbles",)

    scribbles: tuple[ScribbleSettings, ...] = Field((), max_length=500)
    names: tuple[NamedPlace, ...] = Field((), max_length=40)
