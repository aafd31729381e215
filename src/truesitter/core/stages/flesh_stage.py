"""Mixtures for the flesh, strings for every region, and mixtures for any spot."""

from __future__ import annotations

from typing import Literal

import cv2
import numpy as np

from truesitter.core.colour.families import Families, colour_families
from truesitter.core.colour.spaces import as_lab
from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.imaging.reduce import reduced, reduced_labels
from truesitter.core.light.mirrored.metal import MetalMap, metal_map
from truesitter.core.light.mirrored.polish import Polish, polish_of
from truesitter.core.paint.board.flesh_mixtures import Flesh, mix_flesh, target_for
from truesitter.core.paint.board.near import NearMixtures, near_mixtures
from truesitter.core.paint.board.strings import SingleValue, Tone, mix_string, tones_along
from truesitter.core.paint.recipes.ingredients import FIXED
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import Suggestion, solve_recipes, suggest_tube
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.settings import FleshSettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import GRAIN, POLISH_LONG_SIDE, SMALLEST_FAMILY
from truesitter.core.stages.values_stage import ValueStage
from truesitter.core.types import Doubles, Floats, Labels, Mask

FAMILIES: dict[str, tuple[Region, ...]] = {
    "skin in the light": (Region.SKIN,),
    "skin in the shadow": (Region.SKIN,),
    "lips": (Region.LIPS,),
    "hair": (Region.HAIR,),
    "facial hair": (Region.FACIAL_HAIR,),
    "garment": (Region.GARMENT,),
    "hat": (Region.HAT,),
    "jewellery": (Region.JEWELLERY,),
    "spectacles": (Region.SPECTACLES,),
    "inside of the mouth": (Region.MOUTH,),
    "background": (Region.BACKGROUND,),
}
SPLIT = ("hair", "garment", "background")
"""Families that are split where they are of several colours."""

CARRIES_LIGHT = ("garment", "background", "hat", "jewellery", "spectacles")
"""Families of which it is told whether they are matt or polished."""

TUBES = ("flesh.tubes", "flesh.own", "flesh.transparent", "flesh.medium", "flesh.strength")
WISHES = (
    "flesh.most_tubes", "flesh.must", "flesh.without", "flesh.black", "flesh.recipes", "flesh.tolerance",
)  # fmt: skip
TARGETS = ("flesh.clip", "flesh.monochrome")
TIMES = ("flesh.wait_minutes", "flesh.open_minutes")
DRYING = ("flesh.medium", "flesh.drying")
MIXING = (*TUBES, *WISHES, *TARGETS)


