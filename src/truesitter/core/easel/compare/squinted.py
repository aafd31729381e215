"""Two pictures squinted alike, where both can be believed, and how they differ."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import linear_to_lab
from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.easel.compare.tuning import SQUINT
from truesitter.core.imaging.blur import blur
from truesitter.core.types import Floats, Mask


@dataclass(frozen=True)
class Squinted:
    """A painting and its plan seen through half-closed eyes.

    Attributes
    ----------
    own, plan
        (h, w, 3) L*a*b* of either.
    value, wanted
        (h, w) their values, 0–10.
    trusted
        (h, w) where the photograph can be believed.
    """

    own: Floats
    plan: Floats
    value: Floats
    wanted: Floats
    trusted: Mask

    @property
    def steps(self) -> Floats:
        """(h, w) value steps by which the painting is lighter than planned; 0 where nothing is known."""
        return np.asarray(np.where(self.trusted, self.value - self.wanted, 0), dtype=np.float32)

    @property
    def colour(self) -> Floats:
        """(h, w, 2) by how much a* and b* are off; 0 where nothing is known."""
        return np.asarray(
            np.where(self.trusted[..., None], self.own[..., 1:] - self.plan[..., 1:], 0), dtype=np.float32
        )


def squint(own: Floats, plan: Floats, trusted: Mask) -> Squinted:
    """Squint at two pictures of linear light (h, w, 3), leaving out what cannot be believed.

    Parameters
    ----------
    own
        (h, w, 3) linear light of the painting.
    plan
        (h, w, 3) linear light of the plan.
    trusted
        (h, w) where the photograph can be believed.

    Returns
    -------
    Squinted
        Both, blurred as light.
    """
    sigma = SQUINT * max(trusted.shape)
    known = trusted.astype(np.float32)
    share = np.maximum(blur(known, sigma), 1e-3)
    labs = []
    for light in (own, plan):
        soft = blur(np.ascontiguousarray(light * known[..., None]), sigma) / share[..., None]
        labs.append(linear_to_lab(np.maximum(soft, 0)))
    clear = trusted & (share > 0.5)
    values = [lightness_map_to_value(np.clip(lab[..., 0], 0, 100)) for lab in labs]
    return Squinted(labs[0], labs[1], values[0], values[1], clear)


def opened(where: Mask, radius: float) -> Mask:
    """A mask without anything thinner than twice a radius in pixels."""
    size = 2 * max(1, round(radius)) + 1
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size))
    return np.asarray(cv2.morphologyEx(where.astype(np.uint8), cv2.MORPH_OPEN, disc) > 0)
