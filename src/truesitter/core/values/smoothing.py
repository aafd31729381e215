"""Rounding the corners of a drawing of shapes that share their borders.

A corner may be rounded within the triangle between it and points on its two sides, no
farther than their middles. Where that triangle touches no other border, no two rounded
borders can cross: two such triangles could only meet in their third sides, and a meeting
in one point encloses nothing. Elsewhere the corner stays. So the rounded shapes still
cover the frame once.
"""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Polygon

from truesitter.core.types import Doubles, Ints
from truesitter.core.values.tuning import CORNER_STEPS


def round_corners(polygons: NDArray[np.object_], frame: tuple[float, float], reach: float) -> list[Polygon]:
    """Round every corner that can be rounded safely.

    Parameters
    ----------
    polygons
        Polygons that cover the frame once and share their borders point for point.
    frame
        (width, height); points on its edge stay, and so do points where three borders meet.
    reach
        How far from a corner, in the polygons' unit, its rounding may begin; ≥ 0.
    """
    rings = [[shapely.get_coordinates(ring)[:-1] for ring in (p.exterior, *p.interiors)] for p in polygons]
    flat = [ring for own in rings for ring in own]
    vertices, numbers = np.unique(np.concatenate(flat), axis=0, return_inverse=True)
    ids = np.split(numbers.astype(np.int32), np.cumsum([len(r) for r in flat])[:-1])
    edges, degree, neighbours = _graph(vertices, ids)
    start, end = (_toward(vertices, vertices[neighbours[:, i]], reach) for i in (0, 1))
    inside = (vertices > 0).all(axis=1) & (vertices < frame).all(axis=1)
    free = _roundable(vertices, edges, (degree == 2) & inside, start, end)
    t = CORNER_STEPS[:, None]
    curves = (1 - t) ** 2 * start[:, None] + 2 * t * (1 - t) * vertices[:, None] + t**2 * end[:, None]
    drawn = iter([_draw(ring, vertices, neighbours, free, curves) for ring in ids])
    return [Polygon(next(drawn), [next(drawn) for _ in own[1:]]) for own in rings]


def _graph(vertices: Doubles, rings: list[Ints]) -> tuple[Ints, Ints, Ints]:
    """Edges (m, 2), number of edges at each vertex, and its first and last neighbour (n, 2)."""
    sides = np.concatenate([np.stack([r, np.roll(r, -1)], axis=1) for r in rings])
    edges = np.unique(np.sort(sides, axis=1), axis=0)
    ends = np.concatenate([edges, edges[:, ::-1]])
    ends = ends[np.lexsort((ends[:, 1], ends[:, 0]))]
    degree = np.bincount(ends[:, 0], minlength=len(vertices)).astype(np.int32)
    first = np.cumsum(degree) - degree
    return edges, degree, np.stack([ends[first, 1], ends[first + degree - 1, 1]], axis=1)


def _toward(corner: Doubles, neighbour: Doubles, reach: float) -> Doubles:
    """Points on the way from corners to neighbours, at most half way and at most `reach` away."""
    side = neighbour - corner
    length = np.hypot(side[:, 0], side[:, 1])
    return np.asarray(corner + side * np.minimum(0.5, reach / np.maximum(length, 1e-12))[:, None])


def _roundable(
    vertices: Doubles, edges: Ints, wanted: NDArray[np.bool_], start: Doubles, end: Doubles
) -> NDArray[np.bool_]:
    """Those of the wanted corners whose triangle touches no side but its own two."""
    free = wanted.copy()
    corners = np.flatnonzero(wanted)
    triangles = shapely.polygons(np.stack([start[corners], vertices[corners], end[corners]], axis=1))
    tree = shapely.STRtree(shapely.linestrings(vertices[edges]))
    triangle, edge = tree.query(triangles, predicate="intersects")
    foreign = (edges[edge] != corners[triangle][:, None]).all(axis=1)
    free[corners[triangle[foreign]]] = False
    return free


def _draw(
    ring: Ints, vertices: Doubles, neighbours: Ints, free: NDArray[np.bool_], curves: Doubles
) -> Doubles:
    """One ring with its corners rounded, in its own direction; (m, 2)."""
    points = curves[ring]
    backwards = neighbours[ring, 0] != np.roll(ring, 1)
    points[backwards] = points[backwards, ::-1]
    stiff = ~free[ring]
    points[stiff] = vertices[ring][stiff, None]
    points = points.reshape(-1, 2)
    fresh = (points != np.roll(points, 1, axis=0)).any(axis=1)
    return np.asarray(points[fresh])
