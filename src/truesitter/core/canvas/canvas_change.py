"""What a pass changes of the canvas, kept in runs: plans are remembered by the dozen."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from truesitter.core.types import Counts, Ints

Stacks = NDArray[np.uint16] | Ints
"""Numbers of layer stacks, as small as they can be."""


@dataclass(frozen=True)
class Change:
    """Pixels that were changed, and the stack that each has now.

    Attributes
    ----------
    starts, lengths
        (r,) int32 first pixel of each run, counted row by row, and how many follow one another in it.
    stacks
        (n,) stack of each changed pixel, in that order.
    """

    starts: Ints
    lengths: Ints
    stacks: Stacks

    @classmethod
    def of(cls, where: Counts, stacks: Ints, most: int) -> Change:
        """A change from its pixels.

        Parameters
        ----------
        where
            (n,) pixels, counted row by row, ascending.
        stacks
            (n,) their stacks, below `most`.
        """
        first = np.flatnonzero(np.diff(where, prepend=-2) != 1)
        lengths = np.diff(first, append=len(where))
        small = stacks.astype(np.uint16) if most <= np.iinfo(np.uint16).max + 1 else stacks
        return cls(where[first].astype(np.int32), lengths.astype(np.int32), small)

    @property
    def where(self) -> Ints:
        """(n,) int32 the pixels, counted row by row."""
        before = np.cumsum(self.lengths) - self.lengths
        steps = np.repeat(self.starts - before, self.lengths)
        return np.asarray(steps + np.arange(len(steps)), np.int32)
