"""Value groups and their outlines; ways of looking at them: edges, masses against marks, sketches."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.value import linear_to_value, picture_luminance
from truesitter.core.graph.results import Needs, Source, result
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.reduce import reduced, reduced_labels, reduced_size
from truesitter.core.settings import PassSettings, StudySettings, ValueSettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import (
    CONTRAST_LONG_SIDE,
    HISTOGRAM_BINS,
    LEAST_PX,
    LEAST_SQUINT,
    PREVIEW_LONG_SIDE,
    SHAPES_OF,
    THUMBNAIL_LONG_SIDE,
    THUMBNAIL_SMALLEST,
    VALUES_STAGE_OUTLINE_LONG_SIDE,
)
from truesitter.core.types import Bytes, Codes, Doubles, Floats, Ints, Labels
from truesitter.core.values.contrast import Contrast, read_contrast
from truesitter.core.values.cuts import best_fit_cuts, even_cuts, merge_group, split_group
from truesitter.core.values.edge_runs import EdgeRun, join_edges
from truesitter.core.values.edges import read_edges
from truesitter.core.values.inventory import ShapeInfo, join_shape, list_shapes
from truesitter.core.values.outlines import Outline, trace_outlines
from truesitter.core.values.posterise import (
    Group,
    cut_codes,
    describe_groups,
    paint_groups,
    posterise,
    value_codes,
)
from truesitter.core.values.value_map import histogram, smooth_shapes, squinted_value


@dataclass(frozen=True)
class ValuePlan:
    """Value groups of the framed picture.

    Attributes
    ----------
    cuts, labels, groups
        Cuts, (H, W) group numbers, and the groups described.
    """

    cuts: tuple[float, ...]
    labels: Labels
    groups: tuple[Group, ...]


@dataclass(frozen=True)
class ShapeList:
    """Shape number of every pixel of the outlines' grid, and what is known of each shape."""

    number: Ints
    shapes: tuple[ShapeInfo, ...]


@dataclass(frozen=True)
class OutlineDrawing:
    """Outlines of the value shapes, in pixels of a grid of (height, width)."""

    outlines: tuple[Outline, ...]
    grid: tuple[int, int]


EXACTNESS = "passes.exactness"


def _counted(settings: StudySettings) -> Needs:
    # Regions weigh the histogram; without the weighting only the picture counts.
    return ("smoothed", "regions") if settings.values.weigh_sitter else ("smoothed",)


def _cut(settings: StudySettings) -> Needs:
    return ("value counts",) if settings.values.mode == "fit" else ()


class ValueStage:
    """From values to a few groups of paintable shapes."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage) -> None:
        self.source, self._picture, self._sitter = source, picture, sitter
        self.settings: ValueSettings = source.stage("values")
        passes: PassSettings = source.stage("passes")
        self._exactness = passes.exactness

    def smallest_mm(self) -> float:
        """The smallest shape to paint, as exact as it is wanted."""
        return self.settings.smallest_mm * SHAPES_OF[self._exactness]

    def features_mm(self) -> float:
        """Likewise in the features."""
        return self.settings.features_mm * SHAPES_OF[self._exactness]

    @result("smoothed", settings=("values.smallest_mm", EXACTNESS, WIDTH_MM), needs=("value", "framed"))
    def smoothed(self) -> Floats:
        """Value map with everything smaller than the smallest shape evened out."""
        radius = self.smallest_mm() / self._picture.mm_per_px / 2
        return smooth_shapes(self._picture.value(), radius)

    @result("value counts", settings=("values.weigh_sitter",), needs=_counted)
    def counts(self) -> Doubles:
        """Weighted counts of the values that best fit is found on."""
        smoothed = self.smoothed()
        counts = histogram(smoothed)
        if self.settings.weigh_sitter:
            sitter = self._sitter.regions().labels != Region.BACKGROUND
            if sitter.any():
                # The sitter counts fully, what lies round it a quarter.
                counts = 0.25 * counts + 0.75 * histogram(smoothed, sitter)
        return counts

    @result("cuts", settings=("values.mode", "values.groups", "values.cuts", "values.locked"), needs=_cut)
    def cuts(self) -> tuple[float, ...]:
        """The cuts in force: even, best fit or own."""
        if self.settings.mode == "own":
            return self.settings.cuts
        if self.settings.mode == "even":
            return even_cuts(self.settings.groups)
        return best_fit_cuts(self.counts(), self.settings.groups, self.settings.locked)

    def split(self, group: int) -> tuple[float, ...]:
        """Cuts with one more inside a group."""
        return split_group(self.counts(), self.cuts(), group)

    def merge(self, group: int) -> tuple[float, ...]:
        """Cuts without the one between a group and the next lighter."""
        return merge_group(self.cuts(), group)

    @result("sitter histogram", needs=("regions", "value"))
    def sitter_histogram(self) -> tuple[float, ...]:
        """Share of the sitter in equal steps of value, 0–10; all nothing where nobody was found."""
        sitter = self._sitter.regions().labels != Region.BACKGROUND
        counts = histogram(self._picture.value(), sitter, HISTOGRAM_BINS)
        return tuple(float(c) for c in counts / max(1.0, counts.sum()))

    @result(
        "values",
        settings=("values.smallest_mm", "values.features_mm", "values.joins", EXACTNESS, WIDTH_MM),
        needs=("cuts", "smoothed", "detection", "framed", "value", "lab"),
    )
    def plan(self) -> ValuePlan:
        """Value groups of paintable shapes."""
        cuts = self.cuts()
        smallest = max(LEAST_PX, self.smallest_mm() / self._picture.mm_per_px)
        finer = self.features_mm() / self._picture.mm_per_px
        labels = posterise(self.smoothed(), cuts, smallest, self._sitter.features(), finer)
        for join in self.settings.joins:
            labels = join_shape(labels, join.x, join.y, min(join.group, len(cuts)))
        groups = describe_groups(labels, self._picture.value(), self._picture.lab(), cuts)
        return ValuePlan(cuts, labels, groups)

    @result("preview codes", needs=("smoothed",))
    def _preview_codes(self) -> Codes:
        return value_codes(reduced(self.smoothed(), PREVIEW_LONG_SIDE))

    def preview_labels(self, cuts: tuple[float, ...]) -> Labels:
        """Groups for cuts under the painter's hand: reduced and without small-shape cleaning."""
        return cv2.medianBlur(cut_codes(self._preview_codes(), cuts), 5)

    @result("outlines", needs=("values",), version=2)
    def outlines(self) -> OutlineDrawing:
        """Outlines of the value shapes."""
        labels = self._drawn_labels()
        return OutlineDrawing(trace_outlines(labels), (labels.shape[0], labels.shape[1]))

    def _drawn_labels(self) -> Labels:
        return reduced_labels(self.plan().labels, VALUES_STAGE_OUTLINE_LONG_SIDE)

    @result("shapes", settings=(WIDTH_MM,), needs=("values", "regions", "value", "lab"))
    def shapes(self) -> ShapeList:
        """Every value shape, numbered as its outline is."""
        labels = self._drawn_labels()
        mm_per_px = self._picture.settings.canvas_width_mm / labels.shape[1]
        number, infos = list_shapes(
            labels,
            reduced_labels(self._sitter.regions().labels, VALUES_STAGE_OUTLINE_LONG_SIDE),
            reduced(self._picture.value(), VALUES_STAGE_OUTLINE_LONG_SIDE),
            reduced(self._picture.lab(), VALUES_STAGE_OUTLINE_LONG_SIDE),
            mm_per_px,
        )
        return ShapeList(number.number, infos)


