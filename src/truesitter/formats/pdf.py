"""The printed sheet: reference, groups, outlines with grid, mixtures, passes and cautions."""

from __future__ import annotations

import io
from collections.abc import Sequence

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader, simpleSplit
from reportlab.pdfgen.canvas import Canvas as Page
from shapely import Polygon

from truesitter.core.colour.spaces import lab_to_srgb, linear_to_srgb, srgb_to_hex
from truesitter.core.colour.value import value_to_luminance
from truesitter.core.paint.cautions import cautions_for
from truesitter.core.paint.pigments import pigment_curves, pigment_library
from truesitter.core.study import Study
from truesitter.formats.pictures import VIEWS
from truesitter.formats.plan import Plan, tubes_used
from truesitter.formats.wording import duration, parts_sentence

PAPERS = {"A4": A4, "Letter": LETTER}
_MARGIN = 15 * mm
_INK, _GREY, _HAIRLINE = HexColor("#1a1a1a"), HexColor("#6b6b6b"), HexColor("#b5b5b5")


class _Sheet:
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
        return float(self.width - 2 * _MARGIN)

    def start(self, heading: str) -> None:
        if self.number:
            self.page.showPage()
        self.number += 1
        page = self.page
        page.setFillColor(_INK)
        page.setFont("Times-Roman", 17)
        page.drawString(_MARGIN, self.height - _MARGIN - 10, heading)
        page.setFont("Helvetica", 8)
        page.setFillColor(_GREY)
        page.drawRightString(self.width - _MARGIN, self.height - _MARGIN - 8, self.title)
        page.drawRightString(self.width - _MARGIN, 8 * mm, str(self.number))
        self._wedge_and_rule()
        self.y = self.height - _MARGIN - 24

    def _wedge_and_rule(self) -> None:
        """Value steps 0–10 and a 100 mm rule, so that the print itself can be checked."""
        page, bottom = self.page, 7 * mm
        for step in range(11):
            luminance = float(linear_to_srgb(value_to_luminance(step)))
            page.setFillGray(luminance)
            page.setStrokeColor(_HAIRLINE)
            page.rect(_MARGIN + step * 5 * mm, bottom, 5 * mm, 4 * mm, fill=1, stroke=1)
        left = _MARGIN + 60 * mm
        page.setStrokeColor(_INK)
        page.setLineWidth(0.4)
        page.line(left, bottom, left + 100 * mm, bottom)
        for tick in range(11):
            page.line(left + tick * 10 * mm, bottom, left + tick * 10 * mm, bottom + 2 * mm)
        page.setFillColor(_GREY)
        page.setFont("Helvetica", 6)
        page.drawString(left, bottom + 2.6 * mm, "100 mm: measure this before trusting the print")

    def room(self, needed: float, heading: str) -> None:
        if self.y - needed < 16 * mm:
            self.start(heading)

    def text(self, words: str, size: float = 9, indent: float = 0, gap: float = 2) -> None:
        self.page.setFont("Helvetica", size)
        self.page.setFillColor(_INK)
        for line in simpleSplit(words, "Helvetica", size, self.inner - indent):
            self.y -= size * 1.25
            self.page.drawString(_MARGIN + indent, self.y, line)
        self.y -= gap

    def done(self) -> bytes:
        self.page.save()
        return self.buffer.getvalue()


def _fit(aspect: float, width: float, height: float) -> tuple[float, float]:
    """Largest width and height of the given height/width ratio inside a box."""
    return (width, width * aspect) if width * aspect <= height else (height / aspect, height)


