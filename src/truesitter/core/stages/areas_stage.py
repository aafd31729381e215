"""Every spot of the picture by name."""

from __future__ import annotations

from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.reduce import reduced_labels
from truesitter.core.settings import RegionSettings
from truesitter.core.sitter.areas import Areas, areas_of
from truesitter.core.sitter.places import OwnPlace
from truesitter.core.stages.picture_stage import PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import PLANNING_LONG_SIDE


class AreaStage:
    """Places of the face and parts of the regions."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage) -> None:
        self.source, self._picture, self._sitter = source, picture, sitter
        self.settings: RegionSettings = source.stage("regions")

    @result("areas", settings=("regions.names",), needs=("regions", "detection"))
    def areas(self) -> Areas:
        """The picture divided by name, at the size that is planned at."""
        regions = reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE)
        own = tuple(OwnPlace(p.name, p.x, p.y) for p in self.settings.names)
        return areas_of(regions, self._sitter.face, own)
