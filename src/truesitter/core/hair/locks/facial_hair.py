"""Brows, moustache and beard of a face, read together."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.hair.field.hair_kinds import BROWS, MOUSTACHE, Kind
from truesitter.core.hair.locks.hair_edges import HairEdges, edges_of
from truesitter.core.hair.locks.hair_shapes import (
    BROW_PAIR,
    MOUSTACHE_PAIR,
    Pair,
    moustache_gap,
    pair_of,
)
from truesitter.core.hair.locks.hairline import Hairline, read_hairline
from truesitter.core.hair.locks.tuning import APART_MM, APART_STEPS, GREY_CHROMA
from truesitter.core.sitter.face import NOSE_BASE, Face
from truesitter.core.types import Doubles, Floats, Labels, Mask


@dataclass(frozen=True)
class FacialHair:
    """Brows, moustache and beard as shapes; None for what is not there.

    Attributes
    ----------
    brows, moustache
        Left against right.
    gap_mm
        Skin between moustache and beard.
    brow_edges, moustache_edges
        How soft they are above and below.
    cheek_line
        Where skin passes into the beard.
    """

    brows: Pair | None = None
    moustache: Pair | None = None
    gap_mm: float | None = None
    brow_edges: HairEdges | None = None
    moustache_edges: HairEdges | None = None
    cheek_line: Hairline | None = None

    @property
    def beard_apart(self) -> bool | None:
        """Whether the beard stands apart from the skin, as an old man's does; a young man's belongs to it.

        Common practice; the two numbers are starting values. None without a beard that meets skin.
        """
        if self.cheek_line is None or not self.cheek_line.spots:
            return None
        read = np.array([(s.contrast, s.width_mm) for s in self.cheek_line.spots])
        contrast, wide = (float(v) for v in np.median(read, axis=0))
        return abs(contrast) >= APART_STEPS and wide <= APART_MM


def read_facial_hair(
    kinds: Labels, face: Face | None, value: Floats, mm_per_px: float, skin: Mask, directed: Floats
) -> FacialHair:
    """Read all of it; nothing without a face.

    Parameters
    ----------
    kinds
        (h, w) kinds of hair.
    face
        Tells where brows and moustache begin, and which way is up.
    value
        (h, w) Munsell value.
    mm_per_px
        Canvas mm to a pixel.
    skin
        (h, w) bare skin.
    directed
        (h, w, 2) root→tip direction, y up.
    """
    if face is None:
        return FacialHair()
    height, width = kinds.shape
    size: Doubles = np.array((width, height), np.float64)
    up = face.axis(height / width)
    return FacialHair(
        pair_of(BROW_PAIR, kinds, face.brow_middle * size, up, mm_per_px),
        pair_of(MOUSTACHE_PAIR, kinds, face.at(NOSE_BASE) * size, up, mm_per_px),
        moustache_gap(kinds, mm_per_px),
        edges_of(np.isin(kinds, BROWS), value, mm_per_px),
        edges_of(np.isin(kinds, MOUSTACHE), value, mm_per_px),
        read_hairline(kinds, skin, value, directed, mm_per_px, (Kind.BEARD,))
        if (kinds == Kind.BEARD).any()
        else None,
    )


def grey_beard(kinds: Labels, lab: Floats) -> Mask:
    """Beard and moustache where their light half is grey, (h, w); nowhere where it is not.

    Parameters
    ----------
    kinds
        (h, w) kinds of hair.
    lab
        (h, w, 3) L*a*b*.
    """
    beard = np.isin(kinds, (Kind.BEARD, *MOUSTACHE))
    if not beard.any():
        return beard
    light = beard & (lab[..., 0] >= np.median(lab[beard][:, 0]))
    grey = np.median(np.hypot(lab[light][:, 1], lab[light][:, 2])) < GREY_CHROMA
    return beard if grey else np.zeros_like(beard)
