"""Practised strokes on skin, cloth and wall: one straight stroke says a plane, a bent one says nothing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.light.form.tuning import PLANE_BEND, PLANE_DEGREES
from truesitter.core.types import Floats


@dataclass(frozen=True)
class PlaneFault:
    """What is wrong with a stroke.

    Attributes
    ----------
    kind
        ``curved`` or ``against the form``.
    said
        In a sentence with its figure.
    x, y
        Where, in fractions.
    """

    kind: str
    said: str
    x: float
    y: float


def check_plane_stroke(points: Sequence[tuple[float, float]], directions: Floats) -> PlaneFault | None:
    """What is wrong with one stroke; None for a right one, or where nothing says which way it should go.

    Parameters
    ----------
    points
        At least two, x, y in fractions of the picture.
    directions
        (h, w, 2) which way the brush goes, y up; its sense does not matter, 0 where nothing says.
    """
    height, width = directions.shape[:2]
    way = np.array(points) * (width, height)
    chord = way[-1] - way[0]
    length = float(np.hypot(*chord))
    middle = points[len(points) // 2]
    if length < 1:
        return PlaneFault("curved", "It ends where it began: draw it in one direction.", *middle)
    off = way - way[0]
    bend = float(np.abs(off[:, 0] * chord[1] - off[:, 1] * chord[0]).max()) / length**2
    if bend > PLANE_BEND:
        said = f"It bends by {bend:.0%} of its length: one straight stroke says the plane."
        return PlaneFault("curved", said, *middle)
    at = [pixel_at(x, y, directions.shape) for x, y in points]
    found = np.array([directions[row, column] for row, column in at], np.float64)
    angle = np.arctan2(found[:, 1], found[:, 0])
    sure = np.hypot(*found.T)
    if sure.sum() < len(points) / 2:
        return None
    # Which end it points to says nothing: axes are averaged at twice their angle.
    mean = 0.5 * np.arctan2((sure * np.sin(2 * angle)).sum(), (sure * np.cos(2 * angle)).sum())
    drawn = np.arctan2(-chord[1], chord[0])
    apart = abs((np.degrees(drawn - mean) + 90) % 180 - 90)
    if apart > PLANE_DEGREES:
        said = f"It lies {apart:.0f}° off the way the brush goes there."
        return PlaneFault("against the form", said, *middle)
    return None
