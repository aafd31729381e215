"""Safekeeping over HTTP, and on the command line."""

from __future__ import annotations

import io
import json
import zipfile
from pathlib import Path

import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from tests.web.conftest import put_in
from truesitter.cli.main import app
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app


def test_a_backup_taken_in_the_browser_restores(client: TestClient, sitter: str, tmp_path: Path) -> None:
    answer = client.get("/api/keeping/backup")
    assert answer.headers["content-type"] == "application/zip"
    (tmp_path / "b.zip").write_bytes(answer.content)
    done = CliRunner().invoke(app, ["restore", str(tmp_path / "b.zip"), "--data", str(tmp_path / "new")])
    assert done.exit_code == 0, done.output
    again = Repository(tmp_path / "new")
    assert again.get(sitter).name == client.get(f"/api/sitters/{sitter}").json()["name"]
    folder = Path(client.get("/api/keeping").json()["folder"])
    assert not list(folder.glob(".part-*")), "nothing is left behind"


def test_daily_copies_are_listed_and_switched(client: TestClient) -> None:
    assert client.get("/api/keeping").json()["daily"] is True
    assert client.put("/api/keeping/daily", json={"daily": False}).json()["daily"] is False
    assert client.get("/api/keeping").json()["daily"] is False
    client.put("/api/keeping/daily", json={"daily": True})


def test_a_check_is_asked_for(client: TestClient, sitter: str) -> None:
    found = client.post("/api/keeping/check").json()
    assert found["troubles"] == []
    assert found["sitters"] >= 1


def test_a_sitter_goes_out_and_comes_in(client: TestClient, sitter: str) -> None:
    client.patch(f"/api/sitters/{sitter}/settings/values", json={"set": {"groups": 7}})
    answer = client.get(f"/api/sitters/{sitter}/file")
    assert 'filename="Made.sitter.zip"' in answer.headers["content-disposition"]
    with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
        assert json.loads(archive.read("sitter.json"))["name"] == "Made"
    put = client.post("/api/sitter-files", files={"file": ("m.zip", answer.content, "application/zip")})
    assert put.status_code == 201
    assert put.json()["id"] != sitter
    assert put.json()["settings"]["values"]["groups"] == 7
    client.post(f"/api/sitters/{sitter}/undo")
    bad = client.post("/api/sitter-files", files={"file": ("m.zip", b"words", "application/zip")})
    assert (bad.status_code, "no sitter's file" in bad.json()["detail"]) == (422, True)
    assert "properties" in client.get("/api/schemas/sitter").json()


def test_the_commands_say_what_they_find(tmp_path: Path, made_photo: bytes) -> None:
    data = tmp_path / "data"
    repository = Repository(data)
    with TestClient(create_app(repository), base_url="http://127.0.0.1") as client:
        put_in(client, made_photo)
    repository.close()
    run = CliRunner().invoke
    done = run(app, ["backup", str(tmp_path / "b.zip"), "--data", str(data)])
    assert (done.exit_code, "1 sitters, 1 photographs" in done.output) == (0, True)
    assert run(app, ["check", "--data", str(data)]).exit_code == 0
    (original,) = (p for p in (data / "originals").rglob("*") if p.is_file())
    original.unlink()
    done = run(app, ["check", "--data", str(data)])
    assert (done.exit_code, "missing or damaged" in done.output) == (1, True)
    done = run(app, ["check", "--data", str(data), "--json", "--from", str(tmp_path / "b.zip")])
    assert (done.exit_code, len(json.loads(done.output)["mended"])) == (0, 1)
    assert original.read_bytes() == made_photo


@pytest.mark.parametrize(
    "arguments",
    [
        ["backup", "{tmp}/b.zip", "--data", "{tmp}/none"],
        ["check", "--data", "{tmp}/none"],
        ["restore", "{tmp}/none.zip", "--data", "{tmp}/new"],
    ],
)
def test_what_is_not_there_is_said(tmp_path: Path, arguments: list[str]) -> None:
    done = CliRunner().invoke(app, [a.replace("{tmp}", str(tmp_path)) for a in arguments])
    assert done.exit_code == 2
    assert list(tmp_path.iterdir()) == []
