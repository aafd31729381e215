"""What layers of hair are planned from, and what a layer is."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.canvas.layer import Layer
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.hair.strokes.approach import WayPlan
from truesitter.core.hair.strokes.hair_strokes import StrokeGround
from truesitter.core.hair.strokes.stroke_types import HairType
from truesitter.core.imaging.line import Line
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.types import Doubles, Floats, Labels, Mask


@dataclass(frozen=True)
class HairJob:
    """What the layers are planned from, all maps of one size.

    Attributes
    ----------
    kinds
        (h, w) kinds of hair.
    skin
        (h, w) bare skin.
    lab, value
        (h, w, 3) reference in the palette's reach, and its value (h, w) a little squinted.
    ground
        What strokes are laid along.
    limit
        (h, w) widest brush at every spot, in mm.
    head
        Type of the head's hair.
    way
        Masses or strands, with its brushes and the number of layers.
    palette, wishes, medium
        The tubes, what recipes keep to, and what binds them.
    bare
        (31,) internal reflectance of what the hair is painted on.
    early, glaze
        Early light hairs, and a glaze that ties light and dark before the lights are restated.
    """

    kinds: Labels
    skin: Mask
    lab: Floats
    value: Floats
    ground: StrokeGround
    limit: Floats
    head: HairType
    way: WayPlan
    palette: Palette
    wishes: Wishes
    medium: Medium
    bare: Doubles
    early: bool = False
    glaze: bool = False


@dataclass(frozen=True)
class HairLayer:
    """One layer.

    Attributes
    ----------
    name, mass, said
        As it is told, the mass it belongs to, and what to mind.
    mask
        (h, w) its place; each is inside the one before it of its mass.
    recipe
        Mixture and the colour wanted.
    film, dry, fades
        Film as it is laid, wet and dry, and whether it is transparent.
    brush_mm, minutes
        Widest brush, and how long it takes.
    lines, strays
        Its strokes in the order of drawing, and how many of them are strays; none for a mass laid flat.
    """

    name: str
    mass: str
    said: str
    mask: Mask
    recipe: Recipe
    film: WetMm
    dry: DryMm
    fades: bool
    brush_mm: float
    minutes: float
    lines: tuple[Line, ...] = ()
    strays: int = 0

    def operation(self, patchwork: Patchwork) -> Layer:
        """For the painted canvas."""
        nothing = np.zeros(len(patchwork.sizes), bool)
        pieces = nothing if self.lines else patchwork.at(self.mask.view(np.uint8)) > 0
        return Layer(pieces, self.recipe.parts, self.dry, self.fades, self.lines)
