"""What the painter can set, stage by stage, with its ranges.

These are the parameters of every computation; the store keeps them, the web and the
command line send them. Points are fractions of the framed picture, lengths mm on the canvas.
"""

from truesitter.core.settings.base import Settings
from truesitter.core.settings.easel_settings import EaselSettings, PaintingSettings
from truesitter.core.settings.flesh_settings import FleshSettings, PinSettings, SwatchSettings, TubeSettings
from truesitter.core.settings.hair_settings import GuideSettings, HairSettings
from truesitter.core.settings.light_settings import LightSettings
from truesitter.core.settings.pass_settings import BrushSettings, PassSettings, brush_settings
from truesitter.core.settings.reference_settings import MeasureSettings, ReferenceSettings
from truesitter.core.settings.region_settings import RegionSettings, ScribbleSettings
from truesitter.core.settings.study_settings import StudySettings
from truesitter.core.settings.value_settings import JoinSettings, ValueSettings

__all__ = [
    "BrushSettings", "EaselSettings", "FleshSettings", "GuideSettings", "HairSettings", "JoinSettings",
    "LightSettings", "MeasureSettings", "PaintingSettings", "PassSettings", "PinSettings",
    "ReferenceSettings", "RegionSettings", "ScribbleSettings", "Settings", "StudySettings",
    "SwatchSettings", "TubeSettings", "ValueSettings", "brush_settings",
]  # fmt: skip
