"""A comparison on paper: what is wrong and what to do, what holds, a reviewer's notes, a page a section."""

from __future__ import annotations

import io

import cv2
import numpy as np
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader

from truesitter.core.settings import PaintingSettings
from truesitter.core.stages import Study
from truesitter.core.types import Bytes
from truesitter.core.usecases.sections import Order, needs_of, sections
from truesitter.formats.documents.easel import comparison_of
from truesitter.formats.documents.plan_heaps import mix_of, mix_words
from truesitter.formats.documents.plan_wash import charges_of, told_drops
from truesitter.formats.pictures.easel_pictures import hatched
from truesitter.formats.pictures.png import encode_jpeg
from truesitter.formats.print.sheet import Sheet, Words, fit, tick_box
from truesitter.formats.words.pass_words import varied_words
from truesitter.formats.words.wash_words import wash_words
from truesitter.formats.words.wording import Counting, parts_sentence


def _image(picture: Bytes) -> ImageReader:
    return ImageReader(io.BytesIO(encode_jpeg(picture, 88)))


def review_pdf(study: Study, painting: PaintingSettings, title: str, paper: str) -> bytes:
    """What a comparison says, with the reviewer's notes.

    Raises
    ------
    Refusal
        When the painting cannot be compared, or for another paper.
    """
    found = comparison_of(study, painting)
    sheet = Sheet(paper, title)
    sheet.start(f"The painting on {painting.taken_at}")
    own = study.easel.taken(painting).picture()
    seen = study.easel.compared(painting).seen
    _pair(sheet, (_noted(own, painting), hatched(seen.steps, own, seen.trusted.astype(np.float32))))
    sheet.text(found.stop.words, 11, gap=6)
    sheet.section("What is off")
    if not found.findings:
        sheet.text("Nothing that a photograph can tell.", 11)
    for one in found.findings:
        sheet.entry(
            tick_box(one.wanted_hex),
            [Words(f"{one.number}. {one.words}", 11), *([Words(one.remedy.words, 10)] if one.remedy else [])],
        )
    sheet.section("What holds")
    for line in found.holds:
        sheet.text(line, 10)
    if painting.notes:
        sheet.section("Notes")
        for number, note in enumerate(painting.notes, 1):
            mark = "holds" if note.holds else "wanted"
            by = f" ({note.by})" if note.by else ""
            sheet.text(f"{number}, {mark}{by}: {note.words or 'drawn on the painting'}", 10)
    return sheet.done()


def _pair(sheet: Sheet, pictures: tuple[Bytes, Bytes]) -> None:
    """Two pictures of one size side by side."""
    width = (sheet.inner - 6 * mm) / 2
    height, own = pictures[0].shape[:2]
    size = fit(height / own, width, 110 * mm)
    sheet.room(size[1] + 8)
    for k, picture in enumerate(pictures):
        x = 15 * mm + k * (width + 6 * mm)
        sheet.page.drawImage(_image(picture), x, sheet.y - size[1], *size)
    sheet.y -= size[1] + 8


def _noted(picture: Bytes, painting: PaintingSettings) -> Bytes:
    """The painting with what a reviewer drew, black on white, numbered."""
    out = np.ascontiguousarray(picture.copy())
    height, width = out.shape[:2]
    for number, note in enumerate(painting.notes, 1):
        if note.points:
            line = np.round(np.array(note.points) * (width, height)).astype(np.int32).reshape(-1, 1, 2)
            for ink, thick in (((255, 255, 255), 7), ((0, 0, 0), 3)):
                cv2.polylines(out, [line], False, ink, thick, cv2.LINE_AA)
        first = note.points[0] if note.points else (note.x, note.y)
        at = (int(first[0] * width), int(first[1] * height))
        for ink, thick in (((255, 255, 255), 6), ((0, 0, 0), 2)):
            cv2.putText(out, str(number), at, cv2.FONT_HERSHEY_SIMPLEX, 1.0, ink, thick, cv2.LINE_AA)
    return out


def sections_pdf(
    study: Study, painting: PaintingSettings | None, title: str, paper: str, order: Order, counting: Counting
) -> bytes:
    """A page a section: reference and painting at one size, and what the section takes."""
    sheet = Sheet(paper, title)
    reference = study.easel.template(None, "photograph")
    own = study.easel.taken(painting).picture() if painting else None
    rack = study.flesh.palette().rack
    names, plan = study.settings.values.group_names(), study.passes.paced()
    for section in sections(study, order):
        sheet.start(section.name)
        piece = section.box.slices(reference.shape)
        crops = [reference[piece], *([own[piece]] if own is not None else [])]
        _crops(sheet, crops)
        needs = needs_of(study, section.box)
        sheet.text(f"Value {counting(section.value)} in the middle of it.", 11, gap=4)
        for number, one, part in needs.passes:
            mixed = mix_words(mix_of(one, plan, rack)) or parts_sentence(one.recipe.parts, rack)
            words = f"{number}. {one.title(names)}: {part * 100:.0f} % of it, {one.tool}"
            drops = told_drops(charges_of(one, plan, study))
            more = (varied_words(one, rack), wash_words(one, rack, drops, plan.passes))
            lines = [Words(said, 10) for said in (words, mixed, *more) if said]
            sheet.entry(tick_box(one.recipe.predicted.hex), lines)
        for light in needs.ceilings:
            sheet.text(f"Light at {light.place}: no lighter than {counting(light.ceiling)}.", 10)
        said = ", ".join(f"{kind} {length:.0f} mm" for kind, length in needs.edges.items() if length >= 1)
        if said:
            sheet.text(f"Edges: {said}.", 10)
    return sheet.done()


def _crops(sheet: Sheet, crops: list[Bytes]) -> None:
    width = (sheet.inner - 6 * mm) / len(crops)
    height, own = crops[0].shape[:2]
    size = fit(height / own, width, 90 * mm)
    sheet.room(size[1] + 8)
    for k, crop in enumerate(crops):
        sheet.page.drawImage(_image(np.ascontiguousarray(crop)), 15 * mm + k * (width + 6 * mm),
                             sheet.y - size[1], *size)  # fmt: skip
    sheet.y -= size[1] + 8
