"""Hair in layers: a base over the whole mass, then nested places that shrink towards the last tone.

Opaque paint goes from dark to light, transparent paint from light to dark. Every layer after the
base is strokes along the growth; the brush gets smaller past two thirds of the layers, and single
hairs come only in the last.
"""

from __future__ import annotations

import zlib

import cv2
import numpy as np

from truesitter.core.colour.value import lab_value
from truesitter.core.hair.field.hair_kinds import MOUSTACHE, Kind
from truesitter.core.hair.layers.first_hairs import first_hairs
from truesitter.core.hair.layers.job import GlazePurpose, HairJob, HairLayer, Role
from truesitter.core.hair.layers.tuning import (
    ALIKE,
    BEARD_WORDS,
    EARLY_DENSITY,
    GLAZE_NAMES,
    GLAZE_WORDS,
    LEAST_CM2,
    LEAST_TURN,
    LIGHTS,
    RUNS_ON_MM,
    STEADY,
    UNDER_MM,
)
from truesitter.core.hair.strokes.hair_strokes import Wish, lay_strokes
from truesitter.core.hair.strokes.strays import lay_strays
from truesitter.core.hair.strokes.tuning import DENSITY, HAIRS_DENSITY, SMALLER_FROM
from truesitter.core.imaging.line import Line
from truesitter.core.types import Doubles, Floats, Labels, Mask
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.value_map import histogram

_BEARD = (Kind.BEARD, *MOUSTACHE)


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


def masses_of(kinds: Labels, lab: Floats, least_px: float) -> list[tuple[str, tuple[Kind, ...]]]:
    """Masses that are painted in tones of their own: hair and beard in the same where they have one hue.

    Parameters
    ----------
    kinds
        (h, w) kinds of hair; brows are features and have passes of their own.
    lab
        (h, w, 3) reference.
    least_px
        Smaller masses go with the other one, or get no layers.

    Returns
    -------
    list[tuple[str, tuple[Kind, ...]]]
        Name and kinds of each.
    """
    head, beard = kinds == Kind.SCALP, np.isin(kinds, _BEARD)
    large = [mask.sum() >= least_px for mask in (head, beard)]
    if not any(large):
        return []
    if not all(large):
        return [("Hair", (Kind.SCALP,))] if large[0] else [("Beard and moustache", _BEARD)]
    apart = lab[head][:, 1:].mean(axis=0) - lab[beard][:, 1:].mean(axis=0)
    if float(np.hypot(*apart)) < ALIKE:
        return [("Hair and beard", (Kind.SCALP, *_BEARD))]
    return [("Hair", (Kind.SCALP,)), ("Beard and moustache", _BEARD)]


def plan_hair(job: HairJob) -> tuple[HairLayer, ...]:
    """Every layer of the hair, in order, mass by mass.

    Parameters
    ----------
    job
        What it is made from.

    Returns
    -------
    tuple[HairLayer, ...]
        Empty where there is hardly any hair.
    """
    layers: list[HairLayer] = []
    for name, kinds in masses_of(job.kinds, job.lab, LEAST_CM2 * 100 / job.ground.mm_per_px**2):
        layers += _Mass(job, name, kinds).layers()
    return tuple(layers)


