"""The painting on the easel, held to its plan."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.canvas.begun import Begun
from truesitter.core.colour.spaces import Lab, linear_to_lab, picture_to_linear
from truesitter.core.easel.compare.bare_drawing import line_picture
from truesitter.core.easel.compare.between import PlaceBetween, between
from truesitter.core.easel.compare.squinted import squint
from truesitter.core.easel.comparison import ComparedSubject, Comparison, compare, compare_drawing, dried
from truesitter.core.easel.correct.remedy import Bench, Remedy, remedies
from truesitter.core.easel.correct.stop import Progress, Stop, error_of, stop_test
from truesitter.core.easel.find.on_easel import OnEasel, find_on_easel
from truesitter.core.easel.lamp.rectified import RectifiedPainting, take_in
from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.reduce import reduced_labels
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.reference.decode import decode
from truesitter.core.refusal import Refusal
from truesitter.core.school.school_palettes import palettes_for
from truesitter.core.settings import EaselSettings, FleshSettings, PaintingSettings
from truesitter.core.stages.accents_stage import AccentStage
from truesitter.core.stages.flesh_stage import DRYING, MIXING, TIMES, TUBES, WISHES, FleshStage
from truesitter.core.stages.passes_stage import PassStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.surround_stage import SurroundStage
from truesitter.core.stages.tuning import GRAIN_PX, PLANNING_LONG_SIDE, SHOWN_LONG_SIDE
from truesitter.core.stages.values_stage import ValueStage
from truesitter.core.types import Bytes, Floats

TEMPLATES = ("painted", "wanted picture", "drawing to carry over")
"""What a painting is held to."""

ABLE = (*TUBES, *WISHES, "passes.school", "passes.own", "passes.support")
"""Settings that say whether there is a plan at all."""


_PLANNED = PassStage.plan.declaration


class EaselStage:
    """Photographs of the painting, and what they say."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, flesh: FleshStage,
        accents: AccentStage, surround: SurroundStage, passes: PassStage,
        values: ValueStage,
    ) -> None:  # fmt: skip
        self.source, self._picture, self._sitter = source, picture, sitter
        self._flesh, self._accents, self._surround = flesh, accents, surround
        self._passes, self._values = passes, values
        self.settings: EaselSettings = source.stage("easel")
        self._mixing: FleshSettings = source.stage("flesh")

    # -- what it should look like -----------------------------------------------------------------

    def planned(self) -> bool:
        """True when there are passes to hold a painting to."""
        return not self._passes.refused()

    def pass_count(self) -> int:
        """How many passes the plan has; 0 without one."""
        return len(self._passes.plan().passes) if self.planned() else 0

    def template(self, after: int | None, how: str) -> Bytes:
        """(h, w, 3) sRGB of what the painting should look like after so many passes.

        Raises
        ------
        Refusal
            For a pass that the plan does not have.
        """
        if how == "plan":
            count = self.pass_count()
            if after is not None and after > count:
                raise Refusal(f"the plan has {count} passes; the painting cannot show {after} of them")
            return self._passes.painted().picture(count if after is None else after)
        return self._drawing() if how == "drawing" else self._reference()

    @result("drawing to carry over", settings=(WIDTH_MM,), needs=("outlines", "framed"))
    def _drawing(self) -> Bytes:
        """The outlines that are carried over to the canvas, as lines on white, (h, w, 3)."""
        framed, drawing = self._picture.framed(), self._values.outlines()
        shape = reduced_labels(np.zeros(framed.shape[:2], np.uint8), PLANNING_LONG_SIDE).shape
        mm_per_px = self._picture.settings.canvas_width_mm / shape[1]
        return line_picture(drawing.outlines, drawing.grid, (shape[0], shape[1]), mm_per_px)

    @result(
        "wanted picture",
        settings=("passes.focus", WIDTH_MM),
        needs=lambda settings: ("framed", *(("finish", "lab", "regions") if settings.passes.focus else ())),
    )
    def _reference(self) -> Bytes:
        """The photograph that a painting is held to, (h, w, 3): as far as it is to be finished."""
        if self._passes.settings.focus:
            # What was left loose on purpose is no fault.
            return self._passes.as_finished()
        picture = self._picture.framed()
        size = reduced_labels(np.zeros(picture.shape[:2], np.uint8), PLANNING_LONG_SIDE).shape
        return cv2.resize(picture, size[::-1], interpolation=cv2.INTER_AREA)

    # -- taking it in -----------------------------------------------------------------------------

    @result("painting photograph")
    def photograph(self, sha256: str) -> Bytes:
        """A photograph of the painting, upright, at the size it is worked on."""
        picture = decode(self.source.load_painting(sha256), SHOWN_LONG_SIDE)
        scale = min(1.0, SHOWN_LONG_SIDE / max(picture.shape[:2]))
        if scale == 1:
            return picture
        return cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)

    @result("painting view", settings=ABLE, needs=(*TEMPLATES, "passes", "painting photograph"))
    def _seen(self, painting: PaintingSettings) -> OnEasel:
        ways = self._ways(painting)
        return find_on_easel(
            self.photograph(painting.sha256), ways,
            tuple(self.template(painting.after, how) for how in ways),
            None if painting.corners is None else np.array(painting.corners), painting.refine,
        )  # fmt: skip

    def _ways(self, painting: PaintingSettings) -> tuple[str, ...]:
        if painting.against == "drawing":
            return ("drawing",)
        if painting.against == "photograph" or not self.planned():
            return ("photograph",)
        if painting.against == "likelier" and painting.after is None:
            return ("plan", "photograph")
        return ("plan",)

    def seen(self, painting: PaintingSettings) -> OnEasel:
        """Where the painting lies in its photograph, and what it is held to."""
        return self._seen(painting.reading())

    def wanted(self, painting: PaintingSettings) -> Floats:
        """(h, w, 3) linear light of what the painting should be."""
        return picture_to_linear(self.template(painting.after, self.seen(painting).how))

    @result(
        "painting",
        settings=ABLE,
        needs=("painting view", "painting photograph", *TEMPLATES, "passes"),
    )
    def _taken(self, painting: PaintingSettings) -> RectifiedPainting:
        view = self._seen(painting).registered.view
        wanted = picture_to_linear(self.template(painting.after, self._seen(painting).how))
        return take_in(
            self.photograph(painting.sha256), view, wanted, tuple(w.mark() for w in painting.whites),
            painting.mixture.mark() if painting.mixture else None, painting.even,
        )  # fmt: skip

    def taken(self, painting: PaintingSettings) -> RectifiedPainting:
        """The painting squared up, under an even white light."""
        return self._taken(painting.reading())

    # -- holding it to the plan -------------------------------------------------------------------

    @result(
        "comparison",
        settings=(WIDTH_MM, *DRYING, *ABLE),
        needs=(
            "painting", "painting view", "areas", "regions", "values", "detection", "ceilings", *TEMPLATES,
            "passes", "surround",
        ),
    )  # fmt: skip
    def _compared(self, painting: PaintingSettings) -> Comparison:
        how = self._seen(painting).how
        template = self.template(painting.after, how)
        wanted = picture_to_linear(template)
        if how == "drawing":
            return compare_drawing(self._taken(painting), template, wanted, self._subject())
        shift = self._mixing.drying_shift() if painting.wet else None
        return compare(self._taken(painting), wanted, self._subject(), shift, how == "photograph")

    def compared(self, painting: PaintingSettings) -> Comparison:
        """Everything that is wrong with the painting, and what holds."""
        return self._compared(painting.reading())

    @result(
        "two paintings",
        settings=ABLE,
        needs=("painting", "painting view", "areas", "painted", "wanted picture", "passes"),
    )
    def _between(self, first: PaintingSettings, second: PaintingSettings) -> tuple[PlaceBetween, ...]:
        wanted = picture_to_linear(self.template(None, "photograph"))
        seen = []
        for one in (first, second):
            taken = self._taken(one)
            seen.append(squint(np.clip(taken.light, 0, 1.2).astype(np.float32), wanted, taken.trusted))
        return between(seen[0], seen[1], self._sitter.areas())

    def between(self, first: PaintingSettings, second: PaintingSettings) -> tuple[PlaceBetween, ...]:
        """How two paintings of the sitter differ, and which is nearer to the photograph.

        Raises
        ------
        Refusal
            For a painting and itself.
        """
        if first.key == second.key:
            raise Refusal("a painting is held against another one: choose two")
        return self._between(first.reading(), second.reading())

    def _subject(self) -> ComparedSubject:
        regions = self._surround.regions()
        return ComparedSubject(
            regions, self._surround.surround().groups, self._sitter.areas(), self._sitter.face,
            self._accents.ceilings(), self._picture.settings.canvas_width_mm / regions.shape[1],
        )  # fmt: skip

    # -- correcting -------------------------------------------------------------------------------

    def bench(self, wet: bool) -> Bench:
        """With what the painting is corrected.

        Raises
        ------
        Refusal
            When these tubes cannot paint in the school.
        """
        school, flesh = self._passes.settings.followed(), self._flesh.settings
        medium, support = flesh.medium_used(), self._passes.support()
        used = medium if medium.name in school.media else school.medium
        palettes = palettes_for(school, self._flesh.palette(), flesh.wishes(), used, support)
        return Bench(palettes, flesh.wishes(), used, support, school.transparent, wet)

    @result("remedies", settings=(*MIXING, *TIMES, "passes.school", "passes.own", "passes.support"))
    def remedies(self, measured: Lab, wanted: Lab, wet: bool, soft: bool) -> tuple[Remedy, ...]:
        """What can be done about a place; nothing where these tubes cannot paint in the school.

        Parameters
        ----------
        measured
            L*a*b* of the painting.
        wanted
            L*a*b* of the plan.
        wet
            True while its paint is open.
        soft
            True at a soft border.

        Returns
        -------
        tuple[Remedy, ...]
            The mildest first.
        """
        if not self.planned():
            return ()
        return remedies(measured, wanted, self.bench(wet), soft)

    # -- planning again ---------------------------------------------------------------------------

    @result(
        "plan again",
        settings=(*_PLANNED.settings, *ABLE, *DRYING),
        needs=lambda settings: (*_PLANNED.needed(settings), "passes", "painting", "painted"),
    )
    def _again(self, painting: PaintingSettings) -> PassPlan:
        laid = self.pass_count() if painting.after is None else painting.after
        taken = self._taken(painting)
        planned = picture_to_linear(self.template(painting.after, "plan"))
        light = dried(taken.light, self._mixing.drying_shift()) if painting.wet else taken.light
        own, plan = (linear_to_lab(blur(p, GRAIN_PX)) for p in (light, planned))
        by = self._passes.plan()
        begun = Begun(laid, own - plan, taken.trusted, by.every_key, tuple(h.parts for h in by.heaps))
        flesh = self._flesh.settings
        return plan_passes(
            self._passes.subject(), self._flesh.palette(), self._passes.settings.adapted(), flesh.wishes(),
            flesh.medium_used(), self._passes.support(), begun,
        )  # fmt: skip

    def again(self, painting: PaintingSettings) -> PassPlan:
        """The passes that are left, planned on what is really on the canvas.

        Raises
        ------
        Refusal
            When the painting does not follow the plan, or nothing is left to lay.
        """
        if not self.planned():
            raise Refusal(self._passes.refused())
        if painting.against == "drawing":
            raise Refusal("this is the bare drawing: nothing is laid yet, so the plan stands as it is")
        if self.seen(painting).how != "plan":
            raise Refusal("this painting was not made by the plan: it is held to the photograph")
        if painting.after is None or painting.after >= self.pass_count():
            raise Refusal("all passes have been laid: correct single places instead")
        return self._again(painting.reading())

    # -- stopping ---------------------------------------------------------------------------------

    def in_order(self) -> tuple[PaintingSettings, ...]:
        """Photographs of the painting, oldest first; those of the bare drawing are none of paint."""
        painted = (p for p in self.settings.paintings if p.against != "drawing")
        return tuple(sorted(painted, key=lambda p: (p.taken_at, p.after or 10_000)))

    @result(
        "left to do",
        settings=ABLE,
        needs=("painting", "painting view", "painted", "wanted picture", "passes"),
    )
    def _left(self, painting: PaintingSettings) -> float:
        """Mean |value| error against the finished canvas: what is left to do is part of being off."""
        taken = self._taken(painting)
        finished = picture_to_linear(self.template(None, self._seen(painting).how))
        return error_of(squint(np.clip(taken.light, 0, 1.2).astype(np.float32), finished, taken.trusted))

    def progress(self) -> tuple[tuple[PaintingSettings, Progress], ...]:
        """How far the painting was from finished at each photograph that can be read, oldest first."""
        found = []
        for one in self.in_order():
            try:
                error = self._left(one.reading())
            except Refusal:
                continue
            found.append((one, Progress(one.taken_at, one.after, error)))
        return tuple(found)

    def stop(self, painting: PaintingSettings) -> Stop:
        """Whether another sitting would change anything."""
        if painting.against == "drawing":
            return Stop(False, None, 0.0, "The drawing comes before the first pass.")
        until = [p for p in self.progress() if p[0].taken_at <= painting.taken_at]
        errors = tuple(p.error for one, p in until if one.key != painting.key)
        own = self._left(painting.reading())
        finished = painting.after is None or painting.after >= self.pass_count() or not self.planned()
        return stop_test((*errors, own), self.compared(painting).largest, finished)
