"""The canvas in pieces, as it is planned on: each stack of films computed once, spectrally."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np

from truesitter.core.canvas.layer import Layer, Operation, Removal, Smear, laid_over, partly
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.canvas.tuning import COVER_STEPS
from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.paint.media.supports import PRIMED_CANVAS, Support
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.paint.tubes.rack import LIBRARY, Rack
from truesitter.core.types import Bytes, Doubles, Floats, Ints, Mask


@dataclass(frozen=True)
class _CanvasFilm:
    """A layer on the canvas, and what part of it is left on each piece."""

    layer: Layer
    left: Doubles


@dataclass(frozen=True)
class Canvas:
    """What lies on the canvas.

    Attributes
    ----------
    patchwork
        The pieces it is painted in.
    stack
        (n,) int32 number of the layer stack on each piece.
    spectra
        (m, 31) internal reflectance of each stack; stacks painted over everywhere stay listed.
    rack
        Where the tubes of the layers are.
    films, open_from
        Every film laid, and how many of them were there when all was last dry.
    under
        (n,) the stack each piece had then.
    """

    patchwork: Patchwork
    stack: Ints
    spectra: Doubles
    rack: Rack = LIBRARY
    films: tuple[_CanvasFilm, ...] = field(default=(), repr=False)
    open_from: int = 0
    under: Ints | None = None

    @classmethod
    def bare(cls, patchwork: Patchwork, support: Support = PRIMED_CANVAS, rack: Rack = LIBRARY) -> Canvas:
        """A support with nothing on it.

        Parameters
        ----------
        patchwork
            The pieces that are laid.
        support
            What is painted on.
        rack
            The tubes by key.

        Returns
        -------
        Canvas
            No film anywhere, the colour of the support.
        """
        return cls(patchwork, np.zeros(len(patchwork.sizes), np.int32), support.internal()[None], rack)

    def dried(self) -> Canvas:
        """The same canvas when nothing on it is open any more."""
        return replace(self, open_from=len(self.films), under=self.stack)

    def do(self, operation: Operation) -> Canvas:
        """The canvas after one thing more is done to it; lines without a cover are too thin for its pieces.

        Smearing moves paint across borders alone: a piece stays what it is.
        """
        if not operation.pieces.any() or isinstance(operation, Smear):
            return self
        return self._lay(operation) if isinstance(operation, Layer) else self._take(operation)

    def _lay(self, layer: Layer) -> Canvas:
        if layer.cover is None:
            touched, which = np.unique(self.stack[layer.pieces], return_inverse=True)
            fresh = laid_over(layer, self.rack, self.spectra[touched])
        else:
            steps = np.rint(layer.cover[layer.pieces] * COVER_STEPS).astype(np.int64)
            code = self.stack[layer.pieces].astype(np.int64) * (COVER_STEPS + 1) + steps
            touched, which = np.unique(code, return_inverse=True)
            below = self.spectra[touched // (COVER_STEPS + 1)]
            covers = touched % (COVER_STEPS + 1) / COVER_STEPS
            fresh = partly(laid_over(layer, self.rack, below), below, covers)
        film = _CanvasFilm(layer, np.ones(len(self.stack)))
        return replace(self._stacked(layer.pieces, fresh, which), films=(*self.films, film))

    def _stacked(self, pieces: Mask, fresh: Doubles, which: Ints) -> Canvas:
        stack = self.stack.copy()
        stack[pieces] = len(self.spectra) + which
        return replace(self, stack=stack, spectra=np.concatenate([self.spectra, fresh]))

    def _take(self, taking: Removal) -> Canvas:
        first = 0 if taking.dry else self.open_from
        base = np.zeros_like(self.stack) if taking.dry or self.under is None else self.under
        films = list(self.films)
        at = np.flatnonzero(taking.pieces)
        spectra = self.spectra[base[at]]
        for number in range(first, len(films)):
            film = films[number]
            left = film.left.copy()
            left[at] *= taking.share
            films[number] = replace(film, left=left)
            on = film.layer.pieces[at]
            part = left[at[on]]
            kept = None if (part == 1).all() else part
            full = laid_over(film.layer, self.rack, spectra[on], left=kept)
            cover = film.layer.cover
            spectra[on] = full if cover is None else partly(full, spectra[on], cover[at[on]])
        return replace(self._stacked(taking.pieces, spectra, np.arange(len(at))), films=tuple(films))

    def open_on(self, pieces: Mask) -> bool:
        """True when some of what lies on some pieces can still be moved."""
        return any((film.layer.pieces & pieces).any() for film in self.films[self.open_from :])

    def at(self, x: float, y: float) -> Doubles:
        """Internal reflectance (31,) at a spot, in fractions of the picture."""
        piece = int(self.patchwork.labels[pixel_at(x, y, self.patchwork.labels.shape)])
        return np.asarray(self.spectra[self.stack[piece]])

    def ground(self) -> Doubles:
        """Internal reflectance (31,) of what covers most of the canvas."""
        areas = np.bincount(self.stack, weights=self.patchwork.sizes)
        return np.asarray(self.spectra[int(areas.argmax())])

    def labs(self) -> Doubles:
        """L*a*b* of each piece, (n, 3)."""
        return reflectance_to_lab(leave_surface(self.spectra[self.stack]))

    def picture(self) -> Bytes:
        """The canvas as an sRGB picture (h, w, 3) uint8, its borders hard."""
        colours: Bytes = np.round(lab_to_srgb(self.labs()) * 255).astype(np.uint8)
        return colours[self.patchwork.labels]

    def piece_values(self) -> Doubles:
        """Value of each piece, (n,)."""
        return lab_value(self.labs())

    def values(self) -> Floats:
        """Value map of the canvas (h, w) float32."""
        return self.piece_values().astype(np.float32)[self.patchwork.labels]
