"""Hair to take along: growth lines, strokes and arrows in canvas millimetres, prints at true size."""

from __future__ import annotations

from collections.abc import Iterable

import cv2
import numpy as np
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas as Page

from truesitter.core.hair.field.growth_lines import GrowthLine
from truesitter.core.imaging.line import Line
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.stages import Study
from truesitter.core.usecases.lock_mixtures import lock_mixtures
from truesitter.formats.documents.plan_hair import hairline_of
from truesitter.formats.documents.plan_locks import locks_of
from truesitter.formats.print.fonts import ready
from truesitter.formats.print.sheet import GREY, INK, SANS, Sheet
from truesitter.formats.print.strokes import line_row, outline_mm
from truesitter.formats.print.svg import coordinates, document, path
from truesitter.formats.print.transfer import print_tiled
from truesitter.formats.words.wording import parts_sentence

MOST_STROKES = 6000
"""More strokes than this of a layer are thinned evenly in the drawing."""

_SAMPLES = 3


def _canvas(study: Study) -> tuple[float, float]:
    reference = study.settings.reference
    return reference.canvas_width_mm, reference.canvas_height_mm


def hairline_svg(study: Study) -> str:
    """Every reading of the hairline in canvas millimetres: a ring as wide as seen, a dashed one as wanted."""
    canvas = _canvas(study)
    body = ['<g id="hairline" fill="none" stroke="#000">']
    for spot in hairline_of(study):
        x, y = spot.x * canvas[0], spot.y * canvas[1]
        said = f"{spot.seen_mm:.1f} mm seen, {spot.wanted_mm:.1f} mm wanted, shadow {spot.shadow_steps:.1f}"
        body.append(f'<g data-shadow="{spot.shadow_steps:.2f}"><title>{said}</title>')
        for wide, dash in ((spot.seen_mm, "none"), (spot.wanted_mm, "0.8 0.8")):
            ring = f'cx="{x:.2f}" cy="{y:.2f}" r="{max(wide / 2, 0.2):.2f}"'
            body.append(f'<circle {ring} stroke-width="0.25" stroke-dasharray="{dash}"/>')
        body.append("</g>")
    body.append("</g>")
    forms = study.hair_layers.light_forms()
    if forms is not None:
        body.append('<g id="light-forms" fill="none" stroke="#000" stroke-linecap="round">')
        weight = f'stroke-width="{max(forms.wide_mm, 0.1):.2f}"'
        for form in forms.forms:
            body.append(f'<g data-gain="{form.gain:.2f}">')
            body += [f'<polyline {weight} points="{coordinates(t)}"/>' for t in forms.touches(form, canvas)]
            body.append("</g>")
        body.append("</g>")
    return document(canvas[0], canvas[1], "Hairline: softness seen and wanted; light-forms of a beard", body)


def growth_svg(lines: tuple[GrowthLine, ...], canvas_mm: tuple[float, float]) -> str:
    """Growth lines in the order of painting: root part solid, free part dotted, a dot at each root.

    The surer a line the heavier it is; each carries its number and how sure it is, 0–1, as data.
    """
    root_parts = ['<g id="root-part" fill="none" stroke="#000" stroke-linecap="round">']
    free = ['<g id="free" fill="none" stroke="#000" stroke-linecap="round" stroke-dasharray="0.01 1.1">']
    roots = ['<g id="roots" fill="#000">']
    numbers = ['<g id="numbers" font-family="sans-serif" font-size="2.6">']
    for number, line in enumerate(lines, 1):
        points, cut = line.points * canvas_mm, line.split()
        data = f'data-number="{number}" data-sure="{line.sure:.2f}"'
        weight = f'stroke-width="{weight_mm(line.sure):.2f}" {data}'
        root_parts.append(f'<polyline {weight} points="{coordinates(points[: cut + 1])}"/>')
        free.append(f'<polyline {weight} points="{coordinates(points[cut:])}"/>')
        x, y = points[0]
        roots.append(f'<circle cx="{x:.2f}" cy="{y:.2f}" r="0.6"/>')
        numbers.append(f'<text x="{x + 0.9:.2f}" y="{y - 0.5:.2f}">{number}</text>')
    body = [*root_parts, "</g>", *free, "</g>", *roots, "</g>", *numbers, "</g>"]
    return document(canvas_mm[0], canvas_mm[1], "Hair: growth lines from root to tip", body)


