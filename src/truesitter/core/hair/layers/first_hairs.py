"""The first fine hairs of a hairline: begun on the skin before it, drawn into the mass."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from truesitter.core.hair.layers.tuning import BEFORE_MM, FIRST_MM, FIRST_POINTS, GAP_MM, ROOT_TO_TIP
from truesitter.core.hair.locks.tuning import HAIRS_A_CM
from truesitter.core.imaging.line import Line
from truesitter.core.types import Doubles, Floats


def first_hairs(
    spots: Sequence[tuple[float, float]], directed: Floats, mm_per_px: float, width_mm: float, seed: int
) -> tuple[Line, ...]:
    """Hairs by lot along a hairline, as many to a centimetre as it has.

    Parameters
    ----------
    spots
        x, y in fractions of the readings along the hairline, in order; between two that lie farther apart
        than a few millimetres there is none.
    directed
        (h, w, 2) root→tip direction, y up; 0 where there is no hair.
    mm_per_px
        Canvas mm to a pixel.
    width_mm
        Of the widest part of a hair.
    seed
        Chance is the same each time.

    Returns
    -------
    tuple[Line, ...]
        Each pointed at both ends: nothing of it stands on the skin like a post.
    """
    height, width = directed.shape[:2]
    line = np.array(spots).reshape(-1, 2) * (width, height)
    chance = np.random.default_rng(seed)
    gaps = np.hypot(*np.diff(line, axis=0).T) * mm_per_px
    starts = list[Doubles]()
    for here, there, gap in zip(line[:-1], line[1:], gaps, strict=True):
        if gap <= GAP_MM:
            along = chance.uniform(0, 1, round(gap / 10 * HAIRS_A_CM))
            starts += [here + (there - here) * share for share in along]
    if not starts:
        return ()
    at = np.array(starts)
    way = _way(directed, at, np.tile((0.0, -1.0), (len(at), 1)))
    before = chance.uniform(*BEFORE_MM, len(at)) / mm_per_px
    step = chance.uniform(*FIRST_MM, len(at)) / mm_per_px / (FIRST_POINTS - 1)
    at = at - way * before[:, None]
    runs = [at]
    for _ in range(FIRST_POINTS - 1):
        way = _way(directed, at, way)
        at = at + way * step[:, None]
        runs.append(at)
    full = width_mm * np.interp(np.linspace(0, 1, FIRST_POINTS), (0, 0.4, 1), ROOT_TO_TIP)
    return tuple(Line(points / (width, height), full) for points in np.stack(runs, axis=1))


def _way(directed: Floats, at: Doubles, before: Doubles) -> Doubles:
    """Unit direction (n, 2), y down, at points (n, 2) in pixels; as before where no hair says."""
    height, width = directed.shape[:2]
    columns, rows = np.clip(at.astype(int), 0, (width - 1, height - 1)).T
    here = directed[rows, columns] * (1, -1)
    size = np.hypot(*here.T)[:, None]
    return np.where(size > 0.5, here / np.maximum(size, 1e-6), before)
