"""Schools, grounds, backgrounds, kit and files over the API."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Iterator
from datetime import datetime
from typing import Any

import icalendar
import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.conftest import small_photo
from truesitter.core.school.library import SCHOOLS
from truesitter.formats.pictures.png import STRIP_COLUMNS


@pytest.fixture(name="url")
def a_sitter(client: TestClient, maren: str) -> Iterator[str]:
    url = f"/api/sitters/{maren}"
    before = client.get(url).json()["settings"]["passes"]
    yield url
    client.patch(f"{url}/settings/passes", json={"set": before})


def put(client: TestClient, url: str, **passes: Any) -> Any:
    return client.patch(f"{url}/settings/passes", json={"set": passes})


def read(client: TestClient, data: bytes) -> Any:
    return client.post("/api/schools/read", files={"file": ("a.json", data, "application/json")})


def test_a_school_is_copied_changed_followed_and_passed_on(client: TestClient, url: str) -> None:
    school = client.get("/api/schools/layered-oil").json()
    school.update(key="own-oil", name="My oil")
    school["passes"] = [p for p in school["passes"] if p["key"] != "underpainting"]
    assert put(client, url, own=[school], school="own-oil").status_code == 200
    passes = client.get(f"{url}/passes").json()
    assert passes["school"] == "My oil"
    assert "underpainting" not in [p["key"] for p in passes["passes"]]
    assert len(passes["passes"]) > 15
    file = client.get(f"{url}/files/school.json")
    assert read(client, file.content).json() == school
    assert 'filename="own-oil.json"' in file.headers["content-disposition"]
    client.post(f"{url}/undo")
    assert client.get(f"{url}/passes").json()["school"] == SCHOOLS["layered-oil"].name


def test_a_bad_school_names_its_line_and_changes_nothing(client: TestClient, url: str) -> None:
    school = client.get("/api/schools/tempera").json()
    school["passes"][0]["film_mm"] = "thick"
    answer = read(client, json.dumps(school, indent=1).encode())
    assert answer.status_code == 422
    assert answer.json()["detail"].startswith("Line ")
    before = client.get(url).json()["settings"]
    for own, school_key in (
        ([school], "tempera"),
        ([], "own-nothing"),
        ([SCHOOLS["tempera"].model_dump(mode="json")], "tempera"),
    ):
        refused = put(client, url, own=own, school=school_key)
        assert refused.status_code == 422, refused.text
    assert client.get(url).json()["settings"] == before
    assert client.get("/api/schools/none").status_code == 404
    assert client.get("/api/schools/schema").json()["title"] == "A school of painting"


@pytest.mark.parametrize("key", list(SCHOOLS))
def test_every_school_is_planned_and_painted(client: TestClient, url: str, key: str) -> None:
    put(client, url, school=key)
    found = client.get(f"{url}/passes").json()
    assert found["key"] == key
    assert found["time"]["likely_hours"] > 3
    if key == "airbrush":
        assert any("respirator" in line for line in found["cautions"])
    last = len(found["passes"])
    large, strip = (
        Image.open(io.BytesIO(client.get(f"{url}/passes/{path}").content))
        for path in (f"canvas/{last}", "strip")
    )
    assert max(large.size) == 640, "no larger than the photograph"
    # In rows of eight, the last of them the finished canvas.
    width, height = strip.width // STRIP_COLUMNS, strip.height // -(-last // STRIP_COLUMNS)
    assert max(width, height) == 300
    left, top = (last - 1) % STRIP_COLUMNS * width, (last - 1) // STRIP_COLUMNS * height
    shown = strip.crop((left, top, left + width, top + height))
    away = np.abs(np.asarray(shown).astype(int) - np.asarray(large.resize(shown.size, Image.Resampling.BOX)))
    assert away.mean() < 3


def test_switches_move_passes(client: TestClient, url: str) -> None:
    put(client, url, background="last")
    keys = [p["key"] for p in client.get(f"{url}/passes").json()["passes"]]
    assert keys[-1].startswith("background")
    put(client, url, background="first tone, then last")
    keys = [p["key"] for p in client.get(f"{url}/passes").json()["passes"]]
    assert keys.index("background-tone") < next(n for n, k in enumerate(keys) if k.startswith("flesh-"))
    assert put(client, url, background="sideways").status_code == 422


def test_grounds_are_offered_shown_and_laid(client: TestClient, url: str) -> None:
    found = client.get(f"{url}/grounds").json()
    best = found["grounds"][0]
    assert best["minutes"] == max(g["minutes"] for g in found["grounds"])
    veil = np.asarray(Image.open(io.BytesIO(client.get(f"{url}/grounds/{best['key']}.png").content)))
    clear = veil[..., 3] == 255
    assert 0 < clear.mean() < 1
    assert client.get(f"{url}/grounds/moon.png").status_code == 404
    before = client.get(f"{url}/passes").json()
    put(client, url, ground=best["key"])
    after = client.get(f"{url}/passes").json()
    assert after["passes"][0]["parts"] == best["parts"] or after["passes"][0]["value"] == pytest.approx(
        best["value"], abs=0.3
    )
    assert sum(p["ml"] for p in after["passes"]) < sum(p["ml"] for p in before["passes"])
    answer = put(client, url, ground="moon")
    refused = client.get(f"{url}/passes")
    assert answer.status_code == 200
    assert (refused.status_code, "no ground called" in refused.json()["detail"]) == (422, True)
    put(client, url, ground="school", school="airbrush")
    assert client.get(f"{url}/grounds").json() == {"grounds": [], "chosen": "school", "paper": True}


def test_a_background_is_designed_and_its_edges_listed(client: TestClient, url: str) -> None:
    before = client.get(f"{url}/background").json()
    plain = client.get(f"{url}/background/photo.png").content
    put(client, url, backdrop="counter", backdrop_hue="neutral")
    after = client.get(f"{url}/background").json()
    assert after["found_share"] > before["found_share"]
    assert {s["kind"] for s in after["stretches"]} <= {"found", "soft", "lost"}
    assert all(s["place"] for s in after["stretches"])
    assert client.get(f"{url}/background/counter.png").content != plain
    assert client.get(f"{url}/background/sunset.png").status_code == 422
    assert {o["name"] for o in after["offers"]} >= {"dark garment", "the background"}
    assert all(f["words"].endswith(".") for f in after["frames"])
    ends = {"first": after["offers"][0]["lab"], "last": [95, 0, 0], "turn": 90}
    put(client, url, backdrop="own", backdrop_own=ends)
    assert client.get(f"{url}/background").json()["steps"] > 1
    assert client.get(f"{url}/background/own.png").content != plain
    assert put(client, url, backdrop_own={**ends, "first": [200, 0, 0]}).status_code == 422
    stroke = {"points": [[s, 0.3] for s in (0.2, 0.3, 0.4)]}
    put(client, url, lost=[stroke])
    assert client.get(f"{url}/background").status_code == 200
    assert put(client, url, lost=[{"points": [[9, 9], [9, 9]]}]).status_code == 422
    parts = client.get(f"{url}/passes").json()["passes"]
    assert any(p["key"].startswith("background") for p in parts)


def test_the_kit_and_the_files(client: TestClient, url: str) -> None:
    put(client, url, school="watercolour-zones")
    kit = client.get(f"{url}/kit").json()
    assert kit["thinner"] == "water"
    assert kit["thinner_ml"] > 1
    assert kit["reserves"]
    assert {r["means"] for r in kit["reserves"]} <= {"paper", "mask", "lift", "opaque"}
    assert kit["preparing"] == list(SCHOOLS["watercolour-zones"].preparing)
    calendar = icalendar.Calendar.from_ical(
        client.get(f"{url}/files/sittings.ics", params={"start": "2027-02-03T10:00"}).content
    )
    assert calendar.walk("VEVENT")[0].decoded("dtstart").isoformat() == "2027-02-03T10:00:00"
    unsaid = icalendar.Calendar.from_ical(client.get(f"{url}/files/sittings.ics").content)
    soon = unsaid.walk("VEVENT")[0].decoded("dtstart") - datetime.now()
    assert 0 < soon.total_seconds() < 2 * 86400
    assert client.get(f"{url}/files/sittings.ics", params={"start": "soon"}).status_code == 422
    assert client.get(f"{url}/files/book.pdf").content.startswith(b"%PDF")
    assert client.get(f"{url}/files/masks.svg").content.startswith(b"<svg")
    for name in ("passes.ora", "passes.zip"):
        assert zipfile.is_zipfile(io.BytesIO(client.get(f"{url}/files/{name}").content))


def test_a_plan_keeps_to_the_brushes_that_are_there(client: TestClient, url: str) -> None:
    known = client.get("/api/brushes").json()
    assert known["usual"] is None
    assert client.get(url).json()["settings"]["passes"]["brushes"] == known["starting"]
    mine = [{"shape": "flat", "number": "10"}, {"shape": "round", "mm": 2.4, "point": "sharp"}]
    assert put(client, url, school="layered-oil", brushes=mine).status_code == 200
    kit = client.get(f"{url}/kit").json()
    assert sum(kit["uses"]) == sum(b["passes"] for b in kit["brushes"])
    assert [b["name"] for b in kit["brushes"] if b["mm"]] == ["no. 10 flat", "2.4 mm round"]
    assert kit["missing"]
    assert all(m["minutes"] > 0 or m["too_wide"] for m in kit["missing"])
    assert {p["brush_mm"] for p in client.get(f"{url}/passes").json()["passes"]} == {20.0, 2.4}
    assert put(client, url, brushes=[{"shape": "flat", "number": "13"}]).status_code == 422
    assert put(client, url, brushes=[{"shape": "fan", "mm": 9}]).status_code == 422
    assert put(client, url, brushes=[{"shape": "flat"}]).status_code == 422
    put(client, url, brushes=[])
    shop = client.get(f"{url}/kit").json()
    assert len([b for b in shop["brushes"] if b["mm"]]) <= 6
    assert shop["missing"] == []


def test_a_heap_is_called_what_the_painter_calls_it(client: TestClient, url: str) -> None:
    put(client, url, school="layered-oil")
    before = client.get(f"{url}/kit").json()
    heap = before["heaps"][0]
    assert before["keeps"]
    put(client, url, heap_names=[{"name": "Aunt's flesh", "parts": heap["parts"]}])
    after = client.get(f"{url}/kit").json()["heaps"]
    assert after[0] == {**heap, "name": "Aunt's flesh"}
    words = [p["mix_words"] for p in client.get(f"{url}/passes").json()["passes"]]
    assert any("Aunt's flesh" in w for w in words)
    assert not any(heap["name"] in w.split(", ") for w in words)
    section = client.get(f"{url}/easel/section", params={"x1": 0, "y1": 0, "x2": 1, "y2": 1}).json()
    assert any("Aunt's flesh" in p["mix_words"] for p in section["passes"])
    told = [p["edge"]["words"] for p in client.get(f"{url}/passes").json()["passes"]]
    assert all(p["edge"] == told[p["number"] - 1] for p in section["passes"])
    assert put(client, url, heap_names=[{"name": "", "parts": heap["parts"]}]).status_code == 422
    assert put(client, url, own_heaps=[{"name": "a", "parts": {"light-red": 0}}]).status_code == 422
    put(client, url, heap_names=[])


def test_what_is_usual_in_the_studio_is_what_a_new_sitter_begins_with(client: TestClient) -> None:
    photo = small_photo("tobias")

    def brushes() -> Any:
        added = client.post("/api/sitters", files={"photo": ("a.jpg", photo, "image/jpeg")}).json()
        client.delete(f"/api/sitters/{added['id']}")
        return added["settings"]["passes"]["brushes"]

    assert brushes() == client.get("/api/brushes").json()["starting"]
    assert client.put("/api/brushes", json={"brushes": [{"shape": "flat", "mm": -3}]}).status_code == 422
    kept = client.put("/api/brushes", json={"brushes": [{"shape": "filbert", "number": "6"}]}).json()["usual"]
    assert brushes() == kept
    assert len(kept) == 1
    client.put("/api/brushes", json={"brushes": client.get("/api/brushes").json()["starting"]})


def test_a_room_that_is_cold_makes_oil_wait(client: TestClient, url: str) -> None:
    warm = client.get(f"{url}/passes").json()["time"]
    put(client, url, temperature=10)
    cold = client.get(f"{url}/passes").json()["time"]
    assert cold["days"] > warm["days"]
    assert cold["likely_hours"] == pytest.approx(warm["likely_hours"])


def test_the_air_is_read_from_a_made_up_sensor_that_says_so(client: TestClient) -> None:
    air = client.get("/api/studio/air").json()
    assert air["simulated"] is True
    assert 15 < air["temperature"] < 24
    assert 5 <= air["humidity"] <= 95
