"""Hair in layers: a base over the whole mass, then nested places that shrink towards the light.

Opaque paint goes from dark to light, transparent paint from light to dark. Every layer after the
base is strokes along the growth; the brush gets smaller past two thirds of the layers, and single
hairs come only in the last.
"""

from __future__ import annotations

import zlib
from dataclasses import replace

import cv2
import numpy as np

from truesitter.core.brushes.laying import brush_for, work_minutes
from truesitter.core.brushes.tuning import MIXING_MINUTES
from truesitter.core.canvas.hair_job import HairJob, HairLayer
from truesitter.core.canvas.tuning import (
    BROW_BRUSH_MM,
    EARLY_DENSITY,
    LEAST_CM2,
    LEAST_TURN,
    UNDER_MM,
)
from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.hair.field.hair_kinds import BROWS, MOUSTACHE, Kind
from truesitter.core.hair.strokes.hair_strokes import Wish, lay_strokes
from truesitter.core.hair.strokes.strays import lay_strays
from truesitter.core.hair.strokes.stroke_types import type_for
from truesitter.core.hair.strokes.tuning import DENSITY, HAIRS_DENSITY, SECONDS_A_STROKE, SMALLER_FROM
from truesitter.core.imaging.line import Line
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipes
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.types import Doubles, Floats, Labels, Mask
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.value_map import histogram

BASE_FILM, LOCK_FILM, LIGHT_FILM = WetMm(0.06), WetMm(0.09), WetMm(0.15)
"""Wet films; the light one at least twice the base [try]."""


MASSES: tuple[tuple[str, tuple[Kind, ...]], ...] = (
    ("Hair", (Kind.SCALP,)), ("Beard and moustache", (Kind.BEARD, *MOUSTACHE)), ("Brows", BROWS),
)  # fmt: skip


def tone_levels(value: Floats, mask: Mask, count: int) -> Labels:
    """Tones of a mass from 1 dark to `count` light, cut where they part best; 0 outside. (h, w).

    Parameters
    ----------
    value
        (h, w) Munsell values 0–10.
    mask
        (h, w) where it is looked at.
    count
        Of tones, 1 or more.

    Returns
    -------
    Labels
        0 outside, else 1 to `count`.
    """
    levels = np.zeros(value.shape, np.uint8)
    inside = value[mask]
    counts = histogram(inside)
    count = min(count, int(np.count_nonzero(counts)))
    levels[mask] = 1 + np.digitize(inside, best_fit_cuts(counts, count) if count > 1 else ())
    return levels


def plan_hair(job: HairJob) -> tuple[HairLayer, ...]:
    """Every layer of the hair, in order: skin carried under it, then mass by mass."""
    layers: list[HairLayer] = []
    if not job.palette.transparent:
        under = _skin_under(job)
        layers += [] if under is None else [under]
    for name, kinds in MASSES:
        mask = np.isin(job.kinds, kinds)
        if mask.sum() * job.ground.mm_per_px**2 / 100 >= LEAST_CM2:
            layers += _Mass(job, name, kinds, mask).layers()
    return tuple(layers)


def _recipe(job: HairJob, where: Mask, wishes: Wishes | None = None) -> Recipe:
    """For the mean colour of a place; hair unless other wishes are named."""
    lab = job.lab[where].mean(axis=0, dtype=np.float64)
    wishes = wishes or job.wishes.elsewhere()
    return solve_recipes(as_lab(lab), job.palette, wishes, 1)[0]


def _skin_under(job: HairJob) -> HairLayer | None:
    """Flesh carried on under the border of the hair, so that skin shows between the first hairs."""
    reach = UNDER_MM / job.ground.mm_per_px
    away = cv2.distanceTransform((~job.skin).astype(np.uint8), cv2.DIST_L2, 5)
    ribbon = (job.kinds == Kind.SCALP) & (away <= reach)
    near = cv2.distanceTransform((~ribbon).astype(np.uint8), cv2.DIST_L2, 5) <= reach
    if not ribbon.any() or not (near & job.skin).any():
        return None
    area, brush = _cm2(job, ribbon), brush_for(ribbon, job.ground.mm_per_px)
    return HairLayer(
        "Skin under the hair", "Skin",
        f"Carry the flesh {UNDER_MM:g} mm on under the hair and let it run out; hair goes over it.",
        ribbon, _recipe(job, near & job.skin, job.wishes), BASE_FILM, job.medium.dry(BASE_FILM), False, brush,
        work_minutes(area, brush),
    )  # fmt: skip


def _cm2(job: HairJob, mask: Mask) -> float:
    return float(mask.sum()) * job.ground.mm_per_px**2 / 100


