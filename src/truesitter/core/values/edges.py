"""Edges: how sharply one shape passes into the next along its border.

A border is walked in steps; at each the values are read along the line that crosses it.
Width is the distance between a tenth and nine tenths of the way from one side to the
other (10–90 %), measured in mm on the canvas.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

import cv2
import numpy as np
from numpy.typing import NDArray

from truesitter.core.blur import blur
from truesitter.core.types import Doubles, Floats, Labels

HARD_MM, FIRM_MM, SOFT_MM = 1.5, 4.0, 10.0
"""Widest hard, firm and soft edge on a canvas of some 300 × 400 mm (from memory)."""

LEAST_CONTRAST = 0.4
"""Sides nearer in value than this have lost their edge (from memory)."""

REACH_MM = 14.0
_STEP_MM = 2.0
_GRAIN = 0.2
"""A fall by less than this, in value steps, is grain and not the end of an edge."""

_TANGENT_SPAN = 5


class Sharpness(Enum):
    """The painter's four edges."""

    HARD = "hard"
    FIRM = "firm"
    SOFT = "soft"
    LOST = "lost"


def sharpness_of(width_mm: float, contrast: float) -> Sharpness:
    """The kind of edge with a width in mm and a contrast in value steps."""
    if contrast < LEAST_CONTRAST or width_mm > SOFT_MM:
        return Sharpness.LOST
    if width_mm <= HARD_MM:
        return Sharpness.HARD
    return Sharpness.FIRM if width_mm <= FIRM_MM else Sharpness.SOFT


@dataclass(frozen=True)
class EdgeSamples:
    """Readings along the borders.

    Attributes
    ----------
    points
        (n, 2) x, y in pixels.
    direction
        (n, 2) unit vector along the border.
    width, contrast
        (n,) 10–90 % width in pixels and difference of the sides in value steps.
    """

    points: Doubles
    direction: Doubles
    width: Doubles
    contrast: Doubles


def border_points(labels: Labels, step: float) -> tuple[Doubles, Doubles]:
    """Points about `step` pixels apart on the borders, and the direction of the border there.

    Returns
    -------
    points, direction
        (n, 2) each.
    """
    # The gradient of the softened labels stands square on the border, whatever the labels are.
    soft = blur(labels.astype(np.float32), _TANGENT_SPAN / 2)
    gx, gy = (cv2.Sobel(soft, cv2.CV_32F, *order, ksize=3) for order in ((1, 0), (0, 1)))
    on = np.zeros(labels.shape, bool)
    on[:, :-1] |= labels[:, :-1] != labels[:, 1:]
    on[:-1] |= labels[:-1] != labels[1:]
    rows, cols = np.nonzero(on)
    cell = max(1.0, step)
    code = (rows / cell).astype(np.int64) * labels.shape[1] + (cols / cell).astype(np.int64)
    _, pick = np.unique(code, return_index=True)
    rows, cols = rows[pick], cols[pick]
    normal = np.stack([gx[rows, cols], gy[rows, cols]], axis=1).astype(np.float64)
    length = np.hypot(normal[:, 0], normal[:, 1])
    good = length > 1e-6
    normal = normal[good] / length[good, None]
    points = np.stack([cols[good], rows[good]], axis=1) + 0.5
    return points, np.stack([-normal[:, 1], normal[:, 0]], axis=1)


def profile_widths(profiles: Doubles) -> tuple[Doubles, Doubles]:
    """10–90 % width and contrast of profiles across edges.

    Parameters
    ----------
    profiles
        (n, 2m + 1) values at equal distances, the border in the middle.

    Returns
    -------
    width, contrast
        (n,) in samples (2m when the edge fills the profile) and value steps.

    Notes
    -----
    Each side is followed outwards only as long as the value goes on changing the same
    way, but for grain: what lies beyond belongs to another edge.
    """
    middle = profiles.shape[1] // 2
    sign = np.sign(profiles[:, min(middle + 1, profiles.shape[1] - 1)] - profiles[:, middle - 1])
    sign = np.where(sign == 0, 1.0, sign)
    rising = profiles * sign[:, None]
    up = _run(rising[:, middle:])
    down = _run(-rising[:, middle::-1])
    index = np.arange(profiles.shape[1])
    inside = (index >= (middle - down)[:, None]) & (index <= (middle + up)[:, None])
    high = np.where(inside, rising, -np.inf).max(axis=1)
    low = np.where(inside, rising, np.inf).min(axis=1)
    contrast = high - low
    lower = _crossing(rising, inside, low + 0.1 * contrast, middle, -1)
    upper = _crossing(rising, inside, low + 0.9 * contrast, middle, 1)
    return np.maximum(upper - lower, 0.0), contrast


def _run(rising: Doubles) -> NDArray[np.intp]:
    """How many samples from the start the profile goes on rising, dips of grain forgiven."""
    top = np.maximum.accumulate(rising, axis=1)
    fallen = top - rising > _GRAIN
    end = np.where(fallen.any(axis=1), fallen.argmax(axis=1), rising.shape[1])
    before = np.arange(rising.shape[1]) < end[:, None]
    return np.asarray(np.where(before, rising, -np.inf).argmax(axis=1))


def _crossing(
    rising: Doubles, inside: NDArray[np.bool_], level: Doubles, middle: int, direction: int
) -> Doubles:
    """Position where the profile crosses a level, looked for outwards from the far side of it."""
    n, count = rising.shape
    beyond = (rising >= level[:, None]) if direction > 0 else (rising <= level[:, None])
    beyond &= inside
    index = np.arange(count)
    if direction > 0:
        at = np.where(beyond.any(axis=1), beyond.argmax(axis=1), count - 1)
        other = np.maximum(at - 1, 0)
    else:
        at = np.where(beyond.any(axis=1), count - 1 - beyond[:, ::-1].argmax(axis=1), 0)
        other = np.minimum(at + 1, count - 1)
    rows = np.arange(n)
    here, there = rising[rows, at], rising[rows, other]
    gap = np.where(np.abs(here - there) < 1e-9, 1.0, here - there)
    part = np.clip((here - level) / gap, 0, 1)
    return np.asarray(index[at] + (other - at) * part)


def read_edges(labels: Labels, value: Floats, mm_per_px: float) -> EdgeSamples:
    """Width and contrast along the borders of a label map.

    Parameters
    ----------
    labels, value
        (H, W) groups and the value map they were cut from, not smoothed.
    mm_per_px
        Canvas mm to a pixel.
    """
    from scipy.ndimage import map_coordinates

    points, direction = border_points(labels, _STEP_MM / mm_per_px)
    normal = np.stack([direction[:, 1], -direction[:, 0]], axis=1)
    reach = REACH_MM / mm_per_px
    spacing = max(0.5, 0.25 / mm_per_px)
    count = max(4, round(reach / spacing))
    along = np.arange(-count, count + 1) * spacing
    # Three parallel profiles are averaged against grain.
    total = np.zeros((len(points), len(along)))
    for aside in (-1.0, 0.0, 1.0):
        x = points[:, 0, None] - 0.5 + normal[:, 0, None] * along + aside * direction[:, 0, None]
        y = points[:, 1, None] - 0.5 + normal[:, 1, None] * along + aside * direction[:, 1, None]
        total += map_coordinates(value, [y, x], order=1, mode="nearest")
    width, contrast = profile_widths(total / 3)
    return EdgeSamples(points, direction, width * spacing, contrast)
