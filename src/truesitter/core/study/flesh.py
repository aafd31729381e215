"""Mixtures for the flesh, strings for every region, and mixtures for any spot."""

from __future__ import annotations

from collections.abc import Hashable

import numpy as np

from truesitter.core.flesh import Flesh, mix_flesh, target_for
from truesitter.core.paint.mixing import as_lab
from truesitter.core.paint.palettes import Palette
from truesitter.core.paint.pigments import Lab
from truesitter.core.paint.rounding import Recipe
from truesitter.core.paint.solver import Suggestion, solve_recipes, suggest_tube
from truesitter.core.paint.strings import Tone, mix_string
from truesitter.core.sitter.region_names import Region
from truesitter.core.study.light import LightStage
from truesitter.core.study.part import Source
from truesitter.core.study.picture import PictureStage
from truesitter.core.study.sitter import SitterStage
from truesitter.core.study.values import ValueStage
from truesitter.core.types import Doubles, Mask

FAMILIES: dict[str, tuple[Region, ...]] = {
    "skin in the light": (Region.SKIN,),
    "skin in the shadow": (Region.SKIN,),
    "lips": (Region.LIPS,),
    "hair": (Region.HAIR,),
    "facial hair": (Region.FACIAL_HAIR,),
    "garment": (Region.GARMENT,),
    "background": (Region.BACKGROUND,),
}
_SPOT = 0.006
_SMALLEST_FAMILY = 0.0015


class FleshStage:
    """The tubes set out and what they make."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, values: ValueStage,
        light: LightStage,
    ) -> None:  # fmt: skip
        self._source, self._picture, self._sitter = source, picture, sitter
        self._values, self._light = values, light
        self.settings = source.settings.flesh

    @property
    def key(self) -> Hashable:
        """Changes when a mixture may; pins and amounts are only kept."""
        return (self._values.key, self._sitter.key, self.settings.for_mixing())

    def palette(self) -> Palette:
        """The tubes set out."""
        return self.settings.as_palette()

    def mixed(self) -> Flesh:
        """A mixture for every value group of the skin."""
        return self._source.remember(
            "flesh",
            self.key,
            lambda: mix_flesh(
                self._picture.lab(),
                self._values.plan().labels,
                self._sitter.regions().mask(Region.SKIN),
                self.palette(),
                self.settings.wishes(),
                self.settings.clip,
                self.settings.monochrome,
            ),
        )

    def colour_at(self, start: tuple[float, float], end: tuple[float, float] | None = None) -> Doubles:
        """Mean L*a*b* (3,) of a spot, or of the rectangle between two, in fractions of the picture."""
        lab = self._picture.lab()
        height, width = lab.shape[:2]
        half = max(1, round(_SPOT * width))
        x1, y1 = min(width - 1, int(start[0] * width)), min(height - 1, int(start[1] * height))
        if end is None:
            left, right, top, bottom = x1 - half, x1 + half, y1 - half, y1 + half
        else:
            x2, y2 = min(width - 1, int(end[0] * width)), min(height - 1, int(end[1] * height))
            left, right, top, bottom = min(x1, x2), max(x1, x2), min(y1, y2), max(y1, y2)
        patch = lab[max(0, top) : bottom + 1, max(0, left) : right + 1]
        return np.asarray(patch.reshape(-1, 3).mean(axis=0, dtype=np.float64))

    def colour_of_shape(self, spot: tuple[float, float]) -> tuple[int, Doubles]:
        """Number and mean L*a*b* (3,) of the value shape in which a spot lies."""
        shapes = self._values.shapes()
        height, width = shapes.number.shape
        x, y = min(width - 1, int(spot[0] * width)), min(height - 1, int(spot[1] * height))
        number = int(shapes.number[y, x])
        return number, np.array(shapes.shapes[number].lab)

    def colour_of_group(self, spot: tuple[float, float]) -> tuple[int, Doubles]:
        """Value group in which a spot lies, and its mean L*a*b* (3,) over the same region of the sitter."""
        labels, regions = self._values.plan().labels, self._sitter.regions().labels
        height, width = labels.shape
        x, y = min(width - 1, int(spot[0] * width)), min(height - 1, int(spot[1] * height))
        inside = (labels == labels[y, x]) & (regions == regions[y, x])
        return int(labels[y, x]), self._picture.lab()[inside].mean(axis=0, dtype=np.float64)

    def mix(self, seen: Doubles, count: int = 4) -> tuple[tuple[Recipe, ...], Suggestion | None]:
        """Mixtures for a colour of the picture, best first, and the tube that would help."""
        wishes = self.settings.wishes()
        target = target_for(seen, self.palette(), self.settings.clip, self.settings.monochrome)
        recipes = solve_recipes(as_lab(target), self.palette(), wishes, count)
        return recipes, suggest_tube(recipes[0], self.palette(), wishes.most_tubes)

    def family_mask(self, family: str) -> Mask:
        """Where a family of the palette board lies."""
        mask = self._sitter.regions().mask(*FAMILIES[family])
        if family.startswith("skin"):
            shadow = self._picture.value() < self._light.zones().shadow_below
            mask = mask & (shadow if family == "skin in the shadow" else ~shadow)
        return mask

    def string(self, family: str) -> tuple[Tone, ...]:
        """Tones of one family, darkest first; none where it is too small or of a single value."""
        if family not in FAMILIES:
            raise ValueError(f"there is no family called “{family}”; there are {', '.join(FAMILIES)}")
        return self._source.remember(
            "string", (self.key, self._light.key, family), lambda: self._string(family)
        )

    def _string(self, family: str) -> tuple[Tone, ...]:
        mask = self.family_mask(family)
        if self.palette().transparent or mask.mean() < _SMALLEST_FAMILY:
            return ()
        wishes = self.settings.wishes()
        palette = wishes.palette(self.palette())
        lab = self._picture.lab()[mask]
        if self.settings.monochrome:
            lab[:, 1:] = 0
        try:
            return mix_string(lab, palette, self.settings.tones, wishes.most_tubes, self.settings.clip)
        except ValueError:
            # Hardly more than one value: a single mixture will do, and the spot gives it.
            return ()

    def pinned(self) -> tuple[tuple[str, Recipe], ...]:
        """Pins by name: locked ones as they were kept, others solved anew from the tubes set out."""
        return tuple((pin.name, self._pinned(i)) for i, pin in enumerate(self.settings.pins))

    def _pinned(self, number: int) -> Recipe:
        pin = self.settings.pins[number]
        target: Lab = pin.target_lab
        if pin.locked:
            return Recipe.of_parts(pin.parts, target, self.palette())
        return solve_recipes(target, self.palette(), self.settings.wishes(), 1)[0]