def weight_mm(sure: float) -> float:
    """Weight of a growth line by how sure it is."""
    return 0.15 + 0.45 * min(1.0, max(0.0, sure))


def growth_pdf(study: Study, title: str, paper: str, mirrored: bool = False) -> bytes:
    """Growth lines at the canvas's true size, tiled, to be traced on."""
    canvas = _canvas(study)
    lines = study.hair.drawn_lines()

    def draw(page: Page, width: float, height: float) -> None:
        page.setStrokeColor(GREY)
        page.setLineWidth(0.4)
        page.rect(0, -height, width, height, fill=0, stroke=1)
        page.setStrokeColor(INK)
        page.setFillColor(INK)
        ready()
        page.setFont(SANS, 6)
        for number, line in enumerate(lines, 1):
            points, cut = line.points * (width, -height), line.split()
            page.setLineWidth(weight_mm(line.sure) * mm)
            for part, dash in ((points[: cut + 1], ()), (points[cut:], (0.2, 3))):
                page.setDash(*dash)
                path = page.beginPath()
                path.moveTo(*part[0])
                for point in part[1:]:
                    path.lineTo(*point)
                page.drawPath(path, stroke=1, fill=0)
            page.setDash()
            page.circle(points[0, 0], points[0, 1], 0.6 * mm, stroke=0, fill=1)
            if not mirrored:
                page.drawString(points[0, 0] + 2.4, points[0, 1] + 1.4, str(number))

    return print_tiled(title, paper, canvas, "Growth lines", draw, mirrored)


def strokes_svg(study: Study) -> str:
    """Every stroke of every layer as it swells and tapers, one group to a layer, in canvas millimetres."""
    canvas = _canvas(study)
    body: list[str] = []
    for one in stroked(study):
        name = one.title(study.settings.values.group_names())
        body.append(f'<g id="{one.key}" data-name="{name}" fill="{one.recipe.predicted.hex}">')
        for hex_, lines in _by_tone(one):
            body.append(f'<g fill="{hex_}">')
            body += [_stroke_path(line, canvas) for line in _thinned(lines, len(one.lines))]
            body.append("</g>")
        body.append("</g>")
    return document(canvas[0], canvas[1], "Hair: strokes layer by layer", body)


def stroked(study: Study) -> list[Pass]:
    """The passes that draw hair; none where nothing can be planned."""
    if study.passes.refused():
        return []
    return [one for one in study.passes.plan().passes if one.hair is not None and one.lines]


def _by_tone(one: Pass) -> list[tuple[str, tuple[Line, ...]]]:
    """The colours that the strokes of a pass are drawn in, each with its own."""
    if not one.tones:
        return [(one.recipe.predicted.hex, one.lines)]
    laid = [o.lines for o in one.operations]
    return [(tone.predicted.hex, lines) for tone, lines in zip(one.tones, laid, strict=True)]


