"""What a printer makes of values: a wedge of even steps, read back, and the curve that puts it right."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from truesitter.core.easel.lamp.tuning import INVERTED, LEAST_RISE, TOLERANCE
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Floats


@dataclass(frozen=True)
class PrinterCurve:
    """What a printer makes of values.

    Attributes
    ----------
    pairs
        (asked, printed) values 0–10, rising.
    """

    pairs: tuple[tuple[float, float], ...]

    def __post_init__(self) -> None:
        """Refuse what no wedge is.

        Raises
        ------
        Refusal
            For too few steps, values outside 0–10, or a wedge that does not rise.
        """
        if len(self.pairs) < 4:
            raise Refusal("read at least four steps of the wedge")
        if any(not 0 <= v <= 10 for pair in self.pairs for v in pair):
            raise Refusal("values lie between 0 and 10")
        ordered = sorted(self.pairs)
        if any(b[0] - a[0] < LEAST_RISE for a, b in pairwise(ordered)):
            raise Refusal("two steps of the wedge are the same")
        if ordered[-1][1] - ordered[0][1] < 1:
            raise Refusal("the wedge hardly rises: was it read in the right order?")
        if any(b[1] < a[1] - TOLERANCE for a, b in pairwise(ordered)):
            raise Refusal("a step of the wedge is darker than the one before it: read it again")

    @property
    def reach(self) -> tuple[float, float]:
        """Darkest and lightest value that can be printed."""
        printed = [p for _, p in sorted(self.pairs)]
        return float(min(printed)), float(max(printed))

    def printed(self, asked: Floats | Doubles | float) -> Doubles:
        """What comes out for values asked for."""
        from scipy.interpolate import PchipInterpolator

        x, y = self._knots()
        return np.asarray(PchipInterpolator(x, y, extrapolate=False)(np.clip(asked, x[0], x[-1])))

    def ask(self, wanted: Floats | Doubles | float) -> Doubles:
        """What to ask for so that a value comes out; beyond the printer's reach its nearest."""
        x, _ = self._knots()
        # The curve itself turned round: a second one through the same knots would differ between them.
        asked = np.linspace(x[0], x[-1], INVERTED)
        out = self.printed(asked)
        return np.asarray(np.interp(np.clip(wanted, out[0], out[-1]), out, asked))

    def _knots(self) -> tuple[Doubles, Doubles]:
        x, y = (np.array(v) for v in zip(*sorted(self.pairs), strict=True))
        # Noise of the reading must not turn the curve back.
        y = np.maximum.accumulate(y)
        return x, y + np.arange(len(y)) * 1e-6

    def worst(self, values: Doubles) -> float:
        """Largest error, in steps, of values printed through the curve, inside the printer's reach."""
        low, high = self.reach
        inside = values[(values >= low) & (values <= high)]
        return float(np.abs(self.printed(self.ask(inside)) - inside).max()) if len(inside) else 0.0
