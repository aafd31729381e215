"""A start that cannot be: who holds the folder, a full or read-only disk, a database that is none.

Each is one sentence and an exit code, and nothing that was kept is touched.
"""

from __future__ import annotations

import errno
import os
import resource
import shutil
import socket
import sqlite3
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from unittest.mock import patch

import numpy as np
import pytest
from fastapi.testclient import TestClient

from siege.server import free_port
from tests.conftest import jpeg
from truesitter.store.backup.lock import copying, folder_lock
from truesitter.store.files.blobs import Blobs
from truesitter.store.rows import database
from truesitter.store.settings.sitters import Repository
from truesitter.store.trouble import UnusableFolder, words_for
from truesitter.web.server.app import create_app
from truesitter.web.server.serving import run

PHOTO = jpeg(np.full((80, 64, 3), 120, np.uint8))
NOBODY = 65534


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    repository = Repository(tmp_path / "data")
    repository.add(PHOTO, "a.jpg")
    repository.close()
    return tmp_path / "data"


def kept(folder: Path) -> dict[str, bytes]:
    """All that was kept; what locks and logs leave behind is not of it."""
    return {
        str(p.relative_to(folder)): p.read_bytes()
        for p in folder.rglob("*")
        if p.is_file() and not p.name.startswith(".") and not p.name.endswith(("-shm", "-wal"))
    }


def serve(folder: Path, port: int = 0) -> tuple[int, str]:
    """Exit code and words of a start that is expected to fail."""
    command = [sys.executable, "-m", "truesitter.cli", "serve", "--data", str(folder)]
    done = subprocess.run(
        [*command, "--port", str(port or free_port())], capture_output=True, text=True, timeout=60,
        check=False,
    )  # fmt: skip
    assert done.stdout == "", "nothing is said to be served"
    return done.returncode, done.stderr


def one_sentence(words: str) -> bool:
    return "Traceback" not in words and len(words.strip().splitlines()) == 1


def test_a_second_server_says_who_holds_the_folder(folder: Path) -> None:
    before = kept(folder)
    with folder_lock(folder, "True Sitter at http://127.0.0.1:1234"):
        code, words = serve(folder)
    assert code == 3
    assert one_sentence(words)
    assert f"True Sitter at http://127.0.0.1:1234 (process {os.getpid()})" in words
    assert kept(folder) == before


def test_a_taken_port_is_said(folder: Path) -> None:
    before = kept(folder)
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        code, words = serve(folder, taken.getsockname()[1])
    assert (code, one_sentence(words)) == (3, True)
    assert kept(folder) == before


def garbage(path: Path) -> None:
    path.write_bytes(b"this was a database once " * 400)


def newer(path: Path) -> None:
    with closing(sqlite3.connect(path)) as db, db:
        db.execute("UPDATE alembic_version SET version_num = '9999'")


@pytest.mark.parametrize(("spoil", "words"), [(garbage, "none any more"), (newer, "newer True Sitter")])
def test_a_database_that_cannot_be_used_is_left_as_it_is(folder: Path, spoil: object, words: str) -> None:
    assert callable(spoil)
    spoil(folder / "sitters.sqlite")
    before = kept(folder)
    code, said = serve(folder)
    assert (code, one_sentence(said)) == (4, True)
    assert words in said
    assert kept(folder) == before


@contextmanager
def as_somebody_else() -> Iterator[None]:
    """A superuser may write anywhere: be somebody else for a moment."""
    if os.geteuid() != 0:
        yield
        return
    os.seteuid(NOBODY)
    try:
        yield
    finally:
        os.seteuid(0)


def test_a_folder_that_cannot_be_written_to_is_said(folder: Path) -> None:
    # Below a folder that everybody may look into.
    with tempfile.TemporaryDirectory() as open_to_all:
        Path(open_to_all).chmod(0o755)
        mine = Path(shutil.copytree(folder, Path(open_to_all) / "data"))
        before = kept(mine)
        everything = (mine, *mine.rglob("*"))
        for path in everything:
            path.chmod(0o555 if path.is_dir() else 0o444)
        with as_somebody_else():
            for start in (lambda: run(mine, free_port()), lambda: Repository(mine)):
                with pytest.raises(UnusableFolder, match="may not be written to"):
                    start()
        for path in everything:
            path.chmod(0o755 if path.is_dir() else 0o644)
        assert kept(mine) == before


