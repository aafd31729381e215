"""The printed plan: reference, groups, outlines with grid, mixtures, passes and cautions."""

from __future__ import annotations

import io
from collections.abc import Sequence

from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas as Page

from truesitter.core.colour.spaces import lab_to_srgb, srgb_to_hex
from truesitter.core.colour.value import value_to_srgb
from truesitter.core.paint.tubes.cautions import cautions_for
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.stages import Study
from truesitter.formats.documents.plan import Plan, tubes_used
from truesitter.formats.documents.plan_heaps import heap_sentence
from truesitter.formats.documents.plan_passes import PlanPass
from truesitter.formats.pictures.views import VIEWS
from truesitter.formats.print.sheet import (
    BOLD,
    BOTTOM,
    GREY,
    HAIRLINE,
    INK,
    MARGIN,
    Art,
    Sheet,
    Words,
    draw_polygon,
    fit,
    swatches,
    tick_box,
)
from truesitter.formats.words.wording import Counting, duration, parts_sentence


def _reference_page(sheet: Sheet, study: Study, plan: Plan, counting: Counting) -> None:
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
        grey = float(value_to_srgb(group.value))
        words = (
            f"{group.index + 1}  {group.name}: value {counting(group.value)} (from {counting(group.low)} to "
            f"{counting(group.high)}), {group.share:.0%} of the picture, {group.area_cm2:.0f} cm²"
        )
        sheet.entry(swatches((srgb_to_hex([grey] * 3),), 22, 11), [Words(words)], gap=3)


def _outline_page(sheet: Sheet, study: Study, plan: Plan) -> None:
    sheet.start("Outlines and grid")
    reference = study.settings.reference
    drawing = study.values.outlines()
    width, height = fit(drawing.grid[0] / drawing.grid[1], sheet.inner - 8 * mm, sheet.left_over - 14 * mm)
    scale, left, top = width / drawing.grid[1], MARGIN + (sheet.inner - width) / 2, sheet.y - 4 * mm
    page = sheet.page
    page.setStrokeColor(HAIRLINE)
    page.setLineWidth(0.5)
    grid, to_points = reference.canvas_grid(), width / plan.reference.canvas_mm[0]
    page.rect(left, top - height, width, height, fill=0, stroke=1)
    for x1, y1, x2, y2 in grid.lines:
        page.line(left + x1 * to_points, top - y1 * to_points, left + x2 * to_points, top - y2 * to_points)
    page.setFillColor(GREY)
    for x, name in grid.columns:
        sheet.line(name, left + x * to_points, top + 2, 7, align="centre")
    for y, name in grid.rows:
        sheet.line(name, left - 3, top - y * to_points - 2, 7, align="right")
    page.setStrokeColor(INK)
    page.setLineWidth(0.35)
    page.setFillColor(INK)
    for outline in drawing.outlines:
        draw_polygon(page, outline.polygon, left, top, scale)
        size = min(9.0, outline.radius * scale * 1.2)
        if size >= 3:
            x, y = outline.number_at
            number = str(outline.group + 1)
            sheet.line(number, left + x * scale, top - y * scale - size * 0.35, size, align="centre")
    canvas = plan.reference.canvas_mm
    sheet.y = top - height - 2 * mm
    cell = (
        f"One square of the grid is {grid.cell_mm[0]:.1f} × {grid.cell_mm[1]:.1f} mm on the canvas. "
        if grid.cell_mm
        else ""
    )
    sheet.text(f"{cell}This drawing is {width / mm / canvas[0]:.0%} of its size.", 8)


def _dabs(page: Page, parts: dict[str, int], rack: Rack, left: float, top: float, width: float) -> None:
    total = sum(parts.values())
    for key, count in parts.items():
        share = width * count / total
        page.setFillColor(HexColor(rack.tube(key).masstone_hex()))
        page.rect(left, top - 9, share, 9, fill=1, stroke=0)
        left += share


def _pair_and_dabs(hexes: Sequence[str], parts: dict[str, int], rack: Rack) -> Art:
    """Wanted beside predicted, and the tubes' own colours by their parts below."""
    pair = swatches(hexes, 68, 24)

    def draw(page: Page, left: float, top: float) -> None:
        pair.draw(page, left, top)
        _dabs(page, parts, rack, left, top - 27, 68)

    return Art(68, 38, draw)


