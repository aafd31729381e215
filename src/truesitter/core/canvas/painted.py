"""The canvas as a hand leaves it: pixel by pixel, with borders as soft as they are painted.

A map of stacks and a table of their spectra. Each layer gives every pixel it reaches a new stack,
told by the stack below and how far the pixel is covered; each such pair is computed once. New
stacks that look alike to the eye are made one, which keeps the table small.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from functools import cached_property

import cv2
import numpy as np
from numpy.typing import NDArray

from truesitter.core.canvas.canvas_change import Change
from truesitter.core.canvas.drawn.painted_lines import line_cover
from truesitter.core.canvas.layer import Layer, Operation, Removal, Smear, laid_over
from truesitter.core.canvas.painted_borders import Borders, cover
from truesitter.core.canvas.tuning import ALIKE, LEVELS, MOST_STEPS, SHARES, SMEARS_PX, WIDTH_OF_SIGMA
from truesitter.core.colour.spaces import lab_to_srgb, xyz_to_lab
from truesitter.core.colour.spectrum import observer_weights, reflectance_to_lab
from truesitter.core.imaging.blur import blur, level_shares
from truesitter.core.paint.media.supports import PRIMED_CANVAS, Support
from truesitter.core.paint.optics.kubelka_munk import internal_of, seen_from
from truesitter.core.paint.tubes.rack import LIBRARY, Rack
from truesitter.core.types import Bytes, Counts, Floats, Ints, Labels, Mask


def _steps(power: float) -> tuple[Ints, Floats]:
    """The step of each level, and the share covered at each step: finer towards nothing for a power of 2."""
    levels = np.arange(LEVELS + 1) / LEVELS
    steps = np.rint(levels ** (1 / power) * MOST_STEPS).astype(np.int32)
    return steps, ((np.arange(MOST_STEPS + 1) / MOST_STEPS) ** power).astype(np.float32)


_STEPS = {False: _steps(1.0), True: _steps(2.0)}
"""For opaque paint, and for films that fade: a trace of a strong film is seen at once."""

Where = tuple[Counts, Labels]
"""Pixels a deed reaches, counted row by row, and parts of `LEVELS` covered of each."""


@dataclass(frozen=True)
class Painted:
    """Every state of a canvas.

    Attributes
    ----------
    shape
        Height and width in pixels.
    labs
        (m, 3) L*a*b* of each stack; the first is the bare support's.
    changes
        For each pass what it changed.
    """

    shape: tuple[int, int]
    labs: Floats
    changes: tuple[Change, ...]

    def stacks(self, number: int) -> Ints:
        """Stack at each pixel (h, w) after so many passes."""
        stack = np.zeros(self.shape[0] * self.shape[1], np.int32)
        for change in self.changes[:number]:
            stack[change.where] = change.stacks
        return stack.reshape(self.shape)

    @cached_property
    def _words(self) -> NDArray[np.uint32]:
        """(m,) colour of each stack: one 32-bit word is looked up faster than three bytes."""
        packed = np.zeros((len(self.labs), 4), np.uint8)
        packed[:, :3] = np.round(lab_to_srgb(self.labs) * 255)
        return packed.view(np.uint32)[:, 0]

    def picture(self, number: int) -> Bytes:
        """The canvas after so many passes, (h, w, 3) sRGB."""
        words = self._words[self.stacks(number)]
        return words.view(np.uint8).reshape(*self.shape, 4)[..., :3]

    def frames(self) -> Iterator[Bytes]:
        """The canvas after each pass, (h, w, 4) sRGB and nothing, each painted over the one before.

        One array is given again and again: who wants to keep a frame copies it.
        """
        words = np.full(self.shape[0] * self.shape[1], self._words[0])
        for change in self.changes:
            words[change.where] = self._words[change.stacks]
            yield words.view(np.uint8).reshape(*self.shape, 4)

    def pictures(self) -> Iterator[Bytes]:
        """The canvas after each pass, (h, w, 3) sRGB."""
        for frame in self.frames():
            yield np.asarray(cv2.cvtColor(frame, cv2.COLOR_RGBA2RGB), np.uint8)


@dataclass
class _Film:
    """A layer that may still be taken off: where it lies, and what part of it is left there."""

    layer: Layer
    levels: Labels
    left: Floats


class _Hand:
    """Does one deed after the other on one canvas."""

    def __init__(self, shape: tuple[int, int], support: Support, rack: Rack, keep: bool) -> None:
        self.rack, self.keep = rack, keep
        self.stack = np.zeros(shape[0] * shape[1], np.int32)
        self.table: Floats = support.internal()[None].astype(np.float32)
        self.films: list[_Film] = []
        self.open_from, self.under = 0, self.stack

    def dry(self) -> None:
        """Nothing is open any more."""
        if self.keep:
            self.open_from, self.under = len(self.films), self.stack.copy()

    def lay(self, layer: Layer, where: Where) -> None:
        at, levels = where
        self.stack[at] = self._over(layer, self.stack[at], levels)
        if self.keep:
            full = np.zeros(len(self.stack), np.uint8)
            full[at] = levels
            self.films.append(_Film(layer, full, np.ones(len(self.stack), np.float32)))

    def _over(self, layer: Layer, below: Ints, levels: Labels, left: Floats | None = None) -> Ints:
        """Stacks that come of a layer over others, new ones listed."""
        steps, shares = _STEPS[layer.fades]
        code = below.astype(np.int64) * (MOST_STEPS + 1) + steps[levels]
        if left is None:
            distinct, which = _distinct(code, len(self.table) * (MOST_STEPS + 1))
            parts = None
        else:
            code = code * (SHARES + 1) + np.rint(left * SHARES).astype(np.int64)
            distinct, which = np.unique(code, return_inverse=True)
            parts = (distinct % (SHARES + 1)).astype(np.float32) / SHARES
            distinct = distinct // (SHARES + 1)
        covers = shares[distinct % (MOST_STEPS + 1)]
        fresh = laid_over(layer, self.rack, self.table[distinct // (MOST_STEPS + 1)], covers, parts)
        numbers: Ints = self._listed(fresh)[which]
        return numbers

    def _listed(self, fresh: Floats) -> Ints:
        """Numbers of new stacks, those that look alike under one."""
        xyz = seen_from(fresh) @ observer_weights().astype(np.float32)
        cells = np.rint(xyz_to_lab(xyz) / ALIKE).astype(np.int64) + 2048
        code = (cells[:, 0] << 24) | (cells[:, 1] << 12) | cells[:, 2]
        _, first, which = np.unique(code, return_index=True, return_inverse=True)
        numbers: Ints = (len(self.table) + which).astype(np.int32)
        self.table = np.concatenate([self.table, fresh[first]])
        return numbers

    def smear(self, widths_px: Floats) -> Counts:
        """Mix what lies there with what lies round it, as the eye mixes; which pixels that reaches."""
        at = np.flatnonzero(widths_px > 0)
        seen = seen_from(self.table).astype(np.float32)
        shares = level_shares(widths_px.ravel()[at] / WIDTH_OF_SIGMA, SMEARS_PX)
        mixed = np.zeros((len(at), seen.shape[1]), np.float32)
        for sigma, share in zip(SMEARS_PX, shares, strict=True):
            on = np.flatnonzero(share > 0)
            if len(on):
                mixed[on] += share[on][:, None] * self._drawn_about(seen, sigma, at[on], widths_px.shape)
        self.stack[at] = self._listed(internal_of(mixed).astype(np.float32))
        return at

    def _drawn_about(self, seen: Floats, sigma: float, at: Counts, shape: tuple[int, ...]) -> Floats:
        """What is seen at some pixels once all is blurred, (n, bands)."""
        if sigma == 0:
            return np.asarray(seen[self.stack[at]])
        rows, columns = np.divmod(at, shape[1])
        reach = int(4 * sigma) + 1
        top, left = max(0, int(rows.min()) - reach), max(0, int(columns.min()) - reach)
        around = self.stack.reshape(shape)[top : rows.max() + reach, left : columns.max() + reach]
        out = np.empty((len(at), seen.shape[1]), np.float32)
        for band in range(seen.shape[1]):
            out[:, band] = blur(seen[:, band][around], sigma)[rows - top, columns - left]
        return out

    def take(self, takings: list[tuple[Removal, Where]], dry: bool) -> None:
        """Take paint off in one go: where two places meet, what is left passes from one to the other.

        From dry films too, or from what is open alone.
        """
        off = np.ones(len(self.stack), np.float32)
        for taking, (at, levels) in takings:
            part = levels.astype(np.float32) / LEVELS
            off[at] += (np.float32(taking.share) - off[at]) * part
        at = np.flatnonzero(off < 1)
        stack = np.zeros(len(at), np.int32) if dry else self.under[at]
        for film in self.films[0 if dry else self.open_from :]:
            film.left[at] *= off[at]
            on = np.flatnonzero(film.levels[at])
            here = at[on]
            stack[on] = self._over(film.layer, stack[on], film.levels[here], film.left[here])
        self.stack[at] = stack


def _distinct(code: Counts, kinds: int) -> tuple[Counts, Counts]:
    """As `np.unique` with the inverse, for whole numbers below `kinds`: without sorting."""
    seen = np.zeros(kinds, bool)
    seen[code] = True
    distinct = np.flatnonzero(seen)
    number = np.empty(kinds, np.int64)
    number[distinct] = np.arange(len(distinct))
    return distinct, number[code]


@dataclass(frozen=True)
class Painting:
    """What one pass does: its deeds in order, and whether what it goes over is still wet."""

    operations: tuple[Operation, ...]
    into_wet: bool = False


def paint(
    borders: Borders, passes: Iterable[Painting], support: Support = PRIMED_CANVAS, rack: Rack = LIBRARY
) -> Painted:
    """Do every pass on one canvas.

    Parameters
    ----------
    borders
        How sharply each border is painted.
    passes
        In order.
    support, rack
        What it is painted on, and where the tubes are.
    """
    passes = tuple(passes)
    shape = borders.patchwork.labels.shape[:2]
    operations = [operation for one in passes for operation in one.operations]
    hand = _Hand((shape[0], shape[1]), support, rack, any(isinstance(d, Removal) for d in operations))
    changes: list[tuple[Counts, Ints]] = []
    # Where a deed reaches depends on nothing that is laid: it is found beside the laying.
    with ThreadPoolExecutor(max_workers=2) as beside:
        spread = [o for o in operations if not isinstance(o, Smear)]
        places = beside.map(reached, [borders] * len(spread), spread, carried_on(passes))
        for one in passes:
            if not one.into_wet:
                hand.dry()
            done = [(o, next(places)) for o in one.operations if not isinstance(o, Smear)]
            touched = [where[0] for _, where in done]
            for operation, where in done:
                if isinstance(operation, Layer):
                    hand.lay(operation, where)
            for dry in (False, True):
                takings = [(d, where) for d, where in done if isinstance(d, Removal) and d.dry == dry]
                if takings:
                    hand.take(takings, dry)
            touched += [
                hand.smear(o.width_mm / np.float32(borders.mm_per_px))
                for o in one.operations
                if isinstance(o, Smear)
            ]
            if len(touched) == 1:
                changed = touched[0]
            else:
                changed = np.unique(np.concatenate([np.zeros(0, np.int64), *touched]))
            changes.append((changed, hand.stack[changed]))
    labs = reflectance_to_lab(seen_from(hand.table)).astype(np.float32)
    kept = tuple(Change.of(where, stacks, len(labs)) for where, stacks in changes)
    return Painted((shape[0], shape[1]), labs, kept)


def carried_on(passes: tuple[Painting, ...]) -> list[Mask | None]:
    """For each deed the pieces that its paint is carried on towards.

    For opaque paint those that opaque paint is laid on afterwards; for what is taken off, those that
    are worked on afterwards in the same pass.
    """
    out: list[Mask | None] = []
    laid: Mask | None = None
    for one in reversed(passes):
        taken: Mask | None = None
        for operation in reversed(one.operations):
            if isinstance(operation, Smear):
                continue
            if isinstance(operation, Removal):
                out.append(taken)
                taken = operation.pieces if taken is None else taken | operation.pieces
            elif operation.fades:
                out.append(None)
            else:
                out.append(laid)
                laid = operation.pieces if laid is None else laid | operation.pieces
    return out[::-1]


def reached(borders: Borders, operation: Operation, later: Mask | None) -> Where:
    """Pixels a deed reaches and how far each is covered.

    Parameters
    ----------
    borders
        How soft each border is.
    operation
        What is laid or taken off.
    later
        (n,) pieces that are laid afterwards and cover the border; None for none.

    Returns
    -------
    Where
        Pixels and their cover 0–1.
    """
    labels = borders.patchwork.labels
    if operation.lines:
        rows, columns, levels = line_cover(operation.lines, labels.shape, borders.mm_per_px)
    else:
        wet, runs = (operation.wet, operation.runs_mm) if isinstance(operation, Layer) else (None, 0.0)
        rows, columns, levels = cover(borders, operation.pieces, later, wet, runs)
    inside = np.flatnonzero(levels)
    width = columns.stop - columns.start
    at = (inside // max(1, width) + rows.start) * labels.shape[1] + inside % max(1, width) + columns.start
    return at, levels.ravel()[inside]
