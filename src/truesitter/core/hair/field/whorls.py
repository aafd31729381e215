"""Whorls: places that the hair turns out of, where its direction winds once round."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from scipy.signal import fftconvolve

from truesitter.core.hair.field.direction_field import AxisField, strand_order
from truesitter.core.hair.field.guides import DrawnWhorl
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.field.tuning import OVER_A_LOCK, TANGLED_ORDER, WOUND_ROUND
from truesitter.core.types import Floats, Mask


@dataclass(frozen=True)
class Whorl:
    """A place from which hair turns outward: where the direction winds once round.

    Attributes
    ----------
    x, y
        In fractions of width and height.
    index
        Winding number of the undirected direction: +1 for a full whorl, +½ for a comb-over end.
    """

    x: float
    y: float
    index: float


def find_whorls(field: AxisField, sureness: float = 0.35, merge: float = 0.03) -> tuple[Whorl, ...]:
    """Places of the head's hair where the direction winds round a point by +½ or +1.

    Parameters
    ----------
    sureness
        Least mean coherence round the place; one that cannot be seen is not reported.
    merge
        Half-whorls nearer than this fraction of the height count as one.
    """
    double = 2 * field.angle
    corners = [double[:-1, :-1], double[:-1, 1:], double[1:, 1:], double[1:, :-1]]
    scalp = field.kinds == Kind.SCALP
    inside = scalp[:-1, :-1] & scalp[:-1, 1:] & scalp[1:, 1:] & scalp[1:, :-1]
    turn = np.zeros(inside.shape, np.float64)
    # Rows run downwards while angles count with y up, so walk the corners the other way round.
    for a, b in zip(corners, corners[-1:] + corners[:-1], strict=True):
        turn += (b - a + np.pi) % (2 * np.pi) - np.pi
    index = np.where(inside, turn / (4 * np.pi), 0)
    rows, cols = np.nonzero(np.abs(index) > 0.25)
    height, width = scalp.shape
    seen = cv2.blur(field.coherence, (9, 9))
    alike = _alike_around(field, scalp)
    found: list[Whorl] = []
    left = [(int(r), int(c), float(index[r, c])) for r, c in zip(rows, cols, strict=True)]
    while left:
        r, c, _ = left[0]
        near = [p for p in left if np.hypot(p[0] - r, p[1] - c) <= max(2.0, merge * height)]
        left = [p for p in left if p not in near]
        total = round(2 * sum(p[2] for p in near)) / 2
        row, col = (float(np.mean([p[i] for p in near])) for i in (0, 1))
        at = int(row), int(col)
        if total > 0 and seen[at] >= sureness and alike[at] >= TANGLED_ORDER:
            found.append(Whorl((col + 1) / width, (row + 1) / height, total))
    return tuple(found)


def _alike_around(field: AxisField, scalp: Mask) -> Floats:
    """How much the hair in a ring about every pixel lies alike over a lock, 0–1, (h, w).

    Curls wind round a point everywhere; a whorl is wound round by hair that goes its way.
    """
    sigma = OVER_A_LOCK * scalp.shape[0]
    order = field.order
    if order is None:
        _, order = strand_order(field.z * field.coherence[..., None], sigma)
    reach = int(np.ceil(2.5 * sigma))
    y, x = np.mgrid[-reach : reach + 1, -reach : reach + 1]
    away = np.hypot(x, y)
    ring = ((away >= sigma) & (away <= 2.5 * sigma)).astype(np.float32)
    whole, alike = (
        fftconvolve(map_, ring, mode="same") for map_ in (scalp.astype(np.float32), order * scalp)
    )
    # What lies at the border of the hair is not wound round.
    return np.asarray(alike / np.maximum(whole, WOUND_ROUND * ring.sum()), np.float32)


def with_drawn(
    found: tuple[Whorl, ...], drawn: tuple[DrawnWhorl, ...], shape: tuple[int, ...]
) -> tuple[Whorl, ...]:
    """Whorls set by hand, and those found that are not the same ones.

    Parameters
    ----------
    found
        By winding number.
    drawn
        By the painter.
    shape
        (h, w) of the field.

    Returns
    -------
    tuple[Whorl, ...]
        Drawn ones first.
    """
    aspect = shape[1] / shape[0]
    others = [
        whorl
        for whorl in found
        if all(np.hypot((whorl.x - d.x) * aspect, whorl.y - d.y) > d.radius for d in drawn)
    ]
    return (*(Whorl(d.x, d.y, 1.0) for d in drawn), *others)
