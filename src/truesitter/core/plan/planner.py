"""The planner: a school, the sitter's values and a palette become ordered passes."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import numpy as np

from truesitter.core.brushes.laying import brush_for, line_minutes, work_minutes
from truesitter.core.canvas.begun import Begun, adds_nothing
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.drawn.painted_lines import line_area_cm2, line_brush_mm
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.media.quantity import paint_ml
from truesitter.core.paint.media.supports import SUPPORTS, Support
from truesitter.core.paint.media.tuning import DEFAULT_LOSS
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.plan.draft import Draft
from truesitter.core.plan.finishing import finish
from truesitter.core.plan.kinds.registry import KINDS
from truesitter.core.plan.laying import Laid, Step
from truesitter.core.plan.pass_places import Place, split
from truesitter.core.plan.pass_plan import Pass, PassPlan, Remark
from truesitter.core.plan.size import JOINED
from truesitter.core.plan.subject import Subject
from truesitter.core.plan.tuning import HOLLOWS, SMALLEST_CM2
from truesitter.core.school.school_document import Band, PassTemplate, School
from truesitter.core.school.school_palettes import palettes_for
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Counts, Labels, Mask


class _Planner(Draft):
    def paints(self, place: Place) -> bool:
        """False for what the plan left out that the painting was begun by: it is not taken up again."""
        if self.begun is None or self.scene.subject.size == "every pass":
            return True
        lines = place.template.band is Band.LINES and self.begun.has(JOINED)
        return lines or self.begun.has(place.key)

    def brush(self, mask: Mask) -> float:
        """Widest brush for a place."""
        return brush_for(mask, self.scene.subject.mm_per_px)

    def add(self, place: Place, brush: float) -> None:
        """Do one place on the canvas and write down its pass, with the brush for the whole of the place."""
        template, at = place.template, self.scene.patchwork.at
        into_wet = template.into_wet and self.wet_minutes <= self.open_minutes[1]
        if template.into_wet and not into_wet:
            self._say_set(place)
        canvas = self.canvas if into_wet else self.canvas.dried()
        aim = None if place.aim is None else at(place.aim)
        pieces = at(place.mask)
        if self.stays is not None and KINDS[template.kind].leaves_ground:
            if not self._enough(pieces & ~self.stays):
                self.remarks.append(Remark(place.name, place.group, " left out: the ground stays there."))
                return
            pieces = pieces & ~self.stays
            aim = None if aim is None else aim & ~self.stays
            aim = None if aim is None or not aim.any() else aim
        if template.band is Band.RECESS_DARKS and self.hollows is not None:
            # The dark comes over the first coat: what that left as a rim is too light for a dark, too.
            pieces = pieces & self.hollows
        step = Step(
            pieces, place.group, template.regions, template.film_mm, aim, place.lines, place.tone,
            self.thin, place.order, place.hair, self.hollows, template.band in HOLLOWS,
        )  # fmt: skip
        laid = KINDS[template.kind].lay(self.scene, step, canvas)
        self.thin = laid if isinstance(laid, Laid) and laid.thinned else None
        if isinstance(laid, str):
            self.remarks.append(Remark(place.name, place.group, f" left out: {laid}"))
            return
        before = canvas
        for operation in laid.operations:
            canvas = canvas.do(operation)
        if self._is_there(before, canvas, laid):
            self.remarks.append(Remark(place.name, place.group, " left out: it is there already."))
            return
        self.canvas = canvas
        if laid.pieces is not step.pieces:
            brush = self.brush(self.scene.patchwork.mask(laid.pieces))
        done = self._pass(place, laid, brush, into_wet)
        self.wet_minutes = (self.wet_minutes if into_wet else 0.0) + done.work_minutes
        self.put(done, template)

    def put(self, done: Pass, template: PassTemplate) -> None:
        """Write down a pass that lies on the canvas by now."""
        if template.band in HOLLOWS:
            laid = done.pieces if self.hollows is None else self.hollows | done.pieces
            self.hollows = laid
        self.passes.append(done)
        self.laid.append(template)
        self.stand(done.keys)
        self.canvases.append(self.canvas)

    def lay_first(self, done: Pass, template: PassTemplate) -> None:
        """Lay a pass that was planned on what comes over it."""
        self.canvas = self.canvas.dried()
        for operation in done.operations:
            self.canvas = self.canvas.do(operation)
        self.put(replace(done, value_error=self.value_error()), template)

    def _say_set(self, place: Place) -> None:
        """Said once: the first pass that was to go into wet paint and cannot."""
        subject = "Wet into wet"
        if not any(r.name == subject for r in self.remarks):
            words = (
                f" ends before “{place.name}”: what lies below has set by then, and it goes over dry paint."
            )
            self.remarks.append(Remark(subject, None, words))

    def _is_there(self, before: Canvas, after: Canvas, laid: Laid) -> bool:
        """True for a pass made needless by what was painted otherwise than planned."""
        if (
            self.wrong is None
            or not laid.pieces.any()
            or any(operation.lines for operation in laid.operations)
        ):
            return False
        sizes = self.scene.patchwork.sizes[laid.pieces]
        if sizes[self.wrong[laid.pieces]].sum() < sizes.sum() / 2:
            return False
        return adds_nothing(before, after, laid.pieces)

    def _enough(self, pieces: Mask) -> bool:
        """True where there is something to paint."""
        area = self.scene.patchwork.sizes[pieces].sum() * self.scene.subject.mm_per_px**2 / 100
        return bool(area >= SMALLEST_CM2)

    def _pass(self, place: Place, laid: Laid, brush: float, into_wet: bool) -> Pass:
        template, sizes = place.template, self.scene.patchwork.sizes[laid.pieces]
        area = float(sizes.sum()) * self.scene.subject.mm_per_px**2 / 100
        minutes = work_minutes(area, brush)
        # A tool draws no finer and no wider than it can.
        lines = next((o.lines for o in laid.operations if o.lines), place.lines) if place.lines else ()
        if lines:
            sizes_mm = self.scene.subject.size_mm
            area = sum(line_area_cm2(line, sizes_mm) for line in lines)
            brush, minutes = line_brush_mm(lines), line_minutes(len(lines))
        return Pass(
            key=place.key,
            name=place.name,
            group=place.group,
            places=tuple(r.spoken for r in template.regions)
            if lines
            else _place_names(self.scene.regions[laid.pieces], sizes, template),
            pieces=laid.pieces,
            recipe=laid.recipe,
            film=laid.film,
            thinned=laid.thinned,
            brush_mm=brush,
            room_mm=brush,
            area_cm2=area,
            ml=paint_ml(area, laid.paint_mm, loss=DEFAULT_LOSS),
            edge=template.edge,
            tool=laid.tool or template.tool,
            note=f"{template.note} {laid.said}".strip(),
            open_minutes=self.open_minutes,
            goes=(),
            fat=template.fat,
            operations=laid.operations,
            does=laid.does or KINDS[template.kind].does,
            inspect=template.inspect,
            coats=laid.coats,
            taken=laid.taken,
            into_wet=into_wet,
            lines=lines,
            work_minutes=minutes,
            value_error=self.value_error(),
            hair=place.hair,
        )


def _place_names(regions: Labels, sizes: Counts, template: PassTemplate) -> tuple[str, ...]:
    present = np.bincount(regions, weights=sizes, minlength=len(Region))
    return tuple(r.spoken for r in template.regions if present[r] > 0.01 * present.sum())


def plan_passes(
    subject: Subject,
    palette: Palette,
    school: School,
    wishes: Wishes | None = None,
    medium: Medium | None = None,
    support: Support | None = None,
    begun: Begun | None = None,
) -> PassPlan:
    """Turn a subject into the ordered passes of a school.

    Parameters
    ----------
    subject, palette, school
        What is painted, with what, and how.
    wishes
        What every recipe must keep to.
    medium
        What it is painted in; the school's own when none is given or the school is not for that.
    support
        What it is painted on; the school's usual one when none is given.
    begun
        How the painting stands, to plan the rest of it on what is there.

    Raises
    ------
    Refusal
        When the palette cannot paint in that manner.
    """
    places = [place for template in school.passes for place in split(template, subject)]
    used = medium if medium and medium.name in school.media else school.medium
    ground = support or SUPPORTS[school.support]
    wishes = wishes or Wishes()
    palettes = palettes_for(school, palette, wishes, used, ground)
    planner = _Planner(subject, palettes, school, wishes, used, ground, places, begun)
    if medium and used is not medium:
        able = " or ".join(school.media)
        words = f" is painted in {able}, not in {medium.name}: its times are those of {used.name}."
        planner.remarks.append(Remark(school.name, None, words))
    # Brushes depend on nothing that is laid: they are measured beside the mixing.
    with ThreadPoolExecutor(max_workers=1) as beside:
        brushes = zip(places, beside.map(planner.brush, [p.mask for p in places]), strict=True)
        painted = [(place, brush) for place, brush in brushes if planner.paints(place)]
    first = [n for n, (place, _) in enumerate(painted) if place.template.laid_first]
    if first:
        # What is laid first is as strong as all that comes over it lets it be: planned on that, once more.
        trial = planner.afresh()
        for place, brush in painted[: first[-1] + 1]:
            trial.add(place, brush)
        early = [(p, t) for p, t in zip(trial.passes, trial.laid, strict=True) if t.laid_first]
        names = {place.name for place, _ in painted if place.template.laid_first}
        planner.remarks += [remark for remark in trial.remarks if remark.name in names]
        for done, template in early:
            planner.lay_first(done, template)
    for place, brush in painted:
        if not place.template.laid_first:
            planner.add(place, brush)
    return finish(planner)
