"""Light to take along: a drawing in canvas millimetres, and a sheet to print."""

from __future__ import annotations

from collections.abc import Iterable

import cv2
import numpy as np
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas as Page

from truesitter.core.stages import Study
from truesitter.core.types import Doubles, Labels, Mask
from truesitter.formats.documents.plan_light import PlanLight, light_of
from truesitter.formats.print.sheet import HAIRLINE, INK, SANS, Art, Sheet, fit
from truesitter.formats.print.svg import document, path
from truesitter.formats.words.wording import Counting, parts_sentence

_SHORTEST = 8


def light_svg(study: Study) -> str:
    """Peaks, zones, rays, outer limits, terminator and recesses, each a group of its own."""
    reference = study.settings.reference
    size = reference.canvas_width_mm, reference.canvas_height_mm
    light, recesses = study.light.zones(), study.light.recesses()
    body = []
    for zone in (4, 3, 2, 1):
        inside = (light.zones > 0) & (light.zones <= zone)
        body.append(f'<g id="zone-{zone}" fill="none" stroke="#000" stroke-width="{0.5 - 0.08 * zone:.2f}">')
        body += _paths(_contours(inside, size))
        body.append("</g>")
    body.append('<g id="rays" stroke="#000" stroke-width="0.12">')
    body += [
        f'<line x1="{r.start[0] * size[0]:.2f}" y1="{r.start[1] * size[1]:.2f}"'
        f' x2="{r.end[0] * size[0]:.2f}" y2="{r.end[1] * size[1]:.2f}"/>'
        for r in light.rays
    ]
    body.append("</g>")
    body.append('<g id="limits" fill="none" stroke="#000" stroke-width="0.4" stroke-dasharray="0.4 1.6">')
    body += _paths((limit * size for limit in study.light.limits()), closed=True)
    body.append("</g>")
    body.append('<g id="terminator" fill="none" stroke="#000" stroke-width="0.6" stroke-dasharray="3 1.5">')
    body += _paths((line * size for line in study.accents.form().terminator), closed=False)
    body.append("</g>")
    for name, mask in (("recess-first", recesses.first > 0), ("recess-dark", recesses.dark)):
        body.append(f'<g id="{name}" fill="{"none" if name == "recess-first" else "#000"}" stroke="#000"'
                    ' stroke-width="0.2">')  # fmt: skip
        body += _paths(_contours(mask, size))
        body.append("</g>")
    body.append('<g id="peaks" font-family="sans-serif" font-size="4" text-anchor="middle">')
    for number, peak in enumerate(light.peaks, 1):
        x, y = peak.x * size[0], peak.y * size[1]
        body.append(
            f'<circle cx="{x:.2f}" cy="{y:.2f}" r="1"/><text x="{x:.2f}" y="{y - 2:.2f}">{number}</text>'
        )
    body.append("</g>")
    return document(*size, "Light: peaks, zones, limits and recesses", body)


def _contours(mask: Mask | Labels, size: tuple[float, float]) -> list[Doubles]:
    """Outlines of a mask in mm."""
    found, _ = cv2.findContours(np.asarray(mask).astype(np.uint8), cv2.RETR_LIST, cv2.CHAIN_APPROX_TC89_L1)
    scale = np.array(size) / (mask.shape[1], mask.shape[0])
    return [(c[:, 0].astype(np.float64) + 0.5) * scale for c in found if len(c) >= _SHORTEST]


def _paths(lines: Iterable[Doubles], closed: bool = True) -> list[str]:
    end = "Z" if closed else ""
    return [f'<path d="{path(line, end)}"/>' for line in lines]


