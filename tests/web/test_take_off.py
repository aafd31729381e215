"""Trials of taking paint off, lines to take along, and schools and supports over the API."""

from __future__ import annotations

import io
import json
from typing import Any
from xml.etree import ElementTree

import numpy as np
import pypdf
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.conftest import small_photo
from tests.web.conftest import put_in
from truesitter.core.school.library import SCHOOLS

CHEEK = [[0.38, 0.55]]


@pytest.fixture(name="maren", scope="module")
def maren_in_every_pass(client: TestClient) -> str:
    """A sitter whose plan leaves nothing out."""
    sitter = str(put_in(client, small_photo("maren"), name="maren.jpg").json()["id"])
    chosen = {"set": {"size": "every pass"}}
    assert client.patch(f"/api/sitters/{sitter}/settings/passes", json=chosen).status_code == 200
    return sitter


def trial(client: TestClient, sitter: str, suffix: str = "", **query: Any) -> Any:
    query = {"points": json.dumps(CHEEK), **query}
    return client.get(f"/api/sitters/{sitter}/passes/taken{suffix}", params=query)


def picture(client: TestClient, sitter: str, **query: Any) -> np.ndarray:
    answer = trial(client, sitter, ".png", **query)
    assert answer.status_code == 200
    return np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGB")).astype(int)


def number_of(client: TestClient, sitter: str, key: str) -> int:
    passes = client.get(f"/api/sitters/{sitter}/passes").json()["passes"]
    return [p["key"] for p in passes].index(key) + 1


@pytest.fixture(name="flesh")
def the_pass_of_the_cheek(client: TestClient, maren: str) -> int:
    """The one flesh pass whose paint is wet at the spot when it has just been laid."""
    numbers = [number_of(client, maren, f"flesh-{i}") for i in range(1, 6)]
    answers = {n: trial(client, maren, number=n, tool="rag") for n in numbers}
    (found,) = (n for n, answer in answers.items() if answer.status_code == 200)
    return found


