"""Oil in one sitting on a toned ground: shadows first, from the middle outward, wet into wet."""

from __future__ import annotations

from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.kinds.ground import GROUND
from truesitter.core.passes.kinds.light import LIGHT
from truesitter.core.passes.kinds.lines import LINES
from truesitter.core.passes.kinds.mass import MASS
from truesitter.core.passes.kinds.take import WIPE
from truesitter.core.passes.kinds.tone import TONE
from truesitter.core.passes.school import DAY, Band, PassTemplate, School
from truesitter.core.sitter.region_names import WORN, Region

_ALL = tuple(Region)

DIRECT_OIL = School(
    key="direct-oil",
    name="Oil in one sitting",
    media=("oil", "quick oil"),
    ground_value=6.5,
    ground_tint=(-3.0, 9.0),
    templates=(
        PassTemplate(
            "ground", "Ground",
            GROUND, _ALL, Band.EVERYTHING, WetMm(0.05), 0, 2 * DAY,
            "even", "broad flat brush",
            "A greyed green that may stay in the background and in the halftones.",
        ),
        PassTemplate(
            "tone", "Umber tone",
            TONE, _ALL, Band.EVERYTHING, WetMm(0.02), 0, DAY,
            "even", "flat brush and rag",
            "Thinned umber over everything; draw into it while it is wet.",
        ),
        PassTemplate(
            "wiped-lights", "Lights wiped out",
            WIPE, _ALL, Band.EVERYTHING, WetMm(0.02), 0, DAY,
            "soft where forms turn", "rag round a finger",
            "Check the drawing by the shapes of the lights before any colour is mixed.", into_wet=True,
        ),
        PassTemplate(
            "flesh", "Flesh, {band}",
            MASS, (Region.SKIN,), Band.EACH_GROUP, WetMm(0.10), 1, 3 * DAY,
            "soft where forms turn, firm at cast shadows", "filbert",
            "Let each tone run a little over its neighbour: a soft border cannot be had later.",
            into_wet=True,
        ),
        PassTemplate(
            "eyes-and-brows", "Eyes and brows, {band}",
            MASS, (Region.EYES, Region.BROWS), Band.THIRDS, WetMm(0.08), 1, 3 * DAY,
            "firm", "small round",
            "Darkest accents first, then carve with lights; the white of the eye is a grey.", into_wet=True,
        ),
        PassTemplate(
            "lips", "Lips, {band}",
            MASS, (Region.LIPS,), Band.THIRDS, WetMm(0.08), 1, 3 * DAY,
            "soft outside, firm at the parting line", "small round",
            "Among the darkest shapes of the face; no hard edge all round.", into_wet=True,
        ),
        PassTemplate(
            "mouth", "Inside of the mouth, {band}",
            MASS, (Region.MOUTH,), Band.THIRDS, WetMm(0.08), 1, 3 * DAY,
            "soft towards the corners", "small round",
            "It fades from its dark middle to the corners; leave teeth understated, never outlined.",
            into_wet=True,
        ),
        PassTemplate(
            "brow-lines", "Lines of the brows",
            LINES, (Region.BROWS,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "lost outward", "small liner",
            "Two to a brow, the lower the larger, widest toward the nose; skin shows between.", into_wet=True,
        ),
        PassTemplate(
            "lid-creases", "Creases of the lids",
            LINES, (Region.SKIN,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "crisp below, soft above", "small liner",
            "A warm dark, never plain black; swell over the eye and let both ends go.", into_wet=True,
        ),
        PassTemplate(
            "wrinkles", "Wrinkles and folds",
            LINES, (Region.SKIN,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "crisp on the deep side, soft on the other", "small liner",
            "A warm dark, never black; swell where the fold is deep and let both ends go.", into_wet=True,
        ),
        PassTemplate(
            "lip-parting", "Parting of the lips",
            LINES, (Region.LIPS,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "firm in the middle, lost in the corners", "small liner",
            "Hair-thin; press a little in the middle of the mouth.", into_wet=True,
        ),
        PassTemplate(
            "lashes", "Lashes",
            LINES, (Region.EYES,), Band.LINES, WetMm(0.02), 1, 3 * DAY,
            "crisp at the root, gone at the tip", "small liner",
            "In tufts, from the root outward, only once the values round the eye are right.", into_wet=True,
        ),
        PassTemplate(
            "hair", "Hair, {band}",
            MASS, (Region.HAIR, Region.FACIAL_HAIR), Band.NESTED_THIRDS, WetMm(0.10), 1, 3 * DAY,
            "soft at the hairline, along the growth lines", "large filbert",
            "The darks over the whole mass; the middle over them with a large brush; lights last.",
            into_wet=True,
        ),
        PassTemplate(
            "garment", "Garment, {band}",
            MASS, (Region.GARMENT,), Band.EACH_GROUP, WetMm(0.08), 1, 3 * DAY,
            "firm", "flat brush",
            "Masses only; leave the ground where it is right already.", into_wet=True,
        ),
        PassTemplate(
            "worn", "Spectacles, hat and jewellery, {band}",
            MASS, WORN, Band.THIRDS, WetMm(0.08), 1, 3 * DAY,
            "hard where metal turns, soft on cloth", "small flat",
            "Metal and glass mirror what faces them: darks and lights side by side, few of either.",
            into_wet=True,
        ),
        PassTemplate(
            "background", "Background, {band}",
            MASS, (Region.BACKGROUND,), Band.EACH_GROUP, WetMm(0.08), 1, 3 * DAY,
            "lost towards the shadow side", "large flat brush",
            "Bring it up to the head while both are wet, so that the borders can still be lost.",
            into_wet=True,
        ),
        PassTemplate(
            "moustache-lines", "Lines of the moustache, {band}",
            LINES, (Region.FACIAL_HAIR,), Band.LINES, WetMm(0.03), 1, 3 * DAY,
            "lost at both ends", "small liner",
            "From the middle outward, shorter upward; leave skin between, and never mirror the sides.",
            into_wet=True,
        ),
        PassTemplate(
            "strays", "Strays, {band}",
            LINES, (Region.HAIR,), Band.LINES, WetMm(0.02), 1, 3 * DAY,
            "full at the root, gone at the tip", "small liner",
            "Begin along the hair beneath, then leave it; a few are enough.", into_wet=True,
        ),
        PassTemplate(
            "last-lights", "Last lights",
            LIGHT, (Region.SKIN,), Band.PEAKS, WetMm(0.30), 1, 7 * DAY,
            "soft below, one crisp side", "small round, loaded",
            "Few touches, thick, set down and left alone.", into_wet=True,
        ),
    ),
)  # fmt: skip
