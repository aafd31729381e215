"""Oil in layers: dark to light, every layer dry before the next, then a glaze."""

from __future__ import annotations

from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.kinds.again import AGAIN
from truesitter.core.passes.kinds.glaze import GLAZE
from truesitter.core.passes.kinds.ground import GROUND
from truesitter.core.passes.kinds.light import LIGHT
from truesitter.core.passes.kinds.lines import LINES
from truesitter.core.passes.kinds.mass import MASS
from truesitter.core.passes.kinds.wash import WASH
from truesitter.core.passes.school import DAY, Band, PassTemplate, School
from truesitter.core.sitter.region_names import WORN, Region

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
            "worn", "Spectacles, hat and jewellery, {band}",
            MASS, WORN, Band.THIRDS, WetMm(0.08), 1, 3 * DAY,
            "hard where metal turns, soft on cloth", "small flat",
            "Metal and glass mirror what faces them: darks and lights side by side, few of either.",
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
            "mouth", "Inside of the mouth, {band}",
            MASS, (Region.MOUTH,), Band.THIRDS, WetMm(0.08), 1, 3 * DAY,
            "soft towards the corners", "small round",
            "It fades from its dark middle to the corners; leave teeth understated, never outlined.",
        ),
        PassTemplate(
            "brow-lines", "Lines of the brows",
            LINES, (Region.BROWS,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "lost outward", "small liner",
            "Two to a brow, the lower the larger, widest toward the nose; skin shows between.",
        ),
        PassTemplate(
            "lid-creases", "Creases of the lids",
            LINES, (Region.SKIN,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "crisp below, soft above", "small liner",
            "A warm dark, never plain black; swell over the eye and let both ends go.",
        ),
        PassTemplate(
            "wrinkles", "Wrinkles and folds",
            LINES, (Region.SKIN,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "crisp on the deep side, soft on the other", "small liner",
            "A warm dark, never black; swell where the fold is deep and let both ends go.",
        ),
        PassTemplate(
            "lip-parting", "Parting of the lips",
            LINES, (Region.LIPS,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "firm in the middle, lost in the corners", "small liner",
            "Hair-thin; press a little in the middle of the mouth.",
        ),
        PassTemplate(
            "lashes", "Lashes",
            LINES, (Region.EYES,), Band.LINES, WetMm(0.02), 1, 3 * DAY,
            "crisp at the root, gone at the tip", "small liner",
            "In tufts, from the root outward, only once the values round the eye are right.",
        ),
        PassTemplate(
            "moustache-lines", "Lines of the moustache, {band}",
            LINES, (Region.FACIAL_HAIR,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "lost at both ends", "small liner",
            "From the middle outward, shorter upward; leave skin between, and never mirror the sides.",
        ),
        PassTemplate(
            "strays", "Strays, {band}",
            LINES, (Region.HAIR,), Band.LINES, WetMm(0.02), 1, 3 * DAY,
            "full at the root, gone at the tip", "small liner",
            "Begin along the hair beneath, then leave it; a few are enough.",
        ),
        PassTemplate(
            "glaze", "Glaze",
            GLAZE, (Region.SKIN,), Band.SHADOW_AND_HALFTONE, WetMm(0.01), 3, 4 * DAY,
            "lost", "soft brush, wiped thin",
            "Only over dry paint; it draws the flesh shapes together.",
        ),
        PassTemplate(
            "glaze-again", "Glaze, a second coat",
            AGAIN, (Region.SKIN,), Band.SHADOW_AND_HALFTONE, WetMm(0.01), 3, 4 * DAY,
            "lost", "soft brush, wiped thin",
            "Only where one coat was not enough, once it is dry.",
        ),
        PassTemplate(
            "last-lights", "Last lights",
            LIGHT, (Region.SKIN,), Band.PEAKS, WetMm(0.30), 3, 7 * DAY,
            "soft below, one crisp side", "small round, loaded",
            "Few touches, thick, in the shape the light has there; stop before zone 3.",
        ),
    ),
)  # fmt: skip
