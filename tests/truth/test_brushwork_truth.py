"""Brushwork told as layers or patches: paintings made here in either way from the sitters, and photographed.

Patches are the cells of a Voronoi diagram, each of one tone; layers are half-transparent strokes of all ways
one over another. Thresholds were chosen on maren and tobias; studios by lot.
"""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.easel import painter, photographed
from truesitter.core.easel.rules.brushwork import usual_change
from truesitter.core.types import Bytes

NAMES = ("tobias", "selda", "orsolya", "hedda")
JITTER = 5.0
"""Spread of the tones mixed for one colour, in 8-bit steps."""


def patches(picture: Bytes, size_px: float, rng: np.random.Generator) -> Bytes:
    """Flat cells of about that size."""
    height, width = picture.shape[:2]
    count = int(height * width / size_px**2)
    seeds = np.full((height, width), 255, np.uint8)
    seeds[rng.integers(0, height, count), rng.integers(0, width, count)] = 0
    _, cells = cv2.distanceTransformWithLabels(seeds, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    number = int(cells.max()) + 1
    sizes = np.bincount(cells.ravel(), minlength=number).clip(1)
    mean = np.stack(
        [np.bincount(cells.ravel(), picture[..., c].ravel(), number) / sizes for c in range(3)], axis=-1
    )
    return np.clip(mean + rng.normal(0, JITTER, (number, 1)), 0, 255)[cells].astype(np.uint8)


def layers(picture: Bytes, size_px: float, rng: np.random.Generator) -> Bytes:
    """Four layers of strokes about that long over a blurred first one."""
    height, width = picture.shape[:2]
    out = cv2.GaussianBlur(picture, (0, 0), 1.3 * size_px).astype(np.float32)
    reach = int(size_px * 1.8) + 1
    padded = cv2.copyMakeBorder(out, reach, reach, reach, reach, cv2.BORDER_REPLICATE)
    for _ in range(4 * int(height * width / size_px**2)):
        row, column = int(rng.integers(height)), int(rng.integers(width))
        long = size_px * rng.uniform(0.5, 1.0)
        stroke = np.zeros((2 * reach + 1, 2 * reach + 1), np.float32)
        axes = (int(long) + 1, int(0.35 * long) + 1)
        cv2.ellipse(stroke, (reach, reach), axes, rng.uniform(0, 180), 0, 360, 1, -1)
        share = 0.45 * cv2.GaussianBlur(stroke, (0, 0), 0.8)[..., None]
        here = padded[row : row + 2 * reach + 1, column : column + 2 * reach + 1]
        tone = picture[row, column].astype(np.float32) + rng.normal(0, JITTER)
        here += share * (tone - here)
    return np.clip(padded[reach:-reach, reach:-reach], 0, 255).astype(np.uint8)


@pytest.mark.parametrize("name", NAMES)
def test_patches_and_layers_are_told_apart(name: str) -> None:
    study = painter(name)
    picture = study.easel.template(None, "photograph")
    size = 12 / (320 / picture.shape[1])
    said = {}
    for kind, way in (("patches", patches), ("layers", layers)):
        rng = np.random.default_rng(9800 + NAMES.index(name))
        one = photographed(way(picture, size, rng), 9810 + NAMES.index(name), against="photograph")
        found = study.easel.compared(one)
        said[kind] = [v for v in found.verdicts if v.rule == "brushwork"]
        assert all(v.holds for v in said[kind])
        assert not any("brushwork" in f.words for f in found.findings)
    assert [v.words.endswith("patches side by side.") for v in said["patches"]] == [True]
    assert [v.words.endswith("layers of strokes.") for v in said["layers"]] == [True]


def test_a_step_changes_nowhere_and_a_ramp_everywhere() -> None:
    every = np.ones((80, 80), bool)
    step = np.where(np.arange(80) < 40, 2.0, 6.0)[None].repeat(80, axis=0).astype(np.float32)
    ramp = np.linspace(2, 6, 80, dtype=np.float32)[None].repeat(80, axis=0)
    assert usual_change(step, every, 0.5) < 0.05
    assert usual_change(ramp, every, 0.5) == pytest.approx(1, abs=0.02)
