"""Silent, slow and many peers: they keep nobody else out."""

from __future__ import annotations

import contextlib
import socket
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest
import uvicorn
from fastapi.testclient import TestClient

from tests.conftest import jpeg, made_head
from truesitter.store.settings.sitters import Repository
from truesitter.web.http.dependencies import WRITERS
from truesitter.web.server import connections
from truesitter.web.server.app import create_app
from truesitter.web.server.connections import PatientProtocol

PATIENCE = 1.0


@pytest.fixture
def served(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[int]:
    """The application as it is served, with less patience than usual; its port."""
    monkeypatch.setattr(connections, "SPEAKS_WITHIN", PATIENCE)
    monkeypatch.setattr(connections, "MOST_OF_ONE", 30)
    repository = Repository(tmp_path)
    config = uvicorn.Config(create_app(repository), log_level="critical", http=PatientProtocol)
    server = uvicorn.Server(config)
    with socket.socket() as listening:
        listening.bind(("127.0.0.1", 0))
        listening.listen(512)
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
        thread.start()
        yield int(listening.getsockname()[1])
        server.should_exit = True
        thread.join(20)
    repository.close()


def closed(peer: socket.socket, within: float) -> bool:
    """Whether the other side lets go of a connection in time."""
    peer.settimeout(within)
    try:
        return peer.recv(1) == b""
    except TimeoutError:
        return False
    except ConnectionError:
        return True


@pytest.mark.parametrize("said", [b"", b"GET /api/door HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: "])
def test_who_does_not_finish_a_question_is_let_go(served: int, said: bytes) -> None:
    with socket.create_connection(("127.0.0.1", served)) as peer:
        peer.sendall(said)
        began = time.monotonic()
        assert closed(peer, 10)
        assert PATIENCE * 0.5 < time.monotonic() - began < PATIENCE + 5


def test_a_letter_at_a_time_does_not_help(served: int) -> None:
    with socket.create_connection(("127.0.0.1", served)) as peer:
        began = time.monotonic()
        with contextlib.suppress(ConnectionError):
            for letter in b"GET / HTTP/1.1\r\nHost: 127.0.0.1\r\nX: " + b"x" * 60:
                peer.sendall(bytes([letter]))
                time.sleep(0.1)
                if time.monotonic() - began > PATIENCE + 3:
                    pytest.fail("it is still listened to")
            assert closed(peer, 3)


def test_any_number_of_silent_peers_keep_nobody_out(served: int, monkeypatch: pytest.MonkeyPatch) -> None:
    """Many more than one machine may have: each new one puts out the one that was silent longest."""
    monkeypatch.setattr(connections, "SPEAKS_WITHIN", 60.0)
    with contextlib.ExitStack() as stack:
        peers = []
        for number in range(200):
            peers.append(stack.enter_context(socket.create_connection(("127.0.0.1", served))))
            if number % 20 == 0:
                assert httpx.get(f"http://127.0.0.1:{served}/api/door", timeout=5).status_code == 200
        assert closed(peers[0], 5), "the first of them was put out"
        assert httpx.get(f"http://127.0.0.1:{served}/api/door", timeout=5).status_code == 200


def test_who_is_being_answered_is_not_put_out(served: int) -> None:
    """A connection that is in use stays, whatever comes after it; an idle one may be used again."""
    with httpx.Client(base_url=f"http://127.0.0.1:{served}") as client, contextlib.ExitStack() as stack:
        for _ in range(4):
            assert client.get("/api/sitters").status_code == 200
            for _ in range(10):
                stack.enter_context(socket.create_connection(("127.0.0.1", served)))


FORM, JSON = "multipart/form-data; boundary=x", "application/json"


@pytest.mark.parametrize(
    ("asked", "kind"),
    [
        ("POST /api/sitters", FORM), ("POST /api/sitter-files", FORM), ("POST /api/swatches/photo", FORM),
        ("PUT /api/keeping/daily", JSON), ("POST /api/tubes", JSON),
    ],
)  # fmt: skip
def test_what_breaks_off_on_its_way_is_no_bug(
    served: int, asked: str, kind: str, caplog: pytest.LogCaptureFixture
) -> None:
    """Twenty times something that ends in the middle leaves the log as it is."""
    head = f"{asked} HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: {kind}\r\nContent-Length: 9999\r\n\r\n"
    part = '--x\r\nContent-Disposition: form-data; name="photo"; filename="a"\r\n\r\nabc'
    for _ in range(20):
        with socket.create_connection(("127.0.0.1", served)) as peer:
            peer.sendall((head + part).encode())
            time.sleep(0.02)
    time.sleep(0.5)
    assert httpx.get(f"http://127.0.0.1:{served}/api/door", timeout=5).status_code == 200
    assert [r.message for r in caplog.records if r.name == "truesitter"] == []


def test_readers_are_answered_while_many_wait_to_write(tmp_path: Path) -> None:
    """Sixty writers wait for a lock that another program holds; who only reads gets an answer at once."""
    repository, other = Repository(tmp_path), Repository(tmp_path)
    sitter = repository.add(jpeg(made_head()), "a.jpg").id
    with TestClient(create_app(repository, tmp_path), base_url="http://127.0.0.1") as client:
        done: list[int] = []

        def write() -> None:
            done.append(client.patch(f"/api/sitters/{sitter}", json={"name": "Ada"}).status_code)

        writers = [threading.Thread(target=write) for _ in range(60)]
        with other._sessions.writing.begin() as session:
            # Only now is the lock taken.
            session.connection()
            for writer in writers:
                writer.start()
            time.sleep(0.5)
            paths = ("/api/door", "/api/sitters", f"/api/sitters/{sitter}")
            answers = [client.get(path).status_code for path in paths]
            written = len(done)
        for writer in writers:
            writer.join()
    assert answers == [200] * 3
    assert written == 0, "the lock was held all the time"
    assert done == [200] * 60
    assert WRITERS < 40, "fewer than there are threads"
    repository.close()
    other.close()
