"""Polished metal as a map: what it mirrors dark, what light, what lies between, and where its edges are hard.

Metal is painted as shapes, not as form: darks and lights stand beside one another without halftone (common
practice). Its three tones are the thirds of its own range.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import IntEnum

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.light.mirrored.polish import edges_of
from truesitter.core.light.mirrored.tuning import ENDS, METAL_LEAST
from truesitter.core.types import Floats, Labels, Mask


class MetalPart(IntEnum):
    """What a spot of metal shows."""

    NONE = 0
    DARK = 1
    BETWEEN = 2
    LIGHT = 3

    @property
    def spoken(self) -> str:
        """For the screen."""
        return ("", "mirrored dark", "between", "mirrored light")[self]


@dataclass(frozen=True)
class MetalTone:
    """One tone of a metal: what it shows, its part of the surface, 0–1, and its L*a*b*."""

    part: MetalPart
    share: float
    lab: Lab


@dataclass(frozen=True, eq=False)
class MetalMap:
    """A polished surface in its tones.

    Attributes
    ----------
    codes
        (h, w) numbers of `MetalPart`.
    hard
        (h, w) where an edge is hard.
    tones
        Darkest first.
    hard_share
        Part of its edges that are hard, 0–1.
    """

    codes: Labels
    hard: Mask
    tones: tuple[MetalTone, ...]
    hard_share: float

    def words(self, name: str) -> str:
        """In a sentence."""
        said = [f"{t.share * 100:.0f} % {t.part.spoken}" for t in self.tones]
        return (
            f"{name[:1].upper()}{name[1:]}: {', '.join(said)}. {self.hard_share * 100:.0f} % of its edges "
            "are hard: there dark stands beside light, without a halftone."
        )


def metal_map(lab: Floats, mask: Mask, mm_per_px: float) -> MetalMap:
    """A polished surface in its tones and edges.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b*, grain evened out.
    mask
        (h, w) where the surface lies; not empty.
    mm_per_px
        Canvas mm to a pixel, > 0.

    Returns
    -------
    MetalMap
        Tones that hardly occur are left out of its list.
    """
    value = lightness_map_to_value(lab[..., 0])
    low, high = np.quantile(value[mask], ENDS)
    third = (high - low) / 3
    codes = np.where(value <= low + third, MetalPart.DARK, MetalPart.BETWEEN)
    codes = np.where(value >= high - third, MetalPart.LIGHT, codes)
    codes = np.where(mask, codes, MetalPart.NONE).astype(np.uint8)
    tones = []
    for part in (MetalPart.DARK, MetalPart.BETWEEN, MetalPart.LIGHT):
        here = codes == part
        share = float(here.sum() / mask.sum())
        if share >= METAL_LEAST:
            tones.append(MetalTone(part, share, as_lab(lab[here].mean(axis=0, dtype=np.float64))))
    edges = edges_of(value, mask, mm_per_px)
    return MetalMap(codes, edges.hard, tuple(tones), edges.share)
