"""Fonts that print: one sans, one bold and one serif that cover Latin, Greek and Cyrillic."""

from __future__ import annotations

from functools import cache, lru_cache
from importlib.resources import as_file, files

from anyascii import anyascii
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

SANS, BOLD, SERIF = "TrueSitterSans", "TrueSitterBold", "TrueSitterSerif"
_FILES = {SANS: "DejaVuSans.ttf", BOLD: "DejaVuSans-Bold.ttf", SERIF: "DejaVuSerif.ttf"}
_LAST_LEFT_TO_RIGHT = 0x0590
"""Scripts from Hebrew on run from right to left, join their letters or are too many to ship."""

_SIGNS = range(0x2000, 0x2600)
"""Dashes, quotation marks, arrows and the signs of arithmetic."""


@cache
def ready() -> None:
    """Read the fonts once, before anything is written in them."""
    for name, file in _FILES.items():
        with as_file(files(__package__) / "fonts" / file) as path:
            pdfmetrics.registerFont(TTFont(name, str(path)))


@lru_cache(1 << 14)
def width_of(words: str, font: str, size: float) -> float:
    """Width in points of a line."""
    ready()
    return float(pdfmetrics.stringWidth(words, font, size))


def printable(words: str, font: str = SANS) -> str:
    """Words as the font can write them; what it cannot is written in Latin letters.

    Names in other scripts are transliterated (王小明 becomes WangXiaoMing), never lost.
    """
    ready()
    glyphs = pdfmetrics.getFont(font).face.charToGlyph
    out = []
    for sign in words:
        code = ord(sign)
        if sign.isspace():
            out.append(" ")
        elif code in glyphs and (code < _LAST_LEFT_TO_RIGHT or code in _SIGNS) and sign.isprintable():
            out.append(sign)
        else:
            out.append(anyascii(sign) if sign.isprintable() else "")
    return "".join(out)


def wrapped(words: str, font: str, size: float, width: float) -> list[str]:
    """Words broken into lines no wider than `width` points; a word too long for a line is broken too."""
    lines: list[str] = []
    line, taken = "", 0.0
    space = width_of(" ", font, size)
    for word in printable(words, font).split():
        # Letters keep their distance whatever stands beside them: a line is as wide as its words.
        wide = width_of(word, font, size)
        if line and taken + space + wide <= width:
            line, taken = f"{line} {word}", taken + space + wide
            continue
        if line:
            lines.append(line)
        line, taken = word, wide
        while taken > width and len(line) > 1:
            fits = next(
                n for n in range(len(line) - 1, 0, -1) if n == 1 or width_of(line[:n], font, size) <= width
            )
            lines.append(line[:fits])
            line = line[fits:]
            taken = width_of(line, font, size)
    return [*lines, line] if line or not lines else lines
