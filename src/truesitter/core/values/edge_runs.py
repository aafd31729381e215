"""Edges as runs: neighbouring readings of one kind joined into strokes that can be drawn and listed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np

from truesitter.core.types import Doubles, Ints
from truesitter.core.values.edges import EdgeSamples, Sharpness, sharpness_of
from truesitter.core.values.tuning import JOIN_MM, SHORTEST_MM, SMOOTH_MM, UNLIKE

if TYPE_CHECKING:
    from scipy.spatial import cKDTree


@dataclass(frozen=True)
class EdgeRun:
    """A stretch of border of one kind.

    Attributes
    ----------
    kind
        Hard, firm, soft or lost.
    points
        (n, 2) x, y in fractions of the picture, in order.
    length_mm, width_mm, contrast
        Length on the canvas, mean 10–90 % width, mean difference of the sides in value steps.
    sides_mm
        Mean widths of its darker and its lighter side.
    """

    kind: Sharpness
    points: Doubles
    length_mm: float
    width_mm: float
    contrast: float
    sides_mm: tuple[float, float]

    @property
    def softer(self) -> Literal["darker", "lighter"] | None:
        """The side it is soft on, where it is crisp on the other; a hard edge is crisp on both."""
        darker, lighter = self.sides_mm
        one_sided = max(darker, lighter) >= UNLIKE * min(darker, lighter)
        if not one_sided or self.kind not in (Sharpness.FIRM, Sharpness.SOFT):
            return None
        return "darker" if darker > lighter else "lighter"

    @property
    def middle(self) -> tuple[float, float]:
        """A point half way along."""
        x, y = self.points[len(self.points) // 2]
        return float(x), float(y)


def join_edges(samples: EdgeSamples, shape: tuple[int, int], mm_per_px: float) -> tuple[EdgeRun, ...]:
    """Join readings into runs, longest first.

    Parameters
    ----------
    samples
        Readings in pixels of a picture of `shape` (height, width).
    """
    if len(samples.points) == 0:
        return ()
    mm = samples.points * mm_per_px
    from scipy.spatial import cKDTree

    tree = cKDTree(mm)
    readings = np.column_stack([samples.width * mm_per_px, samples.contrast, samples.sides * mm_per_px])
    readings = evened(tree, samples.direction, readings)
    width, contrast = readings[:, 0], readings[:, 1]
    names = list(Sharpness)
    found = (sharpness_of(w, c) for w, c in zip(width, contrast, strict=True))
    kinds = np.array([names.index(kind) for kind in found])
    edges = []
    for order in _walks(tree, mm, samples.direction, kinds):
        length = float(np.hypot(*np.diff(mm[order], axis=0).T).sum())
        if length < SHORTEST_MM:
            continue
        edges.append(
            EdgeRun(
                kind=names[int(kinds[order[0]])],
                points=samples.points[order] / (shape[1], shape[0]),
                length_mm=length,
                width_mm=float(width[order].mean()),
                contrast=float(contrast[order].mean()),
                sides_mm=(float(readings[order, 2].mean()), float(readings[order, 3].mean())),
            )
        )
    return tuple(sorted(edges, key=lambda e: -e.length_mm))


def evened(tree: cKDTree, direction: Doubles, readings: Doubles) -> Doubles:
    """Readings (n, c) averaged with those near them, in mm, on the same border.

    Parameters
    ----------
    tree
        Of the spots, in mm.
    direction
        (n, 2) along the border.
    readings
        (n, c)

    Returns
    -------
    Doubles
        (n, c)
    """
    near = tree.query_pairs(SMOOTH_MM, output_type="ndarray")
    along = np.abs((direction[near[:, 0]] * direction[near[:, 1]]).sum(axis=1)) > 0.7
    near = near[along]
    count, total = np.ones(len(readings)), readings.copy()
    for one, other in ((0, 1), (1, 0)):
        np.add.at(count, near[:, one], 1)
        np.add.at(total, near[:, one], readings[near[:, other]])
    return total / count[:, None]


def _walks(tree: cKDTree, mm: Doubles, direction: Doubles, kinds: Ints) -> list[list[int]]:
    """Readings of one kind in the order a hand would draw them."""
    _, around = tree.query(mm, k=min(7, len(mm)), distance_upper_bound=JOIN_MM)
    around = np.atleast_2d(around)
    left = np.ones(len(mm), bool)
    walks = []
    for start in range(len(mm)):
        if not left[start]:
            continue
        left[start] = False
        ahead = _follow(start, 1.0, around, mm, direction, kinds, left)
        behind = _follow(start, -1.0, around, mm, direction, kinds, left)
        walks.append([*behind[::-1], start, *ahead])
    return walks


def _follow(
    start: int, sign: float, around: Ints, mm: Doubles, direction: Doubles, kinds: Ints, left: np.ndarray[
        tuple[int], np.dtype[np.bool_]
    ],
) -> list[int]:  # fmt: skip
    """Go on from a reading to the nearest unused one of its kind that lies ahead."""
    out: list[int] = []
    at, heading = start, direction[start] * sign
    while True:
        following = -1
        for candidate in around[at]:
            if candidate == at or candidate >= len(mm) or not left[candidate]:
                continue
            if kinds[candidate] == kinds[start] and (mm[candidate] - mm[at]) @ heading > 0:
                following = int(candidate)
                break
        if following < 0:
            return out
        left[following] = False
        step = direction[following]
        heading = step if step @ heading >= 0 else -step
        out.append(following)
        at = following
