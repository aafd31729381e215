"""A brush: its shape and width, its hair, and what it can do."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from truesitter.core.brushes.numbers import FLAT_MM, LINER_MM, MOP_MM, ROUND_MM
from truesitter.core.brushes.tuning import COVERS, EDGE, FINEST, LARGEST_MM, ROUND_IN_WATER
from truesitter.core.refusal import Refusal

Shape = Literal["flat", "filbert", "round", "liner", "mop"]
Hair = Literal["bristle", "synthetic", "soft hair"]
Length = Literal["short", "usual", "long"]
Point = Literal["sharp", "usual", "worn"]
Stiffness = Literal["stiff", "springy", "soft"]

NUMBERS: dict[Shape, dict[str, float]] = {
    "flat": FLAT_MM, "filbert": FLAT_MM, "round": ROUND_MM, "liner": LINER_MM, "mop": MOP_MM,
}  # fmt: skip
"""Width in mm of each number, by shape."""

STIFFNESS: dict[Hair, Stiffness] = {"bristle": "stiff", "synthetic": "springy", "soft hair": "soft"}
"""How hair of a kind behaves unless the painter says otherwise."""


@dataclass(frozen=True)
class Brush:
    """One brush.

    Attributes
    ----------
    shape, mm
        Shape, and how wide a stroke it lays: the edge of a flat, the belly of a round, the line of a liner.
    number
        On its handle; empty for one that is told by its width.
    hair, length, point, stiffness
        Its hair; a worn point draws no fine line.
    """

    shape: Shape
    mm: float
    number: str = ""
    hair: Hair = "synthetic"
    length: Length = "usual"
    point: Point = "usual"
    stiffness: Stiffness = "springy"

    @classmethod
    def of_number(cls, shape: Shape, number: str, hair: Hair = "synthetic", point: Point = "usual") -> Brush:
        """A brush with a usual number.

        Raises
        ------
        Refusal
            For a number that brushes of this shape do not have.
        """
        known = NUMBERS[shape]
        if number not in known:
            raise Refusal(f"there is no {shape} no. {number[:20]}; there are {', '.join(known)}")
        return cls(shape, known[number], number, hair, point=point, stiffness=STIFFNESS[hair])

    @property
    def name(self) -> str:
        """As a painter says it, as ``no. 10 filbert``."""
        return f"no. {self.number} {self.shape}" if self.number else f"{self.mm:g} mm {self.shape}"

    @property
    def key(self) -> str:
        """Short, as ``10filbert`` or ``12mm-flat``."""
        return f"{self.number}{self.shape}" if self.number else f"{self.mm:g}mm-{self.shape}"

    @property
    def pointed(self) -> bool:
        """True for one that lays a stroke as narrow or as wide as it is pressed."""
        return self.shape in FINEST

    def covers_mm(self, room_mm: float, watery: bool = False) -> float:
        """How wide a strip one stroke of it covers in a place where so wide a brush goes in."""
        share = ROUND_IN_WATER if watery and self.shape == "round" else COVERS[self.shape]
        return (min(self.mm, room_mm) if self.pointed else self.mm) * share

    @property
    def finest_mm(self) -> float:
        """The thinnest line it draws; infinite for a mop."""
        if self.shape == "mop":
            return float("inf")
        return self.mm * (FINEST[self.shape][self.point] if self.shape in FINEST else EDGE)


_SHORT = re.compile(rf"(?:(\d{{1,3}})|(\d+(?:\.\d+)?)mm-?)({'|'.join(NUMBERS)})")


def brush_of(text: str) -> Brush:
    """A brush from its short name.

    Raises
    ------
    Refusal
        For what names none.

    Examples
    --------
    >>> brush_of("10filbert").mm, brush_of("12mm-flat").name
    (20.0, '12 mm flat')
    """
    met = _SHORT.fullmatch(text.strip().lower().replace(" ", ""))
    if met is None:
        shown = text.strip()[:40]
        raise Refusal(f"“{shown}” is no brush; say it as 10filbert, 00liner or 12mm-flat")
    number, mm, shape = met.groups()
    named = next(s for s in NUMBERS if s == shape)
    if number:
        return Brush.of_number(named, number)
    if not 0 < float(mm) <= LARGEST_MM:
        raise Refusal(f"a brush is up to {LARGEST_MM:g} mm wide")
    return Brush(named, float(mm))


STARTING_SET = (
    Brush.of_number("flat", "24"), Brush.of_number("flat", "12"), Brush.of_number("filbert", "10"),
    Brush.of_number("filbert", "6"), Brush.of_number("filbert", "4"), Brush.of_number("filbert", "1"),
    Brush.of_number("round", "14", "soft hair"), Brush.of_number("round", "8", "soft hair", "sharp"),
    Brush.of_number("round", "6"), Brush.of_number("round", "2", point="sharp"),
    Brush.of_number("liner", "00", point="sharp"), Brush.of_number("mop", "8", "soft hair"),
)  # fmt: skip
"""What a painter may have who never said what there is [try]."""

EVERY_BRUSH = tuple(Brush.of_number(shape, number) for shape, known in NUMBERS.items() for number in known)
"""What a shop has."""
