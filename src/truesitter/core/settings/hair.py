"""Guide strokes and growth lines."""

from __future__ import annotations

from typing import ClassVar

from pydantic import Field

from truesitter.core.hair.field import Guide
from truesitter.core.settings.base import Settings
from truesitter.core.settings.kinds import Spot


class GuideSettings(Settings):
    """One guide stroke, root first."""

    points: tuple[Spot, ...] = Field(min_length=2, max_length=2000)
    reach: float = Field(0.04, gt=0, le=0.5)

    def guide(self) -> Guide:
        """For the core."""
        return Guide(self.points, self.reach)


class HairSettings(Settings):
    """Guide strokes and the spacing of the growth lines."""

    ROWS: ClassVar[tuple[str, ...]] = ("guides",)

    guides: tuple[GuideSettings, ...] = Field((), max_length=500)
    spacing_mm: float = Field(6, ge=1, le=100)
