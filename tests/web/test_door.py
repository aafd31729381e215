"""A studio open to other machines: nobody in without the passphrase, nothing from pages elsewhere."""

from __future__ import annotations

import re
from collections.abc import Iterator

import httpx
import pytest
from fastapi.testclient import TestClient

from siege.server import Server
from tests.web.conftest import WORDS, put_in
from truesitter.core.log.events import Noted
from truesitter.formats.documents.log_files import log_json
from truesitter.store.settings.sitters import Repository
from truesitter.web.access.sessions import (
    COOKIE,
    FREE_ATTEMPTS,
    FREE_FROM_ONE,
    STAYS,
    Opening,
    SessionAuth,
    Throttle,
    TooMany,
)
from truesitter.web.http.limits import LARGEST_BODY
from truesitter.web.server.app import create_app

HOST = "http://studio.local:8440"


class Clock:
    now = 0.0

    def __call__(self) -> float:
        return self.now


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def studio(repository: Repository, clock: Clock) -> Iterator[TestClient]:
    door = SessionAuth(repository.passphrase, Opening(8440, ("studio.local",)), Throttle(clock))
    with TestClient(create_app(repository, door=door), base_url=HOST) as client:
        yield client


def come_in(client: TestClient, painter: str = "Ada", words: str = WORDS) -> httpx.Response:
    return client.post("/api/door", json={"painter": painter, "passphrase": words})


def test_nothing_is_answered_before_coming_in(studio: TestClient) -> None:
    routes = studio.app.openapi()["paths"]  # type: ignore[attr-defined]
    assert len(routes) > 100
    for path, methods in routes.items():
        for method in methods:
            if path == "/api/door":
                continue
            asked = re.sub(r"\{\w+\}", "1", path)
            assert studio.request(method, asked).status_code == 401, f"{method} {path}"
    assert studio.get("/openapi.json").status_code == 401
    told = studio.get("/api/door").json()
    assert told == {"studio": True, "painter": None, "address": None, "secret": False}


def test_the_passphrase_lets_in_and_history_says_who(studio: TestClient, made_photo: bytes) -> None:
    assert come_in(studio, words="linseed and umber").status_code == 422
    assert studio.get("/api/sitters").status_code == 401
    entered = come_in(studio, "  Ada \x00 L. ")
    assert entered.json()["painter"] == "Ada L."
    cookie = entered.headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=strict" in cookie
    sitter = put_in(studio, made_photo).json()["id"]
    edit = {"change": "Three groups", "set": {"groups": 3}}
    studio.patch(f"/api/sitters/{sitter}/settings/values", json=edit)
    assert studio.get(f"/api/sitters/{sitter}").json()["undo"] == "Three groups (Ada L.)"
    assert studio.delete("/api/door").status_code == 204
    assert studio.get("/api/sitters").status_code == 401


def test_a_session_is_worth_nothing_when_changed_old_or_of_another_passphrase(
    studio: TestClient, repository: Repository, monkeypatch: pytest.MonkeyPatch
) -> None:
    come_in(studio)
    session = studio.cookies[COOKIE]
    door = SessionAuth(repository.passphrase, Opening(8440))
    assert door.who(session) == "Ada"
    for forged in (
        # In the middle: the last letter has bits that mean nothing.
        session[:-10] + ("A" if session[-10] != "A" else "B") + session[-9:],
        session[2:],
        "x" * 5000,
        "",
        None,
        "é",
    ):
        assert door.who(forged) is None
    import time

    real = time.time
    monkeypatch.setattr(time, "time", lambda: real() + STAYS + 5)
    assert door.who(session) is None
    monkeypatch.setattr(time, "time", real)
    repository.passphrase.set("another one now")
    assert SessionAuth(repository.passphrase, Opening(8440)).who(session) is None
    assert not repository.passphrase.fits(WORDS)


def test_guessing_is_made_to_wait_longer_each_time(studio: TestClient, clock: Clock) -> None:
    for _ in range(FREE_ATTEMPTS):
        assert come_in(studio, words="guess guess guess").status_code == 422
    refused = come_in(studio)
    assert (refused.status_code, "wait" in refused.json()["detail"]) == (429, True), "though it was right"
    waits = []
    for _ in range(4):
        waits.append(int(come_in(studio, words="x").headers["retry-after"]))
        clock.now += waits[-1] + 1
        assert come_in(studio, words="guess guess guess").status_code == 422
    assert waits == [1, 2, 4, 8]
    clock.now += 400
    assert come_in(studio).status_code == 200


