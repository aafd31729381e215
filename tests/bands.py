"""Drawn locks of hair with known numbers: bands along a known flow, rounded in the light, with strands.

A mass is filled with bands whose borders follow the flow, of uneven width and tone; some end where
others run over them. Truth for the segmentation of locks.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.ndimage import gaussian_filter, gaussian_filter1d


@dataclass(frozen=True)
class Bands:
    """A drawn mass of hair.

    Attributes
    ----------
    light
        (h, w) luminance, linear.
    directed
        (h, w, 2) root→tip direction, y up.
    mask
        (h, w) where there is hair.
    numbers
        (h, w) number of the band, 0 outside.
    width
        Median width of a band, in pixels.
    """

    light: np.ndarray
    directed: np.ndarray
    mask: np.ndarray
    numbers: np.ndarray
    width: float


def drawn_bands(
    seed: int, width: float = 26, wave: float = 30, over: float = 0.35, noise: float = 0.02,
    shape: tuple[int, int] = (420, 340),
) -> Bands:  # fmt: skip
    """Bands hanging down in waves.

    Parameters
    ----------
    width
        Mean width of a band, in pixels; single ones are 0.55–1.6 of it.
    wave
        How far the flow swings, in pixels.
    over
        Share of bands that end on the way, run over by a neighbour.
    noise
        Grain, as part of full light.
    """
    draw = np.random.default_rng(seed)
    height, across = shape
    y, x = np.mgrid[0:height, 0:across].astype(np.float64)
    swing = wave * np.sin(2 * np.pi * (y / height * draw.uniform(0.6, 1.4) + draw.uniform()))
    spread = 1 + draw.uniform(-0.25, 0.25) * (y / height - 0.5)
    # A coordinate that is constant along every strand.
    u = (x - across / 2 - swing) / spread
    uy, ux = np.gradient(u)
    norm = np.hypot(ux, uy)
    # Along the strand: at right angles to the gradient, downwards (y up is minus rows).
    directed = np.dstack([uy / norm * -1, -ux / norm]).astype(np.float32)
    borders, at = [float(u.min()) - 5], float(u.min()) - 5
    while at < u.max():
        at += width * draw.uniform(0.55, 1.6)
        borders.append(at)
    edges = np.array(borders)
    band = np.clip(np.searchsorted(edges, u, side="right") - 1, 0, len(edges) - 2)
    numbers = band.copy()
    left, right = edges[:-1].copy(), edges[1:].copy()
    for n in range(1, len(edges) - 2):
        if draw.random() > over:
            continue
        # The band is run over from some height on by the one to its side.
        begin, side = draw.uniform(0.3, 0.75) * height, draw.choice((-1, 1))
        taper = np.clip((y - begin) / (0.12 * height), 0, 1)
        t = (u - left[n]) / (right[n] - left[n])
        gone = (band == n) & ((t > 1 - taper) if side > 0 else (t < taper))
        numbers[gone] = n + side
    # Round in the light across its own width, a tone of its own, strands along it.
    light = np.zeros(shape)
    tone = np.exp(draw.normal(np.log(0.08), 0.25, len(edges)))
    strands = gaussian_filter1d(draw.normal(0, 1, 4000), 1.2)
    fine = strands[np.clip(((u - u.min()) * 4).astype(int), 0, 3999)] * 0.5
    for n in np.unique(numbers):
        mine = numbers == n
        low, high = np.full(height, np.nan), np.full(height, np.nan)
        for row in np.flatnonzero(mine.any(axis=1)):
            values = u[row][mine[row]]
            low[row], high[row] = values.min(), values.max()
        t = (u - low[:, None]) / np.maximum(high - low, 1)[:, None]
        lean = draw.uniform(-0.25, 0.25)
        dome = np.clip(1 - np.abs(2 * (t - 0.5 - lean * 0.5)) ** 1.7, 0, 1)
        along = 1 + 0.4 * np.sin(2 * np.pi * (y / height * draw.uniform(0.5, 1.5) + draw.uniform()))
        light[mine] = (tone[n] * (0.25 + along * dome) * np.exp(0.35 * fine))[mine]
    skull = 1 + 0.5 * np.cos((x - across / 2) / across * 2)
    light = gaussian_filter(light * skull, 0.7) + draw.normal(0, noise, shape) * 0.1
    mask = np.ones(shape, bool)
    mask[:8], mask[-8:], mask[:, :8], mask[:, -8:] = False, False, False, False
    return Bands(
        np.clip(light, 0.001, 1).astype(np.float32), directed, mask, np.where(mask, numbers + 1, 0), width
    )
