"""Schools: the order in which a medium builds a picture, as data.

Times are room temperature, thin films, from memory; the painter can change them.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from truesitter.core.sitter.region_names import Region

DAY = 24 * 60


class Kind(Enum):
    """What a pass does with its paint."""

    GROUND = "ground"
    WASH = "wash"
    MASS = "mass"
    GLAZE = "glaze"
    LIGHT = "light"


class Band(Enum):
    """Which values of its regions a pass covers."""

    EVERYTHING = "everything"
    EACH_GROUP = "each group, dark to light"
    THIRDS = "darks, middle, lights"
    SHADOW_AND_HALFTONE = "shadow and halftone"
    ZONE_ONE = "points of maximum luminosity"


@dataclass(frozen=True)
class PassTemplate:
    """One step of a school.

    Attributes
    ----------
    name
        May hold ``{band}``, which becomes the group or third.
    kind, regions, band
        What is done, where, and in which values.
    film_mm
        Wet film, mm.
    fat
        Oil content, 0 lean … 3 fat: never falls from one layer to the layer over it.
    dries_minutes
        Before another layer may go over it, for a pigment of medium drying.
    edge, tool, note
        How to lay it, in the painter's words.
    """

    name: str
    kind: Kind
    regions: tuple[Region, ...]
    band: Band
    film_mm: float
    fat: int
    dries_minutes: int
    edge: str
    tool: str
    note: str


@dataclass(frozen=True)
class School:
    """An ordered list of templates with its ground."""

    key: str
    name: str
    ground_value: float
    templates: tuple[PassTemplate, ...]


_ALL = tuple(Region)

LAYERED_OIL = School(
    key="layered-oil",
    name="Oil in layers",
    ground_value=5.5,
    templates=(
        PassTemplate(
            "Ground", Kind.GROUND, _ALL, Band.EVERYTHING, 0.05, 0, 2 * DAY,
            "even", "broad flat brush",
            "A middle value to judge against; part of it may stay in the finished picture.",
        ),
        PassTemplate(
            "Underpainting", Kind.WASH, _ALL, Band.EACH_GROUP, 0.02, 0, DAY,
            "soft", "flat brush and rag",
            "One dark earth thinned to a wash; leave the ground for the lights.",
        ),
        PassTemplate(
            "Background, {band}", Kind.MASS, (Region.BACKGROUND,), Band.EACH_GROUP, 0.08, 1, 3 * DAY,
            "lost towards the shadow side", "large flat brush",
            "Lay it against the head, so that the values of the flesh can be judged.",
        ),
        PassTemplate(
            "Garment, {band}", Kind.MASS, (Region.GARMENT,), Band.EACH_GROUP, 0.08, 1, 3 * DAY,
            "firm", "flat brush",
            "Masses only; no folds smaller than the brush.",
        ),
        PassTemplate(
            "Flesh, {band}", Kind.MASS, (Region.SKIN,), Band.EACH_GROUP, 0.10, 1, 3 * DAY,
            "soft where forms turn, firm at cast shadows", "filbert",
            "From dark to light; let neighbours overlap by a brush edge while wet.",
        ),
        PassTemplate(
            "Hair, {band}", Kind.MASS, (Region.HAIR, Region.FACIAL_HAIR), Band.THIRDS, 0.10, 1, 3 * DAY,
            "soft at the hairline, along the mapping lines", "filbert, then rigger",
            "Strict at the root, free at the tip; follow the mapping lines.",
        ),
        PassTemplate(
            "Eyes and brows, {band}", Kind.MASS, (Region.EYES, Region.BROWS), Band.THIRDS, 0.08, 1,
            3 * DAY, "firm", "small round",
            "Darkest accents first, then carve with lights; the white of the eye is a grey.",
        ),
        PassTemplate(
            "Lips, {band}", Kind.MASS, (Region.LIPS,), Band.THIRDS, 0.08, 1, 3 * DAY,
            "soft outside, firm at the parting line", "small round",
            "Among the darkest shapes of the face; no hard edge all round.",
        ),
        PassTemplate(
            "Glaze", Kind.GLAZE, (Region.SKIN,), Band.SHADOW_AND_HALFTONE, 0.01, 3, 4 * DAY,
            "lost", "soft brush, wiped thin",
            "Only over dry paint; it draws the flesh shapes together.",
        ),
        PassTemplate(
            "Last lights", Kind.LIGHT, (Region.SKIN,), Band.ZONE_ONE, 0.30, 3, 7 * DAY,
            "soft below, one crisp side", "small round, loaded",
            "Few touches, thick; never on the upper lip; never beyond zone 1.",
        ),
    ),
)  # fmt: skip

SCHOOLS: dict[str, School] = {LAYERED_OIL.key: LAYERED_OIL}


def school(key: str) -> School:
    """A school by its key.

    Raises
    ------
    ValueError
        With a sentence naming the schools there are.
    """
    if key not in SCHOOLS:
        raise ValueError(f"there is no school called “{key}”; there is {', '.join(SCHOOLS)}")
    return SCHOOLS[key]
