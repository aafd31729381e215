"""The kinds of hair of a head: each has a field, a sense and strokes of its own."""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

import cv2
import numpy as np

from truesitter.core.hair.field.tuning import BEYOND_THE_MOUTH, INNER_BROW, STANDING
from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import BROW_EDGES, MOUTH_CORNERS, MOUTH_MIDDLE, NOSE_BASE, Face
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Floats, Labels, Mask, Shape


class Kind(IntEnum):
    """Kinds of hair; left and right as seen in the picture."""

    NONE = 0
    SCALP = 1
    BEARD = 2
    LEFT_MOUSTACHE = 3
    RIGHT_MOUSTACHE = 4
    LEFT_BROW = 5
    RIGHT_BROW = 6

    @property
    def spoken(self) -> str:
        """As it is said."""
        return _SPOKEN[self]


_SPOKEN = {
    Kind.NONE: "no hair",
    Kind.SCALP: "hair",
    Kind.BEARD: "beard",
    Kind.LEFT_MOUSTACHE: "moustache, left half",
    Kind.RIGHT_MOUSTACHE: "moustache, right half",
    Kind.LEFT_BROW: "left brow",
    Kind.RIGHT_BROW: "right brow",
}

MOUSTACHE = (Kind.LEFT_MOUSTACHE, Kind.RIGHT_MOUSTACHE)
BROWS = (Kind.LEFT_BROW, Kind.RIGHT_BROW)


def kinds_of(labels: Labels, face: Face | None) -> Labels:
    """Which kind of hair each pixel is.

    Parameters
    ----------
    labels
        (h, w) regions.
    face
        Without one facial hair is all beard, and brows are what their landmarks would be: none.

    Returns
    -------
    (h, w) numbers of `Kind`.
    """
    kinds = np.zeros(labels.shape, np.uint8)
    kinds[labels == Region.HAIR] = Kind.SCALP
    beard, brows = labels == Region.FACIAL_HAIR, labels == Region.BROWS
    kinds[beard] = Kind.BEARD
    if face is None:
        kinds[brows] = Kind.LEFT_BROW
        return kinds
    height, width = labels.shape
    columns = np.arange(width)[None, :]
    middle = face.at(NOSE_BASE, MOUTH_MIDDLE)[0] * width
    left, right = np.sort(face.line(MOUTH_CORNERS)[:, 0]) * width
    reach = BEYOND_THE_MOUTH * (right - left)
    rows = (np.arange(height)[:, None] + 0.5) / height
    above = beard & (rows < face.mouth_row) & (columns > left - reach) & (columns < right + reach)
    kinds[above & (columns < middle)] = Kind.LEFT_MOUSTACHE
    kinds[above & (columns >= middle)] = Kind.RIGHT_MOUSTACHE
    between = face.brow_middle[0] * width
    kinds[brows & (columns < between)] = Kind.LEFT_BROW
    kinds[brows & (columns >= between)] = Kind.RIGHT_BROW
    return kinds


def reduced_kinds(kinds: Labels, size: tuple[int, int]) -> Labels:
    """Kinds on a smaller grid (width, height): the hair that covers most of a pixel, if half of it."""
    if size == (kinds.shape[1], kinds.shape[0]):
        return kinds
    mask = cv2.resize((kinds > 0).astype(np.uint8), size, interpolation=cv2.INTER_AREA) > 0
    nearest = cv2.resize(kinds, size, interpolation=cv2.INTER_NEAREST)
    lost = mask & (nearest == 0)
    if lost.any():
        grown = cv2.dilate(nearest, np.ones((5, 5), np.uint8))
        nearest[lost] = grown[lost]
    return np.where(mask, np.where(nearest == 0, Kind.SCALP, nearest), 0).astype(np.uint8)


@dataclass(frozen=True)
class BrowLine:
    """The middle of a brow from the nose outward: where its hair points by its anatomy.

    Attributes
    ----------
    points
        (n, 2) x, y in fractions.
    up
        (2,) towards the top of the head, x right and y up.
    """

    points: Doubles
    up: Doubles

    @staticmethod
    def of(face: Face, side: int, aspect: float) -> BrowLine:
        """The left (0) or right (1) brow of a face; `aspect` is height / width of the picture.

        Parameters
        ----------
        face
            As found by the detector; None without one.
        side
            0 left, 1 right in the picture.
        aspect
            Height ÷ width of the picture.

        Returns
        -------
        BrowLine
            Its middle line.
        """
        upper, lower = BROW_EDGES[side]
        middle = (face.line(upper) + face.line(lower))[::-1] / 2
        return BrowLine(middle, face.axis(aspect) * (1, -1))

    def direction(self, mask: Mask) -> Floats:
        """Root→tip unit vectors, x right and y up, at the pixels of a mask: (n, 2)."""
        rows, columns = np.nonzero(mask)
        line = in_pixels(self.points, mask.shape)
        steps = np.diff(line, axis=0)
        lengths = np.hypot(*steps.T) + 1e-9
        start = np.concatenate([[0], np.cumsum(lengths)])[:-1]
        here = np.column_stack([columns, rows]) + 0.5
        offset = here[:, None, :] - line[None, :-1, :]
        along = np.clip((offset * steps).sum(axis=2) / lengths, 0, lengths)
        away = np.hypot(*np.moveaxis(offset - along[..., None] * (steps / lengths[:, None]), 2, 0))
        nearest = away.argmin(axis=1)
        share = (start[nearest] + along[np.arange(len(here)), nearest]) / lengths.sum()
        outward = (steps / lengths[:, None])[nearest] * (1, -1)
        vector = outward + STANDING * np.clip(1 - share / INNER_BROW, 0, 1)[:, None] * self.up
        return np.asarray(vector / np.hypot(*vector.T)[:, None], np.float32)


def brow_directions(kinds: Labels, face: Face, shape: Shape) -> Floats:
    """Anatomical root→tip directions of both brows, (h, w, 2); zero elsewhere.

    Parameters
    ----------
    kinds
        (h, w) kinds of hair.
    face
        As found by the detector; None without one.
    shape
        Height and width in pixels; more is ignored.

    Returns
    -------
    Floats
        (h, w, 2) unit vectors, x right, y up; zero elsewhere.
    """
    height, width = shape
    found = np.zeros((*shape, 2), np.float32)
    lines = [BrowLine.of(face, side, height / width) for side in (0, 1)]
    lines.sort(key=lambda line: float(line.points[:, 0].mean()))
    for kind, line in zip(BROWS, lines, strict=True):
        mask = kinds == kind
        if mask.any():
            found[mask] = line.direction(mask)
    return found
