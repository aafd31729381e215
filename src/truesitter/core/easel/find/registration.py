"""The corners made exact: the painting laid on the plan's own canvas, to a fraction of a pixel.

Coarse, by the correlation of both pictures with their light and contrast taken out (Evangelidis &
Psarakis 2008); then by many small windows, each of which says by how much it is off, and the view that
most of them agree on. A feature that was painted in the wrong place is outvoted, and stays where it is.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.easel.find.correlation import correlation, displacement, normalised, normalised_grey
from truesitter.core.easel.find.tuning import (
    COARSE_LONG_SIDE,
    FARTHEST,
    FEWEST,
    FINE_LONG_SIDE,
    MOST_BOW,
    REGISTRATION_SURE,
    ROUNDS,
    STEP,
    WINDOW,
)
from truesitter.core.easel.find.view import View
from truesitter.core.imaging.reduce import grey
from truesitter.core.types import Bytes, Doubles, Floats


@dataclass(frozen=True)
class Registered:
    """A painting laid on its plan.

    Attributes
    ----------
    view
        How the camera saw it.
    rms_px
        What the windows that agree are still off by, in pixels of a picture with a long side of 1500.
    correlation
        Correlation with the plan once the light is taken out, −1 to 1.
    windows
        How many agree.
    """

    view: View
    rms_px: float
    correlation: float
    windows: int


def _size(template: Bytes, long_side: int) -> tuple[int, int]:
    scale = long_side / max(template.shape[:2])
    return max(8, round(template.shape[0] * scale)), max(8, round(template.shape[1] * scale))


def _template(template: Bytes, size: tuple[int, int]) -> Floats:
    return normalised_grey(cv2.resize(template, size[::-1], interpolation=cv2.INTER_AREA))


def coarse(photograph: Bytes, view: View, template: Bytes) -> View:
    """A view brought near by correlation; the same where that does not help.

    Parameters
    ----------
    photograph
        (H, W, 3) sRGB.
    view
        Where the painting is thought to lie.
    template
        (h, w, 3) sRGB of what it should show.

    Returns
    -------
    View
        At least as near.
    """
    size = _size(template, COARSE_LONG_SIDE)
    look = _template(template, size)
    margin = round(0.06 * max(size))
    own = normalised_grey(view.squared(photograph, size, margin))
    inside = np.zeros(size, np.uint8)
    rim = max(2, round(0.015 * max(size)))
    inside[rim:-rim, rim:-rim] = 1
    rules = (cv2.TERM_CRITERIA_COUNT | cv2.TERM_CRITERIA_EPS, 60, 1e-5)
    padded = cv2.copyMakeBorder(look, margin, margin, margin, margin, cv2.BORDER_REPLICATE)
    room = cv2.copyMakeBorder(inside, margin, margin, margin, margin, cv2.BORDER_CONSTANT, value=0)
    start = np.eye(3, dtype=np.float32)
    try:
        _, found = cv2.findTransformECC(own, padded, start, cv2.MOTION_HOMOGRAPHY, rules, room, 5)
    except cv2.error:
        return view
    # `found` leads from the squared-up photograph to the template; the view wants it the other way.
    back = np.linalg.inv(found.astype(np.float64))
    to_pixels = np.array([[size[1], 0, margin - 0.5], [0, size[0], margin - 0.5], [0, 0, 1]])
    step = np.linalg.inv(to_pixels) @ back @ to_pixels
    moved = replace(view, matrix=view.matrix @ step)
    return moved if _agreement(photograph, moved, look) > _agreement(photograph, view, look) else view


def _agreement(photograph: Bytes, view: View, look: Floats) -> float:
    own = grey(view.squared(photograph, look.shape[:2])).astype(np.float32)
    return correlation(normalised(own), look)


def _windows(own: Floats, look: Floats) -> tuple[Doubles, Doubles, Doubles]:
    """Middles (n, 2) in pixels, displacements (n, 2) and trust (n,) of many small windows."""
    height, width = look.shape
    taper = cv2.createHanningWindow((WINDOW, WINDOW), cv2.CV_64F)
    middles, moves, trust = [], [], []
    for y in range(0, height - WINDOW + 1, STEP):
        for x in range(0, width - WINDOW + 1, STEP):
            box = slice(y, y + WINDOW), slice(x, x + WINDOW)
            if look[box].std() < 0.25:
                continue
            dx, dy, sure = displacement(look[box], own[box], taper)
            if sure > REGISTRATION_SURE and np.hypot(dx, dy) < FARTHEST:
                middles.append((x + WINDOW / 2, y + WINDOW / 2))
                moves.append((dx, dy))
                trust.append(sure)
    return np.array(middles).reshape(-1, 2), np.array(moves).reshape(-1, 2), np.array(trust)


def _fitted(view: View, spots: Doubles, seen: Doubles, trust: Doubles, scale: float) -> View:
    """The view whose spots (n, 2) in fractions come nearest to where they are seen (n, 2) in pixels."""
    from scipy.optimize import least_squares

    start = np.r_[(view.matrix / view.matrix[2, 2]).ravel()[:8], view.radial_distortion]
    size = np.maximum(np.abs(start), np.r_[np.full(6, 1.0), 1e-3, 1e-3, 1e-3])
    weight = np.sqrt(trust / trust.mean())[:, None]

    def off(numbers: Doubles) -> Doubles:
        one = View(np.r_[numbers[:8], 1.0].reshape(3, 3), float(numbers[8]), view.shape)
        return np.asarray(((one.seen(spots) - seen) * weight).ravel() / scale)

    best = least_squares(off, start, x_scale=size, loss="cauchy", f_scale=0.5, max_nfev=60)
    radial_distortion = float(np.clip(best.x[8], -MOST_BOW, MOST_BOW))
    return View(np.r_[best.x[:8], 1.0].reshape(3, 3), radial_distortion, view.shape)


def register(photograph: Bytes, view: View, template: Bytes) -> Registered:
    """Lay a painting on its plan.

    Parameters
    ----------
    photograph
        (H, W, 3) sRGB.
    view
        From its corners, right to a few hundredths.
    template
        (h, w, 3) what it should look like, in any light and contrast.
    """
    view = coarse(photograph, view, template)
    size = _size(template, FINE_LONG_SIDE)
    look = _template(template, size)
    rms, agreeing = float("inf"), 0
    for _ in range(ROUNDS):
        own = normalised_grey(view.squared(photograph, size))
        middles, moves, trust = _windows(own, look)
        if len(middles) < FEWEST:
            break
        scale = view.pixels_to_one(size)
        now = view.seen((middles + moves) / (size[1], size[0]))
        view = _fitted(view, middles / (size[1], size[0]), now, trust, scale)
        left = np.hypot(*(view.seen(middles / (size[1], size[0])) - now).T) / scale
        near = left < 3 * max(0.3, float(np.median(left)))
        agreeing = int(near.sum())
        rms = float(np.sqrt((left[near] ** 2).mean())) * 1500 / max(size)
    return Registered(view, rms, _agreement(photograph, view, look), agreeing)
