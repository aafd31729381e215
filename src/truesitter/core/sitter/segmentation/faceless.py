"""Skin, hair and cloth where no face is found: a back, a profile, a head that the frame cuts.

Skin of every complexion lies in a narrow span of hue, for it is melanin and blood that colour it: the light
and the dark skin of the published chart, CIE L*a*b* 66, 18, 18 and 38, 14, 14, at 45 and 46 degrees; sitters
of ours, in light from neutral to warm, at 45 to 72. Of what has such a hue on a figure the lighter part is
skin: brown hair and a tan coat are mostly darker than the skin in the same light. What is unlike it is hair
on the head, and cloth below the shoulders.
"""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.imaging.split import best_split
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.colour_models import log_likelihood
from truesitter.core.sitter.segmentation.posterior import Looks
from truesitter.core.sitter.segmentation.region_beliefs import place_beliefs
from truesitter.core.sitter.segmentation.tuning import (
    ALIEN_CLOTH,
    ALIEN_SKIN,
    BINS,
    CLOTH_ABOVE,
    CLOTH_FROM,
    GREY_OFFSET,
    HAIR_BELOW,
    HAIR_ENDS,
    LEAST_SEEDS,
    LEAST_SKIN,
    SKIN_CHROMA,
    SKIN_HUE,
    SURE_PERSON,
)
from truesitter.core.types import Floats, Labels, Mask

RIGHT_WITHOUT_FACE = {Region.SKIN: 0.8, Region.HAIR: 0.7, Region.GARMENT: 0.75}
"""Part of what is called so that is (all pixels of sixteen crops of six sitters: 0.79, 0.70, 0.74)."""


def seeds_without_face(looks: Looks, person: Floats) -> tuple[Labels, dict[Region, Floats]] | None:
    """First guess of certain pixels and beliefs about place, where no face is found.

    Parameters
    ----------
    looks
        Of the picture.
    person
        (h, w) likelihood of being the sitter, 0–1, at the working size.

    Returns
    -------
    seeds, beliefs
        (h, w) uint8 of `Region`, 255 where unknown, and log beliefs (h, w) for each solved region; None where
        nothing on the figure has a colour of skin.
    """
    features, shape = looks.features, person.shape
    inside = person > SURE_PERSON
    lightness = cv2.resize(looks.fine[..., 0], shape[::-1], interpolation=cv2.INTER_AREA)
    logs = np.log(lightness + GREY_OFFSET)
    hued = inside & skin_hued(features)
    if hued.sum() < LEAST_SKIN * max(1, inside.sum()):
        return None
    if np.ptp(logs[hued]) < 1e-3:
        return None
    cut, _, _ = best_split(logs[hued].astype(np.float64), BINS)
    light = hued & (logs > cut)
    skin = cv2.erode(light.view(np.uint8), np.ones((3, 3), np.uint8)) > 0
    if skin.sum() < LEAST_SEEDS:
        return None
    seeds = np.full(shape, 255, np.uint8)
    seeds[person < 0.1] = Region.BACKGROUND
    seeds[skin] = Region.SKIN
    own = log_likelihood(features[skin], features[skin])
    as_skin = np.zeros(shape, np.float32)
    rest = inside & ~light
    as_skin[rest] = log_likelihood(features[skin], features[rest])
    alien = rest & (as_skin < np.quantile(own, ALIEN_SKIN))
    top, neck, bottom = figure_rows(person > 0.5)
    below = (np.arange(shape[0])[:, None] - neck) / max(1, neck - top) + np.zeros(shape)
    seeds[alien & (below < HAIR_ENDS) & (logs < cut)] = Region.HAIR
    low = alien & (below > 0) & (np.arange(shape[0])[:, None] > top + CLOTH_FROM * (bottom - top))
    if low.sum() > LEAST_SEEDS:
        known = as_skin[low]
        if (seeds == Region.HAIR).sum() > LEAST_SEEDS:
            known = np.maximum(known, log_likelihood(features[seeds == Region.HAIR], features[low]))
        cloth = np.zeros(shape, bool)
        cloth[low] = known < np.quantile(known, ALIEN_CLOTH)
        seeds[cloth] = Region.GARMENT
    beliefs = place_beliefs(None, shape)
    beliefs[Region.HAIR] -= (HAIR_BELOW * np.clip(below, 0, 2)).astype(np.float32)
    beliefs[Region.GARMENT] -= (CLOTH_ABOVE * np.clip(-below, 0, 1)).astype(np.float32)
    return seeds, beliefs


def skin_hued(features: Floats) -> Mask:
    """Where colours (h, w, 4), as `pixel_features` gives them, have a hue and a chroma that skin can have."""
    red, yellow = features[..., 1], features[..., 2]
    hue, chroma = np.degrees(np.arctan2(yellow, red)), np.hypot(red, yellow)
    spans = [(SKIN_HUE, hue), (SKIN_CHROMA, chroma)]
    inside: Mask = np.logical_and.reduce([(low < seen) & (seen < high) for (low, high), seen in spans])
    return inside


def figure_rows(figure: Mask) -> tuple[int, int, int]:
    """First row of a figure, the row where it widens to its shoulders, and its last; the last for none."""
    rows = np.flatnonzero(figure.any(axis=1))
    if not len(rows):
        return (len(figure) - 1,) * 3
    top, bottom = int(rows[0]), int(rows[-1])
    width = figure.sum(axis=1)[top : bottom + 1].astype(np.float64)[:, None]
    smooth = cv2.GaussianBlur(width, (0, 0), max(1.0, 0.01 * len(width))).ravel()
    upper = float(np.median(smooth[: max(1, len(smooth) // 3)]))
    wide = smooth >= (upper + smooth.max()) / 2
    return top, top + int(np.argmax(wide)), bottom
