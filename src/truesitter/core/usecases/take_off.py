"""A trial: what comes back when paint is taken off the canvas after one of the passes."""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer, Operation, Removal
from truesitter.core.canvas.painted import Painting, paint
from truesitter.core.canvas.taking_off import (
    TOOLS,
    Tool,
    ToolName,
    goes_dry,
    share_for_pressure,
    value_on,
    why_not,
)
from truesitter.core.hair.locks.lock_shapes import Lock
from truesitter.core.imaging.line import Line
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.imaging.reduce import reduced_labels
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.refusal import Refusal
from truesitter.core.stages.study import Study
from truesitter.core.stages.tuning import PLANNING_LONG_SIDE
from truesitter.core.types import Bytes, Doubles, Ints
from truesitter.core.usecases.tuning import FEWEST, NARROWEST, NEAR_MM, SCRATCH_MM


@dataclass(frozen=True)
class Relaid:
    """Strokes of a pass mended while they are wet.

    Attributes
    ----------
    operations
        What the pass lays with them so.
    width_mm
        Of a stroke that was narrowed, before and after; None where none was.
    """

    operations: tuple[Operation, ...]
    width_mm: tuple[float, float] | None = None


@dataclass(frozen=True)
class TakenOff:
    """What a trial came to.

    Attributes
    ----------
    does, share
        What the tool does, and the part of the films it leaves.
    before, after
        Value of the place; the same for a scratched line, whose place is itself.
    number, taking, dried
        What is done after which pass, and whether all had dried by then.
    relaid
        Where single strokes are mended: how their pass lies then; None for all else.
    """

    does: str
    share: float
    before: float
    after: float
    number: int
    taking: Removal
    dried: bool
    relaid: Relaid | None = None

    def picture(self, study: Study) -> Bytes:
        """The canvas then, (h, w, 3) sRGB."""
        plan = study.passes.plan()
        done = [Painting(p.operations, p.into_wet) for p in plan.passes[: self.number]]
        if self.relaid:
            done[-1] = replace(done[-1], operations=self.relaid.operations)
            rack = study.flesh.palette().rack
            return paint(study.passes.borders(), done, plan.support, rack).picture(self.number)
        done.append(Painting((self.taking,), not self.dried))
        rack = study.flesh.palette().rack
        return paint(study.passes.borders(), done, plan.support, rack).picture(self.number + 1)


def take_off(
    study: Study,
    number: int,
    tool: ToolName,
    pressure: float,
    dried: bool,
    points: tuple[tuple[float, float], ...],
) -> TakenOff:
    """Take paint off after a pass, where one spot says: on its value group in its region; or along a line.

    Parameters
    ----------
    number
        Of the pass it comes after, from 1.
    tool, pressure
        With what, and how hard, 0–1: the value moves evenly with it.
    dried
        True when everything has dried by then.
    points
        x, y in fractions: one spot, or the line of a tool that draws lines.

    Raises
    ------
    Refusal
        Where nothing comes off, or there is no such pass.
    """
    plan = study.passes.plan()
    if not 1 <= number <= len(plan.passes):
        raise Refusal(f"this plan has passes 1 to {len(plan.passes)}")
    if not points or (TOOLS[tool].lines and len(points) < FEWEST):
        raise Refusal("a scratch is a line: draw it" if points else "press where paint is to come off")
    if tool == "cotton bud" and not dried:
        found = _narrowed(study, plan.passes[number - 1], points[0], pressure)
        if found is not None:
            value = value_at(plan.canvases[number - 1], points[0])
            nothing = Removal(np.zeros_like(plan.passes[number - 1].pieces), 1.0)
            return TakenOff("narrowed", 1.0, value, value, number, nothing, False, found)
    used, canvas = TOOLS[tool], plan.canvases[number - 1]
    patchwork = canvas.patchwork
    if dried:
        canvas = canvas.dried()
    regions = patchwork.at(reduced_labels(study.sitter.regions().labels, PLANNING_LONG_SIDE))
    groups = patchwork.at(reduced_labels(study.values.plan().labels, PLANNING_LONG_SIDE))
    at = np.array([patchwork.labels[pixel_at(x, y, patchwork.labels.shape)] for x, y in points])
    lock = _lock_at(study, points[0]) if used.of_a_lock and not dried else None
    lifted = _lock_off(study, lock, used, canvas, pressure, number) if lock else None
    if lifted is not None:
        return lifted
    if used.lines:
        pieces = np.isin(np.arange(len(regions)), at)
    else:
        pieces = (regions == regions[at[0]]) & (groups == groups[at[0]])
    refused = why_not(used, canvas, pieces, plan.support)
    if refused:
        raise Refusal(refused)
    dry = goes_dry(used, canvas, pieces)
    before = value_on(canvas, pieces)
    share = share_for_pressure(canvas, pieces, pressure, used)
    if used.lines:
        width = SCRATCH_MM[0] + (SCRATCH_MM[1] - SCRATCH_MM[0]) * pressure
        drawn = Line(np.array(points), _tapering(width, len(points)))
        taking = Removal(np.zeros_like(pieces), share, dry, (drawn,))
    else:
        taking = Removal(pieces, share, dry)
    after = value_on(canvas.do(Removal(pieces, share, dry)), pieces)
    return TakenOff(used.does, share, before, after, number, taking, dried)


