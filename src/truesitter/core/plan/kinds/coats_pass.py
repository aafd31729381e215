"""Sprayed coats of two transparent mixtures, in whole numbers, never past the value that is wanted."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from typing import Literal

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.layered.coat_count import coats_of
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.paint.layered.tuning import MOST_COATS
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.kinds.tuning import (
    A_COAT,
    COATS_NEARER,
    COATS_PASS_DARKER,
    LIGHTER,
    MOST_MM,
    NO_DARKER,
    PAST,
    TONES,
    VALUE_COST,
)
from truesitter.core.plan.kinds.water_pass import beneath, darkened
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import Thinned
from truesitter.core.plan.water.wash_over import wash_over
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Mask

Which = Literal["light", "dark"]


@dataclass(frozen=True)
class CoatMixture:
    """One of the two: its parts, how it is thinned, and the dry film of one coat."""

    parts: dict[str, int]
    dilution: Dilution
    film: float


Pair = tuple[CoatMixture, CoatMixture]


def fit_pair(scene: Scene, canvas: Canvas, where: Mask, regions: tuple[Region, ...]) -> Pair:
    """The two mixtures for a place, fitted to the sitter.

    Light ones are washes that come near to lighter parts of the place over the bare ground, dark ones
    those which over that come near to its darker parts; of all pairs the one whose whole coats come
    nearest to tones all through the place is taken.

    Parameters
    ----------
    scene
        All that a kind of pass may ask.
    canvas
        The canvas as it is.
    where
        (n,) pieces of the place.
    regions
        What is painted there: flesh is held nearer than all else.

    Returns
    -------
    Pair
        A light and a dark one.
    """
    labs = scene.sums[where] / scene.patchwork.sizes[where][:, None]
    sizes = scene.patchwork.sizes[where].astype(float)
    order = np.argsort(labs[:, 0])
    part = (np.cumsum(sizes[order]) - sizes[order] / 2) / sizes.sum()

    def mean(low: float, high: float) -> Doubles:
        which = order[(part >= low) & (part <= high)]
        which = which if len(which) else order
        return np.asarray(np.average(labs[which], axis=0, weights=sizes[which]))

    tones = np.array([mean(low, low + 1 / TONES) for low in np.arange(TONES) / TONES])
    ground = beneath(scene, canvas, where)
    # Two mixtures carry the whole place in many coats: what they are off by is all over it.
    wishes = scene.wishes_at(regions).nearer(COATS_NEARER)
    best, least = None, np.inf
    for low, high in LIGHTER:
        light = wash_over(scene.clear, wishes, ground, mean(low, high))
        coated = ground.under(light, scene.clear)
        first = _thinned(scene, light.parts, ground.internal(), float(lab_value(mean(low, high))))
        for dark_low, dark_high in COATS_PASS_DARKER:
            dark = wash_over(scene.clear, wishes, coated, mean(dark_low, dark_high))
            second = _thinned(scene, dark.parts, coated.internal(), float(lab_value(tones).min()))
            cost = float(_costs(scene, (first, second), ground.internal(), tones).min(axis=1).mean())
            if cost < least:
                best, least = (first, second), cost
    if best is None:
        raise ValueError("every pair costs something")
    return best


def _costs(scene: Scene, pair: Pair, ground: Doubles, tones: Doubles) -> Doubles:
    """Cost of every number of coats for each of some tones (n, 3), (n, entries); none goes past its tone."""
    first, second = pair
    table = coats_of(
        first.parts, second.parts, (DryMm(first.film), DryMm(second.film)), ground, scene.clear.rack
    ).labs.reshape(-1, 3)
    off = lab_value(table)[None] - lab_value(tones)[:, None]
    cost = recipe_cost(table[None], tones[:, None]) + VALUE_COST * np.abs(off)
    past = off < -PAST
    return np.where(past & (np.arange(len(table)) > 0), np.inf, cost)


def _thinned(scene: Scene, parts: dict[str, int], ground: Doubles, darkest: float) -> CoatMixture:
    """So thin that a coat is a small step, but the darkest takes no more coats than are counted."""
    thinning, rack = scene.medium.thinning, scene.clear.rack
    start = float(lab_value(reflectance_to_lab(leave_surface(ground))))
    all_of_it = film_for_value(ground, parts, rack, max(darkest, NO_DARKER), DryMm(MOST_MM))
    step = film_for_value(ground, parts, rack, start - A_COAT, thinning.thickest)
    wanted = max(step, all_of_it / MOST_COATS)
    dilution = thinning.dilution(DryMm(wanted))
    return CoatMixture(parts, dilution, float(thinning.dry(dilution)))


def _lay(which: Which, scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """As many coats as bring the place's own tone nearest, together with those of the other still to come."""
    aim = step.wanted & step.pieces
    if not aim.any():
        return "there is nothing of its tone."
    pair = scene.pairs.get(step.regions)
    if pair is None:
        at = np.isin(scene.regions, step.regions)
        pair = scene.pairs[step.regions] = fit_pair(scene, canvas, at, step.regions)
    wanted = scene.target(aim)
    ground = beneath(scene, canvas, aim).internal()
    cost = _costs(scene, pair, ground, wanted[None])[0].reshape(MOST_COATS + 1, MOST_COATS + 1)
    if which == "dark":
        cost = cost[:1]
    first, second = np.unravel_index(int(cost.argmin()), cost.shape)
    coats = int(first if which == "light" else second)
    if coats == 0:
        return "what lies there needs no coat of it."
    mixture = pair[0 if which == "light" else 1]
    thinning = scene.medium.thinning
    film = DryMm(coats * mixture.film)
    k, s = scene.clear.rack.mixture(mixture.parts)
    made = reflectance_to_lab(leave_surface(film_reflectance(k, s, film, ground)))
    recipe = Recipe.held(mixture.parts, made, wanted, film, mixture.dilution)
    pieces = darkened(canvas, Layer(step.pieces, mixture.parts, film, fades=True))
    layer = Layer(pieces, mixture.parts, film, fades=True)
    return Laid(
        recipe, (layer,), pieces, thinning.film, film / thinning.strength, (Thinned(mixture.dilution),),
        coats=coats,
    )  # fmt: skip


LIGHT_COATS = Laying("light coats", partial(_lay, "light"), "coat")
DARK_COATS = Laying("dark coats", partial(_lay, "dark"), "coat")
