"""A simulated colour meter: a hand-held spectrophotometer laid on the swatches of a made-up tube.

It knows what is truly in each tube, which the rest of the application does not: the
library's pigment, but of another batch, stronger or weaker, more or less opaque, shifted
in hue. What it gives are noisy readings, as a real one does (0°/45°, D65, 2°, specular excluded).
"""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.spectrum import WAVELENGTHS, reflectance_to_lab
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.optics.kubelka_munk import (
    enter_surface,
    film_reflectance,
    leave_surface,
    opaque_reflectance,
)
from truesitter.core.paint.tubes.fit import PAPER_REFLECTANCE, PRINTED_BLACK
from truesitter.core.paint.tubes.pigments import Curves, pigment_curves
from truesitter.core.paint.tubes.tuning import TINT_WHITE_PARTS
from truesitter.core.paint.tubes.wash import usual_wash_mm
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles

PLACEMENT = 0.004
"""Each laying down of the meter reads this part too much or too little (one sigma, from memory)."""

BAND_NOISE = 0.0006
"""Noise of each band in reflectance (one sigma, from memory)."""

REPEATS = 3


@dataclass(frozen=True)
class MeterReading:
    """Mean of some layings-down on one patch.

    Attributes
    ----------
    reflectance
        (31,) at 400–700 nm by 10 nm.
    lab
        L*a*b*, D65, 2°.
    """

    reflectance: tuple[float, ...]
    lab: Lab


@dataclass(frozen=True)
class MadeUpPaint:
    """What is truly in a tube, how thick its film was scraped, and how strong its washes are."""

    curves: Curves
    film_mm: float
    strength: float = 1.0


def made_up_paint(tube: str, pigment: str) -> MadeUpPaint:
    """The true paint of a tube; the same tube always holds the same."""
    seed = int.from_bytes(hashlib.sha256(f"{tube}/{pigment}".encode()).digest()[:8], "big")
    rng = np.random.default_rng(seed)
    typical = pigment_curves()[pigment]
    slope = (WAVELENGTHS - 550) / 150
    return MadeUpPaint(
        Curves(
            absorption=typical.absorption * np.exp(rng.normal(0, 0.25) + rng.normal(0, 0.12) * slope),
            scattering=typical.scattering * np.exp(rng.normal(0, 0.25) + rng.normal(0, 0.05) * slope),
        ),
        film_mm=float(rng.uniform(0.02, 0.045)),
        strength=float(np.exp(rng.normal(0, 0.4))),
    )


class SimulatedMeter:
    """The meter; `seed` makes its noise repeatable."""

    def __init__(self, seed: int | None = None) -> None:
        self._rng = np.random.default_rng(seed)

    def read(self, tube: str, pigment: str, patch: str) -> MeterReading:
        """Lay the meter on one patch `REPEATS` times.

        Parameters
        ----------
        tube, pigment
            Key of the tube, and of the pigment on its label.
        patch
            masstone, tint, over_black, over_white or wash.

        Raises
        ------
        Refusal
            For another patch.
        """
        true = true_reflectance(made_up_paint(tube, pigment), patch)
        gain = 1 + self._rng.normal(0, PLACEMENT, (REPEATS, 1))
        noise = self._rng.normal(0, BAND_NOISE, (REPEATS, len(true)))
        seen = np.clip((true * gain + noise).mean(axis=0), 0.0005, 0.9995)
        return MeterReading(tuple(float(v) for v in seen), as_lab(reflectance_to_lab(seen)))


def true_reflectance(paint: MadeUpPaint, patch: str) -> Doubles:
    """Reflectance (31,), as seen, of a patch without any noise."""
    k, s = paint.curves.absorption, paint.curves.scattering
    if patch == "masstone":
        return leave_surface(opaque_reflectance(k / s))
    if patch == "tint":
        white, share = pigment_curves()["titanium-white"], 1 / (1 + TINT_WHITE_PARTS)
        k = share * k + (1 - share) * white.absorption
        s = share * s + (1 - share) * white.scattering
        return leave_surface(opaque_reflectance(k / s))
    if patch == "wash":
        film = paint.strength * usual_wash_mm()
        return leave_surface(film_reflectance(k, s, film, WHITE_PAPER.internal()))
    grounds = {"over_black": PRINTED_BLACK, "over_white": PAPER_REFLECTANCE}
    if patch not in grounds:
        raise Refusal(f"the meter knows no patch called “{patch}”")
    below = enter_surface(np.full(len(k), grounds[patch]))
    return leave_surface(film_reflectance(k, s, paint.film_mm, below))
