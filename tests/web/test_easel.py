"""The easel over the web: a photograph taken in, compared, planned again, printed; what is refused."""

from __future__ import annotations

import io
from types import SimpleNamespace
from typing import Any

import numpy as np
import pypdf
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.conftest import bomb, jpeg, truth
from tests.easel import painter, relit
from truesitter.core.settings.easel_settings import EaselSettings
from truesitter.devices.camera import Studio, photograph
from truesitter.web.routes.easel.easel_work import last_photographed

Client = TestClient


@pytest.fixture(scope="module")
def canvas() -> np.ndarray:
    study = painter("maren")
    return study.passes.painted().picture(study.easel.pass_count() // 2)


@pytest.fixture(scope="module")
def sitter(client: Client) -> str:
    photo = {"photo": ("maren.jpg", truth("maren").data, "image/jpeg")}
    key = str(client.post("/api/sitters", files=photo).json()["id"])
    size = {"canvas_width_mm": 320, "canvas_height_mm": 400}
    client.patch(f"/api/sitters/{key}/settings/reference", json={"change": "Canvas", "set": size})
    return f"/api/sitters/{key}"


@pytest.fixture(scope="module")
def laid() -> int:
    return painter("maren").easel.pass_count() // 2


def send(client: Client, sitter: str, data: bytes, name: str = "easel.jpg", **form: Any) -> Any:
    return client.post(f"{sitter}/easel/paintings", files={"photo": (name, data, "image/jpeg")}, data=form)


@pytest.fixture(scope="module")
def painting(client: Client, sitter: str, canvas: np.ndarray, laid: int) -> str:
    areas = painter("maren").sitter.areas()
    wrong = relit(canvas, areas.mask("left cheek"), 1.2)
    quiet = next(n for n in range(60, 99) if not Studio.by_lot(n).glare)
    data = jpeg(photograph(wrong, Studio.by_lot(quiet)).picture)
    kept = send(client, sitter, data, after=str(laid), taken_at="2026-11-20")
    assert kept.status_code == 201, kept.text
    rows = kept.json()["settings"]["easel"]["paintings"]
    assert [(r["after"], r["taken_at"], r["corners"]) for r in rows] == [(laid, "2026-11-20", None)]
    return str(rows[0]["key"])


def test_a_painting_is_compared_and_corrected(client: Client, sitter: str, painting: str) -> None:
    found = client.get(f"{sitter}/easel/compared?painting={painting}").json()
    assert found["registration"]["how"] == "plan"
    assert found["registration"]["rms_px"] < 1.5
    first = found["findings"][0]
    assert "left cheek" in first["place"]
    assert first["value_steps"] == pytest.approx(1.0, abs=0.35)
    assert found["holds"]
    assert not found["stop"]["stop"]
    answers = client.get(f"{sitter}/easel/remedies?painting={painting}&number=1").json()
    assert answers[0]["enough"]
    assert answers[0]["parts"]
    assert answers[0]["kind"] in ("glaze", "scumble", "repaint")
    assert client.get(f"{sitter}/easel/remedies?painting={painting}&number=400").status_code == 404
    assert client.get(f"{sitter}/easel/compared?painting=ffffffffffff").status_code == 404
    assert client.get(f"{sitter}/easel/compared?painting=../../etc").status_code == 422


def test_pictures_of_a_comparison_are_kept_by_the_browser(client: Client, sitter: str, painting: str) -> None:
    for view in ("painting", "squared", "plan", "reference", "difference", "photograph"):
        answer = client.get(f"{sitter}/easel/picture/{view}?painting={painting}")
        picture = np.asarray(Image.open(io.BytesIO(answer.content)).convert("RGB"))
        assert picture.shape[:2] == ((1000, 800) if view != "photograph" else picture.shape[:2])
        etag = answer.headers["etag"]
        again = client.get(
            f"{sitter}/easel/picture/{view}?painting={painting}", headers={"If-None-Match": etag}
        )
        assert again.status_code == 304
        if view == "difference":
            # Nothing on it has a colour.
            assert np.ptp(picture.astype(int), axis=2).max() == 0
    sharp, soft = (
        client.get(f"{sitter}/easel/picture/painting?painting={painting}&squint={s}").content
        for s in ("false", "true")
    )
    edges = [
        np.abs(np.diff(np.asarray(Image.open(io.BytesIO(p)).convert("L"), float))).mean()
        for p in (sharp, soft)
    ]
    assert edges[1] < 0.5 * edges[0]


def test_the_rest_is_planned_again(client: Client, sitter: str, painting: str, laid: int) -> None:
    found = client.get(f"{sitter}/easel/again?painting={painting}").json()
    assert found["laid"] == laid
    assert len(found["new"]) >= len(found["old"]) - 2
    picture = client.get(f"{sitter}/easel/again.png?painting={painting}")
    assert Image.open(io.BytesIO(picture.content)).size == (800, 1000)


@pytest.mark.parametrize(
    ("change", "same"),
    [
        ({"even": True}, False),
        ({"wet": True}, False),
        ({"against": "photograph"}, False),
        ({"name": "x"}, True),
    ],
)
def test_pictures_are_others_when_the_photograph_is_read_otherwise(
    client: Client, sitter: str, painting: str, change: dict[str, Any], same: bool
) -> None:
    """Their keys follow what a comparison follows from, and nothing that is only remembered."""
    paths = (
        f"{sitter}/easel/section.jpg?x1=0.25&y1=0.5&x2=0.5&y2=0.75&painting={painting}",
        f"{sitter}/easel/again.png?painting={painting}",
    )
    row = client.get(sitter).json()["settings"]["easel"]["paintings"][0]
    before = [client.get(path).headers["etag"] for path in paths]
    edit = {"lists": {"paintings": {"start": 0, "remove": 1, "add": [{**row, **change}]}}}
    assert client.patch(f"{sitter}/settings/easel", json=edit).status_code == 200
    after = [client.get(path).headers.get("etag") for path in paths]
    client.post(f"{sitter}/undo")
    assert [a == b for a, b in zip(after, before, strict=True)] == [same, same]


def test_sections_say_what_they_take(client: Client, sitter: str, painting: str) -> None:
    rows = client.get(f"{sitter}/easel/sections?order=dark first").json()
    values = [r["value"] for r in rows]
    assert values == sorted(values)
    assert len(rows) == 12
    needs = client.get(f"{sitter}/easel/section?x1=0.35&y1=0.3&x2=0.6&y2=0.6").json()
    assert {p["number"] for p in needs["passes"]} >= {1}
    assert any("skin" in p["name"].lower() or "flesh" in p["name"].lower() for p in needs["passes"])
    # A section tells an edge as the plan does.
    rows = client.get(f"{sitter}/passes").json()["passes"]
    plan = {n: p["edge"]["words"] for n, p in enumerate(rows, 1)}
    assert [p["edge"] for p in needs["passes"]] == [plan[p["number"]] for p in needs["passes"]]
    crop = client.get(
        f"{sitter}/easel/section.jpg?x1=0.25&y1=0.5&x2=0.5&y2=0.75&painting={painting}&view=painting"
    )
    assert Image.open(io.BytesIO(crop.content)).size == (200, 250)
    assert client.get(f"{sitter}/easel/section?x1=0.5&y1=0.5&x2=0.5&y2=0.9").status_code == 422


def test_prints_are_true_to_size(client: Client, sitter: str, painting: str) -> None:
    """Source: ISO 216 for A4; read back with pypdf."""
    for name in ("reference.pdf?kind=grey", "wedge.pdf", f"review.pdf?painting={painting}",
                 f"sections.pdf?painting={painting}"):  # fmt: skip
        answer = client.get(f"{sitter}/files/{name}")
        pages = pypdf.PdfReader(io.BytesIO(answer.content)).pages
        assert float(pages[0].mediabox.width) == pytest.approx(210 / 25.4 * 72, abs=0.3)
        assert len(pages) >= {"sections": 12, "reference": 4}.get(name.split(".")[0], 1)
    text = pypdf.PdfReader(io.BytesIO(client.get(f"{sitter}/files/review.pdf?painting={painting}").content))
    assert "Left cheek" in text.pages[0].extract_text()


def test_a_dab_is_held_to_a_spot(client: Client, sitter: str) -> None:
    picture = np.full((400, 600, 3), 120, np.uint8)
    picture[50:150, 50:150] = 225
    picture[200:300, 300:420] = (150, 105, 85)
    kept = client.post(
        "/api/swatches/photo", files={"photo": ("dab.jpg", jpeg(picture), "image/jpeg")}
    ).json()
    asked = {
        "sha256": kept["sha256"], "white": {"x1": 0.1, "y1": 0.15, "x2": 0.22, "y2": 0.35},
        "dab": {"x1": 0.52, "y1": 0.52, "x2": 0.68, "y2": 0.72}, "x": 0.42, "y": 0.55,
        "parts": {"yellow-ochre": 2, "titanium-white": 2},
    }  # fmt: skip
    found = client.post(f"{sitter}/easel/dab", json=asked).json()
    assert found["steps"] == pytest.approx(found["value"] - found["wanted_value"], abs=0.02)
    assert found["words"]
    assert (found["direction"] in ("lighter", "darker")) == (abs(found["steps"]) >= 0.15)
    bad = client.post(f"{sitter}/easel/dab", json={**asked, "parts": {"unobtainium": 1}})
    assert bad.status_code == 422


def test_the_printer_is_read_and_put_right(client: Client, sitter: str) -> None:
    early = client.post(f"{sitter}/easel/printer/meter", json={"corrected": True})
    assert early.status_code == 422
    assert "no curve yet" in early.json()["detail"]
    pairs = client.post(f"{sitter}/easel/printer/meter", json={}).json()
    assert len(pairs) == 13
    client.patch(f"{sitter}/settings/easel", json={"change": "Printer", "set": {"printer": pairs}})
    found = client.get(f"{sitter}/easel/printer").json()
    assert found["worst_before"] > 0.4
    assert found["worst_after"] < 0.05
    again = client.post(f"{sitter}/easel/printer/meter", json={"corrected": True}).json()
    inside = [(a, b) for a, b in again if found["darkest"] <= a <= found["lightest"]]
    assert max(abs(a - b) for a, b in inside) <= 0.3
    bad = client.patch(
        f"{sitter}/settings/easel", json={"set": {"printer": [[1, 9], [2, 1], [3, 5], [4, 4]]}}
    )
    assert bad.status_code == 422
    client.patch(f"{sitter}/settings/easel", json={"change": "None", "set": {"printer": []}})


def kept_rows(client: Client, sitter: str) -> list[dict[str, Any]]:
    return list(client.get(sitter).json()["settings"]["easel"]["paintings"])


def test_what_is_no_painting_is_refused_and_not_kept(
    client: Client, sitter: str, painting: str, laid: int
) -> None:
    before = kept_rows(client, sitter)
    for data, words in (
        (b"", "empty"), (b"not a picture", "not a photograph"), (truth("maren").data[:4000], "damaged"),
        (bomb(), "megapixels"), (truth("tobias").data, "painting"),
        (jpeg(np.full((700, 500, 3), 90, np.uint8)), "No painting was found"),
    ):  # fmt: skip
        answer = send(client, sitter, data, after=str(laid))
        assert answer.status_code == 422
        assert words in answer.json()["detail"]
    assert send(client, sitter, truth("maren").data, after="900").status_code == 422
    assert send(client, sitter, truth("maren").data, taken_at="yesterday").status_code == 422
    assert kept_rows(client, sitter) == before


def test_a_photograph_is_kept_by_hand_and_taken_away_with_undo(
    client: Client, sitter: str, painting: str
) -> None:
    rows = kept_rows(client, sitter)
    grey = jpeg(np.full((700, 500, 3), 90, np.uint8))
    kept = send(client, sitter, grey, by_hand="true").json()["settings"]["easel"]["paintings"]
    assert len(kept) == len(rows) + 1
    assert kept[-1]["corners"] is not None
    client.post(f"{sitter}/undo")
    assert kept_rows(client, sitter) == rows
    client.post(f"{sitter}/redo")
    again = kept_rows(client, sitter)
    assert again == kept
    assert client.get(f"{sitter}/easel/picture/photograph?painting={again[-1]['key']}").status_code == 200
    client.post(f"{sitter}/undo")


def test_corners_that_cross_are_refused(client: Client, sitter: str, painting: str) -> None:
    row = kept_rows(client, sitter)[0]
    crossed = {**row, "corners": [[0.1, 0.1], [0.9, 0.9], [0.9, 0.1], [0.1, 0.9]]}
    edit = {"lists": {"paintings": {"start": 0, "remove": 1, "add": [crossed]}}}
    answer = client.patch(f"{sitter}/settings/easel", json=edit)
    assert answer.status_code == 422
    assert "corners" in answer.json()["detail"]


def test_the_simulated_camera_photographs_the_plan(client: Client, sitter: str, painting: str) -> None:
    asked = {"after": None, "seed": 8, "faults": ["garment, lower left=-1"]}
    rows = client.post(f"{sitter}/easel/camera", json=asked).json()["settings"]["easel"]["paintings"]
    found = client.get(f"{sitter}/easel/compared?painting={rows[-1]['key']}").json()
    assert found["findings"][0]["place"].startswith("garment, lower left")
    assert found["findings"][0]["value_steps"] < -0.6
    bad = client.post(f"{sitter}/easel/camera", json={"faults": ["moon=-1"]})
    assert "No place is called" in bad.json()["detail"]
    told = client.get(f"{sitter}/easel/progress").json()
    assert [p["taken_at"] for p in told] == sorted(p["taken_at"] for p in told)
    assert told[-1]["error"] < told[0]["error"]
    assert client.get(f"{sitter}/easel/habits").json()["paintings"] >= 1
    names = client.get(f"{sitter}/easel").json()
    assert "mouth" in names["features"]
    assert "left cheek" in names["places"]


def test_habits_are_those_of_the_paintings_photographed_last() -> None:
    """Whatever the order on the shelf; who has no photograph is not asked."""

    def sitter(name: str, *days: str) -> Any:
        rows = [
            {"key": f"{n:012x}", "sha256": "b" * 64, "name": "x", "taken_at": day}
            for n, day in enumerate(days)
        ]
        easel = EaselSettings.model_validate({"paintings": rows})
        return SimpleNamespace(id=name, settings=SimpleNamespace(easel=easel))

    repository = [
        sitter("new", "2020-01-01", "2026-03-01"), sitter("none"), sitter("old", "2025-01-01"),
        sitter("middle", "2026-02-01"),
    ]  # fmt: skip
    assert [s.id for s in last_photographed(repository, 2)] == ["middle", "new"]
    assert [s.id for s in last_photographed(repository)] == ["old", "middle", "new"]
