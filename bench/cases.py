"""What is timed. Every case that has a general-purpose rival runs it beside ours on the same input."""

from __future__ import annotations

import io
import socket
import subprocess
import sys
import tempfile
import threading
import time
from functools import cache
from importlib.resources import files
from itertools import combinations
from pathlib import Path

import cv2
import numpy as np
import uvicorn
from fastapi.testclient import TestClient
from PIL import Image
from playwright.sync_api import sync_playwright
from scipy.optimize import differential_evolution
from skimage import color, feature, filters

from bench.timing import Figure, figure, ratio, times
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.hair.field import Guide, solve_axes
from truesitter.core.hair.lines import mapping_lines
from truesitter.core.hair.sense import GrowthHints, find_whorls, orient
from truesitter.core.memo import Memo
from truesitter.core.paint.mixing import mix, mixture_reflectance, tube_curves
from truesitter.core.paint.palettes import Palette, starter
from truesitter.core.paint.proportions import TubeSets
from truesitter.core.paint.rounding import recipe_cost
from truesitter.core.paint.solver import solve_recipe
from truesitter.core.paint.strings import mix_string
from truesitter.core.passes.planner import plan_passes
from truesitter.core.passes.schools import LAYERED_OIL
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.study import Study
from truesitter.core.study.flesh import FAMILIES
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.value_map import histogram
from truesitter.store.sitters import Shelf
from truesitter.web.app import create_app

TWELVE = Palette(
    "bench", "Twelve tubes",
    ("titanium-white", "yellow-ochre", "vermilion", "ivory-black", "burnt-sienna", "raw-umber",
     "ultramarine-blue", "viridian", "perm-crimson", "arylide-yellow", "phthalo-blue", "light-red"),
)  # fmt: skip


def demo_bytes(name: str) -> bytes:
    return (files("truesitter.demo") / "sitters" / f"{name}.jpg").read_bytes()


@cache
def study() -> Study:
    return Study.of_bytes(demo_bytes("maren"), StudySettings())


@cache
def large_jpeg(megapixels: float) -> bytes:
    """A demo sitter enlarged, with sensor-like noise so that it packs like a photograph."""
    small = cv2.imdecode(np.frombuffer(demo_bytes("maren"), np.uint8), cv2.IMREAD_COLOR)
    scale = (megapixels * 1e6 / (small.shape[0] * small.shape[1])) ** 0.5
    big = cv2.resize(small, None, fx=scale, fy=scale, interpolation=cv2.INTER_CUBIC)
    noise = np.random.default_rng(0).normal(0, 4, big.shape[:2]).astype(np.int16)
    noisy = np.clip(big.astype(np.int16) + noise[..., None], 0, 255).astype(np.uint8)
    return cv2.imencode(".jpg", noisy, [cv2.IMWRITE_JPEG_QUALITY, 92])[1].tobytes()


def cuts() -> list[Figure]:
    value = study().values.smoothed()
    bins = 128
    coarse = (np.clip(value / 10, 0, 0.999) * bins).astype(np.uint8)
    counts = histogram(value, bins=bins)
    ours = times(lambda: best_fit_cuts(counts, 5), 15)
    theirs = times(lambda: filters.threshold_multiotsu(coarse, 5, nbins=bins), 3)
    fine = times(lambda: best_fit_cuts(histogram(value), 5), 9)
    return [
        figure(
            "Best-fit cuts, 5 groups, 128 bins", ours, "50 × rival", ratio(ours, theirs, "multi-level Otsu")
        ),
        figure("… in full resolution, with the histogram", fine, ""),
    ]  # fmt: skip


def opening() -> list[Figure]:
    data = large_jpeg(24)

    def ours() -> None:
        Study.of_bytes(data, StudySettings(), Memo()).values.plan()

    def plain() -> None:
        picture = np.asarray(Image.open(io.BytesIO(data)).convert("RGB"))
        lightness = color.rgb2lab(picture)[..., 0]
        np.digitize(lightness, filters.threshold_multiotsu(lightness, 3, nbins=64))

    mine, theirs = times(ours, 3), times(plain, 1)
    return [
        figure("24 megapixels to the first value plan", mine, "< 1500",
               ratio(mine, theirs, "decode + rgb2lab + Otsu at full size, 3 groups")),
    ]  # fmt: skip


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


