"""A blank swatch sheet to print: boxes for each tube, a black line under the film, white to read against."""

from __future__ import annotations

from collections.abc import Sequence

from reportlab.lib.units import mm

from truesitter.core.paint.fit import TINT_WHITE_PARTS
from truesitter.formats.sheet import GREY, HAIRLINE, INK, MARGIN, Sheet

_BOX_W, _BOX_H, _GAP, _ROW = 34 * mm, 19 * mm, 5 * mm, 27 * mm
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
    heading = "Swatches"
    sheet.start(heading)
    _explain(sheet)
    for name in rows:
        if sheet.y - _ROW < 28 * mm:
            sheet.start(heading)
            _explain(sheet)
        _row(sheet, name)
    return sheet.done()


def _explain(sheet: Sheet) -> None:
    sheet.text(
        "Left: straight from the tube, thick enough to hide the paper. Middle: 1 part in "
        f"{TINT_WHITE_PARTS} parts titanium white, thick. Right: the tube scraped thin with a card, in one "
        "go over the black line and the paper. Leave the three boxes marked white empty: the photograph is "
        "read against them. Let it dry; photograph it in even daylight, without gloss.",
        8.5, gap=6,
    )  # fmt: skip
    page = sheet.page
    page.setStrokeColor(HAIRLINE)
    page.setFillColor(GREY)
    page.setFont("Helvetica", 7)
    for left in (MARGIN, sheet.width / 2 - 9 * mm, sheet.width - MARGIN - 18 * mm):
        page.rect(left, sheet.y - 14 * mm, 18 * mm, 14 * mm, fill=0, stroke=1)
        page.drawString(left, sheet.y - 17.5 * mm, "white: leave empty")
    sheet.y -= 24 * mm


def _row(sheet: Sheet, name: str) -> None:
    page, top = sheet.page, sheet.y
    page.setFont("Helvetica-Bold", 9)
    page.setFillColor(INK)
    page.drawString(MARGIN, top - 3 * mm, name or "Tube: ______________________")
    bottom = top - 5 * mm - _BOX_H
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
    sheet.y -= _ROW


def _label(sheet: Sheet, left: float, bottom: float, text: str) -> None:
    sheet.page.setFont("Helvetica", 7)
    sheet.page.setFillColor(GREY)
    sheet.page.drawString(left, bottom - 2.6 * mm, text)
