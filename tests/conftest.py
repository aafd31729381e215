"""Shared: the demo sitters with their true masks and hair directions, and made pictures."""

from __future__ import annotations

import io
import re
import shutil
import zlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from pathlib import Path

import cv2
import numpy as np
import pytest
from hypothesis import settings
from PIL import Image

from tests.long import LONG
from tests.sharing import computes_for_itself, folder_of, shared_results
from truesitter.core.graph.memo import Memo
from truesitter.core.settings import ReferenceSettings, StudySettings
from truesitter.core.stages import Study

# A slow or busy machine must not fail a law that holds.
settings.register_profile("steady", deadline=None)
settings.load_profile("steady")
# One thread a worker: those of several would only wait for one another.
cv2.setNumThreads(1)


def pytest_addoption(parser: pytest.Parser) -> None:
    parser.addoption(
        "--all", action="store_true", help="the long tests as well: rooms by lot, siege, every sitter"
    )


def pytest_collection_modifyitems(config: pytest.Config, items: list[pytest.Item]) -> None:
    """Without --all long tests are left out; `tests/long.py` says which shorter ones hold the same laws."""
    # Slow files first: what is handed out last should end at about the same time everywhere.
    items.sort(key=lambda item: next((n for n, part in enumerate(SLOW) if part in item.nodeid), len(SLOW)))
    if config.getoption("--all"):
        return
    long = re.compile("|".join(LONG))
    left_out = [item for item in items if item.get_closest_marker("long") or long.match(item.nodeid)]
    dropped = set(map(id, left_out))
    items[:] = [item for item in items if id(item) not in dropped]
    config.hook.pytest_deselected(items=left_out)


def pytest_unconfigure(config: pytest.Config) -> None:
    """What the processes left for each other goes with the run."""
    run = config.pluginmanager.get_plugin("dsession")
    if run is not None:
        shutil.rmtree(folder_of(run.nodemanager.testrunuid), ignore_errors=True)


SLOW = (
    "tests/e2e/test_access",
    "tests/truth/test_easel",
    "tests/siege",
    "tests/bench",
    "tests/e2e",
    "tests/cli",
)

TRUTH = Path(__file__).parent / "truth"

# Six strokes at most; what a painter would draw over the back view.
BACK_VIEW_SCRIBBLES = [
    {
        "region": "skin",
        "points": [
            (0.36, 0.28), (0.40, 0.40), (0.36, 0.55), (0.50, 0.56), (0.58, 0.50), (0.58, 0.70),
            (0.35, 0.80), (0.28, 0.90),
        ],
    },
    {"region": "skin", "points": [(0.68, 0.62), (0.62, 0.80), (0.70, 0.92), (0.90, 0.80), (0.97, 0.82)]},
    {
        "region": "hair",
        "points": [(0.45, 0.24), (0.60, 0.32), (0.62, 0.42), (0.68, 0.25), (0.75, 0.10), (0.85, 0.15)],
    },
    {"region": "garment", "points": [(0.55, 0.985), (0.70, 0.985), (0.97, 0.94)]},
]  # fmt: skip


def overlap(found: np.ndarray, true: np.ndarray) -> float:
    """Intersection over union of two masks."""
    return float((found & true).sum() / (found | true).sum())


