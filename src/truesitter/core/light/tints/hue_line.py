"""How colour travels along a line over a cheek or a lock: the fewest stops that describe it."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.light.tints.tuning import LEAST, SAMPLES, TOLERANCE
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Floats


@dataclass(frozen=True)
class HueStop:
    """A colour to mix: how far along the line, where (fractions), and its L*a*b*."""

    along: float
    x: float
    y: float
    lab: tuple[float, float, float]


def sample(lab: Floats, points: Doubles, reach: float) -> tuple[Doubles, Doubles]:
    """Colours at equal distances along a line.

    Parameters
    ----------
    lab
        (h, w, 3) picture.
    points
        (n, 2) x, y in fractions, n ≥ 2.
    reach
        Colours are averaged over this distance, in pixels.

    Returns
    -------
    colours, spots
        (m, 3) and (m, 2) in fractions.
    """
    pixels = in_pixels(points, lab.shape)
    length = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(pixels, axis=0).T))])
    if length[-1] < LEAST * lab.shape[1]:
        raise Refusal("draw a longer line: this one is hardly more than a spot")
    at = np.linspace(0, length[-1], SAMPLES)
    way = np.stack([np.interp(at, length, axis) for axis in pixels.T], axis=1)
    smooth = cv2.GaussianBlur(lab, (0, 0), max(0.5, reach))
    x, y = (way.T - 0.5).astype(np.float32)
    colours = cv2.remap(smooth, x[None], y[None], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)[0]
    return colours.astype(np.float64), way / (lab.shape[1], lab.shape[0])


def _straight(colours: Doubles, first: int, last: int) -> bool:
    part = np.linspace(0, 1, last - first + 1)[:, None]
    between = colours[first] + (colours[last] - colours[first]) * part
    own = colours[first : last + 1]
    # Most pairs that are no blend show it at a quarter, half or three quarters of the way.
    few = np.array([len(own) // 4, len(own) // 2, 3 * len(own) // 4])
    if float(delta_e_2000(own[few], between[few]).max()) > TOLERANCE:
        return False
    return float(delta_e_2000(own, between).max()) <= TOLERANCE


def fewest_stops(colours: Doubles) -> tuple[int, ...]:
    """Which of some colours in a row are stops: the fewest that no colour lies farther off from.

    The shortest way through all pairs of samples that a straight blend joins.
    """
    count = len(colours)
    steps = [0] + [count] * (count - 1)
    before = [0] * count
    for last in range(1, count):
        for first in range(last):
            if steps[first] + 1 < steps[last] and _straight(colours, first, last):
                steps[last], before[last] = steps[first] + 1, first
    way = [count - 1]
    while way[-1]:
        way.append(before[way[-1]])
    return tuple(reversed(way))


def hue_stops(lab: Floats, points: Doubles, reach: float) -> tuple[HueStop, ...]:
    """The stops of a line; see `sample` for its parameters.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b*.
    points
        (n, 2) x, y in fractions.
    reach
        To either side, in fractions of the height.

    Returns
    -------
    tuple[HueStop, ...]
        Along the line.
    """
    colours, spots = sample(lab, points, reach)
    return tuple(
        HueStop(
            n / (len(colours) - 1),
            float(spots[n, 0]),
            float(spots[n, 1]),
            (float(colours[n, 0]), float(colours[n, 1]), float(colours[n, 2])),
        )
        for n in fewest_stops(colours)
    )
