"""Designing the background: how light it should be beside every part of the outline, and what follows inward.

What is light in the figure is set off by a darker tone, what is dark by a lighter one (counterchange, common
practice); elsewhere an edge may be lost on purpose.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np

from truesitter.core.colour.spaces import Lab
from truesitter.core.colour.value import lab_value, lightness_map_to_value, value_to_lightness
from truesitter.core.design.tuning import (
    ECHO,
    EVERY_MM,
    FADES,
    FOUND,
    HALO,
    LOST,
    NEAR_MM,
    RANGE_OF_HEAD,
    TONE_APART,
)
from truesitter.core.imaging.blur import blur
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Floats, Labels, Mask

Design = Literal["photo", "counter", "halo", "own"]
Hue = Literal["as photographed", "neutral", "garment", "shadow flesh"]


@dataclass(frozen=True)
class OwnTones:
    """Two colours that pass into one another.

    Attributes
    ----------
    first, last
        Where it begins and where it ends.
    turn
        Degrees clockwise from straight down that it runs.
    """

    first: Lab
    last: Lab
    turn: float = 0.0

    @property
    def steps(self) -> int:
        """How many tones, each laid beside the last, lead from one to the other; 1 for none between."""
        apart = abs(float(lab_value(np.array(self.first)) - lab_value(np.array(self.last))))
        return max(1, math.ceil(apart / TONE_APART - 1e-9))

    def field(self, shape: tuple[int, ...]) -> Floats:
        """The colours over a whole picture, (h, w, 3) L*a*b*."""
        y, x = np.mgrid[0 : shape[0], 0 : shape[1]].astype(np.float32)
        angle = np.deg2rad(self.turn)
        along = y * np.cos(angle) - x * np.sin(angle)
        span = float(along.max() - along.min())
        part = ((along - along.min()) / max(span, 1e-6))[..., None]
        first, last = (np.array(lab, np.float32) for lab in (self.first, self.last))
        return np.asarray(first + part * (last - first), dtype=np.float32)


@dataclass(frozen=True)
class Stretch:
    """A part of the outline of one kind.

    Attributes
    ----------
    kind
        ``found``, ``lost``, or ``soft`` in between.
    x, y
        Its middle, in fractions of the picture.
    length_mm
        On the canvas.
    inside, outside
        Mean values on both sides.
    points
        (n, 2) x, y in fractions, every 3 mm.
    """

    kind: Literal["found", "soft", "lost"]
    x: float
    y: float
    length_mm: float
    inside: float
    outside: float
    points: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Background:
    """A designed background.

    Attributes
    ----------
    lab, value
        (h, w, 3) and (h, w) of the whole picture; the figure is as it was.
    stretches
        The outline from its beginning to its end.
    """

    lab: Floats
    value: Floats
    stretches: tuple[Stretch, ...]


@dataclass(frozen=True)
class _Outline:
    """Samples along the outline: pixels (n, 2) x, y; values on both sides (n,); which contour (n,)."""

    points: Doubles
    inside: Doubles
    outside: Doubles
    contour: Labels


def design_background(
    lab: Floats, value: Floats, regions: Labels, mm_per_px: float, design: Design, hue: Hue,
    lost: Mask | None, own: OwnTones | None = None,
) -> Background:  # fmt: skip
    """A background for a figure.

    Parameters
    ----------
    lab, value
        (h, w, 3) and (h, w) of the reference.
    regions
        (h, w) of the sitter.
    design
        As photographed; counterchange; or a glow behind the head.
    hue
        Where its colour comes from.
    lost
        (h, w) where edges are to be lost, near the outline.
    own
        The painter's own colours, for a design of that kind.
    """
    wall = regions == Region.BACKGROUND
    outline = _outline(value, wall, mm_per_px)
    if outline is None:
        return Background(lab, value, ())
    made = value
    if design == "own" and own is not None:
        coloured = np.where(wall[..., None], own.field(value.shape), lab).astype(np.float32)
        made = np.where(wall, lightness_map_to_value(coloured[..., 0]), value).astype(np.float32)
        stretches = _stretches(_outline(made, wall, mm_per_px), value.shape, mm_per_px)
        return Background(coloured, made, stretches)
    if design != "photo":
        made = np.where(wall, _spread(value, wall, outline, mm_per_px, design, regions, lost), value)
        made = made.astype(np.float32)
    coloured = _coloured(lab, made, wall, regions, hue, changed=design != "photo")
    return Background(coloured, made, _stretches(_outline(made, wall, mm_per_px), value.shape, mm_per_px))


def _beside(value: Floats, where: Mask, sigma: float) -> Floats:
    """Mean value of a side near every spot."""
    weight = blur(where.astype(np.float32), sigma)
    total = blur(np.where(where, value, 0).astype(np.float32), sigma)
    return np.asarray(total / np.maximum(weight, 1e-3), dtype=np.float32)


def _outline(value: Floats, wall: Mask, mm_per_px: float) -> _Outline | None:
    """The outline of the figure at every few mm; the picture's own rim is not part of it."""
    if not wall.any() or wall.all():
        return None
    sigma = NEAR_MM / mm_per_px / 2
    inside, outside = _beside(value, ~wall, sigma), _beside(value, wall, sigma)
    height, width = value.shape
    step = EVERY_MM / mm_per_px
    points, contour = [], []
    contours, _ = cv2.findContours((~wall).astype(np.uint8), cv2.RETR_CCOMP, cv2.CHAIN_APPROX_NONE)
    for number, one in enumerate(contours):
        path = one[:, 0, :].astype(np.float64)
        if len(path) < 4 * step:
            continue
        chosen = path[np.arange(0, len(path), max(1, round(step)))]
        margin = 2
        free = (
            (chosen[:, 0] > margin) & (chosen[:, 0] < width - 1 - margin)
            & (chosen[:, 1] > margin) & (chosen[:, 1] < height - 1 - margin)
        )  # fmt: skip
        points.append(chosen[free])
        contour.append(np.full(int(free.sum()), min(number, 255), np.uint8))
    if not points or not sum(len(p) for p in points):
        return None
    at = np.concatenate(points)
    rows, columns = at[:, 1].astype(int), at[:, 0].astype(int)
    return _Outline(
        at, inside[rows, columns].astype(float), outside[rows, columns].astype(float), np.concatenate(contour)
    )


