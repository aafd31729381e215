"""Which way the hair lies."""

from __future__ import annotations

from collections.abc import Hashable

import cv2
import numpy as np

from truesitter.core.hair.field import solve_axes
from truesitter.core.hair.hair_map import HairMap
from truesitter.core.hair.lines import mapping_lines
from truesitter.core.hair.sense import GrowthHints, find_whorls, orient
from truesitter.core.sitter import places
from truesitter.core.sitter.region_names import Region
from truesitter.core.study.part import Source
from truesitter.core.study.picture import PictureStage
from truesitter.core.study.sitter import SitterStage


class HairStage:
    """Direction field, mapping lines and whorls."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage) -> None:
        self._source, self._picture, self._sitter = source, picture, sitter
        self.settings = source.settings.hair

    @property
    def key(self) -> Hashable:
        """Changes when the direction or the lines may."""
        return (self._sitter.key, self.settings)

    def map(self) -> HairMap:
        """Direction field, mapping lines and whorls."""
        return self._source.remember("hair", self.key, self._map)

    def _map(self) -> HairMap:
        guides = tuple(g.guide() for g in self.settings.guides)
        axes = solve_axes(self._picture.lab()[..., 0], self._sitter.hair_mask(), guides)
        whorls = find_whorls(axes)
        directed = orient(axes, self._hints(axes.mask.shape), guides, whorls)
        width = axes.mask.shape[1]
        spacing = self.settings.spacing_mm / self._picture.settings.canvas_width_mm * width
        coherence = float(axes.coherence[axes.mask].mean()) if axes.mask.any() else 0.0
        return HairMap(directed, axes.mask, mapping_lines(directed, axes.mask, spacing), whorls, coherence)

    def _hints(self, shape: tuple[int, ...]) -> GrowthHints:
        height, width = shape
        regions = self._sitter.regions().labels
        labels = cv2.resize(regions, (width, height), interpolation=cv2.INTER_NEAREST)
        landmarks = self._sitter.detection().landmarks
        brow_row = None
        if landmarks is not None:
            brow_row = float(landmarks[list(places.BROWS[0] + places.BROWS[1]), 1].mean() * height)
        return GrowthHints(
            skin=np.asarray(labels == Region.SKIN),
            beard=np.asarray(labels == Region.FACIAL_HAIR),
            brow_row=brow_row,
        )
