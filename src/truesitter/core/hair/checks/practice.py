"""Practised strokes checked against what they were asked for (rules of common practice)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.spatial import ConvexHull, QhullError, cKDTree

from truesitter.core.hair.checks.tuning import (
    ANY_WAY_DEGREES,
    BEADS,
    CLUMPED,
    CROSS_DEGREES,
    DROP,
    FEW_CURLS,
    FREER_DEGREES,
    LEAVES_DEGREES,
    MANY_ROOTS,
    ONE_LINE,
    ROOT_DEGREES,
    SAMPLES,
    SWELLS,
    TAPERS,
    TOGETHER,
    TOO_LONG,
    TOO_LONG_LOCKS,
    TOO_SHORT,
)
from truesitter.core.hair.field.guides import Points
from truesitter.core.hair.field.tuning import ROOT_PART
from truesitter.core.hair.strokes.curls import uncurled
from truesitter.core.hair.strokes.hair_strokes import StrokeGround
from truesitter.core.hair.strokes.hands import Hand, pull_of
from truesitter.core.hair.strokes.stroke_types import StrokeType
from truesitter.core.hair.strokes.tuning import CURLS_LONG, NO_LOCK
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.types import Doubles


@dataclass(frozen=True)
class Practised:
    """One stroke, and what it was asked to be.

    Attributes
    ----------
    points
        At least two, x, y in fractions of the picture, in the order of drawing.
    type
        How the hair is stroked where it lies.
    widths_mm
        (n,) width along it, evenly spaced; None where it was drawn without a brush.
    """

    points: Points
    type: StrokeType
    widths_mm: Doubles | None = None


@dataclass(frozen=True)
class StrokeFault:
    """What is wrong with one stroke.

    Attributes
    ----------
    stroke
        Its number from 0; −1 for what is said of all.
    kind
        ``root``, ``leaves early``, ``crosses``, ``short``, ``long``, ``even``, ``wet``, ``beads``,
        ``one line``, ``clumped`` or ``no hair``.
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


def check_strokes(strokes: Sequence[Practised], ground: StrokeGround, hand: Hand = "right") -> PracticeReport:
    """Check strokes drawn from root to tip, or from tip to root where the hand has to pull them so.

    Parameters
    ----------
    strokes
        With what each was asked to be.
    ground
        Growth of the hair they were drawn for.
    hand
        That draws them.
    """
    height, width = ground.shape
    size_mm = np.array((width, height)) * ground.mm_per_px
    faults: list[StrokeFault] = []
    drawn = list[_Drawn]()
    for number, one in enumerate(strokes):
        stroke = _Drawn.of(one, ground, size_mm, hand)
        x, y = one.points[0]
        if stroke is None:
            faults.append(StrokeFault(number, "no hair", "It begins where there is no hair.", x, y))
            continue
        drawn.append(stroke)
        told = [_course(stroke), _length(stroke, ground), *_widths(one)]
        for kind, said, at in (fault for fault in told if fault):
            spot = stroke.path[min(at, len(stroke.path) - 1)] / size_mm
            faults.append(StrokeFault(number, kind, said, float(spot[0]), float(spot[1])))
    faults += _together(drawn, size_mm)
    wrong = {fault.stroke for fault in faults if fault.stroke >= 0}
    return PracticeReport(tuple(faults), len(strokes) - len(wrong), len(strokes))


Told = tuple[str, str, int] | None
"""Kind of a fault, its sentence, and the number of the point where it is."""


