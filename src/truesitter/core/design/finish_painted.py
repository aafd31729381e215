"""What a finish does to what is painted: quieter marks, simpler shapes, fewer lines, less work."""

from __future__ import annotations

import numpy as np

from truesitter.core.design.focus import Finish
from truesitter.core.design.tuning import GOLDEN, LEAST_EFFORT, MASSES, SIMPLER_MM, SMALL
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.line import Line
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.types import Floats, Labels


def quieted(picture: Floats, finish: Finish) -> Floats:
    """A picture whose small contrast is no more than allowed, (h, w) or (h, w, 3)."""
    low = blur(picture, SMALL * picture.shape[0])
    share = np.divide(finish.allowed, finish.small, out=np.ones_like(finish.small), where=finish.small > 0)
    part = np.clip(share, 0, 1)
    return np.asarray(low + (picture - low) * (part if picture.ndim == 2 else part[..., None]), np.float32)


def simplified(groups: Labels, regions: Labels, weight: Floats, mm_per_px: float) -> Labels:
    """Value groups whose shapes are the larger the less they are looked at; no region takes from another.

    Parameters
    ----------
    groups, regions
        (h, w) value groups and regions.
    weight
        (h, w) of the finish.
    mm_per_px
        Canvas mm to a pixel, > 0.
    """
    out = groups.copy()
    for below, wide_mm in SIMPLER_MM:
        loose = weight < below
        for region in np.unique(regions[loose]) if loose.any() else ():
            inside = regions == region
            kinds = np.unique(groups[inside])
            share = np.stack(
                [blur((inside & (groups == k)).astype(np.float32), wide_mm / mm_per_px / 2) for k in kinds]
            )
            here = inside & loose
            out[here] = kinds[share[:, here].argmax(axis=0)]
    return out


def part_of(lines: tuple[Line, ...], share: float) -> tuple[Line, ...]:
    """An even choice of lines: a share of them, 0–1."""
    return tuple(line for number, line in enumerate(lines) if number * GOLDEN % 1 < share)


def kept_lines(lines: tuple[Line, ...], weight: Floats) -> tuple[Line, ...]:
    """Of some lines those that are painted: fewer and fewer below the weight of masses, evenly."""
    shape = (weight.shape[0], weight.shape[1])
    kept = []
    for number, line in enumerate(lines):
        x, y = np.clip(line.points[len(line.points) // 2], 0, 1 - 1e-9)
        share = min(1.0, float(weight[pixel_at(float(x), float(y), shape)]) / MASSES)
        if number * GOLDEN % 1 < share**2:
            kept.append(line)
    return tuple(kept)


def effort(weight: Floats) -> Floats:
    """Part of the work on each spot that is left where it is finished less, (h, w)."""
    return np.asarray(LEAST_EFFORT + (1 - LEAST_EFFORT) * weight, dtype=np.float32)
