"""A wash of watercolour: over everything darker than its own tone, as strong as its own tone still needs."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.paint.media.dilution import Dilution, Thinning
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import ACCENT_CM2, ACCENT_STEPS, LEAST_DARKER, LIGHTENS, RIM_STEPS
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import Thinned
from truesitter.core.plan.water.tuning import HOLLOW_WEAKEST
from truesitter.core.plan.water.wash_over import Beneath, in_coats, wash_over
from truesitter.core.types import Doubles, Mask


def beneath(scene: Scene, canvas: Canvas, pieces: Mask) -> Beneath:
    """The mean of what lies on some pieces, by area.

    Parameters
    ----------
    scene
        All that a kind of pass may ask.
    canvas
        The canvas as it is.
    pieces
        (n,) pieces of the patchwork that are meant.

    Returns
    -------
    Beneath
        What shines through.
    """
    weights = scene.patchwork.sizes[pieces]
    return Beneath(np.average(canvas.spectra[canvas.stack[pieces]], axis=0, weights=weights))


def darkened(canvas: Canvas, layer: Layer) -> Mask:
    """Pieces of a layer that it does not lighten: tubes that scatter veil what is dark already."""
    kept = canvas.do(layer).piece_values() <= canvas.piece_values() + LIGHTENS
    # The same array where nothing is left out: its brush is measured already.
    return layer.pieces if kept[layer.pieces].all() else layer.pieces & kept


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    step = _short_of_hollows(scene, step, canvas)
    aim = step.wanted & step.pieces
    if step.spares and not aim.any():
        aim = step.pieces
    if not aim.any():
        return "there is nothing of its tone."
    under = beneath(scene, canvas, aim)
    laid = washed(scene, step, canvas, under, scene.target(aim), scene.medium.thinning)
    if not step.spares or isinstance(laid, str):
        return laid
    kept = _not_too_dark(scene, canvas, laid)
    if kept[laid.pieces].all() or not kept.any():
        return laid
    # The rim of a hollow is left to the washes; what is left of it asks for stronger paint.
    return _lay(scene, replace(step, pieces=kept), canvas)


def _not_too_dark(scene: Scene, canvas: Canvas, laid: Laid) -> Mask:
    """Pieces (n,) that a strong wash, or a weaker one of its puddle, makes hardly darker than wanted."""
    (layer,) = laid.operations
    assert isinstance(layer, Layer)
    assert layer.film_mm is not None
    weakest = layer.film_mm if laid.coats > 1 else scene.medium.thinning.dry(Dilution(1, HOLLOW_WEAKEST))
    after = canvas.do(replace(layer, film_mm=min(layer.film_mm, weakest)))
    wanted = lab_value(scene.sums / scene.patchwork.sizes[:, None])
    return laid.pieces & (after.piece_values() >= wanted - RIM_STEPS)


def _short_of_hollows(scene: Scene, step: Step, canvas: Canvas) -> Step:
    """A step that stops at hollows which are as dark as they are wanted."""
    if step.hollows is None or not (step.hollows & step.pieces).any():
        return step
    wanted = lab_value(scene.sums / scene.patchwork.sizes[:, None])
    done = step.hollows & (canvas.piece_values() - wanted < LEAST_DARKER)
    return replace(step, pieces=step.pieces & ~done)


def washed(
    scene: Scene, step: Step, canvas: Canvas, under: Beneath, wanted: Doubles, thinning: Thinning
) -> Laid | str:
    """A wash that brings what lies beneath to a colour, or in words why none is laid.

    Parameters
    ----------
    scene, step, canvas
        All that a kind of pass may ask, its place, and the canvas as it is.
    under
        What the wash is reckoned over.
    wanted
        (3,) L*a*b*.
    thinning
        How it is thinned, and its film.
    """
    if float(lab_value(reflectance_to_lab(under.seen()))) - float(lab_value(wanted)) < LEAST_DARKER:
        return "what lies there is dark enough already."
    made = wash_over(scene.clear, scene.wishes_at(step.regions), under, wanted)
    most = scene.clear.thinning.thickest
    # Parts give the hue, water gives the value: the film of the best shares, or one as dark as is wanted.
    as_dark = film_for_value(under.internal(), made.parts, scene.clear.rack, float(lab_value(wanted)), most)
    films = [in_coats(film or thinning.thinnest, thinning) for film in (made.film_mm, as_dark)]
    tried = [_seen(made, scene, under, coats * thinning.dry(dilution), dilution) for coats, dilution in films]
    costs = [float(recipe_cost(np.array(t.predicted.lab), wanted)) for t in tried]
    best = int(np.argmin(costs))
    (coats, dilution), seen = films[best], tried[best]
    film = DryMm(coats * thinning.dry(dilution))
    layer = Layer(darkened(canvas, Layer(step.pieces, made.parts, film, fades=True)), made.parts, film, True)
    said = "" if coats == 1 else f"Too strong for one wash: lay it in {coats}, each dry before the next."
    return Laid(
        seen, (layer,), layer.pieces, thinning.film,
        film / thinning.strength, (Thinned(dilution),), said=said, coats=coats,
    )  # fmt: skip


def _seen(made: Recipe, scene: Scene, under: Beneath, dry_mm: float, dilution: Dilution) -> Recipe:
    """A recipe as it looks in a dry film of a dilution."""
    film = DryMm(dry_mm)
    on = replace(scene.clear, washes_on=under)
    seen = mix({key: float(n) for key, n in made.parts.items()}, on, film)
    return Recipe.held(made.parts, np.array(seen.lab), np.array(made.target_lab), film, dilution)


def _accent(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """Only where the canvas is plainly too light still: an accent is small and strong, or it is none."""
    wanted = scene.sums / scene.patchwork.sizes[:, None]
    lacking = step.pieces & (canvas.piece_values() - lab_value(wanted) >= ACCENT_STEPS)
    area = scene.patchwork.sizes[lacking].sum() * scene.subject.mm_per_px**2 / 100
    if area < ACCENT_CM2:
        return "every hollow is as dark as it should be."
    under, small = beneath(scene, canvas, lacking), replace(step, pieces=lacking)
    return washed(scene, small, canvas, under, scene.target(lacking), scene.medium.thinning)


WATER = Laying("water", _lay, "wash")
ACCENT = Laying("accent", _accent, "wash")
