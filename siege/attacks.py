"""Faults and attacks on a real server and its folder, one after the other: what may not happen, does not."""

from __future__ import annotations

import json
import os
import shutil
import socket
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
import zipfile
from collections.abc import Callable
from contextlib import ExitStack, closing
from datetime import date
from pathlib import Path

import httpx
import psutil

from bench.inputs import demo_bytes
from siege.server import Server
from truesitter.store.rows.database import copy_database
from truesitter.store.settings.sitters import Repository

PASSPHRASE = "linseed and walnut"
_COMMAND = [sys.executable, "-m", "truesitter.cli"]


def _run(*arguments: str, said: str = "") -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [*_COMMAND, *arguments], input=said, capture_output=True, text=True, check=False, timeout=180
    )


def _with_sitters(folder: Path, count: int = 2) -> list[str]:
    """Sitters in a folder, their files an hour old."""
    with Server(folder) as server, server.client() as client:
        ids = [
            client.post("/api/sitters", files={"photo": ("a.jpg", demo_bytes(name))}).json()["id"]
            for name in ("maren", "tobias")[:count]
        ]
    for path in _photographs(folder):
        os.utime(path, (time.time() - 3600,) * 2)
    return ids


def _photographs(folder: Path) -> list[Path]:
    return [p for p in folder.rglob("*") if p.is_file() and len(p.name) == 64]


def lost_database(folder: Path) -> bool:
    """F1: without its database, or with yesterday's, a start deletes no photograph."""
    _with_sitters(folder, 1)
    yesterday = folder.parent / "yesterday"
    copy_database(folder / "sitters.sqlite", yesterday)
    _with_sitters(folder, 2)
    before = {p.name for p in _photographs(folder)}
    for path in folder.glob("sitters.sqlite*"):
        path.unlink()
    stopped = _run("serve", "--data", str(folder), "--port", "0")
    shutil.copy(yesterday, folder / "sitters.sqlite")
    with Server(folder):
        time.sleep(1)
    return stopped.returncode in (2, 4) and {p.name for p in _photographs(folder)} == before


def leaked_key(folder: Path) -> bool:
    """F2: the key that signs sessions is in no backup."""
    _with_sitters(folder, 1)
    _run("passphrase", "--data", str(folder), said=f"{PASSPHRASE}\n")
    with Server(folder, "--studio"):
        key = (folder / "session.key").read_text()
    _run("backup", str(folder.parent / "b.zip"), "--data", str(folder))
    with zipfile.ZipFile(folder.parent / "b.zip") as archive:
        return bool(key) and all(key.encode() not in archive.read(name) for name in archive.namelist())


def wrong_scheduler(folder: Path) -> bool:
    """F3 and F4: a scheduler that is not there, or that anyone could reach, is refused; nothing is made."""
    began = time.monotonic()
    told = [
        _run("serve", "--data", str(folder), "--scheduler", address).stderr
        for address in ("tcp://127.0.0.1:9", "tcp://192.0.2.1:8786")
    ]
    said = "no scheduler answers" in told[0] and "run programs as you" in told[1]
    return said and not folder.exists() and time.monotonic() - began < 60


def silent_peers(folder: Path) -> bool:
    """F5: hundreds who say nothing keep nobody out."""
    with Server(folder) as server, ExitStack() as stack:
        for _ in range(600):
            stack.enter_context(socket.create_connection(("127.0.0.1", server.port), 5))
        return httpx.get(f"{server.address}/api/door", timeout=10).status_code == 200


