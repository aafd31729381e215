"""Where the light falls on the skin and where it comes from."""

from __future__ import annotations

import numpy as np

from truesitter.core.blur import blur
from truesitter.core.colour.value import picture_luminance
from truesitter.core.light.direction import LightDirection, light_direction
from truesitter.core.light.recesses import Recesses, find_recesses
from truesitter.core.light.zones import LightZones, grow_zones
from truesitter.core.passes.schools import school
from truesitter.core.settings import LightSettings, PassSettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.study.picture import PictureStage
from truesitter.core.study.reduce import reduced, reduced_labels
from truesitter.core.study.results import Source, result
from truesitter.core.study.sitter import SitterStage
from truesitter.core.values.value_map import squinted_value

_DIRECTION_SQUINT = 0.004
_RECESS_SQUINT = 0.0008

RECESS_LONG_SIDE = 1000
"""Recesses are found on maps of this size: the finest valley is still two pixels wide."""

FACE_OF_FIGURE = 0.3
"""Height of a face as part of the picture's, where none was found."""


class LightStage:
    """Light peaks, zones, and the direction of the key light."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage) -> None:
        self.source, self._picture, self._sitter = source, picture, sitter
        self.settings: LightSettings = source.stage("light")
        self._school: PassSettings = source.stage("passes")

    @result(
        "light",
        settings=("light.squint", "light.zone_1_reach", "passes.school"),
        needs=("framed", "regions", "detection"),
        version=2,
    )
    def zones(self) -> LightZones:
        """Light peaks and zones 1–4."""
        squinted = squinted_value(self._picture.framed(), self.settings.squint)
        skin = self._sitter.regions().mask(Region.SKIN)
        unlit = school(self._school.school).unlit
        return grow_zones(squinted, skin, self._sitter.face, self.settings.zone_1_reach, unlit)

    @result("recesses", needs=("framed", "regions", "detection"))
    def recesses(self) -> Recesses:
        """The narrow darks of the face, on a map of `RECESS_LONG_SIDE`."""
        value = reduced(squinted_value(self._picture.framed(), _RECESS_SQUINT), RECESS_LONG_SIDE)
        regions = reduced_labels(self._sitter.regions().labels, RECESS_LONG_SIDE)
        where = np.isin(regions, (Region.SKIN, Region.LIPS, Region.EYES))
        face = self._sitter.face
        scale = FACE_OF_FIGURE * value.shape[0] if face is None else face.height(value.shape)
        return find_recesses(value, where, face, scale)

    @result("light direction", needs=("framed", "regions", "detection"))
    def direction(self) -> LightDirection | None:
        """Where the key light comes from; None without a face or without enough bare skin."""
        face = self._sitter.face
        if face is None:
            return None
        luminance = picture_luminance(self._picture.framed())
        luminance = blur(luminance, _DIRECTION_SQUINT * luminance.shape[0])
        return light_direction(luminance, self._sitter.regions().mask(Region.SKIN), face)
