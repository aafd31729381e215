"""Lights taken out: an even tone of a dark earth, and paint that comes off where the picture is lighter."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer, Removal
from truesitter.core.canvas.taking_off import TOOLS, ToolName, goes_dry, share_for_value, value_on, why_not
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import TAKE_PASS_LEAST_LIGHTER, TONE_PASS_DARKER
from truesitter.core.plan.kinds.wash_pass import judged, wash_parts
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import PaintTaken, Thinned


def _tone(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    parts = wash_parts(scene.palette)
    ground = canvas.ground()
    below = reflectance_to_lab(leave_surface(ground))
    thinning = replace(scene.medium.thinning, film=step.film)
    value = float(lab_value(below)) - TONE_PASS_DARKER
    dilution = thinning.dilution(film_for_value(ground, parts, canvas.rack, value, thinning.thickest))
    layer = Layer(step.pieces, parts, thinning.dry(dilution), fades=True)
    toned = np.average(
        canvas.do(layer).labs()[step.pieces], axis=0, weights=scene.patchwork.sizes[step.pieces]
    )
    made = judged(parts, scene.palette, toned)
    paint = layer.film_mm / thinning.strength if layer.film_mm else 0.0
    return Laid(made, (layer,), step.pieces, step.film, paint, (Thinned(dilution),))


TONE = Laying("tone", _tone, "wash", leaves_ground=True)


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
    made = Recipe.held({}, left, target)
    return Laid(made, tuple(operations), covered, WetMm(0), 0.0, taken=tuple(taken))


WIPE = Laying("wipe", partial(_take, "rag"), "remove")

ERASE = Laying("erase", partial(_take, "eraser"), "remove")
