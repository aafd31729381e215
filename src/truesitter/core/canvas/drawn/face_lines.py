"""Lines that a brush draws in a face: where the lips part, the creases of the lids, lashes, brows.

Widths and lengths are parts of the face's own features, so that they keep their proportion on any
canvas (common practice).
"""

from __future__ import annotations

import numpy as np

from truesitter.core.canvas.drawn.tuning import (
    BROW_LINES,
    CREASE_WIDTH,
    FACE_LINES_POINTS,
    FINEST_MM,
    LASH_LENGTH,
    LASH_WIDTH,
    LASHES,
    MARGIN_WIDTH,
    PARTING_WIDTH,
    RIM_WIDTH,
    SMALL_BROW_MM,
    TUFTS,
)
from truesitter.core.imaging.line import Line, evenly_spaced
from truesitter.core.sitter.face import BROW_EDGES, LID_CREASES, LOWER_LIDS, PARTING, UPPER_LIDS, Face
from truesitter.core.types import Doubles


def _width(points: Doubles) -> float:
    return float(np.hypot(*(points[-1] - points[0])))


def lip_parting(face: Face, size_mm: Doubles) -> tuple[Line, ...]:
    """Where the lips part: hair-thin, thinning out into both corners."""
    upper, lower = (evenly_spaced(face.line(edge) * size_mm, FACE_LINES_POINTS) for edge in PARTING)
    middle = (upper + lower) / 2
    swell = np.sin(np.linspace(0.12, np.pi - 0.12, FACE_LINES_POINTS)) ** 0.5
    widths = np.maximum(PARTING_WIDTH * _width(middle) * swell, FINEST_MM / 2)
    return (Line(middle / size_mm, widths),)


def lid_creases(face: Face, size_mm: Doubles) -> tuple[Line, ...]:
    """The crease of each upper lid: swelling over the eye, gone at both ends."""
    lines = []
    for crease, lid in zip(LID_CREASES, UPPER_LIDS, strict=True):
        points = evenly_spaced(face.line(crease) * size_mm, FACE_LINES_POINTS)
        widest = CREASE_WIDTH * _width(face.line(lid) * size_mm)
        widths = np.maximum(widest * np.sin(np.linspace(0.1, np.pi - 0.1, FACE_LINES_POINTS)), FINEST_MM / 4)
        lines.append(Line(points / size_mm, widths))
    return tuple(lines)


def lid_margins(face: Face, size_mm: Doubles) -> tuple[Line, ...]:
    """The dark line along each upper lid: it swells from the inner corner outward."""
    lines = []
    for edge in UPPER_LIDS:
        points = evenly_spaced(face.line(edge)[::-1] * size_mm, FACE_LINES_POINTS)
        widths = np.linspace(*MARGIN_WIDTH, FACE_LINES_POINTS) * _width(points)
        widths[-2:] *= (0.8, 0.4)
        lines.append(Line(points / size_mm, np.maximum(widths, FINEST_MM / 2)))
    return tuple(lines)


def lower_rims(face: Face, size_mm: Doubles) -> tuple[Line, ...]:
    """The rim of each lower lid, which looks up into the light: without its ends, thinner at both."""
    lines = []
    for edge in LOWER_LIDS:
        points = evenly_spaced(face.line(edge) * size_mm, FACE_LINES_POINTS + 4)[2:-2]
        swell = np.sin(np.linspace(0.3, np.pi - 0.3, FACE_LINES_POINTS))
        lines.append(Line(points / size_mm, np.maximum(RIM_WIDTH * _width(points) * swell, FINEST_MM / 2)))
    return tuple(lines)


def lashes(face: Face, size_mm: Doubles) -> tuple[Line, ...]:
    """Lashes of the upper lids in tufts: longest and most slanted outside, each tapering to nothing."""
    lines = []
    up = face.axis(size_mm[1] / size_mm[0])
    for edge in UPPER_LIDS:
        lid = evenly_spaced(face.line(edge) * size_mm, 101)
        eye = _width(lid)
        outward = (lid[0] - lid[-1]) / eye
        for at in TUFTS:
            root = lid[round(at * 100)]
            slant = np.arctan2(*up[::-1]) + _turn(up, outward) * (0.95 - at) * 0.9
            for lean, length in LASHES:
                reach = LASH_LENGTH * eye * length * (1 - 0.5 * at)
                along = np.linspace(0, 1, 7)[:, None]
                # A lash sets out along the lid's normal and bends up.
                start = slant + _turn(up, outward) * (0.35 + lean)
                end = slant + _turn(up, outward) * lean
                angle = start + (end - start) * along
                steps = np.concatenate([np.cos(angle), np.sin(angle)], axis=1) * reach / 6
                points = root + np.concatenate([np.zeros((1, 2)), np.cumsum(steps[1:], axis=0)])
                widths = np.maximum(LASH_WIDTH * eye, FINEST_MM) * (1 - 0.85 * along[:, 0])
                lines.append(Line(points / size_mm, widths))
    return tuple(lines)


def _turn(up: Doubles, outward: Doubles) -> float:
    """+1 or −1: which way the picture's angles run from up to outward."""
    return 1.0 if up[0] * outward[1] - up[1] * outward[0] > 0 else -1.0


def brow_lines(face: Face, size_mm: Doubles) -> tuple[Line, ...]:
    """Two lines for each brow, the lower the larger, one where it is very small; widest toward the nose."""
    lines = []
    for upper_edge, lower_edge in BROW_EDGES:
        upper = evenly_spaced(face.line(upper_edge) * size_mm, FACE_LINES_POINTS)
        lower = evenly_spaced(face.line(lower_edge) * size_mm, FACE_LINES_POINTS)
        height = float(np.median(np.hypot(*(lower - upper).T)))
        for down, width in BROW_LINES[: 1 if height < SMALL_BROW_MM else 2]:
            along = np.linspace(0, 1, FACE_LINES_POINTS)
            # From the temple to the nose: it melts outward and swells before its inner end.
            swell = np.interp(along, (0, 0.75, 0.95, 1), (0.12, 1, 0.9, 0.45))
            lines.append(
                Line(
                    (upper + (lower - upper) * down) / size_mm,
                    np.maximum(height * width * swell, FINEST_MM / 2),
                )
            )
    return tuple(lines)


def face_lines(face: Face | None, size_mm: tuple[float, float]) -> dict[str, tuple[Line, ...]]:
    """Every line of a face, by the key of the pass that draws it; none without a face."""
    if face is None:
        return {}
    size = np.array(size_mm)
    return {
        "lip-parting": lip_parting(face, size),
        "lid-creases": lid_creases(face, size),
        "lid-margins": lid_margins(face, size),
        "lower-rims": lower_rims(face, size),
        "lashes": lashes(face, size),
        "brow-lines": brow_lines(face, size),
    }
