"""The log over HTTP: a sitting as a browser keeps it, and the book across all pictures."""

from __future__ import annotations

import io
import zipfile
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from icalendar import Calendar
from PIL import Image
from pypdf import PdfReader

from tests.conftest import jpeg, made_head, truth
from tests.log import work
from tests.web.conftest import put_in
from truesitter.core.log.events import QUALITIES
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app


@pytest.fixture
def url(client: TestClient) -> str:
    """A sitter whose log is empty."""
    return f"/api/sitters/{put_in(client, jpeg(made_head(240, 300))).json()['id']}"


def write(client: TestClient, url: str, status: int = 201, at: datetime | None = None, **what: Any) -> Any:
    body = {"what": what, **({"at": at.isoformat()} if at else {})}
    answer = client.post(f"{url}/log" if url else "/api/log", json=body)
    assert answer.status_code == status, answer.text
    return answer.json()


def a_sitting(
    client: TestClient, url: str, begun: datetime, lasts: float, done: float, **changes: Any
) -> str:
    on = work(**changes).model_dump(mode="json")
    began = write(client, url, kind="began", work=on, at=begun)["id"]
    write(client, url, kind="ended", sitting=began, done=done, at=begun + timedelta(minutes=lasts))
    return str(began)


def test_a_sitting_from_beginning_to_end(client: TestClient, url: str) -> None:
    works = client.get(f"{url}/log/works").json()
    assert works
    assert all(w["minutes"] > 0 and w["kind"] for w in works)
    assert client.get(f"{url}/log").json()["open"] is None
    began = write(client, url, kind="began", work=works[0])["id"]
    going = client.get(f"{url}/log").json()["open"]
    assert (going["id"], going["paused"], going["ended"]) == (began, False, None)
    write(client, url, kind="paused", sitting=began)
    assert client.get(f"{url}/log").json()["open"]["paused"]
    write(client, url, kind="resumed", sitting=began)
    write(client, url, kind="air", sitting=began, temperature=19.5, humidity=48)
    write(client, url, kind="note", sitting=began, words="cold light")
    ahead = write(client, url, kind="next time", sitting=began, words="warm the ear")["id"]
    write(client, url, kind="turned", sitting=began, done=1, work=works[1])
    write(client, url, kind="ended", sitting=began, done=0.5)
    log = client.get(f"{url}/log").json()
    assert log["open"] is None
    (sitting,) = log["sittings"]
    assert [b["done"] for b in sitting["intervals"]] == [1, 0.5]
    assert sitting["temperature"] == 19.5
    assert sitting["notes"] == ["cold light"]
    assert log["progress"] == {works[0]["key"]: 1, works[1]["key"]: 0.5}
    assert [a["words"] for a in log["ahead"]] == ["warm the ear"]
    write(client, url, kind="settled", entry=ahead)
    assert client.get(f"{url}/log").json()["ahead"] == []
    # What is done is ticked among the passes.
    assert [d["key"] for d in client.get(f"{url}/done").json()] == [works[0]["key"]]


def test_what_can_be_painted_now_waits_for_what_dries(client: TestClient, url: str) -> None:
    works = client.get(f"{url}/log/works").json()
    before = client.get(f"{url}/log/possible").json()
    assert (before["number"], before["now"], before["left"]) == (1, True, len(works))
    yesterday = datetime.now(UTC) - timedelta(hours=2)
    began = write(client, url, kind="began", work={**works[0], "dries_minutes": 600}, at=yesterday)["id"]
    write(client, url, kind="ended", sitting=began, done=1, at=yesterday + timedelta(hours=1))
    (clock,) = client.get(f"{url}/log").json()["clocks"]
    assert clock["name"] == works[0]["name"]
    after = client.get(f"{url}/log/possible").json()
    assert after["left"] == len(works) - 1
    if not after["now"]:
        assert after["since"] == clock["dry_at"]
        assert after["waits_for"] == [works[0]["name"]]


def test_entries_are_struck_out_and_stay(client: TestClient, url: str) -> None:
    note = write(client, url, kind="note", words="wrong")["id"]
    assert client.delete(f"{url}/log/entries/{note}").status_code == 204
    (entry,) = client.get(f"{url}/log").json()["entries"]
    assert entry["struck_at"]
    again = client.delete(f"{url}/log/entries/{note}")
    assert (again.status_code, again.json()["detail"]) == (
        404,
        "This is not in the log, or was struck out already.",
    )


@pytest.mark.parametrize(
    ("what", "status", "match"),
    [
        ({"kind": "ended", "sitting": "0" * 32}, 422, "no such sitting"),
        ({"kind": "slept"}, 422, "kind"),
        ({"kind": "note", "words": "x" * 3000}, 422, "words"),
        ({"kind": "used", "tube": "none", "ml": 2}, 422, "no tube"),
    ],
)
def test_what_cannot_be_is_refused_and_changes_nothing(
    client: TestClient, url: str, what: dict[str, Any], status: int, match: str
) -> None:
    answer = client.post(f"{url}/log", json={"what": what})
    assert answer.status_code == status
    assert match in answer.json()["detail"]
    assert client.get(f"{url}/log").json()["entries"] == []
    assert (
        client.post(
            f"{url}/log", json={"what": {"kind": "note", "words": "x"}, "at": "2026-01-01T10:00"}
        ).status_code
        == 422
    )