def test_wet_paint_is_wiped_back_to_what_is_dry(client: TestClient, maren: str, flesh: int) -> None:
    light, hard = (trial(client, maren, number=flesh, tool="rag", pressure=p).json() for p in (0.1, 1.0))
    assert light["share"] > hard["share"]
    assert light["words"].startswith("Wiped out: leave")
    assert "pressing hard" in hard["words"]
    assert light["before"] == hard["before"]
    assert abs(hard["after"] - hard["before"]) >= abs(light["after"] - light["before"])
    before, after = (picture(client, maren, number=flesh, tool="rag", pressure=p) for p in (0.0, 1.0))
    changed = np.abs(before - after).max(axis=2) > 4
    assert changed[before.shape[0] * 55 // 100, before.shape[1] * 38 // 100]
    assert changed.mean() < 0.3
    assert trial(client, maren, ".png", number=flesh, tool="rag").headers["etag"]


def test_a_line_is_scratched_out(client: TestClient, maren: str, flesh: int) -> None:
    line = json.dumps([[0.35, 0.55], [0.38, 0.56], [0.41, 0.55]])
    found = picture(client, maren, number=flesh, tool="brush handle", pressure=1, points=line)
    whole = picture(client, maren, number=flesh, tool="rag", pressure=0)
    changed = np.argwhere(np.abs(found - whole).max(axis=2) > 4)
    height, width = whole.shape[:2]
    rows, columns = changed.min(axis=0), changed.max(axis=0)
    canvas = client.get(f"/api/sitters/{maren}").json()["settings"]["reference"]
    mm = canvas["canvas_width_mm"] / width
    assert (
        0.06 * canvas["canvas_width_mm"] * 0.3 < len(changed) * mm**2 < 0.06 * canvas["canvas_width_mm"] * 1.9
    )
    assert 0.34 < rows[1] / width < columns[1] / width < 0.42
    assert 0.53 < rows[0] / height < columns[0] / height < 0.58


@pytest.mark.parametrize(
    ("query", "status", "sentence"),
    [
        ({"tool": "rag", "dried": True}, 422, "takes off only wet paint"),
        ({"tool": "eraser"}, 422, "does not come off primed canvas"),
        ({"tool": "brush handle"}, 422, "draw it"),
        ({"tool": "rag", "points": "[]"}, 422, "Press where"),
        ({"tool": "rag", "points": "[[2, 0]]"}, 422, "pairs of x and y"),
        ({"tool": "rag", "points": "no"}, 422, "pairs of x and y"),
        ({"tool": "sponge"}, 422, ""),
        ({"tool": "rag", "number": 900}, 422, "passes 1 to"),
    ],
)
def test_what_cannot_be_taken_off_gets_a_sentence(
    client: TestClient, maren: str, flesh: int, query: dict[str, Any], status: int, sentence: str
) -> None:
    query = {"number": flesh, **query}
    answer = trial(client, maren, **query)
    assert answer.status_code == status
    assert sentence in answer.json()["detail"]


def test_dry_paint_is_erased_from_a_support_that_lets_go(client: TestClient, maren: str, flesh: int) -> None:
    url = f"/api/sitters/{maren}"
    client.patch(f"{url}/settings/passes", json={"set": {"support": "gesso board"}})
    found = trial(client, maren, number=flesh, tool="eraser", dried=True, pressure=1).json()
    assert found["after"] < found["before"] - 0.2, "the ground below the flesh comes through"
    assert "Erased" in found["words"]
    client.post(f"{url}/undo")


def test_the_library_offers_schools_and_supports(client: TestClient, maren: str) -> None:
    library = client.get("/api/library").json()
    assert [s["key"] for s in library["schools"]] == list(SCHOOLS)
    assert {s["lightens"] for s in library["supports"]} == {"by degrees", "all or nothing", "not at all"}
    url = f"/api/sitters/{maren}"
    client.patch(f"{url}/settings/passes", json={"set": {"school": "direct-oil"}})
    passes = client.get(f"{url}/passes").json()
    assert passes["school"] == "Oil in one sitting"
    wiped = next(p for p in passes["passes"] if p["key"] == "wiped-lights")
    assert wiped["parts"] == {}
    assert wiped["taken"]
    assert wiped["into_wet"]
    assert all("leave" in t["words"] for t in wiped["taken"])
    assert wiped["seams"]
    assert not any(s["means"] in s["words"] for s in wiped["seams"]), "nothing is laid there"
    laid = next(p for p in passes["passes"] if p["key"] == "flesh-3")
    assert all(s["means"] in s["words"] for s in laid["seams"])
    client.post(f"{url}/undo")


def test_lines_can_be_taken_along(client: TestClient, maren: str) -> None:
    """SVG by an XML parser, in mm of the canvas; the practice sheet read back with pypdf."""
    url = f"/api/sitters/{maren}"
    told = {p["key"]: p["lines"] for p in client.get(f"{url}/passes").json()["passes"] if p["lines"]}
    face = {"brow-lines", "lid-creases", "lid-margins", "lower-rims", "lip-parting", "lashes", "wrinkles"}
    stroked = {key for key in told if key.startswith(("hair-", "light-hairs"))}
    assert set(told) == face | stroked
    assert len(stroked) >= 3
    svg = ElementTree.fromstring(client.get(f"{url}/files/lines.svg").content)
    space = {"s": "http://www.w3.org/2000/svg"}
    canvas = client.get(url).json()["settings"]["reference"]
    assert svg.get("width") == f"{canvas['canvas_width_mm']:g}mm"
    groups = {g.get("id"): g.findall("s:path", space) for g in svg.findall("s:g", space)}
    assert {key: len(paths) for key, paths in groups.items()} == told
    (parting,) = groups["lip-parting"]
    centre = np.array([p.split(",") for p in (parting.get("data-centre") or "").split()], float)
    widths = [float(w) for w in (parting.get("data-widths") or "").split()]
    assert len(centre) == len(widths)
    long = np.hypot(*(centre[-1] - centre[0]))
    assert max(widths) <= 0.011 * long
    assert 0 < centre.min() < centre.max() < canvas["canvas_height_mm"]
    sheet = pypdf.PdfReader(io.BytesIO(client.get(f"{url}/files/practice.pdf").content))
    text = " ".join(page.extract_text() for page in sheet.pages)
    for name in ("Lashes", "Parting of the lips", "Creases of the lids", "Lines of the brows"):
        assert name in text
    assert "mm long" in text
    assert all(abs(float(page.mediabox.width) * 25.4 / 72 - 210) < 0.1 for page in sheet.pages)
