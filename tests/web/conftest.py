"""A served shelf, with a made photograph and a demo sitter on it."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import small_photo
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app

ROOT = Path(__file__).parents[2]
WORDS = "linseed and ochre"


def put_in(client: TestClient, data: bytes, name: str = "sitter.jpg", **form: str) -> Any:
    return client.post("/api/sitters", files={"photo": (name, data, "image/jpeg")}, data=form)


@pytest.fixture
def repository(tmp_path: Path) -> Repository:
    """One that opens with the words."""
    repository = Repository(tmp_path / "data")
    repository.passphrase.set(WORDS)
    return repository


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    folder = tmp_path_factory.mktemp("web")
    static = folder / "static"
    (static / "assets").mkdir(parents=True)
    (static / "index.html").write_text("<title>front end</title>")
    (static / "assets" / "app.js").write_text("1")
    (folder / "secret.txt").write_text("secret")
    repository = Repository(folder / "data")
    with TestClient(create_app(repository, static), base_url="http://127.0.0.1") as client:
        yield client
    repository.close()


@pytest.fixture(scope="module")
def sitter(client: TestClient, made_photo: bytes) -> str:
    return str(put_in(client, made_photo, name="Made.jpg").json()["id"])


@pytest.fixture(scope="module")
def maren(client: TestClient) -> str:
    return str(put_in(client, small_photo("maren"), name="maren.jpg").json()["id"])
