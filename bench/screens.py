"""What a painter feels: a photograph never seen before up to its first plan, and every job opened in turn."""

from __future__ import annotations

import re
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import numpy as np
import psutil
from playwright.sync_api import Page, Request, sync_playwright

from bench.inputs import demo_bytes
from bench.serving import CHROMIUM
from bench.timing import Figure, figure, repeats, short
from siege.afternoon import afternoon
from siege.server import Server
from truesitter.core.graph.memo import Memo
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.web.http.dependencies import REMEMBERED

STAGES = Path(__file__).parents[1] / "frontend" / "src" / "sitter" / "stages.ts"
QUIET = 0.3
"""A screen is there when nothing has been asked for so many seconds."""
_PATIENCE = 120.0


class Asked:
    """What a page asks of the application, and when it was answered."""

    def __init__(self, page: Page) -> None:
        self._page = page
        self._open: set[Request] = set()
        self.last, self.what, self.paths = 0.0, "", set[str]()
        page.on("request", self._begins)
        page.on("requestfinished", self._ends)
        page.on("requestfailed", self._ends)

    def _begins(self, request: Request) -> None:
        if "/api/" in request.url:
            self._open.add(request)

    def _ends(self, request: Request) -> None:
        if request in self._open:
            self._open.discard(request)
            self.last, self.what = time.perf_counter(), request.url.split("/api/")[1].split("?")[0]
            self.paths.add(re.sub(r"^sitters/\w+/", "", self.what))

    def settled(self, began: float, wanted: str = "") -> float:
        """Milliseconds from a moment until the last answer came, and what was wanted among them."""
        self.last = max(self.last, began) if wanted else began
        over = began + _PATIENCE
        while time.perf_counter() < over:
            self._page.wait_for_timeout(50)
            waited = time.perf_counter() - max(self.last, began)
            if not self._open and waited > QUIET and (not wanted or wanted in self.paths):
                return (self.last - began) * 1000
        raise TimeoutError(f"{wanted or 'the screen'} did not come; {[r.url for r in self._open]}")


@contextmanager
def served() -> Iterator[tuple[Server, Page]]:
    """A server that has come to rest, and a page of a browser."""
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder) / "data") as server:
        _come_to_rest(server)
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(**CHROMIUM)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.set_default_timeout(_PATIENCE * 1000)
            yield server, page
            browser.close()


def _come_to_rest(server: Server) -> None:
    """Until the processes that compute have loaded what they need."""
    processes: list[psutil.Process] = []
    for _ in range(120):
        everyone = psutil.Process(server.process.pid)
        processes = [everyone, *everyone.children(recursive=True)]
        before = _cpu(processes)
        time.sleep(0.5)
        if len(processes) > 1 and _cpu(processes) - before < 0.05:
            return


def _cpu(processes: list[psutil.Process]) -> float:
    total = 0.0
    for one in processes:
        try:
            times = one.cpu_times()
        except psutil.Error:
            continue
        total += times.user + times.system
    return total


def _put_in(page: Page, server: Server, name: str) -> tuple[str, float]:
    """Put a photograph in by the screen; its sitter, and when."""
    page.goto(server.address)
    page.get_by_role("button", name="New sitter").wait_for()
    began = time.perf_counter()
    file: Any = {"name": f"{name}.jpg", "mimeType": "image/jpeg", "buffer": demo_bytes(name)}
    page.set_input_files("input[type=file]", file)
    page.wait_for_url("**/reference*")
    return page.url.split("/sitters/")[1].split("/")[0], began


def go(page: Page, path: str) -> float:
    """Go to an address as a press on its name does, without loading the pages anew; when."""
    began = time.perf_counter()
    pressed = "to => { history.pushState({}, '', to); dispatchEvent(new PopStateEvent('popstate')); }"
    page.evaluate(pressed, path)
    return began


