"""Which way the brush goes on skin, cloth and wall."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.graph.results import Source, result
from truesitter.core.hair.field.direction_field import strand_detail, structure_tensor_field
from truesitter.core.hair.field.growth_lines import GrowthLine, growth_lines
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.reduce import reduced, reduced_labels, reduced_to
from truesitter.core.light.form.brush_direction import BrushWay, brush_directions
from truesitter.core.settings import PassSettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import (
    ARROW_LONG_SIDE,
    BRUSH_STAGE_LONGEST,
    SPACING_MM,
    STROKES_SIGMA,
    STROKES_SURE,
)
from truesitter.core.types import Floats, Mask

PLACES = (Region.SKIN, Region.GARMENT, Region.BACKGROUND)


class BrushStage:
    """Arrows for the brush."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage, light: LightStage) -> None:
        self.source, self._picture, self._sitter, self._light = source, picture, sitter, light
        self._school: PassSettings = source.stage("passes")

    @result(
        "brush directions",
        settings=("passes.exactness",),
        needs=("regions", "value", "lab", "surface of the skin", "detection", "framed"),
    )
    def directions(self, across: bool) -> Floats:
        """Which way the brush goes on every place, (h, w, 2) y up; 0 elsewhere."""
        labels = reduced_labels(self._sitter.regions().labels, ARROW_LONG_SIDE)
        value = reduced(self._picture.value(), ARROW_LONG_SIDE)[..., None]
        normals = reduced_to(self._light.surface()[0], labels.shape)
        way: BrushWay = "across the planes" if across else "along the form"
        found = np.zeros((*labels.shape, 2), np.float32)
        for region in PLACES:
            mask = labels == region
            field = normals if region is Region.SKIN and np.any(normals[mask]) else value
            directions = brush_directions(
                np.asarray(field, np.float32), mask, self._light.scale(labels.shape), way
            )
            if self._school.exactness == "copy":
                directions = self._as_painted(directions, mask)
            found[mask] = directions[mask]
        return found

    @result("brush arrows", settings=(WIDTH_MM,), needs=("brush directions", "regions", "framed"), version=2)
    def arrows(self, across: bool) -> dict[str, tuple[GrowthLine, ...]]:
        """Short lines along or across the form, by region."""
        labels = reduced_labels(self._sitter.regions().labels, ARROW_LONG_SIDE)
        spacing = SPACING_MM / self._picture.settings.canvas_width_mm * labels.shape[1]
        directions, found = self.directions(across), {}
        for region in PLACES:
            mask = labels == region
            lines = growth_lines(np.where(mask[..., None], directions, 0), mask, spacing, 0.6)
            found[region.spoken] = tuple(_shortened(line, spacing, labels.shape) for line in lines)
        return found

    def _as_painted(self, directions: Floats, mask: Mask) -> Floats:
        """Directions (h, w, 2) with those of the strokes in their stead where the reference shows strokes."""
        lightness = self._picture.lab()[..., 0]
        place = cv2.resize(mask.astype(np.uint8), lightness.shape[::-1], interpolation=cv2.INTER_NEAREST) > 0
        # What tells strands tells brush strokes: ridges that lie alike.
        plain = structure_tensor_field(*strand_detail(lightness, place))
        plain = blur(cv2.resize(plain, mask.shape[::-1], interpolation=cv2.INTER_AREA), STROKES_SIGMA)
        sure = np.hypot(plain[..., 0], plain[..., 1])
        angle = 0.5 * np.arctan2(plain[..., 1], plain[..., 0])
        strokes = np.dstack([np.cos(angle), np.sin(angle)])
        return np.where((mask & (sure > STROKES_SURE))[..., None], strokes, directions).astype(np.float32)


def _shortened(line: GrowthLine, spacing: float, shape: tuple[int, ...]) -> GrowthLine:
    """The middle of a line, no longer than an arrow."""
    steps = np.hypot(*(np.diff(line.points, axis=0) * (shape[1], shape[0])).T)
    along = np.concatenate([[0], np.cumsum(steps)])
    half = min(along[-1], BRUSH_STAGE_LONGEST * spacing) / 2
    middle = along[-1] / 2
    wanted = np.linspace(middle - half, middle + half, 6)
    points = np.column_stack([np.interp(wanted, along, line.points[:, i]) for i in (0, 1)])
    return GrowthLine(points, line.sure, line.kind)
