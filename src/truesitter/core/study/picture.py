"""The framed picture: everything else is measured on it."""

from __future__ import annotations

from collections.abc import Hashable

import cv2
import numpy as np

from truesitter.core.colour.spaces import picture_to_lab
from truesitter.core.reference.decode import LARGEST_PIXELS, decode, inspect
from truesitter.core.reference.frame import WORKING_LONG_SIDE, apply, place
from truesitter.core.reference.tone import Clipping, balance_from, correct, find_clipping
from truesitter.core.study.part import Source, reduced_size
from truesitter.core.types import Bytes, Floats
from truesitter.core.values.value_map import histogram, value_map

HISTOGRAM_BINS = 200


class PictureStage:
    """The photograph, framed, and its colours and values."""

    def __init__(self, source: Source) -> None:
        self._source = source
        self.settings = source.settings.reference

    @property
    def key(self) -> Hashable:
        """Changes when the framed picture does."""
        return (self.frame_key, self.settings.tone())

    @property
    def frame_key(self) -> Hashable:
        """Changes when the framed picture before its colour is corrected does."""
        return (self._source.sha256, self.settings.frame())

    def photograph(self) -> Bytes:
        """The whole upright photograph at a working size, for framing."""
        return self._source.remember("photograph", self._source.sha256, self._photograph)

    def _photograph(self) -> Bytes:
        picture = decode(self._source.load(), WORKING_LONG_SIDE)
        size = reduced_size(picture.shape, WORKING_LONG_SIDE)
        if size == (picture.shape[1], picture.shape[0]):
            return picture
        return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA))

    def framed(self) -> Bytes:
        """The framed picture, (H, W, 3) uint8 sRGB, long side at most 2 048, its colour corrected."""
        return self._source.remember(
            "framed", self.key, lambda: correct(self.uncorrected(), self.settings.tone())
        )

    def uncorrected(self) -> Bytes:
        """The framed picture in the photograph's own colour."""
        return self._source.remember("uncorrected", self.frame_key, lambda: self._frame(WORKING_LONG_SIDE))

    def _frame(self, long_side: int) -> Bytes:
        frame = self.settings.frame()
        data = self._source.load()
        info = inspect(data)
        crop = place(frame, info.width, info.height)
        needed = long_side * max(info.width, info.height) / max(crop.size)
        return apply(decode(data, int(needed) + 1), frame, long_side)

    def full_size(self) -> Bytes:
        """The framed and corrected picture at the photograph's own resolution; not remembered."""
        return correct(self._frame(LARGEST_PIXELS), self.settings.tone())

    def clipping(self) -> Clipping:
        """What the photograph lost in its darks and lights, inside the frame."""
        return self._source.remember("clipping", self.frame_key, lambda: find_clipping(self.uncorrected()))

    def balance_at(self, x: float, y: float) -> tuple[float, float, float]:
        """Gains that make the spot (fractions of the framed picture) neutral."""
        picture = self.uncorrected()
        height, width = picture.shape[:2]
        half = max(2, round(0.006 * width))
        column, row = min(width - 1, int(x * width)), min(height - 1, int(y * height))
        patch = picture[max(0, row - half) : row + half + 1, max(0, column - half) : column + half + 1]
        return balance_from(patch)

    @property
    def mm_per_px(self) -> float:
        """Canvas mm to a pixel of the framed picture."""
        return self.settings.canvas_width_mm / self.framed().shape[1]

    def lab(self) -> Floats:
        """L*a*b* of the framed picture."""
        return self._source.remember("lab", self.key, lambda: picture_to_lab(self.framed()))

    def value(self) -> Floats:
        """Value map of the framed picture."""
        return self._source.remember("value", self.key, lambda: value_map(self.framed()))

    def histogram(self) -> tuple[float, ...]:
        """Share of the picture in equal steps of value, 0–10."""
        counts = self._source.remember(
            "histogram", self.key, lambda: histogram(self.value(), bins=HISTOGRAM_BINS)
        )
        return tuple(float(c) for c in counts / counts.sum())
