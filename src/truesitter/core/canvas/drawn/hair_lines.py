"""Lines of a moustache, each along the hair it grows from (common practice)."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.drawn.tuning import (
    A_SIDE,
    BEYOND_THE_MOUTH,
    DARK_FROM,
    FINEST_MM,
    HAIR_WIDTH,
    LEAST_ACROSS,
    LEAST_MOUSTACHE,
)
from truesitter.core.hair.field.growth_lines import growth_lines
from truesitter.core.imaging.line import Line
from truesitter.core.sitter.face import MOUTH_CORNERS, MOUTH_MIDDLE, NOSE_BASE, Face
from truesitter.core.types import Doubles, Floats, Mask


def moustache(
    directed: Floats, facial_hair: Mask, face: Face, size_mm: tuple[float, float]
) -> tuple[tuple[Line, ...], tuple[Line, ...]]:
    """Lines of the moustache: a middle tone, and a darker set that starts lower; none without one.

    Parameters
    ----------
    directed
        (h, w, 2) root→tip unit direction, y up.
    facial_hair
        (h, w) on the same grid.
    """
    height, width = facial_hair.shape
    rows = np.arange(height)[:, None] / height
    above = facial_hair & (rows < face.mouth_row) & (rows > face.nose_base_row - 0.02)
    tall = face.height(facial_hair.shape)
    if above.sum() < LEAST_MOUSTACHE * tall**2:
        return (), ()
    corners = np.sort(face.line(MOUTH_CORNERS)[:, 0]) * width
    middle_x, reach = face.at(NOSE_BASE, MOUTH_MIDDLE)[0] * width, np.ptp(corners) * (0.5 + BEYOND_THE_MOUTH)
    columns = np.arange(width)
    above &= np.abs(columns - middle_x) < reach
    mm_per_px = size_mm[0] / width
    widest = HAIR_WIDTH * tall * mm_per_px * 1.6
    middle, dark = list[Line](), list[Line]()
    for side in (-1, 1):
        half = above & ((columns - middle_x) * side > 0)
        if not half.any():
            continue
        # Lines run across the columns: what matters is how high the hair stands in one.
        spacing = float(np.median(half.sum(axis=0)[half.any(axis=0)])) / (A_SIDE + 0.5)
        found = growth_lines(directed, half, spacing, 1.0)
        longest = sorted(found, key=lambda line: -len(line.points))[:A_SIDE]
        for line in sorted(longest, key=lambda line: line.points[:, 1].mean()):
            if len(line.points) < 4 or np.ptp(line.points[:, 0]) < LEAST_ACROSS:
                continue
            # Drawn from the middle outward, as it grows.
            points = line.points if (line.points[-1, 0] - line.points[0, 0]) * side > 0 else line.points[::-1]
            middle.append(Line(points, _swelling(len(points), widest)))
            lower = points[round(DARK_FROM * (len(points) - 1)) :]
            if len(lower) >= 3:
                dark.append(Line(lower, _swelling(len(lower), widest * 0.6)))
    return tuple(middle), tuple(dark)


def _swelling(count: int, widest: float) -> Doubles:
    """Widths that swell in the middle and thin out at both ends."""
    return np.asarray(np.maximum(widest * np.sin(np.linspace(0.12, np.pi - 0.12, count)), FINEST_MM / 4))
