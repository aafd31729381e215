"""What a photograph is worth: its tint, the colour of its light, its exposure, and what it has lost where."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import picture_to_lab, picture_to_linear
from truesitter.core.colour.value import Luminance, luminance_to_value, value_to_luminance
from truesitter.core.imaging.reduce import reduced_picture
from truesitter.core.reference.cast import balance_by_skin
from truesitter.core.reference.tuning import MIDDLE
from truesitter.core.sitter.areas import share_by_area
from truesitter.core.sitter.face import OVAL
from truesitter.core.sitter.segmentation.grey_looks import without_colour
from truesitter.core.stages.study import Study
from truesitter.core.types import Bytes, Doubles, Floats, Mask
from truesitter.core.usecases.tuning import (
    BRIGHT,
    CONDITION_LONG_SIDE,
    DARK,
    LEAST_LOST,
    LEAST_TINT,
    MOST_PLACES,
    MOST_RAISED,
    WELL_LIT,
)
from truesitter.core.values.value_map import value_map


@dataclass(frozen=True)
class Lost:
    """A place that has run into black or white, and how much of it.

    Attributes
    ----------
    place, light, share
        Its name, True for white, and part of the place, 0–1.
    """

    place: str
    light: bool
    share: float


@dataclass(frozen=True)
class Condition:
    """What is to be known of a photograph in its frame, before anything is corrected.

    Attributes
    ----------
    colourless, tinted
        No colour tells anything in it; and it is not grey either.
    balance
        Gains that bring its skin to what skin is in white light; None where it is near that.
    exposure
        Value steps to raise or lower a middle value by (`PictureTone.exposure`); 0 where it is exposed well.
    dark_share, light_share
        Parts of the picture, 0–1, that have run into black and into white.
    lost
        The places that lost most.
    """

    colourless: bool
    tinted: bool
    balance: tuple[float, float, float] | None
    exposure: float
    dark_share: float
    light_share: float
    lost: tuple[Lost, ...]


def condition_of(study: Study) -> Condition:
    """The condition of a sitter's photograph, inside the frame."""
    clipped = study.picture.clipping()
    picture = reduced_picture(study.picture.uncorrected(), CONDITION_LONG_SIDE)
    lab = picture_to_lab(picture)
    colourless = without_colour(lab, np.ones(lab.shape[:2], np.float32))
    chroma = float(np.hypot(lab[..., 1], lab[..., 2]).mean())
    return Condition(
        colourless=colourless,
        tinted=colourless and chroma >= LEAST_TINT,
        balance=None if colourless else balance_by_skin(_skin(study, picture)),
        exposure=_exposure(value_map(picture)),
        dark_share=clipped.dark_share,
        light_share=clipped.light_share,
        lost=_lost(study, clipped.dark, clipped.light),
    )


def _skin(study: Study, picture: Bytes) -> Doubles:
    """Linear light (n, 3) of the face between brows and nose; none without a face."""
    face = study.sitter.face
    if face is None:
        return np.zeros((0, 3))
    shape = picture.shape[:2]
    rows = np.arange(shape[0])[:, None] < face.nose_base_row * shape[0]
    where = face.outline_mask(OVAL, shape, 0.86) & ~face.feature_mask(shape, 1.5) & rows
    return picture_to_linear(picture)[where].astype(np.float64)


def _exposure(value: Floats) -> float:
    low, high = (float(v) for v in np.quantile(value, (0.05, 0.99)))
    if high >= DARK and low <= BRIGHT:
        return 0.0
    now, wanted = (high, WELL_LIT) if high < DARK else (low, MIDDLE)
    ratio = value_to_luminance(wanted) / max(1e-4, float(value_to_luminance(now)))
    moved = float(luminance_to_value(Luminance(np.array(value_to_luminance(MIDDLE) * ratio)))) - MIDDLE
    return round(float(np.clip(moved, -MOST_RAISED, MOST_RAISED)), 1)


def _lost(study: Study, dark: Mask, light: Mask) -> tuple[Lost, ...]:
    areas = study.sitter.areas()
    size = share_by_area(areas, np.ones(areas.labels.shape))
    found = []
    for mask, is_light in ((dark, False), (light, True)):
        part = cv2.resize(mask.astype(np.float32), areas.labels.shape[::-1], interpolation=cv2.INTER_AREA)
        shares = share_by_area(areas, part.astype(np.float64)) / np.maximum(size, 1)
        found += [
            Lost(areas.names[n], is_light, float(shares[n])) for n in np.flatnonzero(shares >= LEAST_LOST)
        ]
    return tuple(sorted(found, key=lambda one: -one.share)[:MOST_PLACES])
