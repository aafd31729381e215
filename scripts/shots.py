"""Take the pictures of docs/screenshots from the demo data, 1280 × 800."""

from __future__ import annotations

import sys
import tempfile
import threading
from pathlib import Path

import uvicorn
from playwright.sync_api import Page, sync_playwright

from truesitter.demo.seed import seed
from truesitter.store.sitters import Shelf
from truesitter.web.app import create_app

TARGET = Path(__file__).parents[1] / "docs/screenshots"
CHROMIUM = {
    "executable_path": "/usr/bin/chromium",
    "args": ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--no-first-run"],
}
PORT = 8447


def settle(page: Page) -> None:
    """Wait until the picture and everything computed for the stage has come."""
    page.wait_for_load_state("networkidle")
    page.wait_for_selector("[aria-label='Working']", state="detached", timeout=60_000)
    page.wait_for_timeout(400)


def shoot(page: Page, target: Path) -> None:
    base = f"http://127.0.0.1:{PORT}"
    page.goto(base)
    page.wait_for_selector("text=Maren Quillby")
    page.wait_for_load_state("networkidle")
    page.screenshot(path=target / "shelf.png")
    ids = {s["name"].split()[0]: s["id"] for s in page.request.get(f"{base}/api/sitters").json()}

    def open_stage(who: str, stage: str) -> None:
        page.goto(f"{base}/sitters/{ids[who]}/{stage}")
        page.wait_for_selector("aside")
        settle(page)

    open_stage("Maren", "reference")
    page.keyboard.press("r")
    settle(page)
    page.screenshot(path=target / "reference.png")
    page.keyboard.press("r")
    open_stage("Ines", "reference")
    page.get_by_role("button", name="Scribble", exact=True).click()
    settle(page)
    page.screenshot(path=target / "regions.png")
    open_stage("Maren", "values")
    page.keyboard.press("v")
    page.keyboard.press("o")
    settle(page)
    page.screenshot(path=target / "values.png")
    page.keyboard.press("o")
    page.keyboard.press("c")
    open_stage("Maren", "flesh")
    box = page.locator("[role=application]").bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + box["width"] * 0.47, box["y"] + box["height"] * 0.53)
    page.wait_for_selector("[data-testid=mixture]")
    settle(page)
    page.screenshot(path=target / "flesh.png")
    open_stage("Tobias", "light")
    page.screenshot(path=target / "light.png")
    open_stage("Maren", "hair")
    page.screenshot(path=target / "hair.png")
    open_stage("Tobias", "passes")
    for _ in range(11):
        page.get_by_role("button", name="Next pass").click()
    settle(page)
    page.screenshot(path=target / "passes.png")
    page.get_by_label("Dim studio").click()
    settle(page)
    page.screenshot(path=target / "passes-dim.png")


def main() -> None:
    target = Path(sys.argv[1]) if len(sys.argv) > 1 else TARGET
    target.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        shelf = Shelf(Path(folder))
        seed(shelf)
        server = uvicorn.Server(
            uvicorn.Config(create_app(shelf), host="127.0.0.1", port=PORT, log_level="warning")
        )
        thread = threading.Thread(target=server.run, daemon=True)
        thread.start()
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(**CHROMIUM)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.on("pageerror", lambda error: print("page error:", error))
            page.on("console", lambda m: print("console:", m.text) if m.type == "error" else None)
            shoot(page, target)
            browser.close()
        server.should_exit = True
        thread.join(10)
        shelf.close()


if __name__ == "__main__":
    main()
