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
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.refusal import Refusal
from truesitter.core.stages.study import Study
from truesitter.core.stages.tuning import PLANNING_LONG_SIDE
from truesitter.core.types import Bytes, Doubles
from truesitter.core.usecases.tuning import FEWEST, NARROWEST, NEAR_MM, SCRATCH_MM


@dataclass(frozen=True)
class Narrowed:
    """A stroke made narrower while it is wet.

    Attributes
    ----------
    before_mm, after_mm
        Its width where it is fullest.
    operations
        What its pass lays with it so.
    """

    before_mm: float
    after_mm: float
    operations: tuple[Operation, ...]


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
    narrowed
        Of a stroke that a cotton bud was drawn along: its width before and after, in mm, and what its pass
        lays now; None for all else.
    """

    does: str
    share: float
    before: float
    after: float
    number: int
    taking: Removal
    dried: bool
    narrowed: Narrowed | None = None

    def picture(self, study: Study) -> Bytes:
        """The canvas then, (h, w, 3) sRGB."""
        plan = study.passes.plan()
        done = [Painting(p.operations, p.into_wet) for p in plan.passes[: self.number]]
        if self.narrowed:
            done[-1] = replace(done[-1], operations=self.narrowed.operations)
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
    lock = _lock_at(study, points[0]) if used.of_a_lock else None
    if lock is not None:
        return _lock_off(study, lock, used, canvas, pressure, number, dried)
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


def _narrowed(study: Study, one: Pass, spot: tuple[float, float], pressure: float) -> Narrowed | None:
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
    return Narrowed(before, before * left, tuple(operations))


def _lock_at(study: Study, spot: tuple[float, float]) -> Lock | None:
    """The lock under a spot."""
    locks = study.hair.locks()
    number = int(locks.numbers[pixel_at(*spot, locks.numbers.shape)])
    return next((lock for lock in locks.locks if lock.number == number), None)


def _lock_off(
    study: Study, lock: Lock, tool: Tool, canvas: Canvas, pressure: float, number: int, dried: bool
) -> TakenOff:
    """One lock lifted off whole: along its spine, as wide as it is."""
    mine = (study.hair.locks().numbers == lock.number).astype(np.uint8)
    labels = canvas.patchwork.labels
    inside = cv2.resize(mine, labels.shape[::-1], interpolation=cv2.INTER_NEAREST) > 0
    counts = np.bincount(labels[inside], minlength=len(canvas.patchwork.sizes))
    pieces = counts > 0
    refused = why_not(tool, canvas, pieces, study.passes.plan().support)
    if refused or not pieces.any():
        raise Refusal(refused or "the lock is smaller than the canvas is planned in")
    dry = goes_dry(tool, canvas, pieces)
    share = share_for_pressure(canvas, pieces, pressure, tool)
    after = canvas.do(Removal(pieces, share, dry))
    values = [float(np.average(c.piece_values(), weights=counts)) for c in (canvas, after)]
    wide = lock.width * study.hair.mm_per_px()
    drawn = Line(lock.spine, _tapering(wide, len(lock.spine)))
    taking = Removal(np.zeros_like(pieces), share, dry, (drawn,))
    return TakenOff(tool.does, share, values[0], values[1], number, taking, dried)