@contextmanager
def little_room(largest: int) -> Iterator[None]:
    """No file may grow beyond some bytes: what a full disk does, without one."""
    before = resource.getrlimit(resource.RLIMIT_FSIZE)
    resource.setrlimit(resource.RLIMIT_FSIZE, (largest, before[1]))
    try:
        yield
    finally:
        resource.setrlimit(resource.RLIMIT_FSIZE, before)


def test_a_full_disk_is_said_and_loses_nothing(folder: Path) -> None:
    repository = Repository(folder)
    (sitter,) = repository.all()
    large = jpeg(np.random.default_rng(1).integers(0, 255, (700, 700, 3), dtype=np.uint8))
    with TestClient(
        create_app(repository), base_url="http://127.0.0.1", raise_server_exceptions=False
    ) as client:
        with little_room(4096):
            put = client.post("/api/sitters", files={"photo": ("b.jpg", large, "image/jpeg")})
            change = client.patch(f"/api/sitters/{sitter.id}/settings/values", json={"set": {"groups": 3}})
        for answer in (put, change):
            assert answer.status_code == 507
            assert "disk" in answer.json()["detail"]
        assert [s.id for s in repository.all()] == [sitter.id]
        assert repository.get(sitter.id).undo is None
        assert client.post("/api/sitters", files={"photo": ("b.jpg", large, "image/jpeg")}).status_code == 201
    assert not list((folder / "originals").rglob(".part-*"))


def test_what_an_error_means_is_told_only_when_it_is_known() -> None:
    assert "full" in str(words_for(OSError(errno.ENOSPC, "x")))
    assert words_for(OSError(errno.EPIPE, "x")) is None
    assert words_for(ValueError("disk is full")) is None


def test_before_a_migration_the_database_is_copied_aside(tmp_path: Path) -> None:
    path = tmp_path / "sitters.sqlite"
    database.open_database(path, "0003").dispose()
    with closing(sqlite3.connect(path)) as db, db:
        db.execute("INSERT INTO palette VALUES ('p', 'Old', '[]', 0)")
    database.open_database(path).dispose()
    (aside,) = tmp_path.glob("sitters.before-*.sqlite")
    with closing(sqlite3.connect(aside)) as db:
        assert db.execute("SELECT version_num FROM alembic_version").fetchall() == [("0003",)]
        assert db.execute("SELECT name FROM palette").fetchall() == [("Old",)]


def test_a_migration_that_breaks_off_leaves_the_database_as_it_was(tmp_path: Path) -> None:
    path = tmp_path / "sitters.sqlite"
    database.open_database(path, "0003").dispose()

    def half(connection: object, revision: str) -> None:
        connection.exec_driver_sql("CREATE TABLE half (x)")  # type: ignore[attr-defined]
        raise RuntimeError("power cut")

    with patch.object(database, "_migrate", half), pytest.raises(RuntimeError):
        database.open_database(path)
    with closing(sqlite3.connect(path)) as db:
        assert db.execute("SELECT name FROM sqlite_master WHERE name = 'half'").fetchall() == []
    database.open_database(path).dispose()


def test_tidying_spares_what_is_new_and_what_is_being_copied(tmp_path: Path) -> None:
    repository = Repository(tmp_path)
    stray = repository.blobs.put(b"its row is about to be written")
    began = time.time() - 60
    repository.purge(began)
    assert repository.blobs.names() == {stray}
    sitter = repository.add(PHOTO, "a.jpg")
    repository.delete(sitter.id)
    with copying(tmp_path):
        repository.purge(time.time() + 60)
        assert stray in repository.blobs.names(), "someone is copying"
    assert repository.restore(sitter.id).id == sitter.id
    repository.purge(time.time() + 60)
    assert repository.blobs.names() == {sitter.sha256}


def test_what_is_put_in_again_counts_as_new(tmp_path: Path) -> None:
    blobs = Blobs(tmp_path)
    name = blobs.put(b"x")
    os.utime(blobs.path(name), (1, 1))
    blobs.put(b"x")
    blobs.remove(name, time.time() - 60)
    assert blobs.names() == {name}


def test_a_folder_that_is_a_file_is_said(tmp_path: Path) -> None:
    (tmp_path / "data").write_text("x")
    with pytest.raises(UnusableFolder, match="is not a folder"):
        Repository(tmp_path / "data")
    shutil.rmtree(tmp_path)
