"""What the sitter stands before and is painted on: the designed background and the chosen ground."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.design.background import Background, Design, OwnTones, design_background
from truesitter.core.design.colour_sketch import ColourDesign, ColourSketch, colour_sketch, designed
from truesitter.core.design.ground_tone import GroundChoice, choose_grounds, stays_where
from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.reduce import reduced, reduced_labels
from truesitter.core.paint.media.supports import SUPPORTS
from truesitter.core.paint.recipes.reach import map_picture, palette_reach
from truesitter.core.plan.clock.minutes import rates
from truesitter.core.plan.subject import Ground
from truesitter.core.refusal import Refusal
from truesitter.core.school.school_palettes import palettes_for
from truesitter.core.settings import HairSettings, PassSettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.flesh_stage import TARGETS, TUBES, WISHES, FleshStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import LEAST_SHARE, LOST_MM, PLANNING_LONG_SIDE, SKETCH_LONG_SIDE
from truesitter.core.stages.values_stage import ValueStage
from truesitter.core.types import Floats, Labels, Mask


@dataclass(frozen=True)
class Surround:
    """Maps of the reference with its designed background, all of the planning size.

    Attributes
    ----------
    background
        L*a*b*, values, and the outline's stretches.
    groups
        (h, w) value groups.
    """

    background: Background
    groups: Labels


class SurroundStage:
    """Background and ground."""

    def __init__(
        self,
        source: Source,
        picture: PictureStage,
        sitter: SitterStage,
        values: ValueStage,
        flesh: FleshStage,
    ) -> None:
        self.source, self._picture, self._sitter = source, picture, sitter
        self._values, self._flesh = values, flesh
        self.settings: PassSettings = source.stage("passes")
        self._hair: HairSettings = source.stage("hair")

    def regions(self) -> Labels:
        """Regions at the planning size."""
        return reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE)

    def mm_per_px(self) -> float:
        """Canvas mm to a pixel of it."""
        return self._picture.settings.canvas_width_mm / self.regions().shape[1]

    def designed(self, design: Design) -> Background:
        """The background in one of its designs."""
        lab, value = self._maps()
        return design_background(
            lab, value, self.regions(), self.mm_per_px(), design, self.settings.backdrop_hue, self._lost(),
            self.own_tones(),
        )  # fmt: skip

    def own_tones(self) -> OwnTones:
        """The painter's own two colours."""
        own = self.settings.backdrop_own
        return OwnTones(own.first, own.last, own.turn)

    def offers(self) -> tuple[tuple[str, Lab], ...]:
        """Colours of the sitter that a background can be taken from, by what they are of."""
        lab, value = self._maps()
        regions, found = self.regions(), list[tuple[str, Lab]]()
        for region in (Region.GARMENT, Region.HAIR, Region.SKIN):
            where = regions == region
            if where.mean() < LEAST_SHARE:
                continue
            middle = np.median(value[where])
            for word, some in (("dark", where & (value <= middle)), ("light", where & (value > middle))):
                if some.any():
                    found.append(
                        (f"{word} {region.spoken}", as_lab(lab[some].mean(axis=0, dtype=np.float64)))
                    )
        wall = lab[regions == Region.BACKGROUND]
        if len(wall):
            found.append(("the background", as_lab(wall.mean(axis=0, dtype=np.float64))))
        return tuple(found)

    @result("colour sketch", needs=("lab", "regions", "framed"))
    def sketch(self, design: ColourDesign, count: int) -> ColourSketch:
        """The picture in so few colours, in a design."""
        lab = reduced(self._picture.lab(), SKETCH_LONG_SIDE)
        sitter = reduced_labels(self._sitter.regions().labels, SKETCH_LONG_SIDE) != Region.BACKGROUND
        return colour_sketch(designed(lab, design, sitter), count)

    def _maps(self) -> tuple[Floats, Floats]:
        return reduced(self._picture.lab(), PLANNING_LONG_SIDE), reduced(
            self._values.smoothed(), PLANNING_LONG_SIDE
        )

    def _lost(self) -> Mask | None:
        """Where edges were drawn as lost; None where none were."""
        if not self.settings.lost:
            return None
        shape = self.regions().shape
        drawn = np.zeros(shape, np.uint8)
        width = max(1, round(2 * LOST_MM / self.mm_per_px()))
        for stroke in self.settings.lost:
            points = np.round(np.array(stroke.points) * (shape[1], shape[0])).astype(np.int32)
            cv2.polylines(drawn, [points.reshape(-1, 1, 2)], False, 1, width)
        return np.asarray(drawn > 0)

    @result(
        "surround",
        settings=("passes.backdrop", "passes.backdrop_hue", "passes.backdrop_own", "passes.lost", WIDTH_MM),
        needs=("lab", "smoothed", "regions", "values", "cuts"),
    )
    def surround(self) -> Surround:
        """The reference as it is to be painted."""
        made = self.designed(self.settings.backdrop)
        groups = reduced_labels(self._values.plan().labels, PLANNING_LONG_SIDE)
        if self.settings.backdrop != "photo":
            wall = self.regions() == 0
            cut = np.digitize(made.value[wall], self._values.cuts())
            groups = groups.copy()
            groups[wall] = np.minimum(cut, int(groups.max()))
        return Surround(made, groups)

    @result(
        "grounds",
        settings=(
            "passes.school", "passes.own", "passes.exactness", "passes.support", "hair.way", *TUBES, *WISHES,
            *TARGETS, WIDTH_MM,
        ),
        needs=("surround", "regions"),
    )  # fmt: skip
    def grounds(self) -> tuple[GroundChoice, ...]:
        """Grounds to choose from, best first; none where paper is the white, or without fitting tubes."""
        one = self.settings.followed()
        if one.transparent:
            return ()
        wishes = self._flesh.settings.wishes()
        try:
            body = palettes_for(one, self._flesh.palette(), wishes, one.medium, SUPPORTS[one.support]).body
        except Refusal:
            return ()
        rate = rates(one.pace, self.settings.exactness, self._hair.way == "masses")
        return choose_grounds(self._wanted(), self.regions(), self.mm_per_px(), body, one.ground_lab, rate)

    def _wanted(self) -> Floats:
        """(h, w, 3) reference in the reach of the tubes laid thick."""
        lab = self.surround().background.lab
        reach = palette_reach(self._flesh.settings.wishes().palette(self._flesh.palette()).opaque())
        mapped, _ = map_picture(lab, reach, self._flesh.settings.clip)
        return mapped

    def ground(self) -> Ground | None:
        """The ground that was chosen instead of the school's; None for that.

        Raises
        ------
        Refusal
            For a ground that is not among those to choose from.
        """
        chosen = self.settings.ground
        if chosen == "school" or self.settings.followed().transparent:
            return None
        if chosen == "own":
            lab: Lab = self.settings.ground_lab or (50.0, 0.0, 0.0)
            return Ground(lab, stays_where(self._wanted(), lab, self.mm_per_px()))
        choices = self.grounds()
        if not choices:
            return None
        found = next((c for c in choices if chosen in ("auto", c.key)), None)
        if found is None:
            raise Refusal(
                f"there is no ground called “{chosen}” for this picture; there is "
                f"{', '.join(c.key for c in choices)}"
            )
        return Ground(found.recipe.target_lab, found.stays)
