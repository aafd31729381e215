"""The three volumes of hair: the skull, the locks and the surface.

The value is parted by how far light is blurred, and in which direction: widely (the round of the
skull), along the strands but hardly across them (the locks), not at all (the surface). Light is
blurred and then its value taken, as the eye does when it squints; the three sum to the value.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.value import linear_to_value
from truesitter.core.hair.locks.tuning import ACROSS, ALONG, FINE, FINE_STEPS, SKULL, VOLUMES_WIDEST
from truesitter.core.imaging.blur import blur_within
from truesitter.core.types import Floats, Mask


@dataclass(frozen=True)
class Volumes:
    """Value of the hair in three parts that sum to it.

    Attributes
    ----------
    skull
        (h, w) Munsell value of the round of the head.
    locks, surface
        (h, w) steps above or below it.
    mask
        (h, w) where there is hair, a pixel inside its border.
    """

    skull: Floats
    locks: Floats
    surface: Floats
    mask: Mask

    @property
    def value(self) -> Floats:
        """The value itself."""
        return self.skull + self.locks + self.surface


class Along:
    """Blurs a map along the strands of the hair, following them round their curves.

    Parameters
    ----------
    directed
        (h, w, 2) direction at each pixel, y up; its sense does not matter.
    mask
        (h, w) where there is hair: nothing is taken from outside.
    """

    def __init__(self, directed: Floats, mask: Mask) -> None:
        rows, columns = np.nonzero(mask)
        if not len(rows):
            self._box = (slice(0, 0), slice(0, 0))
            return
        margin = int(VOLUMES_WIDEST) + 2
        self._box = (
            slice(max(0, rows.min() - margin), rows.max() + margin + 1),
            slice(max(0, columns.min() - margin), columns.max() + margin + 1),
        )
        self._cover = mask[self._box].astype(np.float32)
        d = directed[self._box]
        norm = np.hypot(d[..., 0], d[..., 1]) + np.float32(1e-6)
        self._at = np.mgrid[0 : d.shape[0], 0 : d.shape[1]].astype(np.float32)[::-1]
        self._way = np.stack([d[..., 0] / norm, -d[..., 1] / norm]).astype(np.float32)

    def blur(self, light: Floats, sigma: float) -> Floats:
        """Blurred along the strands, sigma in pixels; unchanged outside the hair."""
        out = light.copy()
        if self._box[0].stop == 0:
            return out
        # A step of (1, 2, 1)/4 at distance s adds s²/2 of variance.
        fine = min(FINE, sigma * np.sqrt(2 / FINE_STEPS))
        left = max(0.0, sigma**2 - FINE_STEPS * fine**2 / 2)
        count = int(np.ceil(2 * left / VOLUMES_WIDEST**2 - 1e-9))
        both = np.dstack([light[self._box] * self._cover, self._cover])
        both = self._steps(both, fine, FINE_STEPS)
        both = self._steps(both, float(np.sqrt(2 * left / max(count, 1))), count)
        inside = self._cover > 0
        out[self._box][inside] = both[inside, 0] / np.maximum(both[inside, 1], 1e-6)
        return out

    def _steps(self, both: Floats, length: float, count: int) -> Floats:
        """So many steps of one length along the strands; light and cover together."""
        if not count:
            return both
        maps = []
        for way in (length, -length):
            x, y = self._at + np.float32(way) * self._way
            whole, part = cv2.convertMaps(x, y, cv2.CV_16SC2)
            maps.append((whole, part))
        quarter = np.dstack([self._cover / 4] * 2)
        for _ in range(count):
            moved = cv2.remap(both, maps[0][0], maps[0][1], cv2.INTER_LINEAR)
            cv2.add(moved, cv2.remap(both, maps[1][0], maps[1][1], cv2.INTER_LINEAR), moved)
            cv2.scaleAdd(both, 2.0, moved, moved)
            both = cv2.multiply(moved, quarter)
        return np.asarray(both)


def masked_blur(light: Floats, mask: Mask, sigma: float) -> Floats:
    """Gaussian blur that takes nothing from outside a mask.

    Parameters
    ----------
    light
        (h, w)
    mask
        (h, w) where it is looked at.
    sigma
        Pixels, > 0.

    Returns
    -------
    Floats
        (h, w), zero outside.
    """
    return blur_within(light, mask.astype(np.float32), sigma)


def hair_volumes(light: Floats, directed: Floats, mask: Mask, scale: float) -> Volumes:
    """Part the value of the hair into skull, locks and surface.

    Parameters
    ----------
    light
        (h, w) luminance, linear, 0–1.
    directed
        (h, w, 2) direction of the hair, y up.
    mask
        (h, w) where there is hair.
    scale
        Height of the face in pixels, or what stands for it.
    """
    inside = cv2.erode(mask.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    skull = linear_to_value(masked_blur(light, inside, SKULL * scale))
    along = Along(directed, inside).blur(light, ALONG * scale)
    banded = linear_to_value(masked_blur(along, inside, ACROSS * scale))
    value = linear_to_value(light)
    zero = np.float32(0)
    return Volumes(
        np.where(inside, skull, zero).astype(np.float32),
        np.where(inside, banded - skull, zero).astype(np.float32),
        np.where(inside, value - banded, zero).astype(np.float32),
        inside,
    )
