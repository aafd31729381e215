"""Sheets of paper: margins, headings, and on each a value wedge and a rule to check the print by.

Everything printed goes through `Sheet`: it wraps words, begins a new page where there is no more
room, and writes in fonts that are embedded, so that nothing leaves the margins or is cut off.
"""

from __future__ import annotations

import io
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from reportlab import rl_config
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas as Page
from shapely import Polygon

from truesitter.core.colour.value import value_to_srgb
from truesitter.core.refusal import Refusal
from truesitter.formats.print.fonts import BOLD, SANS, SERIF, width_of, wrapped

PAPERS = {"A4": A4, "Letter": LETTER}
MARGIN = 15 * mm
BOTTOM = 16 * mm
INK, GREY, HAIRLINE = HexColor("#1a1a1a"), HexColor("#6b6b6b"), HexColor("#b5b5b5")
_LEADING = 1.3

__all__ = ["BOLD", "SANS", "SERIF"]


@dataclass(frozen=True)
class Words:
    """A run of words in one style."""

    text: str
    size: float = 9
    font: str = SANS
    grey: bool = False

    def lines(self, width: float) -> list[str]:
        """Broken into lines."""
        return wrapped(self.text, self.font, self.size, width)


@dataclass(frozen=True)
class Art:
    """A drawing of a size in points; `draw` is given the page and its top left corner."""

    width: float
    height: float
    draw: Callable[[Page, float, float], None]


# Pictures lie in the file as they are packed: telling them in letters takes seconds and a quarter more room.
rl_config.useA85 = 0


class Sheet:
    """A PDF under way: where the pen stands, and how to start a page."""

    def __init__(self, paper: str, title: str) -> None:
        if paper not in PAPERS:
            raise Refusal(f"sheets are printed on {' or '.join(PAPERS)}, not on “{paper}”")
        self.width, self.height = PAPERS[paper]
        self.buffer = io.BytesIO()
        self.page = Page(self.buffer, pagesize=PAPERS[paper], invariant=1)
        self.page.setTitle(title)
        self.title, self.heading = title, ""
        self.number = 0
        self.y = 0.0

    @property
    def inner(self) -> float:
        """Width between the margins, in points."""
        return float(self.width - 2 * MARGIN)

    @property
    def left_over(self) -> float:
        """Points left above the bottom margin."""
        return float(self.y - BOTTOM)

    def start(self, heading: str) -> None:
        """Begin a page with a heading, the title, a value wedge and a rule."""
        if self.number:
            self.page.showPage()
        self.number += 1
        self.heading = heading
        self._wedge_and_rule()
        self.line(str(self.number), self.width - MARGIN, 8 * mm, 8, align="right")
        self.y = self.height - MARGIN + 4
        self._write(Words(heading, 16, SERIF), 0)
        self._write(Words(self.title, 8, grey=True), 0)
        self.y -= 6

    def room(self, needed: float) -> None:
        """Begin a page when less than `needed` points are left."""
        if self.left_over < needed:
            self.start(self.heading)

    def text(
        self, words: str, size: float = 9, indent: float = 0, gap: float = 2, grey: bool = False
    ) -> None:
        """Write words below what is there."""
        self._write(Words(words, size, grey=grey), indent)
        self.y -= gap

    def section(self, words: str, keep: float = 0) -> None:
        """A heading inside the page, on the same page as the `keep` points that follow it."""
        self.room(26 + keep)
        self.y -= 6
        self._write(Words(words, 12, SERIF), 0)
        self.y -= 3

    def entry(self, art: Art, words: Sequence[Words], gap: float = 6) -> None:
        """A drawing at the left and words beside it, kept together where a page can hold them."""
        indent = art.width + 4 * mm
        width = self.inner - indent
        tall = sum(len(w.lines(width)) * w.size * _LEADING for w in words)
        self.room(min(max(tall, art.height), self.height - 2 * MARGIN - BOTTOM - 60))
        top, number = self.y, self.number
        art.draw(self.page, MARGIN, top)
        for run in words:
            self._write(run, indent)
        if self.number == number:
            self.y = min(self.y, top - art.height)
        self.y -= gap

    def line(
        self, words: str, x: float, y: float, size: float, align: str = "left", font: str = SANS
    ) -> None:
        """A single short line at a place; it is made smaller where it would leave the page."""
        (shown,) = wrapped(words, font, size, float("inf"))
        before, after = x - MARGIN, self.width - MARGIN - x
        room = {"left": after, "right": before, "centre": 2 * min(before, after)}[align]
        size *= min(1.0, room / max(1e-6, width_of(shown, font, size)))
        self.page.setFont(font, size)
        draw = {"left": self.page.drawString, "right": self.page.drawRightString,
                "centre": self.page.drawCentredString}[align]  # fmt: skip
        draw(x, y, shown)

    def _write(self, words: Words, indent: float) -> None:
        for line in words.lines(self.inner - indent):
            if self.left_over < words.size * _LEADING and self.number:
                self.start(self.heading)
            self.y -= words.size * _LEADING
            self.page.setFillColor(GREY if words.grey else INK)
            self.page.setFont(words.font, words.size)
            self.page.drawString(MARGIN + indent, self.y, line)

    def _wedge_and_rule(self) -> None:
        """Value steps 0–10 and a 100 mm rule, so that the print itself can be checked."""
        page, bottom = self.page, 7 * mm
        for step in range(11):
            luminance = float(value_to_srgb(step))
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
        self.line("100 mm: measure this before trusting the print", left, bottom + 2.6 * mm, 6)

    def done(self) -> bytes:
        """Finish; the PDF's bytes."""
        self.page.save()
        return self.buffer.getvalue()


def swatches(hexes: Sequence[str], width: float, height: float) -> Art:
    """Colours side by side."""
    each = width / len(hexes)

    def draw(page: Page, left: float, top: float) -> None:
        for column, hex_ in enumerate(hexes):
            page.setFillColor(HexColor(hex_))
            page.rect(left + column * each, top - height, each, height, fill=1, stroke=0)

    return Art(width, height, draw)


def tick_box(hex_: str) -> Art:
    """A box to tick, and a dab of a colour."""

    def draw(page: Page, left: float, top: float) -> None:
        page.setStrokeColor(INK)
        page.setLineWidth(0.6)
        page.rect(left, top - 10, 9, 9, fill=0, stroke=1)
        page.setFillColor(HexColor(hex_))
        page.rect(left + 14, top - 11, 26, 11, fill=1, stroke=0)

    return Art(40, 12, draw)


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
