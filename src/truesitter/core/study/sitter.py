"""The sitter in the picture: face, person, regions."""

from __future__ import annotations

from collections.abc import Hashable

from truesitter.core.sitter import places
from truesitter.core.sitter.landmarks import Detection, detect
from truesitter.core.sitter.regions import Region, Regions, solve_regions
from truesitter.core.study.part import Source
from truesitter.core.study.picture import PictureStage
from truesitter.core.types import Mask


class SitterStage:
    """What was found of the sitter, with the painter's corrections."""

    def __init__(self, source: Source, picture: PictureStage) -> None:
        self._source, self._picture = source, picture
        self.settings = source.settings.regions

    @property
    def key(self) -> Hashable:
        """Changes when the regions may."""
        return (self._picture.key, self.settings)

    def detection(self) -> Detection:
        """Face landmarks and person mask."""
        return self._source.remember("detection", self._picture.key, lambda: detect(self._picture.framed()))

    def regions(self) -> Regions:
        """Regions, with the painter's scribbles."""
        scribbles = tuple(s.scribble() for s in self.settings.scribbles)
        return self._source.remember(
            "regions",
            self.key,
            lambda: solve_regions(self._picture.framed(), self.detection(), scribbles),
        )

    def features(self) -> Mask | None:
        """Eyes, nostrils and mouth, where smaller shapes are kept; None without a face."""
        landmarks = self.detection().landmarks
        if landmarks is None:
            return None
        return places.feature_mask(landmarks, self._picture.framed().shape[:2])

    def hair_mask(self) -> Mask:
        """Hair of the head, facial hair and brows."""
        return self.regions().mask(Region.HAIR, Region.FACIAL_HAIR, Region.BROWS)
