"""The frame: which part of the photograph goes on the canvas, and how it is straightened."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.reference.tuning import LEAST_CROP_PX, LONGEST_STRIP, WORKING_LONG_SIDE
from truesitter.core.refusal import Refusal
from truesitter.core.types import Bytes, Doubles

Quad = tuple[tuple[float, float], tuple[float, float], tuple[float, float], tuple[float, float]]


@dataclass(frozen=True)
class Frame:
    """Canvas, crop and straightening.

    Attributes
    ----------
    canvas_mm
        Width and height of the canvas in mm.
    centre
        Centre of the crop, in fractions of the upright photograph.
    zoom
        1 = the largest crop of the canvas's proportions that fits; larger cuts closer.
    straighten
        Degrees by which the photograph is turned counter-clockwise, −45 to 45.
    keystone
        Four points of the upright photograph, in its fractions, that should form an upright
        rectangle: top left and on clockwise; None when the picture plane is true already.
    mirror
        The framed picture is turned left to right.
    quarter_turns
        The photograph is turned counter-clockwise so many times before all else.
    """

    canvas_mm: tuple[float, float] = (300.0, 400.0)
    centre: tuple[float, float] = (0.5, 0.5)
    zoom: float = 1.0
    straighten: float = 0.0
    keystone: Quad | None = None
    mirror: bool = False
    quarter_turns: int = 0

    def upright(self, width: float, height: float) -> tuple[float, float]:
        """Width and height of a photograph once it is turned."""
        return (height, width) if self.quarter_turns % 2 else (width, height)


@dataclass(frozen=True)
class Crop:
    """A placed crop in pixels of the photograph: centre, size and turn (degrees)."""

    centre: tuple[float, float]
    size: tuple[float, float]
    turn: float

    def corners(self) -> Doubles:
        """Corners (4, 2) in photograph pixels: top left, top right, bottom right, bottom left."""
        half_w, half_h = self.size[0] / 2, self.size[1] / 2
        c, s = math.cos(math.radians(self.turn)), math.sin(math.radians(self.turn))
        return np.array(
            [
                (self.centre[0] + c * x - s * y, self.centre[1] + s * x + c * y)
                for x, y in ((-half_w, -half_h), (half_w, -half_h), (half_w, half_h), (-half_w, half_h))
            ]
        )


def _extent(width: float, height: float, turn: float) -> tuple[float, float]:
    c, s = abs(math.cos(math.radians(turn))), abs(math.sin(math.radians(turn)))
    return width * c + height * s, width * s + height * c


def place(frame: Frame, width: int, height: int) -> Crop:
    """Place a frame on a photograph so that no corner falls outside it.

    Parameters
    ----------
    width, height
        Of the photograph as its file has it, in pixels.

    Raises
    ------
    Refusal
        For canvas sizes, zooms or angles that make no sense.
    """
    wide, high = frame.upright(width, height)
    canvas_w, canvas_h = frame.canvas_mm
    if not (10 <= canvas_w <= 5000 and 10 <= canvas_h <= 5000):
        raise Refusal("a canvas measures 10 to 5000 mm either way")
    if not 1 <= frame.zoom <= 20:
        raise Refusal("the crop can be 1 to 20 times closer than the whole picture")
    if not -45 <= frame.straighten <= 45:
        raise Refusal("a picture can be straightened by up to 45 degrees either way")
    # The photograph turns counter-clockwise under a fixed frame: the crop turns clockwise on it.
    turn = frame.straighten
    full_w, full_h = _extent(canvas_w, canvas_h, turn)
    scale = min(wide / full_w, high / full_h) / frame.zoom
    size = (canvas_w * scale, canvas_h * scale)
    if min(size) < LEAST_CROP_PX:
        raise Refusal(
            f"this canvas would show only {size[0]:.0f} × {size[1]:.0f} pixels of the photograph: "
            "frame it less closely, or choose a canvas less thin"
        )
    reach_w, reach_h = (e / 2 for e in _extent(*size, turn))
    x = min(max(frame.centre[0] * wide, reach_w), wide - reach_w)
    y = min(max(frame.centre[1] * high, reach_h), high - reach_h)
    return Crop(centre=(x, y), size=size, turn=turn)


def crop_scale(frame: Frame, width: int, height: int) -> float:
    """How many times longer a photograph is than the crop placed on it.

    Parameters
    ----------
    frame
        Crop, turn and corners.
    width, height
        Of the photograph, pixels.

    Returns
    -------
    float
        1 or more.
    """
    return max(width, height) / max(place(frame, width, height).size)


def apply(photograph: Bytes, frame: Frame, long_side: int | None = WORKING_LONG_SIDE) -> Bytes:
    """Cut the framed picture out of a photograph.

    Parameters
    ----------
    photograph
        SRGB (H, W, 3) uint8 as its file has it, at any reduced size.
    long_side
        Upper bound of the result's long side in pixels, None for none; nothing is enlarged.

    Returns
    -------
    (h, w, 3) uint8 with the canvas's proportions.
    """
    if frame.quarter_turns:
        photograph = turned(photograph, frame.quarter_turns)
        frame = replace(frame, quarter_turns=0)
    if frame.keystone is not None:
        photograph = rectify(photograph, frame.keystone)
    cut = _cut(photograph, frame, long_side)
    return np.ascontiguousarray(cut[:, ::-1]) if frame.mirror else cut


def whole_canvas(width: float, height: float, long_side: float) -> tuple[float, float]:
    """Width and height, in whole mm, of a canvas that takes all of a photograph.

    Parameters
    ----------
    width, height
        Of the photograph as it stands upright; a strip longer than 4 : 1 is cut to that.
    long_side
        Of the canvas, mm.

    Examples
    --------
    >>> whole_canvas(1600, 2000, 400.0)
    (320.0, 400.0)
    """
    short_side = float(round(long_side * max(min(width, height) / max(width, height), 1 / LONGEST_STRIP)))
    return (long_side, short_side) if width > height else (short_side, long_side)


def turned(picture: Bytes, quarter_turns: int) -> Bytes:
    """A picture turned counter-clockwise."""
    return np.ascontiguousarray(np.rot90(picture, quarter_turns))


def keystone_matrix(quad: Quad, width: int, height: int) -> Doubles:
    """Homography (3, 3) in pixels that turns a quadrilateral into an upright rectangle.

    The rectangle has the quadrilateral's mean width and height and its centre stays where it is.

    Parameters
    ----------
    quad
        Four corners in fractions, top left and on clockwise.
    width, height
        Of the photograph, pixels.

    Returns
    -------
    Doubles
        (3, 3).

    Raises
    ------
    Refusal
        When the four points do not go round a convex shape, top left and on clockwise.
    """
    corners = np.array(quad, dtype=np.float64) * (width, height)
    along = np.roll(corners, -1, axis=0) - corners
    turn = along[:, 0] * np.roll(along, -1, axis=0)[:, 1] - along[:, 1] * np.roll(along, -1, axis=0)[:, 0]
    if turn.min() <= 1e-3 * width * height / 100:
        raise Refusal("the four corners go round a shape without crossing, from the top left clockwise")
    top, right, bottom, left = np.hypot(along[:, 0], along[:, 1])
    half_w, half_h = (top + bottom) / 4, (left + right) / 4
    middle = corners.mean(axis=0)
    target = middle + np.array([(-half_w, -half_h), (half_w, -half_h), (half_w, half_h), (-half_w, half_h)])
    matrix = cv2.getPerspectiveTransform(corners.astype(np.float32), target.astype(np.float32))
    return np.asarray(matrix, dtype=np.float64)


def rectify(photograph: Bytes, quad: Quad) -> Bytes:
    """The photograph seen square on, at its own size; what lies outside repeats its edge."""
    height, width = photograph.shape[:2]
    matrix = keystone_matrix(quad, width, height)
    # Pixel centres lie half a pixel in: the homography is one of positions, not of pixel numbers.
    shift = np.array([[1, 0, 0.5], [0, 1, 0.5], [0, 0, 1]])
    turned = np.linalg.inv(shift) @ matrix @ shift
    return cv2.warpPerspective(
        photograph, turned, (width, height), flags=cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
    )


def _cut(photograph: Bytes, frame: Frame, long_side: int | None) -> Bytes:
    """The crop of a photograph, straightened and shrunk to a long side."""
    height, width = photograph.shape[:2]
    crop = place(frame, width, height)
    scale = 1.0 if long_side is None else min(1.0, long_side / max(crop.size))
    out_w, out_h = (max(1, round(side * scale)) for side in crop.size)
    corners = crop.corners()
    if crop.turn == 0 and scale <= 1:
        x0, y0 = (round(float(v)) for v in corners[0])
        x1, y1 = (round(float(v)) for v in corners[2])
        cut = photograph[max(0, y0) : y1, max(0, x0) : x1]
        if cut.shape[:2] == (out_h, out_w):
            return np.ascontiguousarray(cut)
        return cv2.resize(cut, (out_w, out_h), interpolation=cv2.INTER_AREA)
    if scale < 0.7:
        # Shrink first by area: a warp alone would skip pixels and break up fine hair.
        small = cv2.resize(photograph, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
        corners = corners * (small.shape[1] / width, small.shape[0] / height)
        photograph = np.asarray(small)
    target = np.array([(0, 0), (out_w, 0), (out_w, out_h)], dtype=np.float32) - 0.5
    matrix = cv2.getAffineTransform((corners[:3] - 0.5).astype(np.float32), target)
    return cv2.warpAffine(
        photograph, matrix, (out_w, out_h), flags=cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE
    )
