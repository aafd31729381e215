"""Everything the painter set for one sitter."""

from __future__ import annotations

from truesitter.core.settings.base import Settings
from truesitter.core.settings.easel import EaselSettings
from truesitter.core.settings.flesh import FleshSettings
from truesitter.core.settings.hair import HairSettings
from truesitter.core.settings.light import LightSettings
from truesitter.core.settings.passes import PassSettings
from truesitter.core.settings.reference import ReferenceSettings
from truesitter.core.settings.regions import RegionSettings
from truesitter.core.settings.values import ValueSettings


class StudySettings(Settings):
    """One document for each stage."""

    reference: ReferenceSettings = ReferenceSettings()
    values: ValueSettings = ValueSettings()
    regions: RegionSettings = RegionSettings()
    flesh: FleshSettings = FleshSettings()
    light: LightSettings = LightSettings()
    hair: HairSettings = HairSettings()
    passes: PassSettings = PassSettings()
    easel: EaselSettings = EaselSettings()
