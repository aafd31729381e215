"""From far off: does the brushwork read as layers, or as patches set side by side.

Between patches all change lies in their borders, and most of a place changes hardly at all; layers of strokes
change everywhere. What counts is how much the usual spot changes, as part of what the strongest borders do.
"""

from __future__ import annotations

import numpy as np

from truesitter.core.easel.rules.looked import Looked, Verdict
from truesitter.core.easel.rules.tuning import LAYERED, LEAST_PX, PATCHED, SEEN_FROM_MM
from truesitter.core.imaging.blur import blur
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Floats, Mask


def usual_change(value: Floats, where: Mask, mm_per_px: float) -> float:
    """How much the usual spot of a painting changes, as part of its strongest borders.

    Parameters
    ----------
    value
        (h, w) values 0–10 of the painting.
    where
        (h, w) the spots that count.
    mm_per_px
        Canvas mm to a pixel, > 0.

    Returns
    -------
    float
        0 for flat patches to about 0.3 for strokes all over.
    """
    down, right = np.gradient(blur(value, SEEN_FROM_MM / mm_per_px))
    middle, strong = np.quantile(np.hypot(down, right)[where], (0.5, 0.95))
    return float(middle / max(strong, 1e-6))


def brushwork(look: Looked) -> Verdict | None:
    """How the strokes read; no fault either way, and nothing where it is neither."""
    skin = look.region(Region.SKIN)
    if skin.sum() < LEAST_PX:
        return None
    change = usual_change(look.own, skin, look.mm_per_px)
    if PATCHED < change < LAYERED:
        return None
    words = (
        "From far off the brushwork of the skin reads as patches side by side."
        if change <= PATCHED
        else "From far off the brushwork of the skin reads as layers of strokes."
    )
    return Verdict("brushwork", True, words, change, PATCHED, "skin")
