"""Opaque, thumbnail first: base colour, shadow and light of every part, then smaller shapes inside them."""

from __future__ import annotations

from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.kinds.ground import GROUND
from truesitter.core.passes.kinds.light import LIGHT
from truesitter.core.passes.kinds.mass import MASS
from truesitter.core.passes.school import Band, PassTemplate, School
from truesitter.core.passes.schools.common import (
    cloth,
    face_lines,
    features,
    flesh,
    hair,
    hair_lines,
    timed,
    wall,
)
from truesitter.core.sitter.region_names import Region

_QUARTER = 15
_PARTS = (
    ("flesh", "Flesh", (Region.SKIN,)), ("hair", "Hair", (Region.HAIR, Region.FACIAL_HAIR)),
    ("garment", "Garment", (Region.GARMENT,)), ("background", "Background", (Region.BACKGROUND,)),
)  # fmt: skip

THUMBNAIL = School(
    key="thumbnail-first",
    name="Opaque, thumbnail first",
    media=("gouache", "acrylic", "oil"),
    ground_value=5.0,
    ground_tint=(0.0, 2.0),
    support="smooth paper",
    templates=(
        PassTemplate(
            "ground", "Ground",
            GROUND, tuple(Region), Band.EVERYTHING, WetMm(0.05), 0, _QUARTER,
            "even", "broad flat brush",
            "A middle grey. Paint the thumbnail beside it first: base, shadow and light of each part.",
        ),
        *(
            PassTemplate(
                f"{key}-base", f"{name}, base colour",
                MASS, regions, Band.EVERYTHING, WetMm(0.06), 1, _QUARTER,
                "simple", "large flat brush", "One colour for all of it.",
            )
            for key, name, regions in _PARTS
        ),
        *(
            PassTemplate(
                f"{key}-shadow", f"{name}, shadow",
                MASS, regions, Band.SHADOW_AND_HALFTONE, WetMm(0.06), 1, _QUARTER,
                "firm", "flat brush", "One shape if it can be one; no light inside it yet.",
            )
            for key, name, regions in _PARTS[:3]
        ),
        *timed(
            (
                flesh(
                    "Each group in its own range: a light inside a shadow stays within a step of it.",
                    "soft where forms turn, firm at cast shadows",
                ),
                hair(),
                cloth(),
                wall("Looser than the head; correct it against the flesh."),
                *features(),
                *face_lines(),
                *hair_lines(),
            ),
            1, _QUARTER,
        ),
        PassTemplate(
            "last-lights", "Last lights",
            LIGHT, (Region.SKIN,), Band.PEAKS, WetMm(0.15), 1, _QUARTER,
            "soft below, one crisp side", "small round, loaded",
            "Set each touch once, the way the form runs, and stop.",
        ),
    ),
)  # fmt: skip
