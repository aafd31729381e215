"""Drawing, transfer at true size, thumbnails and full-size pictures."""

from __future__ import annotations

import csv
import io
import re
from xml.etree import ElementTree

import cv2
import numpy as np
import pypdf
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import jpeg, made_head, study_of
from tests.formats.test_files import SVG
from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.formats.documents.tables import shapes_csv
from truesitter.formats.pictures.full_size import full_picture
from truesitter.formats.pictures.views import VIEWS
from truesitter.formats.print.svg import outlines_svg
from truesitter.formats.print.transfer import thumbnails_pdf, tiles, transfer_pdf


def test_the_drawing_keeps_outlines_grid_and_edges_apart() -> None:
    study = study_of("maren")
    grid = study.settings.reference.canvas_grid()
    svg = outlines_svg(study.values.outlines(), (320, 400), grid, study.looking.edges())
    root = ElementTree.fromstring(svg.encode())
    assert [g.get("id") for g in root.findall(f"{SVG}g")] == [
        "outlines", "numbers", "grid", "grid-numbers", "edges",
    ]  # fmt: skip
    weights = {e.get("data-edge"): float(e.get("stroke-width") or 0) for e in root.iter(f"{SVG}polyline")}
    assert weights["hard"] > weights["firm"] > weights["soft"] > weights["lost"]
    assert "#000" in svg
    assert not re.search(r"#(?!000)[0-9a-f]{3}", svg), "weight of line, not colour"
    lines = root.findall(f"{SVG}g[@id='grid']/{SVG}line")
    assert len(lines) == 2 + 3
    assert float(lines[0].get("x1") or 0) == pytest.approx(320 / 3, abs=0.01)


def test_shapes_as_a_table() -> None:
    study = study_of("maren")
    rows = list(csv.DictReader(io.StringIO(shapes_csv(study))))
    assert len(rows) == len(study.values.shapes().shapes)
    assert sum(float(r["area_mm2"]) for r in rows) == pytest.approx(320 * 400, rel=1e-3)
    by_number = {r["number"]: r for r in rows}
    for row in rows:
        assert float(row["brush_mm"]) <= max(1, float(row["circle_mm"]))
        assert all(row["number"] in by_number[n]["neighbours"].split() for n in row["neighbours"].split())


@pytest.mark.parametrize(("paper", "sheets"), [("A4", 4), ("Letter", 4)])
def test_the_transfer_covers_the_canvas_at_true_size(paper: str, sheets: int) -> None:
    """320 × 400 mm on sheets with 180 × 253 mm (A4) or 186 × 235 mm (Letter) of room, 10 mm overlapping."""
    data = transfer_pdf(study_of("maren"), "A made-up sitter", paper)
    pages = pypdf.PdfReader(io.BytesIO(data)).pages
    assert len(pages) == sheets
    assert "sheet 2·2 of 2·2" in pages[-1].extract_text()
    assert "100 mm" in pages[0].extract_text()
    assert (
        "mirrored and upside down"
        in pypdf.PdfReader(
            io.BytesIO(transfer_pdf(study_of("maren"), "x", paper, mirrored=True, upside_down=True))
        )
        .pages[0]
        .extract_text()
    )


@given(st.floats(20, 3000), st.floats(40, 400))
def test_tiles_reach_the_end_and_none_is_idle(length: float, room: float) -> None:
    count = tiles(length, room)
    reached = room + (count - 1) * (room - 10)
    assert reached >= length - 1e-6
    assert count == 1 or reached - (room - 10) < length


def test_a_tile_shows_its_part_of_the_canvas_in_place() -> None:
    """The drawing on the first sheet, read back as points: the canvas corner lies at the margin."""
    data = transfer_pdf(study_of("maren"), "x", "A4")
    page = pypdf.PdfReader(io.BytesIO(data)).pages[0]
    content = page.get_contents().get_data().decode("latin-1")
    shifts = [tuple(float(v) for v in m) for m in re.findall(r"1 0 0 1 (\S+) (\S+) cm", content)]
    corner = (15 * 72 / 25.4, (297 - 30) * 72 / 25.4)
    assert any(shift == pytest.approx(corner, abs=0.01) for shift in shifts)
    (drawing,) = page["/Resources"]["/XObject"].values()
    drawn = drawing.get_object().get_data().decode("latin-1")
    boxes = [float(m) for m in re.findall(r"0 \S+ (\S+) \S+ re", drawn)]
    assert any(width == pytest.approx(320 * 72 / 25.4, abs=0.01) for width in boxes)


def test_thumbnails_come_on_one_sheet() -> None:
    pages = pypdf.PdfReader(io.BytesIO(thumbnails_pdf(study_of("maren"), "x", "A4"))).pages
    assert len(pages) == 1
    assert len(pages[0].images) == 4


@pytest.mark.parametrize("view", ["colour", "grey", "squint", "groups"])
def test_full_size_is_the_photographs_own(view: str) -> None:
    big = jpeg(cv2.resize(made_head(), (2400, 3000), interpolation=cv2.INTER_CUBIC))
    study = Study.of_bytes(big, StudySettings.model_validate({"reference": {"canvas_height_mm": 375}}))
    picture = full_picture(study, view)
    assert picture.shape[:2] == (3000, 2400)
    small = cv2.imdecode(np.frombuffer(VIEWS[view].make(study)[0], np.uint8), cv2.IMREAD_GRAYSCALE)
    grey = cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY) if picture.ndim == 3 else picture
    shrunk = cv2.resize(grey, small.shape[::-1], interpolation=cv2.INTER_AREA)
    assert np.abs(shrunk.astype(float) - small).mean() < 3


def test_what_has_no_full_size_says_so() -> None:
    with pytest.raises(Refusal, match="full size"):
        full_picture(study_of("maren"), "zones")
