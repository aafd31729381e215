"""A trial: what comes back when paint is taken off the canvas after one of the passes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.canvas.layer import Removal
from truesitter.core.canvas.painted import Painting, paint
from truesitter.core.canvas.taking_off import TOOLS, ToolName, goes_dry, share_for_pressure, value_on, why_not
from truesitter.core.imaging.line import Line
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.imaging.reduce import reduced_labels
from truesitter.core.refusal import Refusal
from truesitter.core.stages.study import Study
from truesitter.core.stages.tuning import PLANNING_LONG_SIDE
from truesitter.core.types import Bytes, Doubles
from truesitter.core.usecases.tuning import FEWEST, SCRATCH_MM


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
    """

    does: str
    share: float
    before: float
    after: float
    number: int
    taking: Removal
    dried: bool

    def picture(self, study: Study) -> Bytes:
        """The canvas then, (h, w, 3) sRGB."""
        plan = study.passes.plan()
        done = [Painting(p.operations, p.into_wet) for p in plan.passes[: self.number]]
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
    used, canvas = TOOLS[tool], plan.canvases[number - 1]
    patchwork = canvas.patchwork
    if dried:
        canvas = canvas.dried()
    regions = patchwork.at(reduced_labels(study.sitter.regions().labels, PLANNING_LONG_SIDE))
    groups = patchwork.at(reduced_labels(study.values.plan().labels, PLANNING_LONG_SIDE))
    at = np.array([patchwork.labels[pixel_at(x, y, patchwork.labels.shape)] for x, y in points])
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
