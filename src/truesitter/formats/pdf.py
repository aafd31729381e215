"""The printed sheet: reference, groups, outlines with grid, mixtures, passes and cautions."""

from __future__ import annotations

import io
from collections.abc import Sequence

from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader

from truesitter.core.colour.spaces import lab_to_srgb, linear_to_srgb, srgb_to_hex
from truesitter.core.colour.value import value_to_luminance
from truesitter.core.paint.cautions import cautions_for
from truesitter.core.paint.rack import Rack
from truesitter.core.study import Study
from truesitter.formats.pictures import VIEWS
from truesitter.formats.plan import Plan, tubes_used
from truesitter.formats.sheet import GREY, HAIRLINE, INK, MARGIN, Sheet, draw_polygon, fit
from truesitter.formats.wording import duration, parts_sentence


def _reference_page(sheet: Sheet, study: Study, plan: Plan) -> None:
    sheet.start("Reference and value groups")
    aspect = plan.reference.height / plan.reference.width
    width, height = fit(aspect, (sheet.inner - 6 * mm) / 2, 120 * mm)
    for column, view in enumerate(("colour", "groups")):
        picture = ImageReader(io.BytesIO(VIEWS[view].make(study)[0]))
        left = MARGIN + column * (sheet.inner + 6 * mm) / 2
        sheet.page.drawImage(picture, left, sheet.y - height, width, height)
    sheet.y -= height + 6 * mm
    canvas = plan.reference.canvas_mm
    sheet.text(f"Canvas {canvas[0]:g} × {canvas[1]:g} mm.", 10, gap=4)
    for group in reversed(plan.values.groups):
        sheet.room(16, "Value groups")
        top = sheet.y - 12
        grey = float(linear_to_srgb(value_to_luminance(group.value)))
        sheet.page.setFillGray(grey)
        sheet.page.setStrokeColor(HAIRLINE)
        sheet.page.rect(MARGIN, top, 22, 11, fill=1, stroke=1)
        sheet.page.setFillColor(INK)
        sheet.page.setFont("Helvetica", 9)
        sheet.page.drawString(
            MARGIN + 30, top + 2.5,
            f"{group.index + 1}  {group.name}: value {group.value:.1f} (from {group.low:.1f} to "
            f"{group.high:.1f}), {group.share:.0%} of the picture, {group.area_cm2:.0f} cm²",
        )  # fmt: skip
        sheet.y -= 15


def _outline_page(sheet: Sheet, study: Study, plan: Plan) -> None:
    sheet.start("Outlines and grid")
    reference = study.settings.reference
    drawing = study.values.outlines()
    width, height = fit(drawing.grid[0] / drawing.grid[1], sheet.inner, sheet.y - 26 * mm)
    scale, left, top = width / drawing.grid[1], MARGIN + (sheet.inner - width) / 2, sheet.y - 4 * mm
    page = sheet.page
    page.setStrokeColor(HAIRLINE)
    page.setLineWidth(0.5)
    grid, to_points = reference.canvas_grid(), width / plan.reference.canvas_mm[0]
    page.rect(left, top - height, width, height, fill=0, stroke=1)
    for x1, y1, x2, y2 in grid.lines:
        page.line(left + x1 * to_points, top - y1 * to_points, left + x2 * to_points, top - y2 * to_points)
    page.setFillColor(GREY)
    page.setFont("Helvetica", 7)
    for x, name in grid.columns:
        page.drawCentredString(left + x * to_points, top + 2, name)
    for y, name in grid.rows:
        page.drawRightString(left - 3, top - y * to_points - 2, name)
    page.setStrokeColor(INK)
    page.setLineWidth(0.35)
    page.setFillColor(INK)
    for outline in drawing.outlines:
        draw_polygon(page, outline.polygon, left, top, scale)
        size = min(9.0, outline.radius * scale * 1.2)
        if size >= 3:
            page.setFont("Helvetica", size)
            x, y = outline.number_at
            page.drawCentredString(left + x * scale, top - y * scale - size * 0.35, str(outline.group + 1))
    canvas = plan.reference.canvas_mm
    sheet.y = top - height - 2 * mm
    cell = (
        f"One square of the grid is {grid.cell_mm[0]:.1f} × {grid.cell_mm[1]:.1f} mm on the canvas. "
        if grid.cell_mm
        else ""
    )
    sheet.text(
        f"{cell}This drawing is {width / mm / canvas[0]:.0%} of its size.",
        8,
    )


