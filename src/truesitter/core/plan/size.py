"""The size of a plan: a sketch, a study or a portrait, by leaving out what loses least.

A plan of every pass says more than anybody paints. The passes that are left out are those without which the
canvas is hardly farther from the sitter; what carries the likeness stays, and so does the first tone.
"""

from __future__ import annotations

from collections.abc import Sequence
from copy import copy
from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.drawn.painted_lines import line_area_cm2, line_brush_mm
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.value import lab_value
from truesitter.core.hair.strokes.approach import Way
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.plan.pass_plan import Doing, Gain, Pass
from truesitter.core.plan.subject import Size
from truesitter.core.plan.tuning import FEATURE_WEIGHT, HAIR_OF_SIZE, HEAD_WEIGHT, LINES_ALIKE, WASHES_OF_SIZE
from truesitter.core.school.school_document import Band, PassTemplate, School
from truesitter.core.sitter.region_names import FEATURES, Region
from truesitter.core.types import Doubles, Labels, Mask

JOINED = "lines"
"""Key of the pass in which all lines are drawn in one go."""

WORKS_ON_WET_PAINT: frozenset[Doing] = frozenset({"remove", "smear"})
"""What is done to paint that lies there, and is nothing without it."""

LIKENESS = (Region.EYES, Region.LIPS)
"""Places of which a pass always stays: no measure of pixels sees a likeness."""


