"""Everything printed stays inside the margins and can be read, whatever people call their things.

What lies on the pages is read back with another library than wrote it (PDFium).
"""

from __future__ import annotations

import random
import re

import colour
import numpy as np
import pypdfium2 as pdfium
import pytest

from tests.conftest import jpeg, made_head
from truesitter.core.easel.lamp.tuning import WEDGE_VALUES
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.formats.documents.plan import plan_of
from truesitter.formats.print.fonts import SANS, printable, width_of, wrapped
from truesitter.formats.print.mixing_sheet import mixing_pdf
from truesitter.formats.print.pdf import plan_pdf
from truesitter.formats.print.print_reference import wedge_pdf
from truesitter.formats.print.sheet import MARGIN, Sheet, Words, swatches
from truesitter.formats.print.swatch_sheet import swatch_sheet_pdf
from truesitter.formats.print.transfer import thumbnails_pdf, transfer_pdf
from truesitter.formats.words.wording import Counting

SCRIPTS = {
    "Latin": "abcdefghijklmnopqrstuvwxyzåäöøæßñçłžőŵ",
    "Greek": "αβγδεζηθικλμνξοπρστυφχψωάέή",
    "Cyrillic": "абвгдежзийклмнопрстуфхцчшщъыьэюяїґ",
    "Hebrew": "אבגדהוזחטיכלמנסעפצקרשת",
    "Chinese": "王小明李华陈光红白黄",
    "emoji": "🎨🖌👩🏽",
}
PLAIN = re.compile(r"[\x20-\x7e\u00a0-\u052f\u2000-\u25ff]*")
TOP_AND_BOTTOM = 7 / 25.4 * 72
"""The wedge and the page's number stand lower than the rest, 7 mm from the edge."""


def greys_of(pdf: bytes, page: int = 0) -> dict[int, int]:
    """How many pixels each neutral grey covers of a page, as another library paints it."""
    picture = pdfium.PdfDocument(pdf)[page].render(scale=2).to_numpy()[..., :3].astype(int)
    neutral = np.ptp(picture, axis=-1) <= 1
    return dict(enumerate(np.bincount(picture[neutral][:, 1], minlength=256)))


def test_the_printed_wedge_and_card_hold_their_values() -> None:
    """Greys of the PDF against Munsell values through another library (ASTM D1535, IEC 61966-2-1).

    12 x 24 mm each, and the card 120 x 60 mm less its holes of 4, 6 and 10 mm.
    """
    study = Study.of_bytes(jpeg(made_head()), StudySettings())
    found = greys_of(wedge_pdf(study, "Wedge", "A4", Counting(), corrected=False))
    mm = 2 * 72 / 25.4
    for value in WEDGE_VALUES:
        luminance = colour.colorimetry.luminance_ASTMD1535(value) / 100
        level = round(255 * float(colour.cctf_encoding(luminance, function="sRGB")))
        near = sum(found[n] for n in range(level - 1, level + 2))
        assert near >= 0.9 * 12 * 24 * mm**2, f"value {value:g} should be grey {level}"
    middle = round(255 * float(colour.cctf_encoding(0.1927, function="sRGB")))
    card = 120 * 60 - 4**2 - 6**2 - 10**2
    assert sum(found[n] for n in range(middle - 1, middle + 2)) >= 0.95 * card * mm**2


def named(rng: random.Random, length: int, script: str) -> str:
    """A name of some words in one script, now and then one word without an end."""
    signs = SCRIPTS[script] + (" " if rng.random() < 0.7 else "") * 6
    return ("".join(rng.choice(signs) for _ in range(length)).strip() or "x")[:length]


def study_with(rng: random.Random, script: str) -> Study:
    """A study whose every name is made up by chance, with tubes of its own and long recipes."""
    pigments = [
        "titanium-white",
        "yellow-ochre",
        "light-red",
        "raw-umber",
        "ivory-black",
        "viridian",
        "cobalt-blue",
    ]
    tubes = [
        {"key": f"own-{i}", "name": named(rng, rng.choice((3, 20, 60)), script), "pigment": pigment}
        for i, pigment in enumerate(pigments)
    ]
    pins = [
        {
            "name": named(rng, rng.choice((2, 30, 60)), script), "target_lab": [60, 10, 15], "locked": True,
            "parts": {t["key"]: rng.randint(1, 400) for t in rng.sample(tubes, rng.randint(1, 7))},
        }
        for _ in range(8)
    ]  # fmt: skip
    return Study.of_bytes(
        jpeg(made_head(240, 300)),
        StudySettings.model_validate(
            {
                "reference": {"canvas_width_mm": 260, "canvas_height_mm": 330},
                "values": {"groups": 5, "names": [named(rng, 30, script) for _ in range(5)]},
                "flesh": {"own": tubes, "tubes": [t["key"] for t in tubes], "pins": pins},
            }
        ),
    )