@dataclass(frozen=True)
class Truth:
    """A made sitter: its photograph and what is truly where."""

    name: str
    data: bytes
    labels: np.ndarray
    direction: np.ndarray

    def smoothed_direction(self) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Hair mask, and its undirected and directed angle (radians, y up): painters follow masses.

        Averaged in double angle (and as vectors) with a Gaussian of 0.5 % of the height.
        """
        mask = self.direction > 0
        angle = np.radians((self.direction.astype(float) - 1) / 100)
        sigma = 0.005 * mask.shape[0]

        def average(times: int) -> np.ndarray:
            z = np.dstack([np.cos(times * angle), np.sin(times * angle)]) * mask[..., None]
            z = cv2.GaussianBlur(z, (0, 0), sigma)
            return np.arctan2(z[..., 1], z[..., 0]) / times

        return mask, average(2), average(1)


@cache
def truth(name: str) -> Truth:
    folder = TRUTH / name
    shipped = files("truesitter.demo") / "sitters" / f"{name}.jpg"
    return Truth(
        name,
        shipped.read_bytes() if shipped.is_file() else (folder / "photo.jpg").read_bytes(),
        cv2.imread(str(folder / "labels.png"), cv2.IMREAD_UNCHANGED),
        cv2.imread(str(folder / "hair_direction.png"), cv2.IMREAD_UNCHANGED),
    )


def begun(width: int, height: int) -> StudySettings:
    """What a sitter of a photograph of that size begins with."""
    return StudySettings(reference=ReferenceSettings.of_photograph(width, height))


@cache
def small_photo(name: str) -> bytes:
    """A made sitter's photograph, small: for routes and screens. What is read of it is tested elsewhere."""
    with Image.open(io.BytesIO(truth(name).data)) as photo:
        photo.thumbnail((_SMALL, _SMALL), Image.Resampling.LANCZOS)
        return jpeg(np.asarray(photo.convert("RGB")))


_SMALL = 640


@cache
def study_of(name: str) -> Study:
    """A demo sitter framed whole, so that its pixels are those of the truth."""
    chosen: dict[str, object] = {"reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}}
    if name == "ines":
        chosen["regions"] = {"scribbles": BACK_VIEW_SCRIBBLES}
    return Study.of_bytes(truth(name).data, StudySettings.model_validate(chosen), Memo())


def made_head(width: int = 480, height: int = 600) -> np.ndarray:
    """A made picture: a lit egg of skin colour with striped hair on a grey ground; no face."""
    y, x = np.mgrid[0:height, 0:width].astype(float)
    u, v = (x - width / 2) / (width * 0.26), (y - height * 0.5) / (height * 0.3)
    inside = u**2 + v**2 < 1
    z = np.sqrt(np.clip(1 - u**2 - v**2, 0, 1))
    light = np.clip(-0.5 * u - 0.4 * v + 0.77 * z, 0, 1)
    picture = np.full((height, width, 3), (96, 100, 104), float)
    skin = np.array([225, 172, 140]) * (0.18 + 0.82 * light[..., None])
    picture[inside] = skin[inside]
    hair = (u**2 + ((v + 0.25) / 1.1) ** 2 < 1.25) & (v < -0.45)
    strands = 0.6 + 0.4 * np.sin(x / 3.0)
    picture[hair] = (np.array([70, 45, 30]) * strands[..., None])[hair]
    return np.clip(picture, 0, 255).astype(np.uint8)


def jpeg(picture: np.ndarray, **options: object) -> bytes:
    buffer = io.BytesIO()
    Image.fromarray(picture).save(buffer, "JPEG", quality=92, **options)
    return buffer.getvalue()


def bomb() -> bytes:
    """A PNG that claims 30 000 × 30 000 pixels."""
    buffer = io.BytesIO()
    Image.new("1", (16, 16)).save(buffer, "PNG")
    data = bytearray(buffer.getvalue())
    data[16:24] = (30_000).to_bytes(4, "big") * 2
    data[29:33] = zlib.crc32(bytes(data[12:29])).to_bytes(4, "big")
    return bytes(data)


@pytest.fixture(scope="session")
def sharing() -> Iterator[Callable[[bool], None]]:
    """Results are shared by the tests of this process; the switch."""
    with shared_results() as switch:
        yield switch


@pytest.fixture(autouse=True)
def results_are_shared(request: pytest.FixtureRequest, sharing: Callable[[bool], None]) -> None:
    """What one test computed is given to the next, unless it has to compute for itself."""
    sharing(not computes_for_itself(request.node))


@pytest.fixture(scope="session")
def made_photo() -> bytes:
    return jpeg(made_head())
