"""Readings and racks as text: there and back, and what is wrong is told with its line."""

from __future__ import annotations

import io
from contextlib import suppress

import numpy as np
import pypdf
import pytest
from hypothesis import given
from hypothesis import strategies as st

from truesitter.core.colour.spectrum import WAVELENGTHS, reflectance_to_lab, smoothest_reflectance
from truesitter.core.paint.tubes.rack import OwnTube, Stock
from truesitter.core.paint.tubes.swatches import PATCHES, Swatches
from truesitter.core.refusal import Refusal
from truesitter.formats.documents.cells import plain, safe
from truesitter.formats.documents.rack_files import rack_csv, rack_json, read_rack
from truesitter.formats.documents.readings import (
    PatchLab,
    UnusableReadings,
    read_readings,
    readings_cgats,
    readings_csv,
)
from truesitter.formats.print.swatch_sheet import swatch_sheet_pdf

CGATS = """CGATS.17
ORIGINATOR "a made-up meter"
NUMBER_OF_FIELDS 5
BEGIN_DATA_FORMAT
SAMPLE_ID SAMPLE_NAME LAB_L LAB_A LAB_B
END_DATA_FORMAT
NUMBER_OF_SETS 2
BEGIN_DATA
1 "old-ochre masstone" 56.1 14.2 41.0
2 "old-ochre tint" 82.4 5.1 22.3
END_DATA
"""
keys = st.from_regex(r"[a-z0-9][a-z0-9-]{0,20}", fullmatch=True)
labs = st.tuples(st.floats(0.01, 100), st.floats(-128, 128), st.floats(-128, 128))
readings = st.dictionaries(st.tuples(keys, st.sampled_from(sorted(PATCHES))), labs, min_size=1, max_size=12)


@given(readings)
def test_readings_go_out_and_come_back(kept: dict[tuple[str, str], tuple[float, float, float]]) -> None:
    """CSV, and CGATS text in the layout of ISO 28178: equal to the last written digit."""
    before = tuple(PatchLab(tube, patch, lab) for (tube, patch), lab in kept.items())
    for text in (readings_csv(before), readings_cgats(before)):
        after = read_readings(text.encode())
        assert [(r.tube, r.patch) for r in after] == list(kept)
        np.testing.assert_allclose([r.lab for r in after], list(kept.values()), atol=6e-4)


def test_a_meters_cgats_text_is_read() -> None:
    first, second = read_readings(CGATS.encode())
    assert (first.tube, first.patch, first.lab, first.line) == (
        "old-ochre",
        "masstone",
        (56.1, 14.2, 41.0),
        9,
    )
    assert second.patch == "tint"


@pytest.mark.parametrize("field", ["SPECTRAL_NM{}", "SPECTRAL_{}", "NM{}"])
@pytest.mark.parametrize("scale", [1, 100])
def test_spectra_become_colours(field: str, scale: int) -> None:
    """The colour of a spectrum, in parts or in per cent, is that of the reflectance it was made from."""
    spectrum = smoothest_reflectance((48.0, 20.0, 35.0))
    names = " ".join(field.format(int(w)) for w in WAVELENGTHS)
    values = " ".join(f"{v * scale:.5f}" for v in spectrum)
    head = f"BEGIN_DATA_FORMAT\nSAMPLE_NAME {names}\nEND_DATA_FORMAT\nBEGIN_DATA\n"
    text = f'{head}"jar masstone" {values}\nEND_DATA\n'
    (reading,) = read_readings(text.encode())
    np.testing.assert_allclose(reading.lab, reflectance_to_lab(spectrum), atol=0.02)


@pytest.mark.parametrize(
    ("before", "after", "line", "sentence"),
    [
        ("56.1 14.2", "56.1 pale", 9, "“pale” is not a number"),
        ("82.4 5.1 22.3", "82.4 5.1", 10, "4 values where the format has 5"),
        ("old-ochre tint", "old-ochre lid", 10, "no patch “lid”"),
        ("old-ochre tint", "ochre", 10, "not a tube and a patch"),
        ("old-ochre tint", "old-ochre masstone", 10, "read already on line 9"),
        ("56.1 14.2", "156.1 14.2", 9, "no paint looks like"),
        ("56.1 14.2", "nan 14.2", 9, "not a number that can be used"),
        ("END_DATA\n", "", 10, "cut off"),
        ("SETS 2", "SETS 3", 7, "3 readings are promised but 2 are there"),
        (" LAB_B\n", "\n", 6, "neither LAB_L"),
        ("SAMPLE_NAME", "NAME", 6, "SAMPLE_NAME is missing"),
        (CGATS, "", 1, "the file is empty"),
        (CGATS, "hello", 1, "neither a table nor CGATS"),
        (CGATS, "tube,patch,L,a\nx,y,1,2\n", 1, "the column “b” is missing"),
        (CGATS, "tube,patch,L,a,b\njar,tint,50,1\n", 2, "4 cells where the heading has 5"),
        (CGATS, "tube,patch,L,a,b\n\njar,tint,x,1,1\n", 3, "“x” is not a number"),
        (CGATS, "tube,patch,L,a,b\n", 1, "no reading"),
    ],
)
def test_what_is_wrong_is_told_with_its_line(before: str, after: str, line: int, sentence: str) -> None:
    assert before in CGATS
    with pytest.raises(UnusableReadings, match=f"^Line {line}: .*{sentence}") as told:
        read_readings(CGATS.replace(before, after, 1).encode())
    assert told.value.line == line


