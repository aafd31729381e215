"""The open files: they parse, they are in millimetres, and they say what the plan says."""

from __future__ import annotations

import csv
import hashlib
import io
import json
from itertools import pairwise
from pathlib import Path
from xml.etree import ElementTree

import cv2
import jsonschema
import numpy as np
import pypdf
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra import numpy as arrays
from shapely import Polygon

from tests.conftest import study_of, truth
from truesitter.core.light.form.zones import LightZones
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.tubes.palettes import STARTERS, starter
from truesitter.core.paint.tubes.rack import LIBRARY
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.core.stages.values_stage import OutlineDrawing
from truesitter.core.values.outlines import trace_outlines
from truesitter.formats.documents.plan import Plan, heap_of, plan_of, tubes_used
from truesitter.formats.documents.tables import mixtures_csv
from truesitter.formats.folder import write_plan
from truesitter.formats.pictures.png import SMALL, encode_jpeg, encode_png, smaller
from truesitter.formats.pictures.views import VIEWS, zones_picture
from truesitter.formats.print.mixing_sheet import mixing_pdf
from truesitter.formats.print.pdf import plan_pdf
from truesitter.formats.print.svg import outlines_svg
from truesitter.formats.words.wording import (
    Counting,
    dilution_words,
    duration,
    judgement,
    parts_sentence,
)

EARTH = STARTERS[0]
SVG = "{http://www.w3.org/2000/svg}"
SCHEMA = json.loads((Path(__file__).parents[2] / "docs/plan.schema.json").read_text(encoding="utf-8"))


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> tuple[Path, Plan]:
    target = tmp_path_factory.mktemp("plan") / "new" / "folder"
    return target, write_plan(study_of("maren"), target, "A made-up <sitter> & friend")


def test_plan_json_follows_its_schema_and_names_files_that_exist(folder: tuple[Path, Plan]) -> None:
    target, _ = folder
    plan = json.loads((target / "plan.json").read_text(encoding="utf-8"))
    jsonschema.validate(plan, SCHEMA)
    assert plan["reference"]["sha256"] == hashlib.sha256(truth("maren").data).hexdigest()
    assert all((target / name).stat().st_size > 100 for name in plan["files"].values())
    assert (target / plan["hair"]["field"]).is_file()
    assert sum(plan["regions"].values()) == pytest.approx(1)
    cuts = plan["values"]["cuts"]
    assert [g["low"] for g in plan["values"]["groups"][1:]] == cuts
    for mixture in plan["flesh"]["mixtures"]:
        assert set(mixture["parts"]) <= set(plan["flesh"]["palette"])
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate({**plan, "passes": 3}, SCHEMA)


def test_passes_of_plan_json_are_mixed_from_its_heaps(folder: tuple[Path, Plan]) -> None:
    target, plan = folder
    told = json.loads((target / "plan.json").read_text(encoding="utf-8"))
    heaps = {h["id"]: h for h in told["heaps"]}
    assert len(heaps) == len(told["heaps"]) > 1
    spent = dict.fromkeys(heaps, 0.0)
    for number, one in enumerate(told["passes"], 1):
        whole = sum(m["parts"] for m in one["mix"])
        assert len(one["mix"]) <= 2
        for part in one["mix"]:
            assert (part["heap"] is None) != (part["tube"] is None)
            assert part["name"] in one["mix_words"]
            if part["heap"]:
                assert number in heaps[part["heap"]]["passes"]
                spent[part["heap"]] += one["ml"] * part["parts"] / whole
    assert spent == pytest.approx({key: h["ml"] for key, h in heaps.items()})
    alone = plan.model_copy(update={"passes": [], "flesh": plan.flesh.model_copy(update={"mixtures": []})})
    assert {k for h in told["heaps"] for k in h["parts"]} == set(tubes_used(alone, LIBRARY))
    words = " ".join(page.extract_text() for page in pypdf.PdfReader(target / "plan.pdf").pages)
    assert all(h["name"] in " ".join(words.split()) for h in told["heaps"])


def test_pictures_carry_the_documented_codes(folder: tuple[Path, Plan]) -> None:
    target, plan = folder
    shape = (plan.reference.height, plan.reference.width)
    groups = cv2.imread(str(target / "groups.png"), cv2.IMREAD_UNCHANGED)
    assert groups.shape == shape
    shares = np.bincount(groups.ravel(), minlength=5) / groups.size
    assert shares.tolist() == pytest.approx([g.share for g in plan.values.groups])
    regions = cv2.imread(str(target / "regions.png"), cv2.IMREAD_UNCHANGED)
    assert regions.dtype == np.uint8
    assert np.mean(regions == 1) == pytest.approx(plan.regions["skin"])
    field = cv2.imread(str(target / "hair_direction.png"), cv2.IMREAD_UNCHANGED)
    assert field.dtype == np.uint16
    assert field.max() <= 36000
    hair = np.isin(regions, (2, 3, 4))
    assert (field[~hair] == 0).all()
    assert (field[hair] > 0).mean() > 0.98


