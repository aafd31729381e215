"""Sight-size measuring: distances as multiples of a chosen unit, angles to the level, plumb lines."""

from __future__ import annotations

import math
from dataclasses import dataclass

from truesitter.core.refusal import Refusal

Point = tuple[float, float]


@dataclass(frozen=True)
class Reading:
    """One distance read off the picture.

    Attributes
    ----------
    mm
        On the canvas.
    angle
        Degrees from the level, counter-clockwise, in (−90, 90]; 90 is plumb.
    across, down
        Its level and upright parts in mm, as from the higher point.
    multiple
        The distance over the unit's, or None without a unit.
    """

    mm: float
    angle: float
    across: float
    down: float
    multiple: float | None = None


def read(start: Point, end: Point, canvas_mm: tuple[float, float], unit_mm: float | None = None) -> Reading:
    """Distance and angle between two points.

    Parameters
    ----------
    start, end
        (x, y) in fractions of the framed picture.
    canvas_mm
        Width and height of the canvas.
    unit_mm
        Length of the unit, > 0.
    """
    dx = (end[0] - start[0]) * canvas_mm[0]
    dy = (end[1] - start[1]) * canvas_mm[1]
    mm = math.hypot(dx, dy)
    angle = math.degrees(math.atan2(-dy, dx))
    if angle <= -90:
        angle += 180
    elif angle > 90:
        angle -= 180
    multiple = mm / unit_mm if unit_mm else None
    return Reading(mm=mm, angle=angle, across=abs(dx), down=abs(dy), multiple=multiple)


def levelling_turn(start: Point, end: Point, size: tuple[float, float]) -> float:
    """Degrees to turn the photograph counter-clockwise so that a line becomes level or plumb.

    Whichever of the two is nearer; in [−45, 45].

    Parameters
    ----------
    start, end
        (x, y) in fractions of the picture the line was drawn on.
    size
        Its width and height in any unit.

    Raises
    ------
    Refusal
        When the line has no length.

    Examples
    --------
    >>> round(levelling_turn((0.0, 0.0), (1.0, 0.1), (100.0, 100.0)), 2)
    5.71
    """
    dx, dy = (end[0] - start[0]) * size[0], (end[1] - start[1]) * size[1]
    if math.hypot(dx, dy) < 1e-9 * max(size):
        raise Refusal("draw a line along something that should be level or upright")
    angle = math.degrees(math.atan2(-dy, dx))
    return -(((angle + 45) % 90) - 45)
