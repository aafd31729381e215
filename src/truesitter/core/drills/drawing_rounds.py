"""Drills on the picture: light peaks, shadow masses, strokes along the hair, a contour on its head."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.drills.drill_picture import DrillPicture
from truesitter.core.drills.rounds import Answer, NotHere, Places, Point, Question, Rng, Round, Score
from truesitter.core.drills.tuning import (
    FAR,
    LEAST_PART,
    LONG,
    MOST_PEAKS,
    NEAR_MARK,
    POINTS,
    ROOT,
    SHOWN,
    THINS_TO,
)
from truesitter.core.imaging.line import evenly_spaced
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Mask


def find_the_peaks(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """As many marks as there are peaks, each held to the nearest."""
    del rng, places
    peaks = picture.peaks[:MOST_PEAKS]
    if not peaks:
        raise NotHere("no light peaks are found in this picture")
    true = np.array([(p.x, p.y) for p in peaks])
    height, width = picture.shape

    def score(answer: Answer) -> Score:
        if len(answer.points) != len(peaks):
            raise Refusal(f"mark {len(peaks)} places")
        from scipy.optimize import linear_sum_assignment

        given = np.array(answer.points)
        apart = np.hypot(*((given[:, None] - true[None]) * (width / height, 1)).transpose(2, 0, 1)) * 100
        apart = np.minimum(apart, FAR)
        # Each mark stands for one peak: the fairest way of pairing them.
        pairs = linear_sum_assignment(apart)
        off = float(apart[pairs].mean())
        names = ", ".join(p.name for p in peaks)
        words = f"On average {off:.1f} % of the height off. The peaks: {names}."
        return Score(off, off <= level, words, points=tuple((p.x, p.y) for p in peaks))

    return Round(Question(count=len(peaks), pictured=True), score)


def mass_the_shadows(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """Shapes drawn, held to the darker mass of the figure: what is not shared of both together."""
    del rng, places
    true, figure = picture.shadow, picture.figure
    if not true.any() or not (figure & ~true).any():
        raise NotHere("there are no two masses in this picture")

    def score(answer: Answer) -> Score:
        drawn = filled(answer.shapes, picture.shape) & figure
        if not drawn.any():
            raise Refusal("draw round the shadows: a line that closes")
        share = float((drawn & true).sum() / (drawn | true).sum())
        off = 100 * (1 - share)
        words = f"{100 * share:.0f} % of both masses together lie in each other."
        return Score(off, off <= level, words, lines=borders(true))

    return Round(Question(pictured=True), score)


def stroke_along(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """One stroke from a root: how far it leaves the growth there, and whether it thins out."""
    del places
    ys, xs = np.nonzero(np.hypot(picture.growth[..., 0], picture.growth[..., 1]) > 0.5)
    if not len(ys):
        raise NotHere("no hair is found in this picture")
    n = int(rng.integers(len(ys)))
    height, width = picture.shape
    root = ((float(xs[n]) + 0.5) / width, (float(ys[n]) + 0.5) / height)
    growth = picture.growth[ys[n], xs[n]].astype(np.float64)

    def score(answer: Answer) -> Score:
        line = np.array(answer.points, dtype=np.float64).reshape(-1, 2) * (width, height)
        if len(line) < 3 or len(answer.widths) != len(line):
            raise Refusal("draw one stroke from the mark")
        if np.hypot(*(line[0] - np.array(root) * (width, height))) > NEAR_MARK * height:
            raise Refusal("begin the stroke at the mark")
        length = np.r_[0.0, np.cumsum(np.hypot(*np.diff(line, axis=0).T))]
        if length[-1] < 0.02 * height:
            raise Refusal("the stroke is too short to be judged: draw it longer")
        leaves = line[np.searchsorted(length, ROOT * length[-1])] - line[0]
        angle = np.degrees(
            np.arccos(np.clip(leaves @ growth / max(1e-9, np.hypot(*leaves) * np.hypot(*growth)), -1, 1))
        )
        widths = np.array(answer.widths)
        thins = bool(np.median(widths[-max(1, len(widths) // 6) :]) <= THINS_TO * widths.max())
        off = float(angle)
        tail = "and it thins out" if thins else "but its end is as thick as its middle"
        words = f"It leaves the root {off:.0f} degrees off the growth, {tail}."
        along = np.array(root) + np.outer(np.linspace(0, SHOWN, 9), growth * (height / width, 1))
        return Score(
            off, off <= level and thins, words, lines=(tuple((float(x), float(y)) for x, y in along),)
        )

    return Round(Question(at=root, pictured=True), score)


def contour_upside_down(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """A piece of the figure's border, turned on its head, to be copied into an empty frame."""
    del places
    height, width = picture.shape
    line = _piece(picture.outline * (width, height), LONG * height, rng)
    if line is None:
        raise NotHere("the figure has no border inside this picture that is long enough")
    turned = (width, height) - line
    true = evenly_spaced(turned, POINTS)

    def score(answer: Answer) -> Score:
        given = np.array(answer.points, dtype=np.float64).reshape(-1, 2) * (width, height)
        if len(given) < 2 or np.ptp(given, axis=0).max() < 0.05 * height:
            raise Refusal("copy the whole line")
        drawn = evenly_spaced(given, POINTS)
        off = 100 * (_mean_distance(drawn, true) + _mean_distance(true, drawn)) / 2 / height
        words = f"On average {off:.1f} % of the height beside the line."
        return Score(off, off <= level, words, lines=(_fractions(true, picture.shape),))

    return Round(Question(line=_fractions(true, picture.shape)), score)


def filled(shapes: tuple[tuple[Point, ...], ...], shape: tuple[int, int]) -> Mask:
    """Where closed lines, in fractions, lie filled; what two of them share is in too."""
    height, width = shape
    mask = np.zeros(shape, np.uint8)
    for line in shapes:
        if len(line) > 2:
            # OpenCV counts from the middle of the first pixel.
            corners = np.round((np.array(line) * (width, height) - 0.5) * 16).astype(np.int32)
            cv2.fillPoly(mask, [corners], 1, shift=4)
    return mask > 0


def borders(mask: Mask) -> tuple[tuple[Point, ...], ...]:
    """Lines round the larger parts of a mask, in fractions."""
    found, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    large = [c[:, 0] + 0.5 for c in found if cv2.contourArea(c) > LEAST_PART * mask.size]
    shape = (mask.shape[0], mask.shape[1])
    return tuple(_fractions(c[:: max(1, len(c) // 200)], shape) for c in large)


def _fractions(line: Doubles, shape: tuple[int, int]) -> tuple[Point, ...]:
    height, width = shape
    return tuple((float(x) / width, float(y) / height) for x, y in line)


def _piece(line: Doubles, length: float, rng: Rng) -> Doubles | None:
    """A piece so long of a line, somewhere on it; None for a shorter line."""
    if len(line) < 2:
        return None
    along = np.r_[0.0, np.cumsum(np.hypot(*np.diff(line, axis=0).T))]
    if along[-1] < length:
        return None
    start = rng.uniform(0, along[-1] - length)
    return np.asarray(line[(along >= start) & (along <= start + length)])


def _mean_distance(points: Doubles, line: Doubles) -> float:
    """Mean distance of points to the nearest of a line's points."""
    return float(np.hypot(*(points[:, None] - line[None]).transpose(2, 0, 1)).min(axis=1).mean())
