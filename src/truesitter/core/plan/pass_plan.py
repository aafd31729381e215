"""The plan that the planner gives: passes, heaps, hours, and the canvas after each pass."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from truesitter.core.brushes.brush import Brush
from truesitter.core.brushes.choice import Missing
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Operation
from truesitter.core.colour.value import lab_value
from truesitter.core.hair.layers.job import HairLayer
from truesitter.core.imaging.line import Line
from truesitter.core.pace.own_pace import Learned, Level
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.media.supports import Support
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.hand.brush_goes import UnbrokenPatch
from truesitter.core.plan.water.ways import Charge, Way
from truesitter.core.school.school_document import PaperState
from truesitter.core.types import Mask

Doing = Literal["ground", "wash", "mass", "glaze", "light", "lines", "remove", "coat", "smear"]
"""What a pass does, told in one word."""


@dataclass(frozen=True)
class Thinned:
    """How paint is thinned on part of a pass's place.

    Attributes
    ----------
    dilution
        Parts of paint and of thinner.
    group
        Which value group that is; None for all of it.
    share
        Part of the pass's paint that goes there, 0–1.
    """

    dilution: Dilution
    group: int | None = None
    share: float = 1.0


@dataclass(frozen=True)
class PaintTaken:
    """How much paint is taken off one value group.

    Attributes
    ----------
    group
        The value group.
    share
        Part of the film left, 0–1.
    pressure
        0–1; the value moves evenly with it.
    """

    group: int
    share: float
    pressure: float


@dataclass(frozen=True)
class StrokeTone:
    """One of the mixtures that the strokes of a pass vary in.

    Attributes
    ----------
    parts
        Straight from the tubes.
    added, base
        What is added to so many parts of the pass's own mixture; nothing for that itself.
    strokes
        How many take it.
    predicted
        Colour as they lie on what is below.
    """

    parts: dict[str, int]
    added: dict[str, int]
    base: int
    strokes: int
    predicted: Colour


@dataclass(frozen=True)
class Gain:
    """What a pass brings its place: how much nearer to the sitter it ends than without it.

    Attributes
    ----------
    steps, colour
        In value steps, and in the a*b* plane; below 0 where it ends farther off.
    """

    steps: float
    colour: float


@dataclass(frozen=True)
class Pass:
    """One pass of the plan.

    Attributes
    ----------
    key, name, group, places
        Stable key; name, in which ``{band}`` stands for the value group; regions it covers.
    pieces
        (n,) where it lies, in the pieces of the canvases.
    recipe
        Parts, target and predicted colour (thick film); without parts where paint is taken off.
    film, thinned, area_cm2, ml
        Film as it is laid, how its paint is thinned (nothing for paint as it comes), area, and paint needed,
        before it is thinned, including loss.
    brush, brush_mm, room_mm
        The brush it is laid with, None for what is no brush; how wide that is, and the widest that goes in.
    edge, tool, note
        How to lay it.
    open_minutes, goes
        Shortest and longest time in which its edges can be moved, and the goes it is laid in where one
        would be too slow to soften all of it.
    over, dries_minutes
        Numbers of the passes it lies over, counted from 0, and how long it takes to dry.
    start_minutes, work_minutes, wait_minutes
        Earliest start after the first pass, time to paint, and the wait before the next pass.
    usual_minutes, usual_ml, pace, paint
        Time and paint before the painter's own pace is allowed for, and what was learned of either and
        of which work; None where nothing was.
    gain
        What it is for; None until the plan stands.
    hair
        The layer of hair that it lays; None for all else.
    tones
        The mixtures its strokes vary in, its own first; none where that is the only one.
    charges
        What is dropped into a wash while it is wet, in order.
    way, paper, beside
        How a wash is laid, and how wet the paper is for it; None for all else. Numbers of the earlier washes
        that it borders on.
    value_error
        Mean distance of the canvas after this pass from the mapped reference, in value steps.
    operations
        What is done, for the simulated canvas.
    does
        What is done, in one word.
    taken
        How much is taken off which value group.
    inspect
        What to look at before going on.
    coats
        In how many equal coats it is laid.
    into_wet, lines
        True when what it goes over is still wet; the lines it is made of.
    mix, tubes
        What is taken together for it, heaps by `@` and their key; and the same straight from the tubes, which
        is what lies on the canvas. The recipe's own parts are the way to mix it without any heap.
    """

    key: str
    name: str
    group: int | None
    places: tuple[str, ...]
    pieces: Mask
    recipe: Recipe
    film: WetMm
    thinned: tuple[Thinned, ...]
    brush_mm: float
    room_mm: float
    area_cm2: float
    ml: float
    edge: str
    tool: str
    note: str
    open_minutes: tuple[float, float]
    goes: tuple[UnbrokenPatch, ...]
    fat: int
    operations: tuple[Operation, ...]
    does: Doing
    taken: tuple[PaintTaken, ...] = ()
    inspect: str = ""
    coats: int = 1
    into_wet: bool = False
    lines: tuple[Line, ...] = ()
    over: tuple[int, ...] = ()
    dries_minutes: float = 0.0
    start_minutes: float = 0.0
    work_minutes: float = 0.0
    wait_minutes: float = 0.0
    usual_minutes: float = 0.0
    usual_ml: float = 0.0
    pace: tuple[Level, Learned] | None = None
    paint: tuple[Level, Learned] | None = None
    value_error: float = 0.0
    mix: dict[str, int] = field(default_factory=dict)
    tubes: dict[str, int] = field(default_factory=dict)
    brush: Brush | None = None
    gain: Gain | None = None
    hair: HairLayer | None = None
    tones: tuple[StrokeTone, ...] = ()
    charges: tuple[Charge, ...] = ()
    way: Way | None = None
    paper: PaperState | None = None
    beside: tuple[int, ...] = ()

    @property
    def keys(self) -> tuple[str, ...]:
        """Its own key, and those of the washes that are dropped into it."""
        return (self.key, *(charge.key for charge in self.charges))

    @property
    def layer(self) -> str | None:
        """What the layer of hair that it lays is called in documents; None for all else."""
        return None if self.hair is None else self.key

    def title(self, group_names: tuple[str, ...]) -> str:
        """Its name, with the painter's own name of its value group."""
        return titled(self.name, self.group, group_names)

    @property
    def taken_from(self) -> dict[str, int]:
        """Parts straight from the tubes of what is laid, heaps reckoned out."""
        return self.tubes or self.recipe.parts

    @property
    def portions(self) -> tuple[tuple[dict[str, int], float], ...]:
        """Parts straight from the tubes, and the part of the pass's paint that is mixed so, 0–1."""
        strokes = sum(tone.strokes for tone in self.tones)
        if strokes:
            return tuple((tone.parts, tone.strokes / strokes) for tone in self.tones)
        dropped = tuple((charge.parts, charge.ml / self.ml) for charge in self.charges)
        return ((self.taken_from, 1.0 - sum(part for _, part in dropped)), *dropped)

    @property
    def target_value(self) -> float:
        """Value aimed at, after fitting into the palette's reach."""
        return float(lab_value(np.array(self.recipe.target_lab)))


