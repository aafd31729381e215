"""Drops of another hue in a first wash, each where the sitter has it: they run together by themselves."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.plan.laying import Scene
from truesitter.core.plan.pass_plan import Pass, StrokeTone
from truesitter.core.plan.size import Pruning
from truesitter.core.plan.touches import touched
from truesitter.core.plan.water.tuning import DROP_APART, DROP_GAIN, DROP_STEPS, DROPS_TRIED, HUE_CM2, RUNS_MM
from truesitter.core.plan.water.ways import Charge
from truesitter.core.types import Labels, Mask


def with_hue_charges(
    passes: Sequence[Pass],
    canvases: Sequence[Canvas],
    scene: Scene,
    hues: Mapping[str, Labels],
    pruning: Pruning,
) -> list[Pass]:
    """Drop into first washes what brings the places of another hue nearer to the sitter in the end.

    Parameters
    ----------
    passes
        In order.
    canvases
        The canvas before the first pass and after each.
    scene
        What they are painted from.
    hues
        (n,) by the key of a first wash: on which side of its hue each piece lies; 0 for neither.
    pruning
        Says how far a canvas is from the sitter.

    Returns
    -------
    list[Pass]
        The same passes, some with more charges.
    """
    done = list(passes)
    for number, one in enumerate(passes):
        sides = hues.get(one.key)
        if sides is None or one.coats > 1 or not one.thinned or not isinstance(one.operations[0], Layer):
            continue
        for side in (1, 2):
            pieces = one.operations[0].pieces & (sides == side)
            area = scene.patchwork.sizes[pieces].sum() * scene.subject.mm_per_px**2 / 100
            if area >= HUE_CM2:
                done = _dropped(done, number, pieces, canvases, scene, pruning)
    return done


def _dropped(
    passes: list[Pass], number: int, pieces: Mask, canvases: Sequence[Canvas], scene: Scene, pruning: Pruning
) -> list[Pass]:
    """The passes with the best drop in one of them; the same where none is worth it."""
    one, every = passes[number], list(range(len(passes)))
    (base, *_) = one.operations
    assert isinstance(base, Layer)
    sizes = scene.patchwork.sizes[pieces]
    wanted = scene.sums[pieces].sum(axis=0) / sizes.sum()
    lacking = wanted - np.average(canvases[-1].labs()[pieces], axis=0, weights=sizes)
    own, *others = touched(replace(base, pieces=pieces), canvases[number], scene, DROP_APART, DROP_STEPS)
    there = np.array(own.predicted.lab)
    # Black and white change the value and dull the hue: neither is dropped into a wash (common practice).
    others = [t for t in others if scene.palette.rack.pigment(*t.added).family not in ("black", "white")]
    others.sort(key=lambda tone: float(np.linalg.norm(np.array(tone.predicted.lab) - there - lacking)))
    best, least = passes, pruning.of(passes).cost(every, pieces) * (1 - DROP_GAIN)
    for tone in others[:DROPS_TRIED]:
        tried = [*passes[:number], _with_drop(one, base, tone, pieces, scene), *passes[number + 1 :]]
        cost = pruning.of(tried).cost(every, pieces)
        if cost < least:
            best, least = tried, cost
    return best


def _with_drop(one: Pass, base: Layer, tone: StrokeTone, pieces: Mask, scene: Scene) -> Pass:
    """A wash with a touch of a tube in some of its pieces, which its own film then leaves out."""
    drop = replace(base, pieces=pieces, parts=tone.parts, wet=one.pieces, runs_mm=RUNS_MM)
    rest = replace(base, pieces=base.pieces & ~pieces)
    sizes = scene.patchwork.sizes
    own_ml = one.ml - sum(charge.ml for charge in one.charges)
    mix = {key: count * tone.base for key, count in one.mix.items()}
    for key, count in tone.added.items():
        mix[key] = mix.get(key, 0) + count * sum(one.mix.values())
    ml = own_ml * float(sizes[pieces].sum() / sizes[base.pieces].sum())
    charge = Charge(
        one.key, mix, tone.parts, one.recipe.parts, one.thinned[-1].dilution, pieces, ml, tone.predicted,
        False, tone.added, tone.base,
    )  # fmt: skip
    return replace(one, operations=(rest, drop, *one.operations[1:]), charges=(charge, *one.charges))