def test_nobody_is_kept_out_by_what_others_guess(clock: Clock) -> None:
    """Hundreds of wrong tries from as many machines, under the painter's own name too."""
    throttle = Throttle(clock)
    for number in range(200):
        throttle.wrong(f"10.0.0.{number}", "Ada")
    throttle.check("10.0.1.1", "Ada")
    for _ in range(FREE_ATTEMPTS):
        throttle.wrong("10.0.1.2", "Ben")
    with pytest.raises(TooMany):
        throttle.check("10.0.1.2", "Ben")
    throttle.check("10.0.1.2", "Ada")
    throttle.check("10.0.1.3", "Ben")


def test_another_name_each_time_does_not_help_a_machine(clock: Clock) -> None:
    throttle = Throttle(clock)
    for number in range(FREE_FROM_ONE):
        throttle.wrong("10.0.0.1", f"painter {number}")
    with pytest.raises(TooMany):
        throttle.check("10.0.0.1", "somebody new")
    throttle.right("10.0.0.1", "painter 3")
    with pytest.raises(TooMany):
        throttle.check("10.0.0.1", "somebody new")
    # A network of version 6 is one machine, however many addresses it takes (RFC 4291: 64 bits).
    for number in range(FREE_FROM_ONE):
        throttle.wrong(f"2001:db8::{number:x}", f"painter {number}")
    with pytest.raises(TooMany):
        throttle.check("2001:db8::ffff", "somebody new")
    throttle.check("2001:db8:0:1::1", "somebody new")


def test_leaving_ends_the_session_for_every_copy_of_it(studio: TestClient, repository: Repository) -> None:
    come_in(studio)
    copied = studio.cookies[COOKIE]
    studio.delete("/api/door")
    studio.cookies.clear()
    with_copy = {"Cookie": f"{COOKIE}={copied}"}
    assert studio.get("/api/sitters", headers=with_copy).status_code == 401
    assert SessionAuth(repository.passphrase, Opening(8440)).who(copied) is None, "after a restart too"
    come_in(studio)
    assert studio.get("/api/sitters").status_code == 200


def test_ended_sessions_are_kept_as_long_as_they_could_be_shown(
    repository: Repository, monkeypatch: pytest.MonkeyPatch
) -> None:
    import time

    ended, real = repository.passphrase.ended(100), time.time
    ended.add("first")
    ended.add("second")
    assert [ended.has(n) for n in ("first", "second", "third")] == [True, True, False]
    monkeypatch.setattr(time, "time", lambda: real() + 101)
    ended.add("third")
    kept = repository.studio.get("ended sessions")
    assert kept is not None
    assert list(kept["sessions"]) == ["third"]


@pytest.mark.parametrize("beside", ['prefs={"a":1}; ', "=; ", 'a="; b; ', f"x{COOKIE}=1; ", "é=1; "])
def test_cookies_of_others_do_no_harm(studio: TestClient, beside: str) -> None:
    come_in(studio)
    session = studio.cookies[COOKIE]
    studio.cookies.clear()
    cookie = f"{beside}{COOKIE}={session}; after".encode()
    assert studio.get("/api/sitters", headers=[(b"cookie", cookie)]).status_code == 200


@pytest.mark.parametrize("site", ["cross-site", "same-site"])
def test_a_page_elsewhere_sets_nothing_going(client: TestClient, site: str) -> None:
    """Neither a backup nor anything else, with or without a studio; the pages themselves can be linked to."""
    for path in ("/api/keeping/backup", "/api/sitters", "/openapi.json"):
        assert client.get(path, headers={"Sec-Fetch-Site": site}).status_code == 403
        assert client.get(path, headers={"Sec-Fetch-Site": "same-origin"}).status_code == 200
    assert client.get("/", headers={"Sec-Fetch-Site": site}).status_code == 200


def test_only_the_owner_takes_backups_and_knows_the_folder(repository: Repository, clock: Clock) -> None:
    """By where a request comes from, which no header changes."""
    door = SessionAuth(repository.passphrase, Opening(8440, ("studio.local",)), Throttle(clock))
    app = create_app(repository, door=door)
    for machine, is_owner in (("10.0.0.7", False), ("127.0.0.1", True)):
        with TestClient(app, base_url=HOST, client=(machine, 5000)) as painter:
            come_in(painter)
            said = {"X-Forwarded-For": "127.0.0.1", "Forwarded": "for=127.0.0.1"}
            backup = painter.get("/api/keeping/backup", headers=said)
            keeping = painter.get("/api/keeping", headers=said)
        assert backup.status_code == (200 if is_owner else 403)
        assert (str(repository.folder) in keeping.text) == is_owner


