"""Where the light falls on the skin and where it comes from."""

from __future__ import annotations

from collections.abc import Hashable

from truesitter.core.blur import blur
from truesitter.core.highlights.light import LightDirection, light_direction
from truesitter.core.highlights.zones import LightZones, grow_zones
from truesitter.core.sitter.region_names import Region
from truesitter.core.study.part import Source
from truesitter.core.study.picture import PictureStage
from truesitter.core.study.sitter import SitterStage


class LightStage:
    """Points of maximum luminosity, zones, and the direction of the key light."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage) -> None:
        self._source, self._picture, self._sitter = source, picture, sitter
        self.settings = source.settings.light

    @property
    def key(self) -> Hashable:
        """Changes when points or zones may."""
        return (self._sitter.key, self.settings)

    def zones(self) -> LightZones:
        """Points of maximum luminosity and zones 1–4."""
        return self._source.remember("light", self.key, self._zones)

    def _zones(self) -> LightZones:
        value = self._picture.value()
        squinted = blur(value, self.settings.squint * value.shape[0])
        skin = self._sitter.regions().mask(Region.SKIN)
        return grow_zones(squinted, skin, self._sitter.detection().landmarks, self.settings.zone_1_reach)

    def direction(self) -> LightDirection | None:
        """Where the key light comes from; None without a face or without enough bare skin."""
        return self._source.remember("light direction", self._sitter.key, self._direction)

    def _direction(self) -> LightDirection | None:
        landmarks = self._sitter.detection().landmarks
        if landmarks is None:
            return None
        lightness = self._picture.lab()[..., 0]
        luminance = blur(((lightness + 16) / 116) ** 3, 0.004 * lightness.shape[0])
        return light_direction(luminance, self._sitter.regions().mask(Region.SKIN), landmarks)
