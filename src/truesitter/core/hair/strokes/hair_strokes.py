"""Strokes of hair: set down exactly along the growth, free only towards the end.

All strokes of a layer are traced at once. A stroke is seeded in its middle, walked back to its
root and forward from there, so that they cover a mass evenly up to its borders.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.hair.field.tuning import ROOT_PART
from truesitter.core.hair.field.whorls import Whorl
from truesitter.core.hair.strokes.curls import curled
from truesitter.core.hair.strokes.stroke_types import StrokeType
from truesitter.core.hair.strokes.tuning import (
    AT_THE_RIM,
    BROAD_PX,
    CURLS_LONG,
    LEAST,
    NARROWEST,
    NO_LOCK,
    OF_THE_CURVE,
    OF_THE_FACE,
    OF_THE_LOCK,
    POINTS,
    ROUNDS,
    SHORTER,
    SMOOTH,
    TURN_BACK,
)
from truesitter.core.imaging.line import Line, outline
from truesitter.core.types import Doubles, Floats, Ints, Mask


@dataclass(frozen=True)
class StrokeGround:
    """What strokes are laid on, all maps of one size.

    Attributes
    ----------
    directed
        (h, w, 2) root→tip unit direction, y up.
    mm_per_px
        Canvas mm to a pixel.
    lock_length, lock_width
        (h, w) of the lock each pixel lies in, in mm; 0 where there is none.
    face_mm
        Height of the face on the canvas, or what stands for it.
    whorls
        Whorls, which no stroke crosses.
    curl_period, curl_amplitude
        (h, w) of the curl of each lock, in mm, 0 where none is seen; None where none is anywhere.
    """

    directed: Floats
    mm_per_px: float
    lock_length: Floats
    lock_width: Floats
    face_mm: float
    whorls: tuple[Whorl, ...] = ()
    curl_period: Floats | None = None
    curl_amplitude: Floats | None = None

    def curl_at(self, row: int, column: int) -> tuple[float, float]:
        """Period and amplitude of the curl at a pixel, in mm; (0, 0) where none is seen."""
        if self.curl_period is None or self.curl_amplitude is None:
            return 0.0, 0.0
        return float(self.curl_period[row, column]), float(self.curl_amplitude[row, column])

    @property
    def shape(self) -> tuple[int, int]:
        """Height and width of the maps."""
        height, width = self.directed.shape[:2]
        return height, width

    def whorl_distance(self) -> Floats:
        """(h, w) distance to the nearest whorl, in pixels; very far without any."""
        height, width = self.shape
        away = np.full((height, width), 1e6, np.float32)
        rows, columns = np.mgrid[0:height, 0:width].astype(np.float32) + 0.5
        for whorl in self.whorls:
            np.minimum(away, np.hypot(columns - whorl.x * width, rows - whorl.y * height), out=away)
        return away


def curvature(directed: Floats) -> Floats:
    """Curvature of the lines of a direction field, in radians a pixel, (h, w); its sense does not matter."""
    x, y = directed[..., 0], directed[..., 1]
    c2, s2 = (cv2.GaussianBlur(v, (0, 0), SMOOTH) for v in (x * x - y * y, 2 * x * y))
    norm = np.maximum(c2 * c2 + s2 * s2, 1e-6)
    # Along the line: columns by x, rows by −y.
    turns = [
        np.gradient(c2, axis=axis) * -s2 + np.gradient(s2, axis=axis) * c2 for axis in (1, 0)
    ]  # fmt: skip
    return np.asarray(np.abs(turns[0] * x - turns[1] * y) / norm / 2, np.float32)


def widest_brush(ground: StrokeGround) -> Floats:
    """Widest brush at every spot, in mm, (h, w).

    ⅔ of the lock's width, 0.3 × the radius of curvature, the distance to the whorl, whichever is least.
    """
    bend = curvature(ground.directed)
    limit = OF_THE_CURVE * ground.mm_per_px / np.maximum(bend, 1e-4)
    if ground.whorls:
        limit = np.minimum(limit, ground.whorl_distance() * ground.mm_per_px)
    locks = ground.lock_width > 0
    limit[locks] = np.minimum(limit[locks], OF_THE_LOCK * ground.lock_width[locks])
    return np.asarray(limit, np.float32)


@dataclass(frozen=True)
class Wish:
    """What strokes are asked for.

    Attributes
    ----------
    type
        Type of stroke.
    brush_mm
        Width of the brush where there is room for it.
    density
        Area of all strokes as part of the place; broad ones are laid where it is still bare, until as much of
        it is covered as random ones of that area would cover, 1 − exp(−density).
    seed
        Chance is the same each time.
    """

    type: StrokeType
    brush_mm: float
    density: float
    seed: int


def lay_strokes(
    ground: StrokeGround, mask: Mask, wish: Wish, limit: Floats | None = None
) -> tuple[Line, ...]:
    """Strokes that cover a place.

    Parameters
    ----------
    mask
        (h, w) the place; strokes end where they leave it.
    limit
        (h, w) widest brush; `widest_brush` of the ground when not given.
    """
    rows, columns = np.nonzero(mask)
    if not len(rows) or wish.density <= 0:
        return ()
    limit = widest_brush(ground) if limit is None else limit
    if wish.brush_mm >= BROAD_PX * ground.mm_per_px:
        return _filled(ground, mask, wish, limit)
    chance = np.random.default_rng(wish.seed)
    tracer = _Tracer(ground, mask, wish)
    goal = wish.density * len(rows) * ground.mm_per_px**2
    lines: list[Line] = []
    area = 0.0
    for _ in range(ROUNDS):
        # The last stroke of a round may have overshot the goal.
        if area >= goal:
            break
        width = np.minimum(wish.brush_mm, limit[rows, columns])
        typical = tracer.mean_length(rows, columns) * float(width.mean()) * _fullness(wish.type)
        count = int(np.ceil((goal - area) / max(typical, 1e-6) / np.mean(wish.type.bundle))) + 1
        for line in tracer.trace(rows, columns, limit, min(count, 20_000), chance):
            if area >= goal:
                break
            steps = np.hypot(*(np.diff(line.points, axis=0) * tracer.size_mm).T)
            area += float((steps * (line.widths_mm[:-1] + line.widths_mm[1:]) / 2).sum())
            lines.append(line)
    return tuple(lines)


def _filled(ground: StrokeGround, mask: Mask, wish: Wish, limit: Floats) -> tuple[Line, ...]:
    """Broad strokes, each round where the place is still bare, narrower beside its borders."""
    chance, tracer = np.random.default_rng(wish.seed), _Tracer(ground, mask, wish)
    room = 2 * cv2.distanceTransform(mask.astype(np.uint8), cv2.DIST_L2, 5) * ground.mm_per_px
    widths = np.minimum(np.minimum(wish.brush_mm, limit), np.maximum(room, NARROWEST * wish.brush_mm))
    bare, lines = mask.astype(np.uint8), list[Line]()
    whole, left = int(mask.sum()), np.exp(-wish.density)
    for number in range(ROUNDS):
        rows, columns = np.nonzero(bare)
        if len(rows) <= left * whole:
            break
        # What is left over is small: a stroke of the usual length would not go in.
        part = SHORTER**number
        typical = part * tracer.mean_length(rows, columns)
        each = typical * float(widths[rows, columns].mean()) * _fullness(wish.type)
        wanted = (len(rows) - left * whole) * ground.mm_per_px**2 / max(each, 1e-6)
        count = int(np.ceil(wanted / np.mean(wish.type.bundle))) + 1
        for line in tracer.trace(rows, columns, widths, min(count, 20_000), chance, part):
            border = outline(line, bare.shape, ground.mm_per_px, 1.0)
            cv2.fillPoly(bare, [np.rint(border * 16).astype(np.int32)], 0, shift=4)
            lines.append(line)
    return tuple(lines)


def _profile(type_: StrokeType, along: Doubles) -> Doubles:
    """Width at parts of the length, as part of the widest."""
    return np.interp(along, (0, type_.widest, 1), (type_.root, 1, type_.end))


def _fullness(type_: StrokeType) -> float:
    return float(_profile(type_, np.linspace(0, 1, 50)).mean())


class _Tracer:
    """Traces many strokes at once over one place."""

    def __init__(self, ground: StrokeGround, mask: Mask, wish: Wish) -> None:
        self.ground, self.mask, self.wish = ground, mask, wish
        height, width = ground.shape
        self.size_mm = (width * ground.mm_per_px, height * ground.mm_per_px)
        self.whorls = ground.whorl_distance() if ground.whorls else None
        self.rim = self._rim() if wish.type.rim else None
        # A stroke may run out of its place by half its own width at most.
        reach = wish.brush_mm / 2 / ground.mm_per_px
        outside = cv2.distanceTransform((~mask).astype(np.uint8), cv2.DIST_L2, 5)
        self.allowed = outside <= max(0.0, reach - 1)

    def _rim(self) -> Mask:
        """Where the place is the rim of all hair, (h, w)."""
        hair = (np.abs(self.ground.directed).sum(axis=2) > 0).astype(np.uint8)
        # Hair that runs out of the picture has no rim there.
        padded = cv2.copyMakeBorder(hair, 1, 1, 1, 1, cv2.BORDER_REPLICATE)
        depth = cv2.distanceTransform(padded, cv2.DIST_L2, 5)[1:-1, 1:-1]
        return np.asarray(self.mask & (depth * self.ground.mm_per_px < OF_THE_FACE * self.ground.face_mm))

    def _picked(self, rows: Ints, columns: Ints, count: int, chance: np.random.Generator) -> Ints:
        """Numbers of the pixels that strokes begin at, in an even comb of the shuffled ones."""
        pick = chance.permutation(len(rows))[np.arange(count) * len(rows) // max(count, 1) % len(rows)]
        if self.rim is not None:
            outer = np.flatnonzero(self.rim[rows, columns])
            to_rim = chance.random(count) < AT_THE_RIM
            if len(outer):
                pick[to_rim] = chance.choice(outer, int(to_rim.sum()))
        return np.asarray(pick)

    def _lengths(self, rows: Ints, columns: Ints) -> Doubles:
        """What lengths are parts of, in mm."""
        if not self.wish.type.of_the_lock:
            return np.full(len(rows), self.ground.face_mm)
        locks = self.ground.lock_length[rows, columns].astype(np.float64)
        return np.where(locks > 0, locks, NO_LOCK * self.ground.face_mm)

    def mean_length(self, rows: Ints, columns: Ints) -> float:
        """Mean length wished, in mm."""
        return float(np.mean(self.wish.type.length)) * float(self._lengths(rows, columns).mean())

    def trace(
        self, rows: Ints, columns: Ints, limit: Floats, count: int, chance: np.random.Generator,
        part: float = 1.0,
    ) -> list[Line]:  # fmt: skip
        """So many strokes, or bundles of them, seeded anywhere in the place.

        Parameters
        ----------
        rows
            Of the pixels strokes may begin at.
        columns
            And their columns.
        limit
            (h, w) how far from the root a stroke may reach.
        count
            Of strokes.
        chance
            Source of chance.
        part
            Of their usual length, 0–1.

        Returns
        -------
        list[Line]
            At most `count` strokes.
        """
        type_, ground = self.wish.type, self.ground
        pick = self._picked(rows, columns, count, chance)
        place = np.column_stack([columns[pick], rows[pick]]) + chance.random((count, 2))
        length = part * chance.uniform(*type_.length, count) * self._lengths(rows[pick], columns[pick])
        width = np.minimum(self.wish.brush_mm, limit[rows[pick], columns[pick]])
        turn = chance.choice((-1.0, 1.0), count)
        if type_.bundle[1] > 1:
            place, length, width, turn = self._bundled(place, length, width, turn, chance)
        length_px = length / ground.mm_per_px
        curls = self._curls(place)
        if not type_.of_the_lock:
            whole = curls[:, 0] * chance.uniform(*CURLS_LONG, len(place))
            length_px = np.where(curls[:, 0] > 0, whole, length_px)
        root, _ = self._walk(place, length_px * chance.random(len(place)), -1)
        # A curl that was read is drawn as such, not by the turn that its type has else.
        paths, alive = self._forward(root, length_px, np.where(curls[:, 0] > 0, 0.0, turn), chance)
        lines = []
        height, across = ground.shape
        for path, n, w, curl in zip(paths, alive, width, curls, strict=True):
            if n < max(2, round(LEAST * POINTS)):
                continue
            # What is cut off at a border still runs out to a fine end.
            points = self._curled(path[:n], *curl)
            widths = w * _profile(type_, np.linspace(0, 1, len(points)))
            lines.append(Line(points / (across, height), widths))
        return lines

    def _curls(self, root: Doubles) -> Doubles:
        """Period and amplitude of the curl at the roots, in pixels, (n, 2); zeros where none is drawn."""
        ground = self.ground
        period, amplitude = ground.curl_period, ground.curl_amplitude
        if not self.wish.type.curls or period is None or amplitude is None:
            return np.zeros((len(root), 2))
        rows, columns = (np.clip(root[:, i].astype(int), 0, ground.shape[1 - i] - 1) for i in (1, 0))
        read = np.column_stack([period[rows, columns], amplitude[rows, columns]])
        return np.asarray(read / ground.mm_per_px, np.float64)

    def _curled(self, path: Doubles, period: float, amplitude: float) -> Doubles:
        """A stroke along its curl, in step with those beside it."""
        if not period:
            return path
        flow = self._flow(path[:1])[0]
        return curled(path, period, amplitude, 2 * np.pi * float(path[0] @ flow) / period)

    def _bundled(
        self, place: Doubles, length: Doubles, width: Doubles, turn: Doubles, chance: np.random.Generator
    ) -> tuple[Doubles, Doubles, Doubles, Doubles]:
        """Each seed becomes some strokes side by side that curl the same way."""
        low, high = self.wish.type.bundle
        size = chance.integers(low, high + 1, len(place))
        rank = np.concatenate([np.arange(n) - (n - 1) / 2 for n in size])
        place, length, width, turn = (np.repeat(v, size, axis=0) for v in (place, length, width, turn))
        flow = self._flow(place)
        side = np.column_stack([-flow[:, 1], flow[:, 0]])
        gap = 1.3 * width / self.ground.mm_per_px
        length = length * chance.uniform(0.85, 1.15, len(length))
        return place + side * (rank * gap)[:, None], length, width, turn

    def _flow(self, at: Doubles) -> Doubles:
        """Direction at points, x right and y down, (n, 2)."""
        height, width = self.ground.shape
        row = np.clip(at[:, 1].astype(int), 0, height - 1)
        column = np.clip(at[:, 0].astype(int), 0, width - 1)
        return np.asarray(self.ground.directed[row, column] * np.array((1.0, -1.0)))

    def _inside(self, at: Doubles, where: Mask) -> Mask:
        height, width = self.ground.shape
        row, column = np.floor(at[:, 1]).astype(int), np.floor(at[:, 0]).astype(int)
        on = (row >= 0) & (row < height) & (column >= 0) & (column < width)
        row, column = np.clip(row, 0, height - 1), np.clip(column, 0, width - 1)
        on &= where[row, column]
        if self.whorls is not None:
            on &= self.whorls[row, column] * self.ground.mm_per_px > self.wish.brush_mm
        return np.asarray(on)

    def _walk(self, start: Doubles, length: Doubles, sign: int) -> tuple[Doubles, Mask]:
        """Where points come to along the field after a length, or at the border before it."""
        at, before = start.copy(), self._flow(start)
        going = self._inside(at, self.mask)
        step = (length / (POINTS - 1))[:, None]
        for _ in range(POINTS - 1):
            flow = self._flow(at)
            ahead = at + sign * step * flow
            going = going & self._inside(ahead, self.mask) & ((flow * before).sum(axis=1) > TURN_BACK)
            at[going] = ahead[going]
            before = np.where(going[:, None], flow, before)
        return at, going

    def _forward(
        self, root: Doubles, length: Doubles, turn: Doubles, chance: np.random.Generator
    ) -> tuple[Doubles, Ints]:
        """Paths from the roots, (n, POINTS, 2), and how many points of each count."""
        type_, count = self.wish.type, len(root)
        step = length / (POINTS - 1)
        bend = chance.normal(0, 1, count) * type_.irregular
        phase = chance.uniform(0.8, 1.2, count)
        paths = np.empty((count, POINTS, 2))
        paths[:, 0] = root
        alive = np.ones(count, int)
        going = self._inside(root, self.mask)
        at, before = root.copy(), self._flow(root)
        for n in range(1, POINTS):
            flow = self._flow(at)
            along = (n - 1) / (POINTS - 1)
            free = max(0.0, along - ROOT_PART) / (1 - ROOT_PART)
            angle = bend * free + turn * type_.turn * free
            if type_.waves:
                swing = 2 * np.pi * type_.waves / (1 - ROOT_PART)
                # The slope of a wave of that swing, growing from nothing.
                slope = type_.wave * swing * np.cos(swing * phase * (along - ROOT_PART)) * min(1.0, 3 * free)
                angle = angle + turn * np.arctan(slope) * (free > 0)
            c, s = np.cos(angle), np.sin(angle)
            way = np.column_stack([flow[:, 0] * c - flow[:, 1] * s, flow[:, 0] * s + flow[:, 1] * c])
            ahead = at + way * step[:, None]
            back = (flow * before).sum(axis=1) <= TURN_BACK
            going = going & ~back & self._inside(ahead, self.allowed)
            at = np.where(going[:, None], ahead, at)
            before = flow
            paths[:, n] = at
            alive += going
        return paths, np.asarray(alive, np.int32)
