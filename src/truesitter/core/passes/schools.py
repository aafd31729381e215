"""Schools: the order in which a medium builds a picture, as data.

Times are room temperature, thin films, from memory; the painter can change them.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from truesitter.core.paint.media.media import MEDIA, Medium, MediumName
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.kinds.glaze import GLAZE
from truesitter.core.passes.kinds.ground import GROUND
from truesitter.core.passes.kinds.light import LIGHT
from truesitter.core.passes.kinds.mass import MASS
from truesitter.core.passes.kinds.wash import WASH
from truesitter.core.passes.laying import Laying
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.region_names import Region

DAY = 24 * 60


class Band(Enum):
    """Which values of its regions a pass covers."""

    EVERYTHING = "everything"
    EACH_GROUP = "each group, dark to light"
    THIRDS = "darks, middle, lights"
    SHADOW_AND_HALFTONE = "shadow and halftone"
    PEAKS = "the lightest of the zones round the peaks"


@dataclass(frozen=True)
class PassTemplate:
    """One step of a school.

    Attributes
    ----------
    key
        Unlike any other's of its school; ticks and links hold on to it.
    name
        May hold ``{band}``, which becomes the group or third.
    kind, regions, band
        How it is laid, where, and in which values.
    film
        As it is laid.
    fat
        Oil content, 0 lean … 3 fat: never falls from one layer to the layer over it.
    dries_minutes
        Before another layer may go over it, for a pigment of medium drying.
    edge, tool, note
        How to lay it, in the painter's words.
    """

    key: str
    name: str
    kind: Laying
    regions: tuple[Region, ...]
    band: Band
    film: WetMm
    fat: int
    dries_minutes: int
    edge: str
    tool: str
    note: str


@dataclass(frozen=True)
class School:
    """An ordered list of templates, its ground, and places that stay without light.

    Attributes
    ----------
    media
        What it can be painted in; times are those of the first.
    """

    key: str
    name: str
    media: tuple[MediumName, ...]
    ground_value: float
    templates: tuple[PassTemplate, ...]
    unlit: tuple[str, ...] = ()

    @property
    def medium(self) -> Medium:
        """The one its times are written for."""
        return MEDIA[self.media[0]]


_ALL = tuple(Region)

LAYERED_OIL = School(
    key="layered-oil",
    name="Oil in layers",
    media=("oil", "quick oil"),
    ground_value=5.5,
    templates=(
        PassTemplate(
            "ground", "Ground",
            GROUND, _ALL, Band.EVERYTHING, WetMm(0.05), 0, 2 * DAY,
            "even", "broad flat brush",
            "A middle value to judge against; part of it may stay in the finished picture.",
        ),
        PassTemplate(
            "underpainting", "Underpainting",
            WASH, _ALL, Band.EVERYTHING, WetMm(0.02), 0, DAY,
            "soft", "flat brush and rag",
            "One dark earth thinned to a wash; leave the ground for the lights.",
        ),
        PassTemplate(
            "background", "Background, {band}",
            MASS, (Region.BACKGROUND,), Band.EACH_GROUP, WetMm(0.08), 1, 3 * DAY,
            "lost towards the shadow side", "large flat brush",
            "Lay it against the head, so that the values of the flesh can be judged.",
        ),
        PassTemplate(
            "garment", "Garment, {band}",
            MASS, (Region.GARMENT,), Band.EACH_GROUP, WetMm(0.08), 1, 3 * DAY,
            "firm", "flat brush",
            "Masses only; no folds smaller than the brush.",
        ),
        PassTemplate(
            "flesh", "Flesh, {band}",
            MASS, (Region.SKIN,), Band.EACH_GROUP, WetMm(0.10), 1, 3 * DAY,
            "soft where forms turn, firm at cast shadows", "filbert",
            "From dark to light; let neighbours overlap by a brush edge while wet.",
        ),
        PassTemplate(
            "hair", "Hair, {band}",
            MASS, (Region.HAIR, Region.FACIAL_HAIR), Band.THIRDS, WetMm(0.10), 1, 3 * DAY,
            "soft at the hairline, along the growth lines", "filbert, then rigger",
            "Set each stroke down along its growth line; only its end may wander.",
        ),
        PassTemplate(
            "eyes-and-brows", "Eyes and brows, {band}",
            MASS, (Region.EYES, Region.BROWS), Band.THIRDS, WetMm(0.08), 1,
            3 * DAY, "firm", "small round",
            "Darkest accents first, then carve with lights; the white of the eye is a grey.",
        ),
        PassTemplate(
            "lips", "Lips, {band}",
            MASS, (Region.LIPS,), Band.THIRDS, WetMm(0.08), 1, 3 * DAY,
            "soft outside, firm at the parting line", "small round",
            "Among the darkest shapes of the face; no hard edge all round.",
        ),
        PassTemplate(
            "glaze", "Glaze",
            GLAZE, (Region.SKIN,), Band.SHADOW_AND_HALFTONE, WetMm(0.01), 3, 4 * DAY,
            "lost", "soft brush, wiped thin",
            "Only over dry paint; it draws the flesh shapes together.",
        ),
        PassTemplate(
            "last-lights", "Last lights",
            LIGHT, (Region.SKIN,), Band.PEAKS, WetMm(0.30), 3, 7 * DAY,
            "soft below, one crisp side", "small round, loaded",
            "Few touches, thick, in the shape the light has there; stop before zone 3.",
        ),
    ),
)  # fmt: skip

SCHOOLS: dict[str, School] = {LAYERED_OIL.key: LAYERED_OIL}


def school(key: str) -> School:
    """A school by its key.

    Raises
    ------
    Refusal
        With a sentence naming the schools there are.
    """
    if key not in SCHOOLS:
        raise Refusal(f"there is no school called “{key}”; there is {', '.join(SCHOOLS)}")
    return SCHOOLS[key]
