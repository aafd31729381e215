"""Which end is the root: turning an undirected field into one that runs root to tip.

Beliefs about growth (away from the hairline and the parting, outward from a
whorl, down under gravity where hair hangs free, down in a beard, and along
every guide stroke) say at some points which way the strand runs. The sense is
spread from there along the field: neighbours whose directions agree share it.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.hair.field import AxisField, Guide, grid_edges, guide_data, solve_smooth
from truesitter.core.types import Doubles, Floats, Mask

_GUIDE_WEIGHT = 50.0


@dataclass(frozen=True)
class GrowthHints:
    """What is known about where hair grows from, on the grid of the field.

    Attributes
    ----------
    skin
        (h, w) bare skin: hair leaves the hairline away from it.
    beard
        (h, w) facial hair: it grows down.
    brow_row
        Row of the brows, in grid pixels: below it, hair of the head hangs. None without a face.
    """

    skin: Mask
    beard: Mask
    brow_row: float | None


@dataclass(frozen=True)
class Whorl:
    """A place from which hair turns outward: where the direction winds once round.

    Attributes
    ----------
    x, y
        In fractions of width and height.
    index
        Winding number of the undirected direction: +1 for a full swirl, +½ for a comb-over end.
    """

    x: float
    y: float
    index: float


def find_whorls(field: AxisField, sureness: float = 0.35, merge: float = 0.03) -> tuple[Whorl, ...]:
    """Places where the direction winds round a point by +½ or +1.

    Parameters
    ----------
    sureness
        Least mean coherence round the place; a swirl that cannot be seen is not reported.
    merge
        Half-swirls nearer than this fraction of the height count as one.
    """
    double = 2 * field.angle
    corners = [double[:-1, :-1], double[:-1, 1:], double[1:, 1:], double[1:, :-1]]
    inside = field.mask[:-1, :-1] & field.mask[:-1, 1:] & field.mask[1:, 1:] & field.mask[1:, :-1]
    turn = np.zeros(inside.shape, np.float64)
    # Rows run downwards while angles count with y up, so walk the corners the other way round.
    for a, b in zip(corners, corners[-1:] + corners[:-1], strict=True):
        turn += (b - a + np.pi) % (2 * np.pi) - np.pi
    index = np.where(inside, turn / (4 * np.pi), 0)
    rows, cols = np.nonzero(np.abs(index) > 0.25)
    height, width = field.mask.shape
    seen = cv2.blur(field.coherence, (9, 9))
    found: list[Whorl] = []
    left = [(int(r), int(c), float(index[r, c])) for r, c in zip(rows, cols, strict=True)]
    while left:
        r, c, _ = left[0]
        near = [p for p in left if np.hypot(p[0] - r, p[1] - c) <= max(2.0, merge * height)]
        left = [p for p in left if p not in near]
        total = round(2 * sum(p[2] for p in near)) / 2
        row, col = (float(np.mean([p[i] for p in near])) for i in (0, 1))
        if total > 0 and seen[int(row), int(col)] >= sureness:
            found.append(Whorl((col + 1) / width, (row + 1) / height, total))
    return tuple(found)


def _beliefs(
    field: AxisField, hints: GrowthHints, guides: tuple[Guide, ...], whorls: tuple[Whorl, ...]
) -> Doubles:
    """Believed growth direction times belief, (h, w, 2), y up."""
    height, width = field.mask.shape
    belief = np.zeros((height, width, 2))
    rows, cols = np.mgrid[0:height, 0:width].astype(np.float64)
    hanging = np.full((height, width), 0.15)
    if hints.brow_row is not None:
        hanging = 0.05 + 0.6 * np.clip((rows - hints.brow_row) / (0.1 * height), 0, 1)
    belief[..., 1] -= hanging
    belief[hints.beard, 1] -= 2.0
    scalp_skin = hints.skin.copy()
    if hints.brow_row is not None:
        scalp_skin[int(hints.brow_row) :] = False
    if scalp_skin.any():
        away = cv2.distanceTransform((~scalp_skin).astype(np.uint8), cv2.DIST_L2, 5)
        smooth = cv2.GaussianBlur(away, (0, 0), 2.0)
        gx = cv2.Sobel(smooth, cv2.CV_64F, 1, 0, ksize=3)
        gy = cv2.Sobel(smooth, cv2.CV_64F, 0, 1, ksize=3)
        norm = np.hypot(gx, gy) + 1e-6
        weight = 1.5 * np.exp(-((away / (0.03 * height)) ** 2))
        belief[..., 0] += weight * gx / norm
        belief[..., 1] -= weight * gy / norm
    for whorl in whorls:
        if whorl.index < 1:
            continue
        dx, dy = cols - whorl.x * width, rows - whorl.y * height
        distance = np.hypot(dx, dy) + 1e-6
        weight = 2.0 * np.exp(-((distance / (0.08 * height)) ** 2))
        belief[..., 0] += weight * dx / distance
        belief[..., 1] -= weight * dy / distance
    _, drawn, on, _ = guide_data(guides, field.mask.shape)
    belief += _GUIDE_WEIGHT * drawn * on[..., None]
    return belief


def orient(
    field: AxisField,
    hints: GrowthHints,
    guides: tuple[Guide, ...] = (),
    whorls: tuple[Whorl, ...] = (),
) -> Floats:
    """Root→tip unit direction, (h, w, 2) float32, x right and y up; zero outside the hair."""
    angle = field.angle
    axis = np.stack([np.cos(angle), np.sin(angle)], axis=-1)
    directed: Floats = np.zeros(axis.shape, np.float32)
    if not field.mask.any():
        return directed
    belief = _beliefs(field, hints, guides, whorls)
    along = (axis * belief).sum(axis=-1)[field.mask]
    unit = axis[field.mask]
    _, pairs = grid_edges(field.mask)
    agreement = (unit[pairs[0]] * unit[pairs[1]]).sum(axis=1)
    weight = np.abs(along) * 0.02 + 1e-6
    data = np.sign(along)[:, None]
    sense = solve_smooth(data.astype(np.float64), weight, pairs, agreement.astype(np.float64))
    sign = np.where(sense[:, 0] >= 0, 1.0, -1.0)
    directed[field.mask] = unit * sign[:, None]
    return np.asarray(directed, dtype=np.float32)
