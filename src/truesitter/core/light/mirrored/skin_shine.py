"""Shine: the colourless part of the light that the skin sends back.

Light mirrored by a surface keeps the lamp's colour, light that has been inside takes the skin's
(dichromatic reflection: Shafer 1985). Where the photograph's whites are white, the difference of
red and blue is free of mirrored light; the skin's own blue goes with it in one ratio, and what
blue there is beyond that is shine.
"""

from __future__ import annotations

import numpy as np

from truesitter.core.imaging.blur import blur_within
from truesitter.core.light.mirrored.tuning import DARKEST, GREY, LOCAL, OWN_COLOUR
from truesitter.core.types import Floats, Mask


def shine_map(linear: Floats, where: Mask, scale: float) -> Floats:
    """Light mirrored by the surface, in the unit of the picture.

    Parameters
    ----------
    linear
        (h, w, 3) linear sRGB.
    where
        (h, w) one kind of surface: skin, or lips.
    scale
        Height of the face in pixels.

    Returns
    -------
    (h, w) float32, 0 or more, 0 outside.
    """
    shine = np.zeros(where.shape, np.float32)
    if not where.any():
        return shine
    own = linear[where]
    red, blue = own[:, 0], own[:, 2]
    colour = red - blue
    lit = red >= np.quantile(red, DARKEST)
    if np.median(colour[lit] / np.maximum(red[lit], 1e-4)) < GREY:
        return above_surround(linear.min(axis=2), where, LOCAL * scale)
    ratio = np.quantile(blue[lit] / np.maximum(colour[lit], 1e-4), OWN_COLOUR)
    shine[where] = np.maximum(blue - ratio * np.maximum(colour, 0), 0)
    return shine


def above_surround(light: Floats, where: Mask, sigma: float) -> Floats:
    """What stands above the mean of the same surface round it.

    Parameters
    ----------
    light
        (h, w)
    where
        (h, w) one surface.
    sigma
        Of its surround, pixels.

    Returns
    -------
    Floats
        (h, w), 0 or more.
    """
    around = blur_within(light, where.astype(np.float32), sigma)
    return np.asarray(np.where(where, np.maximum(light - around, 0), 0), dtype=np.float32)
