"""The routes: answers, problems, pictures with ETags, and what is refused."""

from __future__ import annotations

import io
import json
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from unittest.mock import patch

import numpy as np
import pypdf
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.conftest import bomb, jpeg, made_head, truth
from truesitter.core.settings import StudySettings
from truesitter.store.sitters import Shelf
from truesitter.web.app import create_app

ROOT = Path(__file__).parents[2]


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    folder = tmp_path_factory.mktemp("web")
    static = folder / "static"
    (static / "assets").mkdir(parents=True)
    (static / "index.html").write_text("<title>front end</title>")
    (static / "assets" / "app.js").write_text("1")
    (folder / "secret.txt").write_text("secret")
    shelf = Shelf(folder / "data")
    with TestClient(create_app(shelf, static)) as client:
        yield client
    shelf.close()


def put_in(client: TestClient, data: bytes, name: str = "sitter.jpg", **form: str) -> Any:
    return client.post("/api/sitters", files={"photo": (name, data, "image/jpeg")}, data=form)


@pytest.fixture(scope="module")
def sitter(client: TestClient, made_photo: bytes) -> str:
    return str(put_in(client, made_photo, name="Made.jpg").json()["id"])


@pytest.fixture(scope="module")
def maren(client: TestClient) -> str:
    return str(put_in(client, truth("maren").data, name="maren.jpg").json()["id"])


def test_a_photograph_becomes_a_sitter(client: TestClient, made_photo: bytes) -> None:
    answer = put_in(client, made_photo, name="window light.jpg")
    assert answer.status_code == 201
    kept = answer.json()
    assert (kept["name"], kept["width"], kept["height"]) == ("window light", 480, 600)
    assert StudySettings.model_validate(kept["settings"]) == StudySettings()
    assert kept["id"] in {s["id"] for s in client.get("/api/sitters").json()}
    client.delete(f"/api/sitters/{kept['id']}")


@pytest.mark.parametrize(
    ("data", "sentence"),
    [
        (b"", "empty"),
        (b"only words", "not a photograph"),
        (jpeg(made_head())[:4000], "damaged"),
        (bomb(), "megapixels"),
        (jpeg(np.zeros((8, 8, 3), np.uint8)), "at least 64"),
    ],
)
def test_bad_photographs_are_refused_in_words(client: TestClient, data: bytes, sentence: str) -> None:
    before = client.get("/api/sitters").json()
    answer = put_in(client, data)
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    assert sentence in answer.json()["detail"]
    assert answer.json()["status"] == 422
    assert client.get("/api/sitters").json() == before


def test_a_huge_upload_is_refused_before_it_is_kept(client: TestClient) -> None:
    with patch("truesitter.web.routes.sitters.LARGEST_FILE", 1000):
        answer = put_in(client, b"x" * 2000)
    assert answer.status_code == 422
    assert "larger than" in answer.json()["detail"]


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [
        ("GET", "/api/sitters/nobody", 404),
        ("GET", "/api/sitters/nobody/values", 404),
        ("GET", "/api/nothing/here", 404),
        ("POST", "/api/sitters/nobody/undo", 404),
        ("POST", "/api/sitters/nobody/restore", 404),
        ("GET", "/api/sitters/{id}/pictures/xray", 422),
        ("GET", "/api/sitters/{id}/passes/canvas/0", 404),
        ("GET", "/api/sitters/{id}/passes/canvas/999", 404),
        ("GET", "/api/sitters/{id}/flesh/spot?x=2&y=0", 422),
        ("GET", "/api/sitters/{id}/flesh/spot?x=nan&y=0", 422),
        ("GET", "/api/sitters/{id}/flesh/glazes?x=0&y=0&ground=20", 422),
        ("GET", "/api/sitters/{id}/values/preview?cuts=5,4", 422),
        ("GET", "/api/sitters/{id}/values/preview?cuts=a,b", 422),
        ("GET", "/api/sitters/{id}/files/plan.pdf?paper=A3", 422),
        ("GET", "/api/sitters/{id}/files/view.png?view=zones", 422),
        ("GET", "/api/sitters/{id}/values/split?group=40", 422),
        ("GET", "/api/sitters/{id}/values/same?step=5&tolerance=0", 422),
        ("GET", "/api/sitters/{id}/values/compare?x1=0", 422),
    ],
)
def test_what_is_not_there_or_makes_no_sense_is_a_problem(
    client: TestClient, sitter: str, method: str, path: str, status: int
) -> None:
    answer = client.request(method, path.format(id=sitter))
    assert answer.status_code == status
    assert answer.headers["content-type"] == "application/problem+json"
    problem = answer.json()
    assert set(problem) == {"type", "title", "status", "detail"}
    assert problem["status"] == status
    assert problem["detail"].endswith(".")


