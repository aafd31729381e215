"""What comes from elsewhere is turned away; a refusal is told from a bug; nothing odd is served."""

from __future__ import annotations

import logging
import os
import socket
import subprocess
import sys
import threading
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from unittest.mock import patch

import httpx
import pytest
from fastapi.testclient import TestClient

from tests.web.conftest import put_in
from truesitter.core.paint.recipes import solver
from truesitter.core.refusal import Refusal
from truesitter.core.stages.values_stage import ValueStage
from truesitter.store.backup.lock import folder_lock
from truesitter.store.settings.sitters import Repository
from truesitter.web.http.declared import answers
from truesitter.web.http.problems import BUG
from truesitter.web.server.app import create_app
from truesitter.web.server.serving import listen, run


@pytest.mark.parametrize("host", ["evil.example", "127.0.0.1.evil.example", "192.168.0.7:8440", ""])
def test_a_name_pointed_here_from_outside_reads_nothing(client: TestClient, sitter: str, host: str) -> None:
    answer = client.get(f"/api/sitters/{sitter}", headers={"Host": host})
    assert answer.status_code == 403
    assert "Made" not in answer.text


@pytest.mark.parametrize("host", ["127.0.0.1:8440", "localhost", "localhost:1", "[::1]:8440"])
def test_this_machines_own_names_are_answered(client: TestClient, host: str) -> None:
    assert client.get("/api/sitters", headers={"Host": host}).status_code == 200


@pytest.mark.parametrize(
    "headers",
    [
        {"Origin": "https://evil.example"}, {"Origin": "null"}, {"Origin": "http://127.0.0.1:9999"},
        {"Sec-Fetch-Site": "cross-site"}, {"Sec-Fetch-Site": "same-site"},
    ],
)  # fmt: skip
def test_a_page_of_another_site_changes_nothing(
    client: TestClient, sitter: str, made_photo: bytes, headers: dict[str, str]
) -> None:
    url, before = f"/api/sitters/{sitter}", client.get("/api/sitters").json()
    photo = {"photo": ("a.jpg", made_photo, "image/jpeg")}
    for method, path, body in (
        ("POST", "/api/sitters", {"files": photo}), ("DELETE", url, {}), ("POST", f"{url}/undo", {}),
        ("PATCH", f"{url}/settings/values", {"json": {"set": {"groups": 2}}}),
        ("POST", "/api/tubes", {"json": {"name": "x", "pigment": "yellow-ochre"}}),
    ):  # fmt: skip
        assert client.request(method, path, headers=headers, **body).status_code == 403
    assert client.get("/api/sitters").json() == before
    assert client.get("/api/tubes").json() == []
    # Reading is the browser's to refuse, but for what it says itself comes from another page.
    expected = 403 if "Sec-Fetch-Site" in headers else 200
    assert client.get("/api/sitters", headers=headers).status_code == expected


def test_the_own_page_may_change_things(client: TestClient, sitter: str) -> None:
    own = {"Origin": "http://127.0.0.1", "Sec-Fetch-Site": "same-origin"}
    change = {"set": {"groups": 4}}
    url = f"/api/sitters/{sitter}"
    assert client.patch(f"{url}/settings/values", headers=own, json=change).status_code == 200
    assert client.post(f"{url}/undo", headers=own).status_code == 200


@pytest.mark.parametrize("path", ["/", "/api/sitters", "/api/nothing", "/assets/app.js", "/assets/none.js"])
def test_every_answer_says_what_pages_may_do_with_it(client: TestClient, path: str) -> None:
    headers = client.get(path).headers
    policy = dict(part.strip().split(" ", 1) for part in headers["content-security-policy"].split(";"))
    assert policy["default-src"] == "'none'"
    assert policy["script-src"] == "'self'"
    assert policy["frame-ancestors"] == "'none'"
    assert headers["x-content-type-options"] == "nosniff"
    assert headers["referrer-policy"] == "no-referrer"
    assert headers["cross-origin-resource-policy"] == "same-origin"


@pytest.mark.parametrize(
    "path", ["/assets/none.js", "/assets/" + "a" * 5000, "/none.png", "/assets/%00", "/assets/"]
)
def test_a_file_that_is_not_there_is_not_the_page(client: TestClient, path: str) -> None:
    answer = client.get(path)
    assert answer.status_code == 404
    assert "front end" not in answer.text


def test_a_refusal_is_a_sentence_and_a_bug_is_a_trace(
    client: TestClient, sitter: str, caplog: pytest.LogCaptureFixture
) -> None:
    quiet = TestClient(client.app, base_url="http://127.0.0.1", raise_server_exceptions=False)
    with patch.object(ValueStage, "split", side_effect=ValueError("operands could not be broadcast")):
        bug = quiet.get(f"/api/sitters/{sitter}/values/split?group=0")
    assert (bug.status_code, bug.json()["detail"]) == (500, BUG)
    assert "broadcast" not in bug.text
    assert any(
        r.levelno == logging.ERROR and r.exc_info and "split" in r.getMessage() for r in caplog.records
    )
    with patch.object(ValueStage, "split", side_effect=Refusal("this cannot be split")):
        refusal = quiet.get(f"/api/sitters/{sitter}/values/split?group=0")
    assert (refusal.status_code, refusal.json()["detail"]) == (422, "This cannot be split.")


