"""A blank swatch sheet to print: boxes for each tube, a black line under the film, white to read against."""

from __future__ import annotations

from collections.abc import Sequence

from reportlab.lib.units import mm

from truesitter.core.paint.tubes.tuning import TINT_WHITE_PARTS, WASH_WATER
from truesitter.formats.print.sheet import BOLD, GREY, HAIRLINE, INK, MARGIN, Art, Sheet, Words

_BOX_W, _BOX_H, _GAP = 34 * mm, 19 * mm, 5 * mm
_WHITES = 20 * mm
_LINE = 13 * mm


def swatch_sheet_pdf(names: Sequence[str], paper: str) -> bytes:
    """Rows of boxes, one row a tube, with its name when given.

    Parameters
    ----------
    names
        Names of the tubes; with none, empty rows are drawn.
    paper
        A4 or Letter.
    """
    sheet = Sheet(paper, "True Sitter")
    rows = list(names) or [""] * 7
    sheet.start("Swatches")
    _explain(sheet)
    for name in rows:
        words = Words(name or "Tube: ______________________", 9, BOLD)
        needed = len(words.lines(sheet.inner)) * 12 + _BOX_H + 8 * mm
        if sheet.left_over - needed < _WHITES:
            _whites(sheet)
            sheet.start("Swatches")
            _explain(sheet)
        _row(sheet, words)
    _whites(sheet)
    return sheet.done()


def _explain(sheet: Sheet) -> None:
    sheet.text(
        "Left: straight from the tube, thick enough to hide the paper. Middle: 1 part in "
        f"{TINT_WHITE_PARTS} parts titanium white, thick. Then the tube scraped thin with a card, in one "
        f"go over the black line and the paper. Right, for paint thinned with water: 1 part in {WASH_WATER} "
        "parts of water, one even stroke. Leave the boxes marked white empty, above and below: the "
        "photograph is read against them. Let it dry; photograph it in even daylight, without gloss.",
        8.5, gap=6,
    )  # fmt: skip
    _whites(sheet)


def _whites(sheet: Sheet) -> None:
    """A row of white boxes; one above and one below the swatches tell how the light falls off both ways."""
    page = sheet.page
    page.setStrokeColor(HAIRLINE)
    page.setFillColor(GREY)
    for left in (MARGIN, sheet.width / 2 - 9 * mm, sheet.width - MARGIN - 18 * mm):
        page.rect(left, sheet.y - 12 * mm, 18 * mm, 12 * mm, fill=0, stroke=1)
        sheet.line("white: leave empty", left, sheet.y - 15 * mm, 6)
    sheet.y -= _WHITES


def _row(sheet: Sheet, name: Words) -> None:
    page = sheet.page
    sheet.entry(Art(0, 0, lambda *_: None), [name], gap=0)
    bottom = sheet.y - 2 * mm - _BOX_H
    page.setStrokeColor(HAIRLINE)
    left = MARGIN
    for label in ("masstone", f"tint 1 : {TINT_WHITE_PARTS}"):
        page.rect(left, bottom, _BOX_W, _BOX_H, fill=0, stroke=1)
        _label(sheet, left, bottom, label)
        left += _BOX_W + _GAP
    page.setFillColor(INK)
    page.rect(left, bottom, _LINE, _BOX_H, fill=1, stroke=0)
    page.rect(left, bottom, _BOX_W * 1.5, _BOX_H, fill=0, stroke=1)
    _label(sheet, left, bottom, "thin film over black, over white")
    left += _BOX_W * 1.5 + _GAP
    page.rect(left, bottom, _BOX_W, _BOX_H, fill=0, stroke=1)
    _label(sheet, left, bottom, f"wash 1 : {WASH_WATER}, one stroke")
    sheet.y = bottom - 6 * mm


def _label(sheet: Sheet, left: float, bottom: float, text: str) -> None:
    sheet.page.setFillColor(GREY)
    sheet.line(text, left, bottom - 2.6 * mm, 7)