def _dabs(sheet: Sheet, parts: dict[str, int], rack: Rack, left: float, top: float, width: float) -> None:
    total = sum(parts.values())
    for key, count in parts.items():
        share = width * count / total
        sheet.page.setFillColor(HexColor(rack.tube(key).masstone_hex()))
        sheet.page.rect(left, top, share, 9, fill=1, stroke=0)
        left += share


def _mixture_pages(sheet: Sheet, plan: Plan, rack: Rack) -> None:
    sheet.start("Flesh mixtures")
    names = {g.index: g.name for g in plan.values.groups}
    sheet.text("Tubes set out: " + ", ".join(rack.pigment(k).name for k in plan.flesh.palette) + ".", gap=6)
    if not plan.flesh.mixtures:
        sheet.text("No skin was found in the picture, so there is nothing to mix for.")
    for mixture in reversed(plan.flesh.mixtures):
        sheet.room(46, "Flesh mixtures")
        top = sheet.y - 34
        target = srgb_to_hex(lab_to_srgb(list(mixture.target_lab)))
        for column, colour in enumerate((target, mixture.predicted_hex)):
            sheet.page.setFillColor(HexColor(colour))
            sheet.page.rect(MARGIN + column * 34, top, 34, 32, fill=1, stroke=0)
        _dabs(sheet, mixture.parts, rack, MARGIN + 80, top + 22, 160)
        sheet.page.setFillColor(INK)
        sheet.page.setFont("Helvetica-Bold", 9)
        sheet.page.drawString(MARGIN + 250, top + 23, f"{mixture.group + 1}  {names[mixture.group]}")
        sheet.page.setFont("Helvetica", 9)
        sheet.page.drawString(MARGIN + 80, top + 10, parts_sentence(mixture.parts, rack, mixture.film_mm))
        note = f"ΔE {mixture.delta_e:.1f}, value {mixture.value_error:+.2f} steps"
        if mixture.suggested_tube:
            note += f"; cannot be reached: add {rack.pigment(mixture.suggested_tube).name}"
        elif not mixture.reached:
            note += "; cannot be reached with these tubes"
        sheet.page.setFont("Helvetica", 8)
        sheet.page.setFillColor(GREY)
        sheet.page.drawString(MARGIN + 80, top, note.replace("Δ", "d"))
        sheet.y -= 44


def _pass_pages(sheet: Sheet, plan: Plan, rack: Rack) -> None:
    heading = "Passes"
    sheet.start(heading)
    for number, current in enumerate(plan.passes, 1):
        sheet.room(54, heading)
        top = sheet.y - 12
        page = sheet.page
        page.setStrokeColor(INK)
        page.setLineWidth(0.6)
        page.rect(MARGIN, top, 9, 9, fill=0, stroke=1)
        page.setFillColor(HexColor(current.predicted_hex))
        page.rect(MARGIN + 16, top - 1, 26, 11, fill=1, stroke=0)
        page.setFillColor(INK)
        page.setFont("Helvetica-Bold", 9)
        page.drawString(MARGIN + 50, top + 1, f"{number}  {current.name}")
        sheet.y = top - 1
        sheet.text(parts_sentence(current.parts, rack) + ".", 8.5, indent=50, gap=0)
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


def _caution_page(sheet: Sheet, cautions: Sequence[str]) -> None:
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
    sheet, rack = Sheet(paper, title), study.flesh.palette().rack
    _reference_page(sheet, study, plan)
    _outline_page(sheet, study, plan)
    _mixture_pages(sheet, plan, rack)
    _pass_pages(sheet, plan, rack)
    _caution_page(sheet, cautions_for(tubes_used(plan, rack), rack))
    return sheet.done()
