"""Sixteen windows on one sitter: every change is in its history, and undo walks back to the start."""

from __future__ import annotations

import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from bench.inputs import demo_bytes
from siege.server import Server

WRITERS, CHANGES = 16, 20


def writers(count: int = WRITERS, each: int = CHANGES) -> dict[str, object]:
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder), "--processes", "0") as server:
        with server.client() as client:
            sitter = client.post("/api/sitters", files={"photo": ("a.jpg", demo_bytes("maren"))}).json()["id"]
        url = f"/api/sitters/{sitter}"

        def write(number: int) -> int:
            kept = 0
            with server.client() as client:
                for change in range(each):
                    x = 0.05 + 0.9 * (number * each + change) / (count * each)
                    stroke = {"region": "background", "points": [[x, 0.1]], "width": 0.01}
                    edit = {"change": f"w{number} c{change}", "lists": {"scribbles": {"add": [stroke]}}}
                    kept += client.patch(f"{url}/settings/regions", json=edit).status_code == 200
            return kept

        with ThreadPoolExecutor(count) as pool:
            acknowledged = sum(pool.map(write, range(count)))
        told = set()
        with server.client() as client:
            there = len(client.get(url).json()["settings"]["regions"]["scribbles"])
            while (words := client.get(url).json()["undo"]) is not None:
                told.add(words)
                client.post(f"{url}/undo").raise_for_status()
            left = len(client.get(url).json()["settings"]["regions"]["scribbles"])
        return {"acknowledged": acknowledged, "there": there, "in history": len(told), "after undo": left}
