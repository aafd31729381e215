"""Mixtures: the colour that parts of paint make, opaque or as a wash on paper."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab, in_srgb, lab_to_srgb, srgb_to_hex
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface, opaque_reflectance
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles


@dataclass(frozen=True)
class Colour:
    """A predicted colour.

    Attributes
    ----------
    lab, value, hex
        L*a*b*, Munsell value 0–10, and the nearest the screen can show.
    on_screen
        False when the screen cannot show it truly.
    """

    lab: Lab
    value: float
    hex: str
    on_screen: bool

    @property
    def chroma(self) -> float:
        """Distance from grey, C*ab."""
        return float(np.hypot(self.lab[1], self.lab[2]))

    @property
    def hue(self) -> float:
        """Hue angle h_ab in degrees, 0–360: 0 red, 90 yellow, 180 green, 270 blue."""
        return float(np.degrees(np.arctan2(self.lab[2], self.lab[1])) % 360)

    @classmethod
    def of(cls, lab: Doubles) -> Colour:
        """Describe one L*a*b* colour."""
        return cls(
            lab=as_lab(lab),
            value=float(lab_value(lab)),
            hex=srgb_to_hex(lab_to_srgb(lab)),
            on_screen=bool(in_srgb(lab)),
        )

    @classmethod
    def of_lab(cls, lab: Lab) -> Colour:
        """Describe one L*a*b* colour given as numbers."""
        return cls.of(np.array(lab))


def mixture_reflectance(
    amounts: Doubles, absorption: Doubles, scattering: Doubles, palette: Palette
) -> Doubles:
    """Reflectance, as seen, of mixtures; K and S add by volume.

    Parameters
    ----------
    amounts
        (..., n) volumes of each tube, their sum > 0. For opaque palettes only their
        proportion counts; for washes they are mm of dry paint.
    absorption, scattering
        (n, 31) per mm.

    Returns
    -------
    (..., 31)
    """
    k, s = amounts @ absorption, amounts @ scattering
    if palette.transparent:
        return leave_surface(film_reflectance(k, s, 1.0, palette.below()))
    return leave_surface(opaque_reflectance(k / s))


def mix(parts: dict[str, float], palette: Palette, film_mm: DryMm | None = None) -> Colour:
    """Predict the colour of parts of paint.

    Parameters
    ----------
    parts
        Parts by volume for each pigment key; at least one above nothing.
    palette
        Says whether the mixture is opaque or a wash.
    film_mm
        For a wash: dry film in mm.

    Raises
    ------
    Refusal
        For negative parts, no parts at all, or a wash without a film.

    Examples
    --------
    >>> from truesitter.core.paint.tubes.palettes import STARTERS
    >>> grey = mix({"titanium-white": 1, "ivory-black": 1}, STARTERS[0])
    >>> 2 < grey.value < 6
    True
    """
    if any(p < 0 or not np.isfinite(p) for p in parts.values()):
        raise Refusal("parts of paint cannot be negative")
    if sum(parts.values()) <= 0:
        raise Refusal("a mixture needs at least one part of something")
    used = tuple(parts)
    amounts = np.array([float(parts[k]) for k in used])
    if palette.transparent:
        if film_mm is None or film_mm <= 0:
            raise Refusal("a wash needs a film thickness")
        amounts *= film_mm / amounts.sum()
    absorption, scattering = palette.rack.curves(used)
    return Colour.of(reflectance_to_lab(mixture_reflectance(amounts, absorption, scattering, palette)))
