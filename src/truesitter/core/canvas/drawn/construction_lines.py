"""The first lines on a toned canvas: gesture of the figure, oval and axis of the head, levels across it.

They are drawn to measure by, thin, and are covered by what follows (common practice).
"""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.canvas.drawn.tuning import (
    CONSTRUCTION_POINTS,
    CONSTRUCTION_WIDTH,
    FINEST_MM,
    GESTURE_DEGREE,
    GESTURE_ROWS,
    HEAD_WIDE,
)
from truesitter.core.imaging.line import Line, evenly_spaced
from truesitter.core.sitter.face import BROWS, EYES, LIPS, NOSTRILS, Face
from truesitter.core.types import Doubles, Mask

LEVELS = (BROWS, EYES, NOSTRILS, (LIPS,))
"""Pairs of features, left and right, through which the levels of a face run, and its mouth."""


def construction_lines(
    face: Face | None, head: Mask, figure: Mask, size_mm: tuple[float, float]
) -> tuple[Line, ...]:
    """Lines to measure by.

    Parameters
    ----------
    face
        None without one: then only the gesture is drawn.
    head
        (h, w) skin, hair and hat: what an oval round the head holds.
    figure
        (h, w) everything that is not background.
    size_mm
        Width and height on the canvas.

    Returns
    -------
    tuple[Line, ...]
        With a face: oval, axis, levels of brows, eyes, nose and mouth; and the gesture last.
    """
    size = np.array(size_mm)
    found = [] if face is None else _head_lines(face, head, size)
    gesture = _gesture(figure, 0.0 if face is None else float(face.chin[1]))
    thick = CONSTRUCTION_WIDTH * (size_mm[1] if face is None else _face_mm(face, size))
    lines = [*found, *([] if gesture is None else [gesture])]
    return tuple(Line(points, np.full(len(points), max(thick, FINEST_MM))) for points in lines)


def _face_mm(face: Face, size: Doubles) -> float:
    return float(np.hypot(*((face.top - face.chin) * size)))


def _head_lines(face: Face, head: Mask, size: Doubles) -> list[Doubles]:
    """Oval, axis and levels, each (n, 2) in fractions."""
    up = face.axis(size[1] / size[0])
    across, chin = np.array((-up[1], up[0])), face.chin * size
    crown = _last_inside(head, face.brow_middle * size, up, size)
    centre, tall = (chin + crown) / 2, float(np.hypot(*(crown - chin)))
    half = [
        float(np.hypot(*(_last_inside(head, centre, side * across, size) - centre))) for side in (-1.0, 1.0)
    ]
    left, right = (min(h, HEAD_WIDE / 2 * tall) for h in half)
    middle = centre + across * (right - left) / 2
    wide = (left + right) / 2
    turn = np.linspace(0, 2 * np.pi, CONSTRUCTION_POINTS)
    oval = middle + np.outer(np.cos(turn), across) * wide + np.outer(np.sin(turn), up) * tall / 2
    lines = [oval, np.stack([chin, crown])]
    for pair in LEVELS:
        ends = [face.line(feature).mean(axis=0) * size for feature in pair]
        along = across if len(ends) == 1 else ends[-1] - ends[0]
        along = along / np.hypot(*along)
        along = along if along @ across > 0 else -along
        spot = np.mean(ends, axis=0)
        height = float(np.clip(((spot - centre) @ up) / (tall / 2), -1, 1))
        reach = wide * np.sqrt(1 - height**2)
        start = middle + up * ((spot - middle) @ up)
        lines.append(np.stack([start - along * reach, start + along * reach]))
    return [evenly_spaced(line, CONSTRUCTION_POINTS) / size for line in lines]


def _last_inside(mask: Mask, start: Doubles, direction: Doubles, size: Doubles) -> Doubles:
    """The farthest spot of a mask from a start in a direction before it is left for good, in mm."""
    shape = np.array(mask.shape[::-1])
    steps = np.arange(0, float(np.hypot(*size)), float(size[0]) / shape[0])
    spots = start + steps[:, None] * direction
    at = np.floor(spots / size * shape).astype(int)
    there = ((at >= 0) & (at < shape)).all(axis=1)
    inside = np.zeros(len(steps), bool)
    inside[there] = mask[at[there, 1], at[there, 0]]
    # A few pixels of something else, as a brow or a highlight, are no end.
    gaps = (
        cv2.morphologyEx(inside.astype(np.uint8).reshape(1, -1), cv2.MORPH_CLOSE, np.ones((1, 9))).ravel() > 0
    )
    end = int(np.argmin(gaps)) if not gaps.all() else len(gaps)
    return np.asarray(spots[max(0, end - 1)])


def _gesture(figure: Mask, from_y: float) -> Doubles | None:
    """A simple curve down the middle of the figure, (n, 2) in fractions; None for next to no figure."""
    rows = np.nonzero(figure.any(axis=1))[0]
    rows = rows[rows >= from_y * figure.shape[0]]
    if len(rows) < GESTURE_ROWS:
        return None
    columns = np.arange(figure.shape[1]) + 0.5
    middles = figure[rows] @ columns / figure[rows].sum(axis=1)
    y = (rows + 0.5) / figure.shape[0]
    curve = np.polyfit(y, middles / figure.shape[1], GESTURE_DEGREE)
    along = np.linspace(y[0], y[-1], CONSTRUCTION_POINTS)
    return np.asarray(np.stack([np.clip(np.polyval(curve, along), 0, 1), along], axis=1))
