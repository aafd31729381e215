"""Drawing: features that lie too high, too far to one side, turned, or too wide, in mm on the canvas.

Each feature is laid on the plan's own by itself, its light and contrast taken out, with the freedom to be
moved, turned and stretched; what it needs is what is wrong with it.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.easel.compare.tuning import (
    BETTER,
    CORNERED,
    DRAWING_OFFSETS_LEAST_MM,
    FARTHEST,
    LEAST_TURN,
    LEAST_WIDTH,
    LIKE,
    MOST_BENT,
    OUTLINE_MM,
    OUTLINE_SURER,
    PAD,
    SURE,
)
from truesitter.core.easel.find.correlation import correlation, displacement
from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import BROWS, EYES, LIPS, NOSE_OUTLINE, Face
from truesitter.core.types import Doubles, Floats, Mask

OUTLINE = "outline"


@dataclass(frozen=True, eq=False)
class Feature:
    """Something of the drawing: a name, and its box in pixels (left, top, right, bottom)."""

    name: str
    box: tuple[int, int, int, int]

    def inside(self) -> tuple[slice, slice]:
        """Its rows and columns."""
        left, top, right, bottom = self.box
        return slice(top, bottom), slice(left, right)


@dataclass(frozen=True)
class Offset:
    """How a feature lies against the plan.

    Attributes
    ----------
    name
        Of the feature.
    x, y
        Its middle as planned, in fractions.
    right_mm, down_mm
        How far it lies off.
    turn
        Degrees counter-clockwise.
    wide, tall
        Its width and height ÷ planned.
    box
        Its window in pixels.
    surer
        How much likelier the plan it gets by being laid on it, in correlation.
    """

    name: str
    x: float
    y: float
    right_mm: float
    down_mm: float
    turn: float
    wide: float
    tall: float
    box: tuple[int, int, int, int]
    surer: float

    @property
    def distance_mm(self) -> float:
        """How far it lies off in any direction."""
        return float(np.hypot(self.right_mm, self.down_mm))

    @property
    def wrong(self) -> bool:
        """True when it is worth telling; one that stays in its place has to be much likelier for it."""
        if self.name == OUTLINE:
            return self.distance_mm >= OUTLINE_MM and self.surer >= OUTLINE_SURER
        if self.distance_mm >= DRAWING_OFFSETS_LEAST_MM:
            return True
        bent = max(abs(self.wide - 1), abs(self.tall - 1)) >= LEAST_WIDTH
        return self.surer >= BETTER and (abs(self.turn) >= LEAST_TURN or bent)

    def words(self) -> str:
        """In a sentence."""
        said = []
        if self.distance_mm >= DRAWING_OFFSETS_LEAST_MM:
            parts = []
            if abs(self.down_mm) >= 0.35 * self.distance_mm:
                parts.append(f"{abs(self.down_mm):.0f} mm too {'low' if self.down_mm > 0 else 'high'}")
            if abs(self.right_mm) >= 0.35 * self.distance_mm:
                side = "right" if self.right_mm > 0 else "left"
                parts.append(f"{abs(self.right_mm):.0f} mm too far {side}")
            said.append(" and ".join(parts))
        if abs(self.turn) >= LEAST_TURN:
            said.append(f"turned {abs(self.turn):.0f}° {'anti-clockwise' if self.turn > 0 else 'clockwise'}")
        for ratio, more, less in ((self.wide, "wide", "narrow"), (self.tall, "tall", "low in height")):
            if abs(ratio - 1) >= LEAST_WIDTH:
                said.append(f"{abs(ratio - 1) * 100:.0f} per cent too {more if ratio > 1 else less}")
        return f"{self.name[:1].upper()}{self.name[1:]}: {', '.join(said)}."


def features_of(face: Face | None, shape: tuple[int, int]) -> tuple[Feature, ...]:
    """Features of a face, each with some room; none without a face."""
    if face is None:
        return ()
    groups = {
        "left eye": EYES[0], "right eye": EYES[1], "left brow": BROWS[0], "right brow": BROWS[1],
        "nose": NOSE_OUTLINE[7:20], "mouth": LIPS,
    }  # fmt: skip
    found = []
    for name, marks in groups.items():
        points = in_pixels(face.points[list(marks), :2], shape)
        low, high = points.min(axis=0), points.max(axis=0)
        room = np.maximum(PAD * (high - low), 0.18 * float(np.max(high - low)))
        found.append(Feature(name, _box(low - room, high + room, shape)))
    return tuple(found)


def _box(low: Doubles, high: Doubles, shape: tuple[int, int]) -> tuple[int, int, int, int]:
    return (
        max(0, int(low[0])), max(0, int(low[1])),
        min(shape[1], int(high[0]) + 1), min(shape[0], int(high[1]) + 1),
    )  # fmt: skip


def _tells(look: Floats) -> bool:
    """True when a window has borders in more than one direction: along a single one nothing can be told."""
    gy, gx = np.gradient(look)
    tensor = np.array([[(gx * gx).mean(), (gx * gy).mean()], [(gx * gy).mean(), (gy * gy).mean()]])
    low, high = np.linalg.eigvalsh(tensor)
    return bool(low > CORNERED * high)


def figure_parts(figure: Mask, count: int = 6) -> tuple[Feature, ...]:
    """Windows along the outline of a figure, for what no face gives a name."""
    edge = cv2.morphologyEx(figure.astype(np.uint8), cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8))
    side = round(max(figure.shape) / count)
    found = []
    for top in range(0, figure.shape[0] - side // 2, side):
        for left in range(0, figure.shape[1] - side // 2, side):
            box = left, top, min(left + side, figure.shape[1]), min(top + side, figure.shape[0])
            if edge[box[1] : box[3], box[0] : box[2]].sum() > 0.8 * side:
                found.append(Feature(OUTLINE, box))
    return tuple(found)


def offset_of(
    feature: Feature, own: Floats, plan: Floats, mm_per_px: float, searched: bool = False
) -> Offset | None:
    """How a feature lies; None where too little of it can be seen.

    Parameters
    ----------
    own, plan
        (h, w) of the painting and of its plan, normalised.
    mm_per_px
        Canvas mm to a pixel, > 0.
    searched
        True to look for it round its place too: lines are like nothing else, soft tones like much.
    """
    left, top, right, bottom = feature.box
    box = feature.inside()
    size = np.array((right - left, bottom - top), float)
    if size.min() < 16 or plan[box].std() < 0.3 or (feature.name == OUTLINE and not _tells(plan[box])):
        return None
    there = plan[box]
    # The window is looked for in a wider piece of the painting.
    room = round(0.5 * float(size.max()))
    wide = cv2.copyMakeBorder(own, room, room, room, room, cv2.BORDER_REPLICATE)
    around = wide[top : bottom + 2 * room, left : right + 2 * room]
    fits = [_laid_on(there, around, start + room) for start in _starts(there, own[box], around, searched)]
    best = max((f for f in fits if f is not None), key=lambda f: f[1], default=None)
    if best is None or best[1] < LIKE:
        return None
    warp, liked = best
    before = correlation(there, own[box], _middle_heavy(there.shape) > 0)
    matrix = warp[:, :2].astype(np.float64)
    middle = size / 2
    moved = matrix @ middle + warp[:, 2] - room - middle
    stretch = np.hypot(*matrix)
    if max(abs(moved[0]) / size[0], abs(moved[1]) / size[1]) > FARTHEST or abs(stretch - 1).max() > MOST_BENT:
        return None
    turn = -float(np.degrees(np.arctan2(matrix[1, 0] - matrix[0, 1], matrix[0, 0] + matrix[1, 1])))
    return Offset(
        feature.name, float((left + middle[0]) / own.shape[1]), float((top + middle[1]) / own.shape[0]),
        float(moved[0]) * mm_per_px, float(moved[1]) * mm_per_px, turn,
        float(stretch[0]), float(stretch[1]), feature.box, liked - before,
    )  # fmt: skip


def _starts(there: Floats, here: Floats, around: Floats, searched: bool) -> list[Doubles]:
    """Displacements (2,) from which a feature is laid on the plan: by phase, and where it is found likest."""
    size = np.array(there.shape[::-1])
    taper = cv2.createHanningWindow((there.shape[1], there.shape[0]), cv2.CV_64F)
    dx, dy, sure = displacement(there, here, taper)
    moved = np.array((dx, dy))
    starts = [moved if sure >= SURE and (np.abs(moved) <= FARTHEST * size).all() else np.zeros(2)]
    if not searched:
        return starts
    # A low feature that lies elsewhere by a good part of its height has left its own window.
    likest = cv2.matchTemplate(around, there, cv2.TM_CCOEFF_NORMED)
    middle = (np.array(likest.shape[::-1]) - 1) // 2
    reach = np.minimum(np.floor(FARTHEST * size).astype(int), middle)
    (left, top), (right, bottom) = middle - reach, middle + reach + 1
    _, _, _, spot = cv2.minMaxLoc(likest[top:bottom, left:right])
    found = np.array(spot, np.float64) - reach
    return starts if np.abs(found - starts[0]).max() < 2 else [*starts, found]


def _laid_on(there: Floats, around: Floats, start: Doubles) -> tuple[Floats, float] | None:
    """Affine (2, 3) that lays a feature on the plan, and how like it is then; None where it cannot be."""
    warp = np.array([[1, 0, start[0]], [0, 1, start[1]]], np.float32)
    rules = (cv2.TERM_CRITERIA_COUNT | cv2.TERM_CRITERIA_EPS, 80, 1e-5)
    try:
        _, warp = cv2.findTransformECC(
            there.astype(np.float32), around.astype(np.float32), warp, cv2.MOTION_AFFINE, rules, None, 3
        )
    except cv2.error:
        return None
    after = cv2.warpAffine(
        around, warp, there.shape[::-1], flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REPLICATE,
    )  # fmt: skip
    return warp, correlation(there, np.asarray(after), _middle_heavy(there.shape) > 0)


def _middle_heavy(shape: tuple[int, ...]) -> Mask:
    """The ellipse that fits a window."""
    y, x = (np.linspace(-1, 1, n) for n in shape[:2])
    return np.asarray((x[None] ** 2 + y[:, None] ** 2 <= 1.1).astype(np.uint8))


def offsets(
    features: tuple[Feature, ...], own: Floats, plan: Floats, mm_per_px: float, searched: bool = False
) -> tuple[Offset, ...]:
    """Every feature that can be measured.

    Parameters
    ----------
    features
        Of the drawing, with the box each lies in.
    own
        (h, w) of the painting.
    plan
        (h, w) of the plan, in the same unit.
    mm_per_px
        Canvas mm to a pixel, > 0.
    searched
        True to look for each round its place too, for drawings in lines.

    Returns
    -------
    tuple[Offset, ...]
        In the order of the features; those that cannot be measured are left out.
    """
    found = (offset_of(feature, own, plan, mm_per_px, searched) for feature in features)
    return tuple(o for o in found if o is not None)
