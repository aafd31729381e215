"""Recesses: the narrow darks of a face, ranked by how deep they lie, and the two coats they take.

A recess is a valley of the value: half a step or more below *both* its sides, and no wider than a
few hundredths of the face. It is found by closing the values along short lines in many directions
(Serra 1982): what a line cannot enter lies lower than both its ends.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.pixels import box_of
from truesitter.core.light.form.recess_names import Names
from truesitter.core.light.form.tuning import (
    BOTTOM,
    DARK_SHARE,
    FIRST_COAT,
    LEAST_DEPTH,
    NARROWEST,
    OPEN,
    RECESSES_MOST,
    RECESSES_SHORTEST,
    SOFTER,
    TOLD_AT,
    TURNS,
    WIDEST,
)
from truesitter.core.sitter.face import Face
from truesitter.core.sitter.places import OwnPlace
from truesitter.core.types import Bytes, Doubles, Floats, Ints, Labels, Mask


@dataclass(frozen=True)
class Recess:
    """One narrow dark.

    Attributes
    ----------
    place
        Its name, unlike any other's.
    x, y
        Where it is deepest, in fractions of width and height.
    depth
        Value steps below the lower of its sides, in its deeper part.
    width
        Middle width of the valley, in pixels.
    length
        Length of its longest line, in pixels.
    soft
        Unit vector (x right, y down) towards its softer side; None where both rise alike.
    number
        Of its pixels in `Recesses.first`.
    """

    place: str
    x: float
    y: float
    depth: float
    width: float
    length: float
    soft: tuple[float, float] | None
    number: int

    @property
    def is_wrinkle(self) -> bool:
        """True for a crease of bare skin, not one of the features'."""
        return self.place.startswith("crease, ") or self.place.endswith(("smile fold", "of the neck"))


@dataclass(frozen=True)
class Recesses:
    """Every recess, deepest first, and where its coats go.

    Attributes
    ----------
    recesses
        Deepest first.
    first
        (h, w) int32: number of the recess whose first coat covers a pixel, 0 for none.
    dark
        (h, w) where the second coat goes, inside the first and at most half of it.
    valleys
        (h, w) depth in value steps.
    scale
        Height of the face in pixels of the maps.
    """

    recesses: tuple[Recess, ...]
    first: Ints
    dark: Mask
    valleys: Floats
    scale: float


