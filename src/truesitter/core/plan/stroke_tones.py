"""The mixtures that strokes of one layer vary in: that of the pass, and it with a touch of one tube.

Painters do not lay one colour over and over: what lies beside the heap goes into it, a little, now and
then (common practice). Which stroke takes which is read from the reference under it.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.drawn.painted_lines import piece_cover
from truesitter.core.canvas.layer import Layer
from truesitter.core.imaging.line import Line
from truesitter.core.plan.laying import Scene
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.plan.touches import touched
from truesitter.core.plan.tuning import (
    FEWEST_STROKES,
    TONE_APART,
    TONE_GAIN,
    TONE_SHARE,
    TONE_STEPS,
    TONES_MOST,
)
from truesitter.core.types import Doubles, Ints


def with_stroke_tones(one: Pass, on: Canvas, scene: Scene, grey: bool) -> Pass:
    """A pass of strokes in the few mixtures that its strokes are nearest in.

    Parameters
    ----------
    one
        The pass, mixed as it is laid.
    on
        The canvas under it.
    scene
        All that a kind of pass may ask.
    grey
        True where it is painted without colour: only lighter and darker count.

    Returns
    -------
    Pass
        One film for each mixture, on the strokes that take it; the same where one mixture is enough.
    """
    laid = one.operations[0] if len(one.operations) == 1 else None
    if not isinstance(laid, Layer) or laid.film_mm is None or len(laid.lines) < FEWEST_STROKES:
        return one
    wanted = _line_colours(laid.lines, scene)
    wanted -= wanted.mean(axis=0)
    if grey:
        wanted[:, 1:] = 0.0
    made = list(touched(laid, on, scene, TONE_APART, TONE_STEPS))
    looks = np.array([tone.predicted.lab for tone in made])
    shifts = looks - looks[0]
    chosen = _fewest(wanted, shifts)
    if len(chosen) == 1:
        return one
    takes = np.asarray(_off(wanted, shifts[chosen]).argmin(axis=1))
    parted = [
        tuple(line for line, n in zip(laid.lines, takes, strict=True) if n == number)
        for number in range(len(chosen))
    ]
    layers = tuple(
        replace(laid, parts=made[which].parts, lines=lines, cover=cover)
        for which, lines, cover in zip(chosen, parted, _covers(laid, parted, scene), strict=True)
    )
    tones = tuple(
        replace(made[which], strokes=len(lines)) for which, lines in zip(chosen, parted, strict=True)
    )
    return replace(one, operations=layers, tones=tones)


def _covers(laid: Layer, parted: list[tuple[Line, ...]], scene: Scene) -> list[Doubles] | list[None]:
    """What each set of strokes covers of each piece, so that all of them cover what they did as one.

    Strokes lie side by side: what is laid later covers little of what was laid before it.
    """
    if laid.cover is None:
        return [None] * len(parted)
    alone = [piece_cover(lines, scene.patchwork, scene.subject.mm_per_px) for lines in parted]
    whole = np.sum(alone, axis=0)
    seen = [np.divide(laid.cover * one, whole, out=np.zeros_like(whole), where=whole > 0) for one in alone]
    found, later = list[Doubles](), np.zeros_like(whole)
    for share in reversed(seen):
        found.append(np.divide(share, 1 - later, out=np.zeros_like(share), where=later < 1 - 1e-9).clip(0, 1))
        later = later + share
    return found[::-1]


def _line_colours(lines: tuple[Line, ...], scene: Scene) -> Doubles:
    """Mean L*a*b* of the reference under each line, (n, 3)."""
    lab = scene.mapped_lab
    height, width = lab.shape[:2]
    points = np.concatenate([line.points for line in lines]) * (width, height)
    columns, rows = np.clip(points.astype(int), 0, (width - 1, height - 1)).T
    counts = np.array([len(line.points) for line in lines])
    sums = np.add.reduceat(lab[rows, columns].astype(np.float64), np.cumsum(counts) - counts, axis=0)
    return np.asarray(sums / counts[:, None])


def _off(wanted: Doubles, shifts: Doubles) -> Doubles:
    """How far each stroke (n) is from each mixture (m), (n, m) in L*a*b*."""
    return np.asarray(np.linalg.norm(wanted[:, None] - shifts[None], axis=2))


def _fewest(wanted: Doubles, shifts: Doubles) -> list[int]:
    """The own mixture (0), then one by one those that bring the strokes nearest, while it is worth it."""
    off = _off(wanted, shifts)
    chosen, best = [0], off[:, 0]
    while len(chosen) < TONES_MOST and off.shape[1] > 1:
        sums = np.minimum(off, best[:, None]).sum(axis=0)
        nearest = int(sums.argmin())
        if sums[nearest] > (1 - TONE_GAIN) * best.sum() or nearest in chosen:
            break
        takes: Ints = off[:, [*chosen, nearest]].argmin(axis=1)
        if np.bincount(takes, minlength=len(chosen) + 1).min() < TONE_SHARE * len(wanted):
            break
        chosen, best = [*chosen, nearest], np.minimum(best, off[:, nearest])
    return chosen
