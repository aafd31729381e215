"""The heaps of a plan: what is mixed once on the palette, and how each pass is mixed from it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.families import hue_word
from truesitter.core.colour.spaces import WARM_AXIS
from truesitter.core.paint.board.heaps import HEAP_TOLERANCE, Mix, Use, shared_heaps
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.paint.media.dilution import Thinning
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.recipes.ingredients import MARK, straight
from truesitter.core.paint.recipes.mixing import Colour, mix
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.plan.kinds.water_pass import darkened
from truesitter.core.plan.laying import FLESH_AND_FEATURES
from truesitter.core.plan.pass_plan import Heap, Pass, Remark
from truesitter.core.plan.subject import OwnHeap
from truesitter.core.plan.tuning import (
    AGAIN_THINNED,
    BROWN_BELOW,
    FLESH_CHROMA,
    FLESH_HUES,
    GREYISH,
    HEAP_ELSEWHERE,
    HEAP_IN_FILMS,
    MOST_THINNED,
    TONES,
    WASH_SHOWN,
)
from truesitter.core.school.school_document import PassTemplate
from truesitter.core.types import Doubles


@dataclass(frozen=True)
class MixedPasses:
    """Passes mixed from heaps, and the heaps."""

    passes: tuple[Pass, ...]
    heaps: tuple[Heap, ...]


def from_heaps(
    passes: Sequence[Pass],
    templates: Sequence[PassTemplate],
    palette: Palette,
    medium: Medium,
    ground: Doubles,
    forced: Sequence[Mapping[str, int]] = (),
) -> MixedPasses:
    """The same passes mixed from the fewest heaps.

    Grounds are bought, and what is taken off is not mixed: both stay as they are.

    Parameters
    ----------
    passes, templates
        Of a plan, and the school's template of each.
    palette
        Says where the tubes are.
    medium
        What they are thinned with.
    ground
        (31,) internal reflectance of the support.
    forced
        Mixtures that are on the palette already.

    Returns
    -------
    MixedPasses
        Every pass with what it is mixed from, its films and colour those of that.
    """
    mixed = [n for n, p in enumerate(passes) if p.recipe.parts and p.does != "ground"]
    uses = [_use(passes[n], templates[n]) for n in mixed]
    shared = shared_heaps(uses, palette.rack, ground, forced)
    used = sorted({h for one in shared.mixes for h in one.heaps})
    colours = {h: _looks(shared.heaps[h], palette) for h in used}
    names = _names(colours, palette.transparent)
    heaps = {h: Heap(names[h].replace(" ", "-"), names[h], shared.heaps[h], colours[h]) for h in used}
    known = {heap.key: heap.parts for heap in heaps.values()}
    done = list(passes)
    for n, one in zip(mixed, shared.mixes, strict=True):
        named = {MARK + heaps[h].key: count for h, count in one.heaps.items()} | one.tubes
        done[n] = _mixed(passes[n], named, one, known, medium.thinning)
    return MixedPasses(tuple(done), tuple(heaps.values()))


def _looks(parts: Mapping[str, int], palette: Palette) -> Colour:
    """A heap as paint that hides, or as a wash on the support: in the lump no wash shows its colour."""
    film = None
    if palette.transparent:
        thickest = palette.thinning.thickest
        film = film_for_value(palette.below(), dict(parts), palette.rack, WASH_SHOWN, thickest)
    return mix({k: float(v) for k, v in parts.items()}, palette, film)


def renamed(heaps: Sequence[Heap], own: Sequence[OwnHeap]) -> tuple[Heap, ...]:
    """Heaps by the names that the painter gave to their parts."""
    names = {tuple(sorted(h.parts.items())): h.name for h in own}
    return tuple(replace(h, name=names.get(tuple(sorted(h.parts.items())), h.name)) for h in heaps)


def idle_heaps(heaps: Sequence[Heap], own: Sequence[OwnHeap]) -> list[Remark]:
    """What to say of the painter's own heaps that no pass takes of."""
    taken = [h.parts for h in heaps]
    words = " is on the palette, but no pass can take of it."
    return [Remark(f"Your heap {h.name}", None, words) for h in own if h.parts not in taken]


