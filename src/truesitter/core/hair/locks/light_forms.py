"""Separate lights of a grey beard, evenly spread: each two touches that follow the growth."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from scipy.spatial import cKDTree

from truesitter.core.hair.locks.tuning import (
    FORM_GAIN,
    FORM_LONG,
    FORM_SPACING,
    FORM_WIDE,
    NEAR_SHADOW,
    TOUCHES_APART,
)
from truesitter.core.imaging.blur import blur_within
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.types import Doubles, Floats, Mask

FormMove = tuple[tuple[float, float], tuple[float, float]]
"""Where a form was found and where the painter wants it, x, y in fractions."""


@dataclass(frozen=True)
class LightForm:
    """One of them.

    Attributes
    ----------
    x, y
        Its middle, in fractions.
    along
        (2,) unit vector of the growth, root to tip, x right and y down.
    gain
        Value steps that it stands above the beard around it.
    in_shadow
        Which of its two touches falls into a shadow beside it, 0 or 1; None where none is near.
    move
        Which of the painter's moves brought it here; None where it was found.
    """

    x: float
    y: float
    along: Doubles
    gain: float
    in_shadow: int | None
    move: int | None = None


@dataclass(frozen=True)
class LightForms:
    """All of a beard.

    Attributes
    ----------
    forms
        Those that add most first.
    long_mm, wide_mm
        Of one touch.
    evenness
        Spread of the distances to the nearest other, as part of their mean; 0 is quite even.
    """

    forms: tuple[LightForm, ...]
    long_mm: float
    wide_mm: float
    evenness: float

    def touches(self, form: LightForm, size_mm: tuple[float, float]) -> tuple[Doubles, Doubles]:
        """The middle lines (2, 2) of the two touches of a form, x, y in mm, root first."""
        middle = np.array((form.x, form.y)) * size_mm
        across = np.array((-form.along[1], form.along[0])) * (self.wide_mm * TOUCHES_APART / 2)
        half = form.along * (self.long_mm / 2)
        first, second = (np.array((middle + side - half, middle + side + half)) for side in (-across, across))
        return first, second


def light_forms(
    mask: Mask, value: Floats, directed: Floats, face_px: float, mm_per_px: float, size: float = 1.0,
    moves: Sequence[FormMove] = (),
) -> LightForms:  # fmt: skip
    """Places of light-forms in a beard: its lightest spots, none nearer to another than their spacing.

    What stands above nothing around it is none, unless the painter put it there.

    Parameters
    ----------
    mask
        (h, w) where it is looked at.
    value
        (h, w) Munsell values 0–10.
    directed
        (h, w, 2) root→tip direction, y up.
    face_px
        Height of the face in pixels.
    mm_per_px
        Canvas mm to a pixel.
    size
        Of a form beside the usual; larger ones are fewer.
    moves
        Where the painter wants some of them.

    Returns
    -------
    LightForms
        None of them where the mask is smaller than two.
    """
    spacing = FORM_SPACING * face_px * size
    long_mm, wide_mm = (share * spacing * mm_per_px for share in (FORM_LONG, FORM_WIDE))
    # Light of the skin beside it is none of the beard's.
    known = mask.astype(np.float32)
    smooth = blur_within(value, known, spacing / 6)
    found = _spread(mask, smooth, spacing)
    if len(found) < 2:
        return LightForms((), long_mm, wide_mm, 0.0)
    at, moved = _moved(found, spacing, moves, mask.shape)
    around = blur_within(smooth, known, spacing / 2)
    growth = np.dstack([blur_within(directed[..., n], known, spacing / 3) for n in range(2)])
    dark = mask & (smooth < np.quantile(smooth[mask], 1 / 3))
    to_dark = cv2.distanceTransform((~dark).astype(np.uint8), cv2.DIST_L2, 5)
    forms = []
    for (x, y), move in zip(at, moved, strict=True):
        pixel = pixel_at(x / mask.shape[1], y / mask.shape[0], mask.shape)
        way = growth[pixel] * (1, -1)
        along = np.asarray(way / np.hypot(*way)) if way.any() else np.array((0.0, 1.0))
        near = to_dark[pixel] < NEAR_SHADOW * face_px + spacing / 4
        gain = float(smooth[pixel] - around[pixel])
        if gain < FORM_GAIN and move is None:
            continue
        forms.append(LightForm(
            x / mask.shape[1], y / mask.shape[0], along, gain,
            _darker_side(smooth, (x, y), along, spacing) if near else None, move,
        ))  # fmt: skip
    forms.sort(key=lambda form: -form.gain)
    return LightForms(tuple(forms), long_mm, wide_mm, _evenness(forms, mask.shape))


def _evenness(forms: Sequence[LightForm], shape: tuple[int, ...]) -> float:
    """Spread of the distances to the nearest other, as part of their mean; 0 for fewer than two."""
    if len(forms) < 2:
        return 0.0
    at = np.array([(form.x, form.y) for form in forms]) * shape[1::-1]
    nearest = cKDTree(at).query(at, k=2)[0][:, 1]
    return float(nearest.std() / max(nearest.mean(), 1e-9))


def _spread(mask: Mask, smooth: Floats, spacing: float) -> Doubles:
    """Lightest spots that keep their distance, (n, 2) x, y in pixels."""
    rows, columns = np.nonzero(mask)
    if len(rows) < spacing**2:
        return np.zeros((0, 2))
    order = np.argsort(-smooth[rows, columns], kind="stable")
    free = mask.astype(np.uint8)
    places: list[tuple[int, int]] = []
    for n in order:
        row, column = int(rows[n]), int(columns[n])
        if free[row, column]:
            places.append((column, row))
            cv2.circle(free, (column, row), round(spacing), 0, -1)
    return np.array(places, dtype=np.float64).reshape(-1, 2) + 0.5


def _moved(
    found: Doubles, spacing: float, moves: Sequence[FormMove], shape: tuple[int, ...]
) -> tuple[Doubles, list[int | None]]:
    """Places (n, 2) in pixels after the painter's moves, and which move brought each.

    A move takes the form that was found nearest to where it begins; where none is near any more, as with
    forms of another size, it rests.
    """
    frame = np.array(shape[1::-1])
    at, moved = found.copy(), list[int | None]([None] * len(found))
    for number, (begin, end) in enumerate(moves):
        away = np.hypot(*(found - np.array(begin) * frame).T)
        nearest = int(np.argmin(away))
        if away[nearest] <= spacing / 2:
            at[nearest] = np.clip(np.array(end) * frame, 0, frame)
            moved[nearest] = number
    return at, moved


def _darker_side(smooth: Floats, at: tuple[float, float], along: Doubles, spacing: float) -> int:
    """Which of the two touches, 0 or 1, lies towards the darker side."""
    across = np.array((-along[1], along[0])) * spacing / 2
    sides = [np.array(at) + sign * across for sign in (-1, 1)]
    first, second = (
        smooth[pixel_at(x / smooth.shape[1], y / smooth.shape[0], smooth.shape)] for x, y in sides
    )
    return int(second < first)
