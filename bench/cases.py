"""What is timed. Every case that has a general-purpose rival runs it beside ours on the same input."""

from __future__ import annotations

import io
import subprocess
import sys
import tempfile
import time
from itertools import combinations

import cv2
import numpy as np
from PIL import Image
from scipy.optimize import differential_evolution
from skimage import color, filters

from bench.easel import easel
from bench.growth import growth
from bench.hair import hair
from bench.inputs import demo_bytes, large_jpeg, study
from bench.light import light
from bench.passes import passes
from bench.screens import cold, crowd, schools, walk
from bench.serving import dragging, guides, screen, start
from bench.timing import Figure, figure, ratio, short, times
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.graph.memo import Memo
from truesitter.core.paint.board.strings import mix_string
from truesitter.core.paint.recipes.mixing import mix, mixture_reflectance
from truesitter.core.paint.recipes.pigment_shares import TubeSets
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.recipes.solver import solve_recipe
from truesitter.core.paint.tubes.palettes import Palette, starter
from truesitter.core.paint.tubes.rack import LIBRARY
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.region_map import Scribble, solve_regions
from truesitter.core.stages import Study
from truesitter.core.stages.flesh_stage import FAMILIES
from truesitter.core.types import Bytes
from truesitter.core.values.cuts import best_fit_cuts
from truesitter.core.values.value_map import histogram

TWELVE = Palette(
    "bench", "Twelve tubes",
    ("titanium-white", "yellow-ochre", "vermilion", "ivory-black", "burnt-sienna", "raw-umber",
     "ultramarine-blue", "viridian", "perm-crimson", "arylide-yellow", "phthalo-blue", "light-red"),
)  # fmt: skip


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


def mixtures() -> list[Figure]:
    rng = np.random.default_rng(3)
    targets = []
    for _ in range(2 if short() else 50):
        tubes = rng.choice(len(TWELVE.tubes), 4, replace=False)
        shares = rng.dirichlet(np.ones(4))
        targets.append(
            mix({TWELVE.tubes[t]: float(s) for t, s in zip(tubes, shares, strict=True)}, TWELVE).lab
        )
    queue = iter([*targets[:1], *targets])
    ours = times(lambda: solve_recipe(next(queue), TWELVE), len(targets))
    k, s = LIBRARY.curves(TWELVE.tubes)

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

    families = [study().picture.lab()[study().flesh.family_mask(family)] for family in FAMILIES]

    def board() -> None:
        for pixels in families:
            if len(pixels):
                mix_string(pixels, study().flesh.palette())

    return [
        figure("A string of five tones, 7 tubes", one, "< 150"),
        figure("Whole palette board solved anew", times(board, 3), "< 1000"),
    ]


def regions() -> list[Figure]:
    """After the sixth stroke; beside the cutting algorithm that a general-purpose library offers."""
    figures = []
    for name in ("maren", "tobias"):
        whole = Study.of_bytes(demo_bytes(name), StudySettings(), Memo())
        framed, detection = whole.picture.framed(), whole.sitter.detection()
        guess = whole.sitter.first_guess()
        strokes = tuple(
            Scribble(region, ((x, y), (x + 0.03, y + 0.08)), 0.01)
            for region, x, y in (
                (Region.SKIN, 0.5, 0.4), (Region.HAIR, 0.5, 0.12), (Region.HAIR, 0.33, 0.2),
                (Region.GARMENT, 0.3, 0.85), (Region.GARMENT, 0.7, 0.85), (Region.BACKGROUND, 0.1, 0.2),
            )
        )  # fmt: skip
        ours = times(lambda f=framed, g=guess, s=strokes: solve_regions(g, f.shape[:2], s), 9)
        small = cv2.resize(framed, (320, 400), interpolation=cv2.INTER_AREA)
        person = cv2.resize(detection.person, (320, 400)) > 0.5
        start = np.where(person, cv2.GC_PR_FGD, cv2.GC_PR_BGD).astype(np.uint8)
        plain = times(lambda m=small, w=start: two_parts(m, w), 3)
        beside = ratio(ours, plain, "GrabCut, sitter and background only, at 400 px")
        figures.append(figure(f"Regions after six strokes, {name.title()}", ours, "< 500", beside))
    return figures


def two_parts(picture: Bytes, start: Bytes) -> Bytes:
    """Sitter and background by GrabCut, three rounds, from a first guess."""
    inside, outside = np.zeros((1, 65)), np.zeros((1, 65))
    return cv2.grabCut(picture, start.copy(), None, inside, outside, 3, cv2.GC_INIT_WITH_MASK)[0]


_MEMORY = """
import sys
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
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
    "guides": guides,
    "start": start,
    "mixtures": mixtures,
    "strings": strings,
    "hair": hair,
    "regions": regions,
    "passes": passes,
    "light": light,
    "easel": easel,
    "schools": schools,
    "growth": growth,
    "cold": cold,
    "walk": walk,
    "crowd": crowd,
}
