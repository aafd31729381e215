"""A studio in a real browser: coming in, safekeeping, a phone at the easel, and pages from elsewhere."""

from __future__ import annotations

import http.server
import threading
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect, sync_playwright

from bench.serving import CHROMIUM
from siege.server import Server
from tests.conftest import small_photo
from truesitter.store.settings.sitters import Repository

WORDS = "linseed and ochre"


@pytest.fixture(scope="module")
def studio(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    folder = tmp_path_factory.mktemp("studio")
    repository = Repository(folder)
    repository.passphrase.set(WORDS)
    repository.add(small_photo("maren"), "maren.jpg", "Maren")
    repository.close()
    with Server(folder, "--studio", "--processes", "1") as server:
        yield server


@pytest.fixture(scope="module")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(**CHROMIUM)
        yield browser
        browser.close()


@pytest.fixture(scope="module")
def page(browser: Browser, studio: Server) -> Page:
    page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    page.set_default_timeout(60_000)
    expect.set_options(timeout=60_000)
    page.goto(studio.address)
    return page


def test_coming_in_and_what_is_kept(page: Page, studio: Server, tmp_path: Path) -> None:
    page.get_by_label("Your name").fill("Ada")
    page.get_by_label("Passphrase").fill("not this one at all")
    page.get_by_role("button", name="Come in").click()
    expect(page.get_by_role("alert")).to_contain_text("not the passphrase")
    page.get_by_label("Passphrase").fill(WORDS)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Maren")).to_be_visible()

    with page.expect_download() as saved:
        page.get_by_role("link", name="Save Maren as a file").click()
    saved.value.save_as(tmp_path / "m.sitter.zip")
    page.get_by_label("Photograph of the sitter").set_input_files(tmp_path / "m.sitter.zip")
    page.wait_for_url("**/reference")
    page.get_by_role("link", name="Back to the shelf").click()
    expect(page.get_by_role("heading", name="Maren")).to_have_count(2)

    page.get_by_role("link", name="Safekeeping").click()
    page.get_by_role("button", name="Look now").click()
    expect(page.get_by_role("status")).to_contain_text("2 sitters and 1 photographs: all is sound.")
    expect(page.get_by_role("img", name="Code of this address")).to_be_visible()
    with page.expect_download() as saved:
        page.get_by_role("link", name="Save a backup").click()
    assert saved.value.suggested_filename.endswith(".zip")
    daily = page.get_by_role("switch")
    daily.click()
    page.reload()
    expect(daily).not_to_be_checked()


def test_history_says_who(page: Page, studio: Server) -> None:
    page.goto(studio.address)
    page.get_by_role("heading", name="Maren").first.click()
    page.get_by_role("link", name="Values").click()
    page.keyboard.press("Control+z")
    sitter = page.url.split("/")[4]
    page.evaluate(
        """(id) => fetch(`/api/sitters/${id}/settings/values`, {method: 'PATCH',
           headers: {'Content-Type': 'application/json'},
           body: JSON.stringify({change: 'Three groups', set: {groups: 3}})})""",
        sitter,
    )
    page.reload()
    expect(page.get_by_title("Undo: Three groups (Ada)")).to_be_enabled()


def test_a_phone_at_the_easel(page: Page, studio: Server) -> None:
    sitter = page.url.split("/")[4]
    phone = page.context.new_page()
    phone.set_viewport_size({"width": 390, "height": 780})
    phone.goto(f"{studio.address}/easel/{sitter}")
    chosen = {"name": "p.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    phone.get_by_label("Photograph of the painting").set_input_files([chosen])  # type: ignore[list-item]
    kept = phone.get_by_role("button", name="Keep it")
    taken = phone.get_by_text("One photograph is at the easel now.")
    expect(kept.or_(taken)).to_be_visible(timeout=300_000)
    if kept.is_visible():
        kept.click()
    expect(taken).to_be_visible(timeout=300_000)
    phone.close()


def test_a_page_of_another_site_neither_frames_nor_changes_anything(
    browser: Browser, page: Page, studio: Server, tmp_path: Path
) -> None:
    """The painter is in, and another page of the same browser tries with what it has."""
    (tmp_path / "index.html").write_text(
        f"""<iframe id=f src="{studio.address}/"></iframe>
        <form id=form method=post action="{studio.address}/api/sitters" enctype="multipart/form-data">
        <input name=name value=Mallory></form>"""
    )

    def handler(*args: object) -> http.server.SimpleHTTPRequestHandler:
        return http.server.SimpleHTTPRequestHandler(*args, directory=str(tmp_path))  # type: ignore[arg-type]

    elsewhere = http.server.ThreadingHTTPServer(("127.0.0.1", 0), handler)
    threading.Thread(target=elsewhere.serve_forever, daemon=True).start()
    foreign = page.context.new_page()
    foreign.goto(f"http://localhost:{elsewhere.server_address[1]}/")
    foreign.wait_for_timeout(1000)
    framed = foreign.frames[1]
    assert framed.url.startswith("chrome-error") or "True Sitter" not in framed.content()
    tried = foreign.evaluate(
        """async (address) => {
            const ask = (method, path, body) => fetch(address + path, {method, body, mode: 'no-cors',
                credentials: 'include'}).then((a) => a.type, () => 'refused');
            return [await ask('POST', '/api/door', '{}'), await ask('GET', '/api/sitters')];
        }""",
        studio.address,
    )
    assert set(tried) <= {"opaque", "refused"}, "nothing of the answer can be read"
    foreign.evaluate("document.getElementById('form').submit()")
    foreign.wait_for_timeout(1000)
    assert "from somewhere else" in foreign.content() or "Come in first" in foreign.content()
    foreign.close()
    names = page.evaluate("fetch('/api/sitters').then((a) => a.json()).then((all) => all.map((s) => s.name))")
    assert names == ["Maren", "Maren"]
    elsewhere.shutdown()


def test_going_out_leads_to_the_door(page: Page, studio: Server) -> None:
    page.goto(f"{studio.address}/keeping")
    page.get_by_role("button", name="Go out").click()
    expect(page.get_by_label("Passphrase")).to_be_visible()
    page.goto(f"{studio.address}/tubes")
    expect(page.get_by_label("Passphrase")).to_be_visible()