def light_pdf(study: Study, title: str, paper: str, counting: Counting) -> bytes:
    """The light as a list to work from: where it comes from, form, peaks, highlights, recesses, ceilings."""
    light, rack = light_of(study), study.flesh.palette().rack
    sheet = Sheet(paper, title)
    sheet.start("Light")
    for line in _where(light):
        sheet.text(line, gap=4)
    sheet.entry(_drawing(study, sheet.inner, 110 * mm), [])
    sheet.text(
        "Heavy: zone 1, then 2 to 4. Dotted: the outer limit. Black: recesses. Numbers: peaks.", grey=True
    )
    sheet.section("Form of the skin")
    for form in light.form:
        sheet.text(
            f"{form.name}: value {counting(form.value)}, {form.share * 100:.0f} % of the skin. "
            f"{parts_sentence(form.parts, rack)}",
            gap=4,
        )
    report = study.accents.form()
    if report.passage is not None:
        sheet.text(f"From light to shadow {report.passage.in_words()}.", gap=4)
    sheet.section("Light peaks and how light they may be")
    for number, peak in enumerate(light.peaks, 1):
        sheet.text(
            f"{number}  {peak.place}: value {counting(peak.value)}, at most {counting(peak.ceiling)}", gap=2
        )
    for ceiling in light.ceilings:
        if ceiling.vanishing:
            sheet.text(f"{ceiling.place}: in danger of vanishing; darken what it turns from.", gap=2)
        elif ceiling.over >= 0.1:
            sheet.text(f"{ceiling.place}: {ceiling.over:.1f} steps lighter than it may be.", gap=2)
    sheet.section("Highlights")
    for h in light.highlights:
        sheet.text(f"{h.place}: {h.kind}, {h.edge}, value {counting(h.value)}: {h.how}.", gap=2)
    sheet.section("Recesses")
    for r in light.recesses:
        soft = f", soft {r.soft}" if r.soft else ""
        sheet.text(f"{r.place}: {r.depth:.1f} steps deep, {r.width_mm:.1f} mm wide{soft}", gap=2)
    coats = study.accents.recess_coats()
    if coats is not None:
        sheet.text(f"First coat: {parts_sentence(coats[0].parts, rack)}", gap=4)
        sheet.text(f"Dark over at most half of it: {parts_sentence(coats[1].parts, rack)}", gap=4)
    return sheet.done()


def _drawing(study: Study, width: float, height: float) -> Art:
    """Zones, limits, recesses and peaks of the picture, as large as there is room."""
    light, recesses = study.light.zones(), study.light.recesses()
    aspect = light.zones.shape[0] / light.zones.shape[1]
    wide, tall = fit(aspect, width, height)
    size = wide, tall
    zones = [_contours((light.zones > 0) & (light.zones <= zone), size) for zone in (1, 2, 3, 4)]
    darks = _contours(recesses.dark, size)
    limits = [limit * size for limit in study.light.limits()]

    def draw(page: Page, left: float, top: float) -> None:
        def path(line: Doubles, fill: int = 0) -> None:
            drawn = page.beginPath()
            drawn.moveTo(left + line[0, 0], top - line[0, 1])
            for x, y in line[1:]:
                drawn.lineTo(left + x, top - y)
            drawn.close()
            page.drawPath(drawn, stroke=1 - fill, fill=fill)

        page.setStrokeColor(HAIRLINE)
        page.rect(left, top - tall, wide, tall)
        page.setStrokeColor(INK)
        page.setFillColor(INK)
        for weight, lines in zip((1.2, 0.8, 0.5, 0.25), zones, strict=True):
            page.setLineWidth(weight)
            for line in lines:
                path(line)
        page.setDash(1, 2)
        for line in limits:
            path(line)
        page.setDash()
        for line in darks:
            path(line, 1)
        page.setFont(SANS, 8)
        for number, peak in enumerate(light.peaks, 1):
            page.drawCentredString(left + peak.x * wide, top - peak.y * tall - 3, str(number))

    return Art(wide, tall, draw)


def _where(light: PlanLight) -> list[str]:
    if light.direction is None:
        return ["Nothing tells where the light comes from; set it by hand on the screen."]
    lines = [f"The key light comes from the {light.direction.words}."]
    if light.direction.second:
        lines.append(f"A second one comes from the {light.direction.second.words}.")
    return lines
