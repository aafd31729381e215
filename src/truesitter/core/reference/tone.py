"""Correcting the photograph's colour: grey balance, exposure, black and white point; and what was lost.

All corrections work in linear light, channel by channel, on the 8-bit picture by table;
the photograph itself is never changed.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import LUMINANCE_WEIGHTS, linear_to_srgb, srgb_to_linear
from truesitter.core.colour.value import picture_luminance, value_to_luminance
from truesitter.core.reference.tuning import CLIPPED_DARK, CLIPPED_LIGHT, MIDDLE, MOST_GAIN
from truesitter.core.refusal import Refusal
from truesitter.core.types import Bytes, Mask


@dataclass(frozen=True)
class PictureTone:
    """Corrections, in the order they are applied.

    Attributes
    ----------
    balance
        Gains of linear red, green and blue that turn what should be neutral grey.
    exposure
        Value steps by which a middle value (5) is raised or lowered, −3 to 3.
    black, white
        Values 0–4 and 6–10 of the photograph that become 0 and 10.
    untinted
        True to leave its luminance alone, without any colour.
    """

    balance: tuple[float, float, float] = (1.0, 1.0, 1.0)
    exposure: float = 0.0
    black: float = 0.0
    white: float = 10.0
    untinted: bool = False

    @property
    def plain(self) -> bool:
        """True when nothing is changed."""
        return self == PictureTone()


def tone_table(tone: PictureTone) -> Bytes:
    """(256, 3) uint8 table from the photograph's 8-bit sRGB to the corrected one."""
    linear = srgb_to_linear(np.arange(256) / 255.0)[:, None] * np.array(tone.balance)
    lift = value_to_luminance(MIDDLE + tone.exposure) / value_to_luminance(MIDDLE)
    low, high = value_to_luminance(tone.black), value_to_luminance(tone.white)
    stretched = (linear * lift - low) / (high - low)
    return np.asarray(np.round(linear_to_srgb(np.clip(stretched, 0, 1)) * 255), dtype=np.uint8)


def correct(picture: Bytes, tone: PictureTone) -> Bytes:
    """The picture (H, W, 3) uint8 sRGB with its colour corrected."""
    if tone.plain:
        return picture
    if tone.untinted:
        picture = without_tint(picture)
    return cv2.LUT(picture, tone_table(tone)[None])


def without_tint(picture: Bytes) -> Bytes:
    """The picture (H, W, 3) uint8 sRGB in greys of its own luminance."""
    grey = np.round(linear_to_srgb(picture_luminance(picture)) * 255).astype(np.uint8)
    return np.repeat(grey[..., None], 3, axis=2)


def balance_from(patch: Bytes) -> tuple[float, float, float]:
    """Gains that turn a patch of the uncorrected picture neutral, its luminance kept.

    Parameters
    ----------
    patch
        (h, w, 3) uint8 sRGB of something that is neutral grey in truth.

    Raises
    ------
    Refusal
        When the patch is too dark, too light or too strongly coloured to have been neutral.

    Examples
    --------
    >>> tuple(round(g, 2) for g in balance_from(np.full((4, 4, 3), (120, 128, 136), np.uint8)))
    (1.13, 0.98, 0.86)
    """
    if np.median(patch) <= 8 or np.median(patch) >= 250:
        raise Refusal("this spot is too dark or too light to balance by; choose a middle grey")
    mean = srgb_to_linear(patch.reshape(-1, 3) / 255.0).mean(axis=0)
    luminance = float(mean @ LUMINANCE_WEIGHTS)
    gains = luminance / np.maximum(mean, 1e-6)
    if gains.max() > MOST_GAIN or gains.min() < 1 / MOST_GAIN:
        raise Refusal("this spot is too strongly coloured to have been grey")
    return (float(gains[0]), float(gains[1]), float(gains[2]))


@dataclass(frozen=True)
class Clipping:
    """What the photograph has lost at either end.

    Attributes
    ----------
    dark_share, light_share
        Parts of the picture, 0–1, where every channel has run into black, or any into white.
    dark, light
        (H, W) where.
    """

    dark_share: float
    light_share: float
    dark: Mask
    light: Mask


def find_clipping(picture: Bytes) -> Clipping:
    """Where the uncorrected picture (H, W, 3) uint8 has run into black or white."""
    dark = picture.max(axis=2) <= CLIPPED_DARK
    light = picture.max(axis=2) >= CLIPPED_LIGHT
    return Clipping(float(dark.mean()), float(light.mean()), dark, light)


def lift_shadows(picture: Bytes, below: float = 3.5, by: float = 2.0) -> Bytes:
    """The picture with its darks opened up, to see what colour is left in them.

    Values under `below` are spread upwards by up to `by` steps; the rest stays in order.
    A look only: nothing is planned from it.

    Parameters
    ----------
    picture
        (h, w, 3) sRGB.
    below
        Value up to which it is lifted, 0–10.
    by
        Value steps, 0 or more.

    Returns
    -------
    Bytes
        (h, w, 3) sRGB.
    """
    steps = np.linspace(0, 10, 1001)
    opened, rest = (below + by) / below, (10 - below - by) / (10 - below)
    raised = np.where(steps < below, steps * opened, below + by + (steps - below) * rest)
    linear = srgb_to_linear(np.arange(256) / 255.0)
    luminance = value_to_luminance(steps)
    value = np.interp(linear, luminance, steps)
    table = linear_to_srgb(np.interp(np.interp(value, steps, raised), steps, luminance))
    return cv2.LUT(picture, np.round(table * 255).astype(np.uint8))
