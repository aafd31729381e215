"""Skin string with focus: a row of tones mixed first, slow areas early, far parts smeared."""

from __future__ import annotations

from dataclasses import replace

from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.kinds.ground import GROUND
from truesitter.core.passes.kinds.light import LIGHT
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

SKIN_STRING = School(
    key="skin-string",
    name="String of skin tones, with a focus",
    media=("oil", "quick oil", "acrylic"),
    ground_value=5.5,
    ground_tint=(4.0, 10.0),
    templates=(
        PassTemplate(
            "ground", "Ground",
            GROUND, tuple(Region), Band.EVERYTHING, WetMm(0.05), 0, DAY,
            "even", "broad flat brush",
            "Mix the string of tones before anything else; all that follows is nudged from it.",
        ),
        replace(
            hair(), key="hair-early", name="Hair blocked in, {band}", band=Band.THIRDS, dries_minutes=2 * DAY,
            note="It is slow: blocked in early it is dry when it is needed.",
        ),
        *timed((wall("First: the tones of the skin are judged against it."),), 1, DAY),
        *timed(
            (
                flesh(
                    "Take tones off the string, turned warmer or cooler as you go; keep white for the end.",
                    "never quite sharp, and dragged the more the farther it lies from the focus",
                ),
                *features(),
                *face_lines(),
                cloth(),
                hair(),
                *hair_lines(),
            ),
            1, 2 * DAY,
        ),
        PassTemplate(
            "last-lights", "Wet lights",
            LIGHT, (Region.SKIN,), Band.PEAKS, WetMm(0.20), 1, 3 * DAY,
            "crisp", "small round, loaded",
            "The last, nearly white touches: lip and eye alone may be that light.",
        ),
    ),
)  # fmt: skip