@pytest.mark.parametrize(
    ("stage", "settings"),
    [
        ("values", {"mode": "own", "groups": 3, "cuts": [6, 3]}),
        ("values", {"groups": 1000}),
        ("reference", {"canvas_width_mm": -5}),
        ("reference", {"zoom": "wide"}),
        ("flesh", {"tubes": ["unobtainium"]}),
        ("hair", {"guides": [{"points": []}]}),
        ("regions", {"scribbles": [{"region": "elbow", "points": [[0.5, 0.5]]}]}),
        ("passes", {"school": "none"}),
        ("light", {"zone_1_reach": 9}),
        ("flesh", {"must": ["light-red"], "without": ["light-red"]}),
        ("flesh", {"pins": [{"name": "", "target_lab": [1, 2, 3], "parts": {"light-red": 1}}]}),
        ("flesh", {"pins": [{"name": "x", "target_lab": [1, 2, 3], "parts": {"light-red": 0}}]}),
        ("values", {"groups": 3, "locked": [2, 4, 6]}),
        ("reference", {"keystone": [[0, 0], [1, 1], [1, 0], [0, 1]]}),
        ("reference", {"unit": 3}),
        ("reference", {"balance": [1, 1, 99]}),
    ],
)
def test_impossible_settings_change_nothing(
    client: TestClient, sitter: str, stage: str, settings: dict[str, Any]
) -> None:
    before = client.get(f"/api/sitters/{sitter}").json()
    answer = client.put(f"/api/sitters/{sitter}/{stage}", json=settings)
    assert answer.status_code == 422
    assert len(answer.json()["detail"]) > 10
    assert client.get(f"/api/sitters/{sitter}").json() == before


def test_every_change_can_be_undone_and_brought_back(client: TestClient, sitter: str) -> None:
    url = f"/api/sitters/{sitter}"
    before = client.get(url).json()
    changed = client.put(f"{url}/values?change=Four groups", json={"groups": 4}).json()
    assert changed["undo"] == "Four groups"
    assert changed["keys"]["values"] != before["keys"]["values"]
    assert changed["keys"]["hair"] == before["keys"]["hair"]
    undone = client.post(f"{url}/undo").json()
    assert undone["settings"] == before["settings"]
    assert undone["redo"] == "Four groups"
    assert client.post(f"{url}/redo").json()["settings"]["values"]["groups"] == 4
    assert client.post(f"{url}/redo").status_code == 409
    client.post(f"{url}/undo")


def test_deleting_can_be_taken_back(client: TestClient, made_photo: bytes) -> None:
    kept = put_in(client, made_photo).json()["id"]
    assert client.delete(f"/api/sitters/{kept}").status_code == 204
    assert client.get(f"/api/sitters/{kept}").status_code == 404
    assert client.post(f"/api/sitters/{kept}/restore").json()["id"] == kept
    assert client.patch(f"/api/sitters/{kept}", json={"name": "Odd Fellow"}).json()["name"] == "Odd Fellow"
    assert client.patch(f"/api/sitters/{kept}", json={"name": " "}).status_code == 422
    client.delete(f"/api/sitters/{kept}")


@pytest.mark.parametrize(
    "view", ["colour", "grey", "squint", "groups", "regions", "zones", "value-codes", "macro", "clipped"]
)
def test_pictures_are_sent_once_and_again_only_when_changed(
    client: TestClient, sitter: str, view: str
) -> None:
    url = f"/api/sitters/{sitter}/pictures/{view}"
    first = client.get(url)
    picture = Image.open(io.BytesIO(first.content))
    assert picture.height / picture.width == pytest.approx(4 / 3, rel=0.01)
    again = client.get(url, headers={"If-None-Match": first.headers["etag"]})
    assert (again.status_code, again.content) == (304, b"")
    if view == "groups":
        client.put(f"/api/sitters/{sitter}/values", json={"groups": 3})
        fresh = client.get(url, headers={"If-None-Match": first.headers["etag"]})
        assert fresh.status_code == 200
        client.post(f"/api/sitters/{sitter}/undo")


def test_previewed_groups_have_the_greys_between_the_cuts(client: TestClient, sitter: str) -> None:
    answer = client.get(f"/api/sitters/{sitter}/values/preview?cuts=2,4,6")
    grey = np.asarray(Image.open(io.BytesIO(answer.content)).convert("L"))
    assert 2 <= len(np.unique(grey)) <= 4