class FleshStage:
    """The tubes set out and what they make."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, values: ValueStage,
        light: LightStage,
    ) -> None:  # fmt: skip
        self.source, self._picture, self._sitter = source, picture, sitter
        self._values, self._light = values, light
        self.settings: FleshSettings = source.stage("flesh")

    def palette(self) -> Palette:
        """The tubes set out."""
        return self.settings.as_palette()

    @result("flesh", settings=MIXING, needs=("lab", "values", "regions"), version=3)
    def mixed(self) -> Flesh:
        """A mixture for every value group of the skin."""
        return mix_flesh(
            self._picture.lab(),
            self._values.plan().labels,
            self._sitter.regions().mask(Region.SKIN),
            self.palette(),
            self.settings.wishes(),
            self.settings.clip,
            self.settings.monochrome,
        )

    def colour_of_shape(self, spot: tuple[float, float]) -> tuple[int, Doubles]:
        """Number and mean L*a*b* (3,) of the value shape in which a spot lies."""
        shapes = self._values.shapes()
        number = int(shapes.number[pixel_at(*spot, shapes.number.shape)])
        return number, np.array(shapes.shapes[number].lab)

    def colour_of_group(self, spot: tuple[float, float]) -> tuple[int, Doubles]:
        """Value group in which a spot lies, and its mean L*a*b* (3,) over the same region of the sitter."""
        group, inside = self._group_at(spot)
        return group, self._picture.lab()[inside].mean(axis=0, dtype=np.float64)

    def _group_at(self, spot: tuple[float, float]) -> tuple[int, Mask]:
        labels, regions = self._values.plan().labels, self._sitter.regions().labels
        at = pixel_at(*spot, labels.shape)
        return int(labels[at]), (labels == labels[at]) & (regions == regions[at])

    def near(self, spot: tuple[float, float], what: Literal["shape", "group"]) -> NearMixtures:
        """Heap and near mixtures of the shape, or of the group in its region, in which a spot lies."""
        if what == "shape":
            shapes = self._values.shapes()
            own = shapes.number == shapes.number[pixel_at(*spot, shapes.number.shape)]
            height, width = self._picture.shape
            inside = cv2.resize(own.view(np.uint8), (width, height), interpolation=cv2.INTER_NEAREST) > 0
        else:
            _, inside = self._group_at(spot)
        lab = self._picture.lab()[inside]
        if self.settings.monochrome:
            lab[:, 1:] = 0
        return near_mixtures(lab, self.palette(), self.settings.wishes(), self.settings.clip)

    def target(self, seen: Doubles) -> Doubles:
        """What is to be mixed for a colour of the picture."""
        palette = self.settings.wishes().palette(self.palette())
        return target_for(seen, palette, self.settings.clip, self.settings.monochrome)

    def best(self, seen: Doubles) -> Recipe:
        """The best mixture for a colour of the picture, (3,)."""
        return solve_recipes(as_lab(self.target(seen)), self.palette(), self.settings.wishes(), 1)[0]

    def mix(self, seen: Doubles, count: int = 4) -> tuple[tuple[Recipe, ...], Suggestion | None]:
        """Mixtures for a colour of the picture, best first, and the tube that would help."""
        wishes = self.settings.wishes()
        recipes = solve_recipes(as_lab(self.target(seen)), self.palette(), wishes, count)
        return recipes, suggest_tube(recipes[0], self.palette(), wishes)

    @result("colour families", needs=("lab", "regions"))
    def _colours(self, family: str) -> tuple[Families, Labels]:
        """The colours of a family, and which of them each pixel of its region is of."""
        mask = self._sitter.regions().mask(*FAMILIES[family])
        # Grain has hues of its own.
        lab = blur(self._picture.lab(), GRAIN * max(mask.shape))
        found = colour_families(lab[mask])
        labels = np.zeros(mask.shape, np.uint8)
        labels[mask] = found.of(lab[mask])
        return found, labels

    def families(self) -> tuple[str, ...]:
        """Every family of the palette board; one of several colours is named for each of them."""
        names: list[str] = []
        for family in FAMILIES:
            colours = self._colours(family)[0].names if family in SPLIT else ()
            names += [f"{family}, {colour}" for colour in colours] if len(colours) > 1 else [family]
        return tuple(names)

    def family_mask(self, family: str) -> Mask:
        """Where a family of the palette board lies."""
        family, _, colour = family.partition(", ")
        mask = self._sitter.regions().mask(*FAMILIES[family])
        if family.startswith("skin"):
            shadow = self._picture.value() < self._light.shadow_value()
            mask = mask & (shadow if family == "skin in the shadow" else ~shadow)
        if colour:
            found, labels = self._colours(family)
            mask = mask & (labels == found.names.index(colour))
        return mask

    @result("polish", settings=(WIDTH_MM,), needs=("lab", "regions", "form", "value", "colour families"))
    def polish(self, family: str) -> Polish | None:
        """How a family of cloth or wall carries the light; None for skin, hair, and what is not there."""
        base = family.partition(", ")[0]
        if base not in CARRIES_LIGHT:
            return None
        mask = reduced_labels(self.family_mask(family).view(np.uint8), POLISH_LONG_SIDE) > 0
        if mask.mean() < SMALLEST_FAMILY:
            return None
        lab = self._even_lab()
        regions = reduced_labels(self._sitter.regions().labels, POLISH_LONG_SIDE)
        around = {
            r.spoken: lab[regions == r].mean(axis=0, dtype=np.float64)
            for r in (Region.SKIN, Region.HAIR, Region.GARMENT, Region.BACKGROUND)
            if r.spoken != base and (regions == r).any()
        }
        return polish_of(lab, mask, self._picture.settings.canvas_width_mm / mask.shape[1], around)

    def _even_lab(self) -> Floats:
        """L*a*b* at the size that surfaces are looked at, grain evened out."""
        return blur(reduced(self._picture.lab(), POLISH_LONG_SIDE), GRAIN * POLISH_LONG_SIDE)

    @result(
        "metals", settings=(WIDTH_MM,), needs=("polish", "lab", "regions", "form", "value", "colour families")
    )
    def metals(self) -> tuple[tuple[str, MetalMap], ...]:
        """What is polished, by the name of its family, in its tones and edges."""
        found = []
        for family in self.families():
            polish = self.polish(family)
            # A wall that shines is no metal.
            if polish is not None and polish.polished and not family.startswith("background"):
                mask = reduced_labels(self.family_mask(family).view(np.uint8), POLISH_LONG_SIDE) > 0
                mm_per_px = self._picture.settings.canvas_width_mm / mask.shape[1]
                found.append((family, metal_map(self._even_lab(), mask, mm_per_px)))
        return tuple(found)

    def string(self, family: str) -> tuple[Tone, ...]:
        """Tones of one family, darkest first; none where it is too small or of a single value."""
        if family not in FAMILIES and family not in self.families():
            raise Refusal(f"there is no family called “{family}”; there are {', '.join(self.families())}")
        return self._string(family)

    @result(
        "string",
        settings=(*MIXING, "flesh.tones"),
        needs=("lab", "value", "regions", "form", "colour families"),
        version=4,
    )
    def _string(self, family: str) -> tuple[Tone, ...]:
        mask = self.family_mask(family)
        if mask.mean() < SMALLEST_FAMILY:
            return ()
        lab = self._picture.lab()[mask]
        if self.settings.monochrome:
            lab[:, 1:] = 0
        wishes = self.settings.wishes()
        try:
            return mix_string(lab, self.palette(), self.settings.tones, wishes, self.settings.clip)
        except SingleValue:
            # A single mixture will do, and the spot gives it.
            return ()

    def row(self, seen: Doubles) -> tuple[Tone, ...]:
        """A mixture for each of a row of colours (n, 3), each also made from the one before."""
        palette, wishes = self.palette(), self.settings.wishes()
        if len(seen) < 2:
            fresh = (self.mix(lab, 1)[0][0] for lab in seen)
            return tuple(Tone(as_lab(lab), r, 0, {}, r.predicted) for lab, r in zip(seen, fresh, strict=True))
        targets = np.array([self.target(lab) for lab in seen])
        return tones_along(seen, targets, wishes.palette(palette), wishes)

    def named(self) -> dict[str, dict[str, int]]:
        """Opaque mixtures to mix from: known by name, of the skin by group, and the pins."""
        found = dict(FIXED)
        if not self.palette().transparent:
            names = self._values.settings.group_names()
            found |= {f"flesh, {names[m.group]}": m.recipe.parts for m in self.mixed().mixtures}
            for family in self.families():
                tones = self.string(family)
                found |= {f"{family}, tone {i}": tone.recipe.parts for i, tone in enumerate(tones, 1)}
            found |= {name: recipe.parts for name, recipe in self.pinned()}
        return found

    @result("pins", settings=(*TUBES, *WISHES, "flesh.pins"))
    def pinned(self) -> tuple[tuple[str, Recipe], ...]:
        """Pins by name: locked ones as they were kept, others solved anew from the tubes set out."""
        return tuple((pin.name, self._pinned(i)) for i, pin in enumerate(self.settings.pins))

    def _pinned(self, number: int) -> Recipe:
        pin = self.settings.pins[number]
        if pin.locked:
            return Recipe.of_parts(pin.parts, pin.target_lab, self.palette(), pin.film_mm)
        return solve_recipes(pin.target_lab, self.palette(), self.settings.wishes(), 1)[0]