def cold() -> list[Figure]:
    """Nothing is known of the photograph; the server has been up for a while."""
    first, further = [], []
    with served() as (server, page):
        for name in ("tobias", "maren")[: repeats(2)]:
            sitter, began = _put_in(page, server, name)
            asked = Asked(page)
            go(page, f"/sitters/{sitter}/passes")
            first.append(asked.settled(began, "passes/strip"))
            for school in ("String of skin tones", "Watercolour, head first", "Airbrush and eraser")[
                : repeats(3)
            ]:
                page.get_by_role("combobox", name="School").click()
                option = page.get_by_role("option", name=school)
                option.wait_for()
                asked.paths.clear()
                # By the keyboard: where to press with a mouse is worked out for half a second first.
                option.focus()
                began = time.perf_counter()
                page.keyboard.press("Enter")
                further.append(asked.settled(began, "passes/strip"))
        began = time.perf_counter()
        page.goto(f"{server.address}/drills")
        page.get_by_role("list", name="Drills").get_by_role("listitem").first.wait_for()
        drills = (time.perf_counter() - began) * 1000
    return [
        figure("Upload to the first plan with its strip", np.array(first), "< 8000"),
        figure("… a further school chosen there", np.array(further), "< 2000"),
        figure("Drills opened", np.array([drills]), "< 1000"),
        figure("truesitter plan, every file", _plan(), "< 10000"),
    ]


def _plan() -> np.ndarray:
    took = []
    with tempfile.TemporaryDirectory() as folder:
        photo = Path(folder) / "tobias.jpg"
        photo.write_bytes(demo_bytes("tobias"))
        command = [sys.executable, "-m", "truesitter.cli", "plan", str(photo), "--out", f"{folder}/plan"]
        for _ in range(repeats(2)):
            began = time.perf_counter()
            subprocess.run(command, check=True, capture_output=True)
            took.append((time.perf_counter() - began) * 1000)
    return np.array(took)


def jobs() -> list[str]:
    """Addresses of every job below a sitter, in order."""
    found, stage = [], ""
    for line in STAGES.read_text(encoding="utf-8").splitlines():
        if opened := re.match(r"  (\w+): \{$", line):
            stage = opened[1]
        elif named := re.match(r"      (\w+): job\(", line):
            found.append(f"{stage}/{named[1]}")
    return found


def walk() -> list[Figure]:
    """Every job of every stage in turn, on a sitter whose plan is there."""
    with served() as (server, page):
        sitter, began = _put_in(page, server, "tobias")
        asked = Asked(page)
        go(page, f"/sitters/{sitter}/passes")
        asked.settled(began, "passes/strip")
        took: dict[str, float] = {}
        waits: dict[str, str] = {}
        for job in jobs()[:: 12 if short() else 1]:
            took[job] = asked.settled(go(page, f"/sitters/{sitter}/{job}"))
            waits[job] = asked.what
    slowest = sorted(took, key=lambda job: -took[job])[:5]
    each = "; ".join(f"{job} {took[job]:.0f} ({waits[job]})" for job in slowest)
    ms = np.array(list(took.values()))
    return [
        figure(f"{len(took)} jobs opened in turn", ms, "< 1000"),
        figure("… the slowest", np.array([ms.max()]), "< 2500", each),
    ]


def schools() -> list[Figure]:
    """All schools on one sitter, twice: the second time everything is remembered."""
    memo, rounds = Memo(REMEMBERED), []
    names = list(SCHOOLS)[: 2 if short() else len(SCHOOLS)]
    for _ in range(2):
        began = time.perf_counter()
        for name in names:
            chosen = StudySettings.model_validate({"passes": {"school": name}})
            passes = Study.of_bytes(demo_bytes("maren"), chosen, memo).passes
            passes.paced(), passes.painted(), passes.seams(), passes.sittings()
        rounds.append((time.perf_counter() - began) * 1000)
    held = f"{memo.held / 2**20:.0f} MiB held"
    return [
        figure(f"{len(names)} schools on one sitter, planned and painted", np.array(rounds[:1]), "", held),
        figure("… and once more", np.array(rounds[1:]), "< 1000"),
    ]


def crowd() -> list[Figure]:
    """Forty painters at once, each thinking a while between two things they do."""
    figures = afternoon(5.0 if short() else 60.0, 2 if short() else 40)
    aims = {"drag": 500, "open": 1000, "list": 1000, "settings": 1000}
    told = {kind: figures[f"{kind} p50/p95 ms"] for kind in aims}
    return [
        Figure(f"40 painters for a minute: {kind}", float(p50), float(p95), f"p95 < {aims[kind]}")
        for kind, (p50, p95) in told.items()  # type: ignore[misc]
    ]