def _reference_page(sheet: _Sheet, study: Study, plan: Plan) -> None:
    sheet.start("Reference and value groups")
    aspect = plan.reference.height / plan.reference.width
    width, height = _fit(aspect, (sheet.inner - 6 * mm) / 2, 120 * mm)
    for column, view in enumerate(("colour", "groups")):
        picture = ImageReader(io.BytesIO(VIEWS[view].make(study)[0]))
        left = _MARGIN + column * (sheet.inner + 6 * mm) / 2
        sheet.page.drawImage(picture, left, sheet.y - height, width, height)
    sheet.y -= height + 6 * mm
    canvas = plan.reference.canvas_mm
    sheet.text(f"Canvas {canvas[0]:g} × {canvas[1]:g} mm.", 10, gap=4)
    for group in reversed(plan.values.groups):
        sheet.room(16, "Value groups")
        top = sheet.y - 12
        grey = float(linear_to_srgb(value_to_luminance(group.value)))
        sheet.page.setFillGray(grey)
        sheet.page.setStrokeColor(_HAIRLINE)
        sheet.page.rect(_MARGIN, top, 22, 11, fill=1, stroke=1)
        sheet.page.setFillColor(_INK)
        sheet.page.setFont("Helvetica", 9)
        sheet.page.drawString(
            _MARGIN + 30, top + 2.5,
            f"{group.index + 1}  {group.name}: value {group.value:.1f} (from {group.low:.1f} to "
            f"{group.high:.1f}), {group.share:.0%} of the picture, {group.area_cm2:.0f} cm²",
        )  # fmt: skip
        sheet.y -= 15


def _draw_polygon(page: Page, polygon: Polygon, left: float, top: float, scale: float) -> None:
    path = page.beginPath()
    for ring in (polygon.exterior, *polygon.interiors):
        points = list(ring.coords)
        path.moveTo(left + points[0][0] * scale, top - points[0][1] * scale)
        for x, y in points[1:]:
            path.lineTo(left + x * scale, top - y * scale)
    page.drawPath(path, stroke=1, fill=0)


def _outline_page(sheet: _Sheet, study: Study, plan: Plan) -> None:
    sheet.start("Outlines and grid")
    reference = study.settings.reference
    drawing = study.values.outlines()
    width, height = _fit(drawing.grid[0] / drawing.grid[1], sheet.inner, sheet.y - 26 * mm)
    scale, left, top = width / drawing.grid[1], _MARGIN + (sheet.inner - width) / 2, sheet.y - 4 * mm
    page = sheet.page
    page.setStrokeColor(_HAIRLINE)
    page.setLineWidth(0.5)
    for column in range(reference.grid_columns + 1):
        x = left + width * column / reference.grid_columns
        page.line(x, top, x, top - height)
    for row in range(reference.grid_rows + 1):
        y = top - height * row / reference.grid_rows
        page.line(left, y, left + width, y)
    page.setFillColor(_GREY)
    page.setFont("Helvetica", 7)
    for column in range(reference.grid_columns):
        page.drawCentredString(
            left + width * (column + 0.5) / reference.grid_columns, top + 2, str(column + 1)
        )
    for row in range(reference.grid_rows):
        page.drawRightString(left - 3, top - height * (row + 0.5) / reference.grid_rows, str(row + 1))
    page.setStrokeColor(_INK)
    page.setLineWidth(0.35)
    page.setFillColor(_INK)
    for outline in drawing.outlines:
        _draw_polygon(page, outline.polygon, left, top, scale)
        size = min(9.0, outline.radius * scale * 1.2)
        if size >= 3:
            page.setFont("Helvetica", size)
            x, y = outline.number_at
            page.drawCentredString(left + x * scale, top - y * scale - size * 0.35, str(outline.group + 1))
    canvas = plan.reference.canvas_mm
    sheet.y = top - height - 2 * mm
    sheet.text(
        f"One square of the grid is {canvas[0] / reference.grid_columns:.1f} × "
        f"{canvas[1] / reference.grid_rows:.1f} mm on the canvas. "
        f"This drawing is {width / mm / canvas[0]:.0%} of its size.",
        8,
    )


def _dabs(sheet: _Sheet, parts: dict[str, int], left: float, top: float, width: float) -> None:
    total = sum(parts.values())
    for key, count in parts.items():
        share = width * count / total
        sheet.page.setFillColor(HexColor(pigment_curves()[key].masstone_hex()))
        sheet.page.rect(left, top, share, 9, fill=1, stroke=0)
        left += share


