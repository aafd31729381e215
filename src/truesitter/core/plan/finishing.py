"""A draft made a plan: of the size that is wanted, from few heaps, with brushes and times."""

from __future__ import annotations

from dataclasses import replace

from truesitter.core.hair.layers.job import HairLayer
from truesitter.core.plan.clock.minutes import areas_cm2, in_open_time, pass_minutes, rates
from truesitter.core.plan.clock.timing import bare_white, short_of, with_times
from truesitter.core.plan.clock.tuning import SPREAD
from truesitter.core.plan.draft import Draft
from truesitter.core.plan.hand.brushes import with_brushes
from truesitter.core.plan.heaps import from_heaps, idle_heaps, renamed, with_amounts
from truesitter.core.plan.kinds.hair_pass import GREY_HAIR
from truesitter.core.plan.kinds.registry import KINDS
from truesitter.core.plan.pass_plan import Heap, Hours, PassPlan, Remark
from truesitter.core.plan.size import in_one_go, joined_lines
from truesitter.core.plan.stroke_tones import with_stroke_tones
from truesitter.core.plan.tuning import (
    HAIR_COLOUR,
    HAIR_GAINS,
    HAIR_USUAL,
    PASSES_OF_SIZE,
    UNCOLOURED,
)
from truesitter.core.plan.water.charges import with_charges
from truesitter.core.plan.water.hollow_strengths import with_strengths
from truesitter.core.plan.water.hue_charges import with_hue_charges
from truesitter.core.plan.water.laid_ways import with_way
from truesitter.core.plan.water.tuning import TRACE_STEPS, WEAKEST
from truesitter.core.plan.water.wet_beside import with_neighbours
from truesitter.core.school.school_document import Band
from truesitter.core.school.switches import FIRST_LAYER


def _from_heaps(draft: Draft) -> tuple[Heap, ...]:
    """Mix the passes from the fewest heaps, and lay them anew so; exact recipes are mixed one by one."""
    if draft.scene.wishes.tolerance is None or not draft.passes:
        return ()
    scene = draft.scene
    # What was mixed already is there, and so is what the painter wants mixed.
    there = set(scene.palette.tubes)
    own = [h for h in scene.subject.own_heaps if set(h.parts) <= there]
    forced = (*(h.parts for h in own), *(draft.begun.heaps if draft.begun else ()))
    mixed = from_heaps(
        draft.passes, draft.laid, scene.palette, scene.medium, scene.support.internal(), forced
    )
    draft.lay_again(mixed.passes, draft.passes, draft.canvases)
    found = with_amounts(mixed.heaps, draft.passes)
    draft.remarks += idle_heaps(found, scene.subject.own_heaps)
    return renamed(found, own)


def _asked_for(hair: HairLayer) -> bool:
    """What no distance from the sitter measures: glazes that turn the hair, the hairline's own hairs."""
    return hair.role == "first hairs" or hair.purpose in ("warm", "cool", "darken")


def _without_idle_hair(draft: Draft) -> None:
    """Leave out layers of hair that bring their place next to nothing, worst first; the base always stays."""
    while True:
        pruning = draft.pruning()
        gains = {
            n: max(gain.steps, gain.colour * HAIR_COLOUR)
            for n, p in enumerate(draft.passes)
            if p.hair is not None and p.hair.role != "base" and p.pieces.any() and not _asked_for(p.hair)
            for gain in [pruning.gain(n)]
        }
        worst = min(gains, key=lambda n: gains[n], default=None)
        if worst is None or gains[worst] >= HAIR_GAINS:
            return
        one = draft.passes[worst]
        draft.remarks.append(Remark(one.name, one.group, " left out: the hair is as near without it."))
        draft.keep([n for n in range(len(draft.passes)) if n != worst])
        draft.lay_again(draft.passes)


def _strokes_that_stay(draft: Draft) -> frozenset[int]:
    """Of each mass of hair in a portrait the layer of strokes that brings it most: a flat base is no hair."""
    if draft.scene.subject.size != "portrait":
        return frozenset()
    pruning, best = draft.pruning(), dict[str, tuple[float, int]]()
    for n, one in enumerate(draft.passes):
        if one.hair is not None and one.lines and one.pieces.any():
            gain = pruning.gain(n).steps
            best[one.hair.mass] = max(best.get(one.hair.mass, (0.0, -1)), (gain, n))
    return frozenset(n for _, n in best.values() if n >= 0)


def _of_size(draft: Draft) -> None:
    """Join lines and leave out what loses least, when fewer passes are wanted than there are."""
    subject = draft.scene.subject
    if subject.size == "every pass" or not draft.passes:
        return
    lines = joined_lines(draft.passes, draft.laid)
    if len(lines) > 1:
        draft.passes[lines[-1]] = in_one_go([draft.passes[n] for n in lines], subject.size_mm)
        stay = [n for n in range(len(draft.passes)) if n not in lines[:-1]]
        draft.keep(stay)
    every, pruning, most = len(draft.passes), draft.pruning(), PASSES_OF_SIZE[subject.size]
    # A first layer comes on top: what is finished over it is as much as without.
    more = sum(t.key.startswith(FIRST_LAYER) for t in draft.laid)
    # So does what is drawn and wiped in the first tone: it lays no colour.
    more += sum(t.kind in UNCOLOURED for t in draft.laid)
    # And so does what no distance from the sitter measures.
    asked = frozenset(n for n, p in enumerate(draft.passes) if p.hair is not None and _asked_for(p.hair))
    more, pruning = more + len(asked), pruning.staying(asked | _strokes_that_stay(draft))
    if subject.own_hair:
        # What the painter asked for of the hair is painted; the rest is as much as without.
        hair = frozenset(n for n, p in enumerate(draft.passes) if p.hair is not None)
        more += max(0, len(hair - asked) - HAIR_USUAL)
        pruning = pruning.staying(hair)
    draft.keep(pruning.kept(most[int(draft.school.transparent)] + more))
    if len(draft.passes) < every:
        words = f": {every - len(draft.passes)} passes are left out, those the canvas misses least."
        draft.remarks.append(Remark(f"A {subject.size}", None, words))
    draft.lay_again(draft.passes)


