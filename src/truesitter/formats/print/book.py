"""The book of a plan: the order on one page, the kit, then a page a pass to prop beside the easel."""

from __future__ import annotations

import io

import numpy as np
from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader

from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.plan.kit import Kit
from truesitter.core.stages import Study
from truesitter.core.types import Bytes
from truesitter.formats.documents.plan_heaps import PlanPaletteHeap, heap_sentence, heaps_of
from truesitter.formats.documents.plan_passes import PlanPass, PlanTime, passes_of, plan_cautions, time_of
from truesitter.formats.pictures.png import encode_jpeg
from truesitter.formats.pictures.wash_pictures import charged_picture
from truesitter.formats.print.sheet import BOLD, MARGIN, Art, Sheet, Words, fit, tick_box
from truesitter.formats.words.wording import Counting, duration, parts_sentence

LARGE, MIDDLE = 15.0, 12.0
"""Points: read at arm's length."""

_DIMMED = 0.3
_SHOWN = 800


def book_pdf(study: Study, title: str, paper: str, counting: Counting) -> bytes:
    """The book as a PDF.

    Parameters
    ----------
    title
        Name of the sitter, on every page.
    paper
        ``A4`` (ISO 216) or ``Letter``.
    """
    sheet, rack = Sheet(paper, title), study.flesh.palette().rack
    passes, remarks = passes_of(study)
    time = time_of(study)
    _order_page(sheet, study, passes, time, remarks)
    if time is not None:
        _kit_page(sheet, study.passes.kit(study.settings.values.group_names()), rack)
        _heap_page(sheet, heaps_of(study), rack, counting, study.passes.plan().medium.keeps)
        for number, one in enumerate(passes, 1):
            _pass_page(sheet, study, number, one, rack, counting)
    sheet.start("Cautions")
    for line in plan_cautions(study, passes):
        sheet.text(line, 10)
    return sheet.done()


def _order_page(
    sheet: Sheet, study: Study, passes: list[PlanPass], time: PlanTime | None, remarks: list[str]
) -> None:
    school = study.settings.passes.followed()
    sheet.start(school.name)
    sheet.text(school.about, 11, gap=6)
    if time is not None:
        sheet.text(
            f"{time.likely_hours:.0f} hours, in between {time.least_hours:.0f} and {time.most_hours:.0f}; "
            f"{len(time.sittings)} sittings over {time.days} days; {time.hair_share:.0%} of it is hair.",
            11, gap=6,
        )  # fmt: skip
    sheet.section("Before")
    for line in school.preparing:
        sheet.text(line, 10.5)
    sheet.section("In this order")
    for number, one in enumerate(passes, 1):
        sheet.entry(
            tick_box(one.predicted_hex), [Words(f"{number}  {one.name}, {duration(one.minutes)}", 10.5)], 3
        )
    sheet.section("After")
    for line in school.clearing:
        sheet.text(line, 10.5)
    for remark in remarks:
        sheet.text(remark, 8.5, grey=True)


def _heap_page(
    sheet: Sheet, heaps: list[PlanPaletteHeap], rack: Rack, counting: Counting, keeps: str
) -> None:
    if not heaps:
        return
    sheet.start("Heaps on the palette")
    sheet.text("Mixed once; every pass is one of them as it is, two together, or one with a tube.", 11, gap=6)
    if keeps:
        sheet.text(f"A heap keeps: {keeps}.", 11, gap=6)
    for heap in heaps:
        sheet.entry(tick_box(heap.hex), [Words(heap_sentence(heap, rack, counting), 11)], 3)


