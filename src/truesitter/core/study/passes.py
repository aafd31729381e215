"""What to lay when, and the canvas after each pass."""

from __future__ import annotations

from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.paint.media.supports import SUPPORTS
from truesitter.core.passes.borders import Borders, measure_borders
from truesitter.core.passes.face_lines import face_lines
from truesitter.core.passes.painted import Painted, Painting, paint
from truesitter.core.passes.plan import PassPlan, Subject
from truesitter.core.passes.planner import plan_passes
from truesitter.core.passes.schools import school
from truesitter.core.passes.seams import Seam, seams_of
from truesitter.core.settings import PassSettings
from truesitter.core.study.flesh import TARGETS, TIMES, TUBES, WISHES, FleshStage
from truesitter.core.study.light import LightStage
from truesitter.core.study.picture import WIDTH_MM, PictureStage
from truesitter.core.study.reduce import reduced, reduced_labels
from truesitter.core.study.results import Source, result
from truesitter.core.study.sitter import SitterStage
from truesitter.core.study.values import ValueStage

PLANNING_LONG_SIDE = 1000
"""Passes are planned on maps of this size: 0.4 mm a pixel on a canvas of 300 × 400 mm."""


class PassStage:
    """The passes of the chosen school."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, values: ValueStage,
        flesh: FleshStage, light: LightStage,
    ) -> None:  # fmt: skip
        self.source, self._picture, self._sitter = source, picture, sitter
        self._values, self._flesh, self._light = values, flesh, light
        self.settings: PassSettings = source.stage("passes")

    @result(
        "passes",
        settings=("passes.school", "passes.support", *TUBES, *WISHES, *TARGETS, *TIMES, WIDTH_MM),
        needs=("lab", "values", "regions", "light", "smoothed", "flesh", "detection", "framed"),
        version=5,
    )
    def plan(self) -> PassPlan:
        """The ordered passes and the canvas after each."""
        flesh = self._flesh.settings
        return plan_passes(
            self.subject(),
            self._flesh.palette(),
            school(self.settings.school),
            flesh.wishes(),
            flesh.medium_used(),
            SUPPORTS[self.settings.support] if self.settings.support else None,
        )

    @result("painted borders", settings=(WIDTH_MM,), needs=("passes", "lab"))
    def borders(self) -> Borders:
        """How sharply each border between the places of the passes is painted."""
        lab = reduced(self._picture.lab(), PLANNING_LONG_SIDE)
        mm_per_px = self._picture.settings.canvas_width_mm / lab.shape[1]
        patchwork = self.plan().canvases[0].patchwork
        return measure_borders(patchwork, lightness_map_to_value(lab[..., 0]), mm_per_px)

    @result("seams", needs=("painted borders", "passes", "regions", "values"))
    def seams(self) -> tuple[tuple[Seam, ...], ...]:
        """What each pass meets along its border."""
        borders, plan = self.borders(), self.plan()
        regions = reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE)
        groups = reduced_labels(self._values.plan().labels, PLANNING_LONG_SIDE)
        at = borders.patchwork.at
        return tuple(seams_of(borders, p, at(regions), at(groups)) for p in plan.passes)

    @result("painted", settings=TUBES, needs=("painted borders", "passes"))
    def painted(self) -> Painted:
        """The canvas after each pass, as soft as it is painted."""
        plan = self.plan()
        done = (Painting(p.deeds, p.into_wet) for p in plan.passes)
        return paint(self.borders(), done, plan.support, self._flesh.palette().rack)

    def subject(self) -> Subject:
        """What the planner paints, reduced to the size it plans at."""
        lab = reduced(self._picture.lab(), PLANNING_LONG_SIDE)
        if self._flesh.settings.monochrome:
            lab[..., 1:] = 0
        width_mm = self._picture.settings.canvas_width_mm
        mm_per_px = width_mm / lab.shape[1]
        return Subject(
            groups=reduced_labels(self._values.plan().labels, PLANNING_LONG_SIDE),
            regions=reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE),
            zones=reduced_labels(self._light.zones().zones, PLANNING_LONG_SIDE),
            lab=lab,
            value=reduced(self._values.smoothed(), PLANNING_LONG_SIDE),
            mm_per_px=mm_per_px,
            flesh={m.group: m.recipe for m in self._flesh.mixed().mixtures},
            clip=self._flesh.settings.clip,
            lines=face_lines(self._sitter.face, (width_mm, lab.shape[0] * mm_per_px)),
        )
