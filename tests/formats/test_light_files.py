"""The light in files: the contract of plan.json, masks, SVG by an XML parser, the sheet by a PDF reader."""

from __future__ import annotations

import io
import json
from pathlib import Path
from xml.etree import ElementTree

import cv2
import numpy as np
import pypdf
import pytest

from tests.conftest import study_of
from truesitter.core.light.form.solids import Solid
from truesitter.formats.documents.plan_light import side_words
from truesitter.formats.folder import write_plan
from truesitter.formats.pictures.light_pictures import shine_codes, solid_light
from truesitter.formats.print.light_files import light_pdf, light_svg
from truesitter.formats.words.wording import Counting

SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    target = tmp_path_factory.mktemp("plan")
    write_plan(study_of("orsolya"), target, "Orsolya")
    return target


def test_plan_json_carries_the_light(folder: Path) -> None:
    plan = json.loads((folder / "plan.json").read_text())
    light = plan["light"]
    assert set(light["direction"]) >= {"vector", "confidence", "words", "second"}
    assert np.linalg.norm(light["direction"]["vector"]) == pytest.approx(1)
    for form in light["form"]:
        assert set(form) == {"class", "share", "value", "lab", "parts", "heap"}
    for peak in light["peaks"]:
        assert set(peak) == {"place", "x", "y", "value", "prominence", "ceiling"}
        assert peak["ceiling"] <= 10
    for h in light["highlights"]:
        assert set(h) >= {"place", "kind", "edge", "value", "x", "y"}
    for r in light["recesses"]:
        assert set(r) >= {"place", "depth", "width_mm", "x", "y"}
    for key in ("form", "highlights", "zones", "recesses", "light", "light_sheet"):
        assert (folder / plan["files"][key]).stat().st_size > 500


def test_masks_have_the_size_of_the_picture_and_the_numbers_they_say(folder: Path) -> None:
    plan = json.loads((folder / "plan.json").read_text())
    shape = plan["reference"]["height"], plan["reference"]["width"]
    masks = {
        n: cv2.imread(str(folder / f"{n}.png"), cv2.IMREAD_UNCHANGED) for n in ("form", "zones", "recesses")
    }
    for mask in masks.values():
        assert mask.shape == shape
    assert set(np.unique(masks["form"])) <= set(range(7))
    shares = {f["class"]: f["share"] for f in plan["light"]["form"]}
    skin = (masks["form"] > 0).sum()
    order = ("highlight", "light", "halftone", "form shadow", "reflected light", "cast shadow")
    for number, name in enumerate(order, 1):
        assert (masks["form"] == number).sum() / skin == pytest.approx(shares.get(name, 0), abs=0.005)
    assert set(np.unique(masks["recesses"])) == {0, 1, 2}
    assert not (masks["zones"][masks["form"] >= 4] == 1).mean() > 0.01, "no first light in shadow"
    shine = cv2.imread(str(folder / "highlights.png"), cv2.IMREAD_UNCHANGED)
    assert shine.shape == shape
    assert shine.max() > 100
    np.testing.assert_array_equal(np.unique(shine), np.unique(shine_codes(study_of("orsolya"))))


def test_the_drawing_has_its_parts_in_groups_of_their_own() -> None:
    root = ElementTree.fromstring(light_svg(study_of("orsolya")))
    assert (root.get("width"), root.get("height")) == ("320mm", "400mm")
    groups = {g.get("id"): g for g in root.iter(f"{SVG}g")}
    assert set(groups) >= {
        "zone-1", "zone-2", "zone-3", "zone-4", "rays", "limits", "terminator", "recess-first", "recess-dark",
        "peaks",
    }  # fmt: skip
    peaks = study_of("orsolya").light.zones().peaks
    dots = list(groups["peaks"].iter(f"{SVG}circle"))
    assert len(dots) == len(peaks)
    assert float(dots[0].get("cx") or 0) == pytest.approx(peaks[0].x * 320, abs=0.01)
    assert float(dots[0].get("cy") or 0) == pytest.approx(peaks[0].y * 400, abs=0.01)
    for name in ("zone-1", "rays", "terminator", "recess-dark"):
        assert len(groups[name]) > 0, name
    assert len(groups["limits"]) == 0


def test_the_sheet_tells_every_place() -> None:
    study = study_of("orsolya")
    data = light_pdf(study, "Orsolya", "A4", Counting())
    text = " ".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(data)).pages)
    said = " ".join(text.split())
    for peak in study.light.zones().peaks:
        assert peak.place in said
    for recess in study.light.recesses().recesses:
        assert recess.place in said
    for part in ("Form of the skin", "Highlights", "upper right, from the front", "steps down"):
        assert part in said


@pytest.mark.parametrize(
    ("way", "words"),
    [
        ((0.1, 0.9), "below"),
        ((0.2, -0.8), "above"),
        ((0.9, 0.3), "right"),
        ((-0.9, 0.3), "left"),
        (None, None),
    ],
)
def test_sides_in_words(way: tuple[float, float] | None, words: str | None) -> None:
    assert side_words(way) == words


def test_the_ball_is_lit_from_where_the_light_is() -> None:
    light = solid_light(Solid.BALL, (-0.6, 0.6, 0.53), 0.1, 220)
    row, column = np.unravel_index(light.argmax(), light.shape)
    assert column / light.shape[1] == pytest.approx(0.5 - 0.3, abs=0.02)
    assert row / light.shape[0] == pytest.approx(0.5 - 0.3, abs=0.02)
    # The side away from the light has the even rest alone: 0.1 of 1.1, in the cube root of value.
    assert light[light.shape[0] * 4 // 5, light.shape[1] * 4 // 5] == pytest.approx(
        (0.1 / 1.1) ** (1 / 3), abs=1e-3
    )