def _thinned(lines: tuple[Line, ...], of: int) -> Iterable[Line]:
    """Some lines of so many, so that all together are not too many to draw."""
    step = max(1, -(-of // MOST_STROKES))
    return lines[::step]


def _stroke_path(line: Line, canvas: tuple[float, float]) -> str:
    return f'<path d="{path(outline_mm(line, canvas))}"/>'


def hair_practice_pdf(study: Study, title: str, paper: str) -> bytes:
    """Growth lines and sample strokes of every layer at true size, to draw over."""
    canvas = _canvas(study)
    sheet = Sheet(paper, title)
    sheet.start("Hair to practise")
    sheet.text(
        "Draw over the grey strokes with the brush named, set down where the dot is, then beside them "
        "without a guide. Keep exactly to the line at first; only the end is free. Stagger the starts.",
        gap=4,
    )
    for kind, type_ in study.hair_layers.types():
        sheet.section(kind.spoken.capitalize())
        sheet.text(type_.said, 8)
    drawn = stroked(study)
    for one in drawn:
        sheet.section(one.title(study.settings.values.group_names()), 30 * mm)
        sheet.text(f"{len(one.lines)} strokes, {one.tool}. {one.note}", 8)
        by_length = sorted(one.lines, key=lambda line: -len(line.points))
        for line in by_length[:: max(1, len(by_length) // _SAMPLES)][:_SAMPLES]:
            row = line_row(outline_mm(line, canvas), sheet.inner)
            sheet.room(row.height + 12)
            sheet.entry(row, [], gap=2)
    if not drawn:
        sheet.text("There is no hair to stroke: mark it in Reference, regions.")
    _print_hairline(sheet, study)
    _print_locks(sheet, study)
    return sheet.done()


def _print_hairline(sheet: Sheet, study: Study) -> None:
    """Every reading of the hairline: where it lies, how soft it is and shall be, the shadow before it."""
    spots, (wide, high) = hairline_of(study), _canvas(study)
    if not spots:
        return
    sheet.section("Hairline", 30 * mm)
    for number, spot in enumerate(spots, 1):
        shadow = f", shadow of {spot.shadow_steps:.1f} steps on the skin" if spot.shadow_steps >= 0.1 else ""
        sheet.text(
            f"{number}. {spot.x * wide:.0f} mm from the left, {spot.y * high:.0f} mm from above: seen "
            f"{spot.seen_mm:.1f} mm, paint it {spot.wanted_mm:.1f} mm soft{shadow}.",
            8,
        )


def _print_locks(sheet: Sheet, study: Study) -> None:
    """Every lock in the order of painting: its size, how it is stroked, and what its tones are mixed from."""
    locks, rack = locks_of(study, lock_mixtures(study)), study.flesh.palette().rack
    if not locks:
        return
    sheet.section("Locks in the order of painting", 30 * mm)
    for lock in locks:
        tones = ((name, getattr(lock, name)) for name in ("dark", "middle", "light"))
        mixed = "; ".join(f"{name} {parts_sentence(tone.parts, rack)}" for name, tone in tones if tone)
        over = f", over {', '.join(spoken_id(n) for n in lock.over)}" if lock.over else ""
        curl = f", a curl every {lock.curl_mm:.1f} mm" if lock.curl_mm else ""
        size = f"{lock.width_mm:.0f} × {lock.length_mm:.0f} mm"
        brush = f"a brush of up to {lock.brush_mm:.1f} mm, pulled from the {lock.pull}"
        told = f"{spoken_id(lock.id).capitalize()}, {lock.type}{curl}, {size}{over}; {brush}: {mixed}."
        sheet.text(told, 8)


def spoken_id(key: str) -> str:
    """``lock 3`` of ``lock-3``."""
    return key.replace("-", " ")


def brush_svg(study: Study, across: bool) -> str:
    """Arrows of the brush for skin, cloth and wall."""
    canvas = _canvas(study)
    body = [
        '<defs><marker id="tip" viewBox="0 0 4 4" refX="3" refY="2" markerWidth="5" markerHeight="5"'
        ' orient="auto"><path d="M0 0L4 2L0 4" fill="none" stroke="#000" stroke-width="0.6"/></marker>'
        "</defs>",
    ]
    for region, lines in study.brush.arrows(across).items():
        body.append(f'<g id="{region}" fill="none" stroke="#000" stroke-width="0.4" marker-end="url(#tip)">')
        body += [f'<polyline points="{coordinates(line.points * canvas)}"/>' for line in lines]
        body.append("</g>")
    words = "across the planes" if across else "along the form"
    return document(canvas[0], canvas[1], f"Direction of the brush, {words}", body)


def lock_codes(study: Study) -> np.ndarray[tuple[int, int], np.dtype[np.uint16]]:
    """Numbers of the locks at the size of the framed picture, 0 for none."""
    height, width = study.picture.shape
    numbers = study.hair.locks().numbers.astype(np.uint16)
    return cv2.resize(numbers, (width, height), interpolation=cv2.INTER_NEAREST)
