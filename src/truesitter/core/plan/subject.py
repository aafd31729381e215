"""What the planner starts from: the sitter's maps, and what is wanted of them."""

from __future__ import annotations

from dataclasses import dataclass, field
from enum import IntEnum
from typing import Literal, get_args

from truesitter.core.brushes.brush import STARTING_SET, Brush
from truesitter.core.canvas.layer import LineSet
from truesitter.core.colour.spaces import Lab
from truesitter.core.hair.layers.job import HairLayer
from truesitter.core.pace.waiting import Room
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.types import Floats, Labels, Mask

Exactness = Literal["study", "portrait", "copy"]
"""How near to the reference it is wanted."""


Size = Literal["sketch", "study", "portrait", "every pass"]
"""How many passes a plan has."""

SIZES: tuple[Size, ...] = get_args(Size)


class Mark(IntEnum):
    """What the light found at a spot; a recess's dark lies inside the recess."""

    NONE = 0
    RECESS = 1
    RECESS_DARK = 2
    HIGHLIGHT = 3


@dataclass(frozen=True)
class Ground:
    """A ground chosen for the picture.

    Attributes
    ----------
    lab
        Its colour.
    stays
        (h, w) where it stays visible: opaque passes leave it out.
    """

    lab: Lab
    stays: Mask


@dataclass(frozen=True)
class OwnHeap:
    """A mixture of the painter's own, by name and parts."""

    name: str
    parts: dict[str, int]


@dataclass(frozen=True)
class Subject:
    """What the planner paints, all maps of one size.

    Attributes
    ----------
    groups, regions, zones, marks
        (h, w) value groups, regions, light zones, and recesses and highlights by `Mark`.
    lab, value
        (h, w, 3) L*a*b* and (h, w) values of the reference, the values with everything
        smaller than a paintable shape evened out.
    mm_per_px
        Canvas mm to a pixel.
    flesh
        Recipe of each value group of the skin, as the flesh stage gives it.
    clip
        Clip values to the palette's reach instead of compressing them.
    lines
        Lines that are drawn with a brush, by the key of the pass that draws them.
    size
        Of the plan.
    exactness, massed_hair, own_hair
        How exact it is wanted, whether its hair is painted in masses, and whether the painter said how.
    room
        The air it dries in.
    ground
        A ground of its own instead of the school's.
    hair
        Layers of the hair stage, for schools that follow them.
    brushes
        What there is to paint with; with none, what a shop has.
    own_heaps
        Mixtures that are heaps of the plan whatever it would mix itself.
    effort
        (h, w) part of the usual work that is left where less is finished; None for all of it everywhere.
    halftone
        (h, w) where the skin has a cool halftone; None where nobody asks.
    smear_mm
        (h, w) how wide borders are smeared, where they are.
    """

    groups: Labels
    regions: Labels
    zones: Labels
    lab: Floats
    value: Floats
    mm_per_px: float
    flesh: dict[int, Recipe] = field(default_factory=dict)
    clip: bool = False
    lines: dict[str, tuple[LineSet, ...]] = field(default_factory=dict)
    size: Size = "every pass"
    exactness: Exactness = "portrait"
    massed_hair: bool = False
    own_hair: bool = False
    room: Room = field(default_factory=Room)
    ground: Ground | None = None
    marks: Labels | None = None
    hair: tuple[HairLayer, ...] = ()
    brushes: tuple[Brush, ...] = STARTING_SET
    own_heaps: tuple[OwnHeap, ...] = ()
    effort: Floats | None = None
    smear_mm: Floats | None = None
    halftone: Mask | None = None

    @property
    def size_mm(self) -> tuple[float, float]:
        """Width and height on the canvas."""
        height, width = self.groups.shape
        return width * self.mm_per_px, height * self.mm_per_px
