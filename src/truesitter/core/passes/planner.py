"""The planner: a school, the sitter's values and a palette become ordered passes."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np

from truesitter.core.paint.media.media import Medium
from truesitter.core.paint.media.quantity import DEFAULT_LOSS, paint_ml
from truesitter.core.paint.recipes.reach import map_picture, palette_reach
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.passes.brushes import brush_for, lays, work_minutes
from truesitter.core.passes.canvas import Canvas
from truesitter.core.passes.laying import Laid, Scene, Step
from truesitter.core.passes.patchwork import Patchwork
from truesitter.core.passes.plan import Pass, PassPlan, Remark, Subject
from truesitter.core.passes.schools import Band, PassTemplate, School
from truesitter.core.passes.waiting import Timed, drying_minutes, earliest_starts
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Counts, Floats, Labels, Mask
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.value_map import histogram

SMALLEST_CM2 = 0.15
"""Passes smaller than this are left to the neighbouring ones."""

THIRDS = {1: ("all of it",), 2: ("darks", "lights"), 3: ("darks", "middle", "lights")}
_ERROR_BINS = 500
"""Values are compared in 50ths of a step."""
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


def _thirds(template: PassTemplate, values: Floats, where: Mask) -> list[_Place]:
    inside = values[where]
    counts = histogram(inside)
    bands = min(3, int(np.count_nonzero(counts)))
    which = np.zeros(values.shape, np.uint8)
    which[where] = 1 + np.digitize(inside, best_fit_cuts(counts, bands) if bands > 1 else ())
    return [
        _Place(template, which == i + 1, f"{template.key}-{i + 1}", template.name.format(band=name))
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
    where = np.isin(np.arange(256), template.regions)[subject.regions]
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


def _patchwork(subject: Subject, places: list[_Place]) -> Patchwork:
    """Pieces along the borders of the regions, of the groups, and of the places that follow neither."""
    own = dict[str, Labels]()
    for number, place in enumerate(places, 1):
        if place.template.band not in (Band.EVERYTHING, Band.EACH_GROUP):
            # Places of one template never overlap.
            own.setdefault(place.template.key, np.zeros(subject.groups.shape, np.uint8))[place.mask] = number
    return Patchwork.of(subject.groups.shape, subject.regions, subject.groups, *own.values())


class _Planner:
    def __init__(
        self, subject: Subject, palette: Palette, school: School, wishes: Wishes, medium: Medium,
        places: list[_Place],
    ) -> None:  # fmt: skip
        self.slower = medium.wait_minutes / school.medium.wait_minutes
        allowed = wishes.palette(palette)
        mapped_lab, mapped_value = map_picture(subject.lab, palette_reach(allowed), subject.clip)
        patchwork = _patchwork(subject, places)
        self.scene = Scene(subject, patchwork, allowed, wishes, medium, school.ground_value, mapped_lab)
        self.regions = patchwork.at(subject.regions)
        self.wanted = patchwork.spread(mapped_value, _ERROR_BINS, 10)
        self.canvas = Canvas.bare(patchwork, rack=palette.rack)
        self.passes: list[Pass] = []
        self.laid: list[PassTemplate] = []
        self.canvases: list[Canvas] = []
        self.remarks: list[Remark] = []

    def brush(self, mask: Mask) -> float:
        """Widest brush for a place."""
        return brush_for(mask, self.scene.subject.mm_per_px)

    def add(self, place: _Place, brush: float) -> None:
        """Lay one place on the canvas and write down its pass, with the brush for the whole of the place."""
        template = place.template
        step = Step(self.scene.patchwork.at(place.mask), place.group, template.regions, template.film)
        laid = template.kind.lay(self.scene, step, self.canvas)
        if isinstance(laid, str):
            self.remarks.append(Remark(place.name, place.group, f" left out: {laid}"))
            return
        for layer in laid.layers:
            self.canvas = self.canvas.lay(layer)
        if laid.pieces is not step.pieces:
            brush = self.brush(self.scene.patchwork.mask(laid.pieces))
        self.passes.append(self._pass(place, laid, brush))
        self.laid.append(template)
        self.canvases.append(self.canvas)
        if template.kind.covers and not laid.recipe.reached:
            words = (
                f": this palette comes no nearer than {laid.recipe.value_error:+.1f} steps in value "
                f"and ΔE {laid.recipe.delta_e:.0f}."
            )
            self.remarks.append(Remark(place.name, place.group, words))

    def _value_error(self) -> float:
        """Mean distance of the canvas as it is from the mapped reference, in value steps."""
        middles = (np.arange(_ERROR_BINS) + 0.5) * (10 / _ERROR_BINS)
        away = np.abs(middles - self.canvas.piece_values()[:, None])
        return float((self.wanted * away).sum() / self.wanted.sum())

    def _pass(self, place: _Place, laid: Laid, brush: float) -> Pass:
        template, sizes = place.template, self.scene.patchwork.sizes[laid.pieces]
        area = float(sizes.sum()) * self.scene.subject.mm_per_px**2 / 100
        return Pass(
            key=place.key,
            name=place.name,
            group=place.group,
            places=_place_names(self.regions[laid.pieces], sizes, template),
            pieces=laid.pieces,
            recipe=laid.recipe,
            film=laid.film,
            thinned=laid.thinned,
            brush_mm=brush,
            area_cm2=area,
            ml=paint_ml(area, laid.paint_mm, loss=DEFAULT_LOSS),
            edge=template.edge,
            tool=template.tool,
            note=template.note,
            open_minutes=self.scene.medium.open_minutes,
            lays=lays(area, brush, self.scene.medium.open_minutes[1]) if _is_soft(template) else 1,
            fat=template.fat,
            layers=laid.layers,
            work_minutes=work_minutes(area, brush),
            value_error=self._value_error(),
        )

    def finish(self) -> PassPlan:
        """The plan with its waiting times."""
        timed = []
        for number, (current, template) in enumerate(zip(self.passes, self.laid, strict=True)):
            under = tuple(n for n in range(number) if bool((self.passes[n].pieces & current.pieces).any()))
            base = round(template.dries_minutes * self.slower)
            dries = drying_minutes(base, current.recipe.parts, self.scene.palette.rack)
            timed.append(Timed(current.work_minutes, dries, under))
        starts = earliest_starts(tuple(timed))
        passes = []
        for number, current in enumerate(self.passes):
            end = starts[number] + current.work_minutes
            following = starts[number + 1] if number + 1 < len(starts) else end
            passes.append(
                replace(current, start_minutes=starts[number], wait_minutes=max(0.0, following - end))
            )
        return PassPlan(
            tuple(passes), self.scene.medium.thinning.thinner, tuple(self.canvases), tuple(self.remarks)
        )


def _is_soft(template: PassTemplate) -> bool:
    """True where edges are softened after laying."""
    return "soft" in template.edge or "lost" in template.edge


def _place_names(regions: Labels, sizes: Counts, template: PassTemplate) -> tuple[str, ...]:
    present = np.bincount(regions, weights=sizes, minlength=len(Region))
    return tuple(
        r.name.lower().replace("_", " ") for r in template.regions if present[r] > 0.01 * present.sum()
    )


def plan_passes(
    subject: Subject,
    palette: Palette,
    school: School,
    wishes: Wishes | None = None,
    medium: Medium | None = None,
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

    Raises
    ------
    Refusal
        When the palette is for washes on paper but the school is for opaque paint.
    """
    if palette.transparent:
        raise Refusal(f"{school.name} needs opaque paint; choose a palette with white for the passes")
    places = [place for template in school.templates for place in _split(template, subject)]
    used = medium if medium and medium.name in school.media else school.medium
    planner = _Planner(subject, palette, school, wishes or Wishes(), used, places)
    if medium and used is not medium:
        able = " or ".join(school.media)
        words = f" is painted in {able}, not in {medium.name}: its times are those of {used.name}."
        planner.remarks.append(Remark(school.name, None, words))
    # Brushes depend on nothing that is laid: they are measured beside the mixing.
    with ThreadPoolExecutor(max_workers=1) as beside:
        for place, brush in zip(places, beside.map(planner.brush, [p.mask for p in places]), strict=True):
            planner.add(place, brush)
    return planner.finish()
