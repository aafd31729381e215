"""Where the passes of a template lie: one place for each value group, third or set of lines."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.hair.layers.job import HairLayer, Role
from truesitter.core.imaging.blur import blur_within
from truesitter.core.imaging.line import Line
from truesitter.core.plan.subject import Mark, Subject
from truesitter.core.plan.tuning import (
    HALFTONE_LEAST,
    LAST_LIGHTS_MOST,
    LAST_LIGHTS_REACH,
    PEAK_QUANTILE,
    SMALLEST_CM2,
    SMALLEST_LIGHT_CM2,
)
from truesitter.core.plan.water.hue_places import hue_places
from truesitter.core.school.school_document import Band, KindName, PassTemplate, TonesOrder
from truesitter.core.types import Floats, Labels, Mask
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.value_map import histogram

_MARKED = {
    Band.RECESSES: (Mark.RECESS, Mark.RECESS_DARK),
    Band.RECESS_DARKS: (Mark.RECESS_DARK,),
    Band.HIGHLIGHTS: (Mark.HIGHLIGHT,),
}

_STROKES: tuple[Role, ...] = (
    "first hairs", "early lights", "locks", "smaller locks", "tying glaze", "shine",
)  # fmt: skip

HAIR_ROLES: dict[Band, tuple[Role, ...]] = {
    Band.HAIR_LAYERS: ("base", *_STROKES),
    Band.HAIR_BASE: ("base",),
    Band.HAIR_STROKES: _STROKES,
    Band.LIGHT_HAIRS: ("light hairs",),
    Band.DARK_HAIRS: ("dark hairs",),
}
"""Which layers of the hair a band is made of."""

_STROKED: frozenset[KindName] = frozenset({"hair", "grey hair", "washed hair"})
_LINED: frozenset[KindName] = frozenset({"lines", "drawn", "scratch", "lines out"})
"""Kinds that stroke the hair, and those that draw lines or take them out; all others lay its tones flat."""

THIRDS = {1: ("all of it",), 2: ("darks", "lights"), 3: ("darks", "middle", "lights")}


@dataclass(frozen=True)
class Place:
    """One place of a template.

    Attributes
    ----------
    mask, lines
        (h, w) where it lies, or the lines it is made of.
    key, name, group
        Of its pass.
    aim
        (h, w) the part of it whose colour is wanted; all of it when not given.
    hair
        The layer of the hair stage that it is.
    hues
        (h, w) places of a first wash on either side of its hue, 1 and 2; 0 for neither.
    tone, order
        (h, w) where the colour of its lines or light comes from, and which place of its template it is.
    """

    template: PassTemplate
    mask: Mask
    key: str
    name: str
    group: int | None = None
    aim: Mask | None = None
    lines: tuple[Line, ...] = ()
    tone: Mask | None = None
    order: int = 0
    hair: HairLayer | None = None
    hues: Labels | None = None


def _in_thirds(values: Floats, where: Mask) -> tuple[Labels, int]:
    """Dark, middle and light as 1, 2, 3, and how many there are; 0 elsewhere."""
    inside = values[where]
    counts = histogram(inside)
    bands = min(3, int(np.count_nonzero(counts)))
    which = np.zeros(values.shape, np.uint8)
    which[where] = 1 + np.digitize(inside, best_fit_cuts(counts, bands) if bands > 1 else ())
    return which, bands


def tones_of(values: Floats, where: Mask) -> list[tuple[str, Mask]]:
    """The tones of a place by their words, darkest first; none for a place of nothing."""
    if not where.any():
        return []
    which, bands = _in_thirds(values, where)
    return [(word, which == number) for number, word in enumerate(THIRDS[bands], 1)]


def _marked(subject: Subject, marks: Sequence[Mark]) -> Mask:
    """Where the light left one of some marks."""
    if subject.marks is None:
        return np.zeros(subject.groups.shape, bool)
    return np.isin(subject.marks, marks)


def _washes(template: PassTemplate, subject: Subject, where: Mask) -> list[Place]:
    """Best-fit tones from light to dark, each over everything darker of the place."""
    if not where.any():
        return []
    inside = subject.value[where]
    counts = histogram(inside)
    count = min(template.steps, int(np.count_nonzero(counts)))
    order = np.zeros(subject.value.shape, np.uint8)
    order[where] = count - np.digitize(inside, best_fit_cuts(counts, count) if count > 1 else ())
    places = []
    # The first of them is stopped by shields and by what lies beside it: nothing stays bare there.
    mask = order >= template.from_step
    for step in range(template.from_step, min(template.to_step, count) + 1):
        darker = _no_finer(order > step, template, subject)
        places.append(
            Place(
                template, mask, f"{template.key}-{step}", template.name.format(band=f"wash {step}"),
                aim=mask & ~darker, order=step - 1,
                hues=hue_places(subject, mask) if step == 1 and template.kind == "water" else None,
            )
        )  # fmt: skip
        mask = darker
    return places


def _pieces(template: PassTemplate, subject: Subject, where: Mask) -> list[Place]:
    """Best-fit tones, darkest first, each laid by itself."""
    if not where.any():
        return []
    inside = subject.value[where]
    counts = histogram(inside)
    count = min(template.steps, int(np.count_nonzero(counts)))
    tone = np.zeros(subject.value.shape, np.uint8)
    tone[where] = 1 + np.digitize(inside, best_fit_cuts(counts, count) if count > 1 else ())
    return [
        Place(
            template, tone == number, f"{template.key}-{number}",
            template.name.format(band=f"tone {number} of {count}"), order=number - 1,
        )
        for number in range(1, count + 1)
    ]  # fmt: skip


def _no_finer(mask: Mask, template: PassTemplate, subject: Subject) -> Mask:
    """What is left of a place without anything finer than the hand can lay there (opening, Serra 1982)."""
    radius = round(template.finest_mm / 2 / subject.mm_per_px)
    if radius < 1:
        return mask
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * radius + 1, 2 * radius + 1))
    return np.asarray(cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, disc) > 0)


def _thirds(template: PassTemplate, values: Floats, where: Mask) -> list[Place]:
    which, bands = _in_thirds(values, where)
    nested = template.band is Band.NESTED_THIRDS
    return [
        Place(
            template,
            which > i if nested else which == i + 1,
            f"{template.key}-{i + 1}",
            template.name.format(band=name),
            aim=which == i + 1 if nested else None,
        )
        for i, name in enumerate(THIRDS[bands])
    ]


def _peaks(subject: Subject, where: Mask) -> Mask:
    """The lightest of the zones round the peaks: in the shape the light has, not in discs."""
    first: Mask = where & (subject.zones == 1)
    if not first.any():
        return first
    lightness = subject.lab[..., 0]
    near = where & ((subject.zones == 1) | (subject.zones == 2))
    lightest: Mask = near & (lightness >= np.quantile(lightness[first], PEAK_QUANTILE))
    most = LAST_LIGHTS_MOST * np.count_nonzero(where)
    if np.count_nonzero(lightest) > most:
        # By a flash half a forehead is as light as its lightest: what stands out round it is touched.
        reach = LAST_LIGHTS_REACH * float(np.sqrt(np.count_nonzero(where)))
        rise = lightness - blur_within(lightness, where.astype(np.float32), reach)
        lightest &= rise >= np.quantile(rise[lightest], 1 - most / np.count_nonzero(lightest))
    return lightest


def _halftones(template: PassTemplate, subject: Subject, where: Mask) -> list[Place]:
    """The cool halftone in each value group that holds some of it: cooler, and no flatter."""
    cool = where & (False if subject.halftone is None else subject.halftone)
    found = list[Place]()
    for group in np.unique(subject.groups[cool]):
        mask = cool & (subject.groups == group)
        if np.count_nonzero(mask) >= HALFTONE_LEAST * np.count_nonzero(cool):
            # Its own mixture, not that of the flesh of the group.
            name = template.name.format(band=f"{len(found) + 1}")
            found.append(Place(template, mask, f"{template.key}-{group + 1}", name))
    return found


def _zones(template: PassTemplate, subject: Subject, where: Mask) -> list[Place]:
    """Zones from the peaks outward, each covering those inside it; none without light."""
    inside = np.where(where, subject.zones, 0)
    first: Mask = inside == 1
    if not first.any():
        return []
    return [
        Place(
            template,
            (inside > 0) & (inside <= zone),
            f"{template.key}-{zone}",
            template.name.format(band=f"zone {zone}"),
            aim=inside == zone,
            tone=first,
            order=zone - 1,
        )
        for zone in range(1, 5)
    ]


def _hair_places(template: PassTemplate, subject: Subject, where: Mask) -> list[Place]:
    """Layers of the hair: stroked, laid flat in their tones, or as lines that are drawn or taken out."""
    roles, strokes = HAIR_ROLES[template.band], template.kind in _STROKED
    lines = template.kind in _LINED
    places = []
    drawn = [o for o in subject.hair if o.role in roles]
    if not (strokes or lines):
        drawn = [o for o in drawn if o.role != "first hairs"]
    for number, one in enumerate(drawn, 1):
        nowhere = np.zeros_like(where)
        places.append(
            Place(
                template,
                nowhere if lines else where & one.mask,
                f"{template.key}-{number}",
                template.name.format(band=_after_mass(one.name)),
                aim=None if lines else where & one.aim,
                lines=one.lines if strokes or lines else (),
                tone=one.aim,
                hair=one,
            )
        )
    return [p for p in places if p.mask.any() or p.lines]


def _after_mass(name: str) -> str:
    """``locks`` of ``Hair: locks``; a beard of its own keeps its name."""
    said = name.removeprefix("Hair: ").removeprefix("Hair and beard: ")
    return said[0].lower() + said[1:]


def _line_places(template: PassTemplate, subject: Subject) -> list[Place]:
    sets = subject.lines.get(template.key, ())
    nowhere = np.zeros(subject.groups.shape, bool)
    return [
        Place(
            template,
            nowhere,
            template.key if len(sets) == 1 else f"{template.key}-{number}",
            template.name.format(band=drawn.band),
            lines=drawn.lines,
            tone=drawn.tone,
        )
        for number, drawn in enumerate(sets, 1)
        if drawn.lines
    ]


def in_order(darkest_first: Sequence[Place], tones: TonesOrder) -> list[Place]:
    """Places that do not overlap, as their tones are to follow one another."""
    if tones == "dark to light":
        return list(darkest_first)
    if tones == "light to dark":
        return list(darkest_first[::-1])
    # From both ends inward: darkest, lightest, and so on; what is left lies between.
    inward = sorted(range(len(darkest_first)), key=lambda n: min(n, len(darkest_first) - 1 - n))
    return [darkest_first[n] for n in inward]


_PARTED: dict[Band, Callable[[PassTemplate, Subject, Mask], list[Place]]] = {
    Band.COOL_HALFTONE: _halftones,
    Band.WASHES: _washes,
    Band.PIECES: _pieces,
    Band.ZONES: _zones,
}


def split(template: PassTemplate, subject: Subject) -> list[Place]:
    """The places of one template in the order of its tones, too small ones left out."""
    if template.band is Band.LINES:
        return _line_places(template, subject)
    where = np.isin(np.arange(256), template.regions)[subject.regions]
    if template.band is Band.EACH_GROUP:
        places = [
            Place(template, where & (subject.groups == i), f"{template.key}-{i + 1}", template.name, i)
            for i in range(int(subject.groups.max()) + 1)
        ]
    elif template.band in HAIR_ROLES:
        return _hair_places(template, subject, where)
    elif template.band in _PARTED:
        places = _PARTED[template.band](template, subject, where)
    elif template.band in (Band.THIRDS, Band.NESTED_THIRDS):
        places = _thirds(template, subject.value, where) if where.any() else []
    else:
        if template.band is Band.SHADOW_AND_HALFTONE:
            middle = float(np.median(subject.value[where])) if where.any() else 0.0
            where = where & (subject.value < middle)
        elif template.band is Band.PEAKS:
            where = _peaks(subject, where)
        elif template.band in _MARKED:
            where = where & _marked(subject, _MARKED[template.band])
        # The first coat of hollows is as dark as those need that get no second one.
        aim = where & _marked(subject, (Mark.RECESS,)) if template.band is Band.RECESSES else None
        places = [Place(template, where, template.key, template.name, aim=aim)]
    if template.band in (Band.EACH_GROUP, Band.THIRDS, Band.PIECES):
        places = in_order(places, template.tones)
    smallest = (
        (SMALLEST_LIGHT_CM2 if template.band is Band.HIGHLIGHTS else SMALLEST_CM2)
        * 100
        / subject.mm_per_px**2
    )
    return [p for p in places if np.count_nonzero(p.mask) >= smallest]


def patchwork_of(subject: Subject, places: list[Place]) -> Patchwork:
    """Pieces along the borders of the regions, of the groups, and of the places that follow neither."""
    own = dict[str, Labels]()
    for number, place in enumerate(places, 1):
        if place.template.band not in (Band.EVERYTHING, Band.EACH_GROUP, Band.LINES):
            # Places of one template never overlap, or each lies inside the one before.
            # Layers of hair lie across one another, each has borders of its own.
            key = place.key if place.hair else place.template.key
            drawn = own.setdefault(key, np.zeros(subject.groups.shape, np.uint8))
            # Zones grow: each covers those before it, which keep their pieces.
            fresh = place.mask & (drawn == 0) if place.template.band is Band.ZONES else place.mask
            drawn[fresh] = number
        if place.hues is not None:
            own[f"{place.key}, hues"] = place.hues
    stays = [subject.ground.stays] if subject.ground else []
    return Patchwork.of(subject.groups.shape, subject.regions, subject.groups, *own.values(), *stays)
