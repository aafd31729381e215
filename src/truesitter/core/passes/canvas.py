"""The simulated canvas: a map of layer stacks, each stack computed once, spectrally."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.paint.kubelka_munk import film_reflectance, leave_surface, opaque_reflectance
from truesitter.core.paint.media import PRIMED_CANVAS, DryMm, Support
from truesitter.core.paint.mixing import lab_value
from truesitter.core.paint.rack import LIBRARY, Rack
from truesitter.core.types import Bytes, Doubles, Floats, Ints, Mask, Shape


@dataclass(frozen=True)
class Layer:
    """Paint laid on part of the canvas.

    Attributes
    ----------
    mask
        (h, w) where it lies.
    parts
        Parts by volume by pigment key.
    film_mm
        Dry film; None for one too thick to see through.
    """

    mask: Mask
    parts: dict[str, int]
    film_mm: DryMm | None


@dataclass(frozen=True)
class Canvas:
    """What lies on the canvas.

    Attributes
    ----------
    stack
        (h, w) int32 number of the layer stack at each pixel.
    spectra
        (n, 31) internal reflectance of each stack; stacks painted over everywhere stay listed.
    rack
        Where the tubes of the layers are.
    """

    stack: Ints
    spectra: Doubles
    rack: Rack = LIBRARY

    @classmethod
    def bare(cls, shape: Shape, support: Support = PRIMED_CANVAS, rack: Rack = LIBRARY) -> Canvas:
        """A support with nothing on it."""
        return cls(np.zeros(shape, np.int32), support.internal()[None], rack)

    def lay(self, layer: Layer) -> Canvas:
        """The canvas with one more layer; a stack is computed once however large it is."""
        if not layer.mask.any():
            return self
        k, s = self.rack.mixture(layer.parts)
        known = len(self.spectra)
        where = np.flatnonzero(layer.mask)
        below = self.stack.ravel()[where]
        touched = np.flatnonzero(np.bincount(below, minlength=known))
        if layer.film_mm is None:
            fresh = np.broadcast_to(opaque_reflectance(k / s), (len(touched), 31))
        else:
            fresh = film_reflectance(k, s, layer.film_mm, self.spectra[touched])
        renamed = np.zeros(known, dtype=np.int32)
        renamed[touched] = known + np.arange(len(touched), dtype=np.int32)
        stack = self.stack.copy()
        stack.ravel()[where] = renamed[below]
        return Canvas(stack, np.concatenate([self.spectra, fresh]), self.rack)

    def ground(self) -> Doubles:
        """Internal reflectance (31,) of what covers most of the canvas."""
        return np.asarray(self.spectra[int(np.bincount(self.stack.ravel()).argmax())])

    def labs(self) -> Doubles:
        """L*a*b* of each stack, (n, 3)."""
        return reflectance_to_lab(leave_surface(self.spectra))

    def picture(self) -> Bytes:
        """The canvas as an sRGB picture (h, w, 3) uint8."""
        colours: Bytes = np.round(lab_to_srgb(self.labs()) * 255).astype(np.uint8)
        return colours[self.stack]

    def values(self, where: Ints | None = None) -> Floats:
        """Value map of the canvas (h, w) float32, or its values (n,) at numbers of pixels, row by row."""
        stack = self.stack if where is None else self.stack.ravel()[where]
        return lab_value(self.labs()).astype(np.float32).take(stack)
