"""Form of the skin: what is lit, what turns away, what lies in shadow, and why.

Lit and shadow are told by the light that reaches the skin: light falls off in ratios, so the two are
parted where the logarithm of the luminance is best split in two. In the shadow the normals of the
face say whether it is the form's own or cast: what looks towards the light and is dark lies in the
shadow of something.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

import cv2
import numpy as np

from truesitter.core.imaging.blur import blur_within
from truesitter.core.imaging.split import best_split
from truesitter.core.light.form.tuning import (
    BINS,
    CORE_REACH,
    EVEN,
    FREEDOM,
    FULL,
    GRAIN,
    LEAST_FALL,
    LOCAL,
    MOST_HIGHLIGHT,
    RISES,
    RISES_AGAIN,
    SHADOW,
    SHINY,
    SMALLEST,
    STANDS_OUT,
    STRONGEST,
    TURNING,
)
from truesitter.core.types import Doubles, Floats, Labels, Mask


class FormClass(IntEnum):
    """The numbers of `form.png`."""

    NONE = 0
    HIGHLIGHT = 1
    LIGHT = 2
    HALFTONE = 3
    FORM_SHADOW = 4
    REFLECTED_LIGHT = 5
    CAST_SHADOW = 6

    @property
    def spoken(self) -> str:
        """As it is said."""
        return self.name.lower().replace("_", " ")


LOOKS_AT_LIGHT = SHADOW
"""Skin whose cosine to the light is above this would be lit if nothing stood before it."""


@dataclass(frozen=True)
class Form:
    """Classes of the skin.

    Attributes
    ----------
    classes
        (h, w) numbers of `FormClass`.
    shadow_below, light_above
        Luminances that part shadow from halftone and halftone from light.
    on_face
        (h, w) where the mesh of the face told form from cast shadow; elsewhere it is less sure.
    """

    classes: Labels
    shadow_below: float
    light_above: float
    on_face: Mask


def shadow_border(luminance: Doubles, even: float = EVEN) -> float:
    """The luminance below which skin is in shadow; 0 where no shadow stands apart.

    Parameters
    ----------
    luminance
        (n,) squinted luminance of the skin, n ≥ 1.
    even
        Even light as part of the key's, 0 or more.
    """
    logs = np.log(luminance + GRAIN)
    low, high = float(logs.min()), float(logs.max())
    if high - low < np.log(LEAST_FALL):
        return 0.0
    cut, dark, light = best_split(logs, BINS)
    if light - dark < np.log(LEAST_FALL):
        return 0.0
    full = float(np.quantile(luminance, FULL))
    wanted = full * (SHADOW + even) / (1 + even)
    return float(np.clip(np.exp(cut) - GRAIN, FREEDOM[0] * wanted, FREEDOM[1] * wanted))


def skin_form(
    luminance: Floats, value: Floats, skin: Mask, shine: Floats, facing: Floats, on_face: Mask,
    blocked: Mask, light_2d: tuple[float, float], even: float, scale: float,
) -> Form:  # fmt: skip
    """Sort the skin into the six classes.

    Parameters
    ----------
    luminance, value
        (h, w) squinted luminance factor and value.
    skin
        (h, w) bare skin.
    shine
        (h, w) luminance of the light mirrored by the skin's surface.
    facing
        (h, w) cosine between normal and key light.
    on_face
        (h, w) where the normals are those of the face's mesh. Elsewhere they follow from the outline alone,
        and a shadow counts as cast only where something also stands before the light.
    blocked
        (h, w) where something stands between the skin and the light in the picture.
    light_2d
        Towards the light in the picture, x right, y down; (0, 0) from the front.
    even
        Even light as part of the key's.
    scale
        Height of the face in pixels.
    """
    classes = np.zeros(luminance.shape, np.uint8)
    if not skin.any():
        return Form(classes, 0.0, 0.0, on_face & skin)
    lights = luminance[skin].astype(np.float64)
    border = shadow_border(lights, even)
    full = float(np.quantile(lights, FULL))
    light_above = border + TURNING * (full - border) if border else TURNING * full
    classes[skin] = np.where(lights >= light_above, FormClass.LIGHT, FormClass.HALFTONE)
    shadow = skin & (luminance < border)
    cast = shadow & (facing > LOOKS_AT_LIGHT) & (on_face | blocked)
    classes[shadow] = FormClass.FORM_SHADOW
    classes[_without_specks(cast, scale) & shadow] = FormClass.CAST_SHADOW
    rises = rises_again(value, shadow, light_2d, CORE_REACH * scale)
    own = classes == FormClass.FORM_SHADOW
    classes[_without_specks(own & (rises >= RISES_AGAIN), scale) & own] = FormClass.REFLECTED_LIGHT
    classes[highlight_mask(luminance, skin & ~shadow, shine, scale)] = FormClass.HIGHLIGHT
    return Form(classes, border, light_above, on_face & skin)


def highlight_mask(luminance: Floats, lit: Mask, shine: Floats, scale: float) -> Mask:
    """Where mirrored light makes a highlight: strong, and standing out from what lies round it.

    A lamp is mirrored by a rough surface in a lobe about one direction: on a form that turns it is a small
    shape. What shines alike over half a forehead (a flash beside the lens) is sheen, and part of the light.

    Parameters
    ----------
    luminance
        (h, w) squinted luminance factor.
    lit
        (h, w) skin that is not in shadow.
    shine
        (h, w) luminance of the light mirrored by the skin's surface.
    scale
        Height of the face in pixels.
    """
    if not lit.any():
        return np.zeros(lit.shape, bool)
    rises = shine - blur_within(shine, lit.astype(np.float32), LOCAL * scale)
    strong = STANDS_OUT * float(np.quantile(shine[lit], STRONGEST))
    found = lit & (shine >= np.maximum(SHINY * luminance, strong)) & (rises >= RISES * luminance)
    if found.sum() > MOST_HIGHLIGHT * lit.sum():
        found &= rises >= float(np.quantile(rises[lit], 1 - MOST_HIGHLIGHT))
    return np.asarray(found)


def rises_again(value: Floats, shadow: Mask, light_2d: tuple[float, float], reach: float) -> Floats:
    """How far shadow lies above the darkest shadow between it and the light, in value steps.

    Parameters
    ----------
    reach
        How far the core may lie, in pixels.
    """
    dark = np.where(shadow, value, np.inf).astype(np.float32)
    core = dark.copy()
    steps = max(2, min(12, round(reach / 2)))
    length = float(np.hypot(*light_2d))
    if length < 1e-3:
        return np.zeros(value.shape, np.float32)
    for part in np.linspace(0, 1, steps + 1)[1:]:
        dx, dy = (round(c / length * reach * part) for c in light_2d)
        core = np.minimum(core, _moved(dark, -dx, -dy))
    return np.asarray(np.where(shadow, value - core, 0), dtype=np.float32)


def _moved(map_: Floats, dx: int, dy: int) -> Floats:
    """A map moved by whole pixels; nothing (infinity) comes in from outside."""
    height, width = map_.shape
    out = np.full(map_.shape, np.inf, np.float32)
    if abs(dx) < width and abs(dy) < height:
        out[max(0, dy) : height + min(0, dy), max(0, dx) : width + min(0, dx)] = map_[
            max(0, -dy) : height + min(0, -dy), max(0, -dx) : width + min(0, -dx)
        ]
    return out


def _without_specks(mask: Mask, scale: float) -> Mask:
    """A mask whose specks and pinholes are gone."""
    side = 2 * max(1, round(SMALLEST * scale / 2)) + 1
    kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
    smooth = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, kernel)
    return np.asarray(cv2.morphologyEx(smooth, cv2.MORPH_CLOSE, kernel) > 0)
