"""Faults that painters name, looked for one by one; each says what was measured and against what.

Each rule holds, fails, or has nothing to say. They compare with the plan, so that what the reference itself
does is never a fault. The faults and their names are common practice; the thresholds are ours [try].
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.blur import blur
from truesitter.core.easel.areas import Areas
from truesitter.core.easel.findings import CONTRAST_OFF, Whole
from truesitter.core.easel.finish import EdgesRead
from truesitter.core.easel.likeness import likeness
from truesitter.core.easel.squint import Squinted
from truesitter.core.light.ceilings import Ceiling
from truesitter.core.pixels import in_pixels, pixel_at
from truesitter.core.sitter.face import BROWS, Face
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Floats, Labels, Mask
from truesitter.core.values.edges import HARD_MM


@dataclass(frozen=True)
class Looked:
    """All that rules look at; maps (h, w) of one size.

    Attributes
    ----------
    seen
        Painting and plan, squinted.
    own, plan
        Their values unsquinted.
    regions, areas, face, ceilings
        Of the sitter.
    edges, whole
        Borders and key, as read.
    mm_per_px
        Canvas mm to a pixel.
    """

    seen: Squinted
    own: Floats
    plan: Floats
    regions: Labels
    areas: Areas
    face: Face | None
    ceilings: tuple[Ceiling, ...]
    edges: EdgesRead
    whole: Whole
    mm_per_px: float

    def region(self, *regions: Region) -> Mask:
        """Where some regions lie and the photograph can be believed."""
        return np.isin(self.regions, regions) & self.seen.trusted


@dataclass(frozen=True)
class Verdict:
    """What a rule found.

    Attributes
    ----------
    rule
        Its key.
    holds
        True when all is well.
    words
        In a sentence.
    measured, limit
        What was measured, and from where on it fails.
    place
        Where, in words.
    """

    rule: str
    holds: bool
    words: str
    measured: float
    limit: float
    place: str


Rule = Callable[[Looked], Verdict | None]
LEAST_PX = 200
"""Anything smaller tells nothing."""


def _spread(value: Floats, where: Mask) -> float:
    low, high = np.quantile(value[where], (0.05, 0.95))
    return float(high - low)


def full_range(look: Looked) -> Verdict | None:
    """Darks dark and lights light enough."""
    if not look.seen.trusted.any():
        return None
    contrast = look.whole.contrast
    return Verdict(
        "range", contrast >= 1 - CONTRAST_OFF,
        "The full range of values is there." if contrast >= 1 - CONTRAST_OFF else
        "The range is narrower than planned: darks too light, lights too dark.",
        contrast, 1 - CONTRAST_OFF, "the whole painting",
    )  # fmt: skip


_OVER = 0.4
_LIGHT_MM = 2.0


def lights_under_ceilings(look: Looked) -> Verdict | None:
    """No light lighter than its group or its shadow allows."""
    worst: tuple[float, Ceiling] | None = None
    for one in look.ceilings:
        at = pixel_at(one.x, one.y, look.own.shape)
        if not look.seen.trusted[at]:
            continue
        reach = max(1, round(_LIGHT_MM / look.mm_per_px))
        box = tuple(slice(max(0, a - reach), a + reach + 1) for a in at)
        # What the plan itself has there is no fault of the painter's.
        top, planned = (float(np.quantile(v[box], 0.9)) for v in (look.own, look.plan))
        over = top - max(one.ceiling, planned)
        if worst is None or over > worst[0]:
            worst = over, one
    if worst is None:
        return None
    over, one = worst
    holds = over < _OVER
    words = (
        "No light goes past its ceiling." if holds
        else f"The light at {one.place} is {over:.1f} steps past its ceiling of {one.ceiling:.1f}."
    )  # fmt: skip
    return Verdict("ceilings", holds, words, over, _OVER, one.place)


def cheekbone_light(look: Looked) -> Verdict | None:
    """Lights on the cheekbones stand off what they turn from."""
    cheeks = [c for c in look.ceilings if "cheekbone" in c.place]
    if not cheeks:
        return None
    found = []
    for one in cheeks:
        at = pixel_at(one.x, one.y, look.own.shape)
        if not look.seen.trusted[at]:
            continue
        reach = round(12 / look.mm_per_px)
        box = tuple(slice(max(0, a - reach), a + reach + 1) for a in at)
        skin = look.region(Region.SKIN)[box]
        if skin.sum() < LEAST_PX:
            continue
        own, plan = (
            float(v[at] - np.quantile(v[box][skin], 0.25)) for v in (look.seen.value, look.seen.wanted)
        )
        if plan >= 0.4:
            found.append((own / plan, one))
    if not found:
        return None
    part, one = min(found, key=lambda f: f[0])
    return Verdict(
        "cheekbone", part >= 0.6,
        "The lights on the cheekbones stand off their surroundings." if part >= 0.6 else
        f"The light on the {one.place} is nearly lost: it wants to be crisp towards its dark neighbour and "
        "to fade on the other side.",
        part, 0.6, one.place,
    )  # fmt: skip


def _varied(look: Looked, region: Region, key: str, fine: str, flat: str) -> Verdict | None:
    where = look.region(region)
    if where.sum() < LEAST_PX:
        return None
    plan = _spread(look.seen.wanted, where)
    if plan < 0.5:
        return None
    part = _spread(look.seen.value, where) / plan
    return Verdict(key, part >= 0.6, fine if part >= 0.6 else flat, part, 0.6, region.spoken)


def hair_varied(look: Looked) -> Verdict | None:
    """Hair has its lights, middles and darks."""
    return _varied(
        look, Region.HAIR, "hair flat", "The hair keeps its darks, middles and lights.",
        "The hair is nearly one flat tone: its locks want a dark, a middle and a light each.",
    )  # fmt: skip


def beard_varied(look: Looked) -> Verdict | None:
    """A beard is no patch."""
    return _varied(
        look, Region.FACIAL_HAIR, "beard patch", "The beard has its form.",
        "The beard lies there like a patch: let skin show between, darker low down and thinner higher up.",
    )  # fmt: skip


def _below_hair(look: Looked, value: Floats) -> tuple[float, int]:
    """By how much skin close to the hair is darker than skin farther off."""
    hair = (look.regions == Region.HAIR).astype(np.uint8)
    away = cv2.distanceTransform(1 - hair, cv2.DIST_L2, 5) * look.mm_per_px
    skin = look.region(Region.SKIN)
    near, far = skin & (away > 1.5) & (away < 6), skin & (away > 12) & (away < 28)
    if min(near.sum(), far.sum()) < LEAST_PX:
        return 0.0, 0
    return float(value[far].mean() - value[near].mean()), int(near.sum())


def hair_shadow(look: Looked) -> Verdict | None:
    """Hair casts a shadow on the skin."""
    plan, seen = _below_hair(look, look.seen.wanted)
    if seen == 0 or plan < 0.35:
        return None
    part = _below_hair(look, look.seen.value)[0] / plan
    return Verdict(
        "hair shadow", part >= 0.5,
        "The hair sits on the head: its shadow is there." if part >= 0.5 else
        "The hair floats: the skin along it wants its shadow, softly.",
        part, 0.5, "hairline",
    )  # fmt: skip


def _border_widths(look: Looked, one: Mask, other: Mask) -> tuple[float, float, int]:
    """Median widths, painted and planned, where two regions meet."""
    size = max(3, 2 * round(2.5 / look.mm_per_px) + 1)
    disc = np.ones((size, size), np.uint8)
    meet = cv2.dilate(one.astype(np.uint8), disc) & cv2.dilate(other.astype(np.uint8), disc)
    columns, rows = np.clip(look.edges.plan.points.astype(int), 0, np.array(meet.shape[::-1]) - 1).T
    here = look.edges.clear & (meet[rows, columns] > 0)
    if here.sum() < 12:
        return 0.0, 0.0, 0
    return (
        float(np.median(look.edges.painted_mm[here])), float(np.median(look.edges.planned_mm[here])),
        int(here.sum()),
    )  # fmt: skip


def hairline_soft(look: Looked) -> Verdict | None:
    """The hairline is a passage, not a line."""
    own, plan, count = _border_widths(look, look.regions == Region.HAIR, look.regions == Region.SKIN)
    if not count or plan < 1.5:
        return None
    part = own / plan
    return Verdict(
        "hairline", part >= 0.6,
        "The hairline is soft enough." if part >= 0.6 else
        f"The hairline is too hard: {own:.1f} mm instead of {plan:.1f}; let skin show in its first hairs.",
        part, 0.6, "hairline",
    )  # fmt: skip


def lips_not_hard(look: Looked) -> Verdict | None:
    """Lips are not hard all round."""
    lips = look.regions == Region.LIPS
    own, plan, count = _border_widths(look, lips, look.regions == Region.SKIN)
    if not count:
        return None
    holds = own >= HARD_MM or own >= 0.6 * plan
    return Verdict(
        "lips", holds,
        "The lips have soft borders too." if holds else
        f"The lips are hard all round ({own:.1f} mm instead of {plan:.1f}): lose their border in the light.",
        own, min(HARD_MM, 0.6 * plan), "lips",
    )  # fmt: skip


def eye_whites(look: Looked) -> Verdict | None:
    """Eye whites are a light grey."""
    where = look.region(Region.EYES)
    if where.sum() < 60:
        return None
    own, plan = (float(np.quantile(v[where], 0.9)) for v in (look.seen.value, look.seen.wanted))
    over = own - plan
    return Verdict(
        "eye whites", over < 0.5,
        "The eye whites are no lighter than they should be." if over < 0.5 else
        f"The eye whites are {over:.1f} steps too white: they are a light grey in the shade of the lid.",
        over, 0.5, "eyes",
    )  # fmt: skip


def shadows_alive(look: Looked) -> Verdict | None:
    """Flesh shadows keep a colour."""
    skin = look.region(Region.SKIN)
    if skin.sum() < LEAST_PX:
        return None
    dark = skin & (look.seen.wanted <= np.quantile(look.seen.wanted[skin], 0.15))
    chroma = [float(np.hypot(*lab[dark][:, 1:].T).mean()) for lab in (look.seen.own, look.seen.plan)]
    if chroma[1] < 6:
        return None
    darker = float((look.seen.value - look.seen.wanted)[dark].mean())
    holds = chroma[0] >= 0.55 * chroma[1] or darker > 0
    return Verdict(
        "black shadows", holds,
        "The flesh shadows keep their colour." if holds else
        "The flesh shadows are nearly black: glaze or mix colour into them, no black alone.",
        chroma[0] / chroma[1], 0.55, "flesh shadows",
    )  # fmt: skip


def background_quiet(look: Looked) -> Verdict | None:
    """The background does not fight the head."""
    wall = look.region(Region.BACKGROUND)
    head = look.areas.wholes("face") & look.seen.trusted
    if min(wall.sum(), head.sum()) < LEAST_PX:
        return None
    fine = [(v - blur(v, 0.01 * max(v.shape))) ** 2 for v in (look.own, look.plan)]
    loud = [float(np.sqrt(f[wall].mean() / max(1e-6, f[head].mean()))) for f in fine]
    limit = max(0.8, 1.5 * loud[1])
    return Verdict(
        "background", loud[0] <= limit,
        "The background is quieter than the head." if loud[0] <= limit else
        "The background fights the head: it is worked as far as the face, or farther.",
        loud[0], limit, "background",
    )  # fmt: skip


_BARE = 9.0


def no_bare_white(look: Looked) -> Verdict | None:
    """Flesh is not judged against bare white."""
    wall, skin = look.region(Region.BACKGROUND), look.region(Region.SKIN)
    if min(wall.sum(), skin.sum()) < LEAST_PX:
        return None
    bare = float((look.seen.value[wall] >= _BARE).mean())
    planned = float((look.seen.wanted[wall] >= _BARE).mean())
    holds = bare < 0.3 or planned >= 0.3
    return Verdict(
        "bare white", holds,
        "No bare white stands beside the flesh." if holds else
        "The background is still bare white: beside it all flesh looks too dark. Lay a first tone there.",
        bare, 0.3, "background",
    )  # fmt: skip


def brows_unlike(look: Looked) -> Verdict | None:
    """Brows are no mirror images of one another."""
    if look.face is None:
        return None
    crops = []
    for value in (look.own, look.plan):
        pair = []
        for marks in BROWS:
            points = in_pixels(look.face.points[list(marks), :2], value.shape)
            (left, top), (right, bottom) = (
                points.min(axis=0).astype(int) - 3,
                points.max(axis=0).astype(int) + 4,
            )
            piece = value[max(0, top) : bottom, max(0, left) : right]
            if min(piece.shape) < 6:
                return None
            pair.append(cv2.resize(piece, (60, 24), interpolation=cv2.INTER_AREA))
        crops.append(likeness(pair[0], np.ascontiguousarray(pair[1][:, ::-1])))
    holds = crops[0] < 0.85 or crops[0] < crops[1] + 0.12
    return Verdict(
        "brows", holds,
        "The brows differ as they should." if holds else
        "The brows mirror one another: left and right never do; vary their width and their lines.",
        crops[0], 0.85, "brows",
    )  # fmt: skip


RULES: tuple[Rule, ...] = (
    full_range, lights_under_ceilings, cheekbone_light, hair_varied, beard_varied, hair_shadow,
    hairline_soft, lips_not_hard, eye_whites, shadows_alive, background_quiet, no_bare_white, brows_unlike,
)  # fmt: skip


def verdicts(look: Looked) -> tuple[Verdict, ...]:
    """What every rule that has something to say found; what fails first."""
    found = [v for rule in RULES if (v := rule(look)) is not None]
    return tuple(sorted(found, key=lambda v: v.holds))
