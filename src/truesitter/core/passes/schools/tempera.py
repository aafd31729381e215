"""Egg tempera in the manner of icons: a dark flesh ground, and light in four zones round the peaks."""

from __future__ import annotations

from truesitter.core.light.zones import ABOVE_THE_MOUTH, RED_OF_THE_LIPS
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.kinds.flesh_ground import FLESH_GROUND
from truesitter.core.passes.kinds.ground import GROUND
from truesitter.core.passes.kinds.lines import LINES
from truesitter.core.passes.kinds.mass import MASS
from truesitter.core.passes.kinds.zone import ZONE
from truesitter.core.passes.school import Band, PassTemplate, School
from truesitter.core.sitter.region_names import WORN, Region

_DRIES = 10
"""Minutes; it goes on curing for months."""

TEMPERA = School(
    key="tempera",
    name="Egg tempera, four zones",
    media=("egg tempera",),
    ground_value=9.0,
    ground_tint=(0.0, 2.0),
    support="gesso board",
    unlit=(ABOVE_THE_MOUTH, RED_OF_THE_LIPS),
    templates=(
        PassTemplate(
            "ground", "Ground",
            GROUND, tuple(Region), Band.EVERYTHING, WetMm(0.10), 0, 24 * 60,
            "even", "broad flat brush",
            "White, smoothed until it is like ivory; the drawing is scratched or inked into it.",
        ),
        PassTemplate(
            "background", "Background, {band}",
            MASS, (Region.BACKGROUND,), Band.EACH_GROUP, WetMm(0.08), 0, _DRIES,
            "firm", "flat brush",
            "Flat and even: it stands for no room.",
        ),
        PassTemplate(
            "garment", "Garment, {band}",
            MASS, (Region.GARMENT,), Band.EACH_GROUP, WetMm(0.08), 0, _DRIES,
            "firm", "flat brush",
            "The middle tone over all of it first, then its folds.",
        ),
        PassTemplate(
            "worn", "Spectacles, hat and jewellery, {band}",
            MASS, WORN, Band.THIRDS, WetMm(0.08), 0, _DRIES,
            "hard where metal turns, soft on cloth", "small flat",
            "Darks and lights side by side, few of either.",
        ),
        PassTemplate(
            "flesh-ground", "Flesh ground",
            FLESH_GROUND, (Region.SKIN, Region.LIPS, Region.BROWS, Region.FACIAL_HAIR), Band.EVERYTHING,
            WetMm(0.08), 0, _DRIES,
            "even", "round",
            "Dark and green-brown over the whole face: the shadows of the finished face are this.",
        ),
        PassTemplate(
            "hair", "Hair, {band}",
            MASS, (Region.HAIR, Region.FACIAL_HAIR), Band.NESTED_THIRDS, WetMm(0.08), 0, _DRIES,
            "along the growth lines", "round",
            "Above each drawn line one light line that ends before the edge.",
        ),
        PassTemplate(
            "eyes-and-brows", "Eyes and brows, {band}",
            MASS, (Region.EYES, Region.BROWS), Band.THIRDS, WetMm(0.08), 0, _DRIES,
            "firm", "small round",
            "Darkest accents first; the white of the eye is a grey.",
        ),
        PassTemplate(
            "lips", "Lips, {band}",
            MASS, (Region.LIPS,), Band.THIRDS, WetMm(0.08), 0, _DRIES,
            "soft outside, firm at the parting line", "small round",
            "Half red, half flesh ground: a plain red would be loud. The upper lip is drawn wider.",
        ),
        PassTemplate(
            "mouth", "Inside of the mouth, {band}",
            MASS, (Region.MOUTH,), Band.THIRDS, WetMm(0.08), 0, _DRIES,
            "soft towards the corners", "small round",
            "It fades from its dark middle to the corners; leave teeth understated.",
        ),
        PassTemplate(
            "zones", "Light, {band}",
            ZONE, (Region.SKIN,), Band.ZONES, WetMm(0.10), 0, _DRIES,
            "lost outward, stopped by lines and shadow", "small round",
            "In strokes from the peaks outward; one colour throughout, each coat over the ones before.",
        ),
        PassTemplate(
            "streaks", "Streaks of light",
            LINES, (Region.SKIN,), Band.LINES, WetMm(0.03), 0, _DRIES,
            "gone at both ends", "small liner",
            "Fine strokes from each peak outward, along the rays, never to the drawn line.",
        ),
        PassTemplate(
            "wrinkles", "Wrinkles and folds",
            LINES, (Region.SKIN,), Band.LINES, WetMm(0.03), 0, _DRIES,
            "crisp on the deep side, soft on the other", "small liner",
            "A red-brown line, swelling where the fold is deep.",
        ),
        PassTemplate(
            "brow-lines", "Lines of the brows",
            LINES, (Region.BROWS,), Band.LINES, WetMm(0.03), 0, _DRIES,
            "lost outward", "small liner",
            "Two to a brow, the lower the larger, widest toward the nose; one if it is very small.",
        ),
        PassTemplate(
            "lid-creases", "Creases of the lids",
            LINES, (Region.SKIN,), Band.LINES, WetMm(0.03), 0, _DRIES,
            "crisp below, soft above", "small liner",
            "A warm brown; swell over the eye and let both ends go.",
        ),
        PassTemplate(
            "lip-parting", "Parting of the lips",
            LINES, (Region.LIPS,), Band.LINES, WetMm(0.03), 0, _DRIES,
            "firm in the middle, lost in the corners", "small liner",
            "Hair-thin and brown.",
        ),
        PassTemplate(
            "moustache-lines", "Lines of the moustache, {band}",
            LINES, (Region.FACIAL_HAIR,), Band.LINES, WetMm(0.03), 0, _DRIES,
            "lost at both ends", "small liner",
            "A middle tone first, then a darker one that starts lower; leave skin between.",
        ),
        PassTemplate(
            "strays", "Strays, {band}",
            LINES, (Region.HAIR,), Band.LINES, WetMm(0.02), 0, _DRIES,
            "full at the root, gone at the tip", "small liner",
            "Begin along the hair beneath, then leave it; a few are enough.",
        ),
    ),
)  # fmt: skip