def test_two_windows_over_the_wire(client: TestClient, sitter: str) -> None:
    url = f"/api/sitters/{sitter}"
    seen = {"If-Match": f'"{client.get(url).json()["revision"]}"'}
    first = client.patch(f"{url}/settings/values", headers=seen, json={"set": {"groups": 4}})
    again = client.patch(f"{url}/settings/values", headers=seen, json={"change": "3", "set": {"groups": 3}})
    other = client.patch(f"{url}/settings/hair", headers=seen, json={"set": {"spacing_mm": 9}})
    assert [a.status_code for a in (first, again, other)] == [200, 412, 200]
    assert "another window" in again.json()["detail"]
    assert (other.json()["before"], other.json()["revision"]) == (
        first.json()["revision"],
        first.json()["revision"] + 1,
    )
    assert client.post(f"{url}/undo", headers=seen).status_code == 412
    assert (
        client.patch(f"{url}/settings/hair", headers={"If-Match": "*"}, json={"set": {}}).status_code == 422
    )
    stroke = {"region": "hair", "points": [[0.5, 0.5]]}
    added = client.patch(f"{url}/settings/regions", json={"lists": {"scribbles": {"add": [stroke]}}}).json()
    assert added["lists"]["scribbles"]["add"] == [{**stroke, "width": 0.02}]
    for _ in range(3):
        client.post(f"{url}/undo")


def test_an_answer_is_sent_again_only_when_its_key_changed(client: TestClient, sitter: str) -> None:
    """What each answer depends on is declared beside its route: the browser's keys and the ETags are one."""
    url = f"/api/sitters/{sitter}"
    sitter_now = client.get(url).json()
    assert set(sitter_now["keys"]) == set(answers())
    for path in ("values", "hair", "regions/map", "flesh", "passes", "measures", "reference", "edges"):
        first = client.get(f"{url}/{path}")
        assert first.headers["etag"] == f'"{sitter_now["keys"][path]}"'
        again = client.get(f"{url}/{path}", headers={"If-None-Match": first.headers["etag"]})
        assert (again.status_code, again.content) == (304, b"")
    named = client.patch(f"{url}/settings/values", json={"set": {"names": ["deep"]}}).json()["keys"]
    moved = {path for path, key in named.items() if key != sitter_now["keys"][path]}
    told = {"flesh/spot", "flesh/batch", "flesh/named", "flesh/combined", "flesh/coats"}
    told |= {"log/works", "log/figures"}
    assert moved == {"values", "passes", "kit", "easel", "easel/section", "hair/layers", *told}
    client.post(f"{url}/undo")


def test_a_second_start_touches_nothing(tmp_path: Path, made_photo: bytes) -> None:
    """Neither while the port is taken nor while the folder is."""
    repository = Repository(tmp_path)
    kept = repository.add(made_photo, "a.jpg").id
    repository.delete(kept)
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        with pytest.raises(Refusal, match="running already"):
            run(tmp_path, taken.getsockname()[1])
        port = taken.getsockname()[1]
    with folder_lock(tmp_path), pytest.raises(Refusal, match="another True Sitter"):
        run(tmp_path, port)
    assert repository.restore(kept).id == kept
    assert repository.photograph(repository.get(kept).sha256) == made_photo
    with pytest.raises(Refusal, match="from 1 to 65535"):
        run(tmp_path, 99_999)


def test_a_missing_original_is_said_and_mended_by_putting_it_in_again(
    tmp_path: Path, made_photo: bytes
) -> None:
    repository = Repository(tmp_path)
    client = TestClient(create_app(repository), base_url="http://127.0.0.1")
    kept = put_in(client, made_photo).json()["id"]
    (original,) = (p for p in (tmp_path / "originals").rglob("*") if p.is_file())
    original.write_bytes(made_photo[:1000])
    answer = client.get(f"/api/sitters/{kept}/pictures/colour")
    assert (answer.status_code, "damaged" in answer.json()["detail"]) == (422, True)
    original.unlink()
    assert "missing" in client.get(f"/api/sitters/{kept}/pictures/colour").json()["detail"]
    put_in(client, made_photo)
    assert client.get(f"/api/sitters/{kept}/pictures/colour").status_code == 200


def test_many_at_once_work_no_more_than_there_are_places(client: TestClient, sitter: str) -> None:
    """Twelve clients ask for spots; the bench is never fuller than it may be."""
    working, most, lock = 0, 0, threading.Lock()
    real = solver.PartSearch.small

    def watched(self: solver.PartSearch, count: int, **more: bool) -> object:
        nonlocal working, most
        with lock:
            working += 1
            most = max(most, working)
        try:
            return real(self, count, **more)
        finally:
            with lock:
                working -= 1

    with patch.object(solver.PartSearch, "small", watched), ThreadPoolExecutor(12) as pool:
        urls = [f"/api/sitters/{sitter}/flesh/spot?x={0.3 + i / 40}&y=0.5" for i in range(12)]
        assert {a.status_code for a in pool.map(client.get, urls)} == {200}
    assert 1 <= most <= (os.cpu_count() or 1)


def test_a_port_that_was_taken_is_listened_to_at_once() -> None:
    """Before anything is served a browser already waits in line, and a second start is turned away."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    with listen(port):
        socket.create_connection(("127.0.0.1", port), timeout=5).close()
        with pytest.raises(Refusal, match="running already"):
            listen(port)


def test_the_address_is_told_once_somebody_listens(tmp_path: Path) -> None:
    for _ in range(3):
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = str(free.getsockname()[1])
        command = [sys.executable, "-m", "truesitter.cli", "serve", "--data", str(tmp_path), "--port", port]
        with subprocess.Popen(command, stdout=subprocess.PIPE, text=True) as server:
            assert server.stdout is not None
            told = next((line.split()[-1] for line in server.stdout if "http" in line), None)
            if told is None:
                # Another test took the port in between.
                continue
            try:
                assert httpx.get(f"{told}/api/sitters", timeout=60).json() == []
                return
            finally:
                server.terminate()
    pytest.fail("no server ever told its address")
