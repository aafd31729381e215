"""Strays: a few short hairs that begin along the hair beneath and leave it at the border of the mass."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.hair.field.tuning import ROOT_PART
from truesitter.core.hair.strokes.curls import curled
from truesitter.core.hair.strokes.hair_strokes import StrokeGround
from truesitter.core.hair.strokes.stroke_types import STRAIGHT, StrokeType
from truesitter.core.hair.strokes.tuning import (
    BEND,
    END,
    FEWEST,
    LONGEST,
    LOOSE,
    MOST,
    POINTS,
    TANGLED_STRAYS,
    WITHOUT_LOCK,
)
from truesitter.core.imaging.line import Line
from truesitter.core.types import Mask


def lay_strays(
    ground: StrokeGround,
    tone: Mask,
    mass: Mask,
    brush_mm: float,
    seed: int,
    type_: StrokeType = STRAIGHT,
    part: float = 1.0,
) -> tuple[Line, ...]:
    """A few strays of one layer, which curl and wave as the hair does; frizz and coils leave more of them.

    Parameters
    ----------
    tone
        (h, w) where they may begin.
    mass
        (h, w) the hair that they leave.
    brush_mm
        Width of the layer's brush; a stray is at most half as wide.
    seed
        Chance is the same each time.
    type_
        How the hair is stroked.
    part
        Of the usual number, 0–1: what of the layer is hair of that type.
    """
    inner = cv2.erode(mass.astype(np.uint8), np.ones((9, 9), np.uint8)) > 0
    rows, columns = np.nonzero(tone & mass & ~inner)
    if not len(rows):
        return ()
    chance = np.random.default_rng(seed)
    loose = LOOSE if type_.turn or type_.irregular >= TANGLED_STRAYS else 1
    wanted = round(part * loose * int(chance.integers(FEWEST, MOST + 1)))
    swing = 2 * np.pi * type_.waves / (1 - ROOT_PART)
    height, width = ground.shape
    lines: list[Line] = []
    for pick in chance.permutation(len(rows))[: 8 * wanted]:
        if len(lines) == wanted:
            break
        row, column = int(rows[pick]), int(columns[pick])
        lock = float(ground.lock_length[row, column]) or WITHOUT_LOCK * ground.face_mm
        step = lock * chance.uniform(0.4, 1) * LONGEST / ground.mm_per_px / (POINTS - 1)
        side = chance.choice((-1, 1))
        period, amplitude = ground.curl_at(row, column) if type_.curls else (0.0, 0.0)
        bend = chance.uniform(0.3, 1) * (BEND if period else max(BEND, type_.turn)) * side
        x, y = column + 0.5, row + 0.5
        points, angle = [(x, y)], 0.0
        for n in range(1, POINTS):
            along = (n - 1) / (POINTS - 1)
            if along <= ROOT_PART and 0 <= x < width and 0 <= y < height:
                dx, dy = ground.directed[int(y), int(x)]
                angle = float(np.arctan2(-dy, dx)) if dx or dy else angle
            elif along > ROOT_PART:
                angle += bend / (POINTS * (1 - ROOT_PART))
            free = max(0.0, along - ROOT_PART)
            sway = side * float(np.arctan(type_.wave * swing * np.sin(swing * free)))
            sway = sway if free and not period else 0.0
            x, y = x + step * float(np.cos(angle + sway)), y + step * float(np.sin(angle + sway))
            points.append((x, y))
        way = curled(np.array(points), period / ground.mm_per_px, side * amplitude / ground.mm_per_px)
        full = np.interp(np.linspace(0, 1, len(way)), (0, 0.25, 1), (0.8, 1, END))
        lines.append(Line(way / (width, height), min(0.6, brush_mm / 2) * full))
    return tuple(lines)
