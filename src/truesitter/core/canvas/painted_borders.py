"""How sharply each border between two pieces is painted: as wide as it is in the photograph, on both sides.

What is laid on some pieces then covers a pixel more or less, by how far it lies from their border.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import cv2
import numpy as np

from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.canvas.tuning import (
    CELL_PX,
    CLOSEST_PX,
    DEEPEST_PX,
    EVEN_MM,
    FLOOR_PX,
    LEAST_BLUR,
    LEVELS,
    NEAREST,
    OVERLAP,
    REACH_MM,
    STEP_MM,
    SURE,
    TENTH_OF_RAMP,
    WIDEST_SIDE_MM,
)
from truesitter.core.types import Counts, Doubles, Floats, Ints, Labels, Mask
from truesitter.core.values.edge_runs import evened
from truesitter.core.values.edges import read_edges
from truesitter.core.values.tuning import LEAST_CONTRAST


@dataclass(frozen=True)
class Borders:
    """Pairs of neighbouring pixels in different pieces.

    Attributes
    ----------
    patchwork
        The pieces.
    pixels
        (n, 2) the two pixels, counted row by row.
    sides_px
        (n, 2) how far the border's blur reaches into the piece of either, in pixels.
    seen_px
        (n, 2) the same as it is seen, over all the steps that lead from light to dark there: wider than it is
        painted where a piece is only one narrow step of them.
    contrast
        (n,) difference of the sides, in value steps.
    mm_per_px
        Canvas mm to a pixel.
    """

    patchwork: Patchwork
    pixels: Counts
    sides_px: Floats
    seen_px: Floats
    contrast: Floats
    mm_per_px: float

    @cached_property
    def pieces(self) -> Ints:
        """(n, 2) the pieces of the pixels."""
        return self.patchwork.labels.ravel()[self.pixels]

    def crossed(self, pieces: Mask) -> tuple[Counts, Ints]:
        """Rows that lead out of some pieces, and which of the two pixels (0, 1) is inside."""
        inside = pieces[self.pieces]
        rows = np.flatnonzero(inside[:, 0] != inside[:, 1])
        return rows, np.where(inside[rows, 0], 0, 1).astype(np.int32)


def _neighbours(labels: Ints) -> Counts:
    """(n, 2) every pair of pixels, side by side or one above the other, that are not of one piece."""
    numbers = np.arange(labels.size).reshape(labels.shape)
    beside, above = labels[:, :-1] != labels[:, 1:], labels[:-1] != labels[1:]
    return np.concatenate(
        [
            np.stack([numbers[:, :-1][beside], numbers[:, 1:][beside]], axis=1),
            np.stack([numbers[:-1][above], numbers[1:][above]], axis=1),
        ]
    )


def even_borders(patchwork: Patchwork, blur_mm: float, mm_per_px: float) -> Borders:
    """Borders that are all equally soft, to both sides.

    Parameters
    ----------
    patchwork
        The pieces that are laid.
    blur_mm
        Width of every border, mm.
    mm_per_px
        Canvas mm to a pixel, > 0.

    Returns
    -------
    Borders
        To be read as those of the photograph.
    """
    pixels = _neighbours(patchwork.labels)
    sides = np.full((len(pixels), 2), max(FLOOR_PX, blur_mm / mm_per_px / 2), np.float32)
    return Borders(patchwork, pixels, sides, sides, np.zeros(len(pixels), np.float32), mm_per_px)


def measure_borders(
    patchwork: Patchwork, value: Floats, mm_per_px: float, least_mm: float | Floats = 0.0
) -> Borders:
    """Read the width of every border off the photograph.

    Parameters
    ----------
    patchwork
        The pieces that are laid.
    value
        (h, w) values of the photograph, not smoothed.
    mm_per_px
        Canvas mm to a pixel, > 0.
    least_mm
        None is wanted harder than that, everywhere or (h, w) by place; a narrow shape still is.
    """
    labels = patchwork.labels
    pixels = _neighbours(labels)
    samples = read_edges(labels, value, mm_per_px, STEP_MM, REACH_MM)
    least = max(LEAST_BLUR * labels.shape[1] / 2, FLOOR_PX)
    if len(samples.points) == 0 or len(pixels) == 0:
        crisp = np.full((len(pixels), 2), least, np.float32)
        return Borders(patchwork, pixels, crisp, crisp, np.zeros(len(pixels), np.float32), mm_per_px)
    from scipy.spatial import cKDTree

    tree = cKDTree(samples.points * mm_per_px)
    wanted = _wanted(least_mm, samples.points)
    seen = np.maximum(
        evened(tree, samples.direction, np.minimum(samples.sides * mm_per_px, REACH_MM)), wanted
    )
    sides = np.minimum(np.maximum(samples.sides * mm_per_px, wanted), WIDEST_SIDE_MM)
    # Where both sides are alike in value there is no edge to see: it is lost as far as a brush goes.
    sides[samples.contrast < LEAST_CONTRAST] = WIDEST_SIDE_MM
    depths, beside = _depths(labels, samples.points, samples.lighter)
    # A shape's border is no softer, to either side, than half as far as the shape is wide.
    sides = np.minimum(sides, depths.min(axis=1, keepdims=True) * (TENTH_OF_RAMP / 2 * mm_per_px))
    sides = evened(tree, samples.direction, sides)
    place = np.stack([pixels % labels.shape[1], pixels // labels.shape[1]], axis=2) + 0.5
    near, weight = _nearby(place.mean(axis=1), samples.points, mm_per_px)
    # A reading counts for pairs of the same two pieces alone; which of them is the darker side tells the
    # sides of the pair. Where no such reading is near, the border is short and taken for crisp.
    many = len(patchwork.sizes)
    pieces, between = labels.ravel()[pixels].astype(np.int64) @ (many, 1), beside @ (many, 1)
    swapped = pieces % many * many + pieces // many
    which = between[near]
    one, two = weight * (which == pieces[:, None]), weight * (which == swapped[:, None])
    known = one.sum(axis=1) + two.sum(axis=1)
    share = np.minimum(1, known / SURE) / np.maximum(known, 1e-12)

    def ramps(darker_first: Doubles, lighter_first: Doubles, read: Doubles) -> Floats:
        darker, lighter = read[near, 0], read[near, 1]
        first = (darker_first * darker + lighter_first * lighter).sum(axis=1)
        second = (darker_first * lighter + lighter_first * darker).sum(axis=1)
        both = np.stack([first, second], axis=1)
        return np.asarray(np.clip(both / (TENTH_OF_RAMP * mm_per_px), least, None), dtype=np.float32)

    painted = ramps(one * share[:, None], two * share[:, None], sides)
    # How the picture passes from light to dark there does not depend on where it was cut.
    towards = ((place[:, 1] - place[:, 0])[:, None, :] * samples.lighter[near]).sum(axis=2)
    counts = weight * towards**2 + 1e-12
    counts /= counts.sum(axis=1, keepdims=True)
    as_seen = ramps(counts * (towards >= 0), counts * (towards < 0), seen)
    weight /= weight.sum(axis=1, keepdims=True)
    contrast = (weight * samples.contrast[near]).sum(axis=1)
    return Borders(patchwork, pixels, painted, as_seen, contrast.astype(np.float32), mm_per_px)


def _wanted(least_mm: float | Floats, points: Doubles) -> Doubles:
    """Half the width wanted at points (n, 2), to be held against either side of a border (n, 1)."""
    if not isinstance(least_mm, np.ndarray):
        return np.full((1, 1), least_mm / 2)
    rows, columns = (np.clip(points[:, 1 - axis].astype(int), 0, least_mm.shape[axis] - 1) for axis in (0, 1))
    return np.asarray(least_mm[rows, columns][:, None] / 2, dtype=np.float64)


def told_near(
    borders: Borders, rows: Mask, places_mm: Doubles, widths_mm: Doubles, reach_mm: float
) -> Borders:
    """Some borders as wide as they were read near them elsewhere.

    Parameters
    ----------
    rows
        (n,) which borders are meant.
    places_mm, widths_mm
        (k, 2) and (k,) where on the canvas they were read, and how wide they are there.
    reach_mm
        Farther off nothing is known of them.
    """
    from scipy.spatial import cKDTree

    numbers = np.flatnonzero(rows)
    if not len(numbers) or not len(places_mm):
        return borders
    columns = borders.patchwork.labels.shape[1]
    pixels = borders.pixels[numbers].mean(axis=1)
    where = np.stack([pixels % columns, pixels // columns], axis=1) + 0.5
    far, nearest = cKDTree(places_mm).query(where * borders.mm_per_px)
    near = far <= reach_mm
    seen = borders.seen_px.copy()
    half = widths_mm[nearest[near]] / (2 * TENTH_OF_RAMP * borders.mm_per_px)
    seen[numbers[near]] = half[:, None]
    return replace(borders, seen_px=seen)


def _nearby(places: Doubles, points: Doubles, mm_per_px: float) -> tuple[Ints, Doubles]:
    """For places (n, 2) the numbers of the readings near them, (n, k), and how much each counts."""
    from scipy.spatial import cKDTree

    # Neighbouring places have the same readings near them.
    cells, which = np.unique((places // CELL_PX).astype(np.int64) @ (1 << 20, 1), return_inverse=True)
    middles = np.stack([cells >> 20, cells & ((1 << 20) - 1)], axis=1) * CELL_PX + CELL_PX / 2
    many = min(NEAREST, len(points))
    far, near = cKDTree(points * mm_per_px).query(middles * mm_per_px, k=many)
    far, near = far.reshape(-1, many), near.reshape(-1, many)
    return near[which].astype(np.int32), np.exp(-((far / EVEN_MM) ** 2) / 2)[which] + 1e-9


def _depths(labels: Ints, points: Doubles, lighter: Doubles) -> tuple[Doubles, Counts]:
    """How deep the pieces on the darker and the lighter side of points are, in pixels; and their numbers."""
    far = np.arange(CLOSEST_PX, CLOSEST_PX + DEEPEST_PX)
    deep, which = [], []
    for sign in (-1.0, 1.0):
        x = points[:, 0, None] + sign * lighter[:, 0, None] * far
        y = points[:, 1, None] + sign * lighter[:, 1, None] * far
        columns = np.clip(x, 0, labels.shape[1] - 1).astype(np.int32)
        rows = np.clip(y, 0, labels.shape[0] - 1).astype(np.int32)
        seen = labels[rows, columns]
        other = seen != seen[:, :1]
        deep.append(np.where(other.any(axis=1), other.argmax(axis=1), DEEPEST_PX))
        which.append(seen[:, 0])
    return np.stack(deep, axis=1) + 1.0, np.stack(which, axis=1).astype(np.int64)


def cover(
    borders: Borders, pieces: Mask, later: Mask | None = None, wet: Mask | None = None, runs_mm: float = 0.0
) -> tuple[slice, slice, Labels]:
    """How far each pixel is covered by what is laid on some pieces.

    Parameters
    ----------
    pieces
        (n,) where it is laid.
    later
        (n,) pieces that are covered afterwards: towards them it is carried on in full strength by half
        the border's width, so that what lies below does not shine through the seam.
    wet, runs_mm
        (n,) pieces that are wet: towards them it runs at least in this 10–90 % width.

    Returns
    -------
    rows, columns, levels
        The box it lies in, and parts of `LEVELS` covered inside the box.
    """
    labels = borders.patchwork.labels
    rows, inner = borders.crossed(pieces)
    own = borders.sides_px[rows, inner]
    other = borders.sides_px[rows, 1 - inner]
    runs = np.zeros(len(rows), np.float32)
    if wet is not None:
        half = np.float32(runs_mm / (2 * TENTH_OF_RAMP * borders.mm_per_px))
        runs[wet[borders.pieces[rows, 1 - inner]]] = half
    shift = np.zeros(len(rows), np.float32)
    if later is not None:
        shift[later[borders.pieces[rows, 1 - inner]]] = OVERLAP
    mask = pieces[labels]
    reach = (1 + float(shift.max(initial=0))) * float(np.maximum(other, runs).max(initial=0)) + 2
    box = _box(mask, reach)
    inside = mask[box]
    levels = np.where(inside, np.uint8(LEVELS), np.uint8(0))
    if len(rows) == 0:
        return *box, levels
    away, nearest = _from_border(labels.shape, borders.pixels[rows, inner], box)
    near = np.flatnonzero(away.ravel() <= max(reach, float(np.maximum(own, runs).max())))
    which = nearest.ravel()[near]
    within = inside.ravel()[near]
    far = away.ravel()[near]
    # It runs as far as the paper is wet, and no farther.
    run = runs[which] if wet is None else np.where((pieces | wet)[labels[box].ravel()[near]], runs[which], 0)
    deep, beyond = np.maximum(own[which], run), np.maximum(other[which], run)
    signed = np.where(within, (far + 0.5) / deep, (0.5 - far) / beyond)
    part = (signed + shift[which] + 1) * (LEVELS / 2)
    levels.ravel()[near] = np.clip(np.rint(part), 0, LEVELS).astype(np.uint8)
    return *box, levels


def _box(mask: Mask, margin: float) -> tuple[slice, slice]:
    rows, columns = np.flatnonzero(mask.any(axis=1)), np.flatnonzero(mask.any(axis=0))
    if len(rows) == 0:
        return slice(0, 0), slice(0, 0)
    more = int(np.ceil(margin))
    return (
        slice(max(0, rows[0] - more), min(mask.shape[0], rows[-1] + 1 + more)),
        slice(max(0, columns[0] - more), min(mask.shape[1], columns[-1] + 1 + more)),
    )


def _from_border(shape: tuple[int, ...], pixels: Counts, box: tuple[slice, slice]) -> tuple[Floats, Ints]:
    """Distance of every pixel of a box from the nearest of some pixels, and which of them it is."""
    on = np.ones(shape, np.uint8)
    on.ravel()[pixels] = 0
    away, number = cv2.distanceTransformWithLabels(on[box], cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    full = np.zeros(shape, np.int32)
    full[box] = number
    row = np.zeros(int(number.max()) + 1, np.int32)
    row[full.ravel()[pixels]] = np.arange(len(pixels))
    return away, row[number]
