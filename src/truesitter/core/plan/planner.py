"""The planner: a school, the sitter's values and a palette become ordered passes."""

from __future__ import annotations

from collections.abc import Sequence
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
from truesitter.core.paint.recipes.reach import map_picture, palette_reach
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.plan.clock.minutes import areas_cm2, pass_minutes, rates
from truesitter.core.plan.clock.timing import bare_white, short_of, with_times
from truesitter.core.plan.clock.tuning import SPREAD
from truesitter.core.plan.hand.brushes import with_brushes
from truesitter.core.plan.heaps import from_heaps, idle_heaps, remade, renamed, with_amounts
from truesitter.core.plan.kinds.registry import KINDS
from truesitter.core.plan.laying import Laid, Scene, Step
from truesitter.core.plan.mended import with_weaker_first_coats
from truesitter.core.plan.pass_places import Place, patchwork_of, split
from truesitter.core.plan.pass_plan import Heap, Hours, Pass, PassPlan, Remark
from truesitter.core.plan.size import JOINED, Pruning, in_one_go, joined_lines
from truesitter.core.plan.subject import Subject
from truesitter.core.plan.tuning import (
    ERROR_BINS,
    FIRST_COATS,
    PASSES_OF_SIZE,
    SMALLEST_CM2,
    STAYS,
    UNCOLOURED,
)
from truesitter.core.plan.wash_over import wash_reach
from truesitter.core.school.school_document import Band, PassTemplate, School
from truesitter.core.school.school_palettes import Palettes, palettes_for
from truesitter.core.school.switches import FIRST_LAYER
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Counts, Labels, Mask


