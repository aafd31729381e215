"""What stands between the skin and the light: hair, brow, nose, chin or cloth.

In the picture the way from a shadow to what casts it runs towards the light; how far it runs is limited
by how flat the light comes in.
"""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.light.key.tuning import LEAST_VOTES, REACH, SPOTS, STEPS
from truesitter.core.sitter.face import BROWS, NOSE_OUTLINE, OVAL, Face
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Labels, Mask

CASTERS = ("hair", "brow", "nose", "chin", "beard", "cloth")
"""By their numbers on the map of casters, from 1; 0 is nothing that casts."""


def caster_map(regions: Labels, face: Face | None) -> Labels:
    """Number of what may cast a shadow at each pixel, (h, w); 0 for nothing."""
    found = np.zeros(regions.shape, np.uint8)
    found[regions == Region.GARMENT] = 6
    found[regions == Region.FACIAL_HAIR] = 5
    if face is not None:
        inside = face.outline_mask(OVAL, regions.shape)
        found[inside & (found == 0)] = 4
        found[face.outline_mask(NOSE_OUTLINE, regions.shape)] = 3
        for brow in BROWS:
            found[face.outline_mask(brow, regions.shape, 1.2)] = 2
    found[regions == Region.HAIR] = 1
    return found


def blocked(casters: Labels, skin: Mask, light_2d: tuple[float, float], scale: float) -> Labels:
    """What the way towards the light first meets, (h, w) numbers as in `caster_map`; 0 for nothing.

    What a pixel belongs to itself does not shade it: a nose's own dark side is its form.

    Parameters
    ----------
    casters
        (h, w) numbers as in `caster_map`.
    skin
        (h, w) bare skin.
    light_2d
        Towards the light in the picture, x right, y down.
    scale
        Height of the face in pixels.

    Returns
    -------
    Labels
        (h, w) numbers; 0 where nothing is met.
    """
    out = np.zeros(casters.shape, np.uint8)
    length = float(np.hypot(*light_2d))
    if length < 1e-3:
        return out
    for part in np.linspace(0, 1, STEPS + 1)[1:]:
        move = np.array(
            [[1, 0, -light_2d[0] / length * REACH * scale * part],
             [0, 1, -light_2d[1] / length * REACH * scale * part]],
        )  # fmt: skip
        met = cv2.warpAffine(casters, move, casters.shape[::-1], flags=cv2.INTER_NEAREST)
        fresh = (out == 0) & (met > 0) & (met != casters)
        out[fresh] = met[fresh]
    return np.where(skin, out, 0).astype(np.uint8)


def caster_of(patch: Mask, met: Labels) -> str | None:
    """What casts a patch of shadow: what most of it sees towards the light; None where that is not plain."""
    rows, columns = np.nonzero(patch)
    if not len(rows):
        return None
    step = max(1, len(rows) // SPOTS)
    votes = np.bincount(met[rows[::step], columns[::step]], minlength=len(CASTERS) + 1)
    best = int(votes[1:].argmax()) + 1
    return CASTERS[best - 1] if votes[best] >= LEAST_VOTES * votes.sum() else None