def mixtures() -> list[Figure]:
    rng = np.random.default_rng(3)
    targets = []
    for _ in range(50):
        tubes = rng.choice(len(TWELVE.tubes), 4, replace=False)
        shares = rng.dirichlet(np.ones(4))
        targets.append(
            mix({TWELVE.tubes[t]: float(s) for t, s in zip(tubes, shares, strict=True)}, TWELVE).lab
        )
    queue = iter([*targets[:1], *targets])
    ours = times(lambda: solve_recipe(next(queue), TWELVE), 50)
    k, s = tube_curves(TWELVE.tubes)

    def evolve(target: np.ndarray) -> tuple[float, float]:
        def cost(shares: np.ndarray) -> np.ndarray:
            lab = reflectance_to_lab(mixture_reflectance(shares.T + 1e-9, k, s, TWELVE))
            return recipe_cost(lab, target)

        start = time.perf_counter()
        found = differential_evolution(
            cost, [(0, 1)] * 12, seed=1, vectorized=True, updating="deferred", maxiter=150
        )
        return (time.perf_counter() - start) * 1000, float(found.fun)

    rivals = [evolve(np.array(t)) for t in targets]
    theirs = np.array([ms for ms, _ in rivals])
    worse = max(best_shares(t) - cost for t, (_, cost) in zip(targets, rivals, strict=True))
    beside = ratio(ours, theirs, f"differential evolution; ours worse by at most {max(0.0, worse):.3f} in 50")
    return [figure("One mixture from 12 tubes, whole parts", ours, "< 30", beside)]


def best_shares(target: tuple[float, float, float]) -> float:
    """Cost of the best proportions before they are rounded to whole parts."""
    wanted = np.array(target)
    members = np.array(list(combinations(range(len(TWELVE.tubes)), 4)), dtype=np.int32)
    sets = TubeSets(wanted, TWELVE, members)
    rows, amounts, _ = sets.solve()
    return float(recipe_cost(sets.lab(amounts[:1], rows[:1]), wanted)[0])


def strings() -> list[Figure]:
    lab = study().picture.lab()[study().sitter.regions().mask(Region.SKIN)]
    seven = starter("warm-cool-six")
    one = times(lambda: mix_string(lab, seven, 5), 9)

    def board() -> None:
        fresh = Study.of_bytes(demo_bytes("maren"), StudySettings(), study_memo())
        for family in FAMILIES:
            fresh.flesh._string(family)

    return [
        figure("A string of five tones, 7 tubes", one, "< 150"),
        figure("Whole palette board solved anew", times(board, 3), "< 1000"),
    ]


@cache
def study_memo() -> Memo:
    memo = Memo()
    first = Study.of_bytes(demo_bytes("maren"), StudySettings(), memo)
    first.light.zones()
    first.values.plan()
    return memo


def hair() -> list[Figure]:
    lightness, mask = study().picture.lab()[..., 0], study().sitter.hair_mask()
    guides = (Guide(((0.44, 0.19), (0.36, 0.19), (0.28, 0.24), (0.22, 0.32))),)
    ours = times(lambda: solve_axes(lightness, mask, guides), 7)
    plain = times(lambda: feature.structure_tensor(lightness, sigma=4), 3)
    axes = solve_axes(lightness, mask, guides)
    hints = GrowthHints(skin=~axes.mask, beard=np.zeros_like(axes.mask), brow_row=None)
    sense = times(lambda: orient(axes, hints, guides, find_whorls(axes)), 5)
    directed = orient(axes, hints, guides, find_whorls(axes))
    lines = times(lambda: mapping_lines(directed, axes.mask, 6.0), 5)
    return [
        figure(
            "Hair field with a guide", ours, "< 400", ratio(ours, plain, "one-scale structure tensor alone")
        ),
        figure("Root-to-tip sense", sense, ""),
        figure("Mapping lines", lines, "< 300"),
    ]


def passes() -> list[Figure]:
    stage = study().passes
    subject, palette = stage.subject(), study().flesh.palette()
    return [
        figure(
            "All passes planned and simulated",
            times(lambda: plan_passes(subject, palette, LAYERED_OIL), 5),
            "< 500",
        )
    ]


_MEMORY = """
import sys
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.study import Study
from truesitter.core.study.flesh import FAMILIES
s = Study.of_bytes(open(sys.argv[1], "rb").read(), StudySettings())
s.values.plan(); s.passes.plan(); s.hair.map()
print(next(line.split()[1] for line in open("/proc/self/status") if line.startswith("VmHWM")))
"""


def memory() -> str:
    with tempfile.NamedTemporaryFile(suffix=".jpg") as file:
        file.write(large_jpeg(50))
        file.flush()
        done = subprocess.run(
            [sys.executable, "-c", _MEMORY, file.name], capture_output=True, text=True, check=True
        )
    return f"Peak memory of a whole plan from 50 megapixels: {int(done.stdout) / 1024:.0f} MiB (aim < 1024)"


CASES = {
    "cuts": cuts,
    "opening": opening,
    "dragging": dragging,
    "screen": screen,
    "mixtures": mixtures,
    "strings": strings,
    "hair": hair,
    "passes": passes,
}