def _kit_page(sheet: Sheet, kit: Kit, rack: Rack) -> None:
    sheet.start("What has to lie ready")
    sheet.section("Brushes and tools")
    for brush in kit.brushes:
        sheet.text(f"{brush.name}, {brush.brush.mm:g} mm" if brush.brush else brush.name, 11)
    sheet.section("Paint")
    for tube in kit.tubes:
        sheet.text(
            f"{rack.pigment(tube.key).name}: {tube.ml:.1f} ml, {tube.cm:.1f} cm of a tube; "
            f"at most {tube.most_in_a_sitting_ml:.1f} ml in one sitting",
            11,
        )
    if kit.thinner_ml >= 1:
        sheet.text(f"To thin it: {kit.thinner_ml:.0f} ml.", 11)
    for key in kit.stir:
        sheet.text(f"{rack.pigment(key).name} is heavy and settles: stir before every stroke.", 11)
    if kit.timers:
        sheet.section("Timers")
        for name, minutes in kit.timers:
            sheet.text(f"{duration(minutes)} after {name}", 11)


def _marked(study: Study, number: int) -> Bytes:
    """The canvas after a pass, everything but its place paled; (h, w, 3)."""
    painted = study.passes.painted()
    picture = painted.picture(number).astype(np.float32)
    here = np.zeros(painted.shape[0] * painted.shape[1], bool)
    here[painted.changes[number - 1].where] = True
    pale = ~here.reshape(painted.shape)
    picture[pale] = 255 - (255 - picture[pale]) * _DIMMED
    step = max(1, round(max(painted.shape) / _SHOWN))
    plan = study.passes.plan()
    places = [plan.bare.patchwork.mask(c.pieces)[::step, ::step] for c in plan.passes[number - 1].charges]
    small = np.asarray(np.round(picture[::step, ::step]), dtype=np.uint8)
    return charged_picture(small, tuple(places))


def _pass_page(
    sheet: Sheet, study: Study, number: int, one: PlanPass, rack: Rack, counting: Counting
) -> None:
    sheet.start(f"{number}  {one.name}")
    picture = _marked(study, number)
    width, height = fit(picture.shape[0] / picture.shape[1], sheet.inner * 0.62, 120 * mm)
    sheet.page.drawImage(
        ImageReader(io.BytesIO(encode_jpeg(picture, 88))), MARGIN, sheet.y - height, width, height
    )
    sheet.page.setFillColor(HexColor(one.predicted_hex))
    sheet.page.rect(
        MARGIN + width + 8 * mm, sheet.y - min(height, 60 * mm), sheet.inner - width - 8 * mm,
        min(height, 60 * mm), fill=1, stroke=0,
    )  # fmt: skip
    sheet.y -= height + 6 * mm
    straight = parts_sentence(one.parts, rack)
    mixture = one.mix_words or straight or "Nothing is mixed"
    for words in (
        Words(f"{mixture}.", LARGE, BOLD),
        Words(f"Straight from the tubes: {straight}." if one.mix_words else "", MIDDLE),
        Words(f"Value {counting(one.value)}. {_how(one)}.", LARGE),
        Words(f"{one.tool}; edge {one.edge.words}.", LARGE),
        Words(one.note, MIDDLE),
        Words(one.wash_words, MIDDLE),
        Words(f"Look before you go on: {one.inspect}" if one.inspect else "", MIDDLE, BOLD),
        Words(_after(one), MIDDLE),
    ):  # fmt: skip
        if words.text:
            sheet.entry(Art(0, 0, lambda page, left, top: None), [words], 4)
    sheet.entry(tick_box(one.predicted_hex), [Words("done", MIDDLE)], 0)


def _how(one: PlanPass) -> str:
    """Film, dilution, coats, or how much is taken off."""
    if one.taken:
        return "; ".join(f"{t.name}: {t.words}" for t in one.taken)
    said = one.dilution.words if one.dilution else f"film {one.film_mm:.2g} mm"
    return f"{one.coats} coats, {said}" if one.coats > 1 else said


def _after(one: PlanPass) -> str:
    said = f"{duration(one.minutes)} of work, {one.area_cm2:.0f} cm², {one.ml:.1f} ml."
    if one.into_wet:
        said += " It goes into the wet paint below."
    return f"{said} Then wait {duration(one.wait_minutes)}." if one.wait_minutes >= 1 else said
