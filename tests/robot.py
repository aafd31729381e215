"""A painter who corrects regions by rule, so that no stroke is chosen to flatter the result.

The robot user of interactive segmentation (Nickisch, Rother, Kohli & Rhemann 2010; from
memory): look at the largest piece that is wrong, stroke along its middle, look again.
"""

from __future__ import annotations

import cv2
import numpy as np
from skimage.graph import MCP_Geometric
from skimage.morphology import skeletonize

from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.region_map import Scribble

# Numbers of the made sitters' true masks, and what a painter calls them.
TRUE_REGIONS = (
    Region.BACKGROUND, Region.SKIN, Region.HAIR, Region.BROWS, Region.FACIAL_HAIR, Region.LIPS,
    Region.EYES, Region.GARMENT,
)  # fmt: skip
_HEIGHT = 1000


def middle_line(piece: np.ndarray) -> np.ndarray:
    """Longest way, (n, 2) rows and columns, along the skeleton of a mask's largest piece."""
    skeleton = skeletonize(piece)
    _, parts = cv2.connectedComponents(skeleton.astype(np.uint8), connectivity=8)
    skeleton &= parts == np.bincount(parts[skeleton]).argmax()
    cost = np.where(skeleton, 1.0, -1.0)
    end = tuple(np.argwhere(skeleton)[0])
    for _ in range(2):
        ways = MCP_Geometric(cost)
        far, _ = ways.find_costs([end])
        far = np.where(skeleton & np.isfinite(far), far, -1)
        end = tuple(np.unravel_index(far.argmax(), far.shape))
    return np.array(ways.traceback(end))


def next_stroke(found: np.ndarray, true: np.ndarray, drawn: tuple[Scribble, ...]) -> Scribble:
    """The stroke that the robot draws over the largest wrong piece of skin or hair.

    `found` in codes of `Region`, `true` in codes of the true masks, of one size.
    """
    size = (round(_HEIGHT * true.shape[1] / true.shape[0]), _HEIGHT)
    found, true = (cv2.resize(m, size, interpolation=cv2.INTER_NEAREST) for m in (found, true))
    touched = np.zeros(true.shape, np.uint8)
    for stroke in drawn:
        points = np.round(np.array(stroke.points) * size).astype(np.int32)
        cv2.polylines(touched, [points.reshape(-1, 1, 2)], False, 1, max(1, round(stroke.width * _HEIGHT)))
    largest, name, piece = 0, Region.SKIN, touched > 0
    for code, region in enumerate(TRUE_REGIONS):
        wrong = (true == code) & (found != region) & (touched == 0)
        if region not in (Region.SKIN, Region.HAIR):
            wrong &= np.isin(found, (Region.SKIN, Region.HAIR))
        open_ = cv2.morphologyEx(wrong.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
        count, parts, stats, _ = cv2.connectedComponentsWithStats(open_, connectivity=8)
        if count > 1 and stats[1:, cv2.CC_STAT_AREA].max() > largest:
            number = int(stats[1:, cv2.CC_STAT_AREA].argmax()) + 1
            largest, name, piece = int(stats[number, cv2.CC_STAT_AREA]), region, parts == number
    line = middle_line(piece)
    half_width = np.quantile(
        cv2.distanceTransform(piece.astype(np.uint8), cv2.DIST_L2, 5)[tuple(line.T)], 0.6
    )
    points = tuple((float((x + 0.5) / size[0]), float((y + 0.5) / size[1])) for y, x in line[::6])
    return Scribble(name, points, float(np.clip(2 * half_width / _HEIGHT, 0.004, 0.03)))