def assert_stays_on_the_page(data: bytes) -> str:
    """Every letter between the margins, nothing at all near the edges; the words on the pages."""
    words = []
    for page in pdfium.PdfDocument(data):
        width, height = page.get_size()
        text = page.get_textpage()
        words.append(text.get_text_range())
        for i in range(text.count_chars()):
            left, bottom, right, top = text.get_charbox(i)
            if right - left < 0.01:
                continue
            assert left >= MARGIN - 1, (words[-1], i)
            assert right <= width - MARGIN + 1, (words[-1], i)
            assert bottom >= TOP_AND_BOTTOM - 1, (words[-1], i)
            assert top <= height - MARGIN + 5, (words[-1], i)
        shown = page.render(scale=1).to_numpy().min(axis=2)
        edge = int(TOP_AND_BOTTOM) - 2
        inner = np.zeros(shown.shape, bool)
        inner[edge:-edge, edge:-edge] = True
        assert (shown[~inner] > 250).all(), words[-1]
    whole = "\n".join(words)
    assert "■" not in whole
    return whole


@pytest.mark.parametrize("paper", ["A4", "Letter"])
@pytest.mark.parametrize("script", list(SCRIPTS))
def test_nothing_printed_leaves_its_page(paper: str, script: str) -> None:
    rng = random.Random(f"{paper}{script}")
    study, title = study_with(rng, script), named(rng, 120, script)
    sheets = {
        "plan": plan_pdf(study, plan_of(study, {}), title, paper, Counting()),
        "mixtures": mixing_pdf(study, title, paper, Counting(down=True)),
        "thumbnails": thumbnails_pdf(study, title, paper),
        "transfer": transfer_pdf(study, title, paper, mirrored=rng.random() < 0.5),
        "swatches": swatch_sheet_pdf([t.name for t in study.settings.flesh.own], paper),
    }
    read = {name: assert_stays_on_the_page(data) for name, data in sheets.items()}
    # Every name is there to the last letter, however it was broken into lines.
    bare = re.sub(r"\s", "", read["mixtures"])
    for pin in study.settings.flesh.pins:
        assert re.sub(r"\s", "", printable(pin.name)) in bare
    for name in study.settings.values.names:
        assert re.sub(r"\s", "", printable(name)) in re.sub(r"\s", "", read["plan"])


@pytest.mark.parametrize(
    ("typed", "printed"),
    [
        ("Łucja Åkesson", "Łucja Åkesson"),
        ("Ελένη", "Ελένη"),
        ("Їжакевич", "Їжакевич"),
        ("王小明", "WangXiaoMing"),
        ("a\tb\u200bc", "a bc"),
        ("ΔE 2.0 → ¾ × ≤", "ΔE 2.0 → ¾ × ≤"),
    ],
)
def test_names_are_printed_as_typed_or_in_latin_letters(typed: str, printed: str) -> None:
    assert printable(typed) == printed
    assert PLAIN.fullmatch(printable(typed))


def test_lines_are_broken_at_words_and_never_too_wide() -> None:
    rng = random.Random(5)
    for _ in range(40):
        words, width = named(rng, 200, rng.choice(list(SCRIPTS))), rng.uniform(30, 400)
        lines = wrapped(words, SANS, 9, width)
        assert all(width_of(line, SANS, 9) <= width for line in lines)
        assert "".join(lines).replace(" ", "") == printable(words).replace(" ", "")
    assert wrapped("one two three", SANS, 9, width_of("one two", SANS, 9) + 0.1) == ["one two", "three"]
    assert wrapped("", SANS, 9, 100) == [""]


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_more_words_than_a_page_holds_go_on_overleaf(paper: str) -> None:
    sheet = Sheet(paper, "A test")
    sheet.start("Long")
    words = [f"word{i}" for i in range(3000)]
    sheet.text(" ".join(words))
    sheet.entry(swatches(("#808080",), 60, 20), [Words(" ".join(words))])
    read = assert_stays_on_the_page(sheet.done())
    assert len(re.findall(r"word\d+", read)) == 6000
    assert read.count("Long") == sheet.number > 4