def _tapering(width: float, count: int) -> Doubles:
    """Widths of a line that begins and ends at a third of its middle."""
    return np.asarray(width * (1 / 3 + 2 / 3 * np.sin(np.linspace(0, np.pi, count))))


def value_at(canvas: Canvas, spot: tuple[float, float]) -> float:
    """Value of the piece under a spot, x, y in fractions."""
    labels = canvas.patchwork.labels
    return float(canvas.piece_values()[labels[pixel_at(*spot, labels.shape)]])


def _narrowed(study: Study, one: Pass, spot: tuple[float, float], pressure: float) -> Relaid | None:
    """The stroke of a pass that lies nearest to a spot, made narrower; None where none lies near."""
    size = np.array(study.passes.subject().size_mm)
    near, nearest = NEAR_MM, None
    for n, operation in enumerate(one.operations):
        for k, line in enumerate(operation.lines if isinstance(operation, Layer) else ()):
            off = float(np.hypot(*((line.points - spot) * size).T).min())
            if off <= near:
                near, nearest = off, (n, k)
    if nearest is None:
        return None
    n, k = nearest
    operations = list(one.operations)
    layer = operations[n]
    assert isinstance(layer, Layer)
    lines, before = list(layer.lines), float(layer.lines[k].widths_mm.max())
    left = 1 - (1 - NARROWEST) * pressure
    lines[k] = replace(lines[k], widths_mm=lines[k].widths_mm * left)
    operations[n] = replace(layer, lines=tuple(lines))
    return Relaid(tuple(operations), (before, before * left))


def _lock_at(study: Study, spot: tuple[float, float]) -> Lock | None:
    """The lock under a spot."""
    locks = study.hair.locks()
    number = int(locks.numbers[pixel_at(*spot, locks.numbers.shape)])
    return next((lock for lock in locks.locks if lock.number == number), None)


def _lock_off(
    study: Study, lock: Lock, tool: Tool, canvas: Canvas, pressure: float, number: int
) -> TakenOff | None:
    """The strokes of a pass that lie in a lock, lifted off with it; None where it has none there."""
    numbers, one = study.hair.locks().numbers, study.passes.plan().passes[number - 1]
    operations, mine = list[Operation](), 0
    inside = [
        [_mostly(line, numbers, lock.number) for line in o.lines] if isinstance(o, Layer) else []
        for o in one.operations
    ]
    if not any(any(row) for row in inside):
        return None
    labels = canvas.patchwork.labels
    under = cv2.resize((numbers == lock.number).astype(np.uint8), labels.shape[::-1]) > 0
    counts = np.bincount(labels[under], minlength=len(canvas.patchwork.sizes))
    pieces = counts > 0
    refused = why_not(tool, canvas, pieces, study.passes.plan().support)
    if refused:
        raise Refusal(refused)
    share = share_for_pressure(canvas, pieces, pressure, tool)
    for operation, row in zip(one.operations, inside, strict=True):
        if not isinstance(operation, Layer) or operation.film_mm is None or not any(row):
            operations.append(operation)
            continue
        for lifted in (False, True):
            lines = tuple(line for line, there in zip(operation.lines, row, strict=True) if there == lifted)
            if lines:
                film = DryMm(operation.film_mm * (share if lifted else 1.0))
                operations.append(replace(operation, lines=lines, film_mm=film))
        mine += sum(row)
    after = canvas.do(Removal(pieces, share))
    values = [float(np.average(c.piece_values(), weights=counts)) for c in (canvas, after)]
    return TakenOff(
        f"{mine} strokes {tool.does}", share, values[0], values[1], number, Removal(pieces, share), False,
        Relaid(tuple(operations)),
    )  # fmt: skip


def _mostly(line: Line, numbers: Ints, number: int) -> bool:
    """Whether most of a line lies in a lock."""
    at = [pixel_at(float(x), float(y), numbers.shape) for x, y in line.points]
    rows, columns = np.transpose(at)
    return bool((numbers[rows, columns] == number).mean() > 0.5)