def test_outlines_in_millimetres_cover_the_canvas_exactly_once(folder: tuple[Path, Plan]) -> None:
    root = ElementTree.parse(folder[0] / "outlines.svg").getroot()
    assert (root.get("width"), root.get("height"), root.get("viewBox")) == ("320mm", "400mm", "0 0 320 400")
    total = 0.0
    for path in root.iter(f"{SVG}path"):
        rings = [
            [tuple(float(v) for v in point.split()) for point in ring.strip("MZ").split("L")]
            for ring in (path.get("d") or "").split("Z")
            if ring
        ]
        total += Polygon(rings[0], rings[1:]).area
    assert total == pytest.approx(320 * 400, rel=1e-3)
    numbers = [t.text for t in root.iter(f"{SVG}text")]
    assert set(numbers) <= {str(g.index + 1) for g in folder[1].values.groups}
    assert len(numbers) > 10


@given(arrays.arrays(np.uint8, (12, 9), elements=st.integers(0, 3)))
@settings(deadline=None)
def test_any_label_map_becomes_valid_svg(labels: np.ndarray) -> None:
    root = ElementTree.fromstring(
        outlines_svg(OutlineDrawing(trace_outlines(labels), (12, 9)), (90, 120)).encode()
    )
    assert {int(p.get("data-group") or 0) - 1 for p in root.iter(f"{SVG}path")} == set(np.unique(labels))


def test_png_and_jpeg_come_back() -> None:
    rng = np.random.default_rng(5)
    for array in (
        rng.integers(0, 255, (7, 5), np.uint8),
        rng.integers(0, 60000, (7, 5), np.uint16),
        rng.integers(0, 255, (7, 5, 3), np.uint8),
        rng.integers(0, 255, (7, 5, 4), np.uint8),
    ):
        back = cv2.imdecode(np.frombuffer(encode_png(array), np.uint8), cv2.IMREAD_UNCHANGED)
        if back.ndim == 3:
            back = back[..., [2, 1, 0, 3][: back.shape[2]]]
        np.testing.assert_array_equal(back, array)
    flat = np.full((32, 32, 3), (200, 120, 60), np.uint8)
    back = cv2.imdecode(np.frombuffer(encode_jpeg(flat), np.uint8), cv2.IMREAD_COLOR)[..., ::-1]
    assert np.abs(back.astype(int) - flat).max() <= 4


def test_zones_fade_outwards() -> None:
    zones = np.array([[0, 1, 2, 3, 4, 4]], np.uint8)
    fade = np.array([[0, 1, 1, 1, 1, 0.5]], np.float32)
    *veil, faded = zones_picture(LightZones((), zones, fade, ()))[0, :, 3].astype(int)
    assert faded == pytest.approx(veil[4] / 2, abs=1)
    veil = np.array(veil)
    assert veil[0] == 0
    assert all(near > far for near, far in pairwise(veil[1:]))


def test_every_way_of_looking_has_the_shape_of_the_canvas() -> None:
    study = study_of("maren")
    for name, view in VIEWS.items():
        if name in ("ball", "eye-left", "eye-right") or name.startswith("solid-"):
            continue  # pictures of their own
        data, media = view.make(study)
        picture = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED)
        assert media in ("image/png", "image/jpeg")
        assert picture.shape[0] / picture.shape[1] == pytest.approx(1.25, rel=0.01), name


def test_the_sheet_names_tubes_passes_and_cautions(folder: tuple[Path, Plan]) -> None:
    target, plan = folder
    text = "\n".join(page.extract_text() for page in pypdf.PdfReader(target / "plan.pdf").pages)
    assert "A made-up <sitter> & friend" in text
    for name in [p.name for p in plan.passes]:
        assert name in text
    assert "safety data sheet" in text.lower()


def test_a_sheet_without_sitter_or_face_still_prints(made_photo: bytes) -> None:
    study = Study.of_bytes(made_photo, StudySettings())
    data = plan_pdf(study, plan_of(study, {}), "Nobody", "A4", Counting())
    assert len(pypdf.PdfReader(io.BytesIO(data)).pages) >= 4


@pytest.mark.parametrize(
    ("minutes", "words"), [(12, "12 minutes"), (180, "3 hours"), (2 * 1440, "2 days"), (4320, "3 days")]
)
def test_waits_in_words(minutes: float, words: str) -> None:
    assert duration(minutes) == words


