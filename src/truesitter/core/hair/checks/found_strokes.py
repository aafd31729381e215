"""Strokes found on a photograph of practised paper: thin darks on a lighter ground, root end first."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
from scipy import ndimage

from truesitter.core.colour.value import picture_luminance
from truesitter.core.hair.checks.tuning import (
    BLUNT,
    DARKER,
    EVEN,
    FULLER,
    LEAST_LENGTH,
    LONG_SIDE,
    MOST,
    PAPER,
    POINTS,
)
from truesitter.core.hair.field.guides import Points
from truesitter.core.refusal import Refusal
from truesitter.core.types import Bytes, Doubles, Floats, Mask


@dataclass(frozen=True)
class FoundStroke:
    """A stroke that was found.

    Attributes
    ----------
    points
        From root to tip, x, y in fractions.
    widths
        (n,) width at each of them, in parts of the picture's width.
    """

    points: Points
    widths: Doubles


def find_strokes(photograph: Bytes, directed: Floats) -> tuple[FoundStroke, ...]:
    """Strokes of a photograph cropped to the edges of the canvas.

    Parameters
    ----------
    photograph
        (H, W, 3) sRGB.
    directed
        (h, w, 2) root→tip direction of the hair that was practised, y up.

    Returns
    -------
    tuple of FoundStroke
        Where strokes cross they are cut.

    Raises
    ------
    Refusal
        When there is nothing to see on it, or far too much.
    """
    scale = min(1.0, LONG_SIDE / max(photograph.shape[:2]))
    size = (max(8, round(photograph.shape[1] * scale)), max(8, round(photograph.shape[0] * scale)))
    light = picture_luminance(cv2.resize(photograph, size, interpolation=cv2.INTER_AREA))
    dark = _darks(light)
    reach = ndimage.distance_transform_edt(dark)
    paths = _paths(dark, LEAST_LENGTH * max(size))
    if not paths:
        raise Refusal("no strokes can be seen on it: draw them dark on light paper, and crop to the canvas")
    if len(paths) > MOST:
        raise Refusal(f"it shows more than {MOST} marks: photograph fewer strokes, on plain paper")
    return tuple(_from_the_root(path, reach, directed, size) for path in paths)


def _darks(light: Floats) -> Mask:
    """Marks that are darker than the paper round them."""
    window = max(5, int(PAPER * max(light.shape)) | 1)
    paper = cv2.GaussianBlur(cv2.dilate(light, np.ones((window, window), np.uint8)), (0, 0), window / 2)
    dark = (light < (1 - DARKER) * paper).astype(np.uint8)
    return np.asarray(cv2.morphologyEx(dark, cv2.MORPH_CLOSE, np.ones((3, 3), np.uint8)) > 0)


def _paths(dark: Mask, least: float) -> list[Doubles]:
    """Middle lines of the marks, (n, 2) x, y in pixels, cut where they cross."""
    from skimage.morphology import skeletonize

    bones = np.asarray(skeletonize(dark))  # type: ignore[no-untyped-call]
    beside = ndimage.convolve(bones.astype(np.uint8), np.ones((3, 3), np.uint8), mode="constant") - 1
    # Where three ways meet the bones are parted.
    meets = bones & (beside > 2)
    parts, count = ndimage.label(bones & ~cv2.dilate(meets.astype(np.uint8), np.ones((3, 3))).astype(bool),
                                 np.ones((3, 3)))  # fmt: skip
    found = []
    for number, box in enumerate(ndimage.find_objects(parts), 1):
        if box is None or number > count:
            continue
        rows, columns = np.nonzero(parts[box] == number)
        if len(rows) < least:
            continue
        path = _in_order(np.column_stack([columns + box[1].start, rows + box[0].start]))
        if np.hypot(*np.diff(path, axis=0).T).sum() >= least:
            found.append(path + 0.5)
    return found


def _in_order(pixels: Doubles) -> Doubles:
    """Pixels of a line from one end to the other."""
    at = {(int(x), int(y)) for x, y in pixels}
    around = [(i, j) for i in (-1, 0, 1) for j in (-1, 0, 1) if i or j]

    def farthest(start: tuple[int, int]) -> list[tuple[int, int]]:
        before: dict[tuple[int, int], tuple[int, int] | None] = {start: None}
        queue = [start]
        for here in queue:
            for i, j in around:
                there = (here[0] + i, here[1] + j)
                if there in at and there not in before:
                    before[there] = here
                    queue.append(there)
        way, here_or_none = [], queue[-1]
        step: tuple[int, int] | None = here_or_none
        while step is not None:
            way.append(step)
            step = before[step]
        return way

    end = farthest(next(iter(sorted(at))))[0]
    return np.array(farthest(end), dtype=np.float64)


def _from_the_root(path: Doubles, reach: Floats, directed: Floats, size: tuple[int, int]) -> FoundStroke:
    """The path from its fuller end; by the growth where both are alike."""
    widths = reach[path[:, 1].astype(int), path[:, 0].astype(int)]
    third = max(1, len(path) // 3)
    first, last = float(widths[:third].mean()), float(widths[-third:].mean())
    turn = last > FULLER * first
    if not turn and first <= FULLER * last:
        height, width = directed.shape[:2]
        middle = path[len(path) // 2] / size * (width, height)
        flow = directed[min(int(middle[1]), height - 1), min(int(middle[0]), width - 1)] * (1, -1)
        turn = float((path[-1] - path[0]) @ flow) < 0
    ordered = path[::-1] if turn else path
    # The middle line bends into a corner at a blunt end: so much of it says nothing of the stroke.
    blunt = min(int(BLUNT * max(first, last)), len(ordered) // 4)
    full = (widths[::-1] if turn else widths)[blunt:]
    ordered = ndimage.uniform_filter1d(ordered[blunt:], EVEN, axis=0, mode="nearest")
    keep = np.unique(np.linspace(0, len(ordered) - 1, POINTS).astype(int))
    points = tuple((float(x), float(y)) for x, y in ordered[keep] / size)
    return FoundStroke(points, np.asarray(2 * full[keep] / size[0]))