@pytest.mark.parametrize("data", [b"\xff\xfe\x00garbage", b"a,b\x00,c\n1,2,3", b"x" * 1_000_001])
def test_bytes_that_are_no_text_are_refused(data: bytes) -> None:
    with pytest.raises(UnusableReadings):
        read_readings(data)


@given(st.binary(max_size=400))
def test_no_bytes_break_the_readers(data: bytes) -> None:
    """Anything at all is read or refused with a sentence."""
    for read in (read_readings, read_rack):
        with suppress(ValueError):
            read(data)


STOCK = [
    Stock(OwnTube("old-ochre", "Old ochre, “jar”", "yellow-ochre", Swatches((56.0, 14.0, 41.0)))),
    Stock(OwnTube("white-2", "Grandmother's white", "titanium-white"), 12.5, True),
]  # fmt: skip


def test_a_rack_goes_out_and_comes_back() -> None:
    assert read_rack(rack_json(STOCK).encode()) == tuple(STOCK)
    plain = read_rack(rack_csv(STOCK).encode())
    assert plain[1] == STOCK[1]
    assert plain[0].tube == OwnTube("old-ochre", "Old ochre, “jar”", "yellow-ochre")


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("", "empty"),
        ("key,name,pigment,amount_ml\n", "line 1: the column “empty” is missing"),
        ("key,name,pigment,amount_ml,empty\n", "no tube"),
        ("key,name,pigment,amount_ml,empty\na,A,yellow-ochre,-3,no\n", "line 2: a tube holds between"),
        ("key,name,pigment,amount_ml,empty\na,A,yellow-ochre,much,no\n", "line 2: "),
        ("key,name,pigment,amount_ml,empty\na,A,mud,3,no\n", "line 2: there is no pigment called “mud”"),
        ("key,name,pigment,amount_ml,empty\na,A,yellow-ochre,3,perhaps\n", "neither yes nor no"),
        ("key,name,pigment,amount_ml,empty\na,A,yellow-ochre,3\n", "line 2: 4 cells"),
        ("key,name,pigment,amount_ml,empty\n" + "a,A,yellow-ochre,3,no\n" * 2, "“a” is in the file twice"),
        ('{"tubes": [', "line 1: the file is cut off"),
        ('{"tubes": [{"key": "a"}]}', "tubes.0.name"),
        ('{"format": "another", "tubes": []}', "format"),
    ],
)
def test_a_rack_that_cannot_be_used_says_why(text: str, sentence: str) -> None:
    with pytest.raises(Refusal, match=sentence):
        read_rack(text.encode())


def test_the_blank_sheet_has_a_row_for_every_tube() -> None:
    names = [f"Tube number {i}" for i in range(11)]
    pages = pypdf.PdfReader(io.BytesIO(swatch_sheet_pdf(names, "A4"))).pages
    text = "\n".join(page.extract_text() for page in pages)
    assert all(name in text for name in names)
    assert len(pages) == 2
    assert text.count("white: leave empty") == 6 * len(pages)
    assert text.count("over black") == 11
    assert "Tube: ____" in pypdf.PdfReader(io.BytesIO(swatch_sheet_pdf([], "Letter"))).pages[0].extract_text()


def test_per_cent_is_a_matter_of_the_file_not_of_the_row() -> None:
    """A black of 0.9 % beside a white of 90 %: L* 8.1 and 96 (CIE 15), not a second white."""
    names = " ".join(f"SPECTRAL_NM{int(w)}" for w in WAVELENGTHS)
    rows = "\n".join(
        f'"jar {patch}" ' + " ".join([v] * len(WAVELENGTHS))
        for patch, v in (("masstone", "0.9"), ("tint", "90"))
    )
    head = f"BEGIN_DATA_FORMAT\nSAMPLE_NAME {names}\nEND_DATA_FORMAT\nBEGIN_DATA\n"
    black, white = read_readings(f"{head}{rows}\nEND_DATA\n".encode())
    assert black.lab[0] == pytest.approx(8.13, abs=0.05)
    assert white.lab[0] == pytest.approx(96.0, abs=0.05)


@pytest.mark.parametrize("name", ["=1+1", "+A1", "-2", "@SUM(A1)", "plain", "'quoted", "'=x"])
def test_no_cell_is_a_formula_and_names_come_back(name: str) -> None:
    written = safe(name)
    assert not written.startswith(("=", "+", "-", "@", "\t", "\r"))
    assert plain(written) == name
