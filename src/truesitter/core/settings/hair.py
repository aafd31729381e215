"""What the painter draws on the hair, and how its lines, locks and strokes are made."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from truesitter.core.hair.guides import DrawnWhorl, Guide, Handles
from truesitter.core.settings.base import Settings
from truesitter.core.settings.kinds import Spot


class GuideSettings(Settings):
    """One guide stroke, root first."""

    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)
    reach: float = Field(0.04, gt=0, le=0.5)

    def guide(self) -> Guide:
        """For the core."""
        return Guide(self.points, self.reach)


class WhorlSettings(Settings):
    """A whorl set by hand."""

    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)
    radius: float = Field(0.08, gt=0, le=0.5)
    turns: Literal["clockwise", "anticlockwise", "straight"] = "clockwise"

    def whorl(self) -> DrawnWhorl:
        """For the core."""
        return DrawnWhorl(self.x, self.y, self.radius, self.turns)


class RootLineSettings(Settings):
    """A line that hair grows from: a parting or a hairline."""

    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)


class HairSettings(Settings):
    """Handles of the direction, and the spacing of the growth lines."""

    ROWS: ClassVar[tuple[str, ...]] = ("guides", "whorls", "partings", "hairlines")

    guides: tuple[GuideSettings, ...] = Field((), max_length=500)
    whorls: tuple[WhorlSettings, ...] = Field((), max_length=8)
    partings: tuple[RootLineSettings, ...] = Field((), max_length=8)
    hairlines: tuple[RootLineSettings, ...] = Field((), max_length=8)
    spacing_mm: float = Field(6, ge=1, le=100)

    def handles(self) -> Handles:
        """All that was drawn, for the core."""
        return Handles(
            tuple(g.guide() for g in self.guides),
            tuple(w.whorl() for w in self.whorls),
            tuple(p.points for p in self.partings),
            tuple(h.points for h in self.hairlines),
        )
