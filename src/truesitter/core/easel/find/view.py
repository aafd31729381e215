"""How a camera sees a flat painting: a homography and the bow of the lens."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from truesitter.core.easel.find.tuning import LEAST_SIDE
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Element, Floats, Shape

UNIT = np.array([(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)])
"""A painting's corners in its own fractions, top left and on clockwise."""


@dataclass(frozen=True)
class View:
    """Where each spot of a painting lies in a photograph.

    Attributes
    ----------
    matrix
        (3, 3) homography from fractions of the painting to pixels of the photograph as a straight lens
        would draw it.
    radial_distortion
        Radial bow: the photograph's corners are drawn inwards by so much of their distance from its middle.
    shape
        Height and width of the photograph in pixels.
    """

    matrix: Doubles
    radial_distortion: float
    shape: tuple[int, int]

    @classmethod
    def of_corners(cls, corners: Doubles, shape: tuple[int, int]) -> View:
        """From a painting's four corners (4, 2) in fractions of the photograph.

        Raises
        ------
        Refusal
            When they do not go round a convex shape, top left and on clockwise, or lie too near together.
        """
        points = np.asarray(corners, dtype=np.float64) * (shape[1], shape[0])
        along = np.roll(points, -1, axis=0) - points
        after = np.roll(along, -1, axis=0)
        turn = along[:, 0] * after[:, 1] - along[:, 1] * after[:, 0]
        if not np.isfinite(points).all() or np.hypot(*along.T).min() < LEAST_SIDE * max(shape):
            raise Refusal(
                "the painting's corners lie too near together: it has to fill more of the photograph"
            )
        if turn.min() <= 0:
            raise Refusal("the painting's corners go round it without crossing, its top left first")
        matrix = cv2.getPerspectiveTransform(UNIT.astype(np.float32), points.astype(np.float32))
        return cls(np.asarray(matrix, dtype=np.float64), 0.0, shape)

    def seen(self, spots: Doubles) -> Doubles:
        """Pixels (n, 2) of the photograph at which spots (n, 2) of the painting, in fractions, are seen."""
        flat = np.c_[spots, np.ones(len(spots))] @ self.matrix.T
        points = flat[:, :2] / flat[:, 2:]
        if self.radial_distortion == 0:
            return np.asarray(points)
        middle = np.array((self.shape[1], self.shape[0])) / 2
        away = points - middle
        r2 = (away**2).sum(axis=1, keepdims=True) / (middle**2).sum()
        return np.asarray(middle + away * (1 - self.radial_distortion * r2))

    def corners(self) -> Doubles:
        """The painting's corners (4, 2) in fractions of the photograph."""
        return self.seen(UNIT) / (self.shape[1], self.shape[0])

    def scaled(self, factor: float, shape: tuple[int, int]) -> View:
        """The same in a copy of the photograph of another size."""
        grow = np.diag((factor, factor, 1.0))
        return View(grow @ self.matrix, self.radial_distortion, shape)

    def where(self, shape: Shape, margin: int = 0) -> tuple[Floats, Floats]:
        """Column and row of the photograph that each pixel of the squared-up painting looks at.

        Parameters
        ----------
        shape
            Height and width of the painting when squared up.
        margin
            Pixels of what lies round it that are shown too, on every side.
        """
        height, width = shape[:2]
        # A grid a few pixels wide is enough: between its knots the view is as good as straight.
        step = 8
        columns = np.arange(-margin, width + margin + step, step, dtype=np.float64)
        rows = np.arange(-margin, height + margin + step, step, dtype=np.float64)
        x, y = np.meshgrid((columns + 0.5) / width, (rows + 0.5) / height)
        knots = self.seen(np.c_[x.ravel(), y.ravel()]).reshape(len(rows), len(columns), 2) - 0.5
        full_w, full_h = width + 2 * margin, height + 2 * margin
        at_x, at_y = np.meshgrid(
            np.arange(full_w, dtype=np.float32) / step, np.arange(full_h, dtype=np.float32) / step
        )
        maps = cv2.remap(
            knots.astype(np.float32), at_x, at_y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
        )
        return np.asarray(maps[..., 0]), np.asarray(maps[..., 1])

    def squared(self, photograph: NDArray[Element], shape: Shape, margin: int = 0) -> NDArray[Element]:
        """The painting squared up, (height, width, …) of the photograph's own kind.

        Parameters
        ----------
        photograph
            (H, W, …), 8-bit or float.
        shape
            Height and width in pixels; more is ignored.
        margin
            Pixels left round the painting.

        Returns
        -------
        ndarray
            (h, w, …) of the same kind.
        """
        x, y = self.where(shape, margin)
        shrink = self.pixels_to_one(shape)
        if shrink > 1.4:
            # What is shrunk is blurred first: single pixels would skip over fine marks.
            photograph = cv2.GaussianBlur(photograph, (0, 0), 0.45 * shrink)
        return cv2.remap(photograph, x, y, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)

    def pixels_to_one(self, shape: Shape) -> float:
        """Pixels of the photograph to one of the squared-up painting, in its middle."""
        spots = np.array([(0.5, 0.5), (0.5 + 1 / shape[1], 0.5), (0.5, 0.5 + 1 / shape[0])])
        at = self.seen(spots)
        return float(np.sqrt(np.hypot(*(at[1] - at[0])) * np.hypot(*(at[2] - at[0]))))
