"""What drills are made from, out of a study."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.colour.value import linear_to_value
from truesitter.core.drills.drill_picture import DrillPicture, Peak
from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.reduce import reduced, reduced_labels, reduced_to
from truesitter.core.paint.tubes.palettes import Palette, starter
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.flesh_stage import TUBES, FleshStage
from truesitter.core.stages.hair_stage import HairStage
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.picture_stage import PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import BINS, DRILL_LONG_SIDE, KNOWN, RIM, SQUINT
from truesitter.core.types import Doubles, Floats, Labels, Mask
from truesitter.core.values.cuts import best_fit_cuts

_USUAL = "earth-four"


class DrillStage:
    """One picture for all drills."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, light: LightStage,
        hair: HairStage, flesh: FleshStage,
    ) -> None:  # fmt: skip
        self.source = source
        self._picture, self._sitter, self._light = picture, sitter, light
        self._hair, self._flesh = hair, flesh

    @result(
        "drill picture",
        settings=TUBES,
        needs=("lab", "regions", "areas", "skin luminance", "light", "hair sense"),
    )
    def picture(self) -> DrillPicture:
        """Colours, places, masses, light, border, hair and tubes."""
        lab = reduced(self._picture.lab(), DRILL_LONG_SIDE)
        shape = (lab.shape[0], lab.shape[1])
        regions = _to(reduced_labels(self._sitter.regions().labels, DRILL_LONG_SIDE), shape)
        areas = self._sitter.areas()
        figure = regions != Region.BACKGROUND
        return DrillPicture(
            lab=lab,
            places=_to(areas.labels, shape),
            names=areas.names,
            figure=figure,
            shadow=_shadow(reduced_to(self._light.luminance(), shape), figure),
            peaks=tuple(Peak(p.x, p.y, p.place) for p in self._light.zones().peaks),
            outline=_outline(figure),
            growth=_growth(self._hair.sense().directed, shape),
            palette=_opaque(self._flesh.palette()),
        )


def _to(labels: Labels, shape: tuple[int, int]) -> Labels:
    return cv2.resize(labels, shape[::-1], interpolation=cv2.INTER_NEAREST)


def _shadow(luminance: Floats, figure: Mask) -> Mask:
    """The darker of the figure's two best masses, squinted at."""
    value = linear_to_value(blur(luminance, SQUINT * luminance.shape[0]))
    if not figure.any():
        return np.zeros(figure.shape, bool)
    histogram, _ = np.histogram(value[figure], BINS, (0, 10))
    if np.count_nonzero(histogram) < 2:
        return np.zeros(figure.shape, bool)
    (cut,) = best_fit_cuts(histogram.astype(np.float64), 2)
    return np.asarray(figure & (value < cut))


def _outline(figure: Mask) -> Doubles:
    """The longest border of the figure that does not run along the picture's own."""
    height, width = figure.shape
    smooth = cv2.medianBlur(figure.astype(np.uint8), 7)
    found, _ = cv2.findContours(smooth, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    best: Doubles = np.zeros((0, 2))
    for contour in found:
        line = contour[:, 0].astype(np.float64)
        inside = np.all((line > RIM) & (line < (width - 1 - RIM, height - 1 - RIM)), axis=1)
        if inside.all():
            run = line
        elif not inside.any():
            continue
        else:
            # Begun where it leaves the picture's edge, so that no run is cut in two.
            start = int(np.flatnonzero(~inside)[0])
            line, inside = np.roll(line, -start, axis=0), np.roll(inside, -start)
            steps = np.flatnonzero(np.diff(np.r_[0, inside.astype(np.int8), 0]))
            first, last = max(zip(steps[::2], steps[1::2], strict=True), key=lambda r: r[1] - r[0])
            run = line[first:last]
        if len(run) > len(best):
            best = run
    return np.asarray((best + 0.5) / (width, height))


def _growth(directed: Floats, shape: tuple[int, int]) -> Floats:
    """Unit vectors along the hair with y down; 0 where there is none or its sense is not known."""
    small = cv2.resize(directed, shape[::-1], interpolation=cv2.INTER_LINEAR).astype(np.float32)
    length = np.hypot(small[..., 0], small[..., 1])[..., None]
    unit = np.where(length > KNOWN, small / np.maximum(length, 1e-6), 0)
    return np.asarray(unit * (1, -1), dtype=np.float32)


def _opaque(palette: Palette) -> Palette:
    """The tubes set out, as opaque paint; a usual palette where there are too few."""
    tubes = palette.opaque()
    return tubes if len(tubes.tubes) > 2 else starter(_USUAL)
