"""Take the pictures of docs/screenshots from the demo data, 1280 × 800."""

from __future__ import annotations

import sys
import tempfile
import threading
from datetime import date
from pathlib import Path

import uvicorn
from playwright.sync_api import Page, sync_playwright

from bench.serving import CHROMIUM
from truesitter.demo.seed import seed
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app

TARGET = Path(__file__).parents[1] / "docs/screenshots"
PORT = 8447


def settle(page: Page) -> None:
    """Wait until the picture and everything computed for the stage has come."""
    page.wait_for_load_state("networkidle", timeout=180_000)
    page.wait_for_selector("[aria-label='Working']", state="detached", timeout=60_000)
    page.wait_for_timeout(400)
    page.wait_for_selector("[aria-busy=true]", state="detached", timeout=60_000)
    page.wait_for_timeout(900)


class Camera:
    """A browser page that walks through the stages and takes their pictures."""

    def __init__(self, page: Page, target: Path) -> None:
        self.page, self.target = page, target
        self.base = f"http://127.0.0.1:{PORT}"
        sitters = page.request.get(f"{self.base}/api/sitters").json()
        self.ids = {s["name"].split()[0]: s["id"] for s in sitters}

    def take(self, name: str) -> None:
        settle(self.page)
        self.page.screenshot(path=self.target / f"{name}.png")

    def open(self, who: str, stage: str, job: str = "") -> None:
        self.page.goto(f"{self.base}/sitters/{self.ids[who]}/{stage}")
        self.page.wait_for_selector("aside h2")
        settle(self.page)
        if job:
            self.job(job)

    def job(self, name: str) -> None:
        self.page.get_by_role("navigation", name="Jobs").get_by_role("link", name=name, exact=True).click()
        settle(self.page)

    def press(self, x: float, y: float) -> None:
        box = self.page.locator("[role=application]").bounding_box()
        assert box is not None
        self.page.mouse.click(box["x"] + box["width"] * x, box["y"] + box["height"] * y)
        settle(self.page)

    def keys(self, *names: str) -> None:
        for name in names:
            self.page.keyboard.press(name)


def shoot_reference(camera: Camera) -> None:
    camera.page.goto(camera.base)
    camera.page.wait_for_selector("text=Maren Quillby")
    camera.page.wait_for_load_state("networkidle")
    camera.page.screenshot(path=camera.target / "shelf.png")
    camera.page.get_by_role("link", name="Safekeeping").click()
    camera.page.get_by_role("button", name="Look now").click()
    camera.page.wait_for_selector("text=all is sound")
    camera.take("safekeeping")
    camera.open("Maren", "reference")
    camera.take("reference")
    camera.job("measure")
    camera.page.get_by_role("button", name="head", exact=True).click()
    camera.take("measure")
    camera.open("Ines", "reference", "regions")
    camera.take("regions")


def shoot_rack(camera: Camera) -> None:
    camera.page.goto(f"{camera.base}/tubes")
    camera.page.get_by_role("button", name="Red earth").click()
    camera.take("rack")


def shoot_values(camera: Camera) -> None:
    camera.open("Maren", "values")
    camera.keys("v", "o")
    camera.take("values")
    camera.keys("o", "c")


def shoot_paint(camera: Camera) -> None:
    camera.open("Maren", "flesh")
    camera.page.wait_for_selector("[data-testid=mixture]")
    camera.take("flesh")
    camera.job("board")
    camera.page.wait_for_selector("text=skin in the shadow")
    camera.take("board")
    camera.open("Maren", "light", "peaks")
    camera.take("light")
    camera.job("form")
    camera.open("Maren", "hair")
    camera.take("hair")
    camera.job("locks")
    camera.take("locks")
    camera.open("Tobias", "hair", "layers")
    camera.take("layers")
    camera.open("Maren", "passes")
    camera.page.get_by_label("School", exact=True).click()
    camera.page.get_by_role("option", name="Oil in one sitting").click()
    camera.page.get_by_role("button", name="4 Lights wiped out").click()
    wiped = camera.page.url
    camera.open("Tobias", "passes")
    for _ in range(15):
        camera.page.get_by_role("button", name="Next pass").click()
    camera.take("passes")
    camera.page.goto(wiped)
    camera.page.get_by_label("Dim studio").click()
    camera.take("passes-dim")
    camera.page.get_by_label("Dim studio").click()
    camera.job("plan")
    camera.page.get_by_label("School", exact=True).click()
    camera.page.get_by_role("option", name="Watercolour, head first").click()
    settle(camera.page)
    camera.job("book")
    camera.take("book")
    camera.open("Ines", "easel", "compare")
    camera.page.wait_for_selector("[aria-label=Findings] button", timeout=120_000)
    camera.page.get_by_role("button", name="split", exact=True).click()
    camera.page.get_by_role("list", name="Findings").get_by_role("button").first.click()
    camera.page.wait_for_selector("[aria-label^='What to do about']")
    camera.take("easel")
    camera.page.get_by_role("button", name="painting", exact=True).click()


def shoot_log(camera: Camera) -> None:
    camera.open("Maren", "log")
    camera.page.wait_for_selector("text=Now:", timeout=120_000)
    camera.take("log")
    camera.page.goto(f"{camera.base}/drills")
    camera.page.wait_for_selector("text=Shadows as shapes")
    camera.take("drills")


def main() -> None:
    target = Path(sys.argv[1]) if len(sys.argv) > 1 else TARGET
    target.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        repository = Repository(Path(folder) / "sitters")
        seed(repository)
        repository.copies.make(date.today())
        server = uvicorn.Server(
            uvicorn.Config(create_app(repository), host="127.0.0.1", port=PORT, log_level="warning")
        )
        thread = threading.Thread(target=server.run, daemon=True)
        thread.start()
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(**CHROMIUM)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.on("pageerror", lambda error: print("page error:", error))
            page.on("console", lambda m: print("console:", m.text) if m.type == "error" else None)
            camera = Camera(page, target)
            for part in (shoot_reference, shoot_rack, shoot_values, shoot_paint, shoot_log):
                part(camera)
            browser.close()
        server.should_exit = True
        thread.join(10)
        repository.close()


if __name__ == "__main__":
    main()
