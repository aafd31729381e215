"""Painted lines to take along: an SVG with their widths, and a sheet to practise them on."""

from __future__ import annotations

import numpy as np
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas as Page

from truesitter.core.canvas.drawn.painted_lines import line_length_mm
from truesitter.core.imaging.line import Line, outline
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.types import Doubles
from truesitter.formats.print.sheet import HAIRLINE, INK, Art, Sheet, Words
from truesitter.formats.print.svg import coordinates, document, path

ENLARGED = (1.0, 3.0)
"""Lines are practised at their own size and so many times as large."""

_COPIES = 4
_MOST_LINES = 6


def outline_mm(line: Line, canvas_mm: tuple[float, float]) -> Doubles:
    """Its outline on the canvas, in mm."""
    fine = 100.0
    shape = (round(canvas_mm[1] * fine), round(canvas_mm[0] * fine))
    return outline(line, shape, 1 / fine, 1.0) / fine


def lines_svg(plan: PassPlan, canvas_mm: tuple[float, float]) -> str:
    """Every painted line as it swells and tapers, one group to a pass, in canvas millimetres.

    Each path carries its centre line and its widths as data, in mm.
    """
    body = []
    for number, current in enumerate(plan.passes, 1):
        if not current.lines:
            continue
        body.append(f'<g id="{current.key}" data-pass="{number}" fill="#000">')
        for line in current.lines:
            ring, centre = path(outline_mm(line, canvas_mm)), coordinates(line.points * canvas_mm)
            widths = " ".join([f"{w:.2f}" for w in line.widths_mm.tolist()])
            body.append(f'<path d="{ring}" data-centre="{centre}" data-widths="{widths}"/>')
        body.append("</g>")
    return document(canvas_mm[0], canvas_mm[1], "Lines to paint", body)


def practice_pdf(plan: PassPlan, canvas_mm: tuple[float, float], title: str, paper: str) -> bytes:
    """The lines of every pass to draw over: grey at their own size and enlarged, with how long each is."""
    sheet = Sheet(paper, title)
    sheet.start("Lines to practise")
    sheet.text(
        "Each row is one line of the plan. Draw over the grey ones with the brush, swelling and thinning "
        "as they do, then beside them without a guide. They are as large as on the canvas, and three "
        "times as large. A dot shows where the stroke begins.",
        gap=4,
    )
    drawn = [p for p in plan.passes if p.lines]
    for current in drawn:
        longest = sorted(current.lines, key=lambda one: -line_length_mm(one, canvas_mm))
        sheet.section(current.name, 30 * mm)
        count = len(current.lines)
        sheet.text(f"{count} line{'s' if count > 1 else ''}. {current.note}", 8)
        for line in longest[:_MOST_LINES]:
            length, widest = line_length_mm(line, canvas_mm), float(line.widths_mm.max())
            row = line_row(outline_mm(line, canvas_mm), sheet.inner)
            sheet.room(row.height + 12)
            sheet.entry(row, [], gap=2)
            sheet.entry(
                Art(0, 0, lambda *_: None),
                [Words(f"{length:.0f} mm long, {widest:.2g} mm at its widest", 7, grey=True)],
            )
    if not drawn:
        sheet.text("This plan has no lines: no face was found in the photograph.")
    return sheet.done()


def line_row(ring: Doubles, inner: float) -> Art:
    """A line side by side, at its own size and enlarged, as often as there is room."""
    ring = ring - ring.min(axis=0)
    size = ring.max(axis=0) * mm
    pieces: list[tuple[float, float]] = []
    left = 0.0
    for scale in ENLARGED:
        for _ in range(_COPIES):
            if left + size[0] * scale > inner:
                break
            pieces.append((left, scale))
            left += size[0] * scale + 6 * mm
    height = float(size[1] * max((scale for _, scale in pieces), default=1.0)) + 2 * mm
    first = ring[0] / 2 + ring[-1] / 2

    def draw(page: Page, x: float, top: float) -> None:
        for shift, scale in pieces:
            points = np.stack([x + shift + ring[:, 0] * mm * scale, top - ring[:, 1] * mm * scale], axis=1)
            path = page.beginPath()
            path.moveTo(*points[0])
            for point in points[1:]:
                path.lineTo(*point)
            path.close()
            page.setFillColor(HAIRLINE)
            page.drawPath(path, stroke=0, fill=1)
            page.setFillColor(INK)
            page.circle(x + shift + first[0] * mm * scale, top - first[1] * mm * scale, 0.7, stroke=0, fill=1)

    return Art(0, height, draw)
