"""A knot, bun or tail root: hair gathered into a mass that stands out from the figure."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from scipy.ndimage import uniform_filter1d

from truesitter.core.hair.field.direction_field import AxisField
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.field.tuning import (
    BEFORE,
    BOTH_TURN,
    BREAK,
    LARGEST,
    LONGEST_NECK,
    MOSTLY_HAIR,
    NOTCH_SPAN,
    NOTCH_TURN,
    NOTCHES,
    RUNNING_IN,
    SEEN,
    SMALLEST,
    STANDS_OUT,
)
from truesitter.core.types import Doubles, Labels, Mask


@dataclass(frozen=True)
class Knot:
    """Hair gathered up.

    Attributes
    ----------
    mask
        (h, w) the knot itself.
    middle
        (2,) x, y in pixels of the mask.
    """

    mask: Mask
    middle: Doubles


def _notches(outline: Doubles, span: int, at_hair: Mask) -> list[tuple[int, float]]:
    """Numbers of the points where a closed outline turns most into the figure, beside hair."""
    before, after = np.roll(outline, span, axis=0), np.roll(outline, -span, axis=0)
    one, two = outline - before, after - outline
    turn = np.arctan2(one[:, 0] * two[:, 1] - one[:, 1] * two[:, 0], (one * two).sum(axis=1))
    found: list[tuple[int, float]] = []
    for n in np.argsort(turn):
        if turn[n] > -NOTCH_TURN or len(found) == NOTCHES:
            break
        if not at_hair[n]:
            continue
        apart = [min(abs(n - m), len(outline) - abs(n - m)) for m, _ in found]
        if all(a > span for a in apart):
            found.append((int(n), float(-turn[n])))
    return found


def find_knot(field: AxisField, figure: Mask, keep_out: Mask) -> Knot | None:
    """The knot that the head's hair is drawn into, if there is one.

    Parameters
    ----------
    figure
        (h, w) all of the sitter on the grid of the field.
    keep_out
        (h, w) what no knot covers: the face.
    """
    scalp = field.kinds == Kind.SCALP
    if scalp.sum() < 60:
        return None
    height = figure.shape[0]
    # Loose hairs are no outline.
    solid = cv2.morphologyEx((figure | scalp).astype(np.uint8), cv2.MORPH_OPEN, np.ones((5, 5), np.uint8))
    contours, _ = cv2.findContours(solid, cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_NONE)
    if not contours:
        return None
    # Walked so that a turn into the figure is negative, whichever way the contour came.
    outline = max(contours, key=cv2.contourArea)[:, 0].astype(np.float64)
    if cv2.contourArea(outline.astype(np.float32), oriented=True) < 0:
        outline = outline[::-1]
    span = max(3, round(NOTCH_SPAN * height))
    smooth = uniform_filter1d(outline, 5, axis=0, mode="wrap")
    best, best_score = None, 0.0
    near = cv2.dilate(scalp.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    columns, rows = outline.astype(int).T
    notches = _notches(smooth, span, near[rows, columns])
    for i, (one, turned) in enumerate(notches):
        for two, turned_too in notches[i + 1 :]:
            if turned + turned_too < BOTH_TURN:
                continue
            found = _cut_off(field, scalp, solid, keep_out, smooth[one], smooth[two])
            if found is not None and found[1] > best_score:
                best, best_score = found
    return best


def _cut_off(
    field: AxisField, scalp: Mask, solid: Labels, keep_out: Mask, one: Doubles, two: Doubles
) -> tuple[Knot, float] | None:
    """What a chord between two notches cuts off, and how well the strands run into it."""
    height = scalp.shape[0]
    chord = two - one
    length = float(np.hypot(*chord))
    if length < 4 or length > LONGEST_NECK * height:
        return None
    along, middle = chord / length, (one + two) / 2
    normal = np.array((-along[1], along[0]))
    cut = solid.copy()
    start, end = one - 2 * along, two + 2 * along
    cv2.line(cut, (round(start[0]), round(start[1])), (round(end[0]), round(end[1])), 0, 2)
    _, parts = cv2.connectedComponents(cut, connectivity=4)
    for side in (-1, 1):
        column, row = (int(v) for v in middle + 3 * side * normal)
        inside = 0 <= row < height and 0 <= column < scalp.shape[1]
        if not inside or parts[row, column] == 0:
            continue
        part = parts == parts[row, column]
        knot = part & scalp
        if not SMALLEST <= knot.sum() / scalp.sum() <= LARGEST:
            continue
        if knot.sum() < MOSTLY_HAIR * part.sum() or (part & keep_out).any():
            continue
        rows, columns = np.nonzero(scalp)
        offset = np.column_stack([columns, rows]) + 0.5 - middle
        # Through the neck: how far in, and which way.
        depth, beside = side * (offset @ normal), np.abs(offset @ along)
        double = 2 * (field.angle[rows, columns] - np.arctan2(-side * normal[1], side * normal[0]))
        within = knot[rows, columns]
        reach = BEFORE * height + 2
        before = ~within & (depth < -1) & (depth > -reach) & (beside < 0.5 * length)
        before &= field.coherence[rows, columns] > SEEN
        behind = within & (depth > 1) & (depth < reach)
        if before.sum() < 10 or not behind.any():
            continue
        running, going_on = (float(np.cos(double[which]).mean()) for which in (before, behind))
        stands_out = float(np.quantile(depth[within], 0.98)) / length
        if running > RUNNING_IN and running - going_on > BREAK and stands_out > STANDS_OUT:
            place = np.array((columns[within].mean() + 0.5, rows[within].mean() + 0.5))
            return Knot(knot, place), running - going_on
    return None
