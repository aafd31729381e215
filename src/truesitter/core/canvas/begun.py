"""A painting under way: what is really on the canvas becomes the ground of the passes that are left."""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.tuning import (
    FEWEST_PX,
    MIDDLE,
    NOISE_COLOUR,
    NOISE_STEPS,
    NOTHING_DELTA,
    NOTHING_STEPS,
    RIM,
)
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.layered.films import ground_near
from truesitter.core.types import Doubles, Floats, Mask, Pieces


@dataclass(frozen=True)
class Begun:
    """How a painting stands.

    Attributes
    ----------
    laid
        Passes laid by now.
    off
        (h, w, 3) L*a*b* of the painting less that of the planned canvas, grain blurred away in both.
    trusted
        (h, w) where that is known.
    keys, heaps
        Of the plan it was painted by: for each pass in order its key and those of the washes dropped into it;
        and what was mixed for them.
    """

    laid: int
    off: Floats
    trusted: Mask
    keys: tuple[tuple[str, ...], ...] = ()
    heaps: tuple[dict[str, int], ...] = ()

    @property
    def last(self) -> str:
        """Key of the last pass laid by now; empty for none."""
        return self.keys[self.laid - 1][-1] if 0 < self.laid <= len(self.keys) else ""

    def has(self, key: str) -> bool:
        """Whether a pass of that key, or a wash dropped into another, is in the plan it was painted by."""
        return any(key in keys for keys in self.keys)

    def pieces_off(self, canvas: Canvas) -> Doubles:
        """How far each piece of a canvas is off (n, 3); nothing where it is within noise."""
        work = canvas.patchwork
        known = self.trusted * _inside(work.labels)
        sums = work.sums(np.concatenate([self.off * known[..., None], known[..., None]], axis=2))
        off = sums[:, :3] / np.maximum(sums[:, 3], 1e-6)[:, None]
        seen = work.sums(self.trusted[..., None].astype(np.float32))[:, 0]
        planned = canvas.labs()
        steps = np.abs(
            lab_value(np.clip(planned + off, (0, -128, -128), (100, 128, 128))) - lab_value(planned)
        )
        noise = (steps < NOISE_STEPS) & (np.hypot(off[:, 1], off[:, 2]) < NOISE_COLOUR)
        off[noise | (seen < np.minimum(FEWEST_PX, work.sizes))] = 0
        return np.asarray(off)

    def on(self, canvas: Canvas) -> tuple[Canvas, Mask]:
        """The canvas as it really is, and the pieces that are not as planned.

        A piece that is off is known by its colour alone: it gets the smoothest spectrum of that colour.
        """
        off = self.pieces_off(canvas)
        wrong = np.abs(off).sum(axis=1) > 0
        spectra = canvas.spectra[canvas.stack].copy()
        labs = canvas.labs()
        known: dict[Lab, Doubles] = {}
        for piece in np.flatnonzero(wrong):
            was = labs[piece]
            now = np.clip(was + off[piece], (0.5, -100, -100), (99.5, 100, 100))
            spectra[piece] = _smooth(now, known)
        # What lies there is known by its colour alone: no film of it can be taken off by reckoning.
        real = replace(
            canvas, stack=np.arange(len(spectra), dtype=np.int32), spectra=spectra, films=(), open_from=0,
            under=None,
        )  # fmt: skip
        return real, np.asarray(wrong)


def _inside(labels: Pieces) -> Floats:
    """How much each pixel says of its piece, (h, w): little on its border, most in its middle."""
    border = np.zeros(labels.shape, np.uint8)
    border[:, 1:] |= labels[:, 1:] != labels[:, :-1]
    border[1:] |= labels[1:] != labels[:-1]
    away = cv2.distanceTransform(np.uint8(1) - border, cv2.DIST_L2, 3)
    return np.asarray(np.clip((away - RIM) / (MIDDLE - RIM), 0.01, 1), dtype=np.float32)


def _smooth(lab: Doubles, known: dict[Lab, Doubles]) -> Doubles:
    near = as_lab(np.round(lab * 2) / 2)
    if near not in known:
        known[near] = ground_near(near)
    return known[near]


def adds_nothing(before: Canvas, after: Canvas, pieces: Mask) -> bool:
    """True when laying something hardly changed what was there.

    Parameters
    ----------
    before
        The canvas before.
    after
        And after.
    pieces
        (n,) pieces of the patchwork that are meant.

    Returns
    -------
    bool
        True for a change that nobody would see.
    """
    if not pieces.any():
        return False
    sizes = before.patchwork.sizes[pieces]
    old, new = before.labs()[pieces], after.labs()[pieces]
    steps = float(np.average(np.abs(lab_value(new) - lab_value(old)), weights=sizes))
    return steps < NOTHING_STEPS and float(np.average(delta_e_2000(new, old), weights=sizes)) < NOTHING_DELTA