class _Planner:
    def __init__(
        self, subject: Subject, palettes: Palettes, school: School, wishes: Wishes, medium: Medium,
        support: Support, places: list[Place], begun: Begun | None = None,
    ) -> None:  # fmt: skip
        self.begun = begun
        self.wrong: Mask | None = None
        self.school = school
        self.slower = medium.wait_minutes / school.medium.wait_minutes
        palette = palettes.used
        reach = (
            wash_reach(palette, wishes.exact(), subject.lab) if school.transparent else palette_reach(palette)
        )
        mapped_lab, mapped_value = map_picture(subject.lab, reach, subject.clip)
        patchwork = patchwork_of(subject, places)
        self.scene = Scene(
            subject, patchwork, palette, palettes.clear, palettes.body, wishes, medium, support,
            subject.ground.lab if subject.ground else school.ground_lab, mapped_lab,
        )  # fmt: skip
        self.stays = patchwork.at(subject.ground.stays) if subject.ground else None
        self.wanted = patchwork.spread(mapped_value, ERROR_BINS, 10)
        self.bare = self.canvas = Canvas.bare(patchwork, support, palette.rack)
        self.wet_minutes = 0.0
        self.thin: Laid | None = None
        self.passes: list[Pass] = []
        self.laid: list[PassTemplate] = []
        self.canvases: list[Canvas] = []
        self.remarks: list[Remark] = []

    def paints(self, place: Place) -> bool:
        """False for what the plan left out that the painting was begun by: it is not taken up again."""
        if self.begun is None or self.scene.subject.size == "every pass":
            return True
        keys = self.begun.keys
        return place.key in keys or (JOINED in keys and place.template.band is Band.LINES)

    def brush(self, mask: Mask) -> float:
        """Widest brush for a place."""
        return brush_for(mask, self.scene.subject.mm_per_px)

    def add(self, place: Place, brush: float) -> None:
        """Do one place on the canvas and write down its pass, with the brush for the whole of the place."""
        template, at = place.template, self.scene.patchwork.at
        into_wet = template.into_wet and self.wet_minutes <= self.scene.medium.open_minutes[1]
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
        step = Step(
            pieces, place.group, template.regions, template.film_mm, aim, place.lines, place.tone,
            self.thin, place.order, place.hair,
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
        self.passes.append(done)
        self.laid.append(template)
        self._stand(done.key)
        self.canvases.append(self.canvas)

    def _say_set(self, place: Place) -> None:
        """Said once: the first pass that was to go into wet paint and cannot."""
        subject = "Wet into wet"
        if not any(r.name == subject for r in self.remarks):
            words = (
                f" ends before “{place.name}”: what lies below has set by then, and it goes over dry paint."
            )
            self.remarks.append(Remark(subject, None, words))

    def _stand(self, key: str) -> None:
        """After the last pass laid by now the canvas is as it really is."""
        if self.begun and key == self.begun.last:
            self.canvas, self.wrong = self.begun.on(self.canvas)

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

    def _value_error(self) -> float:
        """Mean distance of the canvas as it is from the mapped reference, in value steps."""
        middles = (np.arange(ERROR_BINS) + 0.5) * (10 / ERROR_BINS)
        away = np.abs(middles - self.canvas.piece_values()[:, None])
        return float((self.wanted * away).sum() / self.wanted.sum())

    def _pass(self, place: Place, laid: Laid, brush: float, into_wet: bool) -> Pass:
        template, sizes = place.template, self.scene.patchwork.sizes[laid.pieces]
        area = float(sizes.sum()) * self.scene.subject.mm_per_px**2 / 100
        minutes = work_minutes(area, brush)
        if place.lines:
            sizes_mm = self.scene.subject.size_mm
            area = sum(line_area_cm2(line, sizes_mm) for line in place.lines)
            brush, minutes = line_brush_mm(place.lines), line_minutes(len(place.lines))
        return Pass(
            key=place.key,
            name=place.name,
            group=place.group,
            places=tuple(r.spoken for r in template.regions)
            if place.lines
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
            tool=template.tool,
            note=f"{template.note} {laid.said}".strip(),
            open_minutes=self.scene.medium.open_minutes,
            goes=(),
            fat=template.fat,
            operations=laid.operations,
            does=KINDS[template.kind].does,
            inspect=template.inspect,
            coats=laid.coats,
            taken=laid.taken,
            into_wet=into_wet,
            lines=place.lines,
            work_minutes=minutes,
            value_error=self._value_error(),
        )

    def _lay_again(
        self, passes: Sequence[Pass], before: Sequence[Pass] = (), planned: Sequence[Canvas] = ()
    ) -> None:
        """Lay passes on the bare canvas anew; where they were planned in other mixtures, as dark as that."""
        self.canvas, self.canvases, done = self.bare, [], []
        for number, first in enumerate(passes):
            self.canvas = self.canvas if first.into_wet else self.canvas.dried()
            one = first
            if planned:
                # A second coat is the first once more.
                thinning = None if self.laid[number].kind == "again" else self.scene.medium.thinning
                clear = self.school.transparent
                one = remade(first, before[number], self.canvas, planned[number], thinning, clear)
            for operation in one.operations:
                self.canvas = self.canvas.do(operation)
            self._stand(one.key)
            self.canvases.append(self.canvas)
            done.append(replace(one, value_error=self._value_error()))
        self.passes = done

    def _from_heaps(self) -> tuple[Heap, ...]:
        """Mix the passes from the fewest heaps, and lay them anew so; exact recipes are mixed one by one."""
        if self.scene.wishes.tolerance is None or not self.passes:
            return ()
        scene = self.scene
        # What was mixed already is there, and so is what the painter wants mixed.
        there = set(scene.palette.tubes)
        own = [h for h in scene.subject.own_heaps if set(h.parts) <= there]
        forced = (*(h.parts for h in own), *(self.begun.heaps if self.begun else ()))
        mixed = from_heaps(
            self.passes, self.laid, scene.palette, scene.medium, scene.support.internal(), forced
        )
        self._lay_again(mixed.passes, self.passes, self.canvases)
        found = with_amounts(mixed.heaps, self.passes)
        self.remarks += idle_heaps(found, scene.subject.own_heaps)
        return renamed(found, own)

    def _pruning(self) -> Pruning:
        subject = self.scene.subject
        size = "portrait" if subject.size == "every pass" else subject.size
        wanted = self.scene.sums / self.scene.patchwork.sizes[:, None]
        return Pruning(
            self.bare, self.passes, self.laid, wanted, self.scene.regions, STAYS[size],
            subject.size != "sketch",
        )  # fmt: skip

    def _mend(self) -> None:
        """Thin what is washed over afterwards, where it makes its place too dark."""
        if not any(t.band in FIRST_COATS for t in self.laid):
            return
        thinning = self.scene.medium.thinning
        self._lay_again(with_weaker_first_coats(self.passes, self.laid, self._pruning(), thinning))

    def _of_size(self) -> None:
        """Join lines and leave out what loses least, when fewer passes are wanted than there are."""
        subject = self.scene.subject
        if subject.size == "every pass" or not self.passes:
            return
        lines = joined_lines(self.passes, self.laid)
        if len(lines) > 1:
            self.passes[lines[-1]] = in_one_go([self.passes[n] for n in lines], subject.size_mm)
            stay = [n for n in range(len(self.passes)) if n not in lines[:-1]]
            self._keep(stay)
        pruning, most = self._pruning(), PASSES_OF_SIZE[subject.size]
        every = len(self.passes)
        # A first layer comes on top: what is finished over it is as much as without.
        more = sum(t.key.startswith(FIRST_LAYER) for t in self.laid)
        # So does what is drawn and wiped in the first tone: it lays no colour.
        more += sum(t.kind in UNCOLOURED for t in self.laid)
        self._keep(pruning.kept(most[int(self.school.transparent)] + more))
        if len(self.passes) < every:
            words = f": {every - len(self.passes)} passes are left out, those the canvas misses least."
            self.remarks.append(Remark(f"A {subject.size}", None, words))
        self._lay_again(self.passes)

    def _keep(self, numbers: list[int]) -> None:
        self.passes = [self.passes[n] for n in numbers]
        self.laid = [self.laid[n] for n in numbers]
        self.canvases = [self.canvases[n] for n in numbers]

    def finish(self) -> PassPlan:
        """The plan with its heaps and waiting times."""
        scene, subject = self.scene, self.scene.subject
        cm2 = areas_cm2(scene.patchwork.sizes, subject.mm_per_px)
        if subject.effort is not None:
            cm2 = scene.patchwork.sums(subject.effort[..., None])[:, 0] * (subject.mm_per_px**2 / 100)
        rate = rates(self.school.pace, subject.exactness, subject.massed_hair)
        minutes, hair = pass_minutes(
            tuple(self.passes), scene.regions, cm2, rate, self.school.pace.fixed_minutes
        )
        self.passes = [replace(p, work_minutes=m) for p, m in zip(self.passes, minutes, strict=True)]
        hairy = dict(zip((p.key for p in self.passes), hair, strict=True))
        self._mend()
        self._of_size()
        self.remarks += [
            short_of(p) for p, t in zip(self.passes, self.laid, strict=True)
            if KINDS[t.kind].covers and not p.recipe.reached
        ]  # fmt: skip
        heaps = self._from_heaps()
        hand = with_brushes(self.passes, scene)
        passes = with_times(hand.passes, self.laid, scene, self.slower)
        pruning = self._pruning()
        passes = tuple(replace(p, gain=pruning.gain(n)) for n, p in enumerate(passes))
        white = bare_white(self.laid, [KINDS[t.kind].does in ("ground", "remove") for t in self.laid])
        self.remarks += [] if white is None else [white]
        if not passes:
            words = " leaves nothing to paint: everything is as light as the ground, or smaller than a brush."
            self.remarks.append(Remark("This picture", None, words))
        likely = sum(p.work_minutes for p in passes) / 60
        in_hair = sum(hairy.get(p.key, 0.0) for p in passes) / 60 / max(likely, 1e-9)
        hours = Hours(likely * SPREAD[0], likely, likely * SPREAD[1], in_hair)
        return PassPlan(
            passes, scene.medium, scene.support, tuple(self.canvases), tuple(self.remarks), hours,
            self.bare, heaps, hand.brushes, hand.missing,
        )  # fmt: skip


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
        for place, brush in zip(places, beside.map(planner.brush, [p.mask for p in places]), strict=True):
            if planner.paints(place):
                planner.add(place, brush)
    return planner.finish()
