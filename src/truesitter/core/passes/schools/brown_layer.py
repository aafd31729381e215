"""Brown under-layer: transparent earths over a warm ground, opaque paint over them, lights scratched."""

from __future__ import annotations

from dataclasses import replace

from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.kinds.ground import GROUND
from truesitter.core.passes.kinds.light import LIGHT
from truesitter.core.passes.kinds.scratch import SCRATCH
from truesitter.core.passes.kinds.take import WIPE
from truesitter.core.passes.kinds.tone import TONE
from truesitter.core.passes.school import DAY, Band, PassTemplate, School
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

_ALL = tuple(Region)
_STRAYS = hair_lines()[1]

BROWN_LAYER = School(
    key="brown-layer",
    name="Brown under-layer, lights scratched",
    media=("oil", "quick oil"),
    ground_value=6.0,
    ground_tint=(16.0, 30.0),
    support="primed panel",
    templates=(
        PassTemplate(
            "ground", "Warm ground",
            GROUND, _ALL, Band.EVERYTHING, WetMm(0.05), 0, 2 * DAY,
            "even", "broad flat brush",
            "Ochre and burnt sienna, even; it stays as the halftone.",
        ),
        PassTemplate(
            "brown", "Brown layer",
            TONE, _ALL, Band.EVERYTHING, WetMm(0.02), 0, DAY,
            "even", "flat brush",
            "A transparent brown of several earths over the transferred drawing.",
        ),
        PassTemplate(
            "open-lights", "Lights left open",
            WIPE, _ALL, Band.EVERYTHING, WetMm(0.02), 0, 2 * DAY,
            "soft where forms turn", "rag round a finger",
            "Where light will come the ground shows again.", into_wet=True,
        ),
        *timed(
            (
                wall("Between dark and light; let the ground show through here and there."),
                cloth(),
                flesh(
                    "Darken it step by step, then lighten it; end with what lies between, near the ground.",
                    "soft where forms turn, strokes along the form",
                ),
                *features(),
                *face_lines(),
                hair_lines()[0],
            ),
            1, 3 * DAY,
        ),
        # All of the hair is open at once, so that a scratch goes down to the ground.
        *timed((hair(),), 1, 3 * DAY, into_wet=True),
        replace(
            _STRAYS, name="Hanging strands scratched out, {band}", kind=SCRATCH, dries_minutes=3 * DAY,
            tool="handle of the brush", edge="crisp",
            note="Draw the handle through the open paint; press for a barer line.", into_wet=True,
        ),
        PassTemplate(
            "last-lights", "Last lights",
            LIGHT, (Region.SKIN,), Band.PEAKS, WetMm(0.30), 1, 7 * DAY,
            "soft below, one crisp side", "small round, loaded",
            "Few touches, thick, in the shape the light has there.",
        ),
    ),
)  # fmt: skip