def empty_entries(folder: Path) -> bool:
    """F6: a log of millions of empty things is refused, five at a time, without taking the memory."""
    (sitter,) = _with_sitters(folder, 1)
    data = b'{"entries": [' + b"{}," * 9_000_000 + b"{}]}"
    with Server(folder) as server:
        statuses: list[int] = []

        def send() -> None:
            path = f"{server.address}/api/sitters/{sitter}/log/file"
            statuses.append(httpx.post(path, files={"file": ("a.json", data)}, timeout=120).status_code)

        threads = [threading.Thread(target=send) for _ in range(5)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return statuses == [422] * 5 and server.peak < 1 << 30


def guessing(folder: Path) -> bool:
    """F7 and F8: who guesses waits, whatever a header says; other painters come in all the while."""
    _with_sitters(folder, 1)
    _run("passphrase", "--data", str(folder), said=f"{PASSPHRASE}\n")
    with Server(folder, "--studio") as server:

        def come(words: str, painter: str, claimed: str) -> int:
            asked = {"painter": painter, "passphrase": words}
            headers = {"X-Forwarded-For": claimed}
            return httpx.post(
                f"{server.address}/api/door", json=asked, headers=headers, timeout=30
            ).status_code

        guesses = [come("guess guess guess", "Ada", f"10.0.0.{n}") for n in range(12)]
        # On a slow machine a guess may come after its wait is over: that one is heard again.
        return 429 in guesses and come(PASSPHRASE, "Ben", "10.0.0.1") == 200


def lost_photograph(folder: Path) -> bool:
    """F9: a backup that lacks a photograph says so; one of a folder that can only be read is made."""
    _with_sitters(folder, 2)
    _photographs(folder)[0].unlink()
    with Server(folder) as server:
        name = httpx.get(f"{server.address}/api/keeping/backup", timeout=60).headers["content-disposition"]
    lacking = _run("backup", str(folder.parent / "b.zip"), "--data", str(folder))
    return "1-photographs-missing" in name and lacking.returncode == 1 and "missing" in lacking.stdout


def slow_clock(folder: Path) -> bool:
    """F10: where the clock runs behind, today's copy is made once and stays."""
    repository = Repository(folder)
    for day in range(10, 20):
        repository.copies.make(date(2030, 1, day))
    repository.copies.make(date(2029, 1, 1))
    days = [copy.day for copy in repository.copies.all()]
    due = repository.copies.due(date(2029, 1, 1))
    repository.close()
    return "2029-01-01" in days and len(days) == 7 and not due


def locked_database(folder: Path) -> bool:
    """F11: while sixty wait to write, who reads is answered."""
    (sitter,) = _with_sitters(folder, 1)
    with Server(folder) as server, closing(sqlite3.connect(folder / "sitters.sqlite")) as other:
        other.isolation_level = None
        other.execute("BEGIN IMMEDIATE")
        path = f"{server.address}/api/sitters/{sitter}"
        waiting = [
            threading.Thread(target=lambda: httpx.patch(path, json={"name": "x"}, timeout=60))
            for _ in range(60)
        ]
        for thread in waiting:
            thread.start()
        time.sleep(1)
        began = time.monotonic()
        answered = httpx.get(f"{server.address}/api/door", timeout=30).status_code == 200
        took = time.monotonic() - began
        other.execute("ROLLBACK")
        for thread in waiting:
            thread.join()
        return answered and took < 2


def killed_workers(folder: Path) -> bool:
    """F12: processes that compute are killed again and again: answers come, or 503, never another error."""
    (sitter,) = _with_sitters(folder, 1)
    statuses = set()
    with Server(folder) as server:
        for number in range(6):
            for child in psutil.Process(server.process.pid).children(recursive=True):
                child.kill()
            path = f"{server.address}/api/sitters/{sitter}/values/preview?cuts=2,4.{number},6,8"
            statuses.add(httpx.get(path, timeout=120).status_code)
    return statuses <= {200, 503} and 200 in statuses


def swollen_file(folder: Path) -> bool:
    """F13: a sitter's file that unpacks to far more than it is, or is refused, leaves nothing on the disk."""
    with Server(folder) as server:
        bomb = folder.parent / "bomb.zip"
        with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("sitter.json", json.dumps({"format": "truesitter-sitter"}))
            for number in range(40):
                archive.writestr(f"paintings/{number}", b"\0" * (16 << 20))
        answer = httpx.post(
            f"{server.address}/api/sitter-files", files={"file": bomb.read_bytes()}, timeout=120
        )
    return answer.status_code == 422 and not _photographs(folder)


def copied_session(folder: Path) -> bool:
    """F14: who leaves is out, copies of the session too; foreign cookies and foreign pages do nothing."""
    _with_sitters(folder, 1)
    _run("passphrase", "--data", str(folder), said=f"{PASSPHRASE}\n")
    with Server(folder, "--studio") as server, httpx.Client(base_url=server.address, timeout=60) as client:
        client.post("/api/door", json={"painter": "Ada", "passphrase": PASSPHRASE})
        cookie = f'prefs={{"a":1}}; sitter_session={client.cookies["sitter_session"]}'
        before = httpx.get(f"{server.address}/api/sitters", headers={"Cookie": cookie}).status_code
        client.delete("/api/door")
        after = httpx.get(f"{server.address}/api/sitters", headers={"Cookie": cookie}).status_code
    with Server(folder) as server:
        foreign = {"Sec-Fetch-Site": "cross-site"}
        started = httpx.get(f"{server.address}/api/keeping/backup", headers=foreign).status_code
    return (before, after, started) == (200, 401, 403)


ATTACKS: tuple[Callable[[Path], bool], ...] = (
    lost_database, leaked_key, wrong_scheduler, silent_peers, empty_entries, guessing, lost_photograph,
    slow_clock, locked_database, killed_workers, swollen_file, copied_session,
)  # fmt: skip


def attacks() -> dict[str, object]:
    """Each attack on a folder of its own, and whether what it tries is held off."""
    found: dict[str, object] = {}
    for attack in ATTACKS:
        with tempfile.TemporaryDirectory() as folder:
            found[attack.__name__] = attack(Path(folder) / "data")
    return found
