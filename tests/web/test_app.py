"""The routes: answers, problems, pictures with ETags, and what is refused."""

from __future__ import annotations

import io
import json
import sys
from pathlib import Path
from typing import Any
from unittest.mock import patch

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.conftest import begun, bomb, jpeg, made_head
from tests.web.conftest import put_in
from truesitter.core.settings import StudySettings

ROOT = Path(__file__).parents[2]


def test_a_photograph_becomes_a_sitter(client: TestClient, made_photo: bytes) -> None:
    answer = put_in(client, made_photo, name="window light.jpg")
    assert answer.status_code == 201
    kept = answer.json()
    assert (kept["name"], kept["width"], kept["height"]) == ("window light", 480, 600)
    assert StudySettings.model_validate(kept["settings"]) == begun(480, 600)
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
    with patch("truesitter.web.http.dependencies.LARGEST_FILE", 1000):
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
    answer = client.patch(f"/api/sitters/{sitter}/settings/{stage}", json={"set": settings})
    assert answer.status_code == 422
    assert len(answer.json()["detail"]) > 10
    assert client.get(f"/api/sitters/{sitter}").json() == before


def test_every_change_can_be_undone_and_brought_back(client: TestClient, sitter: str) -> None:
    url = f"/api/sitters/{sitter}"
    before = client.get(url).json()
    changed = client.patch(
        f"{url}/settings/values", json={"change": "Four groups", "set": {"groups": 4}}
    ).json()
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
    "view", ["colour", "grey", "squint", "groups", "regions", "zones", "value-codes", "masses", "clipped"]
)
def test_pictures_are_sent_once_and_again_only_when_changed(
    client: TestClient, sitter: str, view: str
) -> None:
    url = f"/api/sitters/{sitter}/pictures/{view}"
    first = client.get(url)
    picture = Image.open(io.BytesIO(first.content))
    assert picture.height / picture.width == pytest.approx(600 / 480, rel=0.01)
    again = client.get(url, headers={"If-None-Match": first.headers["etag"]})
    assert (again.status_code, again.content) == (304, b"")
    if view == "groups":
        client.patch(f"/api/sitters/{sitter}/settings/values", json={"set": {"groups": 3}})
        fresh = client.get(url, headers={"If-None-Match": first.headers["etag"]})
        assert fresh.status_code == 200
        client.post(f"/api/sitters/{sitter}/undo")


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
