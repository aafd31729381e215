"""What a narrow dark of a face is called: after the crease or hollow that it lies nearest to."""

from __future__ import annotations

import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.light.form.tuning import NEAR
from truesitter.core.sitter import places
from truesitter.core.sitter.face import (
    LID_CREASES,
    LOWER_LIDS,
    NOSTRILS,
    PARTING,
    UPPER_LIDS,
    Face,
)
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Ints, Labels, Shape

_LINES: dict[str, tuple[int, ...]] = {
    "mouth line": PARTING[0][2:-2],
    "left corner of the mouth": (61, 78),
    "right corner of the mouth": (291, 308),
    "under the lip": (83, 18, 313),
    "left nostril": NOSTRILS[0],
    "right nostril": NOSTRILS[1],
    "crease of the left nose wing": (129, 203, 98),
    "crease of the right nose wing": (358, 423, 327),
    "left smile fold": (206, 216, 212),
    "right smile fold": (426, 436, 432),
    "left upper lid": UPPER_LIDS[0][:-1],
    "right upper lid": UPPER_LIDS[1][:-1],
    "crease of the left lid": LID_CREASES[0],
    "crease of the right lid": LID_CREASES[1],
    "left lower lid": LOWER_LIDS[0],
    "right lower lid": LOWER_LIDS[1],
    "inner corner of the left eye": (133, 243),
    "inner corner of the right eye": (362, 463),
}
"""Landmarks of each, read off the published canonical face mesh; left and right are the picture's."""


class Names:
    """Names of recesses on a map.

    Parameters
    ----------
    face
        None when none was found.
    shape
        Height and width of the map.
    own
        Places the painter named.
    regions
        (h, w) regions, for what lies under beard or collar.
    """

    def __init__(
        self,
        face: Face | None,
        shape: Shape,
        own: tuple[places.OwnPlace, ...] = (),
        regions: Labels | None = None,
    ) -> None:
        self._face, self._shape, self._own, self._regions = face, shape, own, regions
        self._lines: dict[str, Doubles] = {}
        if face is not None:
            self._lines = {name: in_pixels(_dense(face.line(marks)), shape) for name, marks in _LINES.items()}

    def _beside(self, deepest: tuple[int, int], reach: int) -> str | None:
        """Under beard or collar, where one of them is at hand."""
        if self._regions is None:
            return None
        row, column = deepest
        near = self._regions[
            max(0, row - reach) : row + reach + 1, max(0, column - reach) : column + reach + 1
        ]
        for region, words in ((Region.FACIAL_HAIR, "under the beard"), (Region.GARMENT, "under the collar")):
            if (near == region).any():
                return words
        return None

    def of(self, rows: Ints, columns: Ints, deepest: tuple[int, int]) -> str:
        """What a valley through some pixels is called, which is deepest at one of them.

        Parameters
        ----------
        rows
            Of the valley.
        columns
            And their columns.
        deepest
            Row and column.

        Returns
        -------
        str
            A name.
        """
        height, width = self._shape[:2]
        x, y = (deepest[1] + 0.5) / width, (deepest[0] + 0.5) / height
        place = places.place_of(x, y, self._face, height / width)
        own = places.own_name(x, y, self._own, height / width) if places.is_unnamed(place) else None
        if self._face is None or own:
            return f"crease, {own or place}"
        size = self._face.height(self._shape)
        step = max(1, len(rows) // 60)
        spots = np.stack([columns[::step], rows[::step]], axis=1) + 0.5
        away = np.array([_distances(spots, line) for line in self._lines.values()])
        # What most of it lies along.
        nearest = np.bincount(away.argmin(axis=0)[away.min(axis=0) <= NEAR * size], minlength=len(away))
        if nearest.sum() * 2 >= len(spots):
            return tuple(self._lines)[int(nearest.argmax())]
        beside = self._beside(deepest, round(NEAR * size))
        if place in ("neck", "figure") and beside:
            return beside
        if place == "neck" and y < self._face.chin[1] + 0.15 * size / height:
            return "under the jaw"
        named = {"neck": "crease of the neck", "figure": "crease of the figure"}
        named |= {ear: f"folds of the {ear}" for ear in ("left ear", "right ear")}
        return named.get(place, f"crease, {place}")


def _distances(spots: Doubles, line: Doubles) -> Doubles:
    """From each spot to the nearest point of a line."""
    return np.asarray(np.hypot(*(spots[:, None] - line).transpose(2, 0, 1)).min(axis=1))


def _dense(points: Doubles) -> Doubles:
    """A line with points enough to measure distances to."""
    at = np.linspace(0, len(points) - 1, 5 * len(points))
    return np.stack([np.interp(at, np.arange(len(points)), axis) for axis in points.T], axis=1)
