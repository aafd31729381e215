"""A second coat of the same thin mixture, only where one coat has not brought the canvas far enough."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import AGAIN_PASS_LEAST_GAIN, SMALLEST_CM2
from truesitter.core.plan.laying import Laid, Laying, Scene, Step


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """The last thin coat once more, at the same dilution, on the pieces that it brings nearer."""
    last = step.last
    if last is None:
        return "no thin coat lies under it."
    pieces = step.pieces & last.pieces
    layers = [d for d in last.operations if isinstance(d, Layer)]
    after = canvas
    for layer in layers:
        after = after.do(replace(layer, pieces=layer.pieces & pieces))
    wanted = scene.sums / scene.patchwork.sizes[:, None]
    gain = delta_e_2000(canvas.labs(), wanted) - delta_e_2000(after.labs(), wanted)
    pieces = pieces & (gain >= AGAIN_PASS_LEAST_GAIN)
    area = scene.patchwork.sizes[pieces].sum() * scene.subject.mm_per_px**2 / 100
    if area < SMALLEST_CM2:
        return "one coat is enough everywhere."
    operations = tuple(
        replace(d, pieces=d.pieces & pieces) for d in layers if bool((d.pieces & pieces).any())
    )
    done = canvas
    for operation in operations:
        done = done.do(operation)
    sizes = scene.patchwork.sizes[pieces]
    lab = np.average(done.labs()[pieces], axis=0, weights=sizes)
    first = last.recipe
    made = Recipe.held(first.parts, lab, scene.target(pieces), first.film_mm, first.dilution)
    drop = float(np.average(canvas.piece_values()[pieces] - done.piece_values()[pieces], weights=sizes))
    said = f"The same mixture, no thinner and no thicker: it darkens what is there by {drop:.1f} more."
    return replace(last, recipe=made, operations=operations, pieces=pieces, said=said)


AGAIN = Laying("again", _lay, "glaze", leaves_ground=True)
