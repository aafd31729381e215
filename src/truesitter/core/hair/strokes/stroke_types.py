"""Types of strokes for types of hair (common practice; the numbers are starting values)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from truesitter.core.hair.field.hair_kinds import BROWS, MOUSTACHE, Kind
from truesitter.core.hair.field.tuning import TANGLED_ORDER
from truesitter.core.hair.locks.lock_strands import Strands
from truesitter.core.hair.strokes.tuning import FRIZZ_CONTRAST, STROKE_TYPES_SHORT, TANGLED, WAVES
from truesitter.core.types import Labels, Mask

HairType = Literal["straight", "wavy", "coily", "frizz", "short"]


@dataclass(frozen=True)
class StrokeType:
    """How one type of hair is stroked; all numbers are starting values [try].

    Attributes
    ----------
    name
        As it is said.
    length
        Shortest and longest: parts of the lock's length for long hair, else of the face's height.
    of_the_lock
        True for long hair.
    wave, waves
        Swing to either side as part of the length, and swings in a stroke; only past the root part.
    widest
        Part of the length at which it is widest: in the first third for what is set down full.
    root, end
        Width there, as part of the widest; the end never more than a quarter.
    stagger
        Least spread of starts, as part of the length.
    irregular
        How far the free part may turn off, in radians.
    turn
        Radians that the free part curls round.
    bundle
        Fewest and most strokes that run side by side.
    said
        What to do, in a sentence.
    curls
        True for strokes that follow the curl of their lock where one is seen.
    rim
        True for strokes that lie mostly at the rim of the hair.
    """

    name: str
    length: tuple[float, float]
    of_the_lock: bool
    wave: float
    waves: float
    widest: float
    root: float
    end: float
    stagger: float
    irregular: float
    turn: float = 0.0
    bundle: tuple[int, int] = (1, 1)
    said: str = ""
    curls: bool = False
    rim: bool = False


STRAIGHT = StrokeType(
    "straight", (0.5, 1.0), True, 0.0, 0.0, 0.2, 0.8, 0.12, 0.25, 0.12,
    said="Draw them long and side by side, each begun at another height, with fluid paint.",
)  # fmt: skip
WAVY = StrokeType(
    "wavy", (0.5, 1.0), True, 0.02, 1.5, 0.25, 0.75, 0.12, 0.25, 0.2,
    said="Let long strokes swing alike and part company only at their ends.", curls=True,
)  # fmt: skip
COILY = StrokeType(
    "coily", (0.05, 0.11), False, 0.0, 0.0, 0.4, 0.7, 0.2, 0.3, 0.2, 3.6, (3, 8),
    "Bundles of small curls; let a bundle here and there run across another.", curls=True,
)  # fmt: skip
FRIZZ = StrokeType(
    "frizz", (0.04, 0.09), False, 0.06, 2.0, 0.35, 0.6, 0.15, 0.4, 0.5,
    said="Small waves laid over one another, most of them at the rim.", rim=True,
)  # fmt: skip
SHORT = StrokeType(
    "short", (0.06, 0.14), False, 0.0, 0.0, 0.2, 0.85, 0.12, 0.3, 0.2,
    said="Short, each row over the roots of the next; never on one line, or it looks cut off.",
)  # fmt: skip
BEARD = StrokeType(
    "beard", (0.07, 0.16), False, 0.025, 1.0, 0.45, 0.3, 0.12, 0.35, 0.35,
    said="From below upward, each row over the one beneath, pressed half way and pointed at both ends; skin "
    "shows at the edges.",
)  # fmt: skip
MOUSTACHE_TYPE = StrokeType(
    "moustache", (0.06, 0.13), False, 0.03, 0.75, 0.5, 0.35, 0.12, 0.3, 0.2,
    said="Out from under the nose, fullest half way; make the two halves differ.",
)  # fmt: skip
BROW = StrokeType(
    "brow", (0.03, 0.055), False, 0.0, 0.0, 0.3, 0.7, 0.1, 0.35, 0.15,
    said="Upright by the nose, then outward; full there, fading at the other end.",
)  # fmt: skip
LASHES = StrokeType(
    "lashes", (0.025, 0.05), False, 0.0, 0.0, 0.15, 0.9, 0.08, 0.3, 0.15, 0.9, (2, 4),
    "Groups of a few curved hairs, each group of another length and at another distance.",
)  # fmt: skip

TYPES: dict[HairType, StrokeType] = {
    "straight": STRAIGHT, "wavy": WAVY, "coily": COILY, "frizz": FRIZZ, "short": SHORT,
}  # fmt: skip

ALL_TYPES = (STRAIGHT, WAVY, COILY, FRIZZ, SHORT, BEARD, MOUSTACHE_TYPE, BROW, LASHES)


def hair_type(coherence: float, line_length: float, turn: float) -> HairType:
    """What the head's hair looks like.

    Parameters
    ----------
    coherence
        Mean coherence of the strands, 0–1.
    line_length
        Length of the longer growth lines, in heights of the face.
    turn
        Mean turn of the direction along a line, in radians over a fifth of the face's height.
    """
    if coherence < TANGLED:
        return "coily"
    if line_length < STROKE_TYPES_SHORT:
        return "short"
    return "wavy" if turn > WAVES else "straight"


def lock_type(strands: Strands, short: bool) -> HairType | None:
    """What the hair of one lock looks like; None where its strands hardly show.

    Parameters
    ----------
    strands
        As they are read.
    short
        True where the head's hair is short.
    """
    tangled = strands.order < TANGLED_ORDER
    if strands.sure < TANGLED:
        return "frizz" if tangled and strands.contrast >= FRIZZ_CONTRAST else None
    if tangled:
        return "coily"
    if short:
        return "short"
    return "wavy" if strands.period or strands.turn > WAVES else "straight"


@dataclass(frozen=True)
class StrokeMap:
    """Which type of stroke is drawn where.

    Attributes
    ----------
    numbers
        (h, w) number of the type in `types`, from 1; 0 where there is no hair.
    types
        Each of them.
    """

    numbers: Labels
    types: tuple[StrokeType, ...]

    def at(self, row: int, column: int) -> StrokeType | None:
        """The type at a pixel; None where there is no hair."""
        number = int(self.numbers[row, column])
        return self.types[number - 1] if number else None

    def parts(self, place: Mask) -> Iterator[tuple[StrokeType, Mask]]:
        """The types of a place, each with its part of it, (h, w)."""
        for number, type_ in enumerate(self.types, 1):
            here = place & (self.numbers == number)
            if here.any():
                yield type_, here


def type_for(kind: int, head: HairType) -> StrokeType:
    """Strokes for a kind of hair; `head` is the type of the head's own."""
    if kind == Kind.BEARD:
        return BEARD
    if kind in MOUSTACHE:
        return MOUSTACHE_TYPE
    return BROW if kind in BROWS else TYPES[head]
