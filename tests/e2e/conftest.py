"""The application on a free port, and a page of headless Chromium."""

from __future__ import annotations

import socket
import threading
from collections.abc import Iterator

import pytest
import uvicorn
from playwright.sync_api import Page, expect, sync_playwright

from bench.serving import CHROMIUM
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app


@pytest.fixture(scope="module")
def base(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The application on a free port, with an empty shelf."""
    repository = Repository(tmp_path_factory.mktemp("data"))
    server = uvicorn.Server(uvicorn.Config(create_app(repository), log_level="error"))
    with socket.socket() as listening:
        listening.bind(("127.0.0.1", 0))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
        thread.start()
        yield f"http://127.0.0.1:{listening.getsockname()[1]}"
        server.should_exit = True
        thread.join(10)
    repository.close()


@pytest.fixture(scope="module")
def page(base: str) -> Iterator[Page]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(**CHROMIUM)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.set_default_timeout(60_000)
        expect.set_options(timeout=60_000)
        errors: list[str] = []
        page.on("pageerror", lambda error: errors.append(str(error)))
        yield page
        browser.close()
    assert errors == []
