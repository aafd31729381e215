"""How strong a tube's washes are, from one stroke of known dilution on white paper.

Tubes hold unlike shares of pigment and binder: thinned alike, one leaves twice the colour of another.
"""

from __future__ import annotations

import numpy as np

from truesitter.core.colour.spaces import Lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.tubes.pigments import Curves
from truesitter.core.paint.tubes.tuning import WASH_STRONGEST, WASH_WATER, WEAKEST
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles


def usual_wash_mm() -> float:
    """Dry film that the wash of a swatch leaves with paint of usual strength."""
    return MEDIA["watercolour"].thinning.dry(Dilution(1, WASH_WATER))


def wash_lab(curves: Curves, strength: float) -> Doubles:
    """L*a*b* (3,) of the wash of a swatch on white paper, of paint so many times as strong as usual."""
    film = strength * usual_wash_mm()
    ground = WHITE_PAPER.internal()
    return reflectance_to_lab(
        leave_surface(film_reflectance(curves.absorption, curves.scattering, film, ground))
    )


def wash_value(curves: Curves, strength: float) -> float:
    """Its value."""
    return float(lab_value(wash_lab(curves, strength)))


def wash_strength(curves: Curves, wash: Lab) -> float:
    """How many times as strong as usual a tube's washes are, by the value of the wash of its swatch.

    Raises
    ------
    Refusal
        For a wash lighter or darker than any such stroke of that tube.
    """
    from scipy.optimize import brentq

    value = float(lab_value(np.array(wash)))
    lightest, darkest = wash_value(curves, WEAKEST), wash_value(curves, WASH_STRONGEST)
    if not darkest < value < lightest:
        way = "light" if value >= lightest else "dark"
        raise Refusal(
            f"the wash is too {way} for one stroke of 1 part in {WASH_WATER} parts of water: "
            "was it thinned otherwise, or laid twice?"
        )
    found = brentq(
        lambda x: wash_value(curves, float(np.exp(x))) - value, np.log(WEAKEST), np.log(WASH_STRONGEST)
    )
    return float(np.exp(found))