class _Mass:
    """The layers of one mass of hair."""

    def __init__(self, job: HairJob, name: str, kinds: tuple[Kind, ...]) -> None:
        self.job, self.name, self.kinds = job, name, kinds
        self.mask: Mask = np.isin(job.kinds, kinds)
        # Single hairs have no tone of their own: they lie in the lightest or the darkest.
        tones = tone_levels(job.value, self.mask, len(job.way.brushes_mm))
        self.count, self.drawn = int(tones.max()), 0
        self.order = self.count + 1 - tones if job.light_first else tones
        self.order[~self.mask] = 0
        self.darks = self.mask & (job.value <= np.quantile(job.value[self.mask], 1 / 3))

    def layers(self) -> list[HairLayer]:
        """All of them, in order."""
        job, widths = self.job, self.job.way.brushes_mm
        made = [self._base(), *self._firsts()]
        last = self.order == self.count
        if job.early and self.count > 2:
            said = "A few light hairs, to see wrong directions while it is easy."
            lightest = self.order == 1 if job.light_first else last
            made.append(self._strokes("early lights", lightest, lightest, EARLY_DENSITY, widths[-1], said))
        for number in range(2, self.count + 1):
            if job.glaze and number == self.count and number > 2:
                made += self._glazes(job.glaze)
            role: Role = "smaller locks" if number / (self.count + 1) > SMALLER_FROM else "locks"
            aim, place = self.order == number, self.order >= number
            made.append(self._strokes(role, place, aim, DENSITY, widths[number - 2], self._turn(number)))
        if job.light_first:
            made.append(self._hairs("dark hairs", last))
        elif (shine := self._shine()) is not None:
            made.append(shine)
        lightest = self.order == (1 if job.light_first else self.count)
        made.append(self._hairs("light hairs", self._lights(lightest)))
        return made

    def _lights(self, tone: Mask) -> Mask:
        """Where the hair mirrors the light: the surface adds most, and it is lighter than its tone."""
        surface = self.job.surface
        lighter = tone & (self.job.value >= self.job.value[tone].mean())
        lights = lighter & (surface >= np.quantile(surface[tone], LIGHTS))
        # A hair runs through specks of light as if they were one.
        reach = 2 * round(RUNS_ON_MM / self.job.ground.mm_per_px) + 1
        return tone & (cv2.dilate(lights.astype(np.uint8), np.ones((reach, reach), np.uint8)) > 0)

    def _hairs(self, role: Role, where: Mask) -> HairLayer:
        ends = "lights" if role == "light hairs" else "darks"
        said = f"Few, only in the {ends} and at the edges; stop early. {STEADY}"
        return self._strokes(role, where, where, HAIRS_DENSITY, self.job.way.brushes_mm[-1], said)

    def _base(self) -> HairLayer:
        tone = "lightest" if self.job.light_first else "darkest"
        said = (
            f"Over the whole mass, thin and soft at the hairline; it is the {tone} tone. The flesh runs "
            f"{UNDER_MM:g} mm on under it: begin behind the hairline, here nearer and there farther."
        )
        if Kind.BEARD in self.kinds and self.job.beard_apart is not None:
            said += f" {BEARD_WORDS[self.job.beard_apart]}"
        return self._layer("base", self.mask, self.order == 1, said, 0.0)

    def _firsts(self) -> list[HairLayer]:
        """First fine hairs along the hairline, where the hair is drawn in strands."""
        job = self.job
        if job.way.way != "strands" or Kind.SCALP not in self.kinds:
            return []
        fine = job.way.brushes_mm[-1]
        seed = zlib.crc32(f"{self.name}, first hairs".encode())
        lines = first_hairs(job.hairline, job.ground.directed, job.ground.mm_per_px, fine, seed)
        if not lines:
            return []
        near = np.zeros(self.mask.shape, np.uint8)
        for line in lines:
            cv2.polylines(near, [np.rint(line.points * near.shape[::-1]).astype(np.int32)], False, 1, 3)
        place = self.mask & (near > 0)
        said = (
            "Hair by hair along the hairline: begin each on the bare skin, draw it into the mass and lift; "
            f"no two as long or as far apart. {STEADY}"
        )
        if not place.any():
            return []
        return [self._layer("first hairs", place, place, said, fine, ("first fine hairs",), lines)]

    def _shine(self) -> HairLayer | None:
        """Thick paint exactly where glossy hair mirrors the light; None where it does not."""
        if self.count < 3 or self.job.shine is None or not (self.job.shine & self.mask).any():
            return None
        band = self.job.shine & self.mask
        said = (
            f"Thick and {self.job.temperature}, in the band of shine alone: set each stroke down along its "
            "lock, begin and end it inside the band, and leave it."
        )
        widths = self.job.way.brushes_mm
        return self._strokes("shine", band, band, DENSITY, widths[max(0, len(widths) - 2)], said)

    def _glazes(self, purpose: GlazePurpose) -> list[HairLayer]:
        """One glaze over the whole mass, or one over its darks and one over its lights."""
        said = GLAZE_WORDS[purpose]
        if purpose != "in turn":
            return [self._layer("tying glaze", self.mask, self.mask, said, 0.0, purpose=purpose)]
        dark = self.mask & (self.job.value <= np.median(self.job.value[self.mask]))
        return [
            self._layer("tying glaze", half, half, said, 0.0, purpose=purpose)
            for half in (dark, self.mask & ~dark)
            if half.any()
        ]

    def _layer(
        self, role: Role, place: Mask, aim: Mask, said: str, brush_mm: float,
        types: tuple[str, ...] = (), lines: tuple[Line, ...] = (), strays: int = 0,
        purpose: GlazePurpose | None = None,
    ) -> HairLayer:  # fmt: skip
        name = f"{self.name}: {GLAZE_NAMES[purpose] if purpose else role}"
        return HairLayer(
            role, name, self.name, said, self.mask, place, aim, brush_mm, types, lines, strays, purpose
        )

    def _strokes(
        self, role: Role, place: Mask, aim: Mask, density: float, brush: float, said: str
    ) -> HairLayer:
        job = self.job
        lines: list[Line] = []
        types: list[str] = []
        self.drawn += 1
        seed = zlib.crc32(f"{self.name}, {role}, {self.drawn}".encode())
        for number, (type_, here) in enumerate(job.types.parts(place & self.mask)):
            wish = Wish(type_, brush, density, seed + number)
            lines += lay_strokes(job.ground, here, wish, job.limit)
            types.append(type_.name)
        # Dark strays only where it is dark beneath.
        dark = role == "dark hairs" or float(job.value[aim].mean()) <= float(job.value[self.mask].mean())
        head = self.mask & (job.kinds == Kind.SCALP)
        tone, strays = self.darks & head if dark else head, list[Line]()
        whole = max(1, np.count_nonzero(tone))
        for number, (type_, here) in enumerate(job.types.parts(tone)):
            part = np.count_nonzero(here) / whole
            strays += lay_strays(job.ground, here, head, brush, seed + number, type_, part)
        lines += strays
        if not lines:
            return self._layer(role, place, aim, "Too small for strokes: touch it in.", brush)
        return self._layer(
            role, place, aim, said, brush, tuple(dict.fromkeys(types)), tuple(lines), len(strays)
        )

    def _turn(self, number: int) -> str:
        """Warmer or cooler than the layer before, as measured."""
        here, before = (self._colour(n) for n in (number, number - 1))
        change = here[2] - before[2]
        step = float(lab_value(here) - lab_value(before))
        tone = f"{abs(step):.1f} steps {'lighter' if step > 0 else 'darker'}"
        if abs(change) < LEAST_TURN:
            return f"{tone.capitalize()} than the layer before, as warm as it."
        return f"{tone.capitalize()} and {'warmer' if change > 0 else 'cooler'} than the layer before."

    def _colour(self, number: int) -> Doubles:
        return np.asarray(self.job.lab[self.order == number].mean(axis=0, dtype=np.float64))