def _mixture_pages(sheet: _Sheet, plan: Plan) -> None:
    sheet.start("Flesh mixtures")
    names = {g.index: g.name for g in plan.values.groups}
    sheet.text(
        "Tubes set out: " + ", ".join(pigment_library()[k].name for k in plan.flesh.palette) + ".", gap=6
    )
    if not plan.flesh.mixtures:
        sheet.text("No skin was found in the picture, so there is nothing to mix for.")
    for mixture in reversed(plan.flesh.mixtures):
        sheet.room(46, "Flesh mixtures")
        top = sheet.y - 34
        target = srgb_to_hex(lab_to_srgb(list(mixture.target_lab)))
        for column, colour in enumerate((target, mixture.predicted_hex)):
            sheet.page.setFillColor(HexColor(colour))
            sheet.page.rect(_MARGIN + column * 34, top, 34, 32, fill=1, stroke=0)
        _dabs(sheet, mixture.parts, _MARGIN + 80, top + 22, 160)
        sheet.page.setFillColor(_INK)
        sheet.page.setFont("Helvetica-Bold", 9)
        sheet.page.drawString(_MARGIN + 250, top + 23, f"{mixture.group + 1}  {names[mixture.group]}")
        sheet.page.setFont("Helvetica", 9)
        sheet.page.drawString(_MARGIN + 80, top + 10, parts_sentence(mixture.parts, mixture.film_mm))
        note = f"ΔE {mixture.delta_e:.1f}, value {mixture.value_error:+.2f} steps"
        if mixture.suggested_tube:
            note += f"; cannot be reached: add {pigment_library()[mixture.suggested_tube].name}"
        elif not mixture.reached:
            note += "; cannot be reached with these tubes"
        sheet.page.setFont("Helvetica", 8)
        sheet.page.setFillColor(_GREY)
        sheet.page.drawString(_MARGIN + 80, top, note.replace("Δ", "d"))
        sheet.y -= 44


def _pass_pages(sheet: _Sheet, plan: Plan) -> None:
    heading = "Passes"
    sheet.start(heading)
    for number, current in enumerate(plan.passes, 1):
        sheet.room(54, heading)
        top = sheet.y - 12
        page = sheet.page
        page.setStrokeColor(_INK)
        page.setLineWidth(0.6)
        page.rect(_MARGIN, top, 9, 9, fill=0, stroke=1)
        page.setFillColor(HexColor(current.predicted_hex))
        page.rect(_MARGIN + 16, top - 1, 26, 11, fill=1, stroke=0)
        page.setFillColor(_INK)
        page.setFont("Helvetica-Bold", 9)
        page.drawString(_MARGIN + 50, top + 1, f"{number}  {current.name}")
        sheet.y = top - 1
        sheet.text(parts_sentence(current.parts) + ".", 8.5, indent=50, gap=0)
        sheet.text(
            f"Value {current.value:.1f}; film {current.film_mm:.3g} mm; {current.tool}, up to "
            f"{current.brush_mm:g} mm; edge {current.edge}; {current.area_cm2:.0f} cm², "
            f"{current.ml:.1f} ml. {current.note}",
            8, indent=50, gap=0,
        )  # fmt: skip
        if current.wait_minutes >= 1:
            sheet.text(f"Then wait {duration(current.wait_minutes)}.", 8, indent=50, gap=0)
        sheet.y -= 5
    for remark in plan.remarks:
        sheet.room(24, heading)
        sheet.text(remark.replace("Δ", "d"), 8)


def _caution_page(sheet: _Sheet, cautions: Sequence[str]) -> None:
    sheet.room(40 + 24 * len(cautions), "Cautions")
    sheet.y -= 10
    sheet.text("Cautions", 12, gap=3)
    for line in cautions:
        sheet.text(line, 8.5)


def plan_pdf(study: Study, plan: Plan, title: str, paper: str = "A4") -> bytes:
    """The whole plan as a PDF to print.

    Parameters
    ----------
    title
        Name of the sitter, on every page.
    paper
        ``A4`` (ISO 216) or ``Letter``.
    """
    sheet = _Sheet(paper, title)
    _reference_page(sheet, study, plan)
    _outline_page(sheet, study, plan)
    _mixture_pages(sheet, plan)
    _pass_pages(sheet, plan)
    _caution_page(sheet, cautions_for(tubes_used(plan)))
    return sheet.done()
