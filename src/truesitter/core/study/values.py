"""Value groups of the picture and their outlines."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.sitter.region_names import Region
from truesitter.core.study.part import Source, reduced, reduced_labels
from truesitter.core.study.picture import HISTOGRAM_BINS, PictureStage
from truesitter.core.study.sitter import SitterStage
from truesitter.core.types import Doubles, Floats, Ints, Labels
from truesitter.core.values.cuts import best_fit_cuts, even_cuts, split_group
from truesitter.core.values.inventory import ShapeInfo, join_shape, list_shapes
from truesitter.core.values.outlines import Outline, trace_outlines
from truesitter.core.values.posterise import Group, cut_codes, describe_groups, posterise, value_codes
from truesitter.core.values.value_map import histogram, smooth_shapes

OUTLINE_LONG_SIDE = 1200
PREVIEW_LONG_SIDE = 1000


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


class ValueStage:
    """From values to a few groups of paintable shapes."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage) -> None:
        self._source, self._picture, self._sitter = source, picture, sitter
        self.settings = source.settings.values

    @property
    def key(self) -> Hashable:
        """Changes when the groups may."""
        # Regions weigh the histogram; without the weighting only the picture counts.
        base = self._sitter.key if self.settings.weigh_sitter else self._picture.key
        return (base, self.settings)

    def smoothed(self) -> Floats:
        """Value map with everything smaller than the smallest shape evened out."""
        smallest = self.settings.smallest_mm
        return self._source.remember(
            "smoothed",
            (self._picture.key, smallest),
            lambda: smooth_shapes(self._picture.value(), smallest / self._picture.mm_per_px / 2),
        )

    def cuts(self) -> tuple[float, ...]:
        """The cuts in force: even, best fit or own."""
        if self.settings.mode == "own":
            return self.settings.cuts
        if self.settings.mode == "even":
            return even_cuts(self.settings.groups)
        return self._source.remember("cuts", self.key, self._best_fit)

    def _best_fit(self) -> tuple[float, ...]:
        return best_fit_cuts(self.counts(), self.settings.groups, self.settings.locked)

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

    def split(self, group: int) -> tuple[float, ...]:
        """Cuts with one more inside a group."""
        return split_group(self.counts(), self.cuts(), group)

    def sitter_histogram(self) -> tuple[float, ...]:
        """Share of the sitter in equal steps of value, 0–10; all nothing where nobody was found."""
        counts = self._source.remember("sitter histogram", self._sitter.key, self._sitter_counts)
        return tuple(float(c) for c in counts / max(1.0, counts.sum()))

    def _sitter_counts(self) -> Doubles:
        sitter = self._sitter.regions().labels != Region.BACKGROUND
        return histogram(self._picture.value(), sitter, HISTOGRAM_BINS)

    def plan(self) -> ValuePlan:
        """Value groups of paintable shapes."""
        return self._source.remember("values", self.key, self._group)

    def _group(self) -> ValuePlan:
        cuts = self.cuts()
        smallest = self.settings.smallest_mm / self._picture.mm_per_px
        finer = self.settings.features_mm / self._picture.mm_per_px
        labels = posterise(self.smoothed(), cuts, smallest, self._sitter.features(), finer)
        for join in self.settings.joins:
            labels = join_shape(labels, join.x, join.y, min(join.group, len(cuts)))
        groups = describe_groups(labels, self._picture.value(), self._picture.lab(), cuts)
        return ValuePlan(cuts, labels, groups)

    def preview_labels(self, cuts: tuple[float, ...]) -> Labels:
        """Groups for cuts under the painter's hand: reduced and without small-shape cleaning."""
        codes = self._source.remember(
            "preview",
            (self._picture.key, self.settings.smallest_mm),
            lambda: value_codes(reduced(self.smoothed(), PREVIEW_LONG_SIDE)),
        )
        return np.asarray(cv2.medianBlur(cut_codes(codes, cuts), 5))

    def outlines(self) -> OutlineDrawing:
        """Outlines of the value shapes."""
        return self._source.remember("outlines", self.key, self._outline)

    def _outline(self) -> OutlineDrawing:
        labels = self._drawn_labels()
        return OutlineDrawing(trace_outlines(labels), (labels.shape[0], labels.shape[1]))

    def _drawn_labels(self) -> Labels:
        return reduced_labels(self.plan().labels, OUTLINE_LONG_SIDE)

    def shapes(self) -> ShapeList:
        """Every value shape, numbered as its outline is."""
        return self._source.remember("shapes", (self.key, self._sitter.key), self._shapes)

    def _shapes(self) -> ShapeList:
        labels = self._drawn_labels()
        mm_per_px = self._picture.settings.canvas_width_mm / labels.shape[1]
        number, infos = list_shapes(
            labels,
            reduced_labels(self._sitter.regions().labels, OUTLINE_LONG_SIDE),
            reduced(self._picture.value(), OUTLINE_LONG_SIDE),
            reduced(self._picture.lab(), OUTLINE_LONG_SIDE),
            mm_per_px,
        )
        return ShapeList(number.number, infos)
