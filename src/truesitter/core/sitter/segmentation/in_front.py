"""What is held before the mouth or the chin: a microphone, a cup, a scarf pulled up."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import OVAL, Face
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.body_skin import EqualLight
from truesitter.core.sitter.segmentation.colour_models import ColourModel, quadratic_terms
from truesitter.core.sitter.segmentation.tuning import (
    ACROSS,
    ALONG,
    FOREIGN,
    FOREIGN_BELOW,
    FOREIGN_LEAST,
    UNLIKE_HAIR,
)
from truesitter.core.types import Floats, Labels, Mask


def in_front(lab: Floats, features: Floats, person: Floats, face: Face, seeds: Labels) -> Mask:
    """Where something that is neither skin nor hair covers the lower face or the neck.

    Parameters
    ----------
    lab
        (H, W, 3) L*a*b*, of any size.
    features
        (h, w, c) colour and texture at the working size.
    person
        (h, w) likelihood of being the sitter.
    face
        The face.
    seeds
        (h, w) what is almost certain by it.

    Returns
    -------
    Mask
        (h, w). Nothing where there is a beard, or too little skin or hair above to judge by.
    """
    shape = seeds.shape
    nothing = np.zeros(shape, bool)
    y = np.arange(shape[0])[:, None]
    nose, size = face.nose_base_row * shape[0], face.height(shape)
    skin, hair = (seeds == Region.SKIN) & (y < nose), seeds == Region.HAIR
    if (seeds == Region.FACIAL_HAIR).any() or min(skin.sum(), hair.sum()) < 50:
        return nothing
    colours = cv2.resize(lab, shape[::-1], interpolation=cv2.INTER_AREA)
    along, across = EqualLight.of(colours[skin]).off(colours)
    chin_x, chin_y = in_pixels(face.chin, shape)
    x = np.arange(shape[1])[None, :]
    where = (y > nose) & (y < chin_y + FOREIGN_BELOW * size) & (np.abs(x - chin_x) < 0.5 * size)
    where &= (person > 0.5) & ~face.feature_mask(shape, 1.5)
    foreign = where & (np.hypot(along / ALONG, across / ACROSS) > FOREIGN)
    if not foreign.any():
        return nothing
    # Grown hair of any colour is met above as well.
    grown = ColourModel.of(features[hair])
    usual = np.quantile(grown.log_density(quadratic_terms(features[hair])), UNLIKE_HAIR)
    foreign[foreign] = grown.log_density(quadratic_terms(features[foreign])) < usual
    solid = cv2.morphologyEx(foreign.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    _, number = cv2.connectedComponents(solid, connectivity=4)
    # Beside the neck hangs hair, and shadow that has no hue.
    before = number[face.outline_mask(OVAL, shape)]
    large = np.bincount(before, minlength=int(number.max()) + 1) >= FOREIGN_LEAST * size**2
    large[0] = False
    return np.asarray(large[number])
