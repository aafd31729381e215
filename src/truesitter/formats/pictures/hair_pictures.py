"""Pictures of the hair: its three volumes, its locks and their tones, where its light should lie."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.hair.locks.hair_shine import band_mask
from truesitter.core.hair.locks.tuning import LIGHT
from truesitter.core.stages import Study
from truesitter.core.types import Bytes, Floats, Ints, Mask
from truesitter.core.values.value_map import paint_values

_MIDDLE = 5.0
_STRENGTH = {"locks": 2.2, "surface": 2.0}
"""How much the small volumes are spread round middle grey, so that the eye sees them."""

_OUTSIDE = 0.35
"""Outside the hair the photograph is paled to this part of its own range."""


def volume_picture(study: Study, which: str) -> Bytes:
    """One volume of the hair in grey; the rest of the photograph pale."""
    volumes = study.hair.volumes()
    if which == "skull":
        value = volumes.skull
    elif which == "relief":
        value = volumes.skull + volumes.locks
    else:
        part = volumes.locks if which == "locks" else volumes.surface
        value = _MIDDLE + _STRENGTH[which] * part
    return _in_its_place(study, value, volumes.mask)


def _in_its_place(study: Study, value: Floats, mask: Mask) -> Bytes:
    grey = cv2.cvtColor(study.hair.photograph(), cv2.COLOR_RGB2GRAY).astype(np.float32)
    pale = (255 * (1 - _OUTSIDE) * 0.85 + _OUTSIDE * grey).astype(np.uint8)
    return np.asarray(np.where(mask, paint_values(np.clip(value, 0, 10)), pale), np.uint8)


def tones_picture(study: Study) -> Bytes:
    """Dark, middle and light shape inside each lock, flat in their own greys."""
    locks, volumes = study.hair.locks(), study.hair.volumes()
    value = volumes.skull + volumes.locks
    flat = np.full(value.shape, _MIDDLE, np.float32)
    codes = locks.numbers.astype(np.int64) * (LIGHT + 1) + locks.tones
    inside = locks.numbers > 0
    counts = np.bincount(codes[inside])
    means = np.bincount(codes[inside], value[inside]) / np.maximum(counts, 1)
    flat[inside] = means[codes[inside]]
    return _in_its_place(study, flat, inside)


def locks_veil(study: Study) -> Bytes:
    """Borders of the locks, black with a pale rim so that they show on any value (h, w, 4)."""
    numbers = study.hair.locks().numbers
    out = np.zeros((*numbers.shape, 4), np.uint8)
    border = _borders(numbers)
    out[cv2.dilate(border.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0] = (255, 255, 255, 150)
    out[border] = (0, 0, 0, 255)
    return out


def _borders(numbers: Ints) -> Mask:
    border = np.zeros(numbers.shape, bool)
    border[:, 1:] |= numbers[:, 1:] != numbers[:, :-1]
    border[1:] |= numbers[1:] != numbers[:-1]
    return border


def band_veil(study: Study) -> Bytes:
    """Where the band of light should lie, ringed (h, w, 4)."""
    _, kinds = study.hair.directed()
    band = band_mask(study.hair.expected(), kinds > 0).astype(np.uint8)
    band = cv2.morphologyEx(band, cv2.MORPH_OPEN, np.ones((5, 5), np.uint8))
    edge = cv2.morphologyEx(band, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)) > 0
    out = np.zeros((*kinds.shape, 4), np.uint8)
    y, x = np.indices(kinds.shape)
    out[(band > 0) & ((x + y) % 10 < 2)] = (255, 255, 255, 200)
    out[edge] = (0, 0, 0, 255)
    return out
