"""A painting held to its plan: everything that is wrong, and everything that holds."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab, linear_to_lab
from truesitter.core.colour.value import lightness_map_to_value, value_to_luminance
from truesitter.core.easel.compare.bare_drawing import check_drawing
from truesitter.core.easel.compare.border_widths import EdgeOff, edges_off, read_both
from truesitter.core.easel.compare.drawing_offsets import OUTLINE, Offset, features_of, figure_parts, offsets
from truesitter.core.easel.compare.findings import Finding, What, find_differences
from truesitter.core.easel.compare.relations import Relation, relations_of
from truesitter.core.easel.compare.small_finish import FinishOff, finish_off
from truesitter.core.easel.compare.squinted import Squinted, squint
from truesitter.core.easel.compare.tone_curve import ToneCurve
from truesitter.core.easel.compare.tuning import DRAWING_OFFSETS_LEAST_MM, SILENT
from truesitter.core.easel.find.correlation import normalised
from truesitter.core.easel.lamp.rectified import RectifiedPainting
from truesitter.core.easel.rules.looked import Looked, Verdict
from truesitter.core.easel.rules.verdicts import verdicts
from truesitter.core.easel.tuning import (
    EDGE_AS_STEPS,
    EXPLAINED,
    FINISH_AS_STEPS,
    FORGOTTEN_AS_STEPS,
    OFFSET_AS_STEPS,
    RIGHT_TONE,
    WRONG_TONES,
)
from truesitter.core.light.mirrored.ceilings import Ceiling
from truesitter.core.paint.media.drying import DryingShift
from truesitter.core.sitter.areas import Areas, middle_of
from truesitter.core.sitter.face import Face
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Bytes, Floats, Labels, Mask


@dataclass(frozen=True)
class Comparison:
    """A painting held to its plan.

    Attributes
    ----------
    findings
        All that is wrong, the heaviest first.
    whole, relations, verdicts, offsets
        Key and range; how things stand to one another; the rules; where every feature lies.
    seen
        Both, squinted.
    """

    findings: tuple[Finding, ...]
    whole: ToneCurve
    relations: tuple[Relation, ...]
    verdicts: tuple[Verdict, ...]
    offsets: tuple[Offset, ...]
    seen: Squinted

    @property
    def holds(self) -> tuple[str, ...]:
        """What is well, in sentences."""
        held = [v.words for v in self.verdicts if v.holds]
        held += [r.words for r in self.relations if r.holds][:6]
        fine = [o.name for o in self.offsets if not o.wrong and o.name != OUTLINE]
        if fine:
            held.append(f"In their places: {', '.join(dict.fromkeys(fine))}.")
        return tuple(held)

    @property
    def largest(self) -> float:
        """Steps of the largest finding in value."""
        return max((abs(f.steps) for f in self.findings), default=0.0)


@dataclass(frozen=True)
class ComparedSubject:
    """What is known of the picture; maps of the size of the plan's canvas.

    Attributes
    ----------
    regions, groups
        Regions and value groups.
    areas
        The picture by name.
    face, ceilings
        Of the sitter.
    mm_per_px
        Canvas mm to a pixel.
    """

    regions: Labels
    groups: Labels
    areas: Areas
    face: Face | None
    ceilings: tuple[Ceiling, ...]
    mm_per_px: float


def dried(light: Floats, shift: DryingShift) -> Floats:
    """Linear light of wet paint as it will be when dry: only its value changes."""
    values = np.linspace(0, 10, 256)
    wet = np.array([shift.dry(float(v)) for v in values])
    lab = linear_to_lab(np.clip(light, 0, 1))
    value = lightness_map_to_value(np.clip(lab[..., 0], 0, 100))
    gains = value_to_luminance(wet) / np.maximum(value_to_luminance(values), 1e-3)
    return np.asarray(light * np.interp(value, values, gains)[..., None], dtype=np.float32)


def compare(
    taken: RectifiedPainting,
    wanted: Floats,
    subject: ComparedSubject,
    shift: DryingShift | None = None,
    free: bool = False,
) -> Comparison:
    """Hold a painting to its plan.

    Parameters
    ----------
    taken
        The painting as its paint is.
    wanted
        (h, w, 3) linear light of what the plan has there.
    shift
        How the paint will dry, for a painting photographed wet.
    free
        True for free work, held to a photograph.
    """
    light = dried(taken.light, shift) if shift else taken.light
    light = np.clip(light, 0, 1.2).astype(np.float32)
    seen = squint(light, wanted, taken.trusted)
    own, plan = (lightness_map_to_value(np.clip(linear_to_lab(p)[..., 0], 0, 100)) for p in (light, wanted))
    mm = subject.mm_per_px
    values, whole = find_differences(seen, subject.areas, mm, taken.lighting.absolute, free)
    placed = _offsets(own, plan, subject, seen)
    # A border between tones that are wrong tells of the tones, not of the hand.
    edges = read_both(subject.groups, own, plan, taken.trusted & (np.abs(seen.steps) < RIGHT_TONE), mm)
    look = Looked(
        seen, own, plan, subject.regions, subject.areas, subject.face, subject.ceilings, edges, whole, mm
    )
    worked = finish_off(own, plan, subject.areas, taken.trusted, mm, free)
    found = [
        *_unexplained(values, placed, seen),
        *(_of_offset(o, seen, subject) for o in placed if o.wrong),
        *(_of_edge(e, seen, subject) for e in edges_off(edges, subject.areas, free)),
        *(_of_finish(f, seen, subject) for f in worked),
    ]
    rules = verdicts(look)
    return Comparison(
        tuple(sorted(found, key=lambda f: -f.weight)), whole, relations_of(seen, subject.areas), rules,
        placed, seen,
    )  # fmt: skip


def compare_drawing(
    taken: RectifiedPainting, template: Bytes, wanted: Floats, subject: ComparedSubject
) -> Comparison:
    """Hold a bare drawing to the outlines that were carried over.

    Parameters
    ----------
    taken
        The sheet or canvas, squared up.
    template, wanted
        (h, w, 3) the outlines as `line_picture` draws them, and their linear light.
    subject
        What is known of the picture.

    Returns
    -------
    Comparison
        With findings of drawing alone: there are no values yet.
    """
    shape, mm = (template.shape[0], template.shape[1]), subject.mm_per_px
    parts = features_of(subject.face, shape)
    found = check_drawing(taken.squared, template, parts, subject.areas, mm)
    seen = squint(np.clip(taken.light, 0, 1.2).astype(np.float32), wanted, taken.trusted)
    wrong = [_of_offset(o, seen, subject) for o in found.offsets if o.wrong]
    for one in found.forgotten:
        area, weight = float(one.mask.sum()) * mm**2 / 100, one.mm * FORGOTTEN_AS_STEPS
        spot = (one.x, one.y)
        wrong.append(_plain(seen, one.mask, one.place, "drawing", one.words, spot, area, weight))
    ordered = tuple(sorted(wrong, key=lambda f: -f.weight))
    return Comparison(ordered, ToneCurve(0.0, 1.0, (0, 0), (0, 0)), (), (), found.offsets, seen)


def _offsets(own: Floats, plan: Floats, subject: ComparedSubject, squinted: Squinted) -> tuple[Offset, ...]:
    shape = (plan.shape[0], plan.shape[1])
    figure = subject.regions != Region.BACKGROUND
    # A tone that is wrong bends the border it ends at: outlines are judged between tones that are right.
    off = (np.abs(squinted.steps) > SILENT) | ~squinted.trusted
    outline = tuple(f for f in figure_parts(figure) if off[f.inside()].mean() < WRONG_TONES)
    parts = (*features_of(subject.face, shape), *outline)
    # Under gloss the plan stands in: what cannot be seen is not off.
    seen = np.where(squinted.trusted, own, plan).astype(np.float32)
    return offsets(parts, normalised(seen), normalised(plan), subject.mm_per_px)


def _unexplained(found: tuple[Finding, ...], placed: tuple[Offset, ...], seen: Squinted) -> list[Finding]:
    """Differences that are no mere consequence of a feature lying elsewhere."""
    moved = np.zeros(seen.trusted.shape, bool)
    for one in placed:
        if one.distance_mm >= DRAWING_OFFSETS_LEAST_MM and one.name != OUTLINE:
            left, top, right, bottom = one.box
            pad = round(0.15 * max(right - left, bottom - top))
            moved[max(0, top - pad) : bottom + pad, max(0, left - pad) : right + pad] = True
    return [f for f in found if f.what in ("key", "range") or moved[f.mask].mean() < EXPLAINED]


def _mean(lab: Floats, where: Mask) -> Lab:
    return as_lab(lab[where].mean(axis=0, dtype=np.float64)) if where.any() else (0.0, 0.0, 0.0)


def _plain(
    seen: Squinted, where: Mask, place: str, what: What, words: str, spot: tuple[float, float], area: float,
    weight: float, offset: tuple[float, float] | None = None,
) -> Finding:  # fmt: skip
    measured, wanted = _mean(seen.own, where), _mean(seen.plan, where)
    delta = (measured[0] - wanted[0], measured[1] - wanted[1], measured[2] - wanted[2])
    return Finding(
        place, what, 0.0, delta, area, words, *spot, where, measured, wanted, weight, offset
    )  # fmt: skip


def _of_offset(one: Offset, seen: Squinted, subject: ComparedSubject) -> Finding:
    left, top, right, bottom = one.box
    where = np.zeros(seen.trusted.shape, bool)
    where[top:bottom, left:right] = True
    area = float(where.sum()) * subject.mm_per_px**2 / 100
    name = one.name
    if name == OUTLINE:
        name = f"outline of the {subject.areas.names[_common(subject.areas, where)]}"
    bent = abs(one.turn) / 4 + (abs(one.wide - 1) + abs(one.tall - 1)) / 0.13
    weight = area * OFFSET_AS_STEPS * (one.distance_mm + 0.3 * bent)
    words = one.words().replace("Outline", f"{name[:1].upper()}{name[1:]}", 1)
    return _plain(seen, where, name, "drawing", words, (one.x, one.y), area, weight,
                  (one.right_mm, one.down_mm))  # fmt: skip


def _common(areas: Areas, where: Mask) -> int:
    """Number of the area, background left aside, that takes most of a window."""
    counts = np.bincount(areas.labels[where], minlength=len(areas.names)).astype(float)
    counts[[i for i, w in enumerate(areas.whole) if w == "background"]] *= 0.01
    return int(counts.argmax())


def _of_edge(one: EdgeOff, seen: Squinted, subject: ComparedSubject) -> Finding:
    where = np.zeros(seen.trusted.shape, bool)
    reach = max(1, round(1.5 / subject.mm_per_px))
    for x, y in one.readings.astype(int):
        where[max(0, y - reach) : y + reach + 1, max(0, x - reach) : x + reach + 1] = True
    area = float(where.sum()) * subject.mm_per_px**2 / 100
    weight = area * EDGE_AS_STEPS * abs(float(np.log(one.painted_mm / one.planned_mm)))
    return _plain(seen, where, one.place, "edge", one.words, (one.x, one.y), area, weight)


def _of_finish(one: FinishOff, seen: Squinted, subject: ComparedSubject) -> Finding:
    where = subject.areas.mask(one.place) & seen.trusted
    area = float(where.sum()) * subject.mm_per_px**2 / 100
    weight = area * FINISH_AS_STEPS * abs(float(np.log(one.ratio)))
    return _plain(seen, where, one.place, "finish", one.words, middle_of(where), area, weight)