def wanted_outside(inside: Doubles, base: float, most: float) -> Doubles:
    """Value wanted beside parts of so light a figure: the base, moved no more than contrast asks for.

    Parameters
    ----------
    inside
        (n,) values of the figure along its outline.
    base
        The background's own tone.
    most
        Its whole range, in steps.
    """
    darker = np.minimum(base, inside - FOUND)
    lighter = np.maximum(base, inside + FOUND)
    wanted = np.where(inside >= base, darker, lighter)
    return np.clip(wanted, base - most / 2, base + most / 2)


def _spread(
    value: Floats, wall: Mask, outline: _Outline, mm_per_px: float, design: Design, regions: Labels,
    lost: Mask | None,
) -> Floats:  # fmt: skip
    """Wanted values of the background: exact along the outline, fading to its own tone."""
    head = value[~wall]
    low, high = np.quantile(head, (0.05, 0.95))
    most = max(RANGE_OF_HEAD * float(high - low), 2 * FOUND)
    base = float(np.median(value[wall]))
    if design == "counter":
        # Half-way between the lights and the darks along the outline.
        base = float(np.clip(np.quantile(outline.inside, (0.1, 0.9)).mean(), 2.0, 8.0))
    seeds = np.ones(value.shape, np.uint8)
    rows, columns = outline.points[:, 1].astype(int), outline.points[:, 0].astype(int)
    if design == "halo":
        wanted = np.full(len(rows), min(base + HALO, 9.3))
        rim = max(base - HALO, 0.7)
    else:
        wanted = wanted_outside(outline.inside, base, most)
        rim = base
    if lost is not None:
        losing = lost[rows, columns]
        near = np.clip(wanted, outline.inside - LOST, outline.inside + LOST)
        wanted = np.where(losing, near, wanted)
    seeds[rows, columns] = 0
    away, nearest = cv2.distanceTransformWithLabels(seeds, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    table = np.zeros(int(nearest.max()) + 1)
    table[nearest[rows, columns]] = wanted
    field = table[nearest].astype(np.float32)
    # Neighbouring stretches run into one another, the more the farther they are from the outline.
    smooth = [_beside(field, wall, s / mm_per_px) for s in (1.0, 4.0, 12.0)]
    far = away * mm_per_px
    mixed = np.where(far < 4, smooth[0], np.where(far < 14, smooth[1], smooth[2]))
    mixed = _beside(mixed.astype(np.float32), wall, 1.0 / mm_per_px)
    fade = 1 - np.exp(-((away / (FADES * max(value.shape))) ** 1.5))
    return np.asarray(mixed + (rim - mixed) * fade, dtype=np.float32)


def _coloured(lab: Floats, value: Floats, wall: Mask, regions: Labels, hue: Hue, changed: bool) -> Floats:
    """The background in its colour; the rest as it was."""
    if not changed and hue == "as photographed":
        return lab
    out = lab.copy()
    if changed:
        table = value_to_lightness(np.linspace(0, 10, 2001)).astype(np.float32)
        out[wall, 0] = table[np.clip(np.rint(value[wall] * 200), 0, 2000).astype(int)]
    if hue == "neutral":
        out[wall, 1:] = 0
    elif hue in ("garment", "shadow flesh"):
        where = regions == (Region.GARMENT if hue == "garment" else Region.SKIN)
        if hue == "shadow flesh" and where.any():
            where = where & (value <= np.quantile(value[where], 0.3))
        if where.any():
            # An echo is weaker than what it echoes.
            out[wall, 1:] = ECHO * lab[where][:, 1:].mean(axis=0)
    return out


def kind_of(contrast: float) -> Literal["found", "soft", "lost"]:
    """What an edge of so many steps is."""
    step = abs(contrast)
    return "found" if step >= FOUND - 0.1 else "lost" if step <= LOST + 0.05 else "soft"


def _stretches(outline: _Outline | None, shape: tuple[int, ...], mm_per_px: float) -> tuple[Stretch, ...]:
    """Runs of samples of one kind, in order along each contour."""
    if outline is None:
        return ()
    contrast = outline.inside - outline.outside
    kinds = [kind_of(c) for c in contrast]
    # Of a found edge it matters which side is the lighter.
    alike = [(k, bool(c > 0) if k == "found" else None) for k, c in zip(kinds, contrast, strict=True)]
    found: list[Stretch] = []
    start = 0
    for n in range(1, len(kinds) + 1):
        if n < len(kinds) and alike[n] == alike[start] and outline.contour[n] == outline.contour[start]:
            continue
        some = slice(start, n)
        middle = outline.points[(start + n - 1) // 2] / (shape[1], shape[0])
        found.append(
            Stretch(
                kinds[start], float(middle[0]), float(middle[1]), (n - start) * EVERY_MM,
                float(outline.inside[some].mean()), float(outline.outside[some].mean()),
                tuple((float(x / shape[1]), float(y / shape[0])) for x, y in outline.points[some]),
            )
        )  # fmt: skip
        start = n
    return tuple(found)
