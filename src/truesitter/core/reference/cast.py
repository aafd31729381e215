"""The light's own colour, told by skin: what a photograph taken by lamps, in shade or under trees has."""

from __future__ import annotations

import numpy as np

from truesitter.core.colour.families import at_one_lightness
from truesitter.core.colour.spaces import (
    LUMINANCE_WEIGHTS,
    lab_to_srgb,
    linear_to_srgb,
    srgb_to_lab,
    srgb_to_linear,
)
from truesitter.core.reference.tuning import (
    BURNT,
    LEAST_SKIN_PX,
    LIT_SKIN,
    MOST_GAIN,
    SKIN_CHROMA,
    SKIN_HUE,
    USUAL_SKIN,
)
from truesitter.core.types import Doubles


def balance_by_skin(skin: Doubles) -> tuple[float, float, float] | None:
    """Gains that turn the skin of a face to what skin is in white light; None where it is near that.

    Skin differs from sitter to sitter, so this brings a strong cast near, and a weak one is let be: what is
    left was at most 8 % of red and 24 % of blue on five made sitters under six lights.

    Parameters
    ----------
    skin
        (n, 3) linear sRGB of the face's bare skin, in the photograph's own colour.

    Returns
    -------
    tuple[float, float, float] | None
        Gains of linear red, green and blue that keep the luminance.
    """
    if len(skin) < LEAST_SKIN_PX:
        return None
    luminance = skin @ LUMINANCE_WEIGHTS
    low, high = np.quantile(luminance, LIT_SKIN)
    middle = skin[(luminance >= low) & (luminance <= high) & (skin.max(axis=1) < BURNT)]
    if len(middle) < LEAST_SKIN_PX / 4:
        return None
    mean = np.maximum(middle.mean(axis=0, dtype=np.float64), 1e-5)
    lab = srgb_to_lab(linear_to_srgb(mean[None]))[0]
    red, yellow = at_one_lightness(lab)
    hue, chroma = float(np.degrees(np.arctan2(yellow, red))), float(np.hypot(red, yellow))
    if SKIN_HUE[0] <= hue <= SKIN_HUE[1] and SKIN_CHROMA[0] <= chroma <= SKIN_CHROMA[1]:
        return None
    wanted = np.array([lab[0], *(USUAL_SKIN / at_one_lightness(np.array([lab[0], 1.0, 1.0])))])
    goal = np.maximum(srgb_to_linear(np.clip(lab_to_srgb(wanted[None])[0], 0, 1)), 1e-5)
    gains = goal / mean
    kept = float(mean @ LUMINANCE_WEIGHTS) / float((mean * gains) @ LUMINANCE_WEIGHTS)
    gains = np.clip(gains * kept, 1 / MOST_GAIN, MOST_GAIN)
    return float(gains[0]), float(gains[1]), float(gains[2])
