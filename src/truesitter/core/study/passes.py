"""What to lay when, and the canvas after each pass."""

from __future__ import annotations

from truesitter.core.passes.plan import PassPlan, Subject
from truesitter.core.passes.planner import plan_passes
from truesitter.core.passes.schools import school
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
        settings=("passes.school", *TUBES, *WISHES, *TARGETS, *TIMES, WIDTH_MM),
        needs=("lab", "values", "regions", "light", "smoothed", "flesh"),
        version=4,
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
        )

    def subject(self) -> Subject:
        """What the planner paints, reduced to the size it plans at."""
        lab = reduced(self._picture.lab(), PLANNING_LONG_SIDE)
        if self._flesh.settings.monochrome:
            lab[..., 1:] = 0
        return Subject(
            groups=reduced_labels(self._values.plan().labels, PLANNING_LONG_SIDE),
            regions=reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE),
            zones=reduced_labels(self._light.zones().zones, PLANNING_LONG_SIDE),
            lab=lab,
            value=reduced(self._values.smoothed(), PLANNING_LONG_SIDE),
            mm_per_px=self._picture.settings.canvas_width_mm / lab.shape[1],
            flesh={m.group: m.recipe for m in self._flesh.mixed().mixtures},
            clip=self._flesh.settings.clip,
        )