def titled(name: str, group: int | None, group_names: tuple[str, ...]) -> str:
    """A pass's name with that of its value group.

    Parameters
    ----------
    name
        Of the pass.
    group
        Number of its value group; None for all.
    group_names
        The painter’s own.

    Returns
    -------
    str
        For the screen.
    """
    return name if group is None else name.format(band=group_names[group])


@dataclass(frozen=True)
class Remark:
    """What the planner has to say of a pass it laid or left out."""

    name: str
    group: int | None
    words: str

    def sentence(self, group_names: tuple[str, ...]) -> str:
        """In words, with the painter's own names of the value groups."""
        return f"{titled(self.name, self.group, group_names)}{self.words}"


@dataclass(frozen=True)
class Hours:
    """How long a painting takes.

    Attributes
    ----------
    least, likely, most
        Hours of work, waiting not counted.
    hair
        Part of it that goes into hair, 0–1.
    """

    least: float
    likely: float
    most: float
    hair: float


@dataclass(frozen=True)
class Heap:
    """One heap of the palette.

    Attributes
    ----------
    key, name
        Key, which a mixture names with `@` before it, and what it is called.
    parts
        Whole parts straight from the tubes.
    colour
        What they make, laid thick enough to hide.
    ml
        How much of it the plan takes.
    passes
        Numbers of the passes mixed from it, counted from 0.
    """

    key: str
    name: str
    parts: dict[str, int]
    colour: Colour
    ml: float = 0.0
    passes: tuple[int, ...] = ()


@dataclass(frozen=True)
class PassPlan:
    """Passes in order, the canvas after each, and what the planner left out and why."""

    passes: tuple[Pass, ...]
    medium: Medium
    """What it is painted in."""
    support: Support
    """What it is painted on."""
    canvases: tuple[Canvas, ...]
    remarks: tuple[Remark, ...]
    hours: Hours
    bare: Canvas
    """The canvas before the first pass; all there is where nothing is left to paint."""
    heaps: tuple[Heap, ...] = ()
    """What is mixed on the palette, most first; none where every pass is mixed by itself."""
    brushes: tuple[Brush, ...] = ()
    """What it is painted with, widest first."""
    missing: tuple[Missing, ...] = ()
    """Brushes worth buying; their works are the numbers of passes, counted from 0."""

    @property
    def keys(self) -> tuple[str, ...]:
        """Of its passes, in order."""
        return tuple(p.key for p in self.passes)

    @property
    def every_key(self) -> tuple[tuple[str, ...], ...]:
        """Keys of each pass, with those of the washes that are dropped into it."""
        return tuple(p.keys for p in self.passes)

    @property
    def finished(self) -> Canvas:
        """The canvas after the last pass."""
        return self.canvases[-1] if self.canvases else self.bare

    @property
    def thinner(self) -> str:
        """What thin layers are thinned with."""
        return self.medium.thinning.thinner

    def mask(self, number: int) -> Mask:
        """Where a pass lies, (h, w); they are counted from 0."""
        return self.bare.patchwork.mask(self.passes[number].pieces)
