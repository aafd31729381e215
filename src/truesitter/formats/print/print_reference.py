"""The reference printed at the canvas's size, in colour and in grey, with a wedge and isolating holes."""

from __future__ import annotations

import io
from typing import Literal

import cv2
import numpy as np
from reportlab.lib.colors import Color
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas as Page

from truesitter.core.colour.spaces import lab_to_srgb, picture_to_lab
from truesitter.core.colour.value import lightness_map_to_value, value_to_lightness, value_to_srgb
from truesitter.core.easel.lamp.printed_sheet import PrinterCurve
from truesitter.core.easel.lamp.tuning import WEDGE_VALUES
from truesitter.core.stages import Study
from truesitter.core.types import Bytes
from truesitter.formats.pictures.png import encode_jpeg
from truesitter.formats.print.sheet import INK, MARGIN, Sheet
from truesitter.formats.print.transfer import print_tiled
from truesitter.formats.words.wording import Counting

PrintKind = Literal["colour", "grey"]
_PRINTED_LONG_SIDE = 2000
_STEP_MM = (12.0, 24.0)
_HOLES_MM = (4.0, 6.0, 10.0)
"""Widths of the holes: for a feature, a tone, a mass."""


def reference_pdf(study: Study, title: str, paper: str, kind: PrintKind) -> bytes:
    """The reference at true size, tiled, through the printer's curve where it is known.

    Raises
    ------
    Refusal
        For another paper.
    """
    settings = study.settings.reference
    canvas = (settings.canvas_width_mm, settings.canvas_height_mm)
    picture = ImageReader(io.BytesIO(encode_jpeg(printed_picture(study, kind), 92)))

    def draw(page: Page, width: float, height: float) -> None:
        page.drawImage(picture, 0, -height, width, height)

    heading = "Reference in grey" if kind == "grey" else "Reference"
    return print_tiled(title, paper, canvas, heading, draw)


def printed_picture(study: Study, kind: PrintKind) -> Bytes:
    """The framed reference as it is sent to the printer, (h, w, 3) sRGB."""
    picture = study.picture.framed()
    scale = min(1.0, _PRINTED_LONG_SIDE / max(picture.shape[:2]))
    if scale < 1:
        picture = cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    curve = study.settings.easel.curve()
    if curve is None and kind == "colour":
        return picture
    lab = picture_to_lab(picture)
    value = lightness_map_to_value(lab[..., 0])
    lab[..., 0] = value_to_lightness(curve.ask(value) if curve else value)
    if kind == "grey":
        lab[..., 1:] = 0
    return np.asarray(np.round(np.clip(lab_to_srgb(lab), 0, 1) * 255), dtype=np.uint8)


def _grey(value: float, curve: PrinterCurve | None) -> Color:
    asked = float(curve.ask(value)) if curve else value
    level = float(value_to_srgb(asked))
    return Color(level, level, level)


def wedge_pdf(study: Study, title: str, paper: str, counting: Counting, corrected: bool) -> bytes:
    """A wedge of even steps to be printed and read back, and a card with holes to look at single tones.

    Parameters
    ----------
    corrected
        True to print it through the curve, to see whether it is right by now.
    """
    sheet = Sheet(paper, title)
    curve = study.settings.easel.curve() if corrected else None
    sheet.start("Wedge through the printer's curve" if curve else "Wedge")
    sheet.text(
        "Print this as you print the reference, let it dry, and read each step: with a meter, or on a "
        "photograph beside something white. Nothing may be scaled: the rule below has to be true.",
        10, gap=8,
    )  # fmt: skip
    width, height = (_STEP_MM[0] * mm, _STEP_MM[1] * mm)
    per_row = max(1, int(sheet.inner // width))
    for start in range(0, len(WEDGE_VALUES), per_row):
        sheet.room(height + 22)
        top = sheet.y
        for k, value in enumerate(WEDGE_VALUES[start : start + per_row]):
            sheet.page.setFillColor(_grey(value, curve))
            sheet.page.rect(MARGIN + k * width, top - height, width, height, stroke=0, fill=1)
            sheet.page.setFillColor(INK)
            sheet.line(counting(value), MARGIN + k * width + 2, top - height - 10, 8)
        sheet.y = top - height - 22
    _holes(sheet)
    return sheet.done()


def _holes(sheet: Sheet) -> None:
    """A middle grey card: cut the squares out and lay it on print and painting."""
    side = 60 * mm
    sheet.room(side + 40)
    sheet.section("Card with holes")
    sheet.text(
        "Cut the white squares out. Laid on the print and on the painting, the card shows one tone alone in "
        "the same grey. Cut away from your hand.",
        10, gap=6,
    )  # fmt: skip
    top = sheet.y
    page = sheet.page
    page.setFillColor(_grey(5.0, None))
    page.rect(MARGIN, top - side, 2 * side, side, stroke=0, fill=1)
    page.setFillColor(Color(1, 1, 1))
    x = MARGIN + 14 * mm
    for hole in _HOLES_MM:
        page.rect(x, top - side / 2 - hole * mm / 2, hole * mm, hole * mm, stroke=0, fill=1)
        x += 30 * mm
    sheet.y = top - side - 10
