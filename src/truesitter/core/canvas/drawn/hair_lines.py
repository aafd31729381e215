"""Single hairs that a brush draws: those of a moustache, and strays that leave the mass of the hair.

Every one sets out exactly along the hair it grows from; only its free end may wander (common practice).
"""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.canvas.drawn.tuning import (
    A_SIDE,
    BEND,
    BEYOND_THE_MOUTH,
    DARK_FROM,
    FINEST_MM,
    HAIR_WIDTH,
    LEAST_ACROSS,
    LEAST_MOUSTACHE,
    ROOT_PART,
    STRAY_LENGTH,
    STRAYS,
)
from truesitter.core.hair.field.growth_lines import growth_lines
from truesitter.core.imaging.line import Line
from truesitter.core.sitter.face import MOUTH_CORNERS, MOUTH_MIDDLE, NOSE_BASE, Face
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Floats, Labels, Mask


def _tapered(points: Doubles, widest: float, root: float) -> Doubles:
    """Widths that begin at part `root` of the widest, swell and run out to nothing."""
    along = np.linspace(0, 1, len(points))
    return np.asarray(np.maximum(widest * np.interp(along, (0, 0.35, 1), (root, 1, 0.12)), FINEST_MM / 4))


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


def strays(
    directed: Floats, labels: Labels, tone: Mask, tall_mm: float, size_mm: tuple[float, float], seed: int
) -> tuple[Line, ...]:
    """A few short hairs of one tone that leave the mass at its outer border.

    Parameters
    ----------
    directed
        (h, w, 2) root→tip unit direction, y up.
    labels, tone
        (h, w) regions, and where the hair has this tone.
    tall_mm
        Height of the face on the canvas, or what stands for it.
    seed
        Chance is the same each time.
    """
    hair = labels == Region.HAIR
    outside = np.isin(labels, (Region.BACKGROUND, Region.GARMENT)).astype(np.uint8)
    rim = hair & tone & (cv2.dilate(outside, np.ones((5, 5), np.uint8)) > 0)
    rows, columns = np.nonzero(rim & (np.hypot(*directed.transpose(2, 0, 1)) > 0.5))
    if not len(rows):
        return ()
    height, width = labels.shape
    mm_per_px = size_mm[0] / width
    chance = np.random.default_rng(seed)
    lines: list[Line] = []
    gap = 0.5 * STRAY_LENGTH[1] * tall_mm / mm_per_px
    taken: list[tuple[int, int]] = []
    for pick in chance.permutation(len(rows)):
        row, column = int(rows[pick]), int(columns[pick])
        if any(np.hypot(row - r, column - c) < gap for r, c in taken):
            continue
        taken.append((row, column))
        length = chance.uniform(*STRAY_LENGTH) * tall_mm / mm_per_px
        lines.append(_stray(directed, (row, column), length, chance, (height, width), tall_mm))
        if len(lines) == STRAYS:
            break
    return tuple(lines)


def _stray(
    directed: Floats, root: tuple[int, int], length: float, chance: np.random.Generator,
    shape: tuple[int, int], tall_mm: float,
) -> Line:  # fmt: skip
    """One hair from its root: along the field first, then on a bend of its own."""
    count = 14
    step = length / (count - 1)
    x, y = root[1] + 0.5, root[0] + 0.5
    points = [(x, y)]
    angle = 0.0
    bend = chance.uniform(0.3, 1) * BEND * chance.choice((-1, 1))
    for n in range(1, count):
        if (n - 1) / (count - 1) <= ROOT_PART:
            row, column = min(shape[0] - 1, max(0, int(y))), min(shape[1] - 1, max(0, int(x)))
            dx, dy = directed[row, column]
            if np.hypot(dx, dy) > 0.5:
                angle = float(np.arctan2(-dy, dx))
        else:
            angle += bend / (count * (1 - ROOT_PART))
        x, y = x + step * np.cos(angle), y + step * np.sin(angle)
        points.append((float(x), float(y)))
    widest = max(HAIR_WIDTH * tall_mm, FINEST_MM)
    return Line(np.array(points) / (shape[1], shape[0]), _tapered(np.array(points), widest, 0.8))
