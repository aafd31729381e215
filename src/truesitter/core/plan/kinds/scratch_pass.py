"""Lines taken out: scratched into wet paint with the handle of the brush, or out of dry paint."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.brushes.line_tools import widths_mm
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Removal
from truesitter.core.canvas.taking_off import TOOLS, share_for_value, why_not
from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import (
    HAIR_TOP,
    HANDLE_MM,
    LEFT,
    SCRATCH_PASS_LEAST_LIGHTER,
    TAKES_LINES,
)
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.types import Doubles, Mask


def _at(canvas: Canvas, step: Step) -> Doubles:
    """Mean L*a*b* of the canvas at the roots of the lines."""
    shape = canvas.patchwork.labels.shape
    pieces = [
        int(canvas.patchwork.labels[pixel_at(float(line.points[0, 0]), float(line.points[0, 1]), shape)])
        for line in step.lines
    ]
    spectra = canvas.spectra[canvas.stack[pieces]]
    return np.asarray(reflectance_to_lab(leave_surface(spectra)).mean(axis=0))


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """What the handle brings back of the paint below; only out of what is still open."""
    if not step.lines:
        return "there is no line to scratch."
    everywhere = np.ones(len(canvas.stack), bool)
    if not canvas.open_on(everywhere):
        return "nothing there is open any more: scratch while the paint is wet."
    lines = tuple(
        replace(line, widths_mm=np.minimum(np.maximum(line.widths_mm, HANDLE_MM / 2), HANDLE_MM))
        for line in step.lines
    )
    before = _at(canvas, step)
    after = _at(canvas.do(Removal(everywhere, LEFT)), step)
    if float(lab_value(after)) - float(lab_value(before)) < SCRATCH_PASS_LEAST_LIGHTER:
        return "what lies below is no lighter than what would be scratched away."
    made = Recipe(
        parts={},
        target_lab=as_lab(after),
        predicted=Colour.of(after),
        delta_e=0.0,
        value_error=0.0,
    )
    operation = Removal(step.pieces, LEFT, lines=lines)
    said = "A firm hand bares the layer below; a light one only thins the paint."
    return Laid(made, (operation,), step.pieces, WetMm(0), 0.0, said=said)


def _dry(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """Lines of light hair out of dry coats, as far as the light asks: with an eraser's edge or a needle."""
    if not step.lines or step.tone is None or not step.tone.any():
        return "there is no line to take out."
    pieces = np.bincount(scene.patchwork.labels[step.tone], minlength=len(scene.patchwork.sizes)) > 0
    eraser = TOOLS["eraser"]
    refused = why_not(eraser, canvas, pieces, scene.support)
    if refused:
        return refused
    width, _ = widths_mm(step.lines)
    tool = next(word for word, from_mm in TAKES_LINES if width >= from_mm)
    lights = scene.mapped_lab[step.tone]
    wanted = lights[lights[:, 0] >= np.quantile(lights[:, 0], HAIR_TOP)].mean(axis=0, dtype=np.float64)
    share, pressure = share_for_value(canvas, pieces, float(lab_value(wanted)), eraser)
    before, after = (_mean(c, pieces) for c in (canvas, canvas.do(Removal(pieces, share, dry=True))))
    if float(lab_value(after)) - float(lab_value(before)) < SCRATCH_PASS_LEAST_LIGHTER:
        return "what lies there is as light already."
    made = Recipe.held({}, after, wanted)
    operation = Removal(step.pieces, share, dry=True, lines=step.lines)
    said = f"Take about {pressure:.0%} of what it can."
    return Laid(made, (operation,), step.pieces, WetMm(0), 0.0, said=said, tool=tool)


def _mean(canvas: Canvas, pieces: Mask) -> Doubles:
    """Mean L*a*b* of some pieces, by area, (3,)."""
    return np.asarray(np.average(canvas.labs()[pieces], axis=0, weights=canvas.patchwork.sizes[pieces]))


SCRATCH = Laying("scratch", _lay, "remove")

LINES_OUT = Laying("lines out", _dry, "remove")
