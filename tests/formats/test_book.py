"""Calendar, OpenRaster, pictures and the book of a plan, read back by other programs' readers."""

from __future__ import annotations

import io
import re
import zipfile
from datetime import datetime, timedelta
from functools import cache
from pathlib import Path

import icalendar
import numpy as np
import pypdf
import pytest
from PIL import Image
from pyora import Project

from tests.core.school.test_schools import planned
from tests.formats.test_print import assert_stays_on_the_page
from truesitter.core.paint.tubes.pigments import pigment_library
from truesitter.core.plan.hand.seams import Seam
from truesitter.core.school.library import SCHOOLS
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.formats.documents.calendar import sittings_ics
from truesitter.formats.documents.plan_passes import edge_of, passes_of, time_of
from truesitter.formats.pictures.openraster import passes_ora, passes_zip
from truesitter.formats.print.book import book_pdf
from truesitter.formats.words.wording import Counting

START = datetime(2027, 3, 1, 9, 30)


@cache
def oil() -> Study:
    return planned("maren", "direct-oil")


def titles(study: Study) -> tuple[str, ...]:
    names = study.settings.values.group_names()
    return tuple(p.title(names) for p in study.passes.plan().passes)


def test_sittings_are_events_of_a_calendar() -> None:
    """RFC 5545, read by icalendar."""
    study = planned("maren", "layered-oil")
    sittings = study.passes.sittings()
    data = sittings_ics(
        study.passes.plan(), sittings, study.settings.values.group_names(), "Maren; “at, home”", "abc", START
    )
    assert b"\r\n" in data
    calendar = icalendar.Calendar.from_ical(data)
    events = list(calendar.walk("VEVENT"))
    assert len(events) == len(sittings)
    for number, (event, sitting) in enumerate(zip(events, sittings, strict=True), 1):
        assert event.decoded("dtstart") == START + timedelta(days=sitting.day)
        length = (event.decoded("dtend") - event.decoded("dtstart")).total_seconds() / 60
        assert length >= round(sitting.minutes) - 1
        assert str(event["summary"]) == f"Maren; “at, home”: sitting {number} of {len(sittings)}"
        for interval in sitting.intervals:
            assert titles(study)[interval.task] in str(event["description"])
    assert len({str(e["uid"]) for e in events}) == len(events)
    assert calendar.errors == []


def test_every_pass_is_a_layer_of_an_openraster_file(tmp_path: Path) -> None:
    """OpenRaster 0.0.5, read by pyora."""
    study = oil()
    painted = study.passes.painted()
    file = tmp_path / "passes.ora"
    file.write_bytes(passes_ora(painted, titles(study)))
    with zipfile.ZipFile(file) as packed:
        first = packed.infolist()[0]
        assert (first.filename, first.compress_type) == ("mimetype", zipfile.ZIP_STORED)
        assert packed.read("mimetype") == b"image/openraster"
        assert max(Image.open(io.BytesIO(packed.read("Thumbnails/thumbnail.png"))).size) == 256
    project = Project.load(str(file))
    assert project.dimensions == painted.shape[::-1]
    layers = [layer for layer in project.iter_tree if layer.name]
    assert [layer.name for layer in layers] == [
        "Bare support", *(f"{n} {t}" for n, t in enumerate(titles(study), 1)),
    ]  # fmt: skip
    # Laid over one another, from the bottom up, they are the finished canvas.
    made = np.zeros((*painted.shape, 3), np.uint8)
    for layer in layers:
        data = np.asarray(layer.get_image_data(raw=True).convert("RGBA"))
        made[data[..., 3] > 0] = data[data[..., 3] > 0][:, :3]
    np.testing.assert_array_equal(made, painted.picture(len(titles(study))))


def test_the_pictures_are_the_canvas_after_each_pass() -> None:
    study = oil()
    painted = study.passes.painted()
    with zipfile.ZipFile(io.BytesIO(passes_zip(painted, titles(study)))) as packed:
        names = packed.namelist()
        assert len(names) == len(titles(study)) + 1
        last = np.asarray(Image.open(io.BytesIO(packed.read(names[-1]))))
    np.testing.assert_array_equal(last, painted.picture(len(titles(study))))


