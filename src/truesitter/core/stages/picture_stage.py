"""The framed picture: everything else is measured on it."""

from __future__ import annotations

import numpy as np

from truesitter.core.colour.spaces import picture_to_lab
from truesitter.core.graph.results import PHOTOGRAPH, Source, result
from truesitter.core.imaging.pixels import window_at
from truesitter.core.imaging.reduce import reduced_picture
from truesitter.core.reference.decode import decode, inspect
from truesitter.core.reference.frame import apply, crop_scale, rectify, turned
from truesitter.core.reference.tone import Clipping, balance_from, correct, find_clipping
from truesitter.core.reference.tuning import WORKING_LONG_SIDE
from truesitter.core.settings import ReferenceSettings
from truesitter.core.stages.tuning import HISTOGRAM_BINS, SPOT
from truesitter.core.types import Bytes, Doubles, Floats
from truesitter.core.values.value_map import histogram, value_map

FRAME = tuple(
    f"reference.{name}"
    for name in (
        "canvas_width_mm", "canvas_height_mm", "centre_x", "centre_y", "zoom", "straighten", "keystone",
        "mirror", "quarter_turns",
    )
)  # fmt: skip
TONE = tuple(f"reference.{name}" for name in ("balance", "exposure", "black", "white", "untinted"))
WIDTH_MM = "reference.canvas_width_mm"
CANVAS = (WIDTH_MM, "reference.canvas_height_mm")


class PictureStage:
    """The photograph, framed, and its colours and values."""

    def __init__(self, source: Source) -> None:
        self.source = source
        self.settings: ReferenceSettings = source.stage("reference")

    @result("photograph", settings=("reference.quarter_turns",), needs=(PHOTOGRAPH,), version=2)
    def photograph(self) -> Bytes:
        """The whole photograph, the way up that the painter set, at a working size, for framing."""
        picture = reduced_picture(decode(self.source.load(), WORKING_LONG_SIDE), WORKING_LONG_SIDE)
        return turned(picture, self.settings.quarter_turns)

    def square(self) -> Bytes:
        """The whole photograph seen square on, as the frame is placed on it."""
        corners = self.settings.keystone
        return self.photograph() if corners is None else rectify(self.photograph(), corners)

    @result("framed", settings=TONE, needs=("uncorrected",))
    def framed(self) -> Bytes:
        """The framed picture, (H, W, 3) uint8 sRGB, long side at most 2 048, its colour corrected."""
        return correct(self.uncorrected(), self.settings.tone())

    @result("uncorrected", settings=FRAME, needs=(PHOTOGRAPH,))
    def uncorrected(self) -> Bytes:
        """The framed picture in the photograph's own colour."""
        return self._frame(WORKING_LONG_SIDE)

    def _frame(self, long_side: int | None) -> Bytes:
        """The frame cut out with a long side of at most so many pixels; None for as many as there are."""
        frame = self.settings.frame()
        data = self.source.load()
        if long_side is None:
            return apply(decode(data), frame, None)
        info = inspect(data)
        needed = long_side * crop_scale(frame, info.width, info.height)
        return apply(decode(data, int(needed) + 1), frame, long_side)

    def full_size(self) -> Bytes:
        """The framed and corrected picture at the photograph's own resolution; not remembered."""
        return correct(self._frame(None), self.settings.tone())

    @result("clipping", needs=("uncorrected",))
    def clipping(self) -> Clipping:
        """What the photograph lost in its darks and lights, inside the frame."""
        return find_clipping(self.uncorrected())

    def balance_at(self, x: float, y: float) -> tuple[float, float, float]:
        """Gains that make the spot (fractions of the framed picture) neutral."""
        picture = self.uncorrected()
        reach = max(2, round(SPOT * picture.shape[1]))
        return balance_from(picture[window_at(x, y, picture.shape, reach)])

    def colour_at(self, start: tuple[float, float], end: tuple[float, float] | None = None) -> Doubles:
        """Mean L*a*b* (3,) of a spot, or of the rectangle between two, in fractions of the picture."""
        lab = self.lab()
        rows, columns = window_at(*start, lab.shape, max(1, round(SPOT * lab.shape[1])))
        if end is not None:
            (top, left), (bottom, right) = (
                (s.start, t.start) for s, t in (window_at(*p, lab.shape, 0) for p in (start, end))
            )
            rows = slice(min(top, bottom), max(top, bottom) + 1)
            columns = slice(min(left, right), max(left, right) + 1)
        return np.asarray(lab[rows, columns].reshape(-1, 3).mean(axis=0, dtype=np.float64))

    @property
    def mm_per_px(self) -> float:
        """Canvas mm to a pixel of the framed picture."""
        return self.settings.canvas_width_mm / self.framed().shape[1]

    @property
    def shape(self) -> tuple[int, int]:
        """Height and width of the framed picture in pixels."""
        height, width = self.framed().shape[:2]
        return height, width

    @result("lab", needs=("framed",))
    def lab(self) -> Floats:
        """L*a*b* of the framed picture."""
        return picture_to_lab(self.framed())

    @result("value", needs=("framed",))
    def value(self) -> Floats:
        """Value map of the framed picture."""
        return value_map(self.framed())

    @result("histogram", needs=("value",))
    def histogram(self) -> tuple[float, ...]:
        """Share of the picture in equal steps of value, 0–10."""
        counts = histogram(self.value(), bins=HISTOGRAM_BINS)
        return tuple(float(c) for c in counts / counts.sum())
