"""Killed at random moments of uploads, strokes, undo and backup: what was acknowledged is there."""

from __future__ import annotations

import random
import statistics
import tempfile
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

import httpx

from bench.inputs import demo_bytes
from siege.server import Server
from truesitter.store.backup.backup import restore_backup
from truesitter.store.backup.check import check_folder

KILLS = 200


@dataclass
class Kept:
    """What the server said it had kept."""

    photographs: set[str] = field(default_factory=set)
    revisions: dict[str, int] = field(default_factory=dict)
    """Of each sitter, the last revision that was acknowledged."""
    changes: int = 0
    lock: threading.Lock = field(default_factory=threading.Lock)


def _busy(server: Server, kept: Kept, over: threading.Event, seed: int) -> None:
    """One client that uploads, changes and undoes until the server is gone."""
    lot = random.Random(seed)
    mine: str | None = None
    with server.client() as client:
        while not over.is_set():
            try:
                with kept.lock:
                    there = sorted(kept.photographs)
                if mine is None and there and lot.random() < 0.8:
                    mine = lot.choice(there)
                if mine is None or lot.random() < 0.1:
                    name = lot.choice(("maren", "tobias", "ines"))
                    put = client.post("/api/sitters", files={"photo": ("a.jpg", demo_bytes(name))})
                    put.raise_for_status()
                    mine = put.json()["id"]
                    with kept.lock:
                        kept.photographs.add(str(mine))
                        kept.revisions[str(mine)] = 0
                    continue
                url = f"/api/sitters/{mine}"
                which = lot.random()
                if which < 0.15:
                    answer = client.post(f"{url}/undo")
                elif which < 0.5:
                    x = lot.uniform(0.1, 0.9)
                    stroke = {"region": "background", "points": [[x, 0.1], [x, 0.2]], "width": 0.02}
                    edit = {"change": "A stroke", "lists": {"scribbles": {"add": [stroke]}}}
                    answer = client.patch(f"{url}/settings/regions", json=edit)
                else:
                    edit = {"change": "Names", "set": {"names": [f"n{lot.randrange(10**6)}"]}}
                    answer = client.patch(f"{url}/settings/values", json=edit)
                if answer.status_code == 200:
                    with kept.lock:
                        # Several may be at one sitter: the newest that any of them was told of.
                        kept.revisions[mine] = max(kept.revisions[mine], answer.json()["revision"])
                        kept.changes += 1
            except httpx.HTTPError:
                return


def kills(count: int = KILLS, seed: int = 1) -> dict[str, object]:
    """What was lost, what a check found, and how long restarts took."""
    lot, kept = random.Random(seed), Kept()
    lost: list[str] = []
    troubles: list[str] = []
    starts: list[float] = []
    with tempfile.TemporaryDirectory() as aside:
        folder = Path(aside) / "data"
        for number in range(count):
            server = Server(folder, "--processes", "0")
            starts.append(server.start())
            lost += _missing(server, kept)
            over = threading.Event()
            with ThreadPoolExecutor(5) as pool:
                for client in range(4):
                    pool.submit(_busy, server, kept, over, seed * 10_000 + number * 10 + client)
                if number % 4 == 0:
                    pool.submit(_backup, server)
                time.sleep(lot.uniform(0.05, 1.2))
                server.kill()
                over.set()
            troubles += check_folder(folder, mend=False).troubles
            if number % 20 == 19:
                print(f"  {number + 1} of {count}, {kept.changes} changes, {len(lost)} lost", flush=True)
        server = Server(folder, "--processes", "0")
        server.start()
        lost += _missing(server, kept)
        backup = server.client().get("/api/keeping/backup")
        (Path(aside) / "b.zip").write_bytes(backup.content)
        server.kill()
        restore_backup(Path(aside) / "b.zip", Path(aside) / "again")
        troubles += check_folder(Path(aside) / "again", mend=False).troubles
    return {
        "kills": count,
        "acknowledged changes": kept.changes,
        "acknowledged photographs": len(kept.photographs),
        "lost": lost,
        "troubles": troubles,
        "restart s, median": round(statistics.median(starts), 2),
        "restart s, longest": round(max(starts), 2),
    }


def _backup(server: Server) -> None:
    try:
        with server.client() as client:
            client.get("/api/keeping/backup")
    except httpx.HTTPError:
        return


def _missing(server: Server, kept: Kept) -> list[str]:
    """Sitters and revisions that were acknowledged and are not there."""
    with server.client() as client:
        there = {s["id"]: s["revision"] for s in client.get("/api/sitters").json()}
    return [
        f"{sitter}: revision {revision}, there is {there.get(sitter)}"
        for sitter, revision in kept.revisions.items()
        if there.get(sitter, -1) < revision
    ]
