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

from truesitter.core.imaging.blur import blur
from truesitter.core.types import Doubles, Floats, Labels, Pieces
from truesitter.core.values.edge_sides import side_widths
from truesitter.core.values.tuning import (
    FIRM_MM,
    GRAIN,
    HARD_MM,
    LEAST_CONTRAST,
    MOST_ROWS,
    REACH_MM,
    SOFT_MM,
    STEP_MM,
    TANGENT_SPAN,
)


class Sharpness(Enum):
    """The painter's four edges."""

    HARD = "hard"
    FIRM = "firm"
    SOFT = "soft"
    LOST = "lost"


def sharpness_of(width_mm: float, contrast: float) -> Sharpness:
    """The kind of edge with a width in mm and a contrast in value steps.

    Examples
    --------
    >>> sharpness_of(0.5, 3.0).value
    'hard'
    >>> sharpness_of(9.0, 3.0).value
    'soft'
    """
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
    sides
        (n, 2) how much of that lies on the darker and on the lighter side.
    lighter
        (n, 2) unit vector across the border, towards the lighter side.
    """

    points: Doubles
    direction: Doubles
    width: Doubles
    contrast: Doubles
    sides: Doubles
    lighter: Doubles


def border_points(labels: Labels | Pieces, step: float) -> tuple[Doubles, Doubles]:
    """Points about `step` pixels apart on the borders, and the direction of the border there.

    Returns
    -------
    points, direction
        (n, 2) each.
    """
    # The gradient of the softened labels stands square on the border, whatever the labels are.
    soft = blur(labels.astype(np.float32), TANGENT_SPAN / 2)
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


@dataclass(frozen=True)
class Profiles:
    """Profiles across edges, read.

    Attributes
    ----------
    width, contrast
        (n,) 10–90 % width in samples (all of the profile when the edge fills it), and value steps.
    sides
        (n, 2) parts of the width on the darker and on the lighter side.
    rises
        (n,) 1 where the value rises along the profile, −1 where it falls.
    """

    width: Doubles
    contrast: Doubles
    sides: Doubles
    rises: Doubles


def read_profiles(profiles: Doubles) -> Profiles:
    """Width, contrast and sides of profiles across edges.

    Parameters
    ----------
    profiles
        (n, 2m + 1) values at equal distances, the border in the middle.

    Notes
    -----
    Each side is followed outwards only as long as the value goes on changing the same
    way, but for grain: what lies beyond belongs to another edge. The sides are those of two
    half-Gaussians with the profile's own 10, 50 and 90 % points; see `side_widths`.
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
    half = _crossing(rising, inside, low + 0.5 * contrast, middle, 1)
    sides = side_widths(half - lower, upper - half)
    # Where the value falls along the profile its beginning is the lighter side.
    sides = np.where(sign[:, None] < 0, sides[:, ::-1], sides)
    return Profiles(np.maximum(upper - lower, 0.0), contrast, sides, sign)


def _run(rising: Doubles) -> NDArray[np.intp]:
    """How many samples from the start the profile goes on rising, dips of grain forgiven."""
    top = np.maximum.accumulate(rising, axis=1)
    fallen = top - rising > GRAIN
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


def _sampled(picture: Floats, x: Doubles, y: Doubles) -> Floats:
    """A picture read between its pixels, linearly; outside it the nearest is taken."""
    out = np.empty(x.shape, np.float32)
    for start in range(0, len(x), MOST_ROWS):
        rows = slice(start, start + MOST_ROWS)
        maps = (x[rows].astype(np.float32), y[rows].astype(np.float32))
        out[rows] = cv2.remap(picture, *maps, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    return out


def read_edges(
    labels: Labels | Pieces,
    value: Floats,
    mm_per_px: float,
    step_mm: float = STEP_MM,
    reach_mm: float = REACH_MM,
) -> EdgeSamples:
    """Width and contrast along the borders of a label map.

    Parameters
    ----------
    labels, value
        (H, W) groups and the value map they were cut from, not smoothed.
    mm_per_px
        Canvas mm to a pixel.
    step_mm, reach_mm
        How far readings lie apart, and how far they look to either side.
    """
    points, direction = border_points(labels, step_mm / mm_per_px)
    normal = np.stack([direction[:, 1], -direction[:, 0]], axis=1)
    reach = reach_mm / mm_per_px
    spacing = max(0.5, 0.25 / mm_per_px)
    count = max(4, round(reach / spacing))
    along = np.arange(-count, count + 1) * spacing
    # Three parallel profiles are averaged against grain.
    total = np.zeros((len(points), len(along)), np.float32)
    for aside in (-1.0, 0.0, 1.0):
        x = points[:, 0, None] - 0.5 + normal[:, 0, None] * along + aside * direction[:, 0, None]
        y = points[:, 1, None] - 0.5 + normal[:, 1, None] * along + aside * direction[:, 1, None]
        total += _sampled(value, x, y)
    found = read_profiles(total.astype(np.float64) / 3)
    return EdgeSamples(
        points,
        direction,
        found.width * spacing,
        found.contrast,
        found.sides * spacing,
        normal * found.rises[:, None],
    )
