"""Painted lines: how far each pixel is covered by strokes that swell and taper."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.canvas.drawn.tuning import FINER
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.canvas.tuning import LEVELS
from truesitter.core.imaging.line import Line, outline
from truesitter.core.types import Doubles, Labels, Shape


def line_cover(lines: tuple[Line, ...], shape: Shape, mm_per_px: float) -> tuple[slice, slice, Labels]:
    """How far lines cover each pixel of a picture of `shape`.

    Parameters
    ----------
    lines
        Points in fractions and widths in mm.
    shape
        Height and width in pixels; more is ignored.
    mm_per_px
        Canvas mm to a pixel, > 0.

    Returns
    -------
    rows, columns, levels
        The box they lie in, and parts of `LEVELS` covered inside it.
    """
    drawn = [outline(line, shape, mm_per_px, FINER) for line in lines]
    every = np.concatenate(drawn) / FINER
    border = (shape[1], shape[0])
    # Lines wholly beyond a border have an empty box at it.
    low = np.clip(np.floor(every.min(axis=0)).astype(int) - 1, 0, border)
    high = np.clip(np.ceil(every.max(axis=0)).astype(int) + 2, low, border)
    width, height = high - low
    rows, columns = slice(int(low[1]), int(high[1])), slice(int(low[0]), int(high[0]))
    if not width or not height:
        return rows, columns, np.zeros((height, width), np.uint8)
    fine = np.zeros((height * FINER, width * FINER), np.uint8)
    # Pixel centres lie half a pixel in.
    polygons = [np.rint((p - low * FINER - 0.5) * 256).astype(np.int32) for p in drawn]
    for polygon in polygons:
        cv2.fillPoly(fine, [polygon], 255, lineType=cv2.LINE_8, shift=8)
    part = cv2.resize(fine, (int(width), int(height)), interpolation=cv2.INTER_AREA)
    levels: Labels = np.rint(part.astype(np.float32) * (LEVELS / 255)).astype(np.uint8)
    return rows, columns, levels


def piece_cover(lines: tuple[Line, ...], patchwork: Patchwork, mm_per_px: float) -> Doubles:
    """Part of each piece that lines cover, (n,) 0–1.

    Parameters
    ----------
    lines
        Points in fractions and widths in mm, at least one.
    patchwork
        The pieces.
    mm_per_px
        Canvas mm to a pixel, > 0.
    """
    rows, columns, levels = line_cover(lines, patchwork.labels.shape, mm_per_px)
    inside = patchwork.labels[rows, columns].ravel()
    covered = np.bincount(inside, weights=levels.ravel(), minlength=len(patchwork.sizes))
    return np.asarray(covered / LEVELS / patchwork.sizes)


def line_length_mm(line: Line, size_mm: tuple[float, float]) -> float:
    """Length of a line on a canvas of that width and height."""
    return float(np.hypot(*(np.diff(line.points, axis=0) * size_mm).T).sum())


def line_area_cm2(line: Line, size_mm: tuple[float, float]) -> float:
    """What a line covers of a canvas of that width and height."""
    steps = np.hypot(*(np.diff(line.points, axis=0) * size_mm).T)
    return float((steps * (line.widths_mm[:-1] + line.widths_mm[1:]) / 2).sum() / 100)


def line_brush_mm(lines: tuple[Line, ...]) -> float:
    """Width of the brush that draws the widest of some lines."""
    return float(np.ceil(max(float(line.widths_mm.max()) for line in lines)))
