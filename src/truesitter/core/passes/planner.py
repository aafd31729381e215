"""The planner: a school, the sitter's values and a palette become ordered passes."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np

from truesitter.core.paint.palettes import Palette
from truesitter.core.paint.quantity import DEFAULT_LOSS, paint_ml
from truesitter.core.paint.reach import map_picture, palette_reach
from truesitter.core.paint.rounding import Recipe
from truesitter.core.paint.wishes import Wishes
from truesitter.core.passes.brushes import brush_for, work_minutes
from truesitter.core.passes.canvas import Canvas
from truesitter.core.passes.laying import Laid, Scene, Step
from truesitter.core.passes.plan import Pass, PassPlan, Remark, Subject
from truesitter.core.passes.schools import Band, PassTemplate, School
from truesitter.core.passes.waiting import Timed, drying_minutes, earliest_starts
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Floats, Ints, Labels, Mask
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.value_map import histogram

SMALLEST_CM2 = 0.15
"""Passes smaller than this are left to the neighbouring ones."""

THIRDS = {1: ("all of it",), 2: ("darks", "lights"), 3: ("darks", "middle", "lights")}
_PEAK_QUANTILE = 0.4
"""Last lights lie where zones 1 and 2 are lighter than this part of zone 1 (from memory)."""


@dataclass(frozen=True)
class _Place:
    """One mask of a template: its key and name, the value group it is of, and where it lies."""

    template: PassTemplate
    mask: Mask
    key: str
    name: str
    group: int | None = None

    def step(self) -> Step:
        return Step(self.mask, self.group, self.template.regions, self.template.film)


def _thirds(template: PassTemplate, values: Floats, where: Mask) -> list[_Place]:
    counts = histogram(values, where)
    bands = min(3, int(np.count_nonzero(counts)))
    which = np.digitize(values, best_fit_cuts(counts, bands)) if bands > 1 else np.zeros(values.shape, int)
    return [
        _Place(template, where & (which == i), f"{template.key}-{i + 1}", template.name.format(band=name))
        for i, name in enumerate(THIRDS[bands])
    ]


def _peaks(subject: Subject, where: Mask) -> Mask:
    """The lightest of the zones round the peaks: in the shape the light has, not in discs."""
    first: Mask = where & (subject.zones == 1)
    if not first.any():
        return first
    lightness = subject.lab[..., 0]
    near = where & ((subject.zones == 1) | (subject.zones == 2))
    lightest: Mask = near & (lightness >= np.quantile(lightness[first], _PEAK_QUANTILE))
    return lightest


def _split(template: PassTemplate, subject: Subject) -> list[_Place]:
    """The places of one template, dark to light, too small ones left out."""
    where = np.isin(subject.regions, [int(r) for r in template.regions])
    if template.band is Band.EACH_GROUP:
        places = [
            _Place(template, where & (subject.groups == i), f"{template.key}-{i + 1}", template.name, i)
            for i in range(int(subject.groups.max()) + 1)
        ]
    elif template.band is Band.THIRDS:
        places = _thirds(template, subject.value, where) if where.any() else []
    else:
        if template.band is Band.SHADOW_AND_HALFTONE:
            middle = float(np.median(subject.value[where])) if where.any() else 0.0
            where = where & (subject.value < middle)
        elif template.band is Band.PEAKS:
            where = _peaks(subject, where)
        places = [_Place(template, where, template.key, template.name)]
    smallest = SMALLEST_CM2 * 100 / subject.mm_per_px**2
    return [p for p in places if np.count_nonzero(p.mask) >= smallest]


class _Planner:
    def __init__(self, subject: Subject, palette: Palette, school: School, wishes: Wishes) -> None:
        allowed = wishes.palette(palette)
        mapped_lab, self.mapped_value = map_picture(subject.lab, palette_reach(allowed), subject.clip)
        self.scene = Scene(subject, allowed, wishes, school.medium, school.ground_value, mapped_lab)
        self.canvas = Canvas.bare(subject.groups.shape, rack=palette.rack)
        self.error = np.abs(self.canvas.values() - self.mapped_value)
        self.passes: list[Pass] = []
        self.laid: list[PassTemplate] = []
        self.canvases: list[Canvas] = []
        self.remarks: list[Remark] = []

    def ahead(self, place: _Place) -> tuple[Recipe | None, float]:
        """What depends on nothing laid before: the mixture of some, and the brush for the place."""
        brush = brush_for(place.mask, self.scene.subject.mm_per_px)
        return place.template.kind.mix(self.scene, place.step()), brush

    def add(self, place: _Place, mixed: Recipe | None, brush: float) -> None:
        """Lay one place on the canvas and write down its pass."""
        template = place.template
        laid = template.kind.lay(self.scene, place.step(), mixed, self.canvas)
        if isinstance(laid, str):
            self.remarks.append(Remark(place.name, place.group, f" left out: {laid}"))
            return
        for layer in laid.layers:
            self.canvas = self.canvas.lay(layer)
        where = np.flatnonzero(laid.mask)
        self.error.ravel()[where] = np.abs(self.canvas.values(where) - self.mapped_value.ravel()[where])
        if laid.mask is not place.mask:
            brush = brush_for(laid.mask, self.scene.subject.mm_per_px)
        self.passes.append(self._pass(place, laid, where, brush))
        self.laid.append(template)
        self.canvases.append(self.canvas)
        if template.kind.covers and not laid.recipe.reached:
            words = (
                f": this palette comes no nearer than {laid.recipe.value_error:+.1f} steps in value "
                f"and ΔE {laid.recipe.delta_e:.0f}."
            )
            self.remarks.append(Remark(place.name, place.group, words))

    def _pass(self, place: _Place, laid: Laid, where: Ints, brush: float) -> Pass:
        template, subject = place.template, self.scene.subject
        area = len(where) * subject.mm_per_px**2 / 100
        return Pass(
            key=place.key,
            name=place.name,
            group=place.group,
            places=_place_names(subject.regions.ravel()[where], template),
            mask=laid.mask,
            recipe=laid.recipe,
            film=laid.film,
            brush_mm=brush,
            area_cm2=area,
            ml=paint_ml(area, laid.film, loss=DEFAULT_LOSS),
            edge=template.edge,
            tool=template.tool,
            note=template.note,
            fat=template.fat,
            layers=laid.layers,
            work_minutes=work_minutes(area, brush),
            value_error=float(self.error.mean()),
        )

    def finish(self) -> PassPlan:
        """The plan with its waiting times."""
        timed = []
        covers = [np.packbits(p.mask) for p in self.passes]
        for number, (current, template) in enumerate(zip(self.passes, self.laid, strict=True)):
            under = tuple(n for n in range(number) if bool((covers[n] & covers[number]).any()))
            dries = drying_minutes(template.dries_minutes, current.recipe.parts, self.scene.palette.rack)
            timed.append(Timed(current.work_minutes, dries, under))
        starts = earliest_starts(tuple(timed))
        passes = []
        for number, current in enumerate(self.passes):
            end = starts[number] + current.work_minutes
            following = starts[number + 1] if number + 1 < len(starts) else end
            passes.append(
                replace(current, start_minutes=starts[number], wait_minutes=max(0.0, following - end))
            )
        return PassPlan(tuple(passes), tuple(self.canvases), tuple(self.remarks))


def _place_names(regions: Labels, template: PassTemplate) -> tuple[str, ...]:
    present = np.bincount(regions, minlength=len(Region))
    return tuple(
        r.name.lower().replace("_", " ") for r in template.regions if present[r] > 0.01 * present.sum()
    )


def plan_passes(subject: Subject, palette: Palette, school: School, wishes: Wishes | None = None) -> PassPlan:
    """Turn a subject into the ordered passes of a school.

    Parameters
    ----------
    subject, palette, school
        What is painted, with what, and how.
    wishes
        What every recipe must keep to.

    Raises
    ------
    Refusal
        When the palette is for washes on paper but the school is for opaque paint.
    """
    if palette.transparent:
        raise Refusal(f"{school.name} needs opaque paint; choose a palette with white for the passes")
    planner = _Planner(subject, palette, school, wishes or Wishes())
    places = [place for template in school.templates for place in _split(template, subject)]
    # What depends on nothing laid is mixed beside the laying.
    with ThreadPoolExecutor(max_workers=1) as beside:
        for place, (mixed, brush) in zip(places, beside.map(planner.ahead, places), strict=True):
            planner.add(place, mixed, brush)
    return planner.finish()