def test_parts_in_words() -> None:
    assert parts_sentence({"yellow-ochre": 2, "ivory-black": 1}, LIBRARY) == "2 Yellow ochre : 1 Ivory black"
    thin = dilution_words(Dilution(1, 27), "water")
    assert parts_sentence({"yellow-ochre": 2}, LIBRARY, thin) == (
        "2 Yellow ochre; 1 of paint to 27 of water, a trace"
    )
    assert dilution_words(Dilution(2, 1), "medium") == "2 of paint to 1 of medium, stiff"
    assert dilution_words(Dilution(1, 0), "water") == "paint as it comes"
    assert dilution_words(Dilution(1, 60, blotted=True), "water").endswith("a trace; blot it at once")
    told = parts_sentence({"titanium-white": 7 * 21 + 100, "ivory-black": 5, "yellow-ochre": 42}, LIBRARY)
    assert told == (
        "7 Titanium white : 5 Ivory black let down : 2 Yellow ochre "
        "(first 1 Ivory black in 20 Titanium white)"
    )


def test_the_mixing_sheet_and_table_hold_the_whole_board() -> None:
    study = Study.of_bytes(
        truth("maren").data,
        StudySettings.model_validate(
            {
                "flesh": {
                    "pins": [{"name": "cool cheek", "target_lab": [62, 15, 18], "locked": True,
                              "parts": {"titanium-white": 3, "light-red": 1}}],
                }
            }
        ),
    )  # fmt: skip
    rows = list(csv.DictReader(io.StringIO(mixtures_csv(study))))
    families = {r["family"] for r in rows}
    assert {"pinned", "skin by value group", "skin in the light", "hair", "lips", "garment"} <= families
    pinned = rows[0]
    assert (pinned["name"], pinned["parts"]) == ("cool cheek", "titanium-white=3 light-red=1")
    for row in rows:
        made = mix({k: float(v) for k, v in (p.split("=") for p in row["parts"].split())}, EARTH)
        assert made.lab == pytest.approx([float(row[c]) for c in ("L", "a", "b")], abs=0.01)
    pages = pypdf.PdfReader(io.BytesIO(mixing_pdf(study, "A made-up sitter", "A4", Counting()))).pages
    text = " ".join(page.extract_text() for page in pages)
    assert "cool cheek: 3 Titanium white : 1 Light red" in text
    assert "of the last" in text
    assert "safety data sheet" in text.lower()


@pytest.mark.parametrize(
    ("made", "error", "words"),
    [
        ((60.0, 10.0, 15.0), 0.0, "colour and value right"),
        ((60.0, 11.0, 16.5), 0.0, "a touch too warm, value right"),
        ((60.0, 4.0, 5.0), 0.0, "too cool, too grey, value right"),
        ((63.0, 10.0, 15.0), 0.3, "a touch too light"),
        ((50.0, 10.0, 15.0), -1.0, "too dark"),
    ],
)
def test_judgements_in_plain_language(made: tuple[float, float, float], error: float, words: str) -> None:
    assert judgement((60.0, 10.0, 15.0), made, error) == words


def test_a_heap_is_shown_in_the_colour_it_has_on_the_palette() -> None:
    """One part of black in twenty of white is a light grey, not black; twice let down it is lighter still."""
    once = heap_of({"titanium-white": 7 * 21 + 100, "ivory-black": 5, "yellow-ochre": 42}, LIBRARY)
    assert once is not None
    assert once.tubes == ["ivory-black"]
    grey = mix({"ivory-black": 1, "titanium-white": 20}, starter("earth-four"))
    assert once.hexes == {"ivory-black": grey.hex}
    assert 5 < grey.value < 9
    assert heap_of({"titanium-white": 7, "ivory-black": 5}, LIBRARY) is None


@given(st.integers(1, 1400), st.integers(1, 1400), st.sampled_from([3, 4]))
@settings(max_examples=25)
def test_a_small_picture_is_the_large_one_seen_from_afar(height: int, width: int, channels: int) -> None:
    """Averaged, not picked: a fine checker becomes the mean of its two greys (sampling theorem)."""
    checker = np.indices((height, width)).sum(axis=0) % 2 * 200
    picture = np.repeat(checker[..., None], channels, axis=2).astype(np.uint8)
    small = smaller(picture)
    scale = SMALL / max(height, width)
    assert small.shape == (max(1, round(height * scale)), max(1, round(width * scale)), channels)
    if min(small.shape[:2]) > 4 and scale < 0.45:
        assert np.abs(small[1:-1, 1:-1].astype(int) - 100).max() <= 4
