"""First guesses: pixels that are almost certainly of one region, from the person mask and the face."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import BROWS, OVAL, Face
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.colour_models import log_likelihood
from truesitter.core.types import Floats, Labels, Mask


def first_seeds(features: Floats, person: Floats, face: Face | None, bare: Mask | None = None) -> Labels:
    """First guess of certain pixels, 255 where unknown; uint8 (h, w). `bare` is skin below the neck.

    Parameters
    ----------
    features
        (h, w, c) colour and texture.
    person
        (h, w) 0–1.
    face
        As found by the detector; None without one.
    bare
        (h, w) skin below the neck; None without.

    Returns
    -------
    Labels
        (h, w) regions; 255 unknown.
    """
    shape = person.shape
    seeds = np.full(shape, 255, np.uint8)
    seeds[person < 0.1] = Region.BACKGROUND
    if face is None:
        return seeds
    height, width = shape
    sitter = person > 0.85
    size = face.height(shape)
    y = np.arange(height)[:, None] + np.zeros(shape)
    oval = face.outline_mask(OVAL, shape)
    outside = cv2.distanceTransform((~oval).astype(np.uint8), cv2.DIST_L2, 3) / size
    skip = face.feature_mask(shape, 1.5)
    for brow in BROWS:
        skip |= face.outline_mask(brow, shape, 1.6)
    inner = face.outline_mask(OVAL, shape, 0.86)
    upper = y < face.nose_base_row * height
    skin = inner & upper & ~skip & sitter
    seeds[skin] = Region.SKIN
    brow_y = face.brow_row * height
    crown = sitter & (outside > 0.06) & (outside < 0.35) & (y < brow_y)
    if crown.any() and skin.any():
        # A high forehead reaches above the landmarks: leave out what is plainly skin.
        usual = np.quantile(log_likelihood(features[skin], features[skin]), 0.04)
        crown[crown] = log_likelihood(features[skin], features[crown]) < usual
    seeds[crown] = Region.HAIR
    chin_x, chin_y = in_pixels(face.chin, shape)
    x = np.arange(width)[None, :] + np.zeros(shape)
    aside = np.abs(x - chin_x)
    low = sitter & (y > chin_y + 0.45 * size - 0.5 * np.clip(aside - 0.4 * size, 0, 0.8 * size))
    if bare is not None:
        low &= ~bare
    if low.sum() > 200 and skin.sum() > 50:
        # Where the frame cuts the head off there is no crown to tell hair by.
        known = [log_likelihood(features[m], features[low]) for m in (skin, crown) if m.sum() > 50]
        alien = np.maximum.reduce(known)
        chosen = np.zeros(shape, bool)
        chosen[low] = alien < np.quantile(alien, 0.45)
        seeds[chosen] = Region.GARMENT
    lower = oval & ~upper & ~skip & sitter
    if lower.sum() > 50 and skin.sum() > 50:
        bearded = _beard(features, skin, crown, lower)
        if bearded.sum() > 0.25 * lower.sum():
            seeds[bearded] = Region.FACIAL_HAIR
        else:
            seeds[lower & ~bearded] = Region.SKIN
    if bare is not None:
        # The rim may be a strap's or a hem's.
        seeds[cv2.erode(bare.view(np.uint8), np.ones((3, 3), np.uint8)) > 0] = Region.SKIN
    return seeds


def _beard(features: Floats, skin: Mask, crown: Mask, lower: Mask) -> Mask:
    """What differs from the skin of the same face, round its mouth."""
    as_skin = log_likelihood(features[skin], features[lower])
    if crown.sum() > 50:
        as_hair = log_likelihood(features[crown], features[lower]) - 1.0
    else:
        # Where the frame cuts the hair off, whatever is hardly the skin's own.
        least = float(np.quantile(log_likelihood(features[skin], features[skin]), 0.01))
        as_hair = np.full(as_skin.shape, least, np.float32)
    bearded = np.zeros(lower.shape, bool)
    bearded[lower] = as_hair > as_skin
    return bearded