def valley_depth(value: Floats, reach: int) -> tuple[Floats, Floats]:
    """How far each pixel lies below both sides of the deepest valley through it.

    Parameters
    ----------
    value
        (h, w) value map.
    reach
        Widest valley in pixels, ≥ 1.

    Returns
    -------
    depth, across
        (h, w) in value steps, and (h, w, 2) the way across it as cosine and sine of twice its angle (y up),
        as long as it is plain: the mean of eight ways, each as heavy as the valley is deep along it.
    """
    best = np.zeros(value.shape, np.float32)
    across = np.zeros((*value.shape, 2), np.float32)
    for n, line in enumerate(_lines(max(1, reach // 2))):
        depth = cv2.morphologyEx(value, cv2.MORPH_CLOSE, line) - value
        double = 2 * np.pi * n / TURNS
        across += depth[..., None] * np.array([np.cos(double), np.sin(double)], np.float32)
        np.maximum(best, depth, out=best)
    return best, across


def _lines(half: int) -> list[Bytes]:
    """A line of pixels through the middle at each turn; those of mirrored turns are mirrored."""
    lines = []
    for n in range(TURNS // 4 + 1):
        angle = np.pi * n / TURNS
        line = np.zeros((2 * half + 1, 2 * half + 1), np.uint8)
        cv2.line(
            line, (half, half), (half + round(half * np.cos(angle)), half - round(half * np.sin(angle))), 1
        )
        lines.append(line | line[::-1, ::-1])
    # Beyond 45° they are mirrored across the diagonal, beyond 90° across the vertical.
    lines += [line.T for line in lines[-2::-1]]
    lines += [line[:, ::-1] for line in lines[-2:0:-1]]
    return [np.ascontiguousarray(line) for line in lines]


def find_recesses(
    value: Floats,
    where: Mask,
    face: Face | None,
    scale: float,
    own: tuple[OwnPlace, ...] = (),
    regions: Labels | None = None,
) -> Recesses:
    """The recesses of a face or figure.

    Parameters
    ----------
    value
        (h, w) value map, hardly squinted.
    where
        (h, w) skin, lips and what else may hold a recess; the irises of `face` are left out.
    face, scale
        The face and its height in pixels; without one, the height a face would have.
    own
        Places the painter named.
    regions
        (h, w) regions, for the names of what lies under beard or collar.
    """
    reach = max(2, round(WIDEST * scale))
    box = box_of(where, reach)
    depth, across = np.zeros(value.shape, np.float32), np.zeros((*value.shape, 2), np.float32)
    depth[box], across[box] = valley_depth(value[box], reach)
    inside = where if face is None else where & ~(face.iris_mask(value.shape) | face.brow_mask(value.shape))
    depth = np.where(inside, depth, 0).astype(np.float32)
    core = (depth >= LEAST_DEPTH).astype(np.uint8)
    _, numbers, stats, _ = cv2.connectedComponentsWithStats(core, connectivity=8)
    valleys = [v for n, box in enumerate(stats) if n and (v := _valley(n, box, numbers, value, depth, scale))]
    names = Names(face, value.shape, own, regions)
    named: dict[str, list[_Valley]] = {}
    for valley in sorted(valleys, key=lambda v: -v.depth):
        name = names.of(*valley.pixels(numbers), valley.deepest)
        named.setdefault(name, []).append(valley)
    first = np.zeros(value.shape, np.int32)
    dark = np.zeros(value.shape, bool)
    recesses = []
    for number, (name, parts) in enumerate(list(named.items())[:RECESSES_MOST], 1):
        for part in parts:
            soft = _coats(number, part, numbers, value, depth, across, reach, first, dark)
            if part is parts[0]:
                recesses.append(part.told(number, name, soft, value.shape))
    return Recesses(tuple(recesses), first, dark, depth, scale)


@dataclass(frozen=True)
class _Valley:
    """One connected valley: its number on the map, its box, and its measures in pixels."""

    number: int
    box: tuple[slice, slice]
    deepest: tuple[int, int]
    depth: float
    width: float
    length: float

    def pixels(self, numbers: Ints) -> tuple[Ints, Ints]:
        """Rows and columns."""
        rows, columns = np.nonzero(numbers[self.box] == self.number)
        return rows + self.box[0].start, columns + self.box[1].start

    def told(
        self, number: int, name: str, soft: tuple[float, float] | None, shape: tuple[int, ...]
    ) -> Recess:
        row, column = self.deepest
        x, y = (column + 0.5) / shape[1], (row + 0.5) / shape[0]
        return Recess(name, x, y, self.depth, self.width, self.length, soft, number)


def _valley(
    number: int, stats: Ints, numbers: Ints, value: Floats, depth: Floats, scale: float
) -> _Valley | None:
    """A component as a valley; None for a spot, a scratch or the corner of something larger."""
    left, top, width, height, area = (int(v) for v in stats)
    length = float(np.hypot(width, height))
    if length < RECESSES_SHORTEST * scale or area < length * NARROWEST * scale:
        return None
    box = (slice(top, top + height), slice(left, left + width))
    own = np.where(numbers[box] == number, depth[box], 0)
    row, column = divmod(int(own.argmax()), width)
    deep = float(np.quantile(own[own > 0], TOLD_AT))
    around = (slice(max(0, top - 1), top + height + 1), slice(max(0, left - 1), left + width + 1))
    core = numbers[around] == number
    ring = (cv2.dilate(core.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0) & ~core
    as_dark = value[around] <= np.median(value[around][core]) + deep / 4
    runs_on = ring & as_dark & (depth[around] < LEAST_DEPTH / 2)
    if runs_on.sum() > OPEN * ring.sum():
        return None
    return _Valley(number, box, (top + row, left + column), deep, area / length, length)


def _coats(
    number: int, valley: _Valley, numbers: Ints, value: Floats, depth: Floats, across: Floats, reach: int,
    first: Ints, dark: Mask,
) -> tuple[float, float] | None:  # fmt: skip
    """Mark both coats of a valley on the maps; the way to its softer side."""
    box = tuple(
        slice(max(0, side.start - reach), min(size, side.stop + reach))
        for side, size in zip(valley.box, value.shape, strict=True)
    )
    core = numbers[box] == valley.number
    rows, columns = valley.pixels(numbers)
    normal = _mean_way(across[rows, columns])
    bottom = depth[rows, columns] >= BOTTOM * depth[rows, columns].max()
    rise = [_rise(value, rows[bottom], columns[bottom], sign * normal, reach) for sign in (1, -1)]
    # A valley is followed down to less than it must reach somewhere.
    beside = depth[box] >= FIRST_COAT * LEAST_DEPTH
    swept, soft = core, None
    if max(rise) >= SOFTER * min(rise):
        way = normal if rise[0] > rise[1] else -normal
        soft = (float(way[0]), float(way[1]))
        swept = _swept(core, way * min(max(rise), reach))
    near = cv2.dilate(core.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    coat = (core | (near & beside) | swept) & (first[box] == 0) & (depth[box] + core > 0)
    if coat.any():
        dark[box] |= coat & (depth[box] > np.quantile(depth[box][coat], 1 - DARK_SHARE))
    first[box][coat] = number
    return soft


def _mean_way(across: Floats) -> Doubles:
    """Mean direction across a valley, a unit vector with y down."""
    double = across.sum(axis=0, dtype=np.float64)
    mean = np.arctan2(double[1], double[0]) / 2
    return np.array([np.cos(mean), -np.sin(mean)])


def _rise(value: Floats, rows: Ints, columns: Ints, way: Doubles, reach: int) -> float:
    """Pixels from the bottom of a valley to nine tenths of the way up one side, on average."""
    steps = np.arange(0, reach + 1, 0.5)
    x = (columns[:, None] + way[0] * steps).astype(np.float32)
    y = (rows[:, None] + way[1] * steps).astype(np.float32)
    profile = cv2.remap(value, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE).mean(axis=0)
    low, high = float(profile[0]), float(profile.max())
    if high - low < 1e-6:
        return float(reach)
    return float(steps[int(np.argmax(profile >= low + 0.9 * (high - low)))]) + 0.5


def _swept(mask: Mask, by: Doubles) -> Mask:
    """A mask swept along a short way."""
    out = mask.copy()
    for part in np.linspace(0, 1, 1 + int(np.ceil(np.hypot(*by)))):
        move = np.array([[1, 0, by[0] * part], [0, 1, by[1] * part]], np.float32)
        out |= cv2.warpAffine(mask.astype(np.uint8), move, mask.shape[::-1], flags=cv2.INTER_NEAREST) > 0
    return out
