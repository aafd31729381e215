"""Which way the hair lies."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.hair.beliefs import Signs
from truesitter.core.hair.field import AxisField, solve_axes
from truesitter.core.hair.hair_map import HairMap, Sense
from truesitter.core.hair.kinds import kinds_of
from truesitter.core.hair.knot import find_knot
from truesitter.core.hair.lines import growth_lines
from truesitter.core.hair.sense import orient
from truesitter.core.hair.whorls import find_whorls
from truesitter.core.settings import HairSettings
from truesitter.core.sitter.face import OVAL
from truesitter.core.sitter.region_names import Region
from truesitter.core.study.picture import WIDTH_MM, PictureStage
from truesitter.core.study.results import Source, result
from truesitter.core.study.sitter import SitterStage
from truesitter.core.types import Labels

_HANDLES = ("hair.guides", "hair.whorls", "hair.partings", "hair.hairlines")

_FACE_OF_OVAL = 0.9
"""No knot covers this much of the face's outline."""


class HairStage:
    """Direction field, growth lines and whorls."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage) -> None:
        self.source, self._picture, self._sitter = source, picture, sitter
        self.settings: HairSettings = source.stage("hair")

    @result("kinds of hair", needs=("regions", "detection"))
    def kinds(self) -> Labels:
        """Scalp hair, beard, halves of the moustache, brows."""
        return kinds_of(self._sitter.regions().labels, self._sitter.face)

    @result("hair axes", settings=_HANDLES, needs=("lab", "kinds of hair", "detection"))
    def axes(self) -> AxisField:
        """Which way the strands lie, not yet which end is the root."""
        lightness = self._picture.lab()[..., 0]
        return solve_axes(lightness, self.kinds(), self.settings.handles(), self._sitter.face)

    @result("hair sense", settings=_HANDLES, needs=("hair axes", "regions", "detection"))
    def sense(self) -> Sense:
        """Root to tip, the whorls and the knot."""
        axes, face = self.axes(), self._sitter.face
        shape = axes.kinds.shape
        regions = cv2.resize(self._sitter.regions().labels, shape[::-1], interpolation=cv2.INTER_NEAREST)
        covered = np.zeros(shape, bool) if face is None else face.outline_mask(OVAL, shape, _FACE_OF_OVAL)
        knot = find_knot(axes, regions != Region.BACKGROUND, covered)
        whorls = find_whorls(axes)
        signs = Signs(axes.kinds, regions == Region.SKIN, face, knot, whorls)
        return Sense(orient(axes, signs, self.settings.handles()), whorls, knot)

    @result("hair", settings=("hair.spacing_mm", WIDTH_MM), needs=("hair axes", "hair sense"))
    def map(self) -> HairMap:
        """Direction field, growth lines and whorls."""
        axes, sense = self.axes(), self.sense()
        spacing = self.settings.spacing_mm / self._picture.settings.canvas_width_mm * axes.mask.shape[1]
        coherence = float(axes.coherence[axes.mask].mean()) if axes.mask.any() else 0.0
        lines = growth_lines(sense.directed, axes.mask, spacing)
        return HairMap(sense.directed, axes.mask, lines, sense.whorls, coherence)
