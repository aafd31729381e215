"""Edges of a painting against its plan: borders too hard or too soft.

A camera softens every edge alike; what most edges gained in width, squared, is the camera's and taken out.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from truesitter.core.easel.compare.tuning import (
    ASIDE_PX,
    FEWEST,
    GRAIN_PX,
    LEAST_CONTRAST,
    LEAST_WIDER_MM,
    SAME,
    SOFT_MM,
    TOO_HARD,
    TOO_SOFT,
)
from truesitter.core.imaging.blur import blur
from truesitter.core.sitter.areas import Areas
from truesitter.core.types import Doubles, Floats, Labels, Mask
from truesitter.core.values.edges import EdgeSamples, Sharpness, read_edges, sharpness_of


@dataclass(frozen=True)
class EdgeOff:
    """A border that is not as planned.

    Attributes
    ----------
    place
        Its name.
    x, y
        A spot on it, in fractions.
    painted_mm, planned_mm
        Its widths.
    readings
        (n, 2) spots in pixels.
    """

    place: str
    x: float
    y: float
    painted_mm: float
    planned_mm: float
    readings: Doubles

    @property
    def words(self) -> str:
        """In a sentence."""
        hard = self.painted_mm < self.planned_mm
        said = f"the edge is {_kind(self.painted_mm)} ({self.painted_mm:.1f} mm) instead of "
        said += f"{_kind(self.planned_mm)} ({self.planned_mm:.1f} mm)"
        return f"{self.place[:1].upper()}{self.place[1:]}: {said}; too {'hard' if hard else 'soft'}."


def _kind(width_mm: float) -> str:
    kind = sharpness_of(width_mm, 2.0)
    return "very soft" if kind is Sharpness.LOST else kind.value


@dataclass(frozen=True)
class EdgesRead:
    """The same borders read on plan and painting; widths in mm."""

    plan: EdgeSamples
    painted_mm: Doubles
    planned_mm: Doubles
    clear: Mask
    camera_mm: float


def read_both(labels: Labels, own: Floats, plan: Floats, trusted: Mask, mm_per_px: float) -> EdgesRead:
    """Read borders on both, and take the camera's softness out.

    Parameters
    ----------
    labels
        (h, w) value groups, along whose borders is read.
    own, plan
        (h, w) values.
    """
    # Grain breaks a profile off early: both are softened alike before they are read.
    planned, painted = (read_edges(labels, blur(v, GRAIN_PX), mm_per_px) for v in (plan, own))
    wide, wanted = painted.width * mm_per_px, planned.width * mm_per_px
    rows = np.clip(planned.points[:, 1].astype(int), 0, own.shape[0] - 1)
    columns = np.clip(planned.points[:, 0].astype(int), 0, own.shape[1] - 1)
    clear = (
        (planned.contrast >= LEAST_CONTRAST) & (painted.contrast >= 0.8 * planned.contrast)
        & (painted.contrast <= 1.3 * planned.contrast) & trusted[rows, columns]
    )  # fmt: skip
    sharp = clear & (wanted < 2.5)
    gained = np.maximum(wide**2 - wanted**2, 0)
    camera2 = float(np.median(gained[sharp])) if sharp.sum() >= FEWEST else 0.0
    corrected = np.sqrt(np.maximum(wide**2 - camera2, (0.25 * wide) ** 2))
    return EdgesRead(planned, corrected, wanted, clear, float(np.sqrt(camera2)))


def edges_off(read: EdgesRead, areas: Areas, free: bool = False) -> tuple[EdgeOff, ...]:
    """Borders too hard or too soft, place by place, the farthest off first.

    Free work is as hard or soft as its painter likes: only what stands out from the rest is told.

    Parameters
    ----------
    read
        Borders of both, in mm.
    areas
        The picture by name.
    free
        True for free work, held to a photograph.

    Returns
    -------
    tuple[EdgeOff, ...]
        One entry a place at most on either side.
    """
    if free and read.clear.any():
        usual = float(np.median((read.painted_mm / np.maximum(read.planned_mm, 0.3))[read.clear]))
        read = replace(read, painted_mm=read.painted_mm / max(usual, 0.1))
    height, width = areas.labels.shape
    # A border belongs to the places on both its sides.
    sides = []
    for way in (1, -1):
        at = read.plan.points + way * ASIDE_PX * read.plan.lighter
        columns, rows = (np.clip(at[:, k].astype(int), 0, n - 1) for k, n in ((0, width), (1, height)))
        sides.append(areas.labels[rows, columns])
    found = []
    for number, name in enumerate(areas.names):
        here = read.clear & ((sides[0] == number) | (sides[1] == number))
        soft = here & (read.planned_mm >= SOFT_MM)
        hard = soft & (read.painted_mm < TOO_HARD * read.planned_mm)
        if hard.sum() >= FEWEST and hard.sum() >= 0.5 * soft.sum():
            found.append(_off(name, hard, read, (height, width)))
        loose = here & (read.painted_mm > TOO_SOFT * read.planned_mm)
        loose &= read.painted_mm > read.planned_mm + LEAST_WIDER_MM
        if loose.sum() >= 1.5 * FEWEST and loose.sum() >= 0.5 * here.sum():
            found.append(_off(name, loose, read, (height, width)))
    found.sort(key=lambda e: -len(e.readings))
    told: set[tuple[float, float]] = set()
    kept = []
    for one in found:
        spots = {(float(x), float(y)) for x, y in one.readings}
        if len(spots & told) < SAME * len(spots):
            kept.append(one)
            told |= spots
    return tuple(sorted(kept, key=lambda e: -abs(np.log(e.painted_mm / e.planned_mm))))


def _off(name: str, which: Mask, read: EdgesRead, shape: tuple[int, int]) -> EdgeOff:
    points = read.plan.points[which]
    middle = points[int(np.argmin(((points - np.median(points, axis=0)) ** 2).sum(axis=1)))]
    return EdgeOff(
        name, float(middle[0] / shape[1]), float(middle[1] / shape[0]),
        float(np.median(read.painted_mm[which])), float(np.median(read.planned_mm[which])), points,
    )  # fmt: skip
