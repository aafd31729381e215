"""Smearing: what was painted tight is drawn together while wet, the more the farther from the focus."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Smear
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import SMEARED_OPEN_MINUTES
from truesitter.core.plan.laying import Laid, Laying, Scene, Step


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """Borders of the place as wide as the finish has them; nothing in paint that sets at once."""
    widths = scene.subject.smear_mm
    if widths is None or not (widths > 0).any():
        return "everything is looked at: nothing is smeared."
    if scene.medium.open_minutes[0] < SMEARED_OPEN_MINUTES:
        return f"{scene.medium.name} sets too soon; its borders are softened one by one."
    pieces = step.pieces & (scene.patchwork.sums(widths[..., None])[:, 0] > 0)
    if not pieces.any():
        return "everything in its place is looked at: nothing is smeared."
    colour = np.average(canvas.labs()[pieces], axis=0, weights=scene.patchwork.sizes[pieces])
    wide = widths[widths > 0]
    said = f"From {np.quantile(wide, 0.1):.0f} mm near the focus to {wide.max():.0f} mm farthest off."
    return Laid(
        Recipe.held({}, colour, colour), (Smear(pieces, widths),), pieces, WetMm(0), 0.0, said=said
    )  # fmt: skip


SMEAR = Laying("smear", _lay, "smear")
