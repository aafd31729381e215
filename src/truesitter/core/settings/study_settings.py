"""Everything the painter set for one sitter."""

from __future__ import annotations

from truesitter.core.settings.base import Settings
from truesitter.core.settings.easel_settings import EaselSettings
from truesitter.core.settings.flesh_settings import FleshSettings
from truesitter.core.settings.hair_settings import HairSettings
from truesitter.core.settings.light_settings import LightSettings
from truesitter.core.settings.pass_settings import PassSettings
from truesitter.core.settings.reference_settings import ReferenceSettings
from truesitter.core.settings.region_settings import RegionSettings
from truesitter.core.settings.value_settings import ValueSettings


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
