"""The simulated canvas: a map of layer stacks, each stack computed once, spectrally."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.media import PRIMED_CANVAS, Support
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface, opaque_reflectance
from truesitter.core.paint.tubes.rack import LIBRARY, Rack
from truesitter.core.passes.patchwork import Patchwork
from truesitter.core.types import Bytes, Doubles, Floats, Ints, Mask


@dataclass(frozen=True)
class Layer:
    """Paint laid on part of the canvas.

    Attributes
    ----------
    pieces
        (n,) the pieces it lies on.
    parts
        Parts by volume by pigment key.
    film_mm
        Dry film; None for one too thick to see through.
    """

    pieces: Mask
    parts: dict[str, int]
    film_mm: DryMm | None


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
    """

    patchwork: Patchwork
    stack: Ints
    spectra: Doubles
    rack: Rack = LIBRARY

    @classmethod
    def bare(cls, patchwork: Patchwork, support: Support = PRIMED_CANVAS, rack: Rack = LIBRARY) -> Canvas:
        """A support with nothing on it."""
        return cls(patchwork, np.zeros(len(patchwork.sizes), np.int32), support.internal()[None], rack)

    def lay(self, layer: Layer) -> Canvas:
        """The canvas with one more layer; a stack is computed once however large it is."""
        if not layer.pieces.any():
            return self
        k, s = self.rack.mixture(layer.parts)
        touched, fresh_number = np.unique(self.stack[layer.pieces], return_inverse=True)
        if layer.film_mm is None:
            fresh = np.broadcast_to(opaque_reflectance(k / s), (len(touched), 31))
        else:
            fresh = film_reflectance(k, s, layer.film_mm, self.spectra[touched])
        stack = self.stack.copy()
        stack[layer.pieces] = len(self.spectra) + fresh_number
        return replace(self, stack=stack, spectra=np.concatenate([self.spectra, fresh]))

    def ground(self) -> Doubles:
        """Internal reflectance (31,) of what covers most of the canvas."""
        areas = np.bincount(self.stack, weights=self.patchwork.sizes)
        return np.asarray(self.spectra[int(areas.argmax())])

    def labs(self) -> Doubles:
        """L*a*b* of each piece, (n, 3)."""
        return reflectance_to_lab(leave_surface(self.spectra[self.stack]))

    def picture(self) -> Bytes:
        """The canvas as an sRGB picture (h, w, 3) uint8."""
        colours: Bytes = np.round(lab_to_srgb(self.labs()) * 255).astype(np.uint8)
        return colours[self.patchwork.labels]

    def piece_values(self) -> Doubles:
        """Value of each piece, (n,)."""
        return lab_value(self.labs())

    def values(self) -> Floats:
        """Value map of the canvas (h, w) float32."""
        return self.piece_values().astype(np.float32)[self.patchwork.labels]