def with_amounts(heaps: Sequence[Heap], passes: Sequence[Pass]) -> tuple[Heap, ...]:
    """Heaps with the passes that take of them and how much, most first; without those nobody takes of."""
    found = []
    for heap in heaps:
        key = MARK + heap.key
        taken = [
            (n, ml * mix[key] / sum(mix.values()))
            for n, p in enumerate(passes)
            for mix, ml in _mixes(p)
            if key in mix
        ]
        takers, ml = tuple(dict.fromkeys(n for n, _ in taken)), sum(part for _, part in taken)
        found += [replace(heap, ml=ml, passes=takers)] if takers else []
    return tuple(sorted(found, key=lambda h: -h.ml))


def _mixes(one: Pass) -> list[tuple[dict[str, int], float]]:
    """What a pass is mixed of, and the ml of each."""
    dropped = [(charge.mix, charge.ml) for charge in one.charges]
    return [(one.mix, one.ml - sum(ml for _, ml in dropped)), *dropped]


def remade(
    mixed: Pass, before: Pass, on: Canvas, planned: Canvas, thinning: Thinning | None, clear: bool
) -> Pass:
    """A pass as it is laid once it is mixed from heaps.

    Parameters
    ----------
    mixed, before
        The pass mixed from heaps, and as it was planned in a mixture of its own.
    on, planned
        The canvas under it now, and after it as it was planned.
    thinning
        How it can be thinned anew; None for a second coat, which is as thin as the first.
    clear
        True where nothing may be lightened: in washes over white.

    Returns
    -------
    Pass
        Thinned to be as dark as planned, kept off what it would lighten, its colour that on the canvas; as it
        was planned where from heaps nothing would be left of it.
    """
    one = mixed if thinning is None else as_dark_as(mixed, on, planned, thinning)
    if clear:
        one = _without_veils(one, on)
    if before.pieces.any() and not one.pieces.any():
        return before
    if not one.pieces.any():
        return one
    after = on
    for operation in one.operations:
        after = after.do(operation)
    sizes = on.patchwork.sizes[one.pieces]
    moved = np.average((after.labs() - planned.labs())[one.pieces], axis=0, weights=sizes)
    return replace(one, recipe=one.recipe.seen_as(_in_gamut(before.recipe.predicted.lab + moved)))


def _in_gamut(lab: Doubles) -> Doubles:
    return np.asarray(lab.clip((0, -128, -128), (100, 128, 128)))


def _without_veils(one: Pass, on: Canvas) -> Pass:
    """A pass kept off what its washes would lighten there: other tubes scatter otherwise."""
    laid = tuple(
        replace(o, pieces=darkened(on, o)) if isinstance(o, Layer) and o.fades and o.pieces.any() else o
        for o in one.operations
    )
    if all(a.pieces is b.pieces for a, b in zip(laid, one.operations, strict=True)):
        return one
    pieces = one.pieces & np.any([o.pieces for o in laid], axis=0)
    sizes = on.patchwork.sizes
    part = float(sizes[pieces].sum() / sizes[one.pieces].sum())
    return replace(
        one, operations=laid, pieces=pieces, area_cm2=one.area_cm2 * part, ml=one.ml * part
    )  # fmt: skip


def _use(one: Pass, template: PassTemplate) -> Use:
    thin = [o for o in one.operations if isinstance(o, Layer) and o.fades and o.film_mm is not None]
    film = max((float(o.film_mm or 0) for o in thin), default=None)
    flesh = set(template.regions) <= FLESH_AND_FEATURES
    tolerance = HEAP_TOLERANCE.times(1.0 if flesh else HEAP_ELSEWHERE)
    if film is not None:
        # Films lie on one another, and so do their errors.
        tolerance = replace(tolerance, value=tolerance.value * HEAP_IN_FILMS)
    return Use(one.recipe.parts, film, one.ml, tolerance)


def _mixed(
    one: Pass, named: dict[str, int], how: Mix, known: Mapping[str, Mapping[str, int]], thinning: Thinning
) -> Pass:
    """A pass with its paint mixed so: its films as strong, its colour off by as much as the mix is."""
    parts = straight(named, known)
    made = one.recipe.seen_as(_in_gamut(np.array(one.recipe.predicted.lab) + how.shift))
    laid = tuple(replace(o, parts=parts) if isinstance(o, Layer) else o for o in one.operations)
    return thinned_by(
        replace(one, recipe=made, mix=named, tubes=parts, operations=laid), how.strength, thinning
    )


