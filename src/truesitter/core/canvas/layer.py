"""What a hand does to the canvas: lay a film, or take some of it off again."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from truesitter.core.imaging.line import Line
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import Real, film_terms, internal_of, over_ground, seen_from
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.types import Doubles, Floats, Mask

THICK_MM = DryMm(1.0)
"""Paint too thick to see through is reckoned as this once some of it is taken off again."""


@dataclass(frozen=True)
class LineSet:
    """Lines of one colour that are drawn together.

    Attributes
    ----------
    lines
        In the order of drawing.
    tone
        (h, w) the part of the picture whose colour they take; what is darkest under them when not given.
    band
        Its word in the name of its pass.
    """

    lines: tuple[Line, ...]
    tone: Mask | None = None
    band: str = ""


@dataclass(frozen=True)
class Layer:
    """Paint laid on part of the canvas.

    Attributes
    ----------
    pieces
        (n,) the pieces it lies on; none for lines.
    parts
        Parts by volume by pigment key.
    film_mm
        Dry film; None for one too thick to see through.
    fades
        True for washes and glazes, which thin out towards a soft border; opaque paint covers less of it.
    lines
        Painted lines instead of pieces.
    cover
        (n,) part of each piece that its lines cover, 0–1, as the canvas in pieces sees them; None for an even
        film.
    wet
        (n,) pieces that are wet when it is laid: towards them it runs; None where all is dry.
    runs_mm
        10–90 % width in which it runs into them.
    """

    pieces: Mask
    parts: dict[str, int]
    film_mm: DryMm | None
    fades: bool = False
    lines: tuple[Line, ...] = field(default=())
    cover: Doubles | None = None
    wet: Mask | None = None
    runs_mm: float = 0.0


@dataclass(frozen=True)
class Removal:
    """Paint taken off part of the canvas: wiped, lifted, erased or scratched.

    Attributes
    ----------
    pieces
        (n,) where.
    share
        Part of every film that is left, 0–1.
    dry
        True when dry films go too; else only what is still open.
    lines
        Scratched lines instead of pieces.
    """

    pieces: Mask
    share: float
    dry: bool = False
    lines: tuple[Line, ...] = field(default=())


@dataclass(frozen=True)
class Smear:
    """Wet paint drawn together, borders and all.

    Attributes
    ----------
    pieces
        (n,) where.
    width_mm
        (h, w) 10–90 % width that a sharp border gets; 0 where nothing is smeared.
    """

    pieces: Mask
    width_mm: Floats
    lines: tuple[Line, ...] = field(default=())


Operation = Layer | Removal | Smear


def laid_over(
    layer: Layer,
    rack: Rack,
    below: NDArray[Real],
    covers: NDArray[Real] | None = None,
    left: NDArray[Real] | None = None,
) -> NDArray[Real]:
    """Internal reflectance where a layer lies on different stacks.

    Parameters
    ----------
    below
        (m, 31) internal reflectance of the stacks.
    covers
        (m,) part of the place that is covered, 0–1; all of it when not given. A film that fades is
        that much thinner; opaque paint covers that much of the area, and what the eye sees is the
        mean of covered and bare (Murray & Davies 1936).
    left
        (m,) part of the film that is left, 0–1; all of it when not given.

    Returns
    -------
    (m, 31) in the precision of `below`.
    """
    k, s = rack.mixture(layer.parts)
    part = np.ones(1, below.dtype) if left is None else left
    if layer.fades and covers is not None:
        part = part * covers
    # Few thicknesses are laid on many stacks.
    parts, which = np.unique(part, return_inverse=True)
    whole = np.inf if layer.film_mm is None else layer.film_mm
    films = np.where(parts >= 1, whole, min(whole, THICK_MM) * parts)
    a, t = film_terms(k, s, films[:, None])
    full = over_ground(a.astype(below.dtype), t.astype(below.dtype)[which], below)
    if layer.fades or covers is None:
        return full
    return partly(full, below, covers)


def partly(full: NDArray[Real], below: NDArray[Real], covers: NDArray[Real]) -> NDArray[Real]:
    """Internal reflectance of places covered in part: the eye sees the mean (Murray & Davies 1936).

    Parameters
    ----------
    full, below
        (m, 31) internal reflectance where it is covered, and where it is not.
    covers
        (m,) part that is covered, 0–1.

    Returns
    -------
    (m, 31) in the precision of `below`.
    """
    share = covers[:, None]
    mixed = internal_of(share * seen_from(full) + (1 - share) * seen_from(below))
    return np.where(share >= 1, full, mixed)
