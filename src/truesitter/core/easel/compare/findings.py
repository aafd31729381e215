"""What is wrong, and where: the differences between a painting and its plan as few sentences.

A key or a contrast that is off as a whole is one finding, not forty; so it is looked for first, and what it
explains is taken out of the rest. What is left is gathered in patches of one sign, divided where they
differ much, named by the places they cover, and ranked by area times error.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Literal

import cv2
import numpy as np

from truesitter.core.easel.compare.difference_words import sentence, value_words
from truesitter.core.easel.compare.squinted import Squinted, opened
from truesitter.core.easel.compare.tone_curve import ToneCurve, whole_of
from truesitter.core.easel.compare.tuning import (
    AGREES,
    APART,
    COLOUR_AS_STEPS,
    CONTRAST_OFF,
    FAINT,
    FINDINGS_LEAST_MM,
    FREE,
    FREE_COLOUR,
    LEAST_PART,
    MOST_OF_IT,
    OWN,
    RIM,
    SILENT,
    SILENT_COLOUR,
)
from truesitter.core.sitter.areas import Areas, middle_of, share_by_area
from truesitter.core.types import Doubles, Floats, Mask

What = Literal["value", "colour", "key", "range", "drawing", "edge", "finish"]
"""What kind of thing is wrong."""


@dataclass(frozen=True, eq=False)
class Finding:
    """Something wrong with a painting.

    Attributes
    ----------
    place
        Where, in words.
    what
        What kind of thing.
    steps
        Value steps by which it is too light; negative for too dark.
    delta
        Differences in L*, a*, b*.
    area_cm2
        How much of the canvas it concerns.
    words
        In a sentence.
    x, y
        A spot of it, in fractions.
    mask
        (h, w) where it is.
    measured, wanted
        L*a*b* of it as painted and as planned.
    weight
        What it is ranked by: area in cm² times error in steps.
    offset_mm
        Right and down, for drawing.
    """

    place: str
    what: What
    steps: float
    delta: tuple[float, float, float]
    area_cm2: float
    words: str
    x: float
    y: float
    mask: Mask = field(repr=False)
    measured: tuple[float, float, float]
    wanted: tuple[float, float, float]
    weight: float
    offset_mm: tuple[float, float] | None = None


def _whole_finding(
    seen: Squinted, whole: ToneCurve, absolute: bool, cm2: float
) -> tuple[Finding | None, Floats]:
    """The one sentence on key and range, if there is one, and the differences that are left (h, w)."""
    steps = seen.steps
    explained = np.where(seen.trusted, whole.explained(seen.wanted), 0).astype(np.float32)
    left = (steps - explained).astype(np.float32)
    before, after = (float(np.abs(d[seen.trusted]).mean()) for d in (steps, left))
    middle = float(np.median(explained[seen.trusted])) if seen.trusted.any() else 0.0
    off = abs(whole.contrast - 1) >= CONTRAST_OFF
    key = absolute and abs(middle) >= SILENT
    if whole.curve is None and (not (off or key) or after > (1 - AGREES) * before):
        return None, steps
    if not (off or key):
        return None, left
    said = []
    if key:
        said.append(f"all of it is {value_words(middle)}")
    if off:
        per_cent = abs(whole.contrast - 1) * 100
        said.append(
            f"the range is {per_cent:.0f} per cent "
            f"{'narrower' if whole.contrast < 1 else 'wider'} than planned: "
            f"darkest {whole.darkest[0]:.1f} instead of {whole.darkest[1]:.1f}, "
            f"lightest {whole.lightest[0]:.1f} instead of {whole.lightest[1]:.1f}"
        )
    mean = [tuple(float(v) for v in lab[seen.trusted].mean(axis=0)) for lab in (seen.own, seen.plan)]
    words = ("; ".join(said) + ".").capitalize()
    found = Finding(
        "the whole painting", "range" if off else "key", middle, _delta(mean), cm2, words, 0.5, 0.5,
        seen.trusted, _lab(mean[0]), _lab(mean[1]), cm2 * max(before, 0.01),
    )  # fmt: skip
    return found, left


def _lab(numbers: tuple[float, ...]) -> tuple[float, float, float]:
    return numbers[0], numbers[1], numbers[2]


def _delta(pair: list[tuple[float, ...]]) -> tuple[float, float, float]:
    return _lab(tuple(a - b for a, b in zip(*pair, strict=True)))


def find_differences(
    seen: Squinted, areas: Areas, mm_per_px: float, absolute: bool, free: bool = False
) -> tuple[tuple[Finding, ...], ToneCurve]:
    """Every difference in value and colour that is worth telling, the heaviest first.

    Parameters
    ----------
    seen
        Painting and plan, squinted.
    areas
        The picture by name, of the same size.
    mm_per_px
        Canvas mm to a pixel.
    absolute
        True when the photograph's light is known, so that a key that is wrong as a whole can be seen.
    free
        True for free work, held to a photograph: its paint reaches less far, and only what is clearly off
        is told.
    """
    silent, silent_colour = (FREE * SILENT, FREE_COLOUR * SILENT_COLOUR) if free else (SILENT, SILENT_COLOUR)
    cm2 = mm_per_px**2 / 100
    whole = whole_of(seen, free)
    first, steps = _whole_finding(seen, whole, absolute, float(seen.trusted.sum()) * cm2)
    found = [first] if first else []
    taken = np.zeros(steps.shape, bool)
    for sign in (1.0, -1.0):
        by_place: dict[str, Finding] = {}
        for patch in _patches(sign * steps, silent, FINDINGS_LEAST_MM / mm_per_px / 2):
            for part in _parts(patch, steps, areas):
                one = _finding(part, steps, seen, areas, cm2)
                if abs(one.steps) < silent:
                    continue
                taken |= part
                # What is called by one name and off alike is one thing, though something lies across it.
                # Together they may have another name, which may be taken too.
                while (same := by_place.pop(one.place, None)) is not None:
                    if abs(same.steps - one.steps) >= APART:
                        found.append(same)
                        break
                    one = _finding(same.mask | one.mask, steps, seen, areas, cm2)
                by_place[one.place] = one
        found += by_place.values()
    colour = seen.colour
    away = np.where(taken, 0, np.hypot(colour[..., 0], colour[..., 1])).astype(np.float32)
    for patch in _patches(away, silent_colour, FINDINGS_LEAST_MM / mm_per_px / 2):
        turn = colour / np.maximum(np.hypot(colour[..., 0], colour[..., 1]), 1e-6)[..., None]
        main = turn[patch].mean(axis=0)
        same = patch & (turn @ main > 0.5 * float(np.hypot(*main)))
        if same.any():
            one = _finding(same, steps, seen, areas, cm2)
            if np.hypot(one.delta[1], one.delta[2]) >= silent_colour:
                found.append(replace(one, what="colour"))
    return tuple(sorted(found, key=lambda f: -f.weight)), whole


def _patches(strength: Floats, silent: float, radius: float) -> list[Mask]:
    """Connected patches where something is told, grown to where it is about to end."""
    core = opened(strength >= silent, radius)
    if not core.any():
        return []
    reach = opened(strength >= RIM * silent, radius)
    _, parts = cv2.connectedComponents((reach | core).astype(np.uint8))
    numbers = np.unique(parts[core])
    return [np.asarray(parts == n) for n in numbers if n > 0]


def _parts(patch: Mask, steps: Floats, areas: Areas) -> list[Mask]:
    """A patch divided where its places are off by clearly different amounts."""
    sizes = share_by_area(areas, patch.astype(np.float64))
    total = sizes.sum()
    sums = share_by_area(areas, np.where(patch, steps, 0).astype(np.float64))
    large = [int(n) for n in np.argsort(-sizes) if sizes[n] >= LEAST_PART * total]
    if len(large) < 2:
        return [patch]
    groups: list[tuple[list[int], float]] = []
    for n in large:
        mean = sums[n] / sizes[n]
        for own in groups:
            if abs(own[1] - mean) < APART:
                own[0].append(n)
                break
        else:
            groups.append(([n], float(mean)))
    groups = _without_rims(groups, sizes, float(total))
    if len(groups) < 2:
        return [patch]
    # What is too small to be told apart goes to the part whose amount it is nearest to.
    which = np.zeros(len(areas.names), np.uint8)
    for n in np.flatnonzero(sizes):
        mean = sums[n] / sizes[n]
        which[n] = int(np.argmin([abs(mean - g[1]) for g in groups]))
    of_pixel = which[areas.labels]
    return [part for g in range(len(groups)) if (part := patch & (of_pixel == g)).any()]


def _without_rims(
    groups: list[tuple[list[int], float]], sizes: Doubles, total: float
) -> list[tuple[list[int], float]]:
    """Groups of parts that say something of their own: a faint one beside a strong one is its rim."""
    strongest = max(abs(mean) for _, mean in groups)
    return [g for g in groups if abs(g[1]) >= FAINT * strongest or sizes[g[0]].sum() >= OWN * total]


def _finding(where: Mask, steps: Floats, seen: Squinted, areas: Areas, cm2: float) -> Finding:
    """What a patch comes to: its heavy parts count more than its fading rim."""
    amount = np.abs(steps[where]).astype(np.float64) + np.hypot(*seen.colour[where].T) / COLOUR_AS_STEPS
    weights = amount / amount.sum() if amount.sum() > 0 else np.full(len(amount), 1 / len(amount))
    mean = float(weights @ steps[where])
    labs = [tuple(float(v) for v in weights @ lab[where]) for lab in (seen.own, seen.plan)]
    delta = _delta(labs)
    area = float(where.sum()) * cm2
    full = np.zeros(where.shape)
    full[where] = amount
    place = place_words(areas, full, where)
    x, y = middle_of(where & (np.abs(steps) >= 0.5 * abs(mean)) if abs(mean) > SILENT else where)
    heavy = area * (abs(mean) + np.hypot(delta[1], delta[2]) / COLOUR_AS_STEPS)
    return Finding(
        place, "value", mean, delta, area, sentence(place, mean, delta, np.array(labs[1])), x, y, where,
        _lab(labs[0]), _lab(labs[1]), heavy,
    )  # fmt: skip


def place_words(areas: Areas, weight: Doubles, where: Mask) -> str:
    """Name of what a patch lies on: one place, two, or the larger thing they are part of.

    Parameters
    ----------
    areas
        The picture by name.
    weight
        (h, w) how much each pixel counts.
    where
        (h, w) the patch.

    Returns
    -------
    str
        A name for the sentence.
    """
    shares = share_by_area(areas, weight)
    order = np.argsort(-shares)
    first = int(order[0])
    whole = areas.whole[first]
    own = areas.wholes(whole)
    if (where & own).sum() >= MOST_OF_IT * own.sum() and len(set(np.flatnonzero(shares))) > 1:
        return f"the {whole}"
    second = int(order[1]) if len(order) > 1 else first
    if second != first and shares[second] > 0.55 * shares[first]:
        one, other = areas.names[first], areas.names[second]
        if whole == areas.whole[second]:
            if whole in (one, other):
                return f"the {whole}"
            if ", " in one and ", " in other:
                return f"{one} and {other.partition(', ')[2]}"
        return f"{one} and {other}"
    return areas.names[first]
