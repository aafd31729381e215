"""How much paint: area times film times coats, and what stays in the brush."""

from __future__ import annotations

import math
from collections.abc import Mapping

from truesitter.core.paint.media.tuning import TUBE_OPENING_MM
from truesitter.core.refusal import Refusal


def paint_ml(area_cm2: float, film_mm: float, coats: int = 1, loss: float = 0.0) -> float:
    """Millilitres of paint for an area.

    Parameters
    ----------
    area_cm2, film_mm
        Area in cm² ≥ 0 and wet film in mm ≥ 0.
    coats
        Number of coats ≥ 0.
    loss
        Part left in brush and on palette, 0 ≤ loss < 1.

    Examples
    --------
    >>> round(paint_ml(100, 0.1), 3)
    1.0
    """
    if area_cm2 < 0 or film_mm < 0 or coats < 0 or not 0 <= loss < 1:
        raise Refusal("area, film and coats cannot be negative, and not all paint can be lost")
    return area_cm2 * film_mm / 10 * coats / (1 - loss)


def tube_amounts(parts: Mapping[str, float], ml: float) -> dict[str, float]:
    """Millilitres of each tube for so much of a mixture by volume.

    Raises
    ------
    Refusal
        For no parts, negative parts or a negative amount.

    Examples
    --------
    >>> tube_amounts({"titanium-white": 3, "yellow-ochre": 1}, 2.0)
    {'titanium-white': 1.5, 'yellow-ochre': 0.5}
    """
    total = sum(parts.values())
    if ml < 0 or total <= 0 or any(p < 0 for p in parts.values()):
        raise Refusal("an amount of paint and its parts cannot be negative, and there must be some part")
    return {key: ml * p / total for key, p in parts.items()}


def tube_cm(ml: float, opening_mm: float = TUBE_OPENING_MM) -> float:
    """Length in cm of the strand a tube gives for so many millilitres.

    Parameters
    ----------
    ml
        ≥ 0.
    opening_mm
        Diameter of the tube's opening, > 0.

    Examples
    --------
    >>> round(tube_cm(1.0), 2)
    1.99
    """
    if ml < 0 or opening_mm <= 0:
        raise Refusal("paint and opening cannot be negative")
    return ml * 1000 / (math.pi / 4 * opening_mm**2) / 10
