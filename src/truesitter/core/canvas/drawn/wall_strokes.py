"""Loose, thick strokes over the background: a field that turns slowly, no two strokes alike."""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.drawn.tuning import (
    STROKE_APART,
    STROKE_BEND,
    STROKE_JOG,
    STROKE_LEAN,
    STROKE_LONG,
    STROKE_POINTS,
    STROKE_RIM,
    STROKE_SLANT,
    STROKE_TURN,
    STROKE_WAVES,
    STROKE_WIDE,
    STROKE_WIDE_MM,
)
from truesitter.core.imaging.line import Line
from truesitter.core.types import Doubles, Mask


def wall_strokes(wall: Mask, size_mm: tuple[float, float], seed: int) -> tuple[Line, ...]:
    """Strokes of a loaded brush that stay on the wall, a little apart from the figure.

    Parameters
    ----------
    wall
        (h, w) the background.
    size_mm
        Width and height on the canvas.
    seed
        Of the hand.
    """
    rng, size = np.random.default_rng(seed), np.array(size_mm)
    wide = float(np.clip(STROKE_WIDE * min(size_mm), *STROKE_WIDE_MM))
    step = STROKE_APART * wide
    rows = np.arange(step / 2, size_mm[1], step)
    spots = np.array([(x, y) for y in rows for x in np.arange(step / 2, size_mm[0], step)])
    if not len(spots):
        return ()
    spots = spots + rng.normal(0, STROKE_JOG * step, spots.shape)
    phase = rng.uniform(0, 2 * np.pi, 2)
    lines = []
    for spot in rng.permutation(spots):
        # The hand's slant, turning slowly over the wall, and never quite the same twice.
        wave = np.sin(STROKE_WAVES * 2 * np.pi * spot / size + phase).sum()
        turn = STROKE_SLANT + STROKE_TURN * wave + rng.normal(0, STROKE_LEAN)
        long, bend = wide * rng.uniform(*STROKE_LONG), rng.normal(0, STROKE_BEND)
        along = np.linspace(-0.5, 0.5, STROKE_POINTS)
        angle = turn + bend * along
        path = np.cumsum(np.stack([np.cos(angle), np.sin(angle)], axis=1), axis=0) * long / STROKE_POINTS
        points = _inside(spot + path - path.mean(axis=0), wall, size, wide)
        if len(points) >= STROKE_POINTS // 2:
            # Full where it is set down, dragged out at its end.
            taper = np.interp(np.linspace(0, 1, len(points)), (0, 0.1, 0.7, 1), (0.8, 1, 1, 0.5))
            lines.append(Line(points / size, wide * rng.uniform(0.7, 1.1) * taper))
    return tuple(lines)


def _inside(points: Doubles, wall: Mask, size: Doubles, wide: float) -> Doubles:
    """The longest run of a stroke (n, 2) in mm whose whole width lies on the wall."""
    shape = np.array(wall.shape[::-1])
    heading = np.gradient(points, axis=0)
    heading /= np.maximum(np.hypot(*heading.T)[:, None], 1e-9)
    across = np.stack([-heading[:, 1], heading[:, 0]], axis=1) * wide * STROKE_RIM
    there = np.ones(len(points), bool)
    for side in (-1, 0, 1):
        at = np.floor((points + side * across) / size * shape).astype(int)
        in_frame = ((at >= 0) & (at < shape)).all(axis=1)
        at = np.clip(at, 0, shape - 1)
        # Over the rim of the canvas a brush may run; over the figure it may not.
        there &= wall[at[:, 1], at[:, 0]] | ~in_frame
    inside = ((points >= 0) & (points < size)).all(axis=1) & there
    best, start = (0, 0), 0
    for end in range(len(points) + 1):
        if end == len(points) or not inside[end]:
            best = max(best, (start, end), key=lambda run: run[1] - run[0])
            start = end + 1
    return points[best[0] : best[1]]
