"""Texture of skin: pores and creases as marks, only where this skin shows them, and in no pattern.

Each dark has a light of its own towards the lamp: alone it would look like a spot (common practice).
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.design.tuning import (
    FROM_EDGES,
    JOG,
    LIGHT_AT,
    MOST,
    OF_MEAN,
    OF_MEDIAN,
    PORE_MM,
    SHARES,
    SIZES,
    TEXTURE_LEAST,
    WAVES,
)
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.line import Line
from truesitter.core.types import Doubles, Floats, Mask


@dataclass(frozen=True)
class Texture:
    """Marks of a skin.

    Attributes
    ----------
    darks, lights
        One light for each dark, in the same order; points in fractions of the picture.
    contrast
        Small contrast of the skin, in value steps.
    gap_mm
        Mean distance between neighbouring marks; 0 without marks.
    """

    darks: tuple[Line, ...]
    lights: tuple[Line, ...]
    contrast: float
    gap_mm: float


def pore_band(value: Floats, mm_per_px: float, life: float) -> Floats:
    """What of the values is as small as pores (h, w), in value steps.

    Parameters
    ----------
    life
        Size of the head on the canvas beside life size.
    """
    fine, coarse = 0.5 * PORE_MM * life / mm_per_px, 3 * PORE_MM * life / mm_per_px
    return blur(value, max(0.6, fine)) - blur(value, max(1.8, coarse))


def lay_texture(
    value: Floats, skin: Mask, lit: Mask, mm_per_px: float, life: float, light: tuple[float, float], seed: int
) -> Texture:
    """Marks of a skin where its small contrast asks for them.

    Parameters
    ----------
    value
        (h, w) values.
    skin, lit
        (h, w) bare skin, and the part of it in the light: few details belong into shadow.
    life
        Size of the head on the canvas beside life size.
    light
        Towards the lamp in the picture, x right, y down.
    seed
        Of the hand.
    """
    reach = max(1, round(FROM_EDGES * PORE_MM * life / mm_per_px))
    bare = cv2.erode((skin & lit).astype(np.uint8), np.ones((2 * reach + 1, 2 * reach + 1), np.uint8)) > 0
    if not bare.any():
        return Texture((), (), 0.0, 0.0)
    strength = np.abs(pore_band(value, mm_per_px, life))
    # The median is not moved by eyes, borders and single moles; of a normal spread it is two thirds.
    inside = float(np.median(strength[bare])) * OF_MEDIAN
    near = blur(np.where(bare, strength, 0).astype(np.float32), 6.0 * reach)
    share = blur(bare.astype(np.float32), 6.0 * reach)
    where = np.asarray(bare & (near * OF_MEAN >= TEXTURE_LEAST * np.maximum(share, 1e-3)))
    if inside < TEXTURE_LEAST or not where.any():
        return Texture((), (), inside, 0.0)
    rng = np.random.default_rng(seed)
    diameter = PORE_MM * life
    # The stronger the texture the closer the marks: two to four diameters from one another.
    gap_mm = diameter * float(np.interp(inside, (TEXTURE_LEAST, 4 * TEXTURE_LEAST), (4.0, 2.0)))
    spots = _scattered(where, gap_mm / mm_per_px, rng)
    sizes = diameter * rng.choice(SIZES, len(spots), p=SHARES)
    waves = rng.random(len(spots)) < WAVES
    away = rng.uniform(*LIGHT_AT, len(spots))
    length = np.hypot(*light) or 1.0
    towards = np.array(light) / length
    darks, lights = [], []
    shape = (value.shape[1], value.shape[0])
    for spot, size, wave, far in zip(spots, sizes, waves, away, strict=True):
        turn = rng.uniform(0, 2 * np.pi)
        path = _wave(size, turn, rng) if wave else _dot(size)
        widths = np.full(len(path), size) if not wave else size * np.array((0.3, 0.6, 0.6, 0.3))
        dark = spot + path / mm_per_px
        light_path = spot + (towards * far * size + path) / mm_per_px
        darks.append(Line(dark / shape, widths))
        lights.append(Line(light_path / shape, 0.8 * widths))
    return Texture(tuple(darks), tuple(lights), inside, gap_mm)


def _dot(size: float) -> Doubles:
    return np.array([(-0.05 * size, 0.0), (0.05 * size, 0.0)])


def _wave(size: float, turn: float, rng: np.random.Generator) -> Doubles:
    """A short wave, in mm round its middle."""
    x = np.linspace(-1.2, 1.2, 4) * size
    y = np.array((0, 0.35, -0.35, 0)) * size * rng.uniform(0.5, 1.2)
    cos, sin = np.cos(turn), np.sin(turn)
    return np.stack([cos * x - sin * y, sin * x + cos * y], axis=1)


def _scattered(where: Mask, gap: float, rng: np.random.Generator) -> Doubles:
    """Spots (n, 2) x, y about `gap` pixels from one another, jogged so that no pattern shows."""
    rows = np.arange(gap / 2, where.shape[0], gap * np.sqrt(3) / 2)
    found = []
    for number, row in enumerate(rows):
        columns = np.arange((number % 2) * gap / 2, where.shape[1], gap)
        found.append(np.stack([columns, np.full(len(columns), row)], axis=1))
    spots = np.concatenate(found)
    spots = spots + rng.normal(0, JOG * gap, spots.shape)
    inside = (
        (spots[:, 0] >= 0)
        & (spots[:, 0] < where.shape[1])
        & (spots[:, 1] >= 0)
        & (spots[:, 1] < where.shape[0])
    )
    spots = spots[inside]
    spots = spots[where[spots[:, 1].astype(int), spots[:, 0].astype(int)]]
    if len(spots) > MOST:
        spots = spots[rng.permutation(len(spots))[:MOST]]
    return np.asarray(spots)
