"""The ordered passes of a school."""

from __future__ import annotations

from collections.abc import Hashable

from truesitter.core.passes.plan import PassPlan, Subject
from truesitter.core.passes.planner import plan_passes
from truesitter.core.passes.schools import school
from truesitter.core.study.flesh import FleshStage
from truesitter.core.study.light import LightStage
from truesitter.core.study.part import Source, reduced, reduced_labels
from truesitter.core.study.picture import PictureStage
from truesitter.core.study.sitter import SitterStage
from truesitter.core.study.values import ValueStage

PLANNING_LONG_SIDE = 1000


class PassStage:
    """From values, regions, lights and tubes to passes."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, values: ValueStage,
        flesh: FleshStage, light: LightStage,
    ) -> None:  # fmt: skip
        self._source, self._picture, self._sitter = source, picture, sitter
        self._values, self._flesh, self._light = values, flesh, light
        self.settings = source.settings.passes

    @property
    def key(self) -> Hashable:
        """Changes when a pass may."""
        return (self._flesh.key, self._light.key, self.settings.school)

    def plan(self) -> PassPlan:
        """The ordered passes and the canvas after each."""
        return self._source.remember("passes", self.key, self._plan)

    def _plan(self) -> PassPlan:
        flesh = self._flesh
        return plan_passes(
            self.subject(), flesh.palette(), school(self.settings.school), flesh.settings.wishes()
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
            group_names=self._values.settings.group_names(),
            mm_per_px=self._picture.settings.canvas_width_mm / lab.shape[1],
            flesh={m.group: m.recipe for m in self._flesh.mixed().mixtures},
            clip=self._flesh.settings.clip,
        )