def test_the_log_as_files_and_back(client: TestClient, url: str) -> None:
    sitting = a_sitting(client, url, datetime.now(UTC) - timedelta(days=3), 90, 1)
    before = client.get(f"{url}/log").json()["entries"]
    other = f"/api/sitters/{put_in(client, jpeg(made_head(200, 250))).json()['id']}"
    for name in ("file.json", "file.csv"):
        data = client.get(f"{url}/log/{name}").content
        taken = client.post(f"{url}/log/file", files={"file": (name, data)})
        assert (taken.status_code, taken.json()) == (201, {"new": 0})
        clash = client.post(f"{other}/log/file", files={"file": (name, data)})
        assert clash.status_code == 422
    assert client.get(f"{url}/log").json()["entries"] == before
    events = Calendar.from_ical(client.get(f"{url}/log/file.ics").content).walk("VEVENT")
    assert any(sitting in str(e["UID"]) for e in events)
    refused = client.post(f"{url}/log/file", files={"file": ("x.csv", b"a,b\n1,2\n")})
    assert refused.status_code == 422
    assert "no log" in refused.json()["detail"]


def test_the_record_is_printed(client: TestClient, url: str) -> None:
    a_sitting(client, url, datetime(2026, 3, 28, 22, 30, tzinfo=UTC), 60, 1)
    write(client, url, kind="judged", liked=4, why="the ear", by="Ada")
    data = client.get(f"{url}/log/record.pdf", params={"zone": "Europe/Vienna"}).content
    text = "".join(page.extract_text() for page in PdfReader(io.BytesIO(data)).pages)
    for words in (
        "1 h of work in one sitting",
        "28 March 2026, 23:30",
        "First flesh wash",
        "4 of 5 (Ada): the ear",
    ):
        assert words in text
    assert client.get(f"{url}/log/record.pdf", params={"zone": "Nowhere"}).status_code == 422


def newest(client: TestClient, url: str) -> str:
    return str(client.get(url).json()["settings"]["easel"]["paintings"][-1]["key"])


def test_a_film_of_the_paintings(client: TestClient) -> None:
    url = f"/api/sitters/{put_in(client, truth('tobias').data).json()['id']}"
    assert client.get(f"{url}/log/figures").json()["findings"] is None
    refused = client.get(f"{url}/log/film.zip")
    assert refused.status_code == 422
    assert "photographs" in refused.json()["detail"]
    for seed, after in ((3, 1), (4, 2)):
        assert client.post(f"{url}/easel/camera", json={"seed": seed, "after": after}).status_code == 201
    figures = client.get(f"{url}/log/figures").json()
    compared = client.get(f"{url}/easel/compared", params={"painting": newest(client, url)}).json()
    assert figures["findings"] == len(compared["findings"])
    assert 0 <= figures["darkest"] < figures["lightest"] <= 10
    film = zipfile.ZipFile(io.BytesIO(client.get(f"{url}/log/film.zip").content))
    sizes = {Image.open(io.BytesIO(film.read(name))).size for name in film.namelist()}
    assert film.namelist() == ["painting_001.png", "painting_002.png"]
    assert len(sizes) == 1
    layers = zipfile.ZipFile(io.BytesIO(client.get(f"{url}/log/film.ora").content))
    assert layers.read("mimetype") == b"image/openraster"
    assert len([n for n in layers.namelist() if n.startswith("data/")]) == 2


def test_the_book_across_all_pictures(client: TestClient, url: str) -> None:
    sitter = url.rsplit("/", 1)[-1]
    begun = datetime(2026, 2, 10, 9, 0, tzinfo=UTC)
    a_sitting(client, url, begun, 120, 1, name="Unlike any other", dries_minutes=3000)
    write(client, url, kind="judged", liked=2)
    write(client, url, kind="judged", liked=5)
    found = client.get("/api/log", params={"words": "unlike OTHER"}).json()
    assert (found["found"], found["entries"][0]["what"]["kind"]) == (1, "began")
    assert client.get("/api/log", params={"sitter": sitter, "kind": "judged"}).json()["found"] == 2
    assert client.get("/api/log", params={"sitter": sitter, "until": "2026-02-09"}).json()["found"] == 0
    assert len(client.get("/api/log", params={"most": 1}).json()["entries"]) == 1
    month = client.get("/api/log/month", params={"year": 2026, "month": 2, "zone": "Asia/Tokyo"}).json()
    assert len(month) == 28
    assert month[9]["minutes"][sitter] == 120
    assert [c["name"] for c in month[11]["dry"] if c["sitter"] == sitter] == ["Unlike any other"]
    (mine,) = [p for p in client.get("/api/log/paintings").json() if p["sitter"] == sitter]
    assert (mine["minutes"], mine["sittings"], mine["liked"]) == (120, 1, 3.5)
    assert mine["by_place"] == {"skin": 120}
    going = write(client, url, kind="began")["id"]
    repository = client.get("/api/log/shelf").json()
    assert going in [s["id"] for s in repository["sittings"]]
    assert repository["minutes"][sitter] >= 120


