"""Questions on which practitioners differ, each a choice that turns one school into a near relation.

A switch moves passes of the document about, or the tones of one place, or lays some twice; it never changes
how one of them is laid. None leaves the order as the school has it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.school.school_document import Band, PassTemplate, School, TonesOrder
from truesitter.core.school.tuning import FIRST_FILM, THICK_STROKE_MM
from truesitter.core.sitter.region_names import FEATURES, Region

BackgroundWhen = Literal["first", "between", "last", "first tone, then last"]
HairWhen = Literal["early", "late"]
LightsWhen = Literal["early", "last"]
Order = Literal["details last", "by section"]
Softening = Literal["at once", "within open time", "smeared at the end"]
Sitting = Literal["all in one"]
Layers = Literal["two of the whole figure"]
WallStrokes = Literal["loose and thick"]

_SECTIONS: tuple[tuple[Region, ...], ...] = (
    (Region.BACKGROUND,), (Region.GARMENT, Region.SPECTACLES, Region.HAT, Region.JEWELLERY),
    (Region.SKIN, Region.LIPS, Region.EYES, Region.MOUTH, Region.BROWS), (Region.HAIR, Region.FACIAL_HAIR),
)  # fmt: skip
"""Sections of a picture that are finished one by one."""

_SOFTLY: dict[Softening, str] = {
    "at once": "Soften each border as you lay it, with a clean brush.",
    "within open time": "Lay it hard, then soften its borders while they are open.",
    "smeared at the end": "Leave the borders tight; they are smeared at the very end.",
}


_SMEAR = PassTemplate(
    key="smear", name="Smearing", kind="smear", regions=tuple(Region), band=Band.EVERYTHING, film_mm=0.01,
    dries_minutes=0, edge="lost", tool="soft brush, dry", into_wet=True, stays=True,
    note="Draw it lightly over what lies away from the focus, each place in the sitting it was painted in.",
    inspect="From three steps away the eye rests where it should.",
)  # fmt: skip
"""What is painted tight first is smeared as a step of its own."""


FIRST_LAYER = "layer-one-"
"""Keys of the passes of a first loose layer begin so."""


@dataclass(frozen=True)
class Switches:
    """What the painter decided for one plan; None as the school has it."""

    background: BackgroundWhen | None = None
    hair: HairWhen | None = None
    lights: LightsWhen | None = None
    order: Order | None = None
    softening: Softening | None = None
    tones: TonesOrder | None = None
    sitting: Sitting | None = None
    layers: Layers | None = None
    wall: WallStrokes | None = None


def adapted(school: School, switches: Switches) -> School:
    """A school with its passes in the order that the switches ask for.

    Ground, tone and what is wiped out of it stay where they are. Where fat has to go over lean, passes
    that are moved take the fat of what they come to lie beside.
    """
    passes = school.passes
    start = next((n for n, p in enumerate(passes) if not _prepares(p)), len(passes))
    fixed, free = list(passes[:start]), list(passes[start:])
    if switches.order == "by section":
        free = sorted(free, key=_section)
    elif switches.order == "details last":
        free = sorted(free, key=lambda p: 2 if _is_light(p) else int(_is_detail(p)))
    if switches.hair is not None:
        free = _moved(free, _is_hair, "first" if switches.hair == "early" else "last")
    if switches.background is not None:
        tone = switches.background == "first tone, then last"
        first = _first_tone(school, free) if tone else []
        free = [*first, *_moved(free, _is_wall, _WALL[switches.background])]
    if switches.lights is not None:
        free = _moved(free, _is_light, "last" if switches.lights == "last" else "between")
    if switches.tones is not None:
        beside = (Band.EACH_GROUP, Band.THIRDS)
        free = [p.model_copy(update={"tones": switches.tones}) if p.band in beside else p for p in free]
    if switches.softening is not None:
        free = [_softened(p, switches.softening) for p in free]
    if switches.softening == "smeared at the end" and not any(p.kind == "smear" for p in free):
        free.append(_SMEAR)
    if switches.wall is not None:
        free = _with_wall_strokes(free)
    if switches.layers is not None:
        free = [*_first_layer(free), *free]
    if switches.sitting is not None:
        fixed, free = fixed[:1], [p.model_copy(update={"into_wet": True}) for p in (*fixed[1:], *free)]
    ordered = _lean_to_fat([*fixed, *free]) if MEDIA[school.media[0]].oily else [*fixed, *free]
    return school.model_copy(update={"passes": tuple(ordered)})


SWITCH_NAMES = {
    "background": "Background", "hair": "Hair", "lights": "Highlights", "order": "Order",
    "softening": "Soft borders", "tones": "Tones of a place", "sitting": "Sittings",
    "layers": "Layers of colour", "wall": "Strokes of the background",
}  # fmt: skip
"""As they stand on the screen."""


def unheeded(school: School, switches: Switches) -> list[str]:
    """Names of the switches that are set and leave a school just as it is."""
    chosen = {name: getattr(switches, name) for name in SWITCH_NAMES}
    return [
        SWITCH_NAMES[name]
        for name, value in chosen.items()
        if value is not None and adapted(school, replace(Switches(), **{name: value})) == school
    ]


Where = Literal["first", "between", "last"]

_WALL: dict[BackgroundWhen, Where] = {
    "first": "first", "between": "between", "last": "last", "first tone, then last": "last",
}  # fmt: skip


def _first_tone(school: School, passes: list[PassTemplate]) -> list[PassTemplate]:
    """One even tone over the wall, to judge the flesh against; nothing in a school without a wall."""
    wall = next((p for p in passes if _is_wall(p)), None)
    if wall is None:
        return []
    return [
        wall.model_copy(
            update={
                "key": "background-tone", "name": "Background, first tone", "band": Band.EVERYTHING,
                "kind": "water" if school.transparent else "mass", "edge": "soft", "stays": True,
                "note": "One even, quiet tone up to the figure; it is painted over against the lights.",
                "inspect": "Flesh can be judged against it now.",
            }
        )
    ]  # fmt: skip


def _with_wall_strokes(passes: list[PassTemplate]) -> list[PassTemplate]:
    """Thick strokes after the last opaque coat of the background; none in washes."""
    walls = [n for n, p in enumerate(passes) if _is_wall(p) and p.kind in ("mass", "grey")]
    if not walls:
        return passes
    strokes = passes[walls[-1]].model_copy(
        update={
            "key": "wall-strokes", "name": "Strokes of the background, {band}", "kind": "lines",
            "band": Band.LINES, "film_mm": THICK_STROKE_MM, "edge": "left as it lies", "stays": True,
            "tool": "large flat brush, loaded", "tones": "dark to light",
            "note": "Set each down and leave it; the figure stays finished against loose paint.",
            "inspect": "No two lie the same way, and none touches the figure.",
        }
    )  # fmt: skip
    return [*passes[: walls[-1] + 1], strokes, *passes[walls[-1] + 1 :]]


def _first_layer(passes: list[PassTemplate]) -> list[PassTemplate]:
    """Every place of the figure covered once, loosely, before anything is finished; none in washes."""
    found, covered = dict[tuple[Region, ...], PassTemplate](), set[tuple[Region, ...]]()
    for one in passes:
        features = set(one.regions) <= set(FEATURES)
        if (
            one.kind not in ("mass", "grey", "hair", "grey hair")
            or features
            or one.band in (Band.LINES, Band.COOL_HALFTONE)
        ):
            continue
        if one.regions not in found and one.band is Band.EVERYTHING:
            # The school covers it once itself.
            covered.add(one.regions)
        if one.regions in covered:
            continue
        skin = Region.SKIN in one.regions
        name = one.name.removesuffix(", {band}")
        found.setdefault(
            one.regions,
            one.model_copy(
                update={
                    "key": f"{FIRST_LAYER}{one.key}"[:40],
                    "kind": "grey" if one.kind.startswith("grey") else "mass",
                    "name": f"First layer: {name[0].lower()}{name[1:]}" + (", {band}" if skin else ""),
                    "band": Band.THIRDS if skin else Band.EVERYTHING, "edge": "loose", "stays": True,
                    "film_mm": FIRST_FILM * one.film_mm,
                    "note": "Cover it once, loosely, with the largest brush there is; finish nothing yet.",
                    "inspect": "The whole figure stands there in its large tones.",
                }
            ),
        )  # fmt: skip
    return list(found.values())


_PREPARING = ("ground", "tone", "drawn", "wipe", "wash")


def _prepares(template: PassTemplate) -> bool:
    """True for what is done on all of the canvas before anything is painted."""
    return set(template.regions) == set(Region) and template.kind in _PREPARING


def _is_wall(template: PassTemplate) -> bool:
    return template.regions == (Region.BACKGROUND,)


def _is_hair(template: PassTemplate) -> bool:
    hairy = {Region.HAIR, Region.FACIAL_HAIR}
    return bool(set(template.regions) & hairy) and set(template.regions) <= hairy | {Region.BROWS}


def _is_light(template: PassTemplate) -> bool:
    return template.band in (Band.PEAKS, Band.HIGHLIGHTS)


def _is_detail(template: PassTemplate) -> bool:
    """Features, and what is drawn line by line."""
    return template.band is Band.LINES or set(template.regions) <= set(FEATURES)


def _section(template: PassTemplate) -> int:
    """Number of the section a pass belongs to; what belongs to several comes after all of them."""
    inside = [n for n, section in enumerate(_SECTIONS) if set(template.regions) <= set(section)]
    return inside[0] if inside else len(_SECTIONS)


def _moved(
    passes: list[PassTemplate],
    chosen_by: Callable[[PassTemplate], bool],
    where: Where,
) -> list[PassTemplate]:
    """The same passes with some of them first, after the flesh's first pass, or last."""
    chosen = [p for p in passes if chosen_by(p)]
    rest = [p for p in passes if not chosen_by(p)]
    if where == "first":
        return [*chosen, *rest]
    if where == "last":
        return [*rest, *chosen]
    flesh = [n for n, p in enumerate(rest) if Region.SKIN in p.regions and p.band is not Band.LINES]
    at = flesh[len(flesh) // 2] + 1 if flesh else len(rest) // 2
    return [*rest[:at], *chosen, *rest[at:]]


def _softened(template: PassTemplate, how: Softening) -> PassTemplate:
    if "soft" not in template.edge and "lost" not in template.edge:
        return template
    return template.model_copy(update={"note": f"{template.note} {_SOFTLY[how]}".strip()})


def _lean_to_fat(passes: list[PassTemplate]) -> list[PassTemplate]:
    """No pass leaner than the one before it."""
    fat, out = 0, []
    for one in passes:
        fat = max(fat, one.fat)
        out.append(one if one.fat == fat else one.model_copy(update={"fat": fat}))
    return out
