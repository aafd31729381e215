"""Sheets of paper: margins, headings, and on each a value wedge and a rule to check the print by."""

from __future__ import annotations

import io

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit
from reportlab.pdfgen.canvas import Canvas as Page
from shapely import Polygon

from truesitter.core.colour.spaces import linear_to_srgb
from truesitter.core.colour.value import value_to_luminance

PAPERS = {"A4": A4, "Letter": LETTER}
MARGIN = 15 * mm
INK, GREY, HAIRLINE = HexColor("#1a1a1a"), HexColor("#6b6b6b"), HexColor("#b5b5b5")


class Sheet:
    """A PDF under way: where the pen stands, and how to start a page."""

    def __init__(self, paper: str, title: str) -> None:
        if paper not in PAPERS:
            raise ValueError(f"sheets are printed on {' or '.join(PAPERS)}, not on “{paper}”")
        self.width, self.height = PAPERS[paper]
        self.buffer = io.BytesIO()
        self.page = Page(self.buffer, pagesize=PAPERS[paper], invariant=1)
        self.page.setTitle(title)
        self.title = title
        self.number = 0
        self.y = 0.0

    @property
    def inner(self) -> float:
        """Width between the margins, in points."""
        return float(self.width - 2 * MARGIN)

    def start(self, heading: str) -> None:
        """Begin a page with a heading, a value wedge and a rule."""
        if self.number:
            self.page.showPage()
        self.number += 1
        page = self.page
        page.setFillColor(INK)
        page.setFont("Times-Roman", 17)
        page.drawString(MARGIN, self.height - MARGIN - 10, heading)
        page.setFont("Helvetica", 8)
        page.setFillColor(GREY)
        page.drawRightString(self.width - MARGIN, self.height - MARGIN - 8, self.title)
        page.drawRightString(self.width - MARGIN, 8 * mm, str(self.number))
        self._wedge_and_rule()
        self.y = self.height - MARGIN - 24

    def _wedge_and_rule(self) -> None:
        """Value steps 0–10 and a 100 mm rule, so that the print itself can be checked."""
        page, bottom = self.page, 7 * mm
        for step in range(11):
            luminance = float(linear_to_srgb(value_to_luminance(step)))
            page.setFillGray(luminance)
            page.setStrokeColor(HAIRLINE)
            page.rect(MARGIN + step * 5 * mm, bottom, 5 * mm, 4 * mm, fill=1, stroke=1)
        left = MARGIN + 60 * mm
        page.setStrokeColor(INK)
        page.setLineWidth(0.4)
        page.line(left, bottom, left + 100 * mm, bottom)
        for tick in range(11):
            page.line(left + tick * 10 * mm, bottom, left + tick * 10 * mm, bottom + 2 * mm)
        page.setFillColor(GREY)
        page.setFont("Helvetica", 6)
        page.drawString(left, bottom + 2.6 * mm, "100 mm: measure this before trusting the print")

    def room(self, needed: float, heading: str) -> None:
        """Begin a page when less than `needed` points are left."""
        if self.y - needed < 16 * mm:
            self.start(heading)

    def text(self, words: str, size: float = 9, indent: float = 0, gap: float = 2) -> None:
        """Write words below what is there, broken into lines."""
        self.page.setFont("Helvetica", size)
        self.page.setFillColor(INK)
        for line in simpleSplit(words, "Helvetica", size, self.inner - indent):
            self.y -= size * 1.25
            self.page.drawString(MARGIN + indent, self.y, line)
        self.y -= gap

    def done(self) -> bytes:
        """Finish; the PDF's bytes."""
        self.page.save()
        return self.buffer.getvalue()


def fit(aspect: float, width: float, height: float) -> tuple[float, float]:
    """Largest width and height of the given height/width ratio inside a box."""
    return (width, width * aspect) if width * aspect <= height else (height / aspect, height)


def draw_polygon(page: Page, polygon: Polygon, left: float, top: float, scale: float) -> None:
    """Outline of a polygon in y-down pixels, `scale` points to a pixel, from the top left corner given."""
    path = page.beginPath()
    for ring in (polygon.exterior, *polygon.interiors):
        points = list(ring.coords)
        path.moveTo(left + points[0][0] * scale, top - points[0][1] * scale)
        for x, y in points[1:]:
            path.lineTo(left + x * scale, top - y * scale)
    page.drawPath(path, stroke=1, fill=0)
