"""A bare drawing held to the outlines it was carried over from, before any paint covers it.

Lines are thin, and their ink and paper can be anything: what is laid on one another is how dense lines are
about each spot, not what they look like. Where a stretch of outline has no line near it, it was forgotten.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.easel.compare.drawing_offsets import Feature, Offset, offsets
from truesitter.core.easel.compare.tuning import (
    BAREST,
    BRIGHT_PAPER,
    BURNT_OUT,
    DENSITY_MM,
    FAINT_LINE,
    INK,
    INKED,
    LINE_MM,
    LINE_NEAR_MM,
    MISSING,
    OUTSHONE,
    PAPER_MM,
    RIM_MM,
    SHORTEST_MM,
)
from truesitter.core.easel.find.correlation import normalised
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.reduce import grey
from truesitter.core.sitter.areas import Areas, middle_of
from truesitter.core.types import Bytes, Floats, Mask
from truesitter.core.values.outlines import Outline


@dataclass(frozen=True, eq=False)
class Forgotten:
    """A place whose outline was not drawn.

    Attributes
    ----------
    place
        Its name.
    mm
        Length of the outline that has no line, in mm on the canvas.
    share
        Part of the outline inside the place that it is, 0–1.
    x, y
        Middle of that stretch, in fractions.
    mask
        (h, w) where it lies.
    """

    place: str
    mm: float
    share: float
    x: float
    y: float
    mask: Mask

    @property
    def words(self) -> str:
        """In a sentence."""
        how = "has no line" if self.share > BAREST else f"lacks {self.mm:.0f} mm of its outline"
        return f"{self.place[:1].upper()}{self.place[1:]}: {how}."


@dataclass(frozen=True)
class BareDrawing:
    """A drawing held to its outlines: where features lie, and what was not drawn."""

    offsets: tuple[Offset, ...]
    forgotten: tuple[Forgotten, ...]


def line_picture(
    outlines: Sequence[Outline], grid: tuple[int, int], shape: tuple[int, int], mm_per_px: float
) -> Bytes:
    """Outlines as lines on white paper.

    Parameters
    ----------
    outlines
        Of the value shapes.
    grid
        (height, width) of the grid they are in.
    shape
        (height, width) of the picture.
    mm_per_px
        Canvas mm to a pixel of the picture, > 0.

    Returns
    -------
    (h, w, 3) uint8
        Grey lines of a pencil's width.
    """
    paper = np.full(shape, 255, np.uint8)
    scale = np.array((shape[1] / grid[1], shape[0] / grid[0]))
    wide = max(1, round(LINE_MM / mm_per_px))
    for outline in outlines:
        for ring in (outline.polygon.exterior, *outline.polygon.interiors):
            # In sixteenths of a pixel, so that a line lies where its outline does.
            points = np.rint((np.asarray(ring.coords) * scale - 0.5) * 16).astype(np.int32)
            cv2.polylines(paper, [points], True, INK, wide, cv2.LINE_AA, 4)
    return np.repeat(paper[..., None], 3, axis=2)


def _ink(picture: Bytes, mm_per_px: float) -> Floats:
    """(h, w) how surely each spot is on a line, 0–1: thin, and darker than the paper beside it."""
    seen = blur(grey(picture).astype(np.float32), max(0.3, LINE_MM / 3 / mm_per_px))
    side = 2 * round(PAPER_MM / mm_per_px) + 1
    window = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
    hat = cv2.morphologyEx(seen, cv2.MORPH_BLACKHAT, window)
    return np.asarray(np.clip(hat / max(float(np.quantile(hat, INKED)), 1.0), 0, 1), dtype=np.float32)


def check_drawing(
    drawn: Bytes, template: Bytes, features: tuple[Feature, ...], areas: Areas, mm_per_px: float
) -> BareDrawing:
    """Where the features of a bare drawing lie, and what is not drawn.

    Parameters
    ----------
    drawn
        (h, w, 3) sRGB, squared up.
    template
        (h, w, 3) the outlines, as `line_picture` draws them.
    features
        To hold to their places.
    areas
        Names of the places, (h, w).
    mm_per_px
        Canvas mm to a pixel, > 0.

    Returns
    -------
    BareDrawing
        Features that cannot be measured are left out; forgotten places longest first.
    """
    own, wanted = _ink(drawn, mm_per_px), _ink(template, mm_per_px)
    # A lamp mirrored in the ground outshines any line.
    light = blur(grey(drawn).astype(np.float32), PAPER_MM / mm_per_px)
    ground = float(np.median(light))
    # Where the paper itself is nearly burnt out, a mirrored lamp cannot be told from it.
    limit = min(BURNT_OUT, OUTSHONE * ground) if ground < BRIGHT_PAPER else np.inf
    outshone = light >= limit
    own = np.where(outshone, wanted, own)
    dense = [normalised(blur(ink, DENSITY_MM / mm_per_px)) for ink in (own, wanted)]
    placed = offsets(features, dense[0], dense[1], mm_per_px, searched=True)
    away = cv2.distanceTransform((own < FAINT_LINE).astype(np.uint8), cv2.DIST_L2, 3)
    bare = away > LINE_NEAR_MM / mm_per_px
    # Shapes end at the rim of the picture, where nobody draws a line.
    rim = max(1, round(RIM_MM / mm_per_px))
    line = np.zeros(own.shape, bool)
    line[rim:-rim, rim:-rim] = wanted[rim:-rim, rim:-rim] > 0.5
    gone = line & bare
    found = []
    for whole in dict.fromkeys(areas.whole):
        every = _forgotten(whole, line, gone, areas.wholes(whole), mm_per_px)
        # Where all of a thing is forgotten its parts need no telling.
        if every:
            found.append(every)
            continue
        parts = [name for name, of in zip(areas.names, areas.whole, strict=True) if of == whole]
        each = (_forgotten(name, line, gone, areas.mask(name), mm_per_px) for name in parts)
        found += [one for one in each if one]
    return BareDrawing(placed, tuple(sorted(found, key=lambda f: -f.mm)))


def _forgotten(place: str, line: Mask, gone: Mask, where: Mask, mm_per_px: float) -> Forgotten | None:
    """What of a place's outline has no line; None where that is little."""
    here, lost = line & where, gone & where
    mm = float(here.sum()) * mm_per_px**2 / LINE_MM
    share = float(lost.sum()) / max(1.0, float(here.sum()))
    if mm < SHORTEST_MM or share < MISSING:
        return None
    return Forgotten(place, mm * share, share, *middle_of(lost), lost)