def with_fewer_washes(school: School, size: Size) -> School:
    """A school whose nested washes go in fewer steps, each over what is darker than it.

    Parameters
    ----------
    school
        Its document.
    size
        Of the plan; a school without nested washes stays as it is.

    Returns
    -------
    School
        Steps told from the first to the last as before, so that the washes still follow on one another.
    """
    if size == "every pass":
        return school
    most = WASHES_OF_SIZE[size]

    def fewer(one: PassTemplate) -> PassTemplate:
        if one.band not in (Band.WASHES, Band.PIECES):
            return one
        steps = min(one.steps, next(n for regions, n in most.items() if set(one.regions) & set(regions)))
        if one.band is Band.PIECES:
            return one.model_copy(update={"steps": steps})
        first = -(-(one.from_step - 1) * steps // one.steps) + 1
        last = -(-one.to_step * steps // one.steps)
        return one.model_copy(update={"steps": steps, "from_step": min(first, last), "to_step": last})

    return school.model_copy(update={"passes": tuple(fewer(p) for p in school.passes)})


def layers_of(way: Way, size: Size, transparent: bool) -> int:
    """Layers that hair has in a plan of a size, where the painter asks for no number."""
    return HAIR_OF_SIZE[size][way][int(transparent)]


def joined_lines(passes: Sequence[Pass], templates: Sequence[PassTemplate]) -> list[int]:
    """Numbers of the passes that are drawn with a small brush alone, and can be drawn in one dark mixture.

    Light lines, and those that make the manner of a school, stay by themselves.
    """
    drawn = [
        n
        for n, (p, t) in enumerate(zip(passes, templates, strict=True))
        if t.band is Band.LINES and p.lines and p.does == "lines" and not p.pieces.any() and not t.stays
    ]
    darkest = min((passes[n].recipe.predicted.value for n in drawn), default=0.0)
    return [n for n in drawn if passes[n].recipe.predicted.value <= darkest + LINES_ALIKE]


def in_one_go(passes: Sequence[Pass], size_mm: tuple[float, float]) -> Pass:
    """Several passes of lines as one, in the mixture of the darkest.

    Parameters
    ----------
    passes
        At least one.
    size_mm
        Width and height of the canvas.

    Returns
    -------
    Pass
        With all their lines, time and paint.
    """
    if len(passes) == 1:
        return passes[0]
    dark = min(passes, key=lambda p: p.recipe.predicted.value)
    lines = tuple(line for p in passes for line in p.lines)
    (layer,) = (o for o in dark.operations if isinstance(o, Layer))
    return replace(
        dark,
        key=JOINED,
        name="Lines, all in one go",
        places=tuple(dict.fromkeys(place for p in passes for place in p.places)),
        note=" ".join(dict.fromkeys(p.note for p in passes if p.note)),
        lines=lines,
        operations=(replace(layer, lines=lines),),
        brush_mm=line_brush_mm(lines),
        room_mm=line_brush_mm(lines),
        area_cm2=sum(line_area_cm2(line, size_mm) for line in lines),
        ml=sum(p.ml for p in passes),
        work_minutes=sum(p.work_minutes for p in passes),
    )


class Pruning:
    """What a canvas loses without some of its passes.

    Parameters
    ----------
    bare
        The canvas before the first pass.
    passes, templates
        In order, and the school's template of each.
    wanted
        (n, 3) mean L*a*b* of each piece of the mapped reference.
    regions
        (n,) region of each piece.
    stays
        What is done in passes that are never left out.
    manner
        True where what makes the school's manner stays too.
    """

    def __init__(
        self, bare: Canvas, passes: Sequence[Pass], templates: Sequence[PassTemplate], wanted: Doubles,
        regions: Labels, stays: frozenset[Doing] = frozenset(), manner: bool = True,
    ) -> None:  # fmt: skip
        self.bare, self.passes, self.templates = bare, passes, templates
        self.wanted, self.stays = wanted, stays | {"ground"}
        self.manner = manner
        self.wanted_passes = frozenset[int]()
        weight = np.ones(len(Region))
        weight[[Region.SKIN, Region.HAIR, Region.FACIAL_HAIR]] = HEAD_WEIGHT
        weight[list(FEATURES)] = FEATURE_WEIGHT
        self.weight = bare.patchwork.sizes * weight[regions]

    def of(self, passes: Sequence[Pass]) -> Pruning:
        """The same for other passes of the same templates."""
        other = copy(self)
        other.passes = passes
        return other

    def staying(self, numbers: frozenset[int]) -> Pruning:
        """The same where passes of some numbers are never left out."""
        other = copy(self)
        other.wanted_passes = numbers
        return other

    def kept(self, count: int) -> list[int]:
        """Numbers of the passes that stay, so many; more where more of them must.

        Again and again the pass is left out without which the canvas is least farther off. What a pass brings
        is measured anew only when something over or under it is gone.
        """
        left = list(range(len(self.passes)))
        losses = {number: self._loss(number, left) for number in left}
        while len(left) > count:
            going = [n for n in left if self._may_go(n, left)]
            if not going:
                break
            gone = min(going, key=lambda n: losses[n])
            left.remove(gone)
            here = self.passes[gone].pieces
            losses |= {n: self._loss(n, left) for n in left if (self.passes[n].pieces & here).any()}
        return left

    def _loss(self, number: int, left: list[int]) -> float:
        """How much farther off the place of a pass is without it."""
        here = self.passes[number].pieces
        without = self.cost([n for n in left if n != number], here)
        return without - self.cost(left, here)

    def cost(self, numbers: list[int], where: Mask) -> float:
        """How far some pieces (n,) are from the reference after some passes; features weigh most."""
        return self.off(self.after(numbers, where), where)

    def after(self, numbers: Sequence[int], where: Mask, on: Canvas | None = None) -> Canvas:
        """A canvas after some passes, right on some pieces (n,) alone; the bare one where none is given."""
        canvas = self.bare if on is None else on
        for number in numbers:
            one = self.passes[number]
            canvas = canvas if one.into_wet else canvas.dried()
            for operation in one.operations:
                pieces = operation.pieces & where
                if pieces.any():
                    canvas = canvas.do(replace(operation, pieces=pieces))
        return canvas

    def gain(self, number: int) -> Gain:
        """What a pass brings its place to the end, in value and in colour; nothing for lines."""
        here = self.passes[number].pieces
        if not here.any():
            return Gain(0.0, 0.0)
        every = range(len(self.passes))
        wanted, sizes = self.wanted[here], self.bare.patchwork.sizes[here]
        off = []
        for numbers in ([n for n in every if n != number], every):
            lab = self.after(numbers, here).labs()[here]
            steps = np.abs(lab_value(lab) - lab_value(wanted))
            colour = np.hypot(*(lab - wanted)[:, 1:].T)
            off.append([float(np.average(o, weights=sizes)) for o in (steps, colour)])
        (steps_without, colour_without), (steps_with, colour_with) = off
        return Gain(steps_without - steps_with, colour_without - colour_with)

    def off(self, canvas: Canvas, where: Mask) -> float:
        """How far some pieces (n,) of a canvas are from the reference; features weigh most."""
        off = recipe_cost(canvas.labs()[where], self.wanted[where])
        return float((off * self.weight[where]).sum())

    def _needed_by_next(self, number: int, left: list[int]) -> bool:
        """True where the pass after it works on the paint of this one: takes off, smears, repeats it."""
        next_one = left.index(number) + 1
        if next_one == len(left):
            return False
        follower = left[next_one]
        if self.templates[follower].kind == "again":
            return True
        return self.passes[follower].into_wet and self.passes[follower].does in WORKS_ON_WET_PAINT

    def _may_go(self, number: int, left: list[int]) -> bool:
        one, template = self.passes[number], self.templates[number]
        if (
            number in self.wanted_passes
            or (one.does in self.stays and one.hair is None)
            or set(template.regions) == set(Region)
        ):
            return False
        if template.stays and self.manner:
            return False
        if self._needed_by_next(number, left):
            return False
        for region in LIKENESS:
            paints = [
                n
                for n in left
                if region in self.templates[n].regions
                and set(self.templates[n].regions) <= set(FEATURES)
                and self.passes[n].pieces.any()
            ]
            if paints == [number]:
                return False
        return True
