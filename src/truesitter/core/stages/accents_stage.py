"""Every light and every dark accent, with the paint for it: highlights, ceilings, recesses, colour, eyes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.value import linear_to_value
from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.imaging.reduce import reduced
from truesitter.core.light.form.light_form import FormClass
from truesitter.core.light.form.peaks import beside_usual, usual_place
from truesitter.core.light.light_report import (
    CastShadow,
    ClassColour,
    Passage,
    cast_shadows,
    class_colours,
    passage,
    terminator,
)
from truesitter.core.light.mirrored.ceilings import Ceiling, ceilings
from truesitter.core.light.mirrored.eyes import SIDES, Eye, read_eye
from truesitter.core.light.mirrored.highlights import Highlight, HighlightKind, find_highlights
from truesitter.core.light.tints.borrowing import borrowed, cloth_borrows
from truesitter.core.light.tints.hue_line import HueStop, hue_stops
from truesitter.core.light.tints.skin_colour import (
    SkinColour,
    difference_words,
    off_mean,
    skin_colour,
)
from truesitter.core.light.tints.whites import TintedWhite, tinted_whites
from truesitter.core.paint.board.strings import Tone
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.sitter.face import MOUTH_MIDDLES, PUPILS
from truesitter.core.sitter.places import numbered
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.flesh_stage import MIXING, FleshStage
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import (
    CEILINGS_OF_HAIR,
    LEAST_CLOTH,
    LIGHT_LONG_SIDE,
    LINE_REACH_MM,
    SAME_LIGHT,
)
from truesitter.core.stages.values_stage import ValueStage
from truesitter.core.types import Doubles, Floats, Labels


@dataclass(frozen=True)
class NamedLight:
    """A highlight and the name of its place, unlike any other's."""

    place: str
    light: Highlight


@dataclass(frozen=True)
class FormReport:
    """The classes with their mixtures, how colour moves, what casts, and the terminator."""

    classes: tuple[tuple[ClassColour, Recipe], ...]
    passage: Passage | None
    casts: tuple[CastShadow, ...]
    terminator: tuple[Doubles, ...]


@dataclass(frozen=True)
class Borrowed:
    """Shadow that takes its colour from a neighbour: what kind, and whose."""

    shadow: str
    neighbour: str


