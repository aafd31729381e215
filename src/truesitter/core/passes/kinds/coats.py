"""Sprayed coats of two transparent mixtures, in whole numbers: values come from their light side."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from typing import Literal

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.paint.recipes.coats import MOST_COATS, coats_of
from truesitter.core.paint.recipes.films import film_for_value
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.rounding import Recipe, recipe_cost
from truesitter.core.passes.canvas import Canvas
from truesitter.core.passes.kinds.water import beneath
from truesitter.core.passes.layer import Layer
from truesitter.core.passes.laying import Laid, Laying, Scene, Step
from truesitter.core.passes.plan import Thinned
from truesitter.core.passes.wash_over import wash_over
from truesitter.core.types import Doubles, Ints, Mask

A_COAT = 0.25
"""One coat on what is light darkens by about so many steps: a coat too few is easily made good [try]."""

PAST = 0.05
"""A place is never made darker than it is wanted by more than so many steps."""

Which = Literal["light", "dark"]


@dataclass(frozen=True)
class Mixture:
    """One of the two: its parts, how it is thinned, and the dry film of one coat."""

    parts: dict[str, int]
    dilution: Dilution
    film: float


Pair = tuple[Mixture, Mixture]


def fit_pair(scene: Scene, canvas: Canvas, where: Mask) -> Pair:
    """The two mixtures for a place, fitted to the sitter.

    The light one is the wash that comes nearest to the lighter half of the place over the bare ground; the
    dark one that which, over the light one as it lies on the lighter half, comes nearest to its darkest part.
    """
    labs = scene.sums[where] / scene.patchwork.sizes[where][:, None]
    sizes = scene.patchwork.sizes[where].astype(float)
    order = np.argsort(labs[:, 0])
    part = (np.cumsum(sizes[order]) - sizes[order] / 2) / sizes.sum()
    lighter, darkest = order[part >= 0.5], order[part <= _DARKEST]
    if not len(lighter) or not len(darkest):
        lighter = darkest = order

    def mean(which: Ints) -> Doubles:
        return np.asarray(np.average(labs[which], axis=0, weights=sizes[which]))

    ground = beneath(scene, canvas, where)
    light = wash_over(scene.clear, scene.wishes, ground, mean(lighter))
    coated = ground.under(light, scene.clear)
    dark = wash_over(scene.clear, scene.wishes, coated, mean(darkest))
    return (
        _thinned(scene, light.parts, ground.internal(), float(lab_value(labs[lighter]).min())),
        _thinned(scene, dark.parts, coated.internal(), float(lab_value(labs[darkest]).min())),
    )


_DARKEST = 0.15
"""The dark mixture is fitted to the darkest part, so large, of its place [try]."""


def _thinned(scene: Scene, parts: dict[str, int], ground: Doubles, darkest: float) -> Mixture:
    """So thin that a coat is a small step, but the darkest takes no more coats than are counted."""
    thinning, rack = scene.medium.thinning, scene.clear.rack
    start = float(lab_value(reflectance_to_lab(leave_surface(ground))))
    all_of_it = film_for_value(ground, parts, rack, max(darkest, _NO_DARKER), DryMm(_MOST_MM))
    step = film_for_value(ground, parts, rack, start - A_COAT, thinning.thickest)
    wanted = max(step, all_of_it / MOST_COATS)
    dilution = thinning.dilution(DryMm(wanted))
    return Mixture(parts, dilution, float(thinning.dry(dilution)))


_NO_DARKER, _MOST_MM = 0.8, 0.1


def _lay(which: Which, scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """As many coats as bring the place's own tone nearest, together with those of the other still to come."""
    aim = step.wanted & step.pieces
    if not aim.any():
        return "there is nothing of its tone."
    pair = scene.pairs.get(step.regions)
    if pair is None:
        at = np.isin(scene.regions, step.regions)
        pair = scene.pairs[step.regions] = fit_pair(scene, canvas, at)
    wanted = scene.target(aim)
    ground = beneath(scene, canvas, aim).internal()
    films = (pair[0].film, pair[1].film)
    table = coats_of(
        pair[0].parts, pair[1].parts, (DryMm(films[0]),
        DryMm(films[1])), ground, scene.clear.rack,
    ).labs  # fmt: skip
    if which == "dark":
        table = table[:1]
    cost = recipe_cost(table.reshape(-1, 3), wanted).reshape(table.shape[:2])
    cost[lab_value(table) < float(lab_value(wanted)) - PAST] = np.inf
    first, second = np.unravel_index(int(cost.argmin()), cost.shape) if np.isfinite(cost).any() else (0, 0)
    coats = int(first if which == "light" else second)
    if coats == 0:
        return "what lies there needs no coat of it."
    mixture = pair[0 if which == "light" else 1]
    made = table[first, 0] if which == "light" else table[0, second]
    thinning = scene.medium.thinning
    film = DryMm(coats * mixture.film)
    recipe = Recipe(
        parts=mixture.parts,
        target_lab=as_lab(wanted),
        predicted=Colour.of(made),
        delta_e=float(delta_e_2000(made, wanted)),
        value_error=float(lab_value(made) - lab_value(wanted)),
        film_mm=film,
        dilution=mixture.dilution,
    )
    layer = Layer(step.pieces, mixture.parts, film, fades=True)
    return Laid(
        recipe, (layer,), step.pieces, thinning.film, film / thinning.strength, (Thinned(mixture.dilution),),
        coats=coats,
    )  # fmt: skip


LIGHT_COATS = Laying("light coats", partial(_lay, "light"), "coat")
DARK_COATS = Laying("dark coats", partial(_lay, "dark"), "coat")
