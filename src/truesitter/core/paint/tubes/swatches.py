"""Swatches: what a painter lays out of one tube to have it read, and what they say of the paint."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import Lab
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.tubes.fit import (
    FILM_MM,
    Fit,
    film_labs,
    fit_pigment,
    fit_titanium_white,
    fit_white,
    masstone_lab,
    tint_lab,
)
from truesitter.core.paint.tubes.pigments import Curves, Pigment, pigment_curves
from truesitter.core.paint.tubes.tuning import LEAST_APART, WASH_WATER
from truesitter.core.paint.tubes.wash import wash_lab
from truesitter.core.refusal import Refusal

PATCHES: dict[str, str] = {
    "masstone": "masstone: straight from the tube, thick",
    "tint": "tint: 1 part in 10 parts titanium white",
    "over_black": "thin film over the black line",
    "over_white": "the same thin film over the paper",
    "wash": f"wash: 1 part in {WASH_WATER} parts of water, one stroke over the paper",
}
"""The patches of a tube, in the order of the sheet."""

_TITANIUM_CI = "PW6"


@dataclass(frozen=True)
class Swatches:
    """L*a*b* (D65, 2°) read off the patches of one tube; see `PATCHES`.

    The two films are one scraped film of unknown thickness: both are read or neither.
    """

    masstone: Lab
    tint: Lab | None = None
    over_black: Lab | None = None
    over_white: Lab | None = None
    wash: Lab | None = None

    def __post_init__(self) -> None:
        """Refuse what no paint shows.

        Raises
        ------
        Refusal
            With a sentence naming the patch.
        """
        for patch in fields(self):
            lab = getattr(self, patch.name)
            if lab is None:
                continue
            if not np.all(np.isfinite(lab)) or not 0 < lab[0] <= 100 or max(map(abs, lab[1:])) > 128:
                raise Refusal(
                    f"{patch.name.replace('_', ' ')}: no paint looks like L* {lab[0]:g}, "
                    f"a* {lab[1]:g}, b* {lab[2]:g}"
                )
        if (self.over_black is None) != (self.over_white is None):
            raise Refusal("a thin film is read over black and over white, or not at all")
        if self.over_black and self.over_white and self.over_black[0] > self.over_white[0] + 1:
            raise Refusal("the film over black is lighter than the one over white: were they exchanged?")

    @property
    def films(self) -> tuple[Lab, Lab] | None:
        """The film over black and over white."""
        return (self.over_black, self.over_white) if self.over_black and self.over_white else None

    def given(self) -> dict[str, Lab]:
        """The patches that were read, by name."""
        named = {name: getattr(self, name) for name in PATCHES}
        return {name: lab for name, lab in named.items() if lab is not None}


def fit_swatches(swatches: Swatches, pigment: Pigment) -> Fit:
    """Curves of a tube that holds a pigment, from its swatches.

    Titanium white is the white of every tint; it is fitted with its hiding power as
    known. Other whites take their scattering from their opacity class.

    Raises
    ------
    Refusal
        For a tint that hardly differs from its masstone.
    """
    titanium = pigment_curves()["titanium-white"]
    if pigment.ci_name == _TITANIUM_CI:
        return Fit(fit_titanium_white(swatches.masstone), 0.0)
    if pigment.family == "white":
        return Fit(fit_white(swatches.masstone, pigment.opacity, titanium), 0.0)
    if swatches.tint is not None:
        apart = float(delta_e_2000(np.array(swatches.masstone), np.array(swatches.tint)))
        if apart < LEAST_APART:
            raise Refusal("tint and masstone look alike: were they exchanged, or the white left out?")
    typical = pigment_curves()[pigment.key]
    return fit_pigment(swatches.masstone, swatches.tint, pigment.opacity, titanium, swatches.films, typical)


def patch_labs(curves: Curves, film_mm: DryMm | None = None, strength: float = 1.0) -> dict[str, Lab]:
    """What curves say that the patches look like, by name; `strength` is that of the wash.

    Parameters
    ----------
    curves
        Absorption and scattering by wavelength.
    film_mm
        Thickness of the dry film; None for one that hides.
    strength
        Of a wash, beside the usual.

    Returns
    -------
    dict[str, Lab]
        L*a*b* by name of the patch.
    """
    black, white = film_labs(curves.absorption, curves.scattering, film_mm or FILM_MM)
    found = {
        "masstone": masstone_lab(curves),
        "tint": tint_lab(curves, pigment_curves()["titanium-white"]),
        "over_black": black,
        "over_white": white,
        "wash": wash_lab(curves, strength),
    }
    return {name: (float(lab[0]), float(lab[1]), float(lab[2])) for name, lab in found.items()}


def misses(
    swatches: Swatches, curves: Curves, film_mm: DryMm | None = None, strength: float = 1.0
) -> dict[str, float]:
    """ΔE2000 between what was read and what curves predict, for each patch read.

    Parameters
    ----------
    swatches
        As read.
    curves
        Absorption and scattering by wavelength.
    film_mm
        Thickness of the dry film; None for one that hides.
    strength
        Of a wash, beside the usual.

    Returns
    -------
    dict[str, float]
        ΔE00 by name of the patch.
    """
    predicted = patch_labs(curves, film_mm, strength)
    return {
        name: float(delta_e_2000(np.array(lab), np.array(predicted[name])))
        for name, lab in swatches.given().items()
    }
