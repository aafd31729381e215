"""The planner: a school, the sitter's values and a palette become ordered passes."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace

import numpy as np

from truesitter.core.colour.value import value_to_lightness
from truesitter.core.paint.mixing import as_lab
from truesitter.core.paint.palettes import Palette
from truesitter.core.paint.quantity import DEFAULT_LOSS, paint_ml
from truesitter.core.paint.reach import map_picture, palette_reach
from truesitter.core.paint.rounding import Recipe
from truesitter.core.paint.solver import solve_recipes
from truesitter.core.paint.wishes import Wishes
from truesitter.core.passes.brushes import brush_for, work_minutes
from truesitter.core.passes.canvas import Canvas, Layer
from truesitter.core.passes.glazing import choose_glaze, mean_lab, wash_layers
from truesitter.core.passes.plan import Pass, PassPlan, Subject
from truesitter.core.passes.schools import Band, Kind, PassTemplate, School
from truesitter.core.passes.waiting import Timed, drying_minutes, earliest_starts
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Floats, Labels, Mask
from truesitter.core.values.cuts import best_fit_bins

SMALLEST_CM2 = 0.15
"""Passes smaller than this are left to the neighbouring ones."""

BAND_NAMES = {
    1: ("all of it",),
    2: ("darks", "lights"),
    3: ("darks", "middle", "lights"),
}


@dataclass(frozen=True)
class _Part:
    label: str
    mask: Mask
    group: int | None = None


def _thirds(values: Floats, mask: Mask) -> list[_Part]:
    inside = values[mask]
    counts = np.bincount((inside * 25.6).astype(int).clip(0, 255), minlength=256).astype(float)
    bands = min(3, int(np.count_nonzero(counts)))
    if bands < 2:
        return [_Part(BAND_NAMES[1][0], mask)]
    cuts = [(b + 1) / 25.6 for b in best_fit_bins(counts, bands)]
    which = np.digitize(values, cuts)
    return [_Part(name, mask & (which == i)) for i, name in enumerate(BAND_NAMES[bands])]


def _split(template: PassTemplate, subject: Subject) -> list[_Part]:
    """The masks of one template, dark to light, too small ones left out."""
    where = np.isin(subject.regions, [int(r) for r in template.regions])
    if template.band is Band.EACH_GROUP and template.kind is Kind.MASS:
        parts = [_Part(name, where & (subject.groups == i), i) for i, name in enumerate(subject.group_names)]
    elif template.band is Band.THIRDS:
        parts = _thirds(subject.value, where) if where.any() else []
    elif template.band is Band.SHADOW_AND_HALFTONE:
        middle = float(np.median(subject.value[where])) if where.any() else 0.0
        parts = [_Part("", where & (subject.value < middle))]
    elif template.band is Band.ZONE_ONE:
        parts = [_Part("", where & (subject.zones == 1))]
    else:
        parts = [_Part("", where)]
    smallest = SMALLEST_CM2 * 100 / subject.mm_per_px**2
    return [p for p in parts if np.count_nonzero(p.mask) >= smallest]


class _Planner:
    def __init__(self, subject: Subject, palette: Palette, school: School, wishes: Wishes) -> None:
        self.subject, self.school, self.wishes = subject, school, wishes
        self.palette = wishes.palette(palette)
        self.reach = palette_reach(palette)
        self.mapped_lab, self.mapped_value = map_picture(subject.lab, self.reach, subject.clip)
        self.canvas = Canvas.bare(subject.groups.shape, rack=palette.rack)
        self.error = np.abs(self.canvas.values() - self.mapped_value)
        self.passes: list[Pass] = []
        self.canvases: list[Canvas] = []
        self.remarks: list[str] = []

    def target(self, mask: Mask, top: bool = False) -> Doubles:
        if top:
            lightness = self.mapped_lab[..., 0]
            mask = mask & (lightness >= np.quantile(lightness[mask], 0.7))
        return mean_lab(self.mapped_lab, mask)

    def recipe(self, lab: Doubles) -> Recipe:
        return solve_recipes(as_lab(lab), self.palette, self.wishes, 1)[0]

    def ahead(self, template: PassTemplate, part: _Part) -> tuple[float, Recipe | None]:
        """What depends on nothing that is laid before: the brush, and the mixture of a covering pass."""
        brush, recipe = brush_for(part.mask, self.subject.mm_per_px), None
        if template.kind is Kind.GROUND:
            recipe = self.recipe(np.array([value_to_lightness(self.school.ground_value), 2.0, 8.0]))
        elif template.kind in (Kind.MASS, Kind.LIGHT):
            recipe = self.mass_recipe(template, part)
        return brush, recipe

    def mass_recipe(self, template: PassTemplate, part: _Part) -> Recipe:
        """The flesh stage's own mixture where there is one, else one for the mean colour."""
        if template.regions == (Region.SKIN,) and part.group in self.subject.flesh:
            return self.subject.flesh[part.group]
        return self.recipe(self.target(part.mask, top=template.kind is Kind.LIGHT))

    def add(self, template: PassTemplate, part: _Part, brush: float, mixed: Recipe | None) -> None:
        mask = part.mask
        film: float | None = template.film_mm
        if mixed is not None:
            recipe = mixed
            opaque = template.kind is Kind.GROUND
            layers: tuple[Layer, ...] = (Layer(mask, recipe.parts, None if opaque else film),)
        elif template.kind is Kind.WASH:
            laid = wash_layers(
                self.canvas, self.palette, self.subject.groups, self.mapped_lab, template.film_mm
            )
            if laid is None:
                self.remarks.append(
                    f"{template.name} left out: nothing in the picture is darker than the ground."
                )
                return
            recipe, layers, film = laid
            mask = np.any([layer.mask for layer in layers], axis=0)
            brush = brush_for(mask, self.subject.mm_per_px)
        else:
            glaze = choose_glaze(self.canvas, mask, self.palette, self.mapped_lab)
            if glaze is None:
                self.remarks.append(
                    f"{template.name} left out: no thin film from this palette brings the "
                    "shadows and halftones nearer to the reference."
                )
                return
            recipe, film = glaze
            layers = (Layer(mask, recipe.parts, film),)
        for layer in layers:
            self.canvas = self.canvas.lay(layer)
        self.error[mask] = np.abs(self.canvas.values(mask) - self.mapped_value[mask])
        area = float(np.count_nonzero(mask)) * self.subject.mm_per_px**2 / 100
        thickness = film if film is not None else template.film_mm
        name = template.name.format(band=part.label)
        self.passes.append(
            Pass(
                key=name.lower().replace(",", "").replace(" ", "-"),
                name=name,
                places=_place_names(mask, self.subject.regions, template),
                mask=mask,
                recipe=recipe,
                film_mm=thickness,
                brush_mm=brush,
                area_cm2=area,
                ml=paint_ml(area, thickness, loss=DEFAULT_LOSS),
                edge=template.edge,
                tool=template.tool,
                note=template.note,
                fat=template.fat,
                layers=layers,
                work_minutes=work_minutes(area, brush),
                value_error=float(self.error.mean()),
            )
        )
        self.canvases.append(self.canvas)
        if not recipe.reached and template.kind is Kind.MASS:
            self.remarks.append(
                f"{name}: this palette comes no nearer than {recipe.value_error:+.1f} steps in value "
                f"and ΔE {recipe.delta_e:.0f}."
            )

    def finish(self, templates: list[PassTemplate]) -> PassPlan:
        timed = []
        covers = [np.packbits(p.mask) for p in self.passes]
        for number, (current, template) in enumerate(zip(self.passes, templates, strict=True)):
            under = tuple(n for n in range(number) if bool((covers[n] & covers[number]).any()))
            dries = drying_minutes(template.dries_minutes, current.recipe.parts, self.palette.rack)
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


def _place_names(mask: Mask, regions: Labels, template: PassTemplate) -> tuple[str, ...]:
    present = np.bincount(regions[mask], minlength=len(Region))
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
    ValueError
        When the palette is for washes on paper but the school is for opaque paint.
    """
    if palette.transparent:
        raise ValueError(f"{school.name} needs opaque paint; choose a palette with white for the passes")
    planner = _Planner(subject, palette, school, wishes or Wishes())
    used: list[PassTemplate] = []
    laid = [(template, part) for template in school.templates for part in _split(template, subject)]
    with ThreadPoolExecutor(max_workers=1) as beside:
        prepared = beside.map(lambda item: planner.ahead(*item), laid)
        for (template, part), (brush, mixed) in zip(laid, prepared, strict=True):
            before = len(planner.passes)
            planner.add(template, part, brush, mixed)
            used += [template] * (len(planner.passes) - before)
    return planner.finish(used)
