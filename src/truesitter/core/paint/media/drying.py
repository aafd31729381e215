"""Drying shift: paint that dries lighter or darker than it was laid, per medium and paper.

Signed, in value steps, as a curve over the wet value. Most watercolour dries lighter and
most acrylic darker; a minority find otherwise, so the painter's own swatches rule.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from truesitter.core.paint.media.tuning import MOST_SHIFT
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles


@dataclass(frozen=True)
class DryingShift:
    """Wet and dry values of swatches, wet ones rising.

    Attributes
    ----------
    pairs
        (wet, dry) values 0–10, at least one.
    """

    pairs: tuple[tuple[float, float], ...]

    def __post_init__(self) -> None:
        """Refuse what no paint does.

        Raises
        ------
        Refusal
            For no pairs, values outside 0–10, or dry values that do not rise with the wet.
        """
        if not self.pairs:
            raise Refusal("a drying shift needs at least one wet and dry swatch")
        if any(not 0 <= v <= 10 for pair in self.pairs for v in pair):
            raise Refusal("values lie between 0 and 10")
        if any(b[0] - a[0] < 0.05 or b[1] < a[1] for a, b in pairwise(self.pairs)):
            raise Refusal("of two swatches the lighter wet one must also be the lighter dry one")
        if any(abs(dry - wet) > MOST_SHIFT for wet, dry in self.pairs):
            raise Refusal(f"no paint shifts by more than {MOST_SHIFT:g} value steps: check the swatches")

    def dry(self, wet: float) -> float:
        """Value after drying; beyond the swatches the nearest swatch's shift is kept."""
        return float(self._dried(np.array([wet]))[0])

    def wet(self, dry: float) -> float:
        """Value to lay so that it dries to the one wanted."""
        grid = np.linspace(0, 10, 2001)
        dried = np.maximum.accumulate(self._dried(grid))
        return float(np.interp(dry, dried + 1e-9 * grid, grid))

    def _dried(self, wet: Doubles) -> Doubles:
        wets = np.array([w for w, _ in self.pairs])
        shifts = np.array([d - w for w, d in self.pairs])
        return np.asarray(np.clip(wet + np.interp(wet, wets, shifts), 0, 10))