@dataclass(frozen=True)
class _Drawn:
    """A stroke laid on the growth: its path in mm from root to tip, and how far off it runs, in degrees.

    A curl begins somewhere in its swing: so many degrees of slack are given to its way.
    """

    type: StrokeType
    path: Doubles
    off: Doubles
    flow: Doubles
    length: float
    slack: float = 0.0

    @classmethod
    def of(cls, one: Practised, ground: StrokeGround, size_mm: Doubles, hand: Hand) -> _Drawn | None:
        period, amplitude = _curl_of(one, ground)
        path = _resampled(_way(one.points, period, size_mm), size_mm)
        type_ = one.type
        if period and not type_.of_the_lock:
            part = period / ground.face_mm
            type_ = replace(type_, length=(CURLS_LONG[0] * part, CURLS_LONG[1] * part))
        stroke = cls._along(type_, path, ground)
        if stroke is None:
            return None
        if float(stroke.off[:2].mean()) > 180 - CROSS_DEGREES and pull_of(path[::-1], hand) == "tip":
            # An awkward stroke is pulled from its tip and ends on the line.
            stroke = cls._along(type_, path[::-1], ground) or stroke
        return replace(stroke, slack=float(np.degrees(np.arctan2(2 * amplitude, stroke.length))))

    @classmethod
    def _along(cls, type_: StrokeType, path: Doubles, ground: StrokeGround) -> _Drawn | None:
        height, width = ground.shape
        way = np.diff(path, axis=0) * (1, -1)
        way = way / (np.hypot(*way.T)[:, None] + 1e-9)
        # A chord goes the way that the growth has half way along it.
        middle = (path[:-1] + path[1:]) / 2 / ground.mm_per_px
        pixel = np.clip(middle.astype(int), 0, (width - 1, height - 1))
        flow = ground.directed[pixel[:, 1], pixel[:, 0]].astype(np.float64)
        on = np.hypot(*flow.T) > 0.1
        if not on[: SAMPLES // 3].any():
            return None
        off = np.degrees(np.arccos(np.clip((way * flow).sum(axis=1), -1, 1)))
        off[~on] = 0
        return cls(type_, path, off, flow[on][0], float(np.hypot(*np.diff(path, axis=0).T).sum()))

    @property
    def may_leave(self) -> float:
        """How far its free part may turn off, in degrees: curls turn round, waves swing."""
        swing = 2 * np.pi * self.type.waves / (1 - ROOT_PART) * self.type.wave
        turn = self.type.turn + 3 * self.type.irregular + float(np.arctan(swing))
        return max(CROSS_DEGREES, float(np.degrees(turn)) + FREER_DEGREES)


def _curl_of(one: Practised, ground: StrokeGround) -> tuple[float, float]:
    """Period and amplitude in mm that a stroke should curl with; (0, 0) where it should not."""
    row, column = pixel_at(*one.points[len(one.points) // 3], ground.shape)
    return ground.curl_at(row, column) if one.type.curls else (0.0, 0.0)


def _way(points: Points, period: float, size_mm: Doubles) -> Points:
    """The points of a stroke; of one that curls with its lock, those of its way."""
    at = np.array(points) * size_mm
    length = float(np.hypot(*np.diff(at, axis=0).T).sum())
    if not period:
        return points
    # A curl or two have no mean to speak of: they go from end to end.
    way = at[[0, -1]] if length < FEW_CURLS * period else uncurled(at, period)
    return tuple((float(x), float(y)) for x, y in way / size_mm)


def _resampled(points: Points, size_mm: Doubles) -> Doubles:
    at = np.array(points, dtype=np.float64) * size_mm
    steps = np.hypot(*np.diff(at, axis=0).T)
    along = np.concatenate([[0], np.cumsum(steps)])
    wanted = np.linspace(0, along[-1], SAMPLES)
    return np.column_stack([np.interp(wanted, along, at[:, i]) for i in (0, 1)])


def _course(stroke: _Drawn) -> Told:
    """The first thing that is wrong with its way."""
    off, root_end = stroke.off, max(2, round(ROOT_PART * len(stroke.off)))
    root = float(off[:2].mean())
    if root > 180 - CROSS_DEGREES:
        return "root", "It is drawn from tip to root; hair is set down at its root.", 0
    if root > ROOT_DEGREES + stroke.slack:
        return "root", f"It begins {root:.0f}° off its growth line.", 0
    most = LEAVES_DEGREES + stroke.slack
    if off[:root_end].max() > most:
        at = int(np.argmax(off[:root_end] > most))
        said = (
            f"It leaves its line after {100 * at / len(off):.0f} % of its length; it should keep to it "
            f"for {ROOT_PART:.0%}."
        )
        return "leaves early", said, at
    if off.max() > stroke.may_leave < ANY_WAY_DEGREES:
        at = int(off.argmax())
        return "crosses", f"It runs across the growth, {off.max():.0f}° off.", at
    return None


def _length(stroke: _Drawn, ground: StrokeGround) -> Told:
    height, width = ground.shape
    at = np.clip((stroke.path / ground.mm_per_px).astype(int), 0, (width - 1, height - 1))
    type_, shortest, longest = stroke.type, ground.face_mm, ground.face_mm
    if type_.of_the_lock:
        # It may run out of a short lock into a long one: either is right.
        locks = ground.lock_length[at[:, 1], at[:, 0]]
        locks = locks[locks > 0] if (locks > 0).any() else np.array([NO_LOCK * ground.face_mm])
        shortest, longest = float(locks.min()), float(locks.max())
    least, most = type_.length[0] * shortest, type_.length[1] * longest
    if stroke.length < TOO_SHORT * least:
        said = f"{stroke.length:.0f} mm is short for {type_.name} hair here: {least:.0f} mm or more."
        return "short", said, 0
    if stroke.length > (TOO_LONG_LOCKS if type_.of_the_lock else TOO_LONG) * most:
        said = f"{stroke.length:.0f} mm is long for {type_.name} hair here: {most:.0f} mm at most."
        return "long", said, SAMPLES - 1
    return None


def _widths(one: Practised) -> list[Told]:
    """What its width tells of the pressure and of the paint."""
    if one.widths_mm is None or len(one.widths_mm) < 6:
        return []
    widths = np.interp(np.linspace(0, 1, SAMPLES), np.linspace(0, 1, len(one.widths_mm)), one.widths_mm)
    full, tip = float(widths.max()), float(widths[-2:].mean())
    middle = float(np.median(widths[SAMPLES // 4 : 3 * SAMPLES // 4]))
    if _swellings(widths) >= BEADS:
        return [
            ("beads", "It swells and thins by turns: the paint beads. Less thinner, or a matt ground.", 0)
        ]
    if tip > DROP * middle:
        return [("wet", "A drop stands at its tip: the paint is too wet. Blot the brush.", SAMPLES - 1)]
    if tip > TAPERS * full:
        said = "As wide at its tip as before: ease the pressure, and lift it off. A wiry line is dead."
        return [("even", said, SAMPLES - 1)]
    return []


def _swellings(widths: Doubles) -> int:
    """How many times a stroke grows by a good part of its width after it had thinned by as much."""
    count, low, high, rising = 0, widths[0], widths[0], True
    for width in widths:
        if rising:
            high = max(high, width)
            if width < (1 - SWELLS) * high:
                count, rising, low = count + 1, False, width
        else:
            low = min(low, width)
            if width > low + SWELLS * high:
                rising, high = True, width
    return count


def _together(drawn: list[_Drawn], size_mm: Doubles) -> list[StrokeFault]:
    """What is said of strokes side by side: starts on one line, and starts in clumps."""
    if len(drawn) < TOGETHER:
        return []
    roots = np.array([one.path[0] for one in drawn])
    middle = roots.mean(axis=0) / size_mm
    way = np.mean([one.flow for one in drawn], axis=0) * (1, -1)
    norm = float(np.hypot(*way))
    found = []
    if norm >= 0.3:
        along = roots @ (way / norm)
        spread = float(along.std()) * 2 / float(np.mean([one.length for one in drawn]))
        if spread < ONE_LINE:
            part = f"spread over {100 * spread:.0f} % of their length"
            said = f"The starts lie on one line ({part}): stagger them."
            found.append(StrokeFault(-1, "one line", said, float(middle[0]), float(middle[1])))
    if len(drawn) >= MANY_ROOTS and all(one.type.bundle[1] == 1 for one in drawn):
        apart = _evenness(roots)
        if apart is not None and apart < CLUMPED:
            said = f"The starts stand in clumps, {apart:.0%} as far apart as by chance: spread them."
            found.append(StrokeFault(-1, "clumped", said, float(middle[0]), float(middle[1])))
    return found


def _evenness(roots: Doubles) -> float | None:
    """Mean distance to the nearest, beside that by chance (Clark & Evans 1954); None for points on a line."""
    try:
        area = float(ConvexHull(roots).volume)
    except QhullError:
        return None
    away, _ = cKDTree(roots).query(roots, k=2)
    return float(away[:, 1].mean() / (0.5 * np.sqrt(area / len(roots))))
