"""Passes that many schools share: features, lines of the small brush, cloth and wall."""

from __future__ import annotations

from dataclasses import replace

from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.passes.kinds.lines import LINES
from truesitter.core.passes.kinds.mass import MASS
from truesitter.core.passes.laying import Laying
from truesitter.core.passes.school import Band, PassTemplate
from truesitter.core.sitter.region_names import WORN, Region

Templates = tuple[PassTemplate, ...]

COVERING = WetMm(0.10)
"""A film that covers, wet (from memory)."""


def timed(templates: Templates, fat: int, dries_minutes: int, into_wet: bool = False) -> Templates:
    """The same passes with another waiting time and oil content."""
    return tuple(replace(t, fat=fat, dries_minutes=dries_minutes, into_wet=into_wet) for t in templates)


def features(kind: Laying = MASS) -> Templates:
    """Eyes and brows, lips, the inside of the mouth, what is worn."""
    return (
        PassTemplate(
            "eyes-and-brows", "Eyes and brows, {band}",
            kind, (Region.EYES, Region.BROWS), Band.THIRDS, WetMm(0.08), 1, 0,
            "firm", "small round",
            "Darkest accents first, then carve with lights; the white of the eye is a grey.",
        ),
        PassTemplate(
            "lips", "Lips, {band}",
            kind, (Region.LIPS,), Band.THIRDS, WetMm(0.08), 1, 0,
            "soft outside, firm at the parting line", "small round",
            "Among the darkest shapes of the face; light in the middle of the lower one.",
        ),
        PassTemplate(
            "mouth", "Inside of the mouth, {band}",
            kind, (Region.MOUTH,), Band.THIRDS, WetMm(0.08), 1, 0,
            "soft towards the corners", "small round",
            "It fades from its dark middle to the corners; leave teeth understated, never outlined.",
        ),
        PassTemplate(
            "worn", "Spectacles, hat and jewellery, {band}",
            kind, WORN, Band.THIRDS, WetMm(0.08), 1, 0,
            "hard where metal turns, soft on cloth", "small flat",
            "Metal and glass mirror what faces them: darks and lights side by side, few of either.",
        ),
    )  # fmt: skip


def face_lines() -> Templates:
    """Brows, creases of the lids, wrinkles, parting of the lips, lashes."""
    return (
        PassTemplate(
            "brow-lines", "Lines of the brows",
            LINES, (Region.BROWS,), Band.LINES, WetMm(0.03), 1, 0,
            "lost outward", "small liner",
            "Two to a brow, the lower the larger, widest toward the nose; skin shows between.",
        ),
        PassTemplate(
            "lid-creases", "Creases of the lids",
            LINES, (Region.SKIN,), Band.LINES, WetMm(0.03), 1, 0,
            "crisp below, soft above", "small liner",
            "A warm dark, never plain black; swell over the eye and let both ends go.",
        ),
        PassTemplate(
            "wrinkles", "Wrinkles and folds",
            LINES, (Region.SKIN,), Band.LINES, WetMm(0.03), 1, 0,
            "crisp on the deep side, soft on the other", "small liner",
            "A warm dark, never black; swell where the fold is deep and let both ends go.",
        ),
        PassTemplate(
            "lip-parting", "Parting of the lips",
            LINES, (Region.LIPS,), Band.LINES, WetMm(0.03), 1, 0,
            "firm in the middle, lost in the corners", "small liner",
            "Hair-thin; press a little in the middle of the mouth.",
        ),
        PassTemplate(
            "lashes", "Lashes",
            LINES, (Region.EYES,), Band.LINES, WetMm(0.02), 1, 0,
            "crisp at the root, gone at the tip", "small liner",
            "In tufts, from the root outward, only once the values round the eye are right.",
        ),
    )  # fmt: skip


def hair_lines() -> Templates:
    """Lines of the moustache, strays."""
    return (
        PassTemplate(
            "moustache-lines", "Lines of the moustache, {band}",
            LINES, (Region.FACIAL_HAIR,), Band.LINES, WetMm(0.03), 1, 0,
            "lost at both ends", "small liner",
            "From the middle outward, shorter upward; leave skin between, and never mirror the sides.",
        ),
        PassTemplate(
            "strays", "Strays, {band}",
            LINES, (Region.HAIR,), Band.LINES, WetMm(0.02), 1, 0,
            "full at the root, gone at the tip", "small liner",
            "Begin along the hair beneath, then leave it; a few are enough.",
        ),
    )  # fmt: skip


def hair(kind: Laying = MASS, film: WetMm = COVERING) -> PassTemplate:
    """Hair of head and face, each tone inside the one before."""
    return PassTemplate(
        "hair", "Hair, {band}",
        kind, (Region.HAIR, Region.FACIAL_HAIR), Band.NESTED_THIRDS, film, 1, 0,
        "soft at the hairline, along the growth lines", "filbert",
        "The darks over the whole mass; the middle over them; lights last, along their growth.",
    )  # fmt: skip


def cloth(kind: Laying = MASS) -> PassTemplate:
    """The garment in masses."""
    return PassTemplate(
        "garment", "Garment, {band}",
        kind, (Region.GARMENT,), Band.EACH_GROUP, WetMm(0.08), 1, 0,
        "firm", "flat brush",
        "Masses only; no folds smaller than the brush.",
    )  # fmt: skip


def wall(note: str, kind: Laying = MASS) -> PassTemplate:
    """The background in masses."""
    return PassTemplate(
        "background", "Background, {band}",
        kind, (Region.BACKGROUND,), Band.EACH_GROUP, WetMm(0.08), 1, 0,
        "lost towards the shadow side", "large flat brush",
        note,
    )  # fmt: skip


def flesh(note: str, edge: str, kind: Laying = MASS, film: WetMm = COVERING) -> PassTemplate:
    """The skin, value group by value group from dark to light."""
    return PassTemplate(
        "flesh", "Flesh, {band}",
        kind, (Region.SKIN,), Band.EACH_GROUP, film, 1, 0, edge, "filbert", note,
    )  # fmt: skip
