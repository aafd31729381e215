"""Lights taken out: paint comes off again wherever the reference is lighter than the canvas."""

from __future__ import annotations

from functools import partial

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Removal
from truesitter.core.canvas.taking_off import TOOLS, ToolName, goes_dry, share_for_value, value_on, why_not
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import TAKE_PASS_LEAST_LIGHTER
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import PaintTaken


def _take(tool_name: ToolName, scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """From every value group of the place what brings it nearest to its own value."""
    tool = TOOLS[tool_name]
    refused = why_not(tool, canvas, step.pieces, scene.support)
    if refused:
        return refused
    operations, taken, areas, wanted = [], [], [], []
    for group in np.unique(scene.groups[step.pieces]):
        pieces = step.pieces & (scene.groups == group)
        lab = scene.target(pieces)
        value = float(lab_value(lab))
        if value < value_on(canvas, pieces) + TAKE_PASS_LEAST_LIGHTER or why_not(
            tool, canvas, pieces, scene.support
        ):
            continue
        share, pressure = share_for_value(canvas, pieces, value, tool)
        operations.append(Removal(pieces, share, goes_dry(tool, canvas, pieces)))
        taken.append(PaintTaken(int(group), share, pressure))
        areas.append(float(scene.patchwork.sizes[pieces].sum()))
        wanted.append(lab)
    if not operations:
        return "nothing in its place is lighter than what is there."
    covered = np.any([operation.pieces for operation in operations], axis=0)
    after = canvas
    for operation in operations:
        after = after.do(operation)
    left = np.average(after.labs()[covered], axis=0, weights=scene.patchwork.sizes[covered])
    target = np.average(wanted, axis=0, weights=areas)
    made = Recipe(
        parts={},
        target_lab=as_lab(target),
        predicted=Colour.of(left),
        delta_e=float(delta_e_2000(left, target)),
        value_error=float(lab_value(left) - lab_value(target)),
    )
    return Laid(made, tuple(operations), covered, WetMm(0), 0.0, taken=tuple(taken))


WIPE = Laying("wipe", partial(_take, "rag"), "remove")

ERASE = Laying("erase", partial(_take, "eraser"), "remove")