class LookingStage:
    """What a painter sees with narrowed eyes and by walking along borders."""

    def __init__(self, source: Source, picture: PictureStage, values: ValueStage) -> None:
        self.source, self._picture, self._values = source, picture, values

    @result("edges", settings=(WIDTH_MM,), needs=("values", "value", "framed"), version=2)
    def edges(self) -> tuple[EdgeRun, ...]:
        """Hard, firm, soft and lost edges along every border."""
        value = self._picture.value()
        mm_per_px = self._picture.mm_per_px
        samples = read_edges(self._values.plan().labels, value, mm_per_px)
        return join_edges(samples, (value.shape[0], value.shape[1]), mm_per_px)

    @result("contrast", settings=("reference.squint",), needs=("framed",))
    def contrast(self) -> Contrast:
        """Masses and marks at the squint the painter set."""
        picture = self._picture.framed()
        small = cv2.resize(
            picture, reduced_size(picture.shape, CONTRAST_LONG_SIDE), interpolation=cv2.INTER_AREA
        )
        light = picture_luminance(np.asarray(small))
        sigma = max(LEAST_SQUINT, self._picture.settings.squint) * light.shape[0]
        # A squint blurs light, not values: the masses are the values of the blurred light.
        return read_contrast(linear_to_value(light), linear_to_value(blur(light, sigma)), sigma)

    @result(
        "masses",
        settings=("reference.squint", "values.smallest_mm", WIDTH_MM),
        needs=("cuts", "framed", "value", "lab"),
    )
    def masses(self) -> ValuePlan:
        """Groups of the squinted picture: the masses alone."""
        cuts = self._values.cuts()
        squinted = squinted_value(self._picture.framed(), self._picture.settings.squint)
        smallest = 2 * self._values.settings.smallest_mm / self._picture.mm_per_px
        labels = posterise(squinted, cuts, smallest)
        groups = describe_groups(labels, self._picture.value(), self._picture.lab(), cuts)
        return ValuePlan(cuts, labels, groups)

    @result("thumbnail", needs=("smoothed", "value counts", "lab"))
    def thumbnail(self, groups: int) -> Bytes:
        """The picture in a few values as a postcard sketch: flat greys, nothing small."""
        small = reduced(self._values.smoothed(), THUMBNAIL_LONG_SIDE)
        softened = smooth_shapes(small, THUMBNAIL_SMALLEST * max(small.shape) / 2)
        cuts = best_fit_cuts(self._values.counts(), groups)
        labels = posterise(softened, cuts, THUMBNAIL_SMALLEST * max(small.shape))
        groups_found = describe_groups(labels, small, reduced(self._picture.lab(), THUMBNAIL_LONG_SIDE), cuts)
        return paint_groups(labels, np.array([g.value for g in groups_found]))
