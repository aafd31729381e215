"""What a painter waits for: a start, a dragged cut on the server and on the screen, one more guide."""

from __future__ import annotations

import socket
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
from contextlib import closing
from pathlib import Path
from typing import Any

import numpy as np
import uvicorn
from fastapi.testclient import TestClient
from playwright.sync_api import sync_playwright

from bench.inputs import demo_bytes
from bench.timing import Figure, figure, repeats, short, times
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app

CHROMIUM: dict[str, Any] = {
    "executable_path": "/usr/bin/chromium",
    "args": ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--no-first-run"],
}


def dragging() -> list[Figure]:
    with tempfile.TemporaryDirectory() as folder:
        repository = Repository(Path(folder))
        sitter = repository.add(demo_bytes("maren"), "maren.jpg")
        with TestClient(create_app(repository), base_url="http://127.0.0.1") as client:
            url = f"/api/sitters/{sitter.id}/values/preview?cuts="
            positions = iter(np.linspace(2, 3.9, 62).tolist())
            ms = times(lambda: client.get(f"{url}{next(positions):.3f},4.5,6,7.5").raise_for_status(), 60)
        repository.close()
    return [figure("Cut dragged, server", ms, "p95 < 60")]


def guides() -> list[Figure]:
    """One more guide of hair where there are 200 already, of 30 points each; and what is written for it."""
    with tempfile.TemporaryDirectory() as folder:
        repository = Repository(Path(folder))
        sitter = repository.add(demo_bytes("maren"), "maren.jpg")
        guide = {"points": [[0.3 + 0.01 * i, 0.2] for i in range(30)]}
        with TestClient(create_app(repository), base_url="http://127.0.0.1") as client:
            url = f"/api/sitters/{sitter.id}/settings/hair"

            def add(count: int) -> None:
                edit = {"change": "Guides", "lists": {"guides": {"add": [guide] * count}}}
                client.patch(url, json=edit).raise_for_status()

            add(200)
            before = _bytes(folder)
            ms = times(lambda: add(1), 30)
            grown = (_bytes(folder) - before) / 31 / 1024
        repository.close()
    return [figure(f"One more guide beside 200 ({grown:.1f} KiB written)", ms, "< 20, < 10 KiB")]


def _bytes(folder: str) -> int:
    """Of the database, once what is in its log has been written into it."""
    path = Path(folder) / "sitters.sqlite"
    with closing(sqlite3.connect(path)) as database:
        database.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    return path.stat().st_size


def start() -> list[Figure]:
    """From the command to the shelf on the screen."""
    took = []
    with sync_playwright() as playwright, tempfile.TemporaryDirectory() as folder:
        browser = playwright.chromium.launch(**CHROMIUM)
        for _ in range(repeats(5)):
            with socket.socket() as free:
                free.bind(("127.0.0.1", 0))
                port = free.getsockname()[1]
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            began = time.perf_counter()
            command = [
                sys.executable,
                "-m",
                "truesitter.cli",
                "serve",
                "--data",
                folder,
                "--port",
                str(port),
            ]
            server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True)
            assert server.stdout is not None
            server.stdout.readline()
            served = time.perf_counter()
            page.goto(f"http://127.0.0.1:{port}/")
            page.get_by_text("The shelf is empty.").wait_for()
            took.append(((time.perf_counter() - began) * 1000, (time.perf_counter() - served) * 1000))
            server.terminate()
            server.wait(20)
            page.close()
        browser.close()
    from_command, on_screen = np.array(took).T
    return [
        figure("From the command to the shelf on the screen", from_command, ""),
        figure("… of that, the page in the browser", on_screen, "< 1500"),
    ]


_WATCH = """
window.__shown = 0; window.__moved = 0; window.__took = []; const seen = new Set();
const draw = CanvasRenderingContext2D.prototype.drawImage;
CanvasRenderingContext2D.prototype.drawImage = function (image, ...rest) {
  draw.call(this, image, ...rest);
  const url = image.src;
  if (!url?.startsWith('blob:') || seen.has(url)) return;
  seen.add(url);
  window.__took.push(performance.now() - window.__moved);
  window.__shown += 1;
};
window.addEventListener('pointermove', () => { window.__moved = performance.now(); }, true);
"""
"""Counts pictures drawn on the wall for the first time, and how long after the pointer moved."""


def screen() -> list[Figure]:
    """From the pointer's move to the new picture on the screen, in headless Chromium."""
    with tempfile.TemporaryDirectory() as folder:
        repository = Repository(Path(folder))
        sitter = repository.add(demo_bytes("maren"), "maren.jpg")
        server = uvicorn.Server(uvicorn.Config(create_app(repository), log_level="error"))
        with socket.socket() as listening:
            listening.bind(("127.0.0.1", 0))
            thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
            thread.start()
            ms = _drag_on_screen(f"http://127.0.0.1:{listening.getsockname()[1]}/sitters/{sitter.id}/values")
            server.should_exit = True
            thread.join(10)
        repository.close()
    return [figure("Cut dragged, on the screen", ms, "p95 < 80")]


def _drag_on_screen(address: str) -> np.ndarray:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(**CHROMIUM)
        # The watch is evaluated, which the application's own policy rightly forbids.
        page = browser.new_page(viewport={"width": 1280, "height": 800}, bypass_csp=True)
        page.add_init_script(_WATCH)
        page.goto(address)
        rung = page.locator("[data-cut='1']")
        rung.wait_for()
        page.wait_for_load_state("networkidle")
        page.wait_for_timeout(3000)
        box = rung.bounding_box()
        assert box is not None
        x, y = box["x"] + 30, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        for step in range(1, 5 if short() else 43):
            page.mouse.move(x, y - step)
            page.wait_for_function(f"window.__shown >= {step}")
        took = page.evaluate("window.__took")
        browser.close()
    return np.array(took[2:])