class _Mass:
    """The layers of one mass of hair."""

    def __init__(self, job: HairJob, name: str, kinds: tuple[Kind, ...], mask: Mask) -> None:
        self.job, self.name, self.kinds, self.mask = job, name, kinds, mask
        widths = job.way.brushes_mm
        self.widths = (max(widths[-1], BROW_BRUSH_MM), widths[-1]) if kinds == BROWS else widths
        # The last layer, single hairs, has no tone of its own: it lies in the lightest (or darkest).
        tones = tone_levels(job.value, mask, len(self.widths))
        # Transparent paint can only darken: it begins with the lightest.
        dark_last = job.palette.transparent or (kinds == BROWS and self._dark_on_light())
        self.order = tones.max() + 1 - tones if dark_last else tones
        self.order[~mask] = 0
        self.count = int(self.order.max())
        low, high = np.quantile(job.value[mask], (1 / 3, 2 / 3))
        self.darks, self.lights = mask & (job.value <= low), mask & (job.value >= high)
        self.below: Doubles = job.bare

    def _dark_on_light(self) -> bool:
        """Brows darker than the skin round them: skin shows between their hairs, which come last."""
        skin = self.job.skin
        return bool(skin.any()) and float(self.job.value[self.mask].mean()) < float(
            self.job.value[skin].mean()
        )

    def layers(self) -> list[HairLayer]:
        """All of them, in order."""
        made = [self._base()]
        last = self.order == self.count
        fine = self.widths[-1]
        if self.job.early and self.count > 2:
            early = self._strokes(self.count, last, EARLY_DENSITY, fine, "early lights")
            made.append(replace(early, said="A few light hairs, to see wrong directions while it is easy."))
        for number in range(2, self.count + 1):
            if self.job.glaze and number == self.count and number > 2:
                made.append(self._glaze())
            brush = self.widths[number - 2]
            smaller = number / (self.count + 1) > SMALLER_FROM
            made.append(
                self._strokes(
                    number, self.order >= number, DENSITY, brush, "smaller locks" if smaller else "locks"
                )
            )
        hairs = self._strokes(self.count, last, HAIRS_DENSITY, fine, "single hairs")
        light = float(self.job.value[last].mean()) > float(self.job.value[self.mask].mean())
        ends = "lights" if light else "darks"
        made.append(replace(hairs, said=f"Few, only in the {ends} and at the edges; stop early."))
        return made

    def _paint(self, recipe: Recipe, film: WetMm) -> tuple[DryMm, bool]:
        """Dry film, and whether it is a wash: as strong as it must be over what lies below."""
        medium = self.job.medium
        if not self.job.palette.transparent:
            return medium.dry(film), False
        thinning = medium.thinning
        wanted = float(lab_value(np.array(recipe.target_lab)))
        dry = film_for_value(self.below, recipe.parts, self.job.palette.rack, wanted, thinning.thickest)
        return thinning.dry(thinning.dilution(dry)), True

    def _base(self) -> HairLayer:
        recipe = _recipe(self.job, self.order == 1)
        dry, fades = self._paint(recipe, BASE_FILM)
        area, brush = _cm2(self.job, self.mask), brush_for(self.mask, self.job.ground.mm_per_px)
        lightest = float(self.job.value[self.order == 1].mean()) > float(self.job.value[self.mask].mean())
        tone = "lightest" if lightest else "darkest"
        said = f"Over the whole mass, thin and soft at the hairline; it is the {tone} tone."
        return HairLayer(
            f"{self.name}: base", self.name, said, self.mask, recipe, BASE_FILM, dry, fades, brush,
            work_minutes(area, brush),
        )  # fmt: skip

    def _glaze(self) -> HairLayer:
        middle = self.order == (self.count + 1) // 2
        recipe = _recipe(self.job, middle)
        thinning = self.job.medium.thinning
        area = _cm2(self.job, self.mask)
        brush = brush_for(self.mask, self.job.ground.mm_per_px)
        return HairLayer(
            f"{self.name}: tying glaze", self.name,
            "One thin glaze over light and dark draws them together; the lights are restated over it.",
            self.mask, recipe, thinning.film, thinning.thinnest, True, brush, work_minutes(area, brush),
        )  # fmt: skip

    def _strokes(self, number: int, place: Mask, density: float, brush: float, word: str) -> HairLayer:
        job = self.job
        aim = self.order == number
        recipe = _recipe(job, aim)
        film = LIGHT_FILM if number == self.count else LOCK_FILM
        dry, fades = self._paint(recipe, film)
        lines: list[Line] = []
        seed = zlib.crc32(f"{self.name}, {word}, {number}".encode())
        for kind in self.kinds:
            here = place & (job.kinds == kind)
            if here.any():
                wish = Wish(type_for(kind, job.head), brush, density, seed + int(kind))
                lines += lay_strokes(job.ground, here, wish, job.limit)
        light = float(lab_value(np.array(recipe.target_lab))) > float(job.value[self.mask].mean())
        # Dark strays only where it is dark beneath.
        where = self.mask if light else self.darks
        strays = lay_strays(job.ground, where, self.mask, brush, seed) if self.kinds == (Kind.SCALP,) else ()
        lines += strays
        if not lines:
            # Too little for a stroke: it is laid flat.
            area = _cm2(job, place)
            said = "Too small for strokes: touch it in."
            return HairLayer(
                f"{self.name}: {word}", self.name, said, place, recipe, film, dry, fades, brush,
                work_minutes(area, brush),
            )  # fmt: skip
        minutes = MIXING_MINUTES + len(lines) * SECONDS_A_STROKE / 60
        return HairLayer(
            f"{self.name}: {word}", self.name, self._said(recipe, number), place, recipe, film, dry, fades,
            brush, minutes, tuple(lines), len(strays),
        )  # fmt: skip

    def _said(self, recipe: Recipe, number: int) -> str:
        """Warmer or cooler than the layer before, as measured."""
        before = self.job.lab[self.order == number - 1].mean(axis=0, dtype=np.float64)
        change = recipe.target_lab[2] - float(before[2])
        step = float(lab_value(np.array(recipe.target_lab)) - lab_value(before))
        tone = f"{abs(step):.1f} steps {'lighter' if step > 0 else 'darker'}"
        if abs(change) < LEAST_TURN:
            return f"{tone.capitalize()} than the layer before, as warm as it."
        return f"{tone.capitalize()} and {'warmer' if change > 0 else 'cooler'} than the layer before."
