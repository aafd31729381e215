"""Everything that is drawn with a liner: lines of the face, creases, streaks of light, the moustache."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.canvas.drawn.construction_lines import construction_lines
from truesitter.core.canvas.drawn.crease_lines import crease_lines
from truesitter.core.canvas.drawn.face_lines import face_lines
from truesitter.core.canvas.drawn.hair_lines import moustache
from truesitter.core.canvas.drawn.light_lines import streaks
from truesitter.core.canvas.drawn.painted_lines import line_cover
from truesitter.core.canvas.drawn.wall_strokes import wall_strokes
from truesitter.core.canvas.layer import LineSet
from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.line import Line
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.imaging.reduce import reduced, reduced_labels
from truesitter.core.plan.pass_places import tones_of
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.hair_stage import HairStage
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import (
    FACE_OF_FIGURE,
    LIGHTEST_RIM,
    PLANNING_LONG_SIDE,
    WALL_SEED,
)
from truesitter.core.types import Floats, Shape


class LineStage:
    """Lines by the key of the pass that draws them."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, light: LightStage, hair: HairStage
    ) -> None:
        self.source, self._picture, self._sitter = source, picture, sitter
        self._light, self._hair = light, hair

    @result(
        "painted lines",
        settings=(WIDTH_MM,),
        needs=("detection", "regions", "value", "recesses", "hair sense", "light"),
        version=3,
    )
    def lines(self) -> dict[str, tuple[LineSet, ...]]:
        """Everything that is drawn with a liner, by the key of the pass that draws it."""
        face, value = self._sitter.face, reduced(self._picture.value(), PLANNING_LONG_SIDE)
        height, width = value.shape
        size = self._picture.settings.canvas_width_mm, self._picture.settings.canvas_width_mm * height / width
        found: dict[str, tuple[LineSet, ...]] = {
            key: (LineSet(lines),) for key, lines in face_lines(face, size).items()
        }
        found |= self._rims(found, value, size)
        found["construction"] = (LineSet(self._construction(size)),)
        found["wall-strokes"] = self._on_wall(value, size)
        recesses = self._light.recesses()
        found["wrinkles"] = (LineSet(crease_lines(recesses, size[0] / recesses.first.shape[1])),)
        zones = self._light.zones()
        first = reduced_labels(zones.zones, PLANNING_LONG_SIDE) == 1
        found["streaks"] = (LineSet(streaks(zones.rays, self._face_mm(value.shape, size)), first),)
        return {**found, **self._hairs(value, size)}

    def _rims(
        self, found: dict[str, tuple[LineSet, ...]], value: Floats, size: tuple[float, float]
    ) -> dict[str, tuple[LineSet, ...]]:
        """Rims of the lower lids in what is lightest along them."""
        lines = found["lower-rims"][0].lines if "lower-rims" in found else ()
        if not lines:
            return {}
        rows, columns, levels = line_cover(lines, value.shape, size[0] / value.shape[1])
        along, tone = value[rows, columns], np.zeros(value.shape, bool)
        if not (levels > 0).any():
            return {}
        tone[rows, columns] = (levels > 0) & (along >= np.quantile(along[levels > 0], LIGHTEST_RIM))
        return {"lower-rims": (LineSet(lines, tone),)}

    def _construction(self, size: tuple[float, float]) -> tuple[Line, ...]:
        """Lines to measure by."""
        regions = reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE)
        head = np.isin(regions, [r for r in Region if r not in (Region.BACKGROUND, Region.GARMENT)])
        return construction_lines(self._sitter.face, head, regions != Region.BACKGROUND, size)

    def _on_wall(self, value: Floats, size: tuple[float, float]) -> tuple[LineSet, ...]:
        """Strokes over the background, each in the tone that it lies in."""
        wall = reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE) == Region.BACKGROUND
        strokes = wall_strokes(wall, size, WALL_SEED)
        found = []
        for word, tone in tones_of(value, wall):
            middles = [line.points[len(line.points) // 2] for line in strokes]
            own = tuple(
                line
                for line, (x, y) in zip(strokes, middles, strict=True)
                if tone[pixel_at(float(x), float(y), value.shape)]
            )
            found += [LineSet(own, tone, word)] if own else []
        return tuple(found)

    def _face_mm(self, shape: Shape, size: tuple[float, float]) -> float:
        """Height of the face on the canvas, or what stands for it."""
        face = self._sitter.face
        return (FACE_OF_FIGURE if face is None else face.height(shape) / shape[0]) * size[1]

    def _hairs(self, value: Floats, size: tuple[float, float]) -> dict[str, tuple[LineSet, ...]]:
        """Lines of the moustache, in the tones of its own hair."""
        face, directed = self._sitter.face, self._hair.sense().directed
        regions = self._sitter.regions().labels
        small = cv2.resize(regions, directed.shape[1::-1], interpolation=cv2.INTER_NEAREST)
        large = reduced_labels(regions, PLANNING_LONG_SIDE)
        found: dict[str, tuple[LineSet, ...]] = {}
        if face is not None:
            middle, dark = moustache(directed, small == Region.FACIAL_HAIR, face, size)
            tones = tones_of(value, large == Region.FACIAL_HAIR)
            if middle and len(tones) > 1:
                found["moustache-lines"] = (
                    LineSet(middle, tones[len(tones) // 2][1], "a middle tone"),
                    LineSet(dark, tones[0][1], "darker and lower"),
                )
        return found