def test_no_header_makes_a_machine_another(repository: Repository) -> None:
    """As it is served: guesses from one machine that says each time that it is another one."""
    repository.close()
    with Server(repository.folder, "--studio", "--processes", "0") as server:
        for number in range(FREE_ATTEMPTS + 1):
            said = {"X-Forwarded-For": f"10.0.0.{number}", "X-Real-IP": f"10.0.0.{number}"}
            asked = {"painter": "Ada", "passphrase": "guess guess guess"}
            answer = httpx.post(f"{server.address}/api/door", json=asked, headers=said)
        assert answer.status_code == 429


def test_every_answer_says_how_long_it_holds(client: TestClient, sitter: str) -> None:
    for path in ("/api/sitters", "/api/keeping", "/api/door", f"/api/sitters/{sitter}", "/api/nothing"):
        assert (
            "no-cache" in client.get(path).headers["cache-control"]
            or "max-age=0" in client.get(path).headers["cache-control"]
        )


def test_a_file_brings_no_entries_under_the_name_of_others(
    studio: TestClient, repository: Repository, made_photo: bytes
) -> None:
    sitter = repository.add(made_photo, "a.jpg").id
    for painter in ("Ada", "Ben", ""):
        repository.log.add(Noted(words=painter or "nobody"), sitter, by=painter)
    saved, log = repository.file(sitter), log_json(repository.log.of(sitter))
    come_in(studio, "Ben")
    taken = studio.post("/api/sitter-files", files={"file": ("a.zip", saved)}).json()["id"]
    assert [e.painter for e in repository.log.of(taken)] == ["Ada, brought in by Ben", "Ben", ""]
    other = repository.add(made_photo, "b.jpg").id
    fresh = log.replace(sitter, other)
    for entry in repository.log.of(sitter):
        fresh = fresh.replace(entry.id, entry.id[::-1])
    assert studio.post(f"/api/sitters/{other}/log/file", files={"file": ("a.json", fresh)}).json() == {
        "new": 3
    }
    assert [e.painter for e in repository.log.of(other)] == ["Ada, brought in by Ben", "Ben", ""]


def test_other_names_and_pages_elsewhere_are_turned_away(studio: TestClient, made_photo: bytes) -> None:
    come_in(studio)
    assert studio.get("/api/sitters", headers={"Host": "evil.example:8440"}).status_code == 403
    assert studio.get("/api/sitters", headers={"Host": "STUDIO.local:8440"}).status_code == 200
    for headers in (
        {"Origin": "https://evil.example"}, {"Origin": "null"}, {"Origin": "ftp://studio.local:8440"},
        {"Origin": HOST, "Sec-Fetch-Site": "cross-site"}, {"Sec-Fetch-Site": "same-site"},
    ):  # fmt: skip
        assert studio.post("/api/sitters", headers=headers, files={"photo": made_photo}).status_code == 403
        assert studio.post("/api/door", headers=headers, json={}).status_code == 403
    assert studio.get("/api/sitters").json() == []
    own = {"Origin": HOST, "Sec-Fetch-Site": "same-origin"}
    assert studio.post("/api/sitters", headers=own, files={"photo": ("a.jpg", made_photo)}).status_code == 201


def test_the_code_leads_here_and_nowhere_else(studio: TestClient) -> None:
    come_in(studio)
    assert studio.get("/api/door/code.svg").text.startswith("<svg")
    assert studio.get("/api/door/code.svg?to=/easel/0123abcd").status_code == 200
    for elsewhere in ("//evil.example", "https://evil.example", "/api/sitters", "/easel/../x"):
        assert studio.get("/api/door/code.svg", params={"to": elsewhere}).status_code == 422


def test_alone_there_is_no_door(client: TestClient) -> None:
    assert client.get("/api/door").json() == {
        "studio": False,
        "painter": "",
        "address": None,
        "secret": False,
    }
    assert come_in(client).json()["studio"] is False
    assert client.get("/api/door/code.svg").status_code == 404


def test_too_much_is_refused_while_it_comes_in(client: TestClient, sitter: str) -> None:
    read = 0

    def endless() -> Iterator[bytes]:
        nonlocal read
        while read < 400 << 20:
            read += 1 << 20
            yield b" " * (1 << 20)

    url = f"/api/sitters/{sitter}/settings/values"
    json = {"Content-Type": "application/json"}
    answer = client.patch(url, content=endless(), headers=json)
    assert answer.status_code == 413
    assert "8 MB" in answer.json()["detail"]
    assert (
        client.patch(url, content=b"x", headers={**json, "Content-Length": str(LARGEST_BODY + 1)}).status_code
        == 413
    )
    assert client.patch(url, json={"set": {"groups": 6}}).status_code == 200
    client.post(f"/api/sitters/{sitter}/undo")
