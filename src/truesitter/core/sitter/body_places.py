"""Places of a body without a face: shoulders, blades, spine, arms, from the outline of the figure alone.

A figure is narrowest at its neck and widest at its shoulders (common practice of measuring a figure); what
lies between is placed in parts of the shoulders' width. "Left" and "right" are those of the picture.
"""

from __future__ import annotations

from typing import NamedTuple

import cv2
import numpy as np

from truesitter.core.sitter.places import OwnPlace
from truesitter.core.sitter.tuning import (
    ARM_DOWN,
    BLADE_DOWN,
    BLADE_OUT,
    LOIN_DOWN,
    NECK_SHARE,
    NECK_SMOOTH,
    SHOULDER_IN,
    SHOULDERS_OF_WIDEST,
    SPINE_DOWN,
)
from truesitter.core.types import Mask


class _Shoulders(NamedTuple):
    """Rows of neck and shoulders, middle of the neck, and the ends of the shoulders' row, in pixels."""

    neck_row: int
    neck: float
    row: int
    left: float
    right: float


def _largest(figure: Mask) -> Mask:
    """The largest piece of a figure, (h, w): who stands beside the sitter has shoulders too."""
    count, labels, stats, _ = cv2.connectedComponentsWithStats(figure.astype(np.uint8), connectivity=8)
    return figure if count < 2 else labels == 1 + int(stats[1:, cv2.CC_STAT_AREA].argmax())


def _shoulders(figure: Mask) -> _Shoulders | None:
    """Where neck and shoulders are; None for a figure that narrows nowhere between head and shoulders."""
    piece = _largest(figure)
    wide = piece.sum(axis=1).astype(np.float64)
    rows = np.flatnonzero(wide)
    if len(rows) < NECK_SMOOTH:
        return None
    smooth = cv2.GaussianBlur(wide.reshape(-1, 1), (0, 0), len(rows) / NECK_SMOOTH).ravel()
    inside = smooth[rows]
    above = np.maximum.accumulate(inside)
    below = np.maximum.accumulate(inside[::-1])[::-1]
    # The neck is what is thin for the thinner of what lies above it and below.
    thin = inside / np.minimum(above, below)
    at = int(thin.argmin())
    if thin[at] > NECK_SHARE:
        return None
    neck_row = int(rows[at])
    under = inside[at:]
    reached = np.flatnonzero(under >= SHOULDERS_OF_WIDEST * under.max())
    row = int(rows[at + int(reached[0])])
    across = np.flatnonzero(piece[row])
    neck = float(np.flatnonzero(piece[neck_row]).mean())
    return _Shoulders(neck_row, neck, row, float(across[0]), float(across[-1] + 1))


def body_places(skin: Mask, figure: Mask, hair: Mask) -> tuple[OwnPlace, ...]:
    """Named spots of a body without a face; none where it has no neck to measure from.

    Parameters
    ----------
    skin, figure, hair
        (h, w) bare skin, all of the sitter, and hair of the head.

    Returns
    -------
    tuple[OwnPlace, ...]
        Those that lie on bare skin. Seen with the hair above the neck and no face it is a back.
    """
    found = _shoulders(figure)
    if found is None:
        return ()
    height, width = skin.shape
    size = found.right - found.left
    middle = (found.left + found.right) / 2
    # The spine leads from the neck to below the middle of the shoulders.
    down = found.row - found.neck_row
    back = bool(hair[: found.row].any())
    blade, line = ("shoulder blade", "spine") if back else ("side of the chest", "breastbone")
    # Hair may hang over its narrowest row.
    bare = np.flatnonzero(skin[found.neck_row : found.row, int(found.neck)])
    nape = found.neck_row + (int(bare[0]) if len(bare) else 0)
    spots: list[tuple[str, float, float]] = [("neck", found.neck, nape)]
    rows, columns = np.nonzero(skin[: max(0, found.neck_row - down // 2)])
    if len(rows):
        spots.append(("head", float(np.median(columns)), float(np.median(rows))))
    for side, end, inward in (("left", found.left, 1), ("right", found.right, -1)):
        spots += [
            (f"{side} shoulder", end + inward * SHOULDER_IN * size, found.row),
            (f"{side} {blade}", middle - inward * BLADE_OUT * size, found.row + BLADE_DOWN * size),
            (f"{side} arm", end + inward * SHOULDER_IN / 2 * size, found.row + ARM_DOWN * size),
        ]
    spots += [
        (line, middle, found.row + SPINE_DOWN * size),
        ("small of the back" if back else "belly", middle, found.row + LOIN_DOWN * size),
    ]
    return tuple(
        OwnPlace(name, x / width, y / height)
        for name, x, y in spots
        if 0 <= x < width and 0 <= y < height and skin[int(y), int(x)]
    )
