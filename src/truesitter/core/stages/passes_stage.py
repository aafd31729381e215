"""What to lay when, and the canvas after each pass."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.canvas.painted import Painted, Painting, paint
from truesitter.core.canvas.painted_borders import Borders, measure_borders
from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.graph.results import OWN_PACE, Source, result
from truesitter.core.imaging.reduce import reduced, reduced_labels
from truesitter.core.paint.media.supports import SUPPORTS, Support
from truesitter.core.plan.clock.pacing import paced
from truesitter.core.plan.clock.schedule import DAY_MINUTES, PlannedSitting, Task, sittings_for
from truesitter.core.plan.draft import mapped_reference
from truesitter.core.plan.hand.seams import Seam, Sides, seams_of, with_hairline
from truesitter.core.plan.heaps import renamed
from truesitter.core.plan.kit import Kit, kit_for
from truesitter.core.plan.painted_hair import hair_errors, hair_picture
from truesitter.core.plan.pass_plan import PassPlan, Remark
from truesitter.core.plan.planner import plan_passes
from truesitter.core.plan.subject import SIZES, OwnHeap, Size, Subject
from truesitter.core.refusal import Refusal
from truesitter.core.school.school_palettes import palettes_for
from truesitter.core.school.switches import unheeded
from truesitter.core.settings import PassSettings
from truesitter.core.stages.finishing_stage import FinishStage
from truesitter.core.stages.flesh_stage import TARGETS, TIMES, TUBES, WISHES, FleshStage
from truesitter.core.stages.hair_stage import HairStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.subject_stage import SubjectStage, subject_needs
from truesitter.core.stages.tuning import (
    PLANNING_LONG_SIDE,
)
from truesitter.core.stages.values_stage import ValueStage
from truesitter.core.types import Bytes, Floats

ORDER = tuple(
    f"passes.{name}"
    for name in (
        "school", "own", "support", "background", "hair", "lights", "order", "softening", "shadows",
        "tones", "sitting", "layers", "wall",
        "size", "brushes", "own_heaps", "exactness", "focus", "temperature", "humidity", "dryer", "ground",
        "ground_lab",
    )
)  # fmt: skip
"""Settings of the passes that the plan follows from; how long a sitting is changes none of them."""

_PLANNED = (
    *ORDER, "hair.way", "hair.hours", "hair.layers", *TUBES, *WISHES, *TARGETS, *TIMES, WIDTH_MM,
    "easel.allowances",
)  # fmt: skip


class PassStage:
    """The passes of the chosen school."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, values: ValueStage,
        flesh: FleshStage, hair: HairStage, finish: FinishStage, subject: SubjectStage,
    ) -> None:  # fmt: skip
        self.source, self._picture, self._sitter = source, picture, sitter
        self._values, self._flesh, self._hair = values, flesh, hair
        self._finish, self._subject = finish, subject
        self.settings: PassSettings = source.stage("passes")

    @result(
        "passes",
        settings=_PLANNED,
        needs=subject_needs,
        version=30,
    )
    def plan(self) -> PassPlan:
        """The ordered passes and the canvas after each."""
        flesh = self._flesh.settings
        # Hair and lines are drawn while values, light and colour are read: each takes seconds.
        with self.source.beside(self._subject.draw):
            subject = self.subject()
        plan = plan_passes(
            subject,
            self._flesh.palette(),
            self.settings.adapted(),
            flesh.wishes(),
            flesh.medium_used(),
            SUPPORTS[self.settings.support] if self.settings.support else None,
        )
        words = ": this school has it so, or has nothing to change there."
        idle = [Remark(name, None, words) for name in self._unheeded()]
        return replace(plan, remarks=(*plan.remarks, *idle))

    def _unheeded(self) -> list[str]:
        return unheeded(self.settings.followed(), self.settings.switches())

    @result("plan sizes", settings=_PLANNED, needs=lambda settings: ("passes", *subject_needs(settings)))
    def sizes(self) -> dict[Size, PassPlan]:
        """The plan in every size."""
        flesh, found = self._flesh.settings, dict[Size, PassPlan]()
        subject = self.subject()
        for size in SIZES:
            if size == self.settings.size:
                found[size] = self.plan()
                continue
            school = self.settings.model_copy(update={"size": size}).adapted()
            found[size] = plan_passes(
                self._subject.of_size(subject, size), self._flesh.palette(), school, flesh.wishes(),
                flesh.medium_used(), SUPPORTS[self.settings.support] if self.settings.support else None,
            )  # fmt: skip
        return found

    def as_finished(self) -> Bytes:
        """The reference as far as it is to be finished, (h, w, 3)."""
        return self._finish.picture()

    def refused(self) -> str:
        """Why these tubes cannot paint in the school, in a sentence; empty when they can."""
        flesh = self._flesh.settings
        one = self.settings.followed()
        try:
            palettes_for(one, self._flesh.palette(), flesh.wishes(), one.medium, SUPPORTS[one.support])
        except Refusal as refusal:
            return refusal.sentence
        return ""

    @result("paced passes", settings=("passes.school", "passes.heap_names"), needs=("passes", OWN_PACE))
    def paced(self) -> PassPlan:
        """The plan with the time and the paint that it takes this painter."""
        plan = paced(self.plan(), self.settings.school, self.source.own_pace())
        names = [OwnHeap(h.name, h.parts) for h in self.settings.heap_names]
        return replace(plan, heaps=renamed(plan.heaps, names))

    @result(
        "sittings",
        settings=("passes.sitting", "passes.sitting_hours", "passes.rest_days"),
        needs=("paced passes",),
    )
    def sittings(self) -> tuple[PlannedSitting, ...]:
        """When the passes are painted."""
        tasks = tuple(Task(p.work_minutes, p.dries_minutes, p.over, p.into_wet) for p in self.paced().passes)
        longest = self.settings.sitting_hours if self.settings.sitting is None else DAY_MINUTES / 60
        return sittings_for(tasks, longest, self.settings.rest_days)

    def kit(self, names: tuple[str, ...]) -> Kit:
        """What has to lie ready; with the painter's own names of the value groups."""
        return kit_for(self.paced(), self.sittings(), self._flesh.palette().rack, names)

    def support(self) -> Support:
        """What it is painted on."""
        one = self.settings.followed()
        return SUPPORTS[self.settings.support or one.support]

    @result(
        "painted borders",
        settings=(WIDTH_MM, "passes.least_edge_mm", "passes.focus"),
        needs=lambda settings: ("passes", "lab", *(("finish",) if settings.passes.focus else ())),
        version=3,
    )
    def borders(self) -> Borders:
        """How sharply each border between the places of the passes is painted."""
        lab = reduced(self._picture.lab(), PLANNING_LONG_SIDE)
        mm_per_px = self._picture.settings.canvas_width_mm / lab.shape[1]
        patchwork = self.plan().bare.patchwork
        least: float | Floats = self.settings.least_edge_mm
        if self.settings.focus and not any(p.does == "smear" for p in self.plan().passes):
            least = np.maximum(self._finish.finish().edge_mm, least)
        return measure_borders(patchwork, lightness_map_to_value(lab[..., 0]), mm_per_px, least)

    @result(
        "seams",
        settings=("passes.school", "passes.own"),
        needs=("painted borders", "passes", "regions", "values", "hairline"),
        version=2,
    )
    def seams(self) -> tuple[tuple[Seam, ...], ...]:
        """What each pass meets along its border."""
        plan, found = self.plan(), self.borders()
        regions = reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE)
        groups = reduced_labels(self._values.plan().labels, PLANNING_LONG_SIDE)
        sides = Sides(found.patchwork.at(regions), found.patchwork.at(groups))
        borders = with_hairline(found, sides, self._hair.hairline())
        clear = self.settings.followed().transparent
        return tuple(() if p.lines else seams_of(borders, p, sides, plan.medium, clear) for p in plan.passes)

    @result("painted", settings=TUBES, needs=("painted borders", "passes"))
    def painted(self) -> Painted:
        """The canvas after each pass, as soft as it is painted."""
        plan = self.plan()
        done = (Painting(p.operations, p.into_wet) for p in plan.passes)
        return paint(self.borders(), done, plan.support, plan.bare.rack)

    @result(
        "hair errors",
        settings=_PLANNED,
        needs=lambda settings: ("painted", "passes", *subject_needs(settings)),
    )
    def hair_errors(self) -> tuple[float, ...]:
        """How far the hair is from the squinted reference after each of its passes, in value steps."""
        one, flesh, plan = self.settings.followed(), self._flesh.settings, self.plan()
        wishes = flesh.wishes()
        used = palettes_for(one, self._flesh.palette(), wishes, plan.medium, plan.support).used
        wanted, _ = mapped_reference(self.subject(), used, wishes, one.transparent)
        return hair_errors(plan, self.painted(), wanted)

    @result(
        "picture of painted hair", settings=(WIDTH_MM,),
        needs=("painted", "passes", "photograph of the hair", "framed"),
    )  # fmt: skip
    def hair_picture(self, number: int) -> Bytes:
        """The hair as painted after a pass, counted from 0, over the photograph."""
        mm = self._hair.mm_per_px()
        return hair_picture(self.plan(), self.painted(), number, self._hair.photograph(), mm)

    @result("painted without", settings=TUBES, needs=("painted borders", "passes"))
    def without(self, number: int) -> Painted:
        """The canvas after each pass had one of them, counted from 1, never been laid."""
        plan = self.plan()
        done = [
            Painting((), p.into_wet) if n == number else Painting(p.operations, p.into_wet)
            for n, p in enumerate(plan.passes, 1)
        ]
        return paint(self.borders(), done, plan.support, plan.bare.rack)

    def subject(self) -> Subject:
        """What the planner paints."""
        return self._subject.subject()
