"""A cut dragged: how long the server, and the whole way to the screen, take."""

from __future__ import annotations

import socket
import tempfile
import threading
from pathlib import Path

import numpy as np
import uvicorn
from fastapi.testclient import TestClient
from playwright.sync_api import sync_playwright

from bench.inputs import demo_bytes
from bench.timing import Figure, figure, times
from truesitter.store.sitters import Shelf
from truesitter.web.app import create_app


def dragging() -> list[Figure]:
    with tempfile.TemporaryDirectory() as folder:
        shelf = Shelf(Path(folder))
        sitter = shelf.add(demo_bytes("maren"), "maren.jpg")
        with TestClient(create_app(shelf)) as client:
            url = f"/api/sitters/{sitter.id}/values/preview?cuts="
            positions = iter(np.linspace(2, 3.9, 62).tolist())
            ms = times(lambda: client.get(f"{url}{next(positions):.3f},4.5,6,7.5").raise_for_status(), 60)
        shelf.close()
    return [figure("Cut dragged, server", ms, "p95 < 60")]


_WATCH = """
window.__shown = 0; window.__moved = 0; window.__took = [];
const src = Object.getOwnPropertyDescriptor(HTMLImageElement.prototype, 'src');
Object.defineProperty(HTMLImageElement.prototype, 'src', { ...src, set(url) {
  if (String(url).startsWith('blob:')) this.addEventListener('load', () => requestAnimationFrame(() =>
    { window.__took.push(performance.now() - window.__moved); window.__shown += 1; }));
  src.set.call(this, url);
}});
window.addEventListener('pointermove', () => { window.__moved = performance.now(); }, true);
"""


def screen() -> list[Figure]:
    """From the pointer's move to the new picture on the screen, in headless Chromium."""
    with tempfile.TemporaryDirectory() as folder:
        shelf = Shelf(Path(folder))
        sitter = shelf.add(demo_bytes("maren"), "maren.jpg")
        server = uvicorn.Server(uvicorn.Config(create_app(shelf), log_level="error"))
        with socket.socket() as listening:
            listening.bind(("127.0.0.1", 0))
            thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
            thread.start()
            ms = _drag_on_screen(f"http://127.0.0.1:{listening.getsockname()[1]}/sitters/{sitter.id}/values")
            server.should_exit = True
            thread.join(10)
        shelf.close()
    return [figure("Cut dragged, on the screen", ms, "p95 < 120")]


def _drag_on_screen(address: str) -> np.ndarray:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium",
            args=["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--no-first-run"],
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800})
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
        for step in range(1, 43):
            page.mouse.move(x, y - step)
            page.wait_for_function(f"window.__shown >= {step}")
        took = page.evaluate("window.__took")
        browser.close()
    return np.array(took[2:])
