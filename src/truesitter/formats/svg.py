"""SVG drawings in canvas millimetres."""

from __future__ import annotations

from collections.abc import Iterable
from xml.sax.saxutils import escape

import numpy as np
from shapely import Polygon

from truesitter.core.hair.lines import MappingLine
from truesitter.core.values.outlines import Outline


def _document(width_mm: float, height_mm: float, title: str, body: Iterable[str]) -> str:
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


def _ring(points: np.ndarray[tuple[int, int], np.dtype[np.float64]]) -> str:
    return "M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in points[:-1]) + "Z"


def polygon_path(polygon: Polygon, scale: float) -> str:
    """SVG path of a polygon with its holes, scaled."""
    rings = [polygon.exterior, *polygon.interiors]
    return "".join(_ring(np.asarray(r.coords, dtype=np.float64)[:, :2] * scale) for r in rings)


def outlines_svg(outlines: tuple[Outline, ...], grid: tuple[int, int], canvas_mm: tuple[float, float]) -> str:
    """Outlines of the value shapes with the group's number (1 = darkest) in each.

    Parameters
    ----------
    outlines
        In pixels of a label map.
    grid
        (height, width) of that map.
    canvas_mm
        Width and height of the canvas.
    """
    scale = canvas_mm[0] / grid[1]
    body = ['<g id="outlines" fill="none" stroke="#000" stroke-width="0.25">']
    body += [f'<path data-group="{o.group + 1}" d="{polygon_path(o.polygon, scale)}"/>' for o in outlines]
    body.append('</g>\n<g id="numbers" font-family="sans-serif" text-anchor="middle" fill="#000">')
    for o in outlines:
        size = min(5.0, o.radius * scale * 1.2)
        if size < 1:
            continue
        x, y = o.number_at[0] * scale, o.number_at[1] * scale
        body.append(
            f'<text x="{x:.2f}" y="{y + size * 0.35:.2f}" font-size="{size:.2f}">{o.group + 1}</text>'
        )
    body.append("</g>")
    return _document(canvas_mm[0], canvas_mm[1], "Outlines of the value groups", body)


def hair_svg(lines: tuple[MappingLine, ...], canvas_mm: tuple[float, float]) -> str:
    """Mapping lines, a dot at each root and an arrow head at each tip."""
    body = [
        '<defs><marker id="tip" viewBox="0 0 4 4" refX="3" refY="2" markerWidth="4" markerHeight="4"'
        ' orient="auto"><path d="M0 0L4 2L0 4" fill="none" stroke="#000" stroke-width="0.6"/>'
        "</marker></defs>",
        '<g id="mapping-lines" fill="none" stroke="#000" stroke-width="0.35" marker-end="url(#tip)">',
    ]
    dots = ['<g id="roots" fill="#000">']
    for line in lines:
        points = line.points * canvas_mm
        body.append('<polyline points="' + " ".join(f"{x:.2f},{y:.2f}" for x, y in points) + '"/>')
        dots.append(f'<circle cx="{points[0, 0]:.2f}" cy="{points[0, 1]:.2f}" r="0.6"/>')
    return _document(
        canvas_mm[0], canvas_mm[1], "Hair: mapping lines from root to tip", [*body, "</g>", *dots, "</g>"]
    )
