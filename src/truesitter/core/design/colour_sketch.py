"""Small sketches in a few flat colours, to choose a design of colour before starting.

The few colours are those from which the picture is least far on average (k-means; Lloyd 1982), sitter and
background together. A design turns the colours before they are reduced; it leaves the values alone, so that
the drawing of light and dark holds in all of them.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import cv2
import numpy as np
from scipy.cluster.vq import kmeans2
from scipy.spatial import cKDTree

from truesitter.core.colour.spaces import WARM_AXIS, Lab, as_lab
from truesitter.core.design.tuning import (
    ACCENT_DEGREES,
    ACCENT_LEAST,
    GREYED,
    SKETCH_LIGHTNESS,
    SKETCH_SAMPLE,
    SKETCH_SEED,
    SKETCH_SMALLEST,
    SKETCH_STARTS,
    WARM_AND_COOL,
)
from truesitter.core.imaging.blur import blur
from truesitter.core.types import Doubles, Floats, Labels, Mask

ColourDesign = Literal[
    "as photographed", "warm light, cool shadow", "cool light, warm shadow", "greys and one accent"
]
DESIGNS: tuple[ColourDesign, ...] = get_args(ColourDesign)


@dataclass(frozen=True)
class SketchColour:
    """One flat colour of a sketch.

    Attributes
    ----------
    lab, share
        Its colour, and the part of the picture that it covers.
    """

    lab: Lab
    share: float


@dataclass(frozen=True)
class ColourSketch:
    """A picture in a few colours.

    Attributes
    ----------
    labels
        (h, w) number of the colour.
    colours
        Dark to light.
    """

    labels: Labels
    colours: tuple[SketchColour, ...]


def designed(lab: Floats, design: ColourDesign, sitter: Mask) -> Floats:
    """A picture (h, w, 3) in L*a*b* as a design turns its colours; its lightness stays.

    Parameters
    ----------
    lab
        (h, w, 3)
    design
        What is done.
    sitter
        (h, w) what is not background: an accent is looked for there.
    """
    if design == "as photographed":
        return lab
    out = lab.copy()
    if design == "greys and one accent":
        out[..., 1:] *= _accented(lab, sitter)[..., None]
        return out
    low, high = np.quantile(lab[..., 0], (0.05, 0.95))
    part = np.clip((lab[..., 0] - low) / max(float(high - low), 1e-3), 0, 1) * 2 - 1
    sign = 1 if design == "warm light, cool shadow" else -1
    return np.asarray(
        np.concatenate(
            [lab[..., :1], lab[..., 1:] + (sign * WARM_AND_COOL * part)[..., None] * WARM_AXIS], axis=2
        ),
        dtype=np.float32,
    )


def _accented(lab: Floats, sitter: Mask) -> Floats:
    """Factor for the chroma (h, w): all of it near the hue that stands out, little elsewhere."""
    chroma, hue = np.hypot(lab[..., 1], lab[..., 2]), np.arctan2(lab[..., 2], lab[..., 1])
    where = sitter if sitter.any() else np.ones(sitter.shape, bool)
    strong = where & (chroma >= np.quantile(chroma[where], 1 - ACCENT_LEAST))
    mean = np.angle((chroma[strong] * np.exp(1j * hue[strong])).sum())
    away = np.abs(np.angle(np.exp(1j * (hue - mean))))
    # The strongest of one hue: skin of the same hue goes grey with the rest.
    near = np.exp(-0.5 * (away / np.deg2rad(ACCENT_DEGREES)) ** 2)
    strength = np.clip(chroma / max(float(np.median(chroma[strong])), 1e-3), 0, 1) ** 2
    return np.asarray(GREYED + (1 - GREYED) * near * strength, dtype=np.float32)


def colour_sketch(lab: Floats, count: int) -> ColourSketch:
    """A picture in so few flat colours, without anything small.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b* of a small picture.
    count
        How many, 2–9; fewer where the picture has fewer.
    """
    height, width = lab.shape[:2]
    soft = blur(lab, SKETCH_SMALLEST * max(height, width) / 4)
    scale = np.array((SKETCH_LIGHTNESS, 1, 1), np.float32)
    samples = (soft * scale).reshape(-1, 3).astype(np.float64)
    count = min(count, len(np.unique(samples.round(1), axis=0)))
    numbers = cKDTree(_centres(samples, count)).query(samples)[1]
    labels = _without_small(numbers.reshape(height, width).astype(np.uint8), count)
    kept = [n for n in range(count) if (labels == n).any()]
    means = {n: lab[labels == n].mean(axis=0, dtype=np.float64) for n in kept}
    order = sorted(kept, key=lambda n: float(means[n][0]))
    out = np.zeros(labels.shape, np.uint8)
    for place, number in enumerate(order):
        out[labels == number] = place
    return ColourSketch(
        out, tuple(SketchColour(as_lab(means[n]), float((labels == n).mean())) for n in order)
    )


def _centres(samples: Doubles, count: int) -> Doubles:
    """The best of several runs of k-means on a part of the samples (n, 3); the same every time."""
    rng = np.random.default_rng(SKETCH_SEED)
    some = samples[rng.permutation(len(samples))[:SKETCH_SAMPLE]]
    best, least = samples[:1], float("inf")
    for _ in range(SKETCH_STARTS):
        centres, _ = kmeans2(some, _spread_start(some, count, rng), iter=20, minit="matrix", missing="raise")
        cost = float((cKDTree(centres).query(some)[0] ** 2).sum())
        if cost < least:
            best, least = centres, cost
    return best


def _spread_start(samples: Doubles, count: int, rng: np.random.Generator) -> Doubles:
    """First centres far from one another (k-means++, Arthur and Vassilvitskii 2007)."""
    centres = [samples[rng.integers(len(samples))]]
    far = ((samples - centres[0]) ** 2).sum(axis=1)
    while len(centres) < count:
        centres.append(samples[rng.choice(len(samples), p=far / far.sum())])
        far = np.minimum(far, ((samples - centres[-1]) ** 2).sum(axis=1))
    return np.stack(centres)


def _without_small(labels: Labels, count: int) -> Labels:
    """The same with every spot in the colour that most of its neighbourhood has."""
    sigma = SKETCH_SMALLEST * max(labels.shape) / 4
    share = np.stack([blur((labels == n).astype(np.float32), sigma) for n in range(count)])
    return np.asarray(share.argmax(axis=0).astype(np.uint8))


def painted_sketch(sketch: ColourSketch, times: int = 1) -> Floats:
    """L*a*b* of a sketch so many times as large, its shapes with smooth rims, (h, w, 3)."""
    table, labels = np.array([c.lab for c in sketch.colours], np.float32), sketch.labels
    if times > 1:
        height, width = labels.shape
        size = (times * width, times * height)
        shares = [
            cv2.resize((labels == n).astype(np.float32), size, interpolation=cv2.INTER_CUBIC)
            for n in range(len(table))
        ]
        labels = np.stack(shares).argmax(axis=0).astype(np.uint8)
    return table[labels]