def test_each_stage_answers_for_a_sitter_with_a_face(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    values = client.get(f"{url}/values").json()
    assert sum(g["share"] for g in values["plan"]["groups"]) == pytest.approx(1)
    assert sum(values["histogram"]) == pytest.approx(1)
    assert client.get(f"{url}/ladder").json() == values["histogram"]
    frame = client.get(f"{url}/reference").json()
    assert len(frame["corners"]) == 4
    assert frame["mm_per_px"] == pytest.approx(300 / frame["width"])
    regions = client.get(f"{url}/regions").json()
    assert regions["face_found"]
    assert "face was found" in regions["sentence"]
    flesh = client.get(f"{url}/flesh").json()
    assert sum(m["share"] for m in flesh["mixtures"]) == pytest.approx(1, abs=0.02)
    assert flesh["cautions"]
    spot = client.get(f"{url}/flesh/spot?x=0.42&y=0.5").json()
    assert spot["region"] == "skin"
    assert spot["mixture"]["parts"]
    light = client.get(f"{url}/light").json()
    assert light["points"]
    assert light["direction"]["words"]
    hair = client.get(f"{url}/hair").json()
    assert all(len(line) % 2 == 0 and len(line) >= 4 for line in hair["lines"])
    passes = client.get(f"{url}/passes").json()
    starts = [p["start_minutes"] for p in passes["passes"]]
    assert starts == sorted(starts)
    assert passes["cautions"]


def test_the_measuring_bench_answers(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    grid = client.get(f"{url}/reference").json()["grid"]
    assert [name for _, name in grid["columns"]] == ["1", "2", "3"]
    assert grid["cell_mm"] == [100, 100]
    assert "white" in client.get(f"{url}/reference/clipping").json()["sentence"]
    balance = client.get(f"{url}/reference/neutral?x=0.1&y=0.1").json()["balance"]
    assert client.put(f"{url}/reference", json={"balance": balance}).status_code == 200
    client.post(f"{url}/undo")
    assert client.get(f"{url}/reference/level?x1=0.2&y1=0.5&x2=0.8&y2=0.5").json()["straighten"] == 0
    assert client.get(f"{url}/reference/level?x1=0.2&y1=0.5&x2=0.2&y2=0.5").status_code == 422

    measure = {"name": "head", "start": [0.5, 0.2], "end": [0.5, 0.7]}
    client.put(f"{url}/reference", json={"measures": [measure], "unit": 0})
    measures = client.get(f"{url}/measures").json()
    assert measures["measures"][0]["mm"] == pytest.approx(200)
    assert len(measures["proportions"]) == 7
    reading = client.get(f"{url}/measures/read?x1=0&y1=0&x2=1&y2=0").json()
    assert (reading["mm"], reading["multiple"]) == pytest.approx((300, 1.5))
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
    assert client.put(f"{url}/flesh", json=tubes).status_code == 200
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
    assert client.put(f"{url}/flesh", json=settings).status_code == 200
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
    assert client.put(f"{url}/flesh", json=settings).status_code == 200
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
        ("groups.png", "image/png"), ("plan.json", "application/json"),
    ):  # fmt: skip
        answer = client.get(f"{url}/{name}")
        assert answer.headers["content-type"].startswith(media)
        assert f'filename="{name}"' in answer.headers["content-disposition"]
    sheet = client.get(f"{url}/plan.pdf?paper=Letter").content
    assert float(pypdf.PdfReader(io.BytesIO(sheet)).pages[0].mediabox.width) == pytest.approx(612)


@pytest.mark.parametrize(
    "path", ["/../secret.txt", "/..%2Fsecret.txt", "/%2e%2e/secret.txt", "/assets/../../secret.txt"]
)
def test_no_file_outside_the_front_end_is_served(client: TestClient, path: str) -> None:
    assert "secret" not in client.get(path).text


def test_front_end_addresses_survive_a_reload(client: TestClient) -> None:
    for path in ("/", "/sitters/x/values", "/whatever"):
        answer = client.get(path)
        assert "front end" in answer.text
        assert answer.headers["cache-control"] == "no-cache"
    assert "immutable" in client.get("/assets/app.js").headers["cache-control"]


def test_the_checked_in_schemas_are_those_of_the_code() -> None:
    sys.path.insert(0, str(ROOT / "scripts"))
    try:
        import write_schema
    finally:
        sys.path.pop(0)
    assert (ROOT / "frontend/openapi.json").read_text(encoding="utf-8") == write_schema.openapi_text()
    assert (ROOT / "docs/plan.schema.json").read_text(encoding="utf-8") == write_schema.plan_schema_text()
    json.loads(write_schema.openapi_text())
