"""How much paint: area times film times coats, and what stays in the brush."""

from __future__ import annotations

DEFAULT_LOSS = 0.15
"""Part of the paint that never reaches the canvas (from memory)."""


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
    """
    if area_cm2 < 0 or film_mm < 0 or coats < 0 or not 0 <= loss < 1:
        raise ValueError("area, film and coats cannot be negative, and not all paint can be lost")
    return area_cm2 * film_mm / 10 * coats / (1 - loss)
