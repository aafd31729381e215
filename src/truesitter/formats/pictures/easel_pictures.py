"""Pictures of a comparison: the painting, what it is held to, and how they differ."""

from __future__ import annotations

from typing import Literal

import cv2
import numpy as np

from truesitter.core.colour.spaces import linear_to_srgb, picture_to_linear
from truesitter.core.easel.compare.tuning import SQUINT
from truesitter.core.imaging.blur import blur
from truesitter.core.settings import PaintingSettings
from truesitter.core.stages import Study
from truesitter.core.types import Bytes, Floats

EaselView = Literal["painting", "squared", "plan", "reference", "difference", "photograph"]

_BANDS = ((0.3, 16), (0.6, 11), (1.0, 8), (1.6, 6), (2.4, 4))
"""Steps from which on lines stand so many pixels apart."""


def hatched(steps: Floats, own: Bytes, trusted: Floats | None = None) -> Bytes:
    """Where a painting is off, without a colour: rising white lines too light, falling black ones too dark.

    Parameters
    ----------
    steps
        (h, w) value steps by which it is too light.
    own
        (h, w, 3) the painting.
    trusted
        (h, w) 0 where nothing is known: dotted.

    Returns
    -------
    (h, w, 3) greys.
    """
    grey = cv2.cvtColor(own, cv2.COLOR_RGB2GRAY).astype(np.float32)
    out = 118 + (grey - 118) * 0.55
    rows, columns = np.indices(grey.shape)
    for least, gap in _BANDS:
        most = next((a for a, _ in _BANDS if a > least), np.inf)
        width = max(1.2, gap * 0.22)
        for sign, along, ink in ((1, rows + columns, 255.0), (-1, rows - columns, 0.0)):
            where = (sign * steps >= least) & (sign * steps < most)
            out = np.where(where & (along % gap < width), ink, out)
    if trusted is not None:
        dots = (rows % 8 < 2) & (columns % 8 < 2)
        out = np.where((trusted == 0) & dots, 60.0, out)
    plain = np.clip(np.round(out), 0, 255).astype(np.uint8)
    return np.repeat(plain[..., None], 3, axis=2)


def difference_picture(study: Study, painting: PaintingSettings) -> Bytes:
    """The difference in steps over the painting, hatched, (h, w, 3)."""
    seen = study.easel.compared(painting).seen
    return hatched(seen.steps, study.easel.taken(painting).picture(), seen.trusted.astype(np.float32))


def picture_of(study: Study, one: PaintingSettings, view: EaselView) -> Bytes:
    """One of the pictures of a comparison, (h, w, 3) sRGB."""
    easel = study.easel
    if view == "photograph":
        return easel.photograph(one.sha256)
    if view == "reference":
        return easel.template(None, "photograph")
    if view == "plan":
        return easel.template(one.after, easel.seen(one).how)
    if view == "squared":
        return easel.taken(one).squared
    return difference_picture(study, one) if view == "difference" else easel.taken(one).picture()


def squinted(shown: Bytes) -> Bytes:
    """A picture seen through half-closed eyes: light is blurred, not values."""
    light = blur(picture_to_linear(shown), _SQUINTS * SQUINT * max(shown.shape[:2]))
    return np.asarray(np.round(linear_to_srgb(np.clip(light, 0, 1)) * 255), dtype=np.uint8)


_SQUINTS = 1.5
"""Harder than what is reckoned with, so that an eye at the screen sees masses."""
