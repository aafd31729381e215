"""How far each place is finished: focus, allowed contrast, and the texture of the skin."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.design.focus import (
    Finish,
    FocusMark,
    PlaceFinish,
    finish_for,
    finished_picture,
    words_for,
)
from truesitter.core.design.freckles import Freckle, find_freckles, freckle_dots
from truesitter.core.design.texture import Texture, lay_texture
from truesitter.core.design.tuning import FACE_LIFE_MM
from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.line import Line
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.imaging.reduce import reduced, reduced_labels, resized_mask
from truesitter.core.light.form.light_form import FormClass
from truesitter.core.settings import PassSettings
from truesitter.core.sitter.places import place_centres
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.surround_stage import SurroundStage
from truesitter.core.stages.tuning import (
    FACE_OF_HEAD,
    FRECKLES_LONG_SIDE,
    GLEAMS,
    HEAD_MM,
    LEAST_SHARE,
    OFF_EDGES_MM,
    OFF_FEATURES,
    OFF_FOLDS_MM,
    PLANNING_LONG_SIDE,
    SEED,
)
from truesitter.core.types import Bytes, Counts, Labels, Mask, Shape


class FinishStage:
    """Focus and texture."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, light: LightStage,
        surround: SurroundStage,
    ) -> None:  # fmt: skip
        self.source, self._picture, self._sitter = source, picture, sitter
        self._light, self._surround = light, surround
        self.settings: PassSettings = source.stage("passes")

    def marks(self) -> tuple[FocusMark, ...]:
        """The painter's own, else the nearer eye, else the middle of what is not background."""
        if self.settings.focus:
            return tuple(FocusMark(m.x, m.y, m.depth, m.outline) for m in self.settings.focus)
        face = self._sitter.face
        if face is not None:
            eyes = [(x, y) for name, x, y in place_centres(face) if name.endswith("eye socket")]
            x, y = np.mean(eyes, axis=0)
            return (FocusMark(float(x), float(y), "near"),)
        regions = self._surround.regions()
        rows, columns = np.nonzero(regions != Region.BACKGROUND)
        if not len(rows):
            return (FocusMark(0.5, 0.5, "near"),)
        height, width = regions.shape
        upper = rows <= np.quantile(rows, 0.35)
        return (FocusMark(float(columns[upper].mean() / width), float(rows[upper].mean() / height), "near"),)

    def shadow(self, shape: Shape) -> Mask:
        """Where it is dark for its own material."""
        classes = self._light.form().classes
        return resized_mask(classes >= FormClass.FORM_SHADOW, shape)

    @result(
        "finish",
        settings=("passes.focus",),
        needs=("value", "regions", "detection", "form", "framed"),
    )
    def finish(self) -> Finish:
        """Allowed contrast and edges everywhere."""
        value = reduced(self._picture.value(), PLANNING_LONG_SIDE)
        regions = self._surround.regions()
        scale = self._light.scale(value.shape)
        return finish_for(value, regions, self.marks(), scale, self.shadow(value.shape))

    def places(self) -> tuple[PlaceFinish, ...]:
        """Places of the face and the larger regions, most looked at first."""
        finish, regions = self.finish(), self._surround.regions()
        spots = list(self._sitter.place_centres())
        spots += [(f"motif {n}", m.x, m.y) for n, m in enumerate(self.marks(), 1) if m.outline]
        for region in (Region.HAIR, Region.FACIAL_HAIR, Region.GARMENT, Region.BACKGROUND):
            where = regions == region
            if where.mean() > LEAST_SHARE:
                rows, columns = np.nonzero(where)
                spots.append((region.spoken, *_middle(rows, columns, finish.weight.shape)))
        shadow = self.shadow(finish.weight.shape)
        found = [self._place(name, x, y, finish, regions, shadow) for name, x, y in spots]
        return tuple(sorted(found, key=lambda p: -p.weight))

    def _place(
        self, name: str, x: float, y: float, finish: Finish, regions: Labels, shadow: Mask
    ) -> PlaceFinish:
        at = pixel_at(x, y, finish.weight.shape)
        weight, small = float(finish.weight[at]), float(finish.small[at])
        dim = bool(regions[at] == Region.SKIN and shadow[at])
        return PlaceFinish(
            name, x, y, weight, small, float(finish.allowed[at]), float(finish.edge_mm[at]),
            words_for(weight, small, dim),
        )  # fmt: skip

    def picture(self) -> Bytes:
        """The reference as it may be finished, (h, w, 3)."""
        lab = reduced(self._picture.lab(), PLANNING_LONG_SIDE)
        return finished_picture(lab, self.finish(), self._surround.mm_per_px())

    @result(
        "texture",
        settings=("light.key", WIDTH_MM),
        needs=("value", "regions", "detection", "form", "light direction", "framed"),
    )
    def texture(self) -> Texture:
        """Marks of the skin; none on smooth skin."""
        value = reduced(self._picture.value(), PLANNING_LONG_SIDE)
        mm = self._picture.settings.canvas_width_mm / value.shape[1]
        skin = self._surround.regions() == Region.SKIN
        face_mm = self._light.scale(value.shape) * mm
        life = face_mm / (FACE_OF_HEAD * HEAD_MM)
        lit = ~self.shadow(value.shape)
        return lay_texture(value, skin, lit, mm, life, self._light.towards(), SEED)

    @result("freckles", needs=("lab", "regions", "detection", "form", "recesses", "shine", "framed"))
    def freckles(self) -> tuple[Freckle, ...]:
        """Freckles of the lit skin, away from features, folds and shine."""
        lab = reduced(self._picture.lab(), FRECKLES_LONG_SIDE)
        shape = lab.shape
        face_px = self._light.scale(shape)
        life = face_px / FACE_LIFE_MM

        turned_away = ~np.isin(self._light.form().classes, (FormClass.LIGHT, FormClass.HALFTONE))
        folded, shiny = self._light.recesses().first > 0, self._light.shine().strength() > GLEAMS
        away = np.any([resized_mask(mask, shape) for mask in (turned_away, folded, shiny)], axis=0)
        if self._sitter.face is not None:
            away |= self._sitter.face.feature_mask(shape[:2], OFF_FEATURES)
        other = reduced_labels(self._sitter.regions().labels, FRECKLES_LONG_SIDE) != Region.SKIN
        bare = ~_grown(away, OFF_FOLDS_MM * life) & ~_grown(other, OFF_EDGES_MM * life)
        return find_freckles(lab, bare, face_px)

    def freckle_lines(self) -> tuple[Line, ...]:
        """A touch of the brush for each freckle."""
        height, width = self._surround.regions().shape
        wide = self._picture.settings.canvas_width_mm
        size = wide, wide * height / width
        face_mm = self._light.scale((height, width)) * self._surround.mm_per_px()
        return freckle_dots(self.freckles(), face_mm, size)


def _grown(mask: Mask, radius: float) -> Mask:
    """A mask and what lies so many pixels round it."""
    side = 2 * max(1, round(radius)) + 1
    return np.asarray(cv2.dilate(mask.astype(np.uint8), np.ones((side, side), np.uint8)) > 0)


def _middle(rows: Counts, columns: Counts, shape: Shape) -> tuple[float, float]:
    """A spot of a region near its middle, in fractions."""
    row, column = np.median(rows), np.median(columns)
    nearest = int(np.argmin((rows - row) ** 2 + (columns - column) ** 2))
    return float((columns[nearest] + 0.5) / shape[1]), float((rows[nearest] + 0.5) / shape[0])
