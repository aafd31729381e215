"""Families of flesh shadow: painters turn the whole shadow of a face to one side, at the value it has."""

from __future__ import annotations

from typing import Literal

import numpy as np

from truesitter.core.design.tuning import FADES_MM
from truesitter.core.imaging.blur import blur
from truesitter.core.types import Floats, Mask

ShadowFamily = Literal["greened", "purple", "earth", "violet"]

TURNS: dict[ShadowFamily, tuple[float, float]] = {
    "greened": (-7.0, 0.0), "purple": (3.0, -7.0), "earth": (4.0, 4.0), "violet": (0.0, -10.0),
}  # fmt: skip
"""What is added to a* and b* in the depth of the shadow [try]."""


def turned(
    lab: Floats, shadow: Mask, family: ShadowFamily | None, mm_per_px: float, hollows: Mask | None = None
) -> Floats:
    """A picture whose flesh shadows are turned to a family; values stay as they are.

    Parameters
    ----------
    lab
        (h, w, 3).
    shadow
        (h, w) the shadow of bare skin.
    family
        None for shadows as photographed.
    mm_per_px
        Canvas mm to a pixel.
    hollows
        (h, w) the deepest of its hollows: as small as they are, they are turned all the way.
    """
    sunk = np.zeros_like(shadow) if hollows is None else hollows
    if family is None or not (shadow.any() or sunk.any()):
        return lab
    depth = np.where(shadow, blur(shadow.astype(np.float32), FADES_MM / mm_per_px / 2), 0)
    depth = np.maximum(depth, sunk)
    out = lab.copy()
    for channel, turn in enumerate(TURNS[family], 1):
        out[..., channel] += depth * np.float32(turn)
    return out
