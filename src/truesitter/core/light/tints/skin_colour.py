"""Where skin is redder, yellower or greyer than this skin is elsewhere at the same value.

Blood shows over bone and cartilage, a beard greys, a fold turns yellow. Colours are compared at equal
value, so that light and shadow do not count. Shadow takes colour from what faces it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import IntEnum

import cv2
import numpy as np

from truesitter.core.colour.spaces import WARM_AXIS
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.pixels import box_of, in_pixels
from truesitter.core.light.tints.tuning import BINS, DARKEST, ENOUGH, NEAR, PLAIN, RIM, SMOOTH
from truesitter.core.types import Doubles, Floats, Labels, Mask


class Turn(IntEnum):
    """The numbers of the map of colour."""

    NONE = 0
    REDDER = 1
    YELLOWER = 2
    GREYER = 3
    STRONGER = 4

    @property
    def spoken(self) -> str:
        """As it is said."""
        return "stronger in colour" if self is Turn.STRONGER else self.name.lower()


@dataclass(frozen=True)
class PlaceColour:
    """How one place differs from the skin's own mean at its value.

    Attributes
    ----------
    place
        Its name.
    x, y
        In fractions.
    turn, by
        Which way, and by how much in ΔE of a*, b*.
    """

    place: str
    x: float
    y: float
    turn: Turn
    by: float


@dataclass(frozen=True)
class SkinColour:
    """Colour of the skin at equal value.

    Attributes
    ----------
    turns
        (h, w) numbers of `Turn`.
    places
        Named places, the plainest first.
    """

    turns: Labels
    places: tuple[PlaceColour, ...]


def off_mean(lab: Floats, skin: Mask, scale: float) -> tuple[Floats, Doubles]:
    """How far a* and b* lie from the skin's own mean at the same lightness.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b*.
    skin
        (h, w) bare skin.
    scale
        Height of the face in pixels.

    Returns
    -------
    off, hue
        (h, w, 2), zero outside the skin; unit vector of the skin's own hue in the a*, b* plane.
    """
    sigma = max(0.5, SMOOTH * scale)
    off = np.zeros((*skin.shape, 2), np.float32)
    # Only the skin's own box is looked at.
    box = box_of(skin, round(3 * sigma))
    lab, skin = lab[box], skin[box]
    part = skin.astype(np.float32)
    blurred = blur(np.dstack([lab * part[..., None], part]), sigma)[skin]
    own = blurred[:, :3] / np.maximum(blurred[:, 3:], 1e-3)
    mean = own[:, 1:].mean(axis=0, dtype=np.float64)
    hue = mean / max(1e-6, float(np.hypot(*mean)))
    edges = np.quantile(own[:, 0], np.linspace(0, 1, BINS + 1))
    which = np.clip(np.searchsorted(edges, own[:, 0], side="right") - 1, 0, BINS - 1)
    order = np.argsort(which, kind="stable")
    parts = np.split(own[order], np.cumsum(np.bincount(which, minlength=BINS))[:-1])
    present = [p for p in parts if len(p)]
    middles = np.array([p[:, 0].mean() for p in present])
    curve = np.array([np.median(p[:: 1 + len(p) // ENOUGH, 1:], axis=0) for p in present])
    wanted = np.stack([np.interp(own[:, 0], middles, curve[:, i]) for i in (0, 1)], axis=1)
    off[box][skin] = np.where(own[:, :1] > DARKEST, own[:, 1:] - wanted, 0)
    return off, hue


def turn_of(off: Doubles, hue: Doubles) -> tuple[Turn, float]:
    """Which way a colour (2,) differs from a skin of some hue, and by how much."""
    stronger = float(off @ hue)
    redder = float(off @ np.array([hue[1], -hue[0]]))
    if abs(redder) >= max(PLAIN, abs(stronger)):
        return (Turn.REDDER if redder > 0 else Turn.YELLOWER), abs(redder)
    if abs(stronger) >= PLAIN:
        return (Turn.STRONGER if stronger > 0 else Turn.GREYER), abs(stronger)
    return Turn.NONE, 0.0


def difference_words(off: Doubles, hue: Doubles) -> tuple[str, ...]:
    """A difference of a*, b* (2,) from a skin of some hue, in words: how warm, and which way.

    Warm lies between orange and yellow, along b* and a little along a*.
    """
    warm = float(off @ WARM_AXIS)
    said = []
    if abs(warm) >= PLAIN:
        said.append(f"{'warmer' if warm > 0 else 'cooler'} by {abs(warm):.0f}")
    turn, by = turn_of(off, hue)
    if turn is not Turn.NONE:
        said.append(f"{turn.spoken} by {by:.0f}")
    return tuple(said)


def skin_colour(
    off: Floats, hue: Doubles, skin: Mask, spots: Sequence[tuple[str, float, float]], scale: float
) -> SkinColour:
    """Where the skin's colour changes.

    Parameters
    ----------
    off, hue
        As `off_mean` gives them.
    skin
        (h, w) bare skin.
    spots
        Name and centre (x, y in fractions) of the places to judge.
    scale
        Height of the face in pixels.
    """
    turns = np.zeros(skin.shape, np.uint8)
    if not skin.any():
        return SkinColour(turns, ())
    stronger = off @ hue.astype(np.float32)
    redder = off @ np.array([hue[1], -hue[0]], np.float32)
    by_hue = (np.abs(redder) >= PLAIN) & (np.abs(redder) >= np.abs(stronger))
    turns[by_hue & (redder > 0)] = Turn.REDDER
    turns[by_hue & (redder < 0)] = Turn.YELLOWER
    by_chroma = ~by_hue & (np.abs(stronger) >= PLAIN)
    turns[by_chroma & (stronger < 0)] = Turn.GREYER
    turns[by_chroma & (stronger > 0)] = Turn.STRONGER
    # Beside hair and cloth a pixel is of both.
    inner = cv2.erode(skin.astype(np.uint8), np.ones((2 * max(1, round(RIM * scale)) + 1,) * 2, np.uint8))
    turns[inner == 0] = Turn.NONE
    places = _places(off, hue, skin, spots, scale)
    return SkinColour(turns, tuple(sorted(places, key=lambda p: -p.by)))


def _places(
    off: Floats, hue: Doubles, skin: Mask, spots: Sequence[tuple[str, float, float]], scale: float
) -> list[PlaceColour]:
    found = []
    reach = max(1, round(NEAR * scale))
    for name, x, y in spots:
        column, row = (int(v) for v in in_pixels((x, y), skin.shape))
        box = slice(max(0, row - reach), row + reach + 1), slice(max(0, column - reach), column + reach + 1)
        bare = skin[box]
        if bare.size == 0 or bare.mean() < 0.5:
            continue
        turn, by = turn_of(off[box][bare].mean(axis=0, dtype=np.float64), hue)
        if turn is not Turn.NONE:
            found.append(PlaceColour(name, x, y, turn, by))
    return found
