"""Sheets for carrying the drawing over: outlines at true size in tiles, upside down, and small sketches."""

from __future__ import annotations

import io
import math
from collections.abc import Callable

from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas as Page

from truesitter.core.stages import Study
from truesitter.formats.pictures.views import THUMBNAILS, VIEWS
from truesitter.formats.print.sheet import GREY, HAIRLINE, INK, MARGIN, Sheet, draw_polygon, fit

OVERLAP_MM = 10.0
_TOP, _BOTTOM = 30 * mm, 18 * mm
_DRAWING = "drawing"
POSTCARD_MM = (148.0, 105.0)
"""Long and short side of a postcard (ISO 216, A6)."""


def transfer_pdf(
    study: Study, title: str, paper: str, mirrored: bool = False, upside_down: bool = False
) -> bytes:
    """Outlines and grid at the canvas's true size, tiled with overlap and register marks.

    Parameters
    ----------
    paper
        ``A4`` or ``Letter``.
    mirrored
        Left to right, for rubbing down from the back.
    upside_down
        For drawing shapes instead of named things.

    Raises
    ------
    Refusal
        For another paper.
    """
    reference = study.settings.reference
    canvas = (reference.canvas_width_mm, reference.canvas_height_mm)

    def draw(page: Page, width: float, height: float) -> None:
        _draw_outlines(page, study, width, height)

    return print_tiled(title, paper, canvas, "Transfer", draw, mirrored, upside_down)


def print_tiled(
    title: str, paper: str, canvas: tuple[float, float], heading: str,
    draw: Callable[[Page, float, float], None], mirrored: bool = False, upside_down: bool = False,
) -> bytes:  # fmt: skip
    """A drawing at the canvas's true size, tiled with overlap and register marks.

    Parameters
    ----------
    canvas
        Width and height in mm.
    draw
        Draws it from the origin to the right and down, given its width and height in points.
    """
    sheet = Sheet(paper, title)
    inner = (sheet.inner / mm, (sheet.height - _TOP - _BOTTOM) / mm)
    width, height = canvas[0] * mm, canvas[1] * mm
    sheet.page.beginForm(_DRAWING, -1, -height - 1, width + 1, 1)
    draw(sheet.page, width, height)
    sheet.page.endForm()
    columns, rows = (tiles(length, room) for length, room in zip(canvas, inner, strict=True))
    for row in range(rows):
        for column in range(columns):
            ways = [w for w, on in (("mirrored", mirrored), ("upside down", upside_down)) if on]
            suffix = f", {' and '.join(ways)}" if ways else ""
            sheet.start(f"{heading}, sheet {row + 1}·{column + 1} of {rows}·{columns}{suffix}")
            corner = (column * (inner[0] - OVERLAP_MM), row * (inner[1] - OVERLAP_MM))
            _tile(sheet, canvas, corner, inner, mirrored, upside_down)
    return sheet.done()


def tiles(length: float, room: float) -> int:
    """Sheets needed to cover a length with room for so much on each, neighbours overlapping."""
    if length <= room:
        return 1
    return 1 + math.ceil((length - room) / (room - OVERLAP_MM) - 1e-9)


def _tile(
    sheet: Sheet, canvas: tuple[float, float], corner: tuple[float, float], inner: tuple[float, float],
    mirrored: bool, upside_down: bool,
) -> None:  # fmt: skip
    width, height = canvas[0] * mm, canvas[1] * mm
    page, left, top = sheet.page, MARGIN, sheet.height - _TOP
    page.saveState()
    frame = page.beginPath()
    frame.rect(left, top - inner[1] * mm, inner[0] * mm, inner[1] * mm)
    page.clipPath(frame, stroke=0, fill=0)
    page.translate(left - corner[0] * mm, top + corner[1] * mm)
    if mirrored:
        page.transform(-1, 0, 0, 1, width, 0)
    if upside_down:
        page.transform(-1, 0, 0, -1, width, -height)
    page.doForm(_DRAWING)
    page.restoreState()
    _register_marks(page, left, top, inner)
    page.setFillColor(GREY)
    words = f"True size. Neighbouring sheets overlap by {OVERLAP_MM:g} mm: lay cross on cross."
    sheet.line(words, left, top - inner[1] * mm - 8, 7)


def _draw_outlines(page: Page, study: Study, width: float, height: float) -> None:
    """Outlines and grid from the origin to the right and down, in points."""
    reference, drawing = study.settings.reference, study.values.outlines()
    page.setStrokeColor(HAIRLINE)
    page.setLineWidth(0.4)
    for x1, y1, x2, y2 in reference.canvas_grid().lines:
        page.line(x1 * mm, -y1 * mm, x2 * mm, -y2 * mm)
    page.setStrokeColor(INK)
    page.setLineWidth(0.5)
    page.rect(0, -height, width, height, fill=0, stroke=1)
    for outline in drawing.outlines:
        draw_polygon(page, outline.polygon, 0, 0, width / drawing.grid[1])


def _register_marks(page: Page, left: float, top: float, inner: tuple[float, float]) -> None:
    """A cross in the middle of the overlap at each corner, so that the same spot is marked on both sheets."""
    page.setStrokeColor(INK)
    page.setLineWidth(0.3)
    inset, arm = OVERLAP_MM / 2 * mm, 3 * mm
    for x in (left + inset, left + inner[0] * mm - inset):
        for y in (top - inset, top - inner[1] * mm + inset):
            page.line(x - arm, y, x + arm, y)
            page.line(x, y - arm, x, y + arm)
            page.circle(x, y, 1.2 * mm, fill=0, stroke=1)


def thumbnails_pdf(study: Study, title: str, paper: str) -> bytes:
    """The picture in 2, 3, 4 and 5 values, each about a postcard, to choose a design by."""
    sheet = Sheet(paper, title)
    sheet.start("Which design?")
    sheet.text("Stand back and squint. Choose the one that holds together with the fewest values.", 10, gap=8)
    height, width = study.picture.framed().shape[:2]
    room = ((sheet.inner - 8 * mm) / 2, (sheet.y - _BOTTOM) / 2 - 12 * mm)
    box = (min(room[0], POSTCARD_MM[0] * mm), min(room[1], POSTCARD_MM[0] * mm))
    card_w, card_h = fit(height / width, *box)
    for place, count in enumerate(THUMBNAILS):
        left = MARGIN + (place % 2) * (sheet.inner + 8 * mm) / 2
        bottom = sheet.y - card_h - (place // 2) * (card_h + 12 * mm)
        picture = ImageReader(io.BytesIO(VIEWS[f"thumbnail-{count}"].make(study)[0]))
        sheet.page.drawImage(picture, left, bottom, card_w, card_h)
        sheet.page.setFillColor(INK)
        sheet.line(f"{count} values", left, bottom - 11, 9)
    return sheet.done()
