"""The hairline: how soft its passage is, the shadow the hair casts, and the skin that shows through."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from scipy.ndimage import map_coordinates

from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.locks.tuning import (
    AWAY_MM,
    EVERY_MM,
    HAIRLINE_LEAST_CONTRAST,
    HAIRS_A_CM,
    LEAST_SHADOW,
    LOOK_MM,
    PAST_MM,
    POINTS,
    REACH_MM,
    ROOTED,
    SHADOW_MM,
    SMOOTH,
    SOFTER,
    SOFTEST_MM,
    TOO_HARD_MM,
)
from truesitter.core.types import Doubles, Floats, Labels, Mask


@dataclass(frozen=True)
class HairlineSpot:
    """One reading.

    Attributes
    ----------
    x, y
        In fractions.
    width_mm
        10–90 % width of the passage from skin to hair.
    soften_mm
        How much softer to paint it than it is.
    shadow
        Steps that the skin before the hair is darker than skin farther off; 0 for none.
    through
        Share of skin showing through the first millimetres of hair, 0–1.
    contrast
        Value steps that the skin is lighter than the hair past the passage.
    shaded
        x, y in fractions of the skin that the shadow was read on; None without skin there.
    """

    x: float
    y: float
    width_mm: float
    soften_mm: float
    shadow: float
    through: float
    contrast: float
    shaded: tuple[float, float] | None = None

    @property
    def too_hard(self) -> bool:
        """Whether it is harder than a hairline should be."""
        return self.width_mm < TOO_HARD_MM


@dataclass(frozen=True)
class Hairline:
    """All readings along the border of the head's hair with skin.

    Attributes
    ----------
    spots
        In order along the line.
    length_mm
        Of the whole line.
    """

    spots: tuple[HairlineSpot, ...]
    length_mm: float

    @property
    def first_hairs(self) -> int:
        """How many first fine hairs to draw."""
        return round(self.length_mm / 10 * HAIRS_A_CM)

    @property
    def has_shadow(self) -> bool:
        """Whether the hair casts a shadow anywhere: hair without one floats."""
        return bool(self.shaded)

    @property
    def shaded(self) -> tuple[tuple[float, float], ...]:
        """Places of the skin in that shadow, x, y in fractions."""
        return tuple(s.shaded for s in self.spots if s.shaded is not None and s.shadow >= LEAST_SHADOW)


def _border(hair_mask: Mask, skin: Mask, least: float) -> list[Doubles]:
    """Runs of the border of hair that lie beside skin, (n, 2) x, y in pixels."""
    hair = cv2.GaussianBlur(hair_mask.astype(np.float32), (0, 0), SMOOTH) > 0.5
    near = cv2.dilate(skin.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    contours, _ = cv2.findContours(hair.astype(np.uint8), cv2.RETR_LIST, cv2.CHAIN_APPROX_NONE)
    runs = []
    for contour in contours:
        points = contour[:, 0]
        beside = near[points[:, 1], points[:, 0]]
        if not beside.any():
            continue
        # Begin where a run begins, so that none is cut in two.
        starts = np.flatnonzero(beside & ~np.roll(beside, 1))
        first = int(starts[0]) if len(starts) else 0
        points, beside = np.roll(points, -first, axis=0), np.roll(beside, -first)
        cuts = np.flatnonzero(np.diff(beside.astype(int))) + 1
        for part, inside in zip(np.split(points, cuts), np.split(beside, cuts), strict=True):
            if inside[0] and len(part) >= least:
                runs.append(part.astype(np.float64))
    return runs


def passage_width(profile: Doubles, mm_per_point: float) -> float:
    """10–90 % width of a profile that rises or falls from one side to the other, in mm."""
    low, high = profile[:8].mean(), profile[-8:].mean()
    share = (profile - low) / (high - low)
    # The profile need not rise evenly: where it first stays past a tenth, and first reaches nine tenths.
    after = np.flatnonzero(share >= 0.9)
    end = int(after[0]) if len(after) else len(share) - 1
    before = np.flatnonzero(share[: end + 1] <= 0.1)
    start = int(before[-1]) if len(before) else 0

    def crossing(at: int, level: float) -> float:
        a, b = share[max(at - 1, 0)], share[at]
        return at - 1 + (level - a) / (b - a) if at > 0 and b != a else float(at)

    return float(max(0.0, crossing(end, 0.9) - crossing(min(start + 1, len(share) - 1), 0.1)) * mm_per_point)


def read_hairline(
    kinds: Labels, skin: Mask, value: Floats, directed: Floats, mm_per_px: float,
    of: tuple[Kind, ...] = (Kind.SCALP,),
) -> Hairline:  # fmt: skip
    """Read the border of the head's hair, or of a beard, with skin, where hair grows away from it.

    Parameters
    ----------
    kinds
        (h, w) kinds of hair.
    skin
        (h, w) bare skin.
    value
        (h, w) Munsell value.
    directed
        (h, w, 2) root→tip direction, y up: where the tips lie at the skin there is no hairline.
    mm_per_px
        Canvas mm to a pixel.
    of
        The kinds whose border it is.
    """
    height, width = value.shape
    hair = np.isin(kinds, of)
    every = EVERY_MM / mm_per_px
    spots: list[HairlineSpot] = []
    rooted = 0.0
    inside = cv2.GaussianBlur(hair.astype(np.float32), (0, 0), 3)
    down, right = np.gradient(inside)
    t = np.linspace(-REACH_MM, REACH_MM, POINTS) / mm_per_px
    for run in _border(hair, skin, every / 2):
        steps = np.hypot(*np.diff(run, axis=0).T)
        along = np.concatenate([[0], np.cumsum(steps)])
        for at in np.arange(every / 2, along[-1], every):
            x, y = (float(np.interp(at, along, run[:, i])) for i in (0, 1))
            row, column = int(np.clip(y, 0, height - 1)), int(np.clip(x, 0, width - 1))
            normal = np.array((right[row, column], down[row, column]))
            size = float(np.hypot(*normal))
            if size < 1e-4:
                continue
            normal /= size
            into = np.clip(
                (np.array((x, y)) + normal * LOOK_MM / mm_per_px).astype(int), 0, (width - 1, height - 1)
            )
            flow = directed[into[1], into[0]] * (1, -1)
            if float(flow @ normal) < ROOTED:
                continue
            rooted += every * mm_per_px
            spot = _read(value, skin, (x, y), normal, t, mm_per_px)
            if spot is not None:
                spots.append(spot)
    return Hairline(tuple(spots), rooted)


def _read(
    value: Floats, skin: Mask, at: tuple[float, float], normal: Doubles, t: Doubles, mm_per_px: float
) -> HairlineSpot | None:
    """One reading from skin (first) into hair (last)."""
    height, width = value.shape
    # A few lines side by side: a hairline is read over some of its hairs.
    side = np.array((-normal[1], normal[0]))
    lines = [
        map_coordinates(
            value,
            [at[1] + t * normal[1] + o * side[1], at[0] + t * normal[0] + o * side[0]],
            order=1,
            mode="nearest",
        )
        for o in np.linspace(-2, 2, 5)
    ]
    profile = np.mean(lines, axis=0)
    step = float(t[1] - t[0]) * mm_per_px
    light, dark = float(profile[:8].mean()), float(profile[-8:].mean())
    if abs(light - dark) < HAIRLINE_LEAST_CONTRAST:
        return None
    wide = passage_width(profile, step)
    shadow, shaded = 0.0, None
    # The skin clear of the shadow, and the skin in it, past the passage itself.
    before = max(SHADOW_MM / 2, wide / 2 + PAST_MM)
    pixels = [(np.array(at) - normal * (mm / mm_per_px)).astype(int) for mm in (AWAY_MM, before)]
    if all(0 <= r < height and 0 <= c < width and skin[r, c] for c, r in pixels):
        (far, near) = (float(value[r, c]) for c, r in pixels)
        shadow = max(0.0, far - near)
        column, row = pixels[1]
        shaded = ((column + 0.5) / width, (row + 0.5) / height)
    in_hair = np.concatenate([line[(t > 0) & (t * mm_per_px < SHADOW_MM)] for line in lines])
    through = float((np.abs(in_hair - light) < np.abs(in_hair - dark)).mean())
    soften = max(SOFTEST_MM, SOFTER * wide) - wide
    return HairlineSpot(
        at[0] / width, at[1] / height, wide, max(0.0, soften), shadow, through, light - dark, shaded
    )