class AccentStage:
    """What the painter decides of each light and each dark."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, values: ValueStage,
        light: LightStage, flesh: FleshStage,
    ) -> None:  # fmt: skip
        self.source, self._picture, self._sitter = source, picture, sitter
        self._values, self._light, self._flesh = values, light, flesh

    @result("lab of the light", needs=("lab",))
    def lab(self) -> Floats:
        """L*a*b* at the size that light is read at."""
        return reduced(self._picture.lab(), LIGHT_LONG_SIDE)

    @result("value of the light", needs=("value",))
    def value(self) -> Floats:
        """Values at that size."""
        return reduced(self._picture.value(), LIGHT_LONG_SIDE)

    def mm_per_px(self) -> float:
        """Canvas mm to a pixel of it."""
        return self._picture.settings.canvas_width_mm / self._light.luminance().shape[1]

    @result("form report", settings=MIXING, needs=("form", "lab of the light", "casters", "detection"))
    def form(self) -> FormReport:
        """The skin's form in numbers and mixtures."""
        form, lab = self._light.form(), self.lab()
        scale = self._light.scale(form.classes.shape)
        classes = class_colours(form, lab)
        return FormReport(
            tuple((c, self._flesh.mix(c.lab, 1)[0][0]) for c in classes),
            passage(form, lab),
            cast_shadows(form, self._light.met(), scale),
            terminator(form, scale),
        )

    @result(
        "highlights",
        settings=(WIDTH_MM, "regions.names"),
        needs=(
            "shine",
            "lab of the light",
            "value of the light",
            "regions",
            "detection",
            "framed",
            "skin luminance",
        ),
        version=2,
    )
    def highlights(self) -> tuple[NamedLight, ...]:
        """Every highlight, strongest first on each kind of surface: skin, lips, eyes, hair."""
        shine, regions, lab, value = self._light.shine(), self._light.regions(), self.lab(), self.value()
        scale, mm = self._light.scale(regions.shape), self.mm_per_px()
        kinds = (
            (shine.skin, regions == Region.SKIN, HighlightKind.SHEEN),
            (shine.lips, regions == Region.LIPS, HighlightKind.WET),
            (shine.eyes, regions == Region.EYES, HighlightKind.WET),
            (shine.hair, np.isin(regions, (Region.HAIR, Region.FACIAL_HAIR)), HighlightKind.HAIR),
        )
        found = [
            light
            for strength, where, kind in kinds
            for light in find_highlights(strength, where, kind, shine.full, lab, value, scale, mm)
        ]
        return self._named(found)

    def _named(self, lights: list[Highlight]) -> tuple[NamedLight, ...]:
        names = numbered(map(self._place, lights))
        return tuple(NamedLight(name, light) for name, light in zip(names, lights, strict=True))

    def _place(self, light: Highlight) -> str:
        """What a light lies on."""
        face, regions = self._sitter.face, self._light.regions()
        region = Region(int(regions[pixel_at(light.x, light.y, regions.shape)]))
        if region in (Region.HAIR, Region.FACIAL_HAIR):
            return region.spoken
        if region is Region.EYES and face is not None:
            away = [abs(light.x - face.at(pupil)[0]) for pupil in PUPILS]
            return f"{SIDES[int(np.argmin(away))]} eye"
        if region is Region.LIPS and face is not None:
            return "upper lip" if light.y < face.at(*MOUTH_MIDDLES)[1] else "lower lip"
        return usual_place(light.x, light.y, face, self._picture.shape, self._sitter.own_places())

    @result(
        "ceilings",
        settings=("regions.names",),
        needs=(
            "light", "highlights", "form", "skin luminance", "value of the light", "cuts", "detection",
            "regions", "framed",
        ),
        version=2,
    )  # fmt: skip
    def ceilings(self) -> tuple[Ceiling, ...]:
        """How light each light may be, what would hurt most first."""
        form = self._light.form()
        lights = [(p.place, p.x, p.y) for p in self._light.zones().peaks]
        for named in self.highlights():
            light = named.light
            near = any(np.hypot(light.x - x, light.y - y) < SAME_LIGHT for _, x, y in lights)
            if light.kind in (HighlightKind.DAMP, HighlightKind.SHEEN) and not near:
                lights.append((self._place(light), light.x, light.y))
        names = numbered(place for place, _, _ in lights)
        value, squinted = self.value(), linear_to_value(self._light.luminance())
        cuts, scale = self._values.cuts(), self._light.scale(form.classes.shape)
        on_skin = ceilings(
            tuple((name, x, y) for name, (_, x, y) in zip(names, lights, strict=True)),
            value, squinted, form.classes > 0, form.classes >= FormClass.FORM_SHADOW, cuts, scale,
        )  # fmt: skip
        # In hair and beard the same is done wrong: lights as light as paper.
        hair = np.isin(self._light.regions(), (Region.HAIR, Region.FACIAL_HAIR))
        found = [h.light for h in self.highlights() if h.light.kind is HighlightKind.HAIR]
        places = numbered(self._place(light) for light in found)
        on_hair = ceilings(
            tuple((name, one.x, one.y) for name, one in zip(places, found, strict=True)),
            value, squinted, hair, np.zeros_like(hair), cuts, scale,
        )[:CEILINGS_OF_HAIR]  # fmt: skip
        return tuple(sorted((*on_skin, *on_hair), key=lambda c: -c.harm))

    @result("skin off its mean", needs=("lab of the light", "regions", "detection"))
    def _off(self) -> tuple[Floats, Doubles]:
        skin = self._light.regions() == Region.SKIN
        if not skin.any():
            return np.zeros((*skin.shape, 2), np.float32), np.array([1.0, 0.0])
        return off_mean(self.lab(), skin, self._light.scale(skin.shape))

    @result("skin colour", needs=("skin off its mean", "regions", "detection", "framed"), version=3)
    def colour(self) -> SkinColour:
        """Where the skin is redder, yellower, greyer than elsewhere at the same value."""
        regions = self._light.regions()
        scale = self._light.scale(regions.shape)
        return skin_colour(*self._off(), regions == Region.SKIN, self._sitter.place_centres(), scale)

    def against_skin(self, x: float, y: float) -> tuple[str, ...]:
        """How a spot (fractions) differs from this skin at its value, in words; none off the skin."""
        off, hue = self._off()
        at = pixel_at(x, y, off.shape)
        if self._light.regions()[at] != Region.SKIN:
            return ()
        return difference_words(off[at].astype(np.float64), hue)

    @result(
        "borrowed colour", needs=("form", "lab of the light", "regions", "skin off its mean", "detection")
    )
    def borrowed(self) -> tuple[Borrowed, ...]:
        """Shadows that take their colour from cloth, hair or wall."""
        form, lab, regions = self._light.form(), self.lab(), self._light.regions()
        skin = form.classes > 0
        if not skin.any():
            return ()
        off, _ = self._off()
        own = lab[skin][:, 1:].mean(axis=0, dtype=np.float64)
        around = _means(lab, regions, (Region.GARMENT, Region.BACKGROUND))
        found = []
        for one in (FormClass.REFLECTED_LIGHT, FormClass.FORM_SHADOW, FormClass.CAST_SHADOW):
            inside = form.classes == one
            if inside.sum() < 0.005 * skin.sum():
                continue
            name = borrowed(off[inside].mean(axis=0, dtype=np.float64), own, around)
            if name:
                found.append(Borrowed(one.spoken, name))
        return (*found, *(Borrowed("dark of the garment", n) for n in self._cloth(lab, regions)))

    @result("whites", settings=MIXING, needs=("lab of the light", "regions"))
    def whites(self) -> tuple[tuple[TintedWhite, Recipe], ...]:
        """Nearly white things, each with the mixture that takes a trace of what lies beside it."""
        found = tinted_whites(self.lab(), self._light.regions())
        return tuple((one, self._flesh.mix(np.array(one.tint), 1)[0][0]) for one in found)

    def _cloth(self, lab: Floats, regions: Labels) -> tuple[str, ...]:
        """What the darks of the garment take on; nothing where there is hardly any."""
        cloth = regions == Region.GARMENT
        if cloth.mean() < LEAST_CLOTH:
            return ()
        around = _means(lab, regions, (Region.SKIN, Region.BACKGROUND))
        return cloth_borrows(lab, cloth, self._light.scale(cloth.shape), around)

    @result("eyes", settings=("light.key",), needs=("value", "regions", "detection", "light direction"))
    def eyes(self) -> tuple[Eye, ...]:
        """Both eyes, the left of the picture first; none without a face."""
        face = self._sitter.face
        if face is None:
            return ()
        value, skin = self._picture.value(), self._sitter.regions().mask(Region.SKIN)
        return tuple(read_eye(face, side, value, skin, self._light.towards()) for side in range(len(SIDES)))

    @result("recess coats", settings=MIXING, needs=("recesses", "lab of the light"))
    def recess_coats(self) -> tuple[Recipe, Recipe] | None:
        """Mixtures of the strong flesh colour and of the dark over it; None without recesses."""
        recesses, lab = self._light.recesses(), self.lab()
        first = (recesses.first > 0) & ~recesses.dark
        if not first.any() or not recesses.dark.any():
            return None
        strong, dark = (
            self._flesh.mix(lab[mask].mean(axis=0, dtype=np.float64), 1)[0][0]
            for mask in (first, recesses.dark)
        )
        return strong, dark

    def usual(self) -> tuple[tuple[str, ...], tuple[str, ...]]:
        """Usual places without a peak, and peaks at other places."""
        return beside_usual(self._light.zones().peaks, self._sitter.face)

    def mixed_line(self, points: Doubles) -> tuple[tuple[HueStop, Tone], ...]:
        """The stops of a line, each with its mixture: fresh, and from the one before plus a little."""
        stops = self.hue_line(points)
        return tuple(zip(stops, self._flesh.row(np.array([s.lab for s in stops])), strict=True))

    def hue_line(self, points: Doubles) -> tuple[HueStop, ...]:
        """The fewest colours that describe a line over the picture, (n, 2) x, y in fractions."""
        lab = self.lab()
        return hue_stops(lab, points, LINE_REACH_MM / self.mm_per_px())


def _means(lab: Floats, regions: Labels, which: tuple[Region, ...]) -> dict[str, Doubles]:
    """Mean a*, b* of some regions that are there, by name."""
    return {
        r.spoken: lab[regions == r][:, 1:].mean(axis=0, dtype=np.float64)
        for r in which
        if (regions == r).any()
    }
