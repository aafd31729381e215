"""The picture cut into pieces that no border of any pass crosses: what is laid is laid on whole pieces.

A pass is then a row of yes and no, one for each piece, and a canvas one number for each:
a hundred or two instead of a million pixels.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray

from truesitter.core.canvas.tuning import MANY
from truesitter.core.types import Counts, Doubles, Floats, Labels, Mask, Pieces, Shape

Kind = TypeVar("Kind", np.uint8, np.bool_)


def _renumbered(labels: Pieces, kinds: int) -> tuple[Pieces, int]:
    """The same pieces numbered without gaps, and how many there are."""
    present = np.bincount(labels.ravel(), minlength=kinds) > 0
    return (np.cumsum(present, dtype=np.int32) - 1)[labels], int(np.count_nonzero(present))


@dataclass(frozen=True)
class Patchwork:
    """A picture in pieces.

    Attributes
    ----------
    labels
        (h, w) number of the piece at each pixel.
    sizes
        (n,) pixels of each piece, all above 0.
    first
        (n,) a pixel of each piece, row by row.
    """

    labels: Pieces
    sizes: Counts
    first: Counts

    @classmethod
    def of(cls, shape: Shape, *maps: Labels | Mask) -> Patchwork:
        """Pieces along every border of some maps (h, w) of small numbers; one piece without any.

        Raises
        ------
        ValueError
            When a map has another shape.
        """
        labels, kinds = np.zeros(shape, np.int32), 1
        for one in maps:
            if one.shape != labels.shape:
                raise ValueError(f"a map of {one.shape} for pieces of {shape}")
            here = int(one.max()) + 1
            if kinds * here > MANY:
                labels, kinds = _renumbered(labels, kinds)
            labels *= here
            labels += one
            kinds *= here
        labels, count = _renumbered(labels, kinds)
        first = np.zeros(count, np.int64)
        # Written backwards, so that the first pixel of a piece is the last to be kept.
        first[labels.ravel()[::-1]] = np.arange(labels.size - 1, -1, -1)
        return cls(labels, np.bincount(labels.ravel(), minlength=count), first)

    def at(self, values: NDArray[Kind]) -> NDArray[Kind]:
        """What a map (h, w) says of each piece, (n,): of one of the maps it was cut along, exactly."""
        return values.ravel()[self.first]

    def mask(self, pieces: Mask) -> Mask:
        """Where some pieces lie, (h, w)."""
        return pieces[self.labels]

    def sums(self, picture: Floats) -> Doubles:
        """Sum of a picture (h, w, c) over each piece, (n, c)."""
        flat = self.labels.ravel()
        channels = [np.bincount(flat, weights=picture[..., c].ravel()) for c in range(picture.shape[2])]
        return np.stack(channels, axis=1)

    def spread(self, values: Floats, bins: int, top: float) -> Doubles:
        """Histogram of a map (h, w) of values 0–`top` in each piece, (n, bins).

        Parameters
        ----------
        values
            (h, w) from 0 to `top`.
        bins
            Of the histogram.
        top
            Largest value.

        Returns
        -------
        Doubles
            Counts.
        """
        code = np.clip(values * (bins / top), 0, bins - 1).astype(np.int32)
        code += self.labels * bins
        return np.bincount(code.ravel(), minlength=len(self.sizes) * bins).reshape(-1, bins).astype(float)
