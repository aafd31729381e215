"""What layers of hair are made from, and what a layer is: its place and strokes, not yet its paint."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from truesitter.core.hair.strokes.approach import WayPlan
from truesitter.core.hair.strokes.hair_strokes import StrokeGround
from truesitter.core.hair.strokes.stroke_types import StrokeMap
from truesitter.core.imaging.line import Line
from truesitter.core.types import Floats, Labels, Mask

Role = Literal["base", "early lights", "locks", "smaller locks", "tying glaze", "light hairs", "dark hairs"]


@dataclass(frozen=True)
class HairJob:
    """What the layers are made from, all maps of one size.

    Attributes
    ----------
    kinds
        (h, w) kinds of hair.
    lab, value
        (h, w, 3) reference, and its value (h, w) a little squinted.
    surface
        (h, w) what the surface of the hair adds to the value of its locks, in steps.
    ground
        What strokes are laid along.
    limit
        (h, w) widest brush at every spot, in mm.
    types
        Which type of stroke is drawn where.
    way
        Masses or strands, with its brushes and the number of layers.
    light_first
        True for paint that can only darken: it begins with the lightest tone.
    early, glaze
        Early light hairs, and a glaze that ties light and dark before the lights are restated.
    """

    kinds: Labels
    lab: Floats
    value: Floats
    surface: Floats
    ground: StrokeGround
    limit: Floats
    types: StrokeMap
    way: WayPlan
    light_first: bool = False
    early: bool = False
    glaze: bool = False


@dataclass(frozen=True)
class HairLayer:
    """One layer.

    Attributes
    ----------
    role, name, mass, said
        What it is for, as it is told, the mass it belongs to, and what to mind.
    whole, mask, aim
        (h, w) its mass; its place, inside the one before it; and the part of that whose colour it takes.
    brush_mm
        Width of its widest stroke; of its brush where it is laid flat.
    types
        Names of the types of its strokes.
    lines, strays
        Its strokes in the order of drawing, and how many of them are strays; none for a mass laid flat.
    """

    role: Role
    name: str
    mass: str
    said: str
    whole: Mask
    mask: Mask
    aim: Mask
    brush_mm: float
    types: tuple[str, ...] = ()
    lines: tuple[Line, ...] = ()
    strays: int = 0
