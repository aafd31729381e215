"""SVG drawings in canvas millimetres."""

from __future__ import annotations

from collections.abc import Iterable
from xml.sax.saxutils import escape

import numpy as np
from shapely import Polygon

from truesitter.core.reference.grid import Grid
from truesitter.core.stages.values_stage import OutlineDrawing
from truesitter.core.types import Doubles
from truesitter.core.values.edge_runs import EdgeRun
from truesitter.core.values.edges import Sharpness

EDGE_WEIGHTS_MM = {Sharpness.HARD: 1.1, Sharpness.FIRM: 0.7, Sharpness.SOFT: 0.4, Sharpness.LOST: 0.12}
"""An edge's sharpness is drawn as the weight of its line, never as a colour."""


def document(width_mm: float, height_mm: float, title: str, body: Iterable[str]) -> str:
    """An SVG document of that size whose unit is a millimetre."""
    return "\n".join(
        [
            '<?xml version="1.0" encoding="UTF-8"?>',
            f'<svg xmlns="http://www.w3.org/2000/svg" width="{width_mm:g}mm" height="{height_mm:g}mm"'
            f' viewBox="0 0 {width_mm:g} {height_mm:g}">',
            f"<title>{escape(title)}</title>",
            *body,
            "</svg>",
            "",
        ]
    )


def coordinates(points: Doubles) -> str:
    """Points (n, 2) in mm as ``x,y x,y``, for polylines and polygons."""
    # Python's own numbers are written several times faster than those of an array.
    return " ".join([f"{x:.2f},{y:.2f}" for x, y in points.tolist()])


def path(points: Doubles, end: str = "Z") -> str:
    """Points (n, 2) in mm as the data of a path, closed unless `end` is empty."""
    return "M" + "L".join([f"{x:.2f} {y:.2f}" for x, y in points.tolist()]) + end


def polygon_path(polygon: Polygon, scale: float) -> str:
    """SVG path of a polygon with its holes, scaled."""
    rings = [polygon.exterior, *polygon.interiors]
    return "".join(path(np.asarray(r.coords, dtype=np.float64)[:-1, :2] * scale) for r in rings)


def outlines_svg(
    drawing: OutlineDrawing,
    canvas_mm: tuple[float, float],
    grid: Grid | None = None,
    edges: tuple[EdgeRun, ...] = (),
) -> str:
    """Outlines of the value shapes with the group's number (1 = darkest) in each.

    Grid and edges, when given, are groups of their own; an edge's sharpness is its line's weight.

    Parameters
    ----------
    drawing
        Outlines on their grid of pixels.
    canvas_mm
        Width and height of the canvas.
    """
    scale = canvas_mm[0] / drawing.grid[1]
    body = ['<g id="outlines" fill="none" stroke="#000" stroke-width="0.25">']
    body += [
        f'<path data-group="{o.group + 1}" data-shape="{o.shape + 1}" d="{polygon_path(o.polygon, scale)}"/>'
        for o in drawing.outlines
    ]
    body.append('</g>\n<g id="numbers" font-family="sans-serif" text-anchor="middle" fill="#000">')
    for o in drawing.outlines:
        size = min(5.0, o.radius * scale * 1.2)
        if size < 1:
            continue
        x, y = o.number_at[0] * scale, o.number_at[1] * scale
        body.append(
            f'<text x="{x:.2f}" y="{y + size * 0.35:.2f}" font-size="{size:.2f}">{o.group + 1}</text>'
        )
    body.append("</g>")
    if grid is not None:
        body += _grid_group(grid, canvas_mm)
    if edges:
        body.append('<g id="edges" fill="none" stroke="#000" stroke-linecap="round">')
        for e in edges:
            body.append(
                f'<polyline data-edge="{e.kind.value}" stroke-width="{EDGE_WEIGHTS_MM[e.kind]:g}"'
                f' points="{coordinates(e.points * canvas_mm)}"/>'
            )
        body.append("</g>")
    return document(canvas_mm[0], canvas_mm[1], "Outlines of the value groups", body)


def _grid_group(grid: Grid, canvas_mm: tuple[float, float]) -> list[str]:
    width, height = canvas_mm
    body = ['<g id="grid" stroke="#000" stroke-width="0.15">']
    body += [f'<line x1="{a:.2f}" y1="{b:.2f}" x2="{c:.2f}" y2="{d:.2f}"/>' for a, b, c, d in grid.lines]
    body.append(f'<rect width="{width:g}" height="{height:g}" fill="none"/>')
    body.append('</g>\n<g id="grid-numbers" font-family="sans-serif" font-size="3" text-anchor="middle">')
    body += [f'<text x="{x:.2f}" y="3.4">{name}</text>' for x, name in grid.columns]
    body += [f'<text x="2.4" y="{y + 1:.2f}">{name}</text>' for y, name in grid.rows]
    return [*body, "</g>"]
