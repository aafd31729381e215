"""First coats in hollows, as strong as the washes over them let them be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.paint.media.dilution import Thinning
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.heaps import thinned_by
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.plan.size import Pruning
from truesitter.core.plan.tuning import FIRST_COATS, WEAKER
from truesitter.core.school.school_document import PassTemplate


def with_weaker_first_coats(
    passes: Sequence[Pass], templates: Sequence[PassTemplate], pruning: Pruning, thinning: Thinning
) -> list[Pass]:
    """The same passes, those laid first in hollows thinned until their places end nearest to the sitter.

    Each was planned for its place as it should be in the end; all that is washed over it afterwards makes it
    darker than that.

    Parameters
    ----------
    passes, templates
        In order, and the school's template of each.
    pruning
        Says how far a canvas is from the sitter.
    thinning
        Of the medium.
    """
    done = list(passes)
    for number, template in enumerate(templates):
        first = done[number]
        if template.band not in FIRST_COATS or not first.thinned or not first.pieces.any():
            continue
        tried = [first, *(thinned_by(first, strength, thinning) for strength in WEAKER)]
        costs = []
        for one in tried:
            done[number] = one
            costs.append(pruning.of(done).cost(list(range(len(done))), first.pieces))
        best = tried[int(np.argmin(costs))]
        done[number] = best if best is first else _told_as_seen(best, done[:number], pruning.bare)
    return done


def _told_as_seen(one: Pass, before: Sequence[Pass], bare: Canvas) -> Pass:
    """With the colour that it has on the canvas, which is all that is wanted of it."""
    canvas = bare
    for each in (*before, one):
        canvas = canvas if each.into_wet else canvas.dried()
        for operation in each.operations:
            canvas = canvas.do(operation)
    sizes = canvas.patchwork.sizes[one.pieces]
    lab = np.average(canvas.labs()[one.pieces], axis=0, weights=sizes)
    recipe = one.recipe
    return replace(one, recipe=Recipe.held(recipe.parts, lab, lab, recipe.film_mm, recipe.dilution))
