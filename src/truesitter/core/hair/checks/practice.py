"""Practised strokes checked against the growth of the hair (rules of common practice)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.hair.checks.tuning import (
    CROSS_DEGREES,
    LEAVES_DEGREES,
    ONE_LINE,
    ROOT_DEGREES,
    SAMPLES,
    TOGETHER,
    TOO_SHORT,
)
from truesitter.core.hair.field.guides import Points
from truesitter.core.hair.field.tuning import ROOT_PART
from truesitter.core.hair.strokes.hair_strokes import StrokeGround
from truesitter.core.hair.strokes.stroke_types import StrokeType
from truesitter.core.types import Doubles


@dataclass(frozen=True)
class StrokeFault:
    """What is wrong with one stroke.

    Attributes
    ----------
    stroke
        Its number from 0; −1 for what is said of all.
    kind
        ``root``, ``leaves early``, ``crosses``, ``short``, ``one line`` or ``no hair``.
    said
        In a sentence with its figure.
    x, y
        Where, in fractions.
    """

    stroke: int
    kind: str
    said: str
    x: float
    y: float


@dataclass(frozen=True)
class PracticeReport:
    """Faults, and how many strokes are right."""

    faults: tuple[StrokeFault, ...]
    right: int
    strokes: int


def _resampled(points: Points, size_mm: Doubles) -> Doubles:
    at = np.array(points, dtype=np.float64) * size_mm
    steps = np.hypot(*np.diff(at, axis=0).T)
    along = np.concatenate([[0], np.cumsum(steps)])
    wanted = np.linspace(0, along[-1], SAMPLES)
    return np.column_stack([np.interp(wanted, along, at[:, i]) for i in (0, 1)])


def check_strokes(strokes: tuple[Points, ...], ground: StrokeGround, type_: StrokeType) -> PracticeReport:
    """Check strokes drawn from root to tip.

    Parameters
    ----------
    strokes
        Each at least two points in fractions of the picture.
    ground
        Growth of the hair they were drawn for.
    type_
        How that hair is stroked.
    """
    height, width = ground.shape
    size_mm = np.array((width, height)) * ground.mm_per_px
    faults: list[StrokeFault] = []
    roots, lengths, ways = [], [], []
    for number, points in enumerate(strokes):
        path = _resampled(points, size_mm)
        x, y = points[0]
        length = float(np.hypot(*np.diff(path, axis=0).T).sum())
        way = np.diff(path, axis=0) * (1, -1)
        way = way / (np.hypot(*way.T)[:, None] + 1e-9)
        pixel = np.clip((path[:-1] / ground.mm_per_px).astype(int), 0, (width - 1, height - 1))
        flow = ground.directed[pixel[:, 1], pixel[:, 0]].astype(np.float64)
        on = np.hypot(*flow.T) > 0.1
        if not on[: SAMPLES // 3].any():
            faults.append(StrokeFault(number, "no hair", "It begins where there is no hair.", x, y))
            continue
        off = np.degrees(np.arccos(np.clip((way * flow).sum(axis=1), -1, 1)))
        off[~on] = 0
        root_end = max(2, round(ROOT_PART * len(off)))
        root = float(off[:2].mean())
        if root > 180 - CROSS_DEGREES:
            faults.append(
                StrokeFault(
                    number, "root", "It is drawn from tip to root; hair is set down at its root.", x, y
                )
            )
        elif root > ROOT_DEGREES:
            faults.append(StrokeFault(number, "root", f"It begins {root:.0f}° off its growth line.", x, y))
        elif off[:root_end].max() > LEAVES_DEGREES:
            at = int(np.argmax(off[:root_end] > LEAVES_DEGREES))
            said = (
                f"It leaves its line after {100 * at / len(off):.0f} % of its length; it should keep to it "
                f"for {ROOT_PART:.0%}."
            )
            faults.append(StrokeFault(number, "leaves early", said, *_spot(path[at], size_mm)))
        elif off.max() > CROSS_DEGREES:
            at = int(off.argmax())
            said = f"It runs across the growth, {off.max():.0f}° off."
            faults.append(StrokeFault(number, "crosses", said, *_spot(path[at], size_mm)))
        row, column = pixel[0, 1], pixel[0, 0]
        whole = float(ground.lock_length[row, column]) if type_.of_the_lock else ground.face_mm
        usual = type_.length[0] * (whole or 0.5 * ground.face_mm)
        if length < TOO_SHORT * usual:
            said = f"{length:.0f} mm is short for {type_.name} hair here: {usual:.0f} mm or more."
            faults.append(StrokeFault(number, "short", said, x, y))
        roots.append(path[0])
        lengths.append(length)
        ways.append(flow[on][0])
    faults += _one_line(roots, lengths, ways, size_mm)
    wrong = {fault.stroke for fault in faults if fault.stroke >= 0}
    return PracticeReport(tuple(faults), len(strokes) - len(wrong), len(strokes))


def _spot(at: Doubles, size_mm: Doubles) -> tuple[float, float]:
    return float(at[0] / size_mm[0]), float(at[1] / size_mm[1])


def _one_line(
    roots: list[Doubles], lengths: list[float], ways: list[Doubles], size_mm: Doubles
) -> list[StrokeFault]:
    """Strokes side by side whose starts lie on one line."""
    if len(roots) < TOGETHER:
        return []
    at, way = np.array(roots), np.mean(ways, axis=0) * (1, -1)
    norm = float(np.hypot(*way))
    if norm < 0.3:
        return []
    along = at @ (way / norm)
    spread = float(along.std()) * 2 / float(np.mean(lengths))
    if spread >= ONE_LINE:
        return []
    said = f"The starts lie on one line (spread over {100 * spread:.0f} % of their length): stagger them."
    return [StrokeFault(-1, "one line", said, *_spot(at.mean(axis=0), size_mm))]
