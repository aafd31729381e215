"""Scratching: lines drawn with the handle of the brush into paint that is still wet."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Removal
from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import HANDLE_MM, LEFT, SCRATCH_PASS_LEAST_LIGHTER
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.types import Doubles


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


SCRATCH = Laying("scratch", _lay, "remove")
