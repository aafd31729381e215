"""What layers of hair are made from, and what a layer is: its place and strokes, not yet its paint."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from truesitter.core.hair.strokes.approach import WayPlan
from truesitter.core.hair.strokes.hair_strokes import StrokeGround
from truesitter.core.hair.strokes.stroke_types import StrokeMap
from truesitter.core.imaging.line import Line
from truesitter.core.types import Floats, Labels, Mask

Role = Literal[
    "base", "first hairs", "early lights", "locks", "smaller locks", "tying glaze", "shine", "light hairs",
    "dark hairs",
]  # fmt: skip
GlazePurpose = Literal["tie", "warm", "cool", "darken", "in turn"]
"""What a glaze over the hair shall do; ``in turn`` is one hue over the darks, another over the lights."""


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
        Early light hairs, and what a glaze shall do before the lights are restated; None for no glaze.
    shine
        (h, w) the bands of light of hair that shines.
    temperature
        Of those lights, in words.
    beard_apart
        Whether the beard stands apart from the skin; None without one.
    hairline
        x, y in fractions of the readings along the hairline.
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
    glaze: GlazePurpose | None = None
    shine: Mask | None = None
    temperature: str = ""
    beard_apart: bool | None = None
    hairline: tuple[tuple[float, float], ...] = ()


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
    purpose
        What it shall do, of a glaze.
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
    purpose: GlazePurpose | None = None
