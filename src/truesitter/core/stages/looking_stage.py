"""Ways of looking: edges, masses against marks, and sketches in few values."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.colour.value import linear_to_value, picture_luminance
from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.reduce import reduced, reduced_size
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.tuning import (
    CONTRAST_LONG_SIDE,
    LEAST_SQUINT,
    THUMBNAIL_LONG_SIDE,
    THUMBNAIL_SMALLEST,
)
from truesitter.core.stages.values_stage import ValuePlan, ValueStage
from truesitter.core.types import Bytes
from truesitter.core.values.contrast import Contrast, read_contrast
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.edge_runs import EdgeRun, join_edges
from truesitter.core.values.edges import read_edges
from truesitter.core.values.posterise import describe_groups, paint_groups, posterise
from truesitter.core.values.value_map import smooth_shapes, squinted_value


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
