"""Where a first wash wants another hue than its mean: places large and soft enough to be dropped in wet."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.imaging.blur import blur_within
from truesitter.core.plan.subject import Subject
from truesitter.core.plan.water.tuning import HUE_APART, HUE_BANDS, HUE_SHARE, HUE_SIGMA_PX, HUE_SOFT, RUNS_MM
from truesitter.core.types import Doubles, Floats, Labels, Mask


def hue_places(subject: Subject, where: Mask) -> Labels:
    """Places on either side of the mean hue of a wash, along the line on which its hues differ most.

    Hues are held to the mean of what is as light as they are: a shadow that is warmer than the lights is a
    matter of the washes that follow.

    Parameters
    ----------
    subject
        The sitter's maps.
    where
        (h, w) where the wash lies.

    Returns
    -------
    Labels
        (h, w) 1 and 2 for the two sides, 0 where the wash's own hue is right, and outside.
    """
    found = np.zeros(where.shape, np.uint8)
    if not where.any():
        return found
    sigma = max(RUNS_MM / subject.mm_per_px, HUE_SOFT * float(np.sqrt(np.count_nonzero(where))))
    # What is so soft is there in every so many-th pixel.
    step = max(1, int(sigma / HUE_SIGMA_PX))
    few = where[::step, ::step]
    if not few.any():
        return found
    away = _from_mean(subject.lab[::step, ::step], subject.value[::step, ::step], few)
    soft = np.dstack([blur_within(away[..., n], few.astype(np.float32), sigma / step) for n in range(2)])
    seen: Doubles = soft[few].astype(np.float64)
    _, axes = np.linalg.eigh(seen.T @ seen)
    along = cv2.resize(soft @ axes[:, -1].astype(np.float32), where.shape[::-1])
    for number, side in ((1, along > HUE_APART), (2, along < -HUE_APART)):
        place = where & _no_finer(side & where, subject)
        if np.count_nonzero(place) >= HUE_SHARE * np.count_nonzero(where):
            found[place] = number
    return found


def _from_mean(lab: Floats, value: Floats, where: Mask) -> Floats:
    """a* and b* less their means among what is about as light, (h, w, 2)."""
    edges = np.quantile(value[where], np.linspace(0, 1, HUE_BANDS + 1)[1:-1])
    band = np.digitize(value, edges)
    away = np.zeros((*where.shape, 2), np.float32)
    for number in np.unique(band[where]):
        inside = where & (band == number)
        away[inside] = lab[inside][:, 1:] - lab[inside][:, 1:].mean(axis=0)
    return away


def _no_finer(mask: Mask, subject: Subject) -> Mask:
    """Without what is narrower than a drop runs (opening, Serra 1982)."""
    radius = max(1, round(RUNS_MM / 2 / subject.mm_per_px))
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * radius + 1, 2 * radius + 1))
    return np.asarray(cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_OPEN, disc) > 0)