def _with_tones(draft: Draft) -> None:
    """Vary the strokes of the hair round the mixture of their pass."""
    under = [draft.bare, *draft.canvases]
    varied = [
        with_stroke_tones(one, under[n], draft.scene, KINDS[draft.laid[n].kind] is GREY_HAIR)
        if one.hair is not None and one.lines
        else one
        for n, one in enumerate(draft.passes)
    ]
    if any(one.tones for one in varied):
        draft.lay_again(varied)


def _with_charges(draft: Draft) -> None:
    """Drop washes that turn softly into those they lie on; a plan of every pass lays them one by one."""
    if not draft.school.transparent or draft.scene.subject.size == "every pass":
        return
    joined = with_charges(draft.passes, draft.laid, [draft.bare, *draft.canvases], draft.scene)
    if len(joined.passes) < len(draft.passes):
        draft.keep(list(joined.numbers))
        draft.lay_again(joined.passes)
    _without_traces(draft)
    under, pruning = [draft.bare, *draft.canvases], draft.pruning()
    deeper = with_strengths(draft.passes, draft.laid, draft.scene, pruning)
    dropped = with_hue_charges(deeper, under, draft.scene, draft.hues, pruning.of(deeper))
    if any(a is not b for a, b in zip(dropped, draft.passes, strict=True)):
        draft.lay_again(dropped)


def _without_traces(draft: Draft) -> None:
    """Leave out washes that alone are hardly a tint and bring their place little."""
    pruning, stay = draft.pruning(), list[int]()
    for number, (one, template) in enumerate(zip(draft.passes, draft.laid, strict=True)):
        trace = template.kind == "water" and not one.charges and template.band is Band.WASHES
        trace = trace and one.thinned[-1].dilution.ratio > WEAKEST and not template.stays
        if trace and 0 <= pruning.gain(number).steps < TRACE_STEPS:
            words = f" left out: weaker than 1 part in {WEAKEST} of water it is hardly a tint."
            draft.remarks.append(Remark(one.name, one.group, words))
        else:
            stay.append(number)
    if len(stay) < len(draft.passes):
        draft.keep(stay)
        draft.lay_again(draft.passes)


def finish(draft: Draft) -> PassPlan:
    """Turn a draft into the plan: of its size, with heaps, brushes, waiting times and hours."""
    scene, subject = draft.scene, draft.scene.subject
    cm2 = areas_cm2(scene.patchwork.sizes, subject.mm_per_px)
    if subject.effort is not None:
        cm2 = scene.patchwork.sums(subject.effort[..., None])[:, 0] * (subject.mm_per_px**2 / 100)
    rate = rates(draft.school.pace, subject.exactness, subject.massed_hair)
    minutes, hair = pass_minutes(
        tuple(draft.passes), scene.regions, cm2, rate, draft.school.pace.fixed_minutes
    )
    draft.passes = [replace(p, work_minutes=m) for p, m in zip(draft.passes, minutes, strict=True)]
    hairy = dict(zip((p.key for p in draft.passes), hair, strict=True))
    _without_idle_hair(draft)
    _of_size(draft)
    draft.remarks += [
        short_of(p) for p, t in zip(draft.passes, draft.laid, strict=True)
        if KINDS[t.kind].covers and not p.recipe.reached
    ]  # fmt: skip
    heaps = _from_heaps(draft)
    _with_charges(draft)
    heaps = with_amounts(heaps, draft.passes)
    _with_tones(draft)
    hand = with_brushes(draft.passes, scene)
    fixed = draft.school.pace.fixed_minutes / max(1, len(hand.passes))
    ways = [with_way(p, t, scene) for p, t in zip(hand.passes, draft.laid, strict=True)]
    whole = {p.key: p.work_minutes for p in ways}
    ways = [in_open_time(p, fixed) for p in ways]
    hairy = {p.key: hairy.get(p.key, 0.0) * p.work_minutes / max(whole[p.key], 1e-9) for p in ways}
    passes = with_neighbours(with_times(ways, draft.laid, scene, draft.slower), scene.patchwork)
    pruning = draft.pruning()
    passes = tuple(replace(p, gain=pruning.gain(n)) for n, p in enumerate(passes))
    white = bare_white(draft.laid, [KINDS[t.kind].does in ("ground", "remove") for t in draft.laid])
    draft.remarks += [] if white is None else [white]
    if not passes:
        words = " leaves nothing to paint: everything is as light as the ground, or smaller than a brush."
        draft.remarks.append(Remark("This picture", None, words))
    likely = sum(p.work_minutes for p in passes) / 60
    in_hair = sum(hairy.get(p.key, 0.0) for p in passes) / 60 / max(likely, 1e-9)
    hours = Hours(likely * SPREAD[0], likely, likely * SPREAD[1], in_hair)
    return PassPlan(
        passes, scene.medium, scene.support, tuple(draft.canvases), tuple(draft.remarks), hours,
        draft.bare, heaps, hand.brushes, hand.missing,
    )  # fmt: skip
