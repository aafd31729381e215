"""Hollows of different depth from one puddle: weak paint in all of them, stronger paint into deeper ones."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.dilution import Dilution, Thinning
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.laying import Scene
from truesitter.core.plan.pass_plan import Pass, Thinned
from truesitter.core.plan.size import Pruning
from truesitter.core.plan.tuning import HOLLOWS
from truesitter.core.plan.water.charges import mean_lab, of_a_drop
from truesitter.core.plan.water.tuning import DROP_WET, HOLLOW_RUNS_MM, HOLLOW_STEPS, WEAKEST
from truesitter.core.plan.water.ways import Charge
from truesitter.core.school.school_document import PassTemplate
from truesitter.core.types import Doubles, Mask


def with_strengths(
    passes: Sequence[Pass], templates: Sequence[PassTemplate], canvases: Sequence[Canvas], scene: Scene,
    pruning: Pruning,
) -> list[Pass]:  # fmt: skip
    """Part the hollows of a pass by how dark they are wanted in the end, each as strong as that asks.

    Parameters
    ----------
    passes, templates
        In order, and the school's template of each.
    canvases
        The canvas before the first pass and after each.
    scene
        What they are painted from.
    pruning
        Says how a canvas looks after all passes.

    Returns
    -------
    list[Pass]
        The same passes; those of hollows with charges, where one strength does not serve them all.
    """
    done = list(passes)
    for number, (one, template) in enumerate(zip(passes, templates, strict=True)):
        (first, *others) = one.operations
        if template.band not in HOLLOWS or others or not isinstance(first, Layer) or not first.fades:
            continue
        if one.coats == 1 and len(one.thinned) == 1:
            done[number] = _parted(done, number, first, canvases[number], scene, pruning)
    return done


def _parted(passes: list[Pass], number: int, laid: Layer, on: Canvas, scene: Scene, pruning: Pruning) -> Pass:
    one = passes[number]
    lacking = _lacking(passes, laid.pieces, scene, pruning)
    parts = [
        laid.pieces & (np.abs(lacking) <= HOLLOW_STEPS),
        laid.pieces & (lacking < -HOLLOW_STEPS),
        laid.pieces & (lacking > HOLLOW_STEPS),
    ]
    own = one.thinned[0].dilution
    thinning = replace(scene.medium.thinning, film=one.film)
    chosen = list[tuple[Dilution, Mask]]()
    for part, even in zip(parts, (True, False, False), strict=True):
        if part.any():
            best = (
                own
                if even and own.ratio <= WEAKEST
                else _strength(passes, number, laid, part, scene, pruning, thinning)
            )
            if best is not None:
                chosen.append((best, part))
    if not chosen:
        return one
    one, laid = _only_on(one, laid, np.any([part for _, part in chosen], axis=0), scene)
    chosen.sort(key=lambda one: -one[0].ratio)
    base, stronger = chosen[0][0], [(d, part) for d, part in chosen[1:] if d.ratio < chosen[0][0].ratio]
    if not stronger and base == own:
        return one
    rest = laid.pieces.copy()
    for _, part in stronger:
        rest &= ~part
    found = _based(one, laid, on, base, rest, thinning)
    for dilution, part in stronger:
        found = _with_drop(found, one, laid, on, dilution, part, thinning, scene)
    # What it is to look like there by then, for the end to be right: other washes may go over it.
    after = pruning.of([*passes[:number], found, *passes[number + 1 :]]).after(range(len(passes)), rest)
    missed = mean_lab(after, rest) - scene.target(rest)
    made, seen = found.recipe, np.array(found.recipe.predicted.lab)
    recipe = Recipe.held(made.parts, seen, seen - missed, made.film_mm, made.dilution)
    return replace(found, recipe=recipe)


def _lacking(passes: Sequence[Pass], pieces: Mask, scene: Scene, pruning: Pruning) -> Doubles:
    """Value steps (n,) by which some pieces end lighter than they are wanted."""
    after = pruning.of(passes).after(range(len(passes)), pieces)
    return np.asarray(after.piece_values() - lab_value(scene.sums / scene.patchwork.sizes[:, None]))


def _strength(
    passes: list[Pass],
    number: int,
    laid: Layer,
    part: Mask,
    scene: Scene,
    pruning: Pruning,
    thinning: Thinning,
) -> Dilution | None:
    """The dilution in which some hollows come nearest to their values at the end; None for nothing at all."""
    # Stronger is never lighter: halving finds it.
    ways = [d for d in thinning.every() if not d.blotted and d.ratio <= WEAKEST]
    sizes = scene.patchwork.sizes[part]

    def off(dilution: Dilution | None) -> float:
        tried = () if dilution is None else (replace(laid, pieces=part, film_mm=thinning.dry(dilution)),)
        there = [*passes[:number], replace(passes[number], operations=tried), *passes[number + 1 :]]
        return float(np.average(_lacking(there, part, scene, pruning)[part], weights=sizes))

    low, high = 0, len(ways) - 1
    while high - low > 1:
        middle = (low + high) // 2
        low, high = (low, middle) if off(ways[middle]) > 0 else (middle, high)
    nearest = min((ways[low], ways[high]), key=lambda dilution: abs(off(dilution)))
    # What is hardly a tint is not worth laying for next to nothing.
    hardly = nearest == ways[-1] and abs(off(None)) < abs(off(nearest)) + HOLLOW_STEPS
    return None if hardly else nearest


def _only_on(one: Pass, laid: Layer, pieces: Mask, scene: Scene) -> tuple[Pass, Layer]:
    """A pass and its layer without the hollows that need none of it."""
    if pieces[laid.pieces].all():
        return one, laid
    sizes = scene.patchwork.sizes
    left = float(sizes[pieces].sum() / sizes[laid.pieces].sum())
    layer = replace(laid, pieces=pieces)
    return replace(
        one, pieces=pieces, operations=(layer,), area_cm2=one.area_cm2 * left, ml=one.ml * left
    ), layer


def _based(one: Pass, laid: Layer, on: Canvas, dilution: Dilution, where: Mask, thinning: Thinning) -> Pass:
    """A pass in another strength; its colour is that of some of its pieces."""
    film = thinning.dry(dilution)
    layer, there = replace(laid, film_mm=film), where if where.any() else laid.pieces
    recipe = one.recipe.seen_as(mean_lab(on.do(layer), there))
    assert laid.film_mm is not None
    return replace(
        one, operations=(layer,), thinned=(Thinned(dilution),), ml=one.ml * float(film / laid.film_mm),
        recipe=replace(recipe, film_mm=film, dilution=dilution),
    )  # fmt: skip


def _with_drop(
    found: Pass, before: Pass, laid: Layer, on: Canvas, dilution: Dilution, part: Mask, thinning: Thinning,
    scene: Scene,
) -> Pass:  # fmt: skip
    """With stronger paint of the same puddle in some of its pieces."""
    base = found.thinned[0].dilution
    film = DryMm(thinning.dry(dilution) - thinning.dry(base))
    drop = replace(laid, pieces=part, film_mm=film, wet=laid.pieces, runs_mm=HOLLOW_RUNS_MM)
    assert laid.film_mm is not None
    sizes = scene.patchwork.sizes
    share = float(sizes[part].sum() / sizes[laid.pieces].sum()) * float(film / laid.film_mm)
    after = on.do(found.operations[0]).do(drop)
    drops = replace(scene.medium.thinning, film=WetMm(found.film * DROP_WET))
    charge = Charge(
        before.key, dict(before.mix), dict(drop.parts), dict(before.recipe.parts),
        of_a_drop(drops, film, found), part, before.ml * share, Colour.of(mean_lab(after, part)), True,
    )  # fmt: skip
    return replace(
        found, operations=(*found.operations, drop), charges=(*found.charges, charge), ml=found.ml + charge.ml
    )
