"""Focus and finish: how much small contrast and how soft an edge each place may have, from what is looked at.

Near the focus everything the photograph shows may be painted; away from it small values go first, then
edges soften. Materials differ: marks fade in the shadow of skin, and are at home in that of pale hair.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from truesitter.core.colour.spaces import lab_to_srgb, linear_to_srgb, srgb_to_linear
from truesitter.core.design.tuning import (
    BLURS,
    FEW_TONES,
    FINISHED,
    FOCUS_LEAST,
    MASSES,
    PALE,
    QUIET,
    REACH,
    SHADOW_PALE_HAIR,
    SHADOW_SKIN,
    SHARPEST_MM,
    SMALL,
    SOFTEST_MM,
)
from truesitter.core.imaging.blur import blur, level_shares
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Bytes, Floats, Labels, Mask

Depth = Literal["near", "middle", "far"]


DEPTHS: dict[Depth, float] = {"near": 1.0, "middle": 0.55, "far": 0.2}
"""Weight that a mark gives to what lies round it [try]."""


@dataclass(frozen=True)
class FocusMark:
    """A place the painter marked.

    Attributes
    ----------
    x, y
        In fractions of the picture.
    depth
        How near it is, or how much it is looked at.
    outline
        (n, 2) x, y round a motif that is as near as that all over; none for a spot.
    """

    x: float
    y: float
    depth: Depth
    outline: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True)
class Finish:
    """What is allowed where; all maps (h, w).

    Attributes
    ----------
    weight
        0–1, 1 at the focus.
    small
        Small contrast of the photograph, in value steps.
    allowed
        Small contrast that may be painted.
    edge_mm
        Width of the sharpest edge allowed.
    """

    weight: Floats
    small: Floats
    allowed: Floats
    edge_mm: Floats


@dataclass(frozen=True)
class PlaceFinish:
    """The finish of one place, and what that means for the hand."""

    place: str
    x: float
    y: float
    weight: float
    small: float
    allowed: float
    edge_mm: float
    words: str


def small_contrast(value: Floats) -> Floats:
    """Root mean square of what squinting takes away, in value steps (h, w)."""
    sigma = SMALL * value.shape[0]
    fine = value - blur(value, sigma)
    return np.asarray(np.sqrt(np.maximum(blur(fine * fine, 2 * sigma), 0)), dtype=np.float32)


def focus_weight(shape: tuple[int, int], marks: tuple[FocusMark, ...], scale: float) -> Floats:
    """How much each spot is looked at, 0–1 (h, w); a mark counts where it is the nearest.

    Parameters
    ----------
    scale
        Height of the face in pixels.
    """
    height, width = shape
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    away = np.stack([np.hypot(x - m.x * width, y - m.y * height) for m in marks]) / (REACH * scale)
    own = np.array([DEPTHS[m.depth] for m in marks], np.float32)[:, None, None]
    # Gaussian in distance: half at `REACH`.
    falls = FOCUS_LEAST + (own - FOCUS_LEAST) * np.exp2(-(away**2))
    near = np.exp2(-6 * away)
    weight = (falls * near).sum(axis=0) / np.maximum(near.sum(axis=0), 1e-12)
    for mark in marks:
        if mark.outline:
            inside = np.zeros(shape, np.uint8)
            drawn = np.rint(np.array(mark.outline) * (width, height)).astype(np.int32)
            cv2.fillPoly(inside, [drawn], 1)
            weight[inside > 0] = DEPTHS[mark.depth]
    return np.asarray(np.clip(weight, FOCUS_LEAST, 1), dtype=np.float32)


def finish_for(
    value: Floats, regions: Labels, marks: tuple[FocusMark, ...], scale: float, shadow: Mask
) -> Finish:
    """What is allowed everywhere.

    Parameters
    ----------
    value, regions
        (h, w) of the reference.
    marks
        At least one.
    scale
        Height of the face in pixels.
    shadow
        (h, w) True in shadow.
    """
    weight = focus_weight((value.shape[0], value.shape[1]), marks, scale)
    small = small_contrast(value)
    hair = np.isin(regions, (Region.HAIR, Region.FACIAL_HAIR))
    pale = hair.any() and float(np.median(value[hair])) >= PALE
    material = np.ones(value.shape, np.float32)
    material[(regions == Region.SKIN) & shadow] = SHADOW_SKIN
    if pale:
        material[hair & shadow] = SHADOW_PALE_HAIR
    edge = SHARPEST_MM + (SOFTEST_MM - SHARPEST_MM) * (1 - weight) ** 2
    return Finish(weight, small, small * np.clip(weight * material, 0, 1), edge.astype(np.float32))


def words_for(weight: float, small: float, in_skin_shadow: bool) -> str:
    """What a weight means for the hand.

    Parameters
    ----------
    weight
        Of the finish, 0 loose to 1 finished.
    small
        Small contrast there, in value steps.
    in_skin_shadow
        True in the shadow of skin.

    Returns
    -------
    str
        A sentence for the hand.
    """
    if weight >= FINISHED:
        said = "finish it as far as you can see"
    elif weight >= MASSES:
        said = "paint its masses and the larger accents; leave single lines out"
    elif weight >= FEW_TONES:
        said = "masses only, borders smeared a little"
    else:
        said = "two or three tones, no detail, borders lost where they can be"
    if in_skin_shadow:
        said += "; few marks in its shadow"
    return f"{said}." if small >= QUIET else f"{said}; there is little to leave out."


def finished_picture(lab: Floats, finish: Finish, mm_per_px: float) -> Bytes:
    """The reference as it may be finished: softer the farther from the focus, (h, w, 3) sRGB.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b* of the reference.
    finish
        How far each place is finished.
    mm_per_px
        Canvas mm to a pixel, > 0.

    Returns
    -------
    Bytes
        sRGB.
    """
    # Light is what mixes when an edge is softened, not its code.
    light = srgb_to_linear(lab_to_srgb(lab))
    # 10–90 % width of a blurred edge is 2.563 sigma.
    wanted = np.clip((finish.edge_mm - SHARPEST_MM) / 2.563 * 2, 0, BLURS[-1])
    mixed = np.zeros_like(light)
    for mm, share in zip(BLURS, level_shares(wanted, BLURS), strict=True):
        soft = light if mm == 0 else cv2.GaussianBlur(light, (0, 0), mm / mm_per_px / 2)
        mixed += soft * share[..., None]
    return np.asarray(np.round(linear_to_srgb(mixed) * 255), dtype=np.uint8)
