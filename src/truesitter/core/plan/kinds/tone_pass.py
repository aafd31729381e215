"""The tone: one dark earth, thin, evenly over its whole place, to take lights out of again."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.plan.kinds.tuning import TONE_PASS_DARKER
from truesitter.core.plan.kinds.wash_pass import judged, wash_parts
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import Thinned


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid:
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


TONE = Laying("tone", _lay, "wash", leaves_ground=True)
