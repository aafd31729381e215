"""Marks of the skin and their lights as a stencil at true size."""

from __future__ import annotations

from truesitter.core.design.texture import Texture
from truesitter.core.imaging.line import Line
from truesitter.formats.print.svg import coordinates


def stencil_svg(texture: Texture, canvas_mm: tuple[float, float]) -> str:
    """Darks filled, the light of each as a ring beside it, in canvas millimetres."""
    width, height = canvas_mm
    darks = "".join(_mark(line, canvas_mm) for line in texture.darks)
    lights = "".join(_ring(line, canvas_mm) for line in texture.lights)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width:g}mm" height="{height:g}mm" '
        f'viewBox="0 0 {width:g} {height:g}" fill="none" stroke="#000" stroke-linecap="round">'
        f'<rect width="{width:g}" height="{height:g}" stroke-width="0.2"/>'
        f'<g id="darks">{darks}</g><g id="lights">{lights}</g></svg>'
    )


def _mark(line: Line, canvas_mm: tuple[float, float]) -> str:
    points, width = coordinates(line.points * canvas_mm), line.widths_mm.max()
    return f'<polyline points="{points}" stroke-width="{width:.2f}"/>'


def _ring(line: Line, canvas_mm: tuple[float, float]) -> str:
    x, y = (line.points * canvas_mm).mean(axis=0)
    return f'<circle cx="{x:.2f}" cy="{y:.2f}" r="{line.widths_mm.max() / 2:.2f}" stroke-width="0.1"/>'
