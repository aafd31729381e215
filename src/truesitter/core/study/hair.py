"""Which way the hair lies."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.hair.field import AxisField, Guide, solve_axes
from truesitter.core.hair.hair_map import HairMap, Sense
from truesitter.core.hair.lines import growth_lines
from truesitter.core.hair.sense import GrowthHints, find_whorls, orient
from truesitter.core.settings import HairSettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.study.picture import WIDTH_MM, PictureStage
from truesitter.core.study.results import Source, result
from truesitter.core.study.sitter import SitterStage


class HairStage:
    """Direction field, growth lines and whorls."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage) -> None:
        self.source, self._picture, self._sitter = source, picture, sitter
        self.settings: HairSettings = source.stage("hair")

    def _guides(self) -> tuple[Guide, ...]:
        return tuple(g.guide() for g in self.settings.guides)

    @result("hair axes", settings=("hair.guides",), needs=("lab", "regions"))
    def axes(self) -> AxisField:
        """Which way the strands lie, not yet which end is the root."""
        return solve_axes(self._picture.lab()[..., 0], self._sitter.hair_mask(), self._guides())

    @result("hair sense", settings=("hair.guides",), needs=("hair axes", "regions", "detection"))
    def sense(self) -> Sense:
        """Root to tip, and the whorls."""
        axes = self.axes()
        whorls = find_whorls(axes)
        return Sense(orient(axes, self._hints(axes.mask.shape), self._guides(), whorls), whorls)

    @result("hair", settings=("hair.spacing_mm", WIDTH_MM), needs=("hair axes", "hair sense"))
    def map(self) -> HairMap:
        """Direction field, growth lines and whorls."""
        axes, sense = self.axes(), self.sense()
        spacing = self.settings.spacing_mm / self._picture.settings.canvas_width_mm * axes.mask.shape[1]
        coherence = float(axes.coherence[axes.mask].mean()) if axes.mask.any() else 0.0
        lines = growth_lines(sense.directed, axes.mask, spacing)
        return HairMap(sense.directed, axes.mask, lines, sense.whorls, coherence)

    def _hints(self, shape: tuple[int, ...]) -> GrowthHints:
        height, width = shape
        regions = self._sitter.regions().labels
        labels = cv2.resize(regions, (width, height), interpolation=cv2.INTER_NEAREST)
        face = self._sitter.face
        return GrowthHints(
            skin=np.asarray(labels == Region.SKIN),
            beard=np.asarray(labels == Region.FACIAL_HAIR),
            brow_row=None if face is None else face.brow_row * height,
        )