def test_own_pace_is_learned_shown_used_and_forgotten(tmp_path: Path) -> None:
    client = TestClient(create_app(Repository(tmp_path)), base_url="http://127.0.0.1")
    url = f"/api/sitters/{put_in(client, jpeg(made_head(260, 320))).json()['id']}"
    works = client.get(f"{url}/log/works").json()
    before = client.get(f"{url}/passes").json()
    assert not any(p["pace"] for p in before["passes"])
    start = datetime.now(UTC) - timedelta(days=20)
    for day in range(3):
        for n, one in enumerate(works):
            took = 2 * one["minutes"] / 3
            begun = start + timedelta(days=day, hours=n * 0.5)
            a_sitting(client, url, begun, took, (day + 1) / 3, **one)
    rates = client.get("/api/log/rates").json()
    (all_work,) = [r for r in rates["rates"] if r["words"] == "all work"]
    assert all_work["factor"] == pytest.approx(2, rel=0.2)
    after = client.get(f"{url}/passes").json()
    assert after["time"]["likely_hours"] == pytest.approx(2 * before["time"]["likely_hours"], rel=0.2)
    assert after["time"]["usual_hours"] == pytest.approx(before["time"]["likely_hours"])
    assert after["time"]["paced"] == len(works)
    assert "takes you 2 times the usual, learned from" in after["passes"][0]["pace"]
    write(client, "", kind="pace reset")
    assert client.get("/api/log/rates").json()["rates"] == []
    assert client.get(f"{url}/passes").json()["time"]["likely_hours"] == before["time"]["likely_hours"]


def test_trials_side_by_side(client: TestClient) -> None:
    for name, marks in (("Rough", {"lifts": 5, "takes washes": 4}), ("Hot-pressed", {"lifts": 2})):
        write(client, "", kind="trial", subject="paper", name=name, marks=marks, wet=5.0, dry=5.4)
    found = client.get("/api/log/trials").json()
    assert [t["entry"]["what"]["name"] for t in found["trials"][:2]] == ["Hot-pressed", "Rough"]
    assert found["trials"][1]["mean"] == 4.5
    assert found["trials"][0]["shift"] == pytest.approx(0.4)
    assert set(found["qualities"]) == set(QUALITIES)
    assert {"paper": "", "medium": "", "pairs": [[5.0, 5.4]]} in found["swatches"]
    entry = found["trials"][0]["entry"]["id"]
    assert client.delete(f"/api/log/entries/{entry}").status_code == 204
    assert client.get("/api/log/trials").json()["trials"][0]["entry"]["struck_at"]


@pytest.mark.parametrize("at", ["0001-01-01T00:00:00+14:00", "9999-12-31T23:59:59-12:00"])
def test_days_at_the_rim_of_the_calendar_are_refused(client: TestClient, url: str, at: str) -> None:
    asked = {"what": {"kind": "note", "words": "x"}, "at": at}
    for path in (f"{url}/log", "/api/log"):
        assert client.post(path, json=asked).status_code == 422
    text = f'{{"format": "truesitter-log", "version": 1, "entries": [{{"id": "{"0" * 32}", "at": "{at}", '
    text += '"what": {"kind": "note", "words": "x"}}]}'
    assert client.post(f"{url}/log/file", files={"file": ("a.json", text.encode())}).status_code == 422
    for name in ("since", "until"):
        assert client.get("/api/log", params={name: at[:10], "zone": "Asia/Tokyo"}).status_code == 422


def test_work_of_next_to_nothing_gives_no_endless_rate(tmp_path: Path) -> None:
    client = TestClient(create_app(Repository(tmp_path)), base_url="http://127.0.0.1")
    url = f"/api/sitters/{put_in(client, jpeg(made_head(200, 240))).json()['id']}"
    for day in range(3):
        begun = datetime.now(UTC) - timedelta(days=3 + day)
        a_sitting(client, url, begun, 60, 1, key=str(day), area_cm2=1e-320, minutes=1e-320, ml=1e-320)
        a_sitting(client, url, begun, 60, 1, key=f"b{day}", area_cm2=1e-320)
    answer = client.get("/api/log/rates")
    assert answer.status_code == 200
    assert all(r["per_cm2"] == 0 and r["sittings"] == 3 for r in answer.json()["rates"])
