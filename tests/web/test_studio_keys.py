"""What a studio keeps secret, and what it needs before it opens."""

from __future__ import annotations

import ssl
import subprocess
import sys
import zipfile
from datetime import date
from pathlib import Path

import httpx
import pytest

from siege.server import Server, free_port
from tests.web.conftest import WORDS
from truesitter.core.refusal import Refusal
from truesitter.store.access.passphrase import SIGNING
from truesitter.store.backup.backup import restore_backup, write_backup
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.serving import StudioMode


def test_a_passphrase_is_kept_as_a_hash_only(repository: Repository) -> None:
    for short in ("", "short", "x" * 300):
        with pytest.raises(Refusal, match="10 to 200"):
            repository.passphrase.set(short)
    repository.close()
    kept = b"".join(p.read_bytes() for p in repository.folder.glob("sitters.sqlite*"))
    assert b"$argon2id$" in kept
    assert WORDS.encode() not in kept


def test_no_backup_and_no_copy_holds_the_key_that_signs_sessions(
    repository: Repository, tmp_path: Path
) -> None:
    key = repository.passphrase.signing_key
    assert (repository.folder / SIGNING).stat().st_mode & 0o077 == 0, "for the owner's eyes only"
    write_backup(repository.folder, tmp_path / "b.zip")
    repository.copies.make(date(2026, 11, 29))
    with zipfile.ZipFile(tmp_path / "b.zip") as archive:
        held = b"".join(archive.read(name) for name in archive.namelist())
    for path in (repository.folder / "copies").rglob("*"):
        held += path.read_bytes() if path.is_file() else b""
    assert key.encode() not in held
    restore_backup(tmp_path / "b.zip", tmp_path / "new")
    restored = Repository(tmp_path / "new")
    assert restored.passphrase.fits(WORDS)
    assert restored.passphrase.signing_key != key, "made anew"
    assert restored.passphrase.signing_key == restored.passphrase.signing_key
    restored.close()


def test_a_key_that_lay_in_the_database_is_worth_nothing_any_more(repository: Repository) -> None:
    kept = repository.studio.get("door")
    assert kept is not None
    repository.studio.put("door", {**kept, "signing": "ab" * 32})
    (repository.folder / SIGNING).write_text("ab" * 32)
    assert repository.passphrase.signing_key != "ab" * 32
    assert repository.studio.get("door") == kept
    assert repository.passphrase.fits(WORDS)


def test_a_studio_without_a_passphrase_does_not_open(tmp_path: Path) -> None:
    command = [
        sys.executable,
        "-m",
        "truesitter.cli",
        "serve",
        "--studio",
        "--data",
        str(tmp_path / "d"),
    ]
    done = subprocess.run(
        [*command, "--port", str(free_port())], capture_output=True, text=True, timeout=60, check=False
    )
    assert (done.returncode, done.stdout) == (2, "")
    assert "truesitter passphrase" in done.stderr
    with pytest.raises(Refusal, match="belong together"):
        StudioMode(certificate=tmp_path / "a.pem")
    (tmp_path / "a.pem").write_text("no certificate")
    with pytest.raises(Refusal, match="cannot be used"):
        StudioMode(certificate=tmp_path / "a.pem", key=tmp_path / "a.pem")


def test_a_studio_with_a_certificate_is_encrypted(tmp_path: Path) -> None:
    """The whole way: passphrase from a pipe, a certificate of one's own, a session marked for it."""
    data = tmp_path / "data"
    set_it = [sys.executable, "-m", "truesitter.cli", "passphrase", "--data", str(data)]
    subprocess.run(set_it, input=WORDS + "\n", text=True, check=True, capture_output=True, timeout=60)
    certificate, key = tmp_path / "c.pem", tmp_path / "k.pem"
    subprocess.run(
        ["openssl", "req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-subj", "/CN=127.0.0.1",
         "-addext", "subjectAltName=IP:127.0.0.1", "-out", str(certificate), "-keyout", str(key)],
        check=True, capture_output=True,
    )  # fmt: skip
    arguments = ["--studio", "--certificate", str(certificate), "--key", str(key), "--processes", "0"]
    trusted = ssl.create_default_context(cafile=str(certificate))
    with Server(data, *arguments, trusted=trusted) as server, server.client() as client:
        assert client.get("/api/sitters").status_code == 401
        entered = client.post("/api/door", json={"painter": "Ada", "passphrase": WORDS})
        assert "secure" in entered.headers["set-cookie"].lower()
        assert entered.json()["secret"] is True
        assert client.get("/api/sitters").json() == []
        plain = httpx.Client(base_url=server.address.replace("https", "http"), timeout=5)
        with pytest.raises(httpx.HTTPError):
            plain.get("/api/sitters").raise_for_status()
