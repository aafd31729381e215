"""First coats in hollows, as strong as the washes over them let them be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.paint.media.dilution import Thinning
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.heaps import thinned_by
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.plan.size import Pruning
from truesitter.core.plan.tuning import FIRST_COATS, WEAKER
from truesitter.core.school.school_document import PassTemplate
from truesitter.core.types import Mask


def with_weaker_first_coats(
    passes: Sequence[Pass], templates: Sequence[PassTemplate], pruning: Pruning, thinning: Thinning
) -> list[Pass]:
    """The same passes, those laid first in hollows thinned until their places end nearest to the sitter.

    Each was planned for its place as it should be in the end; all that is washed over it afterwards makes it
    darker than that. Washes that were kept off a hollow that was dark enough are carried on over it.

    Parameters
    ----------
    passes, templates
        In order, and the school's template of each.
    pruning
        Says how far a canvas is from the sitter.
    thinning
        Of the medium.
    """
    best = list(passes)
    for number, template in enumerate(templates):
        first = best[number]
        if template.band not in FIRST_COATS or not first.thinned or not first.pieces.any():
            continue
        nearest = pruning.of(best).cost(list(range(len(best))), first.pieces)
        before = list(best)
        for strength in WEAKER:
            before[number] = thinned_by(first, strength, thinning)
            tried, canvas = _carried_on(before, number, pruning.bare)
            off = pruning.off(canvas, first.pieces)
            if off < nearest:
                best, nearest = tried, off
    return best


def _carried_on(passes: Sequence[Pass], first: int, bare: Canvas) -> tuple[list[Pass], Canvas]:
    """Passes with nested washes carried on over the place of the first of them, and the canvas there."""
    hollow, done, canvas = passes[first].pieces, list(passes), bare
    for number, planned in enumerate(passes):
        canvas = canvas if planned.into_wet else canvas.dried()
        more = _narrower(passes, number) & hollow if number > first else np.zeros_like(hollow)
        one = _over(planned, more, canvas)
        for operation in one.operations:
            pieces = operation.pieces & hollow
            if pieces.any():
                canvas = canvas.do(replace(operation, pieces=pieces))
        done[number] = _told_as_seen(one, canvas) if number == first else one
    return done, canvas


def _narrower(passes: Sequence[Pass], number: int) -> Mask:
    """Where the washes that follow on a nested wash lie (n,)."""
    root, _, step = passes[number].key.rpartition("-")
    out = np.zeros_like(passes[number].pieces)
    for later in passes[number + 1 :] if step.isdigit() else ():
        if later.key.rpartition("-")[0] == root:
            out |= later.pieces
    return out


def _over(one: Pass, more: Mask, canvas: Canvas) -> Pass:
    """A wash laid on more pieces too."""
    added = more & ~one.pieces
    laid = [o for o in one.operations if isinstance(o, Layer)]
    if len(laid) != 1 or len(one.operations) != 1 or not laid[0].fades or not added.any():
        return one
    sizes, pieces = canvas.patchwork.sizes, one.pieces | added
    part = float(sizes[pieces].sum() / sizes[one.pieces].sum())
    layer = replace(laid[0], pieces=laid[0].pieces | added)
    return replace(one, pieces=pieces, operations=(layer,), area_cm2=one.area_cm2 * part, ml=one.ml * part)


def _told_as_seen(one: Pass, canvas: Canvas) -> Pass:
    """With the colour that it has on the canvas, which is all that is wanted of it."""
    lab = np.average(canvas.labs()[one.pieces], axis=0, weights=canvas.patchwork.sizes[one.pieces])
    recipe = one.recipe
    return replace(one, recipe=Recipe.held(recipe.parts, lab, lab, recipe.film_mm, recipe.dilution))
