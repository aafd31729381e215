"""Painted lines: how far each pixel is covered by strokes that swell and taper."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.canvas.drawn.tuning import FINER
from truesitter.core.canvas.tuning import LEVELS
from truesitter.core.imaging.line import Line
from truesitter.core.types import Doubles, Labels, Shape


def outline(line: Line, shape: Shape, mm_per_px: float, scale: float) -> Doubles:
    """The outline of a line, (2n, 2) x, y in pixels of a picture `scale` times as large.

    It is drawn half a fine pixel inside its true border, because a filled polygon takes in
    the pixels its border runs through.

    Parameters
    ----------
    line
        Points in fractions and widths in mm.
    shape
        Height and width in pixels; more is ignored.
    mm_per_px
        Canvas mm to a pixel, > 0.
    scale
        Times finer than the picture that is drawn.

    Returns
    -------
    Doubles
        Closed outline.
    """
    points = line.points * (shape[1], shape[0]) * scale
    step = np.empty_like(points)
    step[1:-1] = points[2:] - points[:-2]
    step[0], step[-1] = points[1] - points[0], points[-1] - points[-2]
    length = np.maximum(np.hypot(step[:, 0], step[:, 1]), 1e-9)
    across = np.stack([-step[:, 1], step[:, 0]], axis=1) / length[:, None]
    half = np.maximum(line.widths_mm / mm_per_px * scale / 2 - 0.5, 0)[:, None]
    return np.concatenate([points + across * half, (points - across * half)[::-1]])


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