def _mixture_pages(sheet: Sheet, plan: Plan, rack: Rack, counting: Counting) -> None:
    sheet.start("Flesh mixtures")
    names = {g.index: g.name for g in plan.values.groups}
    sheet.text("Tubes set out: " + ", ".join(rack.pigment(k).name for k in plan.flesh.palette) + ".", gap=6)
    if not plan.flesh.mixtures:
        sheet.text("No skin was found in the picture, so there is nothing to mix for.")
    for mixture in reversed(plan.flesh.mixtures):
        target = srgb_to_hex(lab_to_srgb(list(mixture.target_lab)))
        thinned = mixture.dilution.words if mixture.dilution else None
        note = f"ΔE {mixture.delta_e:.1f}, {counting.error(mixture.value_error)}"
        if mixture.suggested_tube:
            note += f"; cannot be reached: add {rack.pigment(mixture.suggested_tube).name}"
        elif not mixture.reached:
            note += "; cannot be reached with these tubes"
        sheet.entry(
            _pair_and_dabs((target, mixture.predicted_hex), mixture.parts, rack),
            [
                Words(f"{mixture.group + 1}  {names[mixture.group]}", 9, BOLD),
                Words(
                    parts_sentence(mixture.parts, rack, thinned),
                    9,
                ),
                Words(note, 8, grey=True),
            ],
        )


def _laid(current: PlanPass) -> str:
    """The film, how the paint is thinned, or how much is taken off."""
    if current.taken:
        return "; ".join(f"{t.name}: {t.words}" for t in current.taken)
    if not current.thinned:
        return f"film {current.film_mm:.3g} mm"
    return "; ".join(f"{t.name}: {t.dilution.words}" if t.name else t.dilution.words for t in current.thinned)


def _open(current: PlanPass) -> str:
    """How long edges stay open, and in how many goes that lets it be laid."""
    words = f"Edges can be moved for {duration(current.open_minutes)} at most."
    if current.goes:
        words += f" Lay whole shapes in {len(current.goes)} goes and soften each before the next: "
        words += "; ".join(f"{g.place}, {g.area_cm2:.0f} cm²" for g in current.goes) + "."
    return words


def _told(current: PlanPass) -> str:
    """How it is laid and how long it stays open."""
    return " ".join(words for words in (current.note, current.wash_words, _open(current)) if words)


def _pass_words(number: int, current: PlanPass, rack: Rack, counting: Counting) -> list[Words]:
    words = [
        Words(f"{number}  {current.name}", 9, BOLD),
        Words(f"{current.mix_words or parts_sentence(current.parts, rack) or 'Nothing is mixed'}.", 8.5),
        Words(
            f"Value {counting(current.value)}; {_laid(current)}; {current.tool}; "
            f"edge {current.edge.words}; {current.area_cm2:.0f} cm², "
            f"{current.ml:.1f} ml. {_told(current)}",
            8,
        ),
    ]
    if current.lines:
        words.append(Words(f"{current.lines} line{'s' if current.lines > 1 else ''} of a small brush.", 8))
    if current.seams:
        words.append(Words(f"Borders {'; '.join(s.words for s in current.seams)}.", 8))
    if current.into_wet:
        words.append(Words("Into the wet paint below: do not wait.", 8))
    if current.wait_minutes >= 1:
        words.append(Words(f"Then wait {duration(current.wait_minutes)}.", 8))
    return words


def _pass_pages(sheet: Sheet, plan: Plan, rack: Rack, counting: Counting) -> None:
    if plan.heaps:
        sheet.start("Heaps")
        sheet.text("Mixed once; every pass is one of them as it is, two together, or one with a tube.", gap=6)
        for heap in plan.heaps:
            sheet.entry(tick_box(heap.hex), [Words(heap_sentence(heap, rack, counting), 9)])
    sheet.start("Passes")
    for number, current in enumerate(plan.passes, 1):
        sheet.entry(tick_box(current.predicted_hex), _pass_words(number, current, rack, counting))
    for remark in plan.remarks:
        sheet.text(remark, 8)


def _caution_page(sheet: Sheet, cautions: Sequence[str]) -> None:
    sheet.section("Cautions", min(40 * mm, sheet.height - 2 * MARGIN - BOTTOM))
    for line in cautions:
        sheet.text(line, 8.5)


def plan_pdf(study: Study, plan: Plan, title: str, paper: str, counting: Counting) -> bytes:
    """The whole plan as a PDF to print.

    Parameters
    ----------
    title
        Name of the sitter, on every page.
    paper
        ``A4`` (ISO 216) or ``Letter``.
    counting
        How values are counted.
    """
    sheet, rack = Sheet(paper, title), study.flesh.palette().rack
    _reference_page(sheet, study, plan, counting)
    _outline_page(sheet, study, plan)
    _mixture_pages(sheet, plan, rack, counting)
    _pass_pages(sheet, plan, rack, counting)
    medium = None if study.passes.refused() else study.passes.plan().medium
    _caution_page(sheet, cautions_for(tubes_used(plan, rack), rack, medium))
    return sheet.done()
