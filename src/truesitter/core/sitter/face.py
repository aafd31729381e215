"""A face as found: its points by name, its outlines, its size; the one place that knows landmark numbers.

The index lists were read off the published canonical face mesh of the detector
(the numbering is fixed by the model); the names are the painter's.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.types import Doubles, Mask, Shape

MESH_POINTS = 468
"""The first so many landmarks are the surface; the others are the irises."""

OVAL = (
    10, 338, 297, 332, 284, 251, 389, 356, 454, 323, 361, 288, 397, 365, 379, 378, 400, 377,
    152, 148, 176, 149, 150, 136, 172, 58, 132, 93, 234, 127, 162, 21, 54, 103, 67, 109,
)  # fmt: skip
LIPS = (
    61, 185, 40, 39, 37, 0, 267, 269, 270, 409, 291, 375, 321, 405, 314, 17, 84, 181, 91, 146,
)  # fmt: skip
EYES = (
    (33, 246, 161, 160, 159, 158, 157, 173, 133, 155, 154, 153, 145, 144, 163, 7),
    (263, 466, 388, 387, 386, 385, 384, 398, 362, 382, 381, 380, 374, 373, 390, 249),
)
BROWS = (
    (70, 63, 105, 66, 107, 55, 65, 52, 53, 46),
    (300, 293, 334, 296, 336, 285, 295, 282, 283, 276),
)
NOSTRILS = (
    (98, 97, 2, 60, 99, 240),
    (327, 326, 2, 290, 328, 460),
)

NOSE_OUTLINE = (
    168,
    193,
    122,
    196,
    236,
    198,
    209,
    49,
    129,
    98,
    97,
    2,
    326,
    327,
    358,
    279,
    429,
    420,
    456,
    419,
    351,
    417,
)
UPPER_LIP_FIELD = (
    98, 97, 2, 326, 327, 322, 410, 291, 308, 415, 310, 311, 312, 13, 82, 81, 80, 191, 78, 61, 186, 92,
)  # fmt: skip

PARTING = (
    (78, 191, 80, 81, 82, 13, 312, 311, 310, 415, 308),
    (78, 95, 88, 178, 87, 14, 317, 402, 318, 324, 308),
)
"""Where the lips meet: the upper and the lower one, from corner to corner."""
LID_CREASES = ((247, 30, 29, 27, 28, 56, 190), (467, 260, 259, 257, 258, 286, 414))
UPPER_LIDS = ((33, 246, 161, 160, 159, 158, 157, 173, 133), (263, 466, 388, 387, 386, 385, 384, 398, 362))
"""From the outer corner to the inner one."""
LOWER_LIDS = ((33, 7, 163, 144, 145, 153, 154, 155), (263, 249, 390, 373, 374, 380, 381, 382))
BROW_EDGES = (
    ((70, 63, 105, 66, 107), (46, 53, 52, 65, 55)),
    ((300, 293, 334, 296, 336), (276, 283, 282, 295, 285)),
)
"""Upper and lower border of each brow, from the temple to the nose."""

LEFT_EYE_CORNERS, RIGHT_EYE_CORNERS = (33, 133), (362, 263)
MOUTH_CORNERS, PUPILS, NOSE_WINGS, CHEEKS, TEMPLES = (61, 291), (468, 473), (129, 358), (234, 454), (127, 356)
BROW_PEAKS = (105, 334)
IRISES = ((468, 469, 470, 471, 472), (473, 474, 475, 476, 477))
"""Middle and rim of each."""
MOUTH_MIDDLES = (13, 14)
TOP, BROW_MIDDLE, NOSE_BASE, MOUTH_MIDDLE, CHIN = 10, 9, 2, 14, 152


@dataclass(frozen=True, eq=False)
class Face:
    """A frontal or three-quarter face.

    Attributes
    ----------
    points
        (478, 3) landmarks as fractions of the picture's width and height (x, y) and of its
        width (z, towards the camera negative).
    """

    points: Doubles

    def at(self, *landmarks: int) -> Doubles:
        """Middle (x, y) of one or more landmarks, in fractions."""
        return np.asarray(self.points[list(landmarks), :2].mean(axis=0))

    def spot(self, *landmarks: int) -> tuple[float, float]:
        """As `at`, as plain numbers."""
        x, y = self.at(*landmarks)
        return float(x), float(y)

    def line(self, landmarks: tuple[int, ...]) -> Doubles:
        """A line through landmarks, (n, 2) x, y in fractions."""
        return np.asarray(self.points[list(landmarks), :2])

    @property
    def chin(self) -> Doubles:
        """Tip of the chin, (x, y) in fractions."""
        return self.at(CHIN)

    @property
    def top(self) -> Doubles:
        """Top of the outline, below the hairline."""
        return self.at(TOP)

    @property
    def brow_middle(self) -> Doubles:
        """Between the brows."""
        return self.at(BROW_MIDDLE)

    @property
    def brow_row(self) -> float:
        """Height of the brows, as a fraction of the picture's height."""
        return float(self.at(*BROWS[0], *BROWS[1])[1])

    @property
    def brow_peak_row(self) -> float:
        """Height of the peaks of the brows."""
        return float(self.at(*BROW_PEAKS)[1])

    @property
    def nose_base_row(self) -> float:
        """Height of the base of the nose."""
        return float(self.at(NOSE_BASE)[1])

    @property
    def mouth_row(self) -> float:
        """Height of the middle of the mouth."""
        return float(self.at(MOUTH_MIDDLE)[1])

    def height(self, shape: Shape) -> float:
        """Distance from the top of the outline to the chin, in pixels of `shape`."""
        return float(np.hypot(*in_pixels(self.chin - self.top, shape)))

    def axis(self, aspect: float) -> Doubles:
        """Unit vector from chin to top in true proportions, y down; `aspect` is height / width."""
        up = (self.top - self.chin) * (1.0, aspect)
        return np.asarray(up / np.hypot(*up))

    def outline_mask(self, landmarks: tuple[int, ...], shape: Shape, grow: float = 1.0) -> Mask:
        """Filled outline through landmarks, scaled about its centre by `grow`; bool (h, w).

        Parameters
        ----------
        landmarks
            Numbers, in order round the outline.
        shape
            Height and width in pixels; more is ignored.
        grow
            1 keeps its size.

        Returns
        -------
        Mask
            (h, w)
        """
        points = in_pixels(self.points[list(landmarks), :2], shape)
        centre = points.mean(axis=0)
        polygon = np.round((points - centre) * grow + centre).astype(np.int32)
        canvas = np.zeros(shape, np.uint8)
        cv2.fillPoly(canvas, [polygon], 1)
        return canvas.astype(bool)

    def feature_mask(self, shape: Shape, grow: float = 1.25) -> Mask:
        """Eyes, nostrils and mouth: where shapes must be allowed to be smaller; bool (h, w)."""
        mask = self.outline_mask(LIPS, shape, grow)
        for outline in EYES + NOSTRILS:
            mask |= self.outline_mask(outline, shape, grow)
        return mask

    def iris(self, side: int, shape: Shape) -> tuple[Doubles, float]:
        """Middle (x, y) and radius of the left (0) or right (1) iris, in pixels of `shape`."""
        points = in_pixels(self.line(IRISES[side]), shape)
        return points[0], float(np.hypot(*(points[1:] - points[0]).T).mean())

    def iris_mask(self, shape: Shape) -> Mask:
        """Both irises with their pupils; bool (h, w)."""
        canvas = np.zeros(shape, np.uint8)
        for side in (0, 1):
            (x, y), radius = self.iris(side, shape)
            cv2.circle(canvas, (round(x), round(y)), round(radius * 1.1), 1, -1)
        return canvas.astype(bool)

    def brow_mask(self, shape: Shape, grow: float = 1.35) -> Mask:
        """Both brows with the hairs round them; bool (h, w)."""
        mask = np.zeros(shape, bool)
        for upper, lower in BROW_EDGES:
            mask |= self.outline_mask((*upper, *lower[::-1]), shape, grow)
        return mask

    def mesh(self, shape: Shape) -> Doubles:
        """Landmarks (n, 3) inside the outline, in pixels, z like x.

        The outermost ring is left out: it bends away where the mesh has no support.
        """
        keep = np.setdiff1d(np.arange(MESH_POINTS), OVAL)
        height, width = shape
        return np.asarray(self.points[keep] * (width, height, width))
