"""How the light is read."""

from __future__ import annotations

from pydantic import Field

from truesitter.core.settings.base import Settings


class LightSettings(Settings):
    """How far the zones spread and how hard to squint before looking for lights."""

    zone_1_reach: float = Field(0.045, ge=0.01, le=0.2)
    squint: float = Field(0.006, ge=0.001, le=0.05)
