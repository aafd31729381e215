"""Usual faults of hair and beard."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.easel.rules.looked import Looked, Verdict, border_widths, spread
from truesitter.core.easel.rules.tuning import LEAST_PX
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Floats


def _varied(look: Looked, region: Region, key: str, fine: str, flat: str) -> Verdict | None:
    where = look.region(region)
    if where.sum() < LEAST_PX:
        return None
    plan = spread(look.seen.wanted, where)
    if plan < 0.5:
        return None
    part = spread(look.seen.value, where) / plan
    return Verdict(key, part >= 0.6, fine if part >= 0.6 else flat, part, 0.6, region.spoken)


def hair_varied(look: Looked) -> Verdict | None:
    """Hair has its lights, middles and darks."""
    return _varied(
        look, Region.HAIR, "hair flat", "The hair keeps its darks, middles and lights.",
        "The hair is nearly one flat tone: its locks want a dark, a middle and a light each.",
    )  # fmt: skip


def beard_varied(look: Looked) -> Verdict | None:
    """A beard has a form."""
    return _varied(
        look, Region.FACIAL_HAIR, "beard", "The beard has its form.",
        "The beard has lost its form: thin it towards its upper border, and let some skin be seen.",
    )  # fmt: skip


def _below_hair(look: Looked, value: Floats) -> tuple[float, int]:
    """By how much skin close to the hair is darker than skin farther off."""
    hair = (look.regions == Region.HAIR).astype(np.uint8)
    if not hair.any():
        return 0.0, 0
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
        "The skin along the hair lacks its shadow: lay it in softly, and the hair will sit.",
        part, 0.5, "hairline",
    )  # fmt: skip


def hairline_soft(look: Looked) -> Verdict | None:
    """The hairline is a passage, not a line."""
    own, plan, count = border_widths(look, look.regions == Region.HAIR, look.regions == Region.SKIN)
    if not count or plan < 1.5:
        return None
    part = own / plan
    return Verdict(
        "hairline", part >= 0.6,
        "The hairline is soft enough." if part >= 0.6 else
        f"The hairline is too hard: {own:.1f} mm instead of {plan:.1f}; let skin show in its first hairs.",
        part, 0.6, "hairline",
    )  # fmt: skip
