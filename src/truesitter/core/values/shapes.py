"""Shapes: connected patches of one value group, and what happens to those too small to paint."""

from __future__ import annotations

import heapq
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
        count, parts, stats, _ = cv2.connectedComponentsWithStats(inside, connectivity=4)
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
    merging = _Merging(shapes, float(smallest), finer, float(finer_smallest), float(thinnest))
    queue = [(merging.area[n], n) for n in range(shapes.count) if merging.too_small(n)]
    heapq.heapify(queue)
    while queue:
        area, small = heapq.heappop(queue)
        # A shape that has grown since stands in the queue again, if it is still too small.
        if merging.owner[small] != small or area != merging.area[small] or not merging.neighbours[small]:
            continue
        heir = merging.give_away(small)
        if merging.too_small(heir):
            heapq.heappush(queue, (merging.area[heir], heir))
    return merging.labels()


class _Merging:
    """Shapes given to one another, and what is known of each that is left."""

    def __init__(
        self, shapes: ShapeMap, smallest: float, finer: Mask | None, finer_smallest: float, thinnest: float
    ) -> None:
        count = shapes.count
        self._shapes, self._smallest, self._finer_smallest = shapes, smallest, finer_smallest
        self._thinnest = thinnest if thinnest > 1 else 0.0
        self.area = shapes.area.astype(float).tolist()
        self.group = shapes.group.tolist()
        self.owner = list(range(count))
        self._fine_area = [0.0] * count
        if finer is not None and finer.any():
            self._fine_area = np.bincount(shapes.number[finer], minlength=count).astype(float).tolist()
        self._thin = [False] * count
        self._members: dict[int, list[int]] = {}
        if self._thinnest:
            self._thin = (2 * largest_circles(shapes).radius < self._thinnest).tolist()
            self._boxes = _boxes(shapes)
        self.neighbours: list[dict[int, int]] = [{} for _ in range(count)]
        for a, b, length in zip(*(x.tolist() for x in borders(shapes.number)), strict=True):
            self.neighbours[a][b] = length
            self.neighbours[b][a] = length

    def too_small(self, n: int) -> bool:
        """Whether a shape is below its limit."""
        if self._fine_area[n] > 0.5 * self.area[n]:
            return bool(self.area[n] < self._finer_smallest)
        return bool(self._thin[n] or self.area[n] < self._smallest)

    def give_away(self, small: int) -> int:
        """Give a shape to the neighbour that suits best; returns that neighbour."""
        around, group = self.neighbours[small], self.group
        heir = max(around, key=lambda n: (around[n] / (1 + abs(group[n] - group[small])), -n))
        thin = self._thin[heir]
        # The heir will touch what the small shape touches; same groups become one.
        same = [n for n in around if n != heir and group[n] == group[heir]]
        self._join(small, heir)
        for other in same:
            thin = thin and self._thin[other]
            self._join(other, heir)
        self._thin[heir] = thin and self._is_thin(heir)
        return heir

    def _join(self, gone: int, heir: int) -> None:
        self.owner[gone] = heir
        self.area[heir] += self.area[gone]
        self._fine_area[heir] += self._fine_area[gone]
        if self._thinnest:
            self._members.setdefault(heir, [heir]).extend(self._members.pop(gone, [gone]))
        for other, length in self.neighbours[gone].items():
            del self.neighbours[other][gone]
            if other != heir:
                self.neighbours[heir][other] = self.neighbours[heir].get(other, 0) + length
                self.neighbours[other][heir] = self.neighbours[heir][other]
        self.neighbours[gone] = {}

    def _is_thin(self, n: int) -> bool:
        """Whether a shape joined from several is still too thin, measured on its own pixels."""
        members = np.array(self._members[n])
        top, left = self._boxes[members, :2].min(axis=0)
        bottom, right = self._boxes[members, 2:].max(axis=0)
        inside = np.isin(self._shapes.number[top:bottom, left:right], members)
        distance = cv2.distanceTransform(
            np.pad(inside, 1).astype(np.uint8), cv2.DIST_L2, cv2.DIST_MASK_PRECISE
        )
        return 2 * (float(distance.max()) - 0.5) < self._thinnest

    def labels(self) -> Labels:
        """The groups of what is left, at every pixel."""
        final = np.array([_root(self.owner, n) for n in range(self._shapes.count)])
        return np.asarray(np.array(self.group, np.uint8)[final][self._shapes.number])


def _boxes(shapes: ShapeMap) -> Ints:
    """Top, left, bottom and right (count, 4) of every shape, the last two exclusive."""
    boxes = np.zeros((shapes.count, 4), np.int32)
    for axis in (0, 1):
        lines = np.arange(shapes.number.shape[axis], dtype=np.int32)
        where = np.broadcast_to(lines[:, None] if axis == 0 else lines, shapes.number.shape).ravel()
        low = np.full(shapes.count, np.iinfo(np.int32).max, np.int32)
        high = np.zeros(shapes.count, np.int32)
        np.minimum.at(low, shapes.number.ravel(), where)
        np.maximum.at(high, shapes.number.ravel(), where)
        boxes[:, axis], boxes[:, axis + 2] = low, high + 1
    return boxes


def _root(owner: list[int], n: int) -> int:
    while owner[n] != n:
        owner[n] = owner[owner[n]]
        n = owner[n]
    return n


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
    away = cv2.distanceTransform(inner, cv2.DIST_L2, cv2.DIST_MASK_PRECISE)[1:-1, 1:-1]
    # A squared distance between pixels is a whole number: rounded to it, equal places tie on every machine
    # (the last bits of the transform hang on where the array lies in memory), and the first one wins.
    distance = np.sqrt(np.rint(away * away)) + np.float32(0.5)
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
