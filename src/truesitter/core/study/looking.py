"""Ways of looking: edges, masses against marks, and sketches in few values."""

from __future__ import annotations

import numpy as np

from truesitter.core.blur import blur
from truesitter.core.study.part import Source, reduced
from truesitter.core.study.picture import PictureStage
from truesitter.core.study.values import ValuePlan, ValueStage
from truesitter.core.types import Bytes
from truesitter.core.values.contrast import Contrast, read_contrast
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.edge_runs import Edge, join_edges
from truesitter.core.values.edges import read_edges
from truesitter.core.values.posterise import describe_groups, paint_groups, posterise
from truesitter.core.values.value_map import smooth_shapes

CONTRAST_LONG_SIDE = 1000
THUMBNAIL_LONG_SIDE = 480
THUMBNAIL_SMALLEST = 0.025
"""Smallest shape of a thumbnail sketch, as a fraction of its long side."""


class LookingStage:
    """What a painter sees with narrowed eyes and by walking along borders."""

    def __init__(self, source: Source, picture: PictureStage, values: ValueStage) -> None:
        self._source, self._picture, self._values = source, picture, values

    def edges(self) -> tuple[Edge, ...]:
        """Hard, firm, soft and lost edges along every border."""
        return self._source.remember("edges", self._values.key, self._edges)

    def _edges(self) -> tuple[Edge, ...]:
        value = self._picture.value()
        mm_per_px = self._picture.mm_per_px
        samples = read_edges(self._values.plan().labels, value, mm_per_px)
        return join_edges(samples, (value.shape[0], value.shape[1]), mm_per_px)

    def contrast(self) -> Contrast:
        """Masses and marks at the squint the painter set."""
        squint = max(0.002, self._picture.settings.squint)
        return self._source.remember("contrast", (self._picture.key, squint), lambda: self._contrast(squint))

    def _contrast(self, squint: float) -> Contrast:
        value = reduced(self._picture.value(), CONTRAST_LONG_SIDE)
        return read_contrast(value, squint * value.shape[0])

    def macro(self) -> ValuePlan:
        """Groups of the squinted picture: the masses alone."""
        squint = self._picture.settings.squint
        return self._source.remember("macro", (self._values.key, squint), lambda: self._macro(squint))

    def _macro(self, squint: float) -> ValuePlan:
        cuts, value = self._values.cuts(), self._picture.value()
        squinted = blur(value, squint * value.shape[0])
        smallest = 2 * self._values.settings.smallest_mm / self._picture.mm_per_px
        labels = posterise(squinted, cuts, smallest)
        return ValuePlan(cuts, labels, describe_groups(labels, value, self._picture.lab(), cuts))

    def thumbnail(self, groups: int) -> Bytes:
        """The picture in a few values as a postcard sketch: flat greys, nothing small."""
        return self._source.remember("thumbnail", (self._values.key, groups), lambda: self._thumbnail(groups))

    def _thumbnail(self, groups: int) -> Bytes:
        small = reduced(self._values.smoothed(), THUMBNAIL_LONG_SIDE)
        softened = smooth_shapes(small, THUMBNAIL_SMALLEST * max(small.shape) / 2)
        cuts = best_fit_cuts(self._values.counts(), groups)
        labels = posterise(softened, cuts, THUMBNAIL_SMALLEST * max(small.shape))
        groups_found = describe_groups(labels, small, reduced(self._picture.lab(), THUMBNAIL_LONG_SIDE), cuts)
        return paint_groups(labels, np.array([g.value for g in groups_found]))
