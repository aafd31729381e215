"""The mixing sheet: swatches, parts and errors of the whole palette board."""

from __future__ import annotations

from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.lib.utils import simpleSplit

from truesitter.core.paint.cautions import cautions_for
from truesitter.core.paint.mixing import Colour
from truesitter.core.paint.rack import Rack
from truesitter.core.paint.rounding import Recipe
from truesitter.core.study import Study
from truesitter.core.study.batch import batch_of
from truesitter.formats.sheet import GREY, INK, MARGIN, Sheet
from truesitter.formats.tables import board_rows
from truesitter.formats.wording import parts_sentence

_ROW = 15 * mm
_SWATCH = 24 * mm


def mixing_pdf(study: Study, title: str, paper: str) -> bytes:
    """All mixtures by family, wanted beside predicted, with parts in words.

    Raises
    ------
    ValueError
        For a paper other than A4 or Letter.
    """
    sheet = Sheet(paper, title)
    rows, rack = board_rows(study), study.flesh.palette().rack
    sheet.start("Mixtures")
    sheet.text("Left half of each swatch: wanted. Right half: predicted. Parts are by volume.", 9, gap=4)
    family = ""
    for group, name, recipe, added in rows:
        if group != family:
            family = group
            sheet.room(_ROW + 8 * mm, "Mixtures")
            sheet.text(group.capitalize(), 12, gap=2)
        sheet.room(_ROW, "Mixtures")
        _row(sheet, name, recipe, added, rack)
    if not study.settings.flesh.transparent:
        _batch(sheet, study)
    used = {key: None for _, _, recipe, _ in rows for key in recipe.parts}
    sheet.room(40 * mm, "Cautions")
    for caution in cautions_for(used, rack):
        sheet.text(caution, 8)
    return sheet.done()


def _batch(sheet: Sheet, study: Study) -> None:
    """How much of every tube a sitting takes."""
    settings, batch, rack = study.settings.flesh, batch_of(study), study.flesh.palette().rack
    sheet.room(30 * mm, "Mixtures")
    sheet.text("Batch for a sitting", 12, gap=2)
    sheet.text(
        f"All of the above laid once over what the picture shows: film {settings.film_mm:g} mm, "
        f"{settings.coats} coat{'s' if settings.coats > 1 else ''}, {settings.loss:.0%} left in the brush.",
        8,
    )
    strands = batch.tubes_cm()
    for key, ml in batch.tubes_ml.items():
        sheet.room(6 * mm, "Mixtures")
        sheet.text(f"{rack.pigment(key).name}: {ml:.1f} ml, a strand of {strands[key]:.1f} cm", 9, gap=1)


def _row(sheet: Sheet, name: str, recipe: Recipe, added: str, rack: Rack) -> None:
    page, top = sheet.page, sheet.y
    height = _ROW - 2 * mm
    for column, hex_ in enumerate((Colour.of_lab(recipe.target_lab).hex, recipe.predicted.hex)):
        page.setFillColor(HexColor(hex_))
        page.rect(MARGIN + column * _SWATCH / 2, top - height, _SWATCH / 2, height, fill=1, stroke=0)
    left, room = MARGIN + _SWATCH + 3 * mm, sheet.inner - _SWATCH - 3 * mm
    page.setFillColor(INK)
    page.setFont("Helvetica-Bold", 9)
    page.drawString(left, top - 9, f"{name}: {parts_sentence(recipe.parts, rack, recipe.film_mm)}"[:120])
    page.setFont("Helvetica", 8)
    page.setFillColor(GREY)
    judged = (
        f"value {recipe.predicted.value:.1f} ({recipe.value_error:+.1f}), "
        f"colour difference {recipe.delta_e:.1f}"
    )
    words = judged + (f". Or: {added}" if added else "")
    for number, line in enumerate(simpleSplit(words, "Helvetica", 8, room)[:2]):
        page.drawString(left, top - 20 - 10 * number, line)
    sheet.y -= _ROW
