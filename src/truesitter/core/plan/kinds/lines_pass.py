"""Lines: strokes of a small brush, in their own tone or in that of what is darkest along them."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.drawn.painted_lines import line_cover
from truesitter.core.canvas.layer import Layer
from truesitter.core.canvas.tuning import LEVELS
from truesitter.core.plan.kinds.tuning import DARKEST
from truesitter.core.plan.laying import Laid, Laying, Scene, Step


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


LINES = Laying("lines", _lay, "lines")