def thinned_by(one: Pass, strength: float, thinning: Thinning) -> Pass:
    """A pass whose thin films are so many times as strong, thinned with whole parts of thinner.

    Parameters
    ----------
    one
        The pass; opaque paint in it stays as it is.
    strength
        Times the paint in every film, > 0.
    thinning
        Of the medium.

    Returns
    -------
    Pass
        With its films, dilutions and paint.
    """
    if strength == 1 or not one.thinned:
        return one
    thinning = replace(thinning, film=one.film)

    def film(dry: DryMm) -> DryMm:
        return DryMm(one.coats * thinning.dry(thinning.dilution(DryMm(dry * strength / one.coats))))

    thinned = tuple(
        replace(t, dilution=thinning.dilution(DryMm(thinning.dry(t.dilution) * strength)))
        for t in one.thinned
    )
    recipe = one.recipe
    made = replace(
        recipe,
        film_mm=None if recipe.film_mm is None else film(recipe.film_mm),
        dilution=None if recipe.dilution is None else thinned[0].dilution,
    )
    laid = tuple(
        replace(o, film_mm=film(o.film_mm)) if isinstance(o, Layer) and o.fades and o.film_mm else o
        for o in one.operations
    )
    paint = sum(t.share * thinning.dry(t.dilution) for t in thinned)
    paint /= sum(t.share * thinning.dry(t.dilution) for t in one.thinned)
    return replace(one, recipe=made, thinned=thinned, operations=laid, ml=one.ml * paint)


def as_dark_as(one: Pass, on: Canvas, planned: Canvas, thinning: Thinning) -> Pass:
    """A wash or glaze thinned so that its place gets as dark as it was planned, on what lies there now.

    Films lie on one another, and so would their errors.

    Parameters
    ----------
    one
        The pass, mixed from heaps.
    on
        The canvas under it.
    planned
        The canvas after it as it was planned.
    thinning
        Of the medium.

    Returns
    -------
    Pass
        The same where it is no single thin film.
    """
    laid = [o for o in one.operations if isinstance(o, Layer)]
    if len(laid) != 1 or not laid[0].fades or len(one.thinned) != 1 or not laid[0].pieces.any():
        return one
    pieces = laid[0].pieces
    sizes = on.patchwork.sizes[pieces]
    wanted = float(np.average(planned.piece_values()[pieces], weights=sizes))

    def off(candidate: Pass) -> float:
        (operation,) = (o for o in candidate.operations if isinstance(o, Layer))
        return float(np.average(on.do(operation).piece_values()[pieces], weights=sizes)) - wanted

    best, error = one, off(one)
    strength, factor = 1.0, AGAIN_THINNED if error > 0 else 1 / AGAIN_THINNED
    for _ in range(MOST_THINNED):
        strength *= factor
        tried = thinned_by(one, strength, thinning)
        now = off(tried)
        if abs(now) >= abs(error) and tried.thinned != best.thinned:
            break
        best, error = tried, now
    return best


def _names(colours: Mapping[int, Colour], clear: bool) -> dict[int, str]:
    """A name for every heap by how it looks; those of one name are counted from dark to light.

    Clear paint has no tone of its own: water makes it.
    """
    plain = {heap: heap_name(colour) for heap, colour in colours.items()}
    if clear:
        plain = {heap: name.split(" ", 1)[1] for heap, name in plain.items()}
    names = {}
    for word in set(plain.values()):
        row = sorted((h for h in plain if plain[h] == word), key=lambda h: colours[h].value)
        for number, heap in enumerate(row, 1):
            names[heap] = word if len(row) == 1 else f"{word} {number}"
    return names


def heap_name(colour: Colour) -> str:
    """What a painter calls a heap that looks so: its tone, and flesh, brown, grey or its hue.

    Examples
    --------
    >>> heap_name(Colour.of_lab((70.0, 13.0, 17.0)))
    'light flesh'
    >>> heap_name(Colour.of_lab((25.0, 8.0, 10.0)))
    'dark brown'
    """
    _, a, b = colour.lab
    tone = next(word for below, word in TONES if colour.value < below)
    if colour.chroma < GREYISH:
        warmth = float(WARM_AXIS[0] * a + WARM_AXIS[1] * b)
        grey = "warm grey" if warmth > 1 else "cool grey" if warmth < -1 else "grey"
        return f"{tone} {grey}"
    low, high = FLESH_HUES
    if low <= colour.hue <= high:
        if colour.value < BROWN_BELOW:
            return f"{tone} brown"
        if colour.chroma <= FLESH_CHROMA:
            return f"{tone} flesh"
    return f"{tone} {hue_word(a, b)}"
