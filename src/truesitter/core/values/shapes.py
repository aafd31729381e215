"""Shapes: connected patches of one value group, and what happens to those too small to paint."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.types import Floats, Ints, Labels, Mask


@dataclass(frozen=True)
class ShapeMap:
    """Numbered shapes of a label map.

    Attributes
    ----------
    number
        (H, W) int32, shapes 0 … count − 1.
    group, area
        (count,) value group and area in pixels of each shape.
    """

    number: Ints
    group: Labels
    area: Ints

    @property
    def count(self) -> int:
        """How many shapes there are."""
        return len(self.group)


def find_shapes(labels: Labels) -> ShapeMap:
    """Number the 4-connected patches of equal label."""
    number = np.zeros(labels.shape, np.int32)
    first = np.zeros(256, np.int32)
    groups: list[Labels] = []
    areas: list[Ints] = []
    total = 0
    for group in np.flatnonzero(cv2.calcHist([labels], [0], None, [256], [0, 256])):
        inside = cv2.inRange(labels, int(group), int(group))
        count, parts, stats, _ = cv2.connectedComponentsWithStats(inside, connectivity=4, ltype=cv2.CV_32S)
        # Each pixel lies in one group only: the parts can be added up, and shifted by a table after.
        number += parts
        first[group] = total - 1
        areas.append(stats[1:, cv2.CC_STAT_AREA])
        groups.append(np.full(count - 1, group, np.uint8))
        total += count - 1
    number += cv2.LUT(labels, first)
    return ShapeMap(number, np.concatenate(groups), np.concatenate(areas))


def borders(number: Ints) -> tuple[Ints, Ints, Ints]:
    """Length of the border between every two neighbouring shapes.

    Returns
    -------
    first, second, length
        (m,) each; first < second; length in pixel edges.
    """
    pairs = []
    for a, b in ((number[:, :-1], number[:, 1:]), (number[:-1], number[1:])):
        apart = a != b
        low, high = np.minimum(a[apart], b[apart]), np.maximum(a[apart], b[apart])
        pairs.append(low.astype(np.int64) << 32 | high)
    codes, length = np.unique(np.concatenate(pairs), return_counts=True)
    return (
        (codes >> 32).astype(np.int32),
        (codes & 0xFFFFFFFF).astype(np.int32),
        length.astype(np.int32),
    )


def absorb_small(
    labels: Labels,
    smallest: float,
    finer: Mask | None = None,
    finer_smallest: float = 0.0,
    thinnest: float = 0.0,
) -> Labels:
    """Give shapes too small to paint to a neighbour.

    The smallest go first, each to the neighbour with the longest common border,
    weighed against how far its group is from the shape's own.

    Parameters
    ----------
    labels
        (H, W) uint8 value groups.
    smallest
        Least area of a shape, in pixels.
    finer, finer_smallest
        Where shapes may be smaller (eyes, nostrils, mouth), and how small. A shape
        counts as lying there when half of it does.
    thinnest
        Shapes whose largest circle has a smaller diameter than this, in pixels, are too
        small as well, however long they are; not where shapes may be smaller.

    Returns
    -------
    (H, W) uint8; no shape is below its limit unless it fills the whole picture.
    """
    shapes = find_shapes(labels)
    if shapes.count < 2:
        return labels
    limit = np.full(shapes.count, float(smallest))
    if thinnest > 1:
        limit[2 * largest_circles(shapes).radius < thinnest] = np.inf
    if finer is not None and finer.any():
        inside = np.bincount(shapes.number[finer], minlength=shapes.count)
        limit[inside > 0.5 * shapes.area] = finer_smallest
    neighbours: list[dict[int, int]] = [{} for _ in range(shapes.count)]
    for a, b, length in zip(*(x.tolist() for x in borders(shapes.number)), strict=True):
        neighbours[a][b] = length
        neighbours[b][a] = length
    area = shapes.area.astype(float).tolist()
    group = shapes.group.tolist()
    owner = list(range(shapes.count))
    queue = sorted((n for n in range(shapes.count) if area[n] < limit[n]), key=lambda n: (area[n], n))
    for small in queue:
        if owner[small] != small or area[small] >= limit[small] or not neighbours[small]:
            continue
        around = neighbours[small]
        heir = max(around, key=lambda n: (around[n] / (1 + abs(group[n] - group[small])), -n))
        _join(small, heir, neighbours, owner, area)
        limit[heir] = min(limit[heir], limit[small]) if area[heir] >= limit[heir] else limit[heir]
        # The heir now touches what the small shape touched; same groups become one.
        for other in [n for n in neighbours[heir] if group[n] == group[heir]]:
            _join(other, heir, neighbours, owner, area)
    final = np.array([_root(owner, n) for n in range(shapes.count)])
    return np.asarray(np.array(group, np.uint8)[final][shapes.number])


def _root(owner: list[int], n: int) -> int:
    while owner[n] != n:
        owner[n] = owner[owner[n]]
        n = owner[n]
    return n


def _join(
    gone: int, heir: int, neighbours: list[dict[int, int]], owner: list[int], area: list[float]
) -> None:
    owner[gone] = heir
    area[heir] += area[gone]
    for other, length in neighbours[gone].items():
        del neighbours[other][gone]
        if other != heir:
            neighbours[heir][other] = neighbours[heir].get(other, 0) + length
            neighbours[other][heir] = neighbours[heir][other]
    neighbours[gone] = {}


@dataclass(frozen=True)
class LargestCircles:
    """Largest circle inside each shape: where its number stands, and which brush fits.

    Attributes
    ----------
    x, y, radius
        (count,) in pixels; the radius is the distance to the nearest other shape or edge.
    """

    x: Floats
    y: Floats
    radius: Floats


def largest_circles(shapes: ShapeMap) -> LargestCircles:
    """Largest inscribed circle of every shape, from one distance map."""
    number = shapes.number
    height, width = number.shape
    edge = np.zeros((height + 2, width + 2), bool)
    padded = np.pad(number, 1, constant_values=-1)
    differ_h = padded[:, :-1] != padded[:, 1:]
    differ_v = padded[:-1] != padded[1:]
    edge[:, :-1] |= differ_h
    edge[:, 1:] |= differ_h
    edge[:-1] |= differ_v
    edge[1:] |= differ_v
    inner = (~edge).astype(np.uint8)
    # Pixels beside a border are half a pixel from it; the rest count from those.
    distance = cv2.distanceTransform(inner, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)[1:-1, 1:-1] + 0.5
    flat = distance.ravel()
    where = _argmax_by_shape(flat, number.ravel(), shapes.count)
    return LargestCircles(
        x=(where % width + 0.5).astype(np.float32),
        y=(where // width + 0.5).astype(np.float32),
        radius=flat[where].astype(np.float32),
    )


def _argmax_by_shape(flat: Floats, number: Ints, count: int) -> Ints:
    """Position of the largest entry of each shape, in linear time."""
    top = np.zeros(count, np.float32)
    np.maximum.at(top, number, flat)
    hit = np.flatnonzero(flat >= top[number])
    where = np.zeros(count, np.int64)
    where[number[hit[::-1]]] = hit[::-1]
    return where.astype(np.int32)
