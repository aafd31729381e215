"""The unifying glaze: a thin film over shadows and halftones that draws them together."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.spaces import WARM_AXIS, as_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.paint.layered.glazes import glaze_over_all
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import (
    FARTHER,
    FARTHER_STEPS,
    GLAZE_DARKER,
    GLAZE_PASS_LEAST_GAIN,
    GLAZE_TURN,
)
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import Thinned
from truesitter.core.types import Doubles

NOTHING = "no thin film from this palette brings the shadows and halftones nearer to the reference."

UNTURNED = "no thin film from this palette does that to the hair."


def _wanted(step: Step, there: Doubles, reference: Doubles) -> Doubles:
    """Colours (n, 3) that a glaze is solved for: the reference, or what it shall do to what is there."""
    purpose = step.hair.purpose if step.hair else None
    if purpose not in GLAZE_DARKER:
        return reference
    asked = there.copy()
    asked[:, 0] = value_to_lightness(np.maximum(lab_value(there) - GLAZE_DARKER[purpose], 0.0))
    asked[:, 1:] += np.multiply(WARM_AXIS, GLAZE_TURN.get(purpose, 0.0))
    return asked


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """The thin film, of one or two tubes, that brings a place nearest to its reference.

    Every stack of the place is compared with the mean reference colour over it;
    the gain is the area-weighted fall in ΔE2000. What it would bring farther off is spared.
    """
    stacks, which = np.unique(canvas.stack[step.pieces], return_inverse=True)
    area = np.bincount(which, weights=scene.patchwork.sizes[step.pieces]).astype(float)
    sums = [np.bincount(which, weights=channel) for channel in scene.sums[step.pieces].T]
    below, thinning = canvas.spectra[stacks], scene.medium.thinning
    there = reflectance_to_lab(leave_surface(below))
    wanted = _wanted(step, there, np.stack(sums, axis=1) / area[:, None])
    cost, off = recipe_cost(there, wanted), np.abs(lab_value(there) - lab_value(wanted))
    glazed = np.ones(len(stacks), bool)
    while True:
        best = glaze_over_all(below[glazed], wanted[glazed], area[glazed], scene.palette, thinning)
        if best is None or best.error_before - best.error_after < GLAZE_PASS_LEAST_GAIN:
            return NOTHING if step.hair is None else UNTURNED
        # Value first: a hue is not bought with it.
        steps = np.abs(lab_value(best.labs) - lab_value(wanted[glazed]))
        farther = recipe_cost(best.labs, wanted[glazed]) > cost[glazed] + FARTHER
        farther |= steps > off[glazed] + FARTHER_STEPS
        if farther.all():
            return NOTHING if step.hair is None else UNTURNED
        if not farther.any():
            break
        glazed[np.flatnonzero(glazed)[farther]] = False
    pieces = step.pieces
    if not glazed.all():
        pieces = step.pieces.copy()
        pieces[step.pieces] = glazed[which]
    area, wanted = area[glazed], wanted[glazed]
    share = area / area.sum()
    mean, target = share @ best.labs, share @ wanted
    made = Recipe(
        parts=best.parts,
        target_lab=as_lab(target),
        predicted=Colour.of(mean),
        delta_e=best.error_after,
        value_error=float(lab_value(mean) - lab_value(target)),
        film_mm=best.mm,
        dilution=best.dilution,
    )
    layers = (Layer(pieces, best.parts, best.mm, fades=True),)
    paint = best.mm / thinning.strength
    spared = (
        "" if glazed.all() else "Spare what is as it should be: with the tip of the brush, not its side. "
    )
    said = spared + (
        f"It draws the hues together: they lie {best.spread_before:.0f}° apart before it "
        f"and {best.spread_after:.0f}° after."
        if best.spread_after < best.spread_before - 1
        else ""
    )
    return Laid(
        made, layers, pieces, thinning.film, paint, (Thinned(best.dilution),), said=said.strip()
    )  # fmt: skip


GLAZE = Laying("glaze", _lay, "glaze", leaves_ground=True)
