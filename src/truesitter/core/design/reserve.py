"""Keeping the white: for each light paper, mask, lifting or an opaque touch, by its edge and its size."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from truesitter.core.design.tuning import (
    HALF,
    LARGEST_MASK_MM,
    POOLS_FROM_MM,
    SMALLEST_MASK_MM,
    TAPE_BENDS,
    TAPES_MM,
    TIGHT,
)
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.light.mirrored.highlights import Edge
from truesitter.core.paint.media.supports import Support
from truesitter.core.types import Floats, Mask

Means = Literal["paper", "mask", "lift", "opaque"]


@dataclass(frozen=True)
class Reserve:
    """What is done for one light.

    Attributes
    ----------
    place
        Its name.
    means, why
        And the reason, in a sentence.
    size_mm
        Across, on the canvas.
    pools
        True where washes gather at its mask.
    """

    place: str
    means: Means
    why: str
    size_mm: float
    pools: bool


def reserve_for(place: str, edge: Edge, size_mm: float, support: Support) -> Reserve:
    """The means for one light.

    A mask leaves a hard border, so that it is right for crisp lights alone; soft ones are lifted while the
    paper is damp where it lets go of paint, else painted round.

    Parameters
    ----------
    place
        Its name.
    edge
        How the light ends.
    size_mm
        Across, on the canvas.
    support
        What is painted on.

    Returns
    -------
    Reserve
        Means and reason.
    """
    if edge is Edge.SOFT:
        if support.lightens == "by degrees":
            return Reserve(place, "lift", "It ends softly: lift it while the wash is damp.", size_mm, False)
        why = f"It ends softly, and {support.name} does not let go of paint: paint round it, soften the rim."
        return Reserve(place, "paper", why, size_mm, False)
    if edge is Edge.ONE_SIDE:
        why = "Crisp on one side only: leave the paper, set that side with one stroke, soften the other."
        return Reserve(place, "paper", why, size_mm, False)
    if size_mm < SMALLEST_MASK_MM:
        return Reserve(place, "opaque", "Crisp and tiny: one opaque touch at the very end.", size_mm, False)
    if size_mm > LARGEST_MASK_MM:
        why = "Crisp but large: the paper itself, painted round; cut its border with a loaded brush."
        return Reserve(place, "paper", why, size_mm, False)
    return Reserve(place, "mask", "Crisp all round: mask it.", size_mm, size_mm >= POOLS_FROM_MM)


def mask_shapes(
    strength: Floats, mm_per_px: float, lights: tuple[tuple[float, float, float], ...]
) -> tuple[tuple[Floats, float | None], ...]:
    """Contours of lights that are masked, (n, 2) x, y in pixels, and the width of tape that follows each.

    A light reaches to where it is half as strong as at its brightest, as its width is told too; joined by
    what closes a gap that no brush could go into.

    Parameters
    ----------
    strength
        (h, w) mirrored light.
    lights
        Brightest point of each, x, y in fractions, and its strength there.
    """
    radius = max(1, round(SMALLEST_MASK_MM / 2 / mm_per_px))
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * radius + 1, 2 * radius + 1))
    found = []
    for x, y, full in lights:
        lit = cv2.morphologyEx((strength >= HALF * full).astype(np.uint8), cv2.MORPH_CLOSE, disc)
        _, numbers = cv2.connectedComponents(lit)
        number = numbers[pixel_at(x, y, strength.shape)]
        if number == 0:
            continue
        contours, _ = cv2.findContours(
            (numbers == number).astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE
        )
        left, top, wide, high = cv2.boundingRect(contours[0])
        inside = np.zeros((high, wide), np.uint8)
        cv2.drawContours(inside, contours, 0, 1, cv2.FILLED, offset=(-left, -top))
        found.append((contours[0][:, 0, :].astype(np.float32), widest_tape(inside > 0, mm_per_px)))
    return tuple(found)


def widest_tape(shape: Mask, mm_per_px: float) -> float | None:
    """The widest tape that follows a border, in mm; None where its bends are too tight for any."""
    return next((width for width in TAPES_MM if _rolls(shape, TAPE_BENDS * width / mm_per_px)), None)


def _rolls(shape: Mask, radius: float) -> bool:
    """Whether a disc of so many pixels rolls along the inside of a whole border: no bend is tighter."""
    if radius < 1:
        return True
    padded = np.pad(shape, int(radius) + 2).astype(np.uint8)
    away = cv2.distanceTransform(padded, cv2.DIST_L2, 5)
    core = away >= radius
    if not core.any():
        return False
    back = cv2.distanceTransform((~core).astype(np.uint8), cv2.DIST_L2, 5) <= radius
    # What the rolled disc cannot reach lies in bends that are too tight.
    return bool((padded.astype(bool) & ~back).sum() <= TIGHT * shape.sum())