@pytest.mark.parametrize(("school", "paper"), [("direct-oil", "A4"), ("watercolour-zones", "Letter")])
def test_the_book_has_a_page_a_pass_and_nothing_leaves_its_page(school: str, paper: str) -> None:
    study = planned("maren", school)
    data = book_pdf(study, "Maren " + "long" * 30, paper, Counting())
    words = assert_stays_on_the_page(data)
    pages = pypdf.PdfReader(io.BytesIO(data)).pages
    width = {"A4": 595.28, "Letter": 612}[paper]
    assert float(pages[0].mediabox.width) == pytest.approx(width, abs=0.1)
    bare = re.sub(r"\s", "", words)
    passes, _ = passes_of(study)
    assert len(pages) >= len(passes) + 3
    for number, one in enumerate(passes, 1):
        assert re.sub(r"\s", "", f"{number}  {one.name}") in bare
        assert re.sub(r"\s", "", one.inspect) in bare
    for key in {k for p in passes for k in p.parts}:
        assert re.sub(r"\s", "", pigment_library()[key].name) in bare
    assert re.sub(r"\s", "", SCHOOLS[school].preparing[0]) in bare


def test_the_book_of_tubes_that_cannot_paint_in_its_school_says_so() -> None:
    study = oil()
    chosen = study.settings.model_dump()
    chosen["flesh"].update(transparent=True, tubes=["arylide-yellow", "ultramarine-blue"])
    from truesitter.core.settings import StudySettings

    poor = Study(study.sha256, study.source.load, StudySettings.model_validate(chosen), study.source.memo)
    assert "needs opaque paint" in assert_stays_on_the_page(book_pdf(poor, "x", "A4", Counting()))
    assert time_of(poor) is None


def test_a_pass_says_all_that_was_agreed() -> None:
    for school in ("layered-oil", "watercolour-zones", "airbrush", "brown-layer"):
        study = planned("maren", school)
        passes, _ = passes_of(study)
        kinds = {p.kind for p in passes}
        assert kinds <= {"ground", "wash", "mass", "glaze", "light", "lines", "remove", "coat"}
        for one, seams in zip(passes, study.passes.seams(), strict=True):
            assert one.minutes > 0
            assert one.open_minutes >= one.open_from_minutes >= 0
            assert one.coats >= 1
            assert (one.dilution is not None) == bool(one.thinned)
            assert one.edge.crisp or one.edge.soft
            assert (one.edge.mm is None) == (not seams)
            if seams:
                low, high = (f(s.here_mm + s.there_mm for s in seams) for f in (min, max))
                assert low <= (one.edge.mm or 0) <= high
        assert sum(p.share_of_time for p in passes) == pytest.approx(1)
    time = time_of(planned("maren", "layered-oil"))
    assert time is not None
    assert time.days == time.sittings[-1].day + 1
    assert all(s.intervals[0].start_minutes == 0 for s in time.sittings)


def test_edges_are_told_from_their_words() -> None:
    plan = planned("maren", "direct-oil").passes.plan()
    by = {p.key: edge_of(p, ()) for p in plan.passes}
    assert (by["flesh-2"].soft, by["flesh-2"].crisp) == (True, True), "soft here, firm there"
    assert (by["ground"].soft, by["ground"].crisp) == (False, True)
    assert by["ground"].mm is None


def test_the_width_told_is_the_middle_one_by_length() -> None:
    ground = oil().passes.plan().passes[0]

    def seam(length: float, half: float) -> Seam:
        return Seam(Region.SKIN, False, 0, length, half, half, 1.0)

    assert edge_of(ground, (seam(10, 5), seam(100, 1), seam(20, 0.1))).mm == pytest.approx(2)
    assert edge_of(ground, (seam(100, 5), seam(10, 1), seam(20, 0.1))).mm == pytest.approx(10)
