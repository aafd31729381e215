"""Outlines: the borders between value shapes as polygons that fit together without gaps.

The pixel edges between different groups are joined into lines, the lines into
faces, and all faces are simplified together so that neighbours keep one common border.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely import Polygon

from truesitter.core.types import Doubles, Labels
from truesitter.core.values.shapes import find_shapes, largest_circles
from truesitter.core.values.smoothing import round_corners
from truesitter.core.values.tuning import ROUNDING


@dataclass(frozen=True)
class Outline:
    """One shape's outline.

    Attributes
    ----------
    group
        Value group, 0 = darkest.
    shape
        Number of the shape, as in `find_shapes` of the same label map.
    polygon
        In pixels of the label map, y down.
    number_at
        Where the group's number stands: the centre of the largest circle inside the shape.
    radius
        Radius of that circle in pixels.
    """

    group: int
    shape: int
    polygon: Polygon
    number_at: tuple[float, float]
    radius: float


def _edge_lines(labels: Labels) -> list[Doubles]:
    """Straight runs of pixel edges between labels, ended at every junction; (2, 2) each."""
    padded = np.pad(labels.astype(np.int16), 1, constant_values=-1)
    upright = padded[:, :-1] != padded[:, 1:]  # edge at (x, y..y+1): row y, column boundary x
    level = padded[:-1] != padded[1:]
    upright, level = upright[1:-1], level[:, 1:-1]
    height, width = labels.shape
    degree = np.zeros((height + 1, width + 1), np.int8)
    degree[:-1] += upright
    degree[1:] += upright
    degree[:, :-1] += level
    degree[:, 1:] += level
    # A straight run may go on only where exactly two edges meet, both along it.
    lines: list[Doubles] = []
    for edges, joint, flip in (
        (level, degree, False),
        (upright.T, degree.T, True),
    ):
        rows, cols = np.nonzero(edges)
        if not len(rows):
            continue
        continues = (rows[1:] == rows[:-1]) & (cols[1:] == cols[:-1] + 1) & (joint[rows[1:], cols[1:]] == 2)
        starts = np.concatenate([[0], np.flatnonzero(~continues) + 1])
        ends = np.concatenate([starts[1:] - 1, [len(rows) - 1]])
        first = np.stack([cols[starts], rows[starts]], axis=1)
        last = np.stack([cols[ends] + 1, rows[ends]], axis=1)
        segments = np.stack([first, last], axis=1).astype(float)
        lines.append(segments[..., ::-1] if flip else segments)
    return lines


def trace_outlines(labels: Labels, tolerance: float = 1.2) -> tuple[Outline, ...]:
    """Outlines of all shapes of a label map.

    Parameters
    ----------
    labels
        (H, W) uint8.
    tolerance
        How far, in pixels, a simplified border may leave the pixel edges
        (square root of the area tolerance of the simplification); its corners are rounded after.

    Returns
    -------
    tuple of Outline
        Their union is the whole frame and no two overlap.
    """
    segments = np.concatenate(_edge_lines(labels))
    faces = shapely.get_parts(shapely.polygonize(list(shapely.linestrings(segments))))
    shapes = find_shapes(labels)
    circles = largest_circles(shapes)
    inside = shapely.get_coordinates(shapely.point_on_surface(faces))
    columns = np.clip(inside[:, 0].astype(int), 0, labels.shape[1] - 1)
    rows = np.clip(inside[:, 1].astype(int), 0, labels.shape[0] - 1)
    numbers = shapes.number[rows, columns]
    simple = shapely.coverage_simplify(faces, tolerance, simplify_boundary=False)
    frame = (float(labels.shape[1]), float(labels.shape[0]))
    smooth = round_corners(simple, frame, ROUNDING * tolerance)
    outlines = []
    for polygon, number in zip(smooth, numbers, strict=True):
        at = (float(circles.x[number]), float(circles.y[number]))
        radius = float(circles.radius[number])
        if not polygon.contains(shapely.Point(at)):
            point = polygon.representative_point()
            at, radius = (point.x, point.y), 0.5
        outlines.append(Outline(int(shapes.group[number]), int(number), polygon, at, radius))
    return tuple(outlines)
