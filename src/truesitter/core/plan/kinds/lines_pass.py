"""Lines: strokes of a small brush, in their own tone or the darkest along them; and those drawn first."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.drawn.painted_lines import line_cover
from truesitter.core.canvas.layer import Layer
from truesitter.core.canvas.taking_off import value_on
from truesitter.core.canvas.tuning import LEVELS
from truesitter.core.colour.value import value_to_lightness
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.plan.kinds.tuning import DARKEST, DRAWN_DARKER
from truesitter.core.plan.kinds.wash_pass import judged, wash_parts
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import Thinned


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    subject = scene.subject
    rows, columns, levels = line_cover(step.lines, subject.groups.shape, subject.mm_per_px)
    over = levels >= max(1, min(LEVELS // 4, int(levels.max(initial=0))))
    seen = scene.mapped_lab[rows, columns][over]
    if not len(seen):
        return "none of them lies inside the picture."
    dark = seen[seen[:, 0] <= np.quantile(seen[:, 0], DARKEST)]
    if step.tone is not None and step.tone.any():
        dark = scene.mapped_lab[step.tone]
    recipe = scene.recipe(dark.mean(axis=0, dtype=np.float64), step.regions)
    layer = Layer(step.pieces, recipe.parts, scene.medium.dry(step.film), lines=step.lines)
    return Laid(recipe, (layer,), step.pieces, step.film, step.film)


def _drawn(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    """In the dark earth of the first tone, thinned to be seen on what is there."""
    parts = wash_parts(scene.palette)
    thinning = replace(scene.medium.thinning, film=step.film)
    every = np.ones(len(scene.patchwork.sizes), bool)
    wanted = max(0.0, value_on(canvas, every) - DRAWN_DARKER)
    film = film_for_value(canvas.ground(), parts, canvas.rack, wanted, thinning.thickest)
    dilution = thinning.dilution(film)
    layer = Layer(step.pieces, parts, thinning.dry(dilution), fades=True, lines=step.lines)
    made = judged(parts, scene.palette, np.array((value_to_lightness(wanted), 0.0, 0.0)))
    return Laid(made, (layer,), step.pieces, step.film, step.film, (Thinned(dilution),))


DRAWN = Laying("drawn", _drawn, "lines")

LINES = Laying("lines", _lay, "lines")
