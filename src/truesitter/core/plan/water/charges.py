"""Nested washes laid in one go: the first, and what is dropped into it while it is wet.

A wash whose border turns softly need not be laid over dry paper: dropped into the wash before it, it merges
by itself (wet into wet, common practice). Films of paint that come together in one wet film look as they
would on one another (Kubelka 1948), so the canvas is that of the washes laid one by one.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.paint.media.dilution import Dilution, Thinning
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.plan.kinds.water_pass import beneath
from truesitter.core.plan.laying import Scene
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.plan.water.tuning import (
    CHARGES_MOST,
    DROP_STRONGER,
    DROP_WET,
    GRADED_DELTA,
    INSIDE,
    MERGES_MM,
    RUNS_MM,
    WEAKEST,
)
from truesitter.core.plan.water.ways import Charge
from truesitter.core.school.school_document import Band, PassTemplate
from truesitter.core.types import Doubles, Floats, Mask


@dataclass(frozen=True)
class JoinedWashes:
    """Passes of which some are dropped into others.

    Attributes
    ----------
    passes
        In order, those left alone.
    numbers
        Which they were among all, counted from 0.
    """

    passes: tuple[Pass, ...]
    numbers: tuple[int, ...]


def with_charges(
    passes: Sequence[Pass], templates: Sequence[PassTemplate], canvases: Sequence[Canvas], scene: Scene
) -> JoinedWashes:
    """Drop each wash that turns softly into the one it lies on, while that is wet.

    Parameters
    ----------
    passes, templates
        In order, and the school's template of each.
    canvases
        The canvas before the first pass and after each, one more than there are passes.
    scene
        What they are painted from.

    Returns
    -------
    JoinedWashes
        The same canvas at the end, within what whole parts of water allow.
    """
    found, numbers = list[Pass](), list[int]()
    slope = np.hypot(*np.gradient(scene.subject.value)) / scene.subject.mm_per_px
    for number, (one, template) in enumerate(zip(passes, templates, strict=True)):
        taken = None
        if found and numbers[-1] + len(found[-1].charges) == number - 1:
            base = found[-1]
            if _can_take(base, templates[numbers[-1]], one, template, scene, slope):
                taken = _dropped(base, one, canvases[number], canvases[number + 1], scene)
        if taken is None:
            found.append(one)
            numbers.append(number)
        else:
            found[-1] = taken
    return JoinedWashes(tuple(found), tuple(numbers))


def _can_take(
    base: Pass, first: PassTemplate, one: Pass, template: PassTemplate, scene: Scene, slope: Floats
) -> bool:
    """Whether a wash may be dropped into the one laid just before it."""
    if any(t.kind != "water" or t.band is not Band.WASHES for t in (first, template)):
        return False
    # What alone would be hardly a tint is dropped in as one more.
    weak = one.thinned[-1].dilution.ratio > WEAKEST
    if len(base.charges) >= CHARGES_MOST + weak or base.coats > 1 or one.coats > 1 or not one.pieces.any():
        return False
    sizes = scene.patchwork.sizes
    if sizes[one.pieces & base.pieces].sum() < INSIDE * sizes[one.pieces].sum():
        return False
    into = base.charges[-1].pieces if base.charges else base.pieces
    return _turn_mm(scene, slope, into & ~one.pieces, one.pieces) >= MERGES_MM


def _turn_mm(scene: Scene, slope: Floats, light: Mask, dark: Mask) -> float:
    """Median width over which the reference turns from one set of pieces (n,) to another beside it, in mm.

    The step between their values over the slope (h, w), in steps a mm, on their border; endless where they
    do not touch.
    """
    value, patchwork = scene.subject.value, scene.patchwork
    one, other = patchwork.mask(light), patchwork.mask(dark)
    if not one.any() or not other.any():
        return float("inf")
    cross = np.array([[0, 1, 0], [1, 1, 1], [0, 1, 0]], np.uint8)
    beside = [cv2.dilate(mask.astype(np.uint8), cross) > 0 for mask in (one, other)]
    rim = (beside[0] & other) | (beside[1] & one)
    if not rim.any():
        return float("inf")
    step = float(value[one].mean() - value[other].mean())
    return step / max(float(np.median(slope[rim])), 1e-6)


def _dropped(base: Pass, one: Pass, on: Canvas, planned: Canvas, scene: Scene) -> Pass | None:
    """A wash with another dropped into it; None where no drop is strong enough."""
    (layer,) = (o for o in one.operations if isinstance(o, Layer))
    assert layer.film_mm is not None
    wanted = mean_lab(planned, one.pieces)
    drops = replace(scene.medium.thinning, film=WetMm(one.film * DROP_WET))
    below = beneath(scene, on, one.pieces).internal()
    stronger = film_for_value(below, base.taken_from, on.rack, float(lab_value(wanted)), drops.thickest)
    drop, same = replace(layer, wet=base.pieces, runs_mm=RUNS_MM), False
    if stronger is not None:
        own = replace(drop, parts=base.taken_from, film_mm=stronger)
        if float(delta_e_2000(mean_lab(on.do(own), one.pieces), wanted)) <= GRADED_DELTA:
            drop, same = own, True
    film = drop.film_mm
    assert film is not None
    if film > drops.thickest:
        return None
    paint = one.ml * float(film / layer.film_mm)
    charge = Charge(
        one.key, dict(base.mix if same else one.mix), dict(drop.parts),
        dict((base if same else one).recipe.parts), of_a_drop(drops, film, base),
        drop.pieces, paint, Colour.of(mean_lab(on.do(drop), one.pieces)), same,
    )  # fmt: skip
    return replace(
        base,
        name=_named(base, one),
        operations=(*base.operations, drop),
        charges=(*base.charges, charge),
        ml=base.ml + paint,
        work_minutes=base.work_minutes + one.work_minutes,
    )


def of_a_drop(drops: Thinning, film: DryMm, base: Pass) -> Dilution:
    """How the paint of a drop is thinned: with no more water than fits, and always stronger than its wash.

    Less of it goes in where that leaves more paint than is wanted.

    Parameters
    ----------
    drops
        Of the medium, with the water that a drop may hold.
    film
        That it leaves, dry.
    base
        The wash it goes into.
    """
    most = min(drops.dilution(film).ratio, DROP_STRONGER * base.thinned[-1].dilution.ratio)
    return max((d for d in drops.every() if not d.blotted and d.ratio <= most), key=lambda d: d.ratio)


def mean_lab(canvas: Canvas, pieces: Mask) -> Doubles:
    """Mean L*a*b* (3,) of some pieces of a canvas, by area."""
    return np.asarray(np.average(canvas.labs()[pieces], axis=0, weights=canvas.patchwork.sizes[pieces]))


def _named(base: Pass, one: Pass) -> str:
    """``Flesh, washes 2 to 4`` of ``Flesh, wash 2``."""
    stem, _, first = base.key.rpartition("-")
    last = one.key.rpartition("-")[2]
    told = base.name.rpartition(", wash")[0]
    return f"{told}, washes {first} to {last}" if stem and told and last.isdigit() else base.name
