"""Key and range of a painting as a whole, told from a few groups of values."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.easel.compare.squinted import Squinted
from truesitter.core.easel.compare.tuning import MIDDLE
from truesitter.core.types import Floats


@dataclass(frozen=True)
class ToneCurve:
    """What a painting's values do as a whole against the plan's.

    Attributes
    ----------
    shift
        Value steps by which all is too light.
    contrast
        Range painted ÷ range planned.
    darkest, lightest
        Values painted and planned of the darkest and the lightest fiftieth.
    curve
        Values wanted (ascending) and what they became, where the paint's own reach bends them.
    """

    shift: float
    contrast: float
    darkest: tuple[float, float]
    lightest: tuple[float, float]
    curve: tuple[tuple[float, ...], tuple[float, ...]] | None = None

    def explained(self, wanted: Floats) -> Floats:
        """Value steps (h, w) that follow from it alone."""
        if self.curve is not None:
            knots, became = (np.array(v) for v in self.curve)
            # Beyond the outermost groups what they are off by goes on.
            return np.asarray(np.interp(wanted, knots, became - knots), dtype=np.float32)
        return np.asarray(self.shift + (self.contrast - 1) * (wanted - MIDDLE), dtype=np.float32)


def whole_of(seen: Squinted, free: bool = False) -> ToneCurve:
    """How key and contrast stand, told from groups of values: few, but each the middle of many places."""
    at = seen.trusted
    if at.sum() < 100:
        return ToneCurve(0.0, 1.0, (0, 0), (0, 0))
    wanted, value = seen.wanted[at], seen.value[at]
    low, high = np.quantile(wanted, (0.02, 0.98))
    ends = [
        (float(np.mean(value[part])), float(np.mean(wanted[part])))
        for part in (wanted <= low, wanted >= high)
    ]
    edges = np.linspace(low, high + 1e-3, 13)
    bins = np.digitize(wanted, edges) - 1
    x, y, w = [], [], []
    for k in range(12):
        own = bins == k
        if own.mean() > 0.005:
            x.append(float(np.median(wanted[own])))
            y.append(float(np.median(value[own])))
            w.append(float(np.sqrt(own.mean())))
    if len(x) < 3 or high - low < 1.0:
        return ToneCurve(float(np.median(value - wanted)), 1.0, ends[0], ends[1])
    line = np.polyfit(np.array(x) - MIDDLE, np.array(y), 1, w=np.array(w))
    curve = None
    if free:
        # Paint reaches less far than a photograph: what is lost at either end is no fault of a place.
        order = np.argsort(x)
        rising = np.maximum.accumulate(np.array(y)[order])
        curve = tuple(np.array(x)[order].tolist()), tuple(rising.tolist())
    return ToneCurve(float(line[1] - MIDDLE), float(line[0]), ends[0], ends[1], curve)
