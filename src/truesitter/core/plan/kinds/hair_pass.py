"""Hair: a layer of the hair stage, its strokes along the growth and its mixture as they were found there."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.drawn.painted_lines import line_area_cm2
from truesitter.core.canvas.layer import Layer
from truesitter.core.plan.kinds.tuning import COVERS
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import Thinned


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """Strokes that cover their place count as paint on its pieces; a few hairs do not."""
    hair = step.hair
    if hair is None:
        return "there is no hair to stroke."
    pieces = step.pieces
    if hair.lines:
        drawn = sum(line_area_cm2(line, scene.subject.size_mm) for line in hair.lines)
        area = scene.patchwork.sizes[pieces].sum() * scene.subject.mm_per_px**2 / 100
        if drawn < COVERS * area:
            pieces = np.zeros_like(pieces)
    film = hair.dry if hair.fades else scene.medium.dry(hair.film)
    thinning = scene.medium.thinning
    thinned = (Thinned(thinning.dilution(film)),) if hair.fades else ()
    layer = Layer(pieces, hair.recipe.parts, film, hair.fades, hair.lines)
    paint = film / thinning.strength if hair.fades else hair.film
    return Laid(hair.recipe, (layer,), pieces, hair.film, paint, thinned, said=hair.said)


HAIR = Laying("hair", _lay, "mass", leaves_ground=True)
