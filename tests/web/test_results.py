"""The routes: what each stage answers."""

from __future__ import annotations

import io
from pathlib import Path

import colour
import numpy as np
import pypdf
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.conftest import jpeg, small_photo
from tests.web.conftest import put_in
from truesitter.core.colour.spaces import lab_to_srgb, srgb_to_hex

ROOT = Path(__file__).parents[2]


def test_previewed_groups_have_the_greys_between_the_cuts(client: TestClient, sitter: str) -> None:
    """Source: luminance of a Munsell value after ASTM D1535, and sRGB, through colour-science."""
    answer = client.get(f"/api/sitters/{sitter}/values/preview?cuts=2,4,6")
    grey = np.asarray(Image.open(io.BytesIO(answer.content)).convert("L"))
    middles = colour.colorimetry.luminance_ASTMD1535(np.array([1, 3, 5, 8])) / 100
    expected = np.round(255 * colour.models.eotf_inverse_sRGB(middles))
    found = np.unique(grey).astype(float)
    assert len(found) >= 3
    assert all(np.abs(expected - g).min() <= 1 for g in found)


def test_each_stage_answers_for_a_sitter_with_a_face(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    values = client.get(f"{url}/values").json()
    assert sum(g["share"] for g in values["plan"]["groups"]) == pytest.approx(1)
    assert sum(values["histogram"]) == pytest.approx(1)
    assert client.get(f"{url}/ladder").json() == values["histogram"]
    frame = client.get(f"{url}/reference").json()
    assert len(frame["corners"]) == 4
    assert frame["mm_per_px"] == pytest.approx(320 / frame["width"])
    regions = client.get(f"{url}/regions").json()
    assert regions["face_found"]
    assert "face was found" in regions["sentence"]
    flesh = client.get(f"{url}/flesh").json()
    assert sum(m["share"] for m in flesh["mixtures"]) == pytest.approx(1, abs=0.02)
    assert flesh["cautions"]
    spot = client.get(f"{url}/flesh/spot?x=0.42&y=0.5").json()
    assert spot["region"] == "skin"
    assert spot["mixture"]["parts"]
    assert client.get(f"{url}/light/peaks").json()["peaks"]
    hair = client.get(f"{url}/hair").json()
    assert all(len(line["points"]) % 2 == 0 and len(line["points"]) >= 4 for line in hair["lines"])
    passes = client.get(f"{url}/passes").json()
    starts = [p["start_minutes"] for p in passes["passes"]]
    assert starts == sorted(starts)
    assert passes["cautions"]


def test_frames_are_offered_and_a_photograph_on_its_side_is_said(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    found = client.get(f"{url}/reference/framings").json()
    assert (found["upright"], found["turn_sentence"], found["sentence"]) == (None, "", "")
    assert [f["name"] for f in found["framings"]] == ["head", "as photographed"]
    close, whole = found["framings"]
    assert close["face_mm"] > whole["face_mm"]
    assert (whole["canvas_width_mm"], whole["canvas_height_mm"]) == (320, 400)

    lying = jpeg(np.ascontiguousarray(np.rot90(np.asarray(Image.open(io.BytesIO(small_photo("maren")))))))
    other = put_in(client, lying, name="lying.jpg").json()
    assert (other["width"], other["settings"]["reference"]["canvas_width_mm"]) == (640, 400)
    url = f"/api/sitters/{other['id']}"
    said = client.get(f"{url}/reference/framings").json()
    assert (said["turn_sentence"], said["sentence"]) == ("The photograph seems to lie on its side.", "")
    assert [(f["name"], f["face_mm"]) for f in said["framings"]] == [("as photographed", None)]
    assert client.patch(f"{url}/settings/reference", json={"set": said["upright"]}).status_code == 200
    again = client.get(f"{url}/reference/framings").json()
    assert (again["upright"], [f["name"] for f in again["framings"]]) == (None, ["head", "as photographed"])
    frame = client.get(f"{url}/reference").json()
    assert frame["photograph_aspect"] == pytest.approx(1.25)
    assert np.ravel(frame["corners"]) == pytest.approx([0, 0, 1, 0, 1, 1, 0, 1], abs=1e-3)
    assert client.get(f"{url}/regions").json()["face_found"]
    client.delete(url)


def test_the_measuring_bench_answers(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    grid = client.get(f"{url}/reference").json()["grid"]
    assert [name for _, name in grid["columns"]] == ["1", "2", "3"]
    assert grid["cell_mm"] == pytest.approx((320 / 3, 100))
    condition = client.get(f"{url}/reference/condition").json()
    assert (condition["tinted"], condition["balance"], condition["exposure"]) == (False, None, 0)
    assert "white" in condition["sentences"][-1]
    balance = client.get(f"{url}/reference/neutral?x=0.1&y=0.1").json()["balance"]
    assert client.patch(f"{url}/settings/reference", json={"set": {"balance": balance}}).status_code == 200
    client.post(f"{url}/undo")
    assert client.get(f"{url}/reference/level?x1=0.2&y1=0.5&x2=0.8&y2=0.5").json()["straighten"] == 0
    assert client.get(f"{url}/reference/level?x1=0.2&y1=0.5&x2=0.2&y2=0.5").status_code == 422

    measure = {"name": "head", "start": [0.5, 0.2], "end": [0.5, 0.7]}
    client.patch(f"{url}/settings/reference", json={"set": {"measures": [measure], "unit": 0}})
    measures = client.get(f"{url}/measures").json()
    assert measures["measures"][0]["mm"] == pytest.approx(200)
    assert len(measures["proportions"]) == 7
    reading = client.get(f"{url}/measures/read?x1=0&y1=0&x2=1&y2=0").json()
    assert (reading["mm"], reading["multiple"]) == pytest.approx((320, 1.6))
    client.post(f"{url}/undo")

    shapes = client.get(f"{url}/shapes").json()
    outlines = client.get(f"{url}/outlines").json()["outlines"]
    assert {o["shape"] for o in outlines} == {s["number"] for s in shapes}
    edges = client.get(f"{url}/edges").json()
    assert set(edges["lengths_mm"]) == {"hard", "firm", "soft", "lost"}
    assert all(len(e["points"]) >= 4 and e["place"] for e in edges["edges"])
    assert isinstance(client.get(f"{url}/risks").json(), list)
    compared = client.get(f"{url}/values/compare?x1=0.42&y1=0.5&x2=0.1&y2=0.1").json()
    assert compared["steps"] == pytest.approx(compared["first"]["value"] - compared["second"]["value"])
    assert "lighter" in compared["sentence"]
    cuts = client.get(f"{url}/values").json()["plan"]["cuts"]
    assert len(client.get(f"{url}/values/split?group=2").json()) == len(cuts) + 1
    assert sum(client.get(f"{url}/ladder/sitter").json()) == pytest.approx(1)
    regions = client.get(f"{url}/regions/map").json()
    assert {"skin", "hair", "garment"} <= {o["region"] for o in regions["outlines"]}
    assert {"chin", "nose tip"} <= {p["name"] for p in regions["places"]}
    veil = Image.open(io.BytesIO(client.get(f"{url}/values/same?step=4&tolerance=0.3").content))
    assert veil.mode == "RGBA"
    for name in ("shapes.csv", "transfer.pdf", "thumbnails.pdf", "view.png?view=grey",
                 "outlines.svg?grid=true&edges=true"):  # fmt: skip
        assert client.get(f"{url}/files/{name}").status_code == 200, name


def test_the_palette_board_answers(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    six = next(p for p in client.get("/api/library").json()["palettes"] if p["key"] == "warm-cool-six")
    tubes = {"palette": "warm-cool-six", "tubes": six["tubes"]}
    assert client.patch(f"{url}/settings/flesh", json={"set": tubes}).status_code == 200
    spot = client.get(f"{url}/flesh/spot?x=0.42&y=0.5").json()
    assert spot["alternatives"]
    assert all(set(a["parts"]) != set(spot["mixture"]["parts"]) for a in spot["alternatives"])
    assert {n["direction"] for n in spot["nudges"]} >= {"lighter", "darker"}
    used = next(k for k in spot["mixture"]["parts"] if k != "titanium-white")
    area = client.get(f"{url}/flesh/spot?x=0.4&y=0.45&x2=0.44&y2=0.5").json()
    assert area["place"]

    kept = {"target_lab": spot["target_lab"], "parts": spot["mixture"]["parts"]}
    pins = [{"name": "cheek", "locked": True, **kept}, {"name": "free", **kept}]
    settings = {**tubes, "without": [used], "pins": pins}
    assert client.patch(f"{url}/settings/flesh", json={"set": settings}).status_code == 200
    again = client.get(f"{url}/flesh/spot?x=0.42&y=0.5").json()
    assert used not in again["mixture"]["parts"]
    board = client.get(f"{url}/flesh/board").json()
    locked, free = board["pins"]
    assert locked["mixture"]["parts"] == spot["mixture"]["parts"]
    assert used not in free["mixture"]["parts"]
    strings = {s["family"]: s["tones"] for s in board["strings"]}
    assert len(strings["skin in the light"]) == len(strings["hair"]) == 5
    assert strings["facial hair"] == []
    glazes = client.get(f"{url}/flesh/glazes?x=0.42&y=0.5&ground=8").json()
    assert glazes["ground_value"] == pytest.approx(8, abs=0.01)
    passes = client.get(f"{url}/passes").json()["passes"]
    number = next(n for n, p in enumerate(passes, 1) if p["key"].startswith("flesh-"))
    over = client.get(f"{url}/flesh/glazes?x=0.42&y=0.5&after={number}").json()
    picture = Image.open(io.BytesIO(client.get(f"{url}/passes/canvas/{number}").content)).convert("RGB")
    seen = picture.getpixel((int(picture.width * 0.42), int(picture.height * 0.5)))
    shown = tuple(int(over["ground_hex"][i : i + 2], 16) for i in (1, 3, 5))
    assert seen == pytest.approx(shown, abs=12), "the glaze goes over what the canvas shows there"
    measured = client.get(f"{url}/flesh/glazes?x=0.42&y=0.5&over=80.5,4,12").json()
    assert measured["ground_hex"] == srgb_to_hex(lab_to_srgb(np.array([80.5, 4, 12])))
    for bad in ("80,4", "x,1,2", "80,4,12,1"):
        assert client.get(f"{url}/flesh/glazes?x=0.42&y=0.5&over={bad}").status_code == 422
    nobody = client.get(f"{url}/flesh/glazes?x=0.42&y=0.5&over=50,120,-120")
    assert (nobody.status_code, "no surface" in nobody.json()["detail"].lower()) == (422, True)
    none = client.get(f"{url}/flesh/glazes?x=0.42&y=0.5&after=500")
    assert (none.status_code, "passes 1 to" in none.json()["detail"]) == (422, True)
    assert glazes["glazes"][0]["coats"]
    for name in ("mixtures.pdf", "mixtures.csv"):
        assert client.get(f"{url}/files/{name}").status_code == 200
    client.post(f"{url}/undo")
    client.post(f"{url}/undo")


def test_washes_have_no_passes_in_oil(client: TestClient, sitter: str) -> None:
    url = f"/api/sitters/{sitter}"
    library = client.get("/api/library").json()
    washes = next(p for p in library["palettes"] if p["transparent"])
    settings = {"palette": washes["key"], "tubes": washes["tubes"], "transparent": True}
    assert client.patch(f"{url}/settings/flesh", json={"set": settings}).status_code == 200
    passes = client.get(f"{url}/passes").json()
    assert passes["passes"] == []
    assert "opaque" in passes["remarks"][0]
    assert client.get(f"{url}/passes/canvas/1").status_code == 404
    assert client.get(f"{url}/files/plan.pdf").status_code == 200
    client.post(f"{url}/undo")


def test_files_to_keep(client: TestClient, sitter: str) -> None:
    url = f"/api/sitters/{sitter}/files"
    for name, media in (
        ("outlines.svg", "image/svg+xml"), ("hair_lines.svg", "image/svg+xml"),
        ("strokes.svg", "image/svg+xml"),
        ("brush.svg", "image/svg+xml"), ("hair_practice.pdf", "application/pdf"),
        ("groups.png", "image/png"), ("plan.json", "application/json"),
    ):  # fmt: skip
        answer = client.get(f"{url}/{name}")
        assert answer.headers["content-type"].startswith(media)
        assert f'filename="{name}"' in answer.headers["content-disposition"]
    sheet = client.get(f"{url}/plan.pdf?paper=Letter").content
    assert float(pypdf.PdfReader(io.BytesIO(sheet)).pages[0].mediabox.width) == pytest.approx(612)


def test_washes_are_found_over_white_paper(client: TestClient, maren: str) -> None:
    """No underpainting is asked for: the ground is the paper, and every coat darkens it."""
    url = f"/api/sitters/{maren}"
    washes = next(p for p in client.get("/api/library").json()["palettes"] if p["key"] == "watercolour-three")
    chosen = {"palette": washes["key"], "tubes": washes["tubes"], "transparent": True}
    assert client.patch(f"{url}/settings/flesh", json={"set": chosen}).status_code == 200
    found = client.get(f"{url}/flesh/glazes?x=0.45&y=0.5").json()
    assert found["ground_value"] > 9.3
    best = found["glazes"][0]
    assert best["near"]
    values = [found["ground_value"], *(coat["value"] for coat in best["coats"])]
    assert values == sorted(values, reverse=True)
    lines = client.get(f"{url}/flesh/batch").json()["lines"]
    assert any(line["thinner_ml"] > 0 for line in lines), "puddles of paint and water"
    grey = client.get(f"{url}/flesh/glazes?x=0.45&y=0.5&ground=8").json()
    assert grey["ground_value"] == pytest.approx(8, abs=0.02)


def test_drying_and_amounts_are_refused_when_impossible(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}/settings/flesh"
    before = client.get(f"/api/sitters/{maren}").json()["settings"]["flesh"]
    for part, words in (
        ({"drying": [[5, 9.9]]}, "paint shifts"),
        ({"drying": [[5, 5], [6, 4]]}, "lighter wet one"),
        ({"film_mm": 0}, "film_mm"),
        ({"loss": 1}, "loss"),
        ({"own": [{"key": "viridian", "name": "x", "pigment": "viridian"}]}, "annot be the key"),
        ({"own": [{"key": "a", "name": "x", "pigment": "mud"}]}, "o pigment called"),
    ):
        answer = client.patch(url, json={"set": {**before, **part}})
        assert (answer.status_code, words in answer.json()["detail"].lower()) == (422, True), answer.json()
    assert client.get(f"/api/sitters/{maren}").json()["settings"]["flesh"] == before


def test_a_wash_shows_where_something_is_dropped_into_it(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    client.patch(f"{url}/settings/flesh", json={"set": {"medium": "watercolour"}})
    client.patch(f"{url}/settings/passes", json={"set": {"school": "watercolour-zones"}})
    passes = client.get(f"{url}/passes").json()["passes"]
    charged = next(n for n, p in enumerate(passes, 1) if p["charge"])
    plain = next(n for n, p in enumerate(passes, 1) if not p["charge"])
    for number, same in ((charged, False), (plain, True)):
        pictures = [
            Image.open(io.BytesIO(client.get(f"{url}/passes/{name}/{number}").content)).convert("RGB")
            for name in ("charged", "canvas")
        ]
        assert (pictures[0].tobytes() == pictures[1].tobytes()) is same
    assert client.get(f"{url}/passes/charged/99").status_code == 404
    client.post(f"{url}/undo")
    client.post(f"{url}/undo")
