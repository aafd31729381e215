"""Monochrome first: greys from a solid base, then colour in glazes, or none."""

from __future__ import annotations

from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.kinds.glaze import GLAZE
from truesitter.core.passes.kinds.grey import GREY
from truesitter.core.passes.kinds.ground import GROUND
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
_GLAZED = (
    ("glaze-flesh", "Glaze over the flesh", (Region.SKIN,)),
    ("glaze-lips", "Glaze over the lips", (Region.LIPS,)),
    ("glaze-hair", "Glaze over the hair", (Region.HAIR, Region.FACIAL_HAIR)),
    ("glaze-garment", "Glaze over the garment", (Region.GARMENT,)),
)

MONOCHROME = School(
    key="monochrome-first",
    name="Monochrome first, then glazes",
    media=("acrylic", "gouache", "oil", "quick oil"),
    ground_value=6.0,
    ground_tint=(0.0, 0.0),
    support="primed panel",
    templates=(
        PassTemplate(
            "ground", "Grey base",
            GROUND, tuple(Region), Band.EVERYTHING, WetMm(0.08), 0, _QUARTER,
            "even", "broad flat brush",
            "Solid and even, with more paint than seems needed. Draw the grid on it.",
        ),
        *timed(
            (
                wall("A flat grey; it decides how light the head looks.", GREY),
                cloth(GREY),
                flesh(
                    "Shade down to contour, eye hollows and wings of the nose before any light goes on.",
                    "soft where forms turn, each grey blended into its neighbour while both are open", GREY,
                ),
                hair(GREY),
                *features(GREY),
                *face_lines(),
                *hair_lines(),
            ),
            1, _QUARTER,
        ),
        *(
            PassTemplate(
                key, name, GLAZE, regions, Band.EVERYTHING, WetMm(0.01), 2, _QUARTER,
                "lost", "soft brush",
                "Only over dry greys; leave it out and the picture stays black and white.",
            )
            for key, name, regions in _GLAZED
        ),
    ),
)  # fmt: skip
