"""What a painter's stroke says of its surroundings.

A stroke speaks for everything that can be reached from it without crossing an edge: along
the shaded back, not over the strap. It is the geodesic distance of interactive
segmentation (Bai & Sapiro 2009; from memory), where a sharp step costs far more than the
same change spread over a slow gradation.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.sitter.region_names import SOLVED, Region
from truesitter.core.sitter.segmentation.colour_models import ColourModel
from truesitter.core.sitter.segmentation.cores import side_by_side
from truesitter.core.sitter.segmentation.posterior import Looks
from truesitter.core.sitter.segmentation.tuning import (
    COLOURS_FADE,
    EDGE_COST,
    FURTHEST,
    HEARD,
    LIKE,
    LOOK_AGAIN,
    STEP_COST,
    TOLERANCE,
    VOICE,
    WORD_TAKEN,
)
from truesitter.core.types import Floats, Labels, Mask


@dataclass(frozen=True)
class ScribbleSeeds:
    """What strokes teach, each only where it reaches.

    Attributes
    ----------
    looks
        For each region with strokes, (h, w) log density of the colours under its strokes,
        fading with distance.
    heard
        (h, w) bool, where strokes were heard. Nothing should be learnt there about how a
        region looks elsewhere: skin marked in a shadow must not turn every shadow into skin.
    """

    looks: dict[Region, Floats]
    heard: Mask


def hear_strokes(beliefs: dict[Region, Floats], seeds: Labels, looks: Looks, drawn: Labels) -> ScribbleSeeds:
    """Let strokes overrule beliefs about place and first seeds, in place, and say what they teach.

    Parameters
    ----------
    beliefs
        Log beliefs about place, (h, w) for each of `SOLVED`.
    seeds, drawn
        First seeds and the painter's strokes, (h, w) uint8 of `Region`, 255 where none.
    looks
        Of the picture.
    """
    heard = np.zeros(drawn.shape, bool)
    taught: dict[Region, Floats] = {}
    resistance = edge_resistance(looks.features)
    hits = {r: drawn == r for r in SOLVED if (drawn == r).any()}
    distances = side_by_side(lambda hit: spread_from(hit, resistance) + lengths_away(hit), hits.values())
    for (region, hit), away in zip(hits.items(), distances, strict=True):
        colours = ColourModel.of(looks.features[hit]).log_density(looks.terms).reshape(drawn.shape)
        unlike = np.minimum(colours - np.quantile(colours[hit], LIKE), 0)
        near = np.exp(unlike / TOLERANCE - away)
        for other, belief in beliefs.items():
            against = belief < 0 if other == region else belief > 0
            np.multiply(belief, 1 - near, out=belief, where=against)
        beliefs[region] += VOICE * near
        taught[region] = colours - COLOURS_FADE * away
        heard |= away < HEARD
        seeds[(near > WORD_TAKEN) & (seeds != region)] = 255
    seeds[drawn != 255] = 255
    return ScribbleSeeds(taught, heard)


def edge_resistance(features: Floats) -> Floats:
    """Cost of one step at each pixel; float32 (h, w), never 0.

    Parameters
    ----------
    features
        (h, w, d) looks, of which the first three are lightness and chroma plane.
    """
    smooth = cv2.GaussianBlur(features[..., :3], (0, 0), 1.0)
    across, down = (cv2.Sobel(smooth, cv2.CV_32F, *order, ksize=3, scale=1 / 8) for order in ((1, 0), (0, 1)))
    change = (across * across + down * down).sum(axis=2)
    return np.asarray(STEP_COST / features.shape[0] + EDGE_COST * change, dtype=np.float32)


def lengths_away(strokes: Mask) -> Floats:
    """Distance to the nearest stroke as a multiple of that stroke's own length; float32 (h, w).

    A dab corrects a corner, a long stroke claims a whole passage.
    """
    count, parts, stats, _ = cv2.connectedComponentsWithStats(strokes.view(np.uint8), connectivity=8)
    nearest = np.full(strokes.shape, np.inf, np.float32)
    for number in range(1, count):
        length = np.hypot(*stats[number, [cv2.CC_STAT_WIDTH, cv2.CC_STAT_HEIGHT]])
        away = cv2.distanceTransform((parts != number).view(np.uint8), cv2.DIST_L2, 3)
        np.minimum(nearest, away / length, out=nearest)
    return nearest


def spread_from(start: Mask, resistance: Floats) -> Floats:
    """Least cost of a way from `start` to each pixel, steps to all eight neighbours; float32 (h, w).

    Found at half the size; a cost beyond 3 is not told from 3.
    """
    height, width = start.shape
    half = (max(1, width // 2), max(1, height // 2))
    steps = 2 * cv2.resize(resistance, half, interpolation=cv2.INTER_AREA)
    within = cv2.resize(start.astype(np.float32), half, interpolation=cv2.INTER_AREA) > 0
    away = np.where(within, 0, FURTHEST).astype(np.float32)
    around = np.ones((3, 3), np.uint8)
    while True:
        before = away
        for _ in range(LOOK_AGAIN):
            away = np.minimum(away, cv2.erode(away, around) + steps)
        if np.array_equal(before, away):
            break
    return cv2.resize(away, (width, height), interpolation=cv2.INTER_LINEAR)
