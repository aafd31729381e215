"""How the light is read, and what the painter decided of it."""

from __future__ import annotations

import math
from typing import Self

from pydantic import Field, model_validator

from truesitter.core.settings.base import Settings
from truesitter.core.settings.setting_kinds import Spot


class OutlineSettings(Settings):
    """A closed outline that light does not pass."""

    points: tuple[Spot, ...] = Field(min_length=3, max_length=2000)


class LightSettings(Settings):
    """Peaks, limits and key light as the painter wants them; what is None is as found in the photograph."""

    zone_1_reach: float = Field(0.045, ge=0.01, le=0.2)
    squint: float = Field(0.006, ge=0.001, le=0.05)
    key: tuple[float, float, float] | None = None
    peaks: tuple[Spot, ...] | None = Field(None, max_length=40)
    limits: tuple[OutlineSettings, ...] = Field((), max_length=40)

    @model_validator(mode="after")
    def _key_points_somewhere(self) -> Self:
        if self.key is not None and math.hypot(*self.key) < 1e-6:
            raise ValueError("the light has to come from somewhere")
        return self
