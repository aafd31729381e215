"""Fifty painters' afternoon: they open, drag, pick spots, draw strokes, look at hair and passes."""

from __future__ import annotations

import random
import tempfile
import threading
import time
from collections import defaultdict
from pathlib import Path

import httpx

from bench.inputs import demo_bytes
from siege.server import Server, quantile, seconds_asked

CLIENTS, SITTERS, SECONDS = 50, 10, 180.0
PEOPLE = ("maren", "tobias", "ines")
THINKING = (0.3, 2.0)
"""Seconds between two things that a painter does."""
KINDS = {
    "open": 6, "list": 2, "settings": 4, "drag": 3, "picture": 6, "spot": 5, "stroke": 1, "regions": 2,
    "flesh": 2, "hair": 1, "passes": 1, "light": 1,
}  # fmt: skip
PICTURES = ("colour", "grey", "groups", "squint")


class Painter:
    """One client on one sitter."""

    def __init__(self, client: httpx.Client, sitter: str, seed: int) -> None:
        self.client, self.url, self.lot = client, f"/api/sitters/{sitter}", random.Random(seed)

    def act(self, kind: str) -> list[tuple[float, int]]:
        """Do something; seconds and status of each request it took."""
        return getattr(self, f"_{kind}")()

    def _ask(self, method: str, path: str, **options: object) -> tuple[float, int]:
        began = time.perf_counter()
        answer = self.client.request(method, path, **options)  # type: ignore[arg-type]
        return time.perf_counter() - began, answer.status_code

    def _open(self) -> list[tuple[float, int]]:
        return [self._ask("GET", self.url)]

    def _list(self) -> list[tuple[float, int]]:
        return [self._ask("GET", "/api/sitters")]

    def _settings(self) -> list[tuple[float, int]]:
        edit = {"change": "Name", "set": {"names": [f"n{self.lot.randrange(100)}"]}}
        return [self._ask("PATCH", f"{self.url}/settings/values", json=edit)]

    def _drag(self) -> list[tuple[float, int]]:
        start = self.lot.uniform(1.5, 3.5)
        return [
            self._ask("GET", f"{self.url}/values/preview?cuts={start + 0.05 * i:.2f},4.5,6,7.5")
            for i in range(6)
        ]

    def _picture(self) -> list[tuple[float, int]]:
        return [self._ask("GET", f"{self.url}/pictures/{self.lot.choice(PICTURES)}")]

    def _spot(self) -> list[tuple[float, int]]:
        x, y = self.lot.uniform(0.3, 0.7), self.lot.uniform(0.2, 0.6)
        return [self._ask("GET", f"{self.url}/flesh/spot?x={x:.3f}&y={y:.3f}")]

    def _stroke(self) -> list[tuple[float, int]]:
        x = self.lot.uniform(0.1, 0.9)
        stroke = {"region": "background", "points": [[x, 0.05], [x, 0.08]], "width": 0.01}
        edit = {"change": "A stroke", "lists": {"scribbles": {"add": [stroke]}}}
        return [self._ask("PATCH", f"{self.url}/settings/regions", json=edit)]

    def _regions(self) -> list[tuple[float, int]]:
        return [self._ask("GET", f"{self.url}/regions/map")]

    def _flesh(self) -> list[tuple[float, int]]:
        return [self._ask("GET", f"{self.url}/flesh")]

    def _hair(self) -> list[tuple[float, int]]:
        return [self._ask("GET", f"{self.url}/hair")]

    def _passes(self) -> list[tuple[float, int]]:
        return [self._ask("GET", f"{self.url}/passes")]

    def _light(self) -> list[tuple[float, int]]:
        return [self._ask("GET", f"{self.url}/light/form")]


def afternoon(seconds: float = SECONDS, clients: int = CLIENTS) -> dict[str, object]:
    """Seconds of every kind of request, failures, and the server's memory."""
    took: dict[str, list[float]] = defaultdict(list)
    failed: list[str] = []
    guard = threading.Lock()
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder)) as server:
        with server.client() as first:
            sitters = [
                first.post("/api/sitters", files={"photo": ("a.jpg", demo_bytes(PEOPLE[n % 3]))}).json()["id"]
                for n in range(SITTERS)
            ]
        over = time.monotonic() + seconds

        def paint(number: int) -> None:
            with server.client() as client:
                painter = Painter(client, sitters[number % SITTERS], number)
                while time.monotonic() < over:
                    (kind,) = painter.lot.choices(list(KINDS), list(KINDS.values()))
                    try:
                        done = painter.act(kind)
                    except httpx.HTTPError as error:
                        done = []
                        failed.append(f"{kind}: {error!r}")
                    with guard:
                        took[kind] += [each for each, _ in done]
                        failed.extend(f"{kind}: {status}" for _, status in done if status >= 400)
                    time.sleep(painter.lot.uniform(*THINKING))

        threads = [threading.Thread(target=paint, args=(n,)) for n in range(clients)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return {
            "requests": sum(len(v) for v in took.values()),
            "failed": failed,
            "peak MiB": server.peak >> 20,
            "longest s": round(max(max(v) for v in took.values() if v), 2),
            **{
                f"{kind} p50/p95 ms": [round(quantile(took[kind], q) * 1000) for q in (0.5, 0.95)]
                for kind in KINDS
            },
        }


if __name__ == "__main__":
    for name, figure in afternoon(seconds_asked(SECONDS)).items():
        print(f"{name}: {figure if name != 'failed' else figure[:5]}")  # type: ignore[index]
