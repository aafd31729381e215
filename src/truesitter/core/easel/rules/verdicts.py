"""Usual faults, looked for one by one; each rule says what was measured and against what.

Each rule holds, fails, or has nothing to say. They compare with the plan, so that what the reference itself
does is never a fault. The faults and their names are common practice; the thresholds are ours [try].
"""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.easel.compare.tuning import CONTRAST_OFF
from truesitter.core.easel.find.correlation import correlation
from truesitter.core.easel.rules.brushwork import brushwork
from truesitter.core.easel.rules.hair_rules import beard_varied, hair_shadow, hair_varied, hairline_soft
from truesitter.core.easel.rules.looked import Looked, Rule, Verdict, border_widths
from truesitter.core.easel.rules.tuning import BARE, LEAST_PX, LIGHT_MM, OVER
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.pixels import in_pixels, pixel_at
from truesitter.core.light.mirrored.ceilings import Ceiling
from truesitter.core.sitter.face import BROWS
from truesitter.core.sitter.region_names import Region
from truesitter.core.values.tuning import HARD_MM


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


def lights_under_ceilings(look: Looked) -> Verdict | None:
    """No light lighter than its group or its shadow allows."""
    worst: tuple[float, Ceiling] | None = None
    for one in look.ceilings:
        at = pixel_at(one.x, one.y, look.own.shape)
        if not look.seen.trusted[at]:
            continue
        reach = max(1, round(LIGHT_MM / look.mm_per_px))
        box = tuple(slice(max(0, a - reach), a + reach + 1) for a in at)
        # What the plan itself has there is no fault of the painter's.
        top, planned = (float(np.quantile(v[box], 0.9)) for v in (look.own, look.plan))
        over = top - max(one.ceiling, planned)
        if worst is None or over > worst[0]:
            worst = over, one
    if worst is None:
        return None
    over, one = worst
    holds = over < OVER
    words = (
        "No light goes past its ceiling." if holds
        else f"The light at {one.place} is {over:.1f} steps past its ceiling of {one.ceiling:.1f}."
    )  # fmt: skip
    return Verdict("ceilings", holds, words, over, OVER, one.place)


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


def lips_not_hard(look: Looked) -> Verdict | None:
    """The border of the lips is sharp in some places only."""
    lips = look.regions == Region.LIPS
    own, plan, count = border_widths(look, lips, look.regions == Region.SKIN)
    if not count:
        return None
    holds = own >= HARD_MM or own >= 0.6 * plan
    return Verdict(
        "lips", holds,
        "The border of the lips is not of one sharpness." if holds else
        f"The border of the lips is sharp all along, {own:.1f} mm, not {plan:.1f}: lose it in the light.",
        own, min(HARD_MM, 0.6 * plan), "lips",
    )  # fmt: skip


def eye_whites(look: Looked) -> Verdict | None:
    """Eye whites are no lighter than they should be."""
    where = look.region(Region.EYES)
    if where.sum() < 60:
        return None
    own, plan = (float(np.quantile(v[where], 0.9)) for v in (look.seen.value, look.seen.wanted))
    over = own - plan
    return Verdict(
        "eye whites", over < 0.5,
        "The eye whites are no lighter than they should be." if over < 0.5 else
        f"The eye whites are {over:.1f} steps lighter than planned: in the shade of the lid they are grey.",
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
        "shadow colour", holds,
        "The flesh shadows keep their colour." if holds else
        "The flesh shadows are nearly black: glaze or mix colour into them, no black alone.",
        chroma[0] / chroma[1], 0.55, "flesh shadows",
    )  # fmt: skip


def background_quiet(look: Looked) -> Verdict | None:
    """The background draws the eye less than the head."""
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
        "The background draws the eye more than the head: it is worked as far as the face, or farther.",
        loud[0], limit, "background",
    )  # fmt: skip


def no_bare_white(look: Looked) -> Verdict | None:
    """Flesh is not judged against bare white."""
    wall, skin = look.region(Region.BACKGROUND), look.region(Region.SKIN)
    if min(wall.sum(), skin.sum()) < LEAST_PX:
        return None
    bare = float((look.seen.value[wall] >= BARE).mean())
    planned = float((look.seen.wanted[wall] >= BARE).mean())
    holds = bare < 0.3 or planned >= 0.3
    return Verdict(
        "bare white", holds,
        "No bare white stands beside the flesh." if holds else
        "The background is still bare white: beside it all flesh looks too dark. Lay a first tone there.",
        bare, 0.3, "background",
    )  # fmt: skip


def brows_unlike(look: Looked) -> Verdict | None:
    """One brow is not the other turned round."""
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
        crops.append(correlation(pair[0], np.ascontiguousarray(pair[1][:, ::-1])))
    holds = crops[0] < 0.85 or crops[0] < crops[1] + 0.12
    return Verdict(
        "brows", holds,
        "The brows differ as they should." if holds else
        "One brow is the mirror image of the other: vary their width and their lines.",
        crops[0], 0.85, "brows",
    )  # fmt: skip


RULES: tuple[Rule, ...] = (
    full_range, lights_under_ceilings, cheekbone_light, hair_varied, beard_varied, hair_shadow,
    hairline_soft, lips_not_hard, eye_whites, shadows_alive, background_quiet, no_bare_white, brows_unlike,
    brushwork,
)  # fmt: skip


def verdicts(look: Looked) -> tuple[Verdict, ...]:
    """What every rule that has something to say found; what fails first."""
    found = [v for rule in RULES if (v := rule(look)) is not None]
    return tuple(sorted(found, key=lambda v: v.holds))
