"""Films: what a mixture does laid over a ground, coat by coat, and how well it hides."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab
from truesitter.core.colour.spectrum import reflectance_to_lab, reflectance_to_xyz, smoothest_reflectance
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.layered.tuning import FILM_TOLERANCE_MM, LEAST_READ, WHITE_GROUND
from truesitter.core.paint.media.dilution import Dilution, Thinning
from truesitter.core.paint.media.supports import Support
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import enter_surface, film_reflectance, leave_surface
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.tubes.rack import LIBRARY, Rack
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles

"""A swatch nearer to its support than this, in value steps, tells nothing."""
_THICKEST_SWATCH_MM = DryMm(0.2)
"""No swatch of a wash dries thicker [try]."""


@dataclass(frozen=True)
class Film:
    """One film of a mixture.

    Attributes
    ----------
    parts
        Parts by volume by pigment key.
    mm
        Thickness once dry, ≥ 0.
    """

    parts: Mapping[str, float]
    mm: DryMm


def ground_of(lab: Lab) -> Doubles:
    """Internal reflectance (31,) of a ground known only by its colour: the smoothest there is."""
    return enter_surface(smoothest_reflectance(lab))


def ground_near(lab: Lab) -> Doubles:
    """As `ground_of` for a measured colour: one that no surface can have is greyed until one can."""
    light, red, yellow = min(lab[0], 98.0), lab[1], lab[2]
    for share in np.linspace(1, 0, 11):
        try:
            return ground_of((light, float(red * share), float(yellow * share)))
        except Refusal:
            continue
    return ground_of((light, 0.0, 0.0))


def stack(ground: Doubles, films: tuple[Film, ...], rack: Rack = LIBRARY) -> Doubles:
    """Internal reflectance (31,) of films laid over a ground, the first film lowest.

    Parameters
    ----------
    ground
        (31,) internal reflectance, 0–1.
    films
        The lowest first.
    rack
        The tubes by key.

    Returns
    -------
    Doubles
        (31,) 0–1.
    """
    below = ground
    for film in films:
        k, s = rack.mixture(film.parts)
        below = film_reflectance(k, s, film.mm, below)
    return below


def seen(internal: Doubles) -> Colour:
    """The colour an eye sees of an internal reflectance (31,)."""
    return Colour.of(reflectance_to_lab(leave_surface(internal)))


def _value(internal: Doubles) -> float:
    """Value 0–10 of an internal reflectance (31,)."""
    return float(lab_value(reflectance_to_lab(leave_surface(internal))))


def hiding(parts: Mapping[str, float], mm: DryMm, rack: Rack = LIBRARY) -> float:
    """Luminance over black divided by that over white (0.8): 0 clear as glass, 1 hides fully.

    Parameters
    ----------
    parts
        By tube.
    mm
        Dry thickness.
    rack
        The tubes by key.

    Returns
    -------
    float
        0–1.
    """
    grounds = enter_surface(np.array([[0.0], [WHITE_GROUND]]) * np.ones(31))
    k, s = rack.mixture(parts)
    black, white = reflectance_to_xyz(leave_surface(film_reflectance(k, s, mm, grounds)))[:, 1]
    return float(black / white)


def coats_to_value(
    parts: Mapping[str, float],
    mm: DryMm,
    ground: Doubles,
    value: float,
    rack: Rack = LIBRARY,
    most: int = 30,
) -> tuple[Colour, ...]:
    """Colour after each coat, until the value asked for is reached.

    Parameters
    ----------
    parts, mm
        The mixture and the dry film of one coat.
    ground
        (31,) internal reflectance.
    value
        Wanted, 0–10.
    rack
        Where the tubes are.
    most
        Coats to try.

    Returns
    -------
    tuple of Colour
        One for each coat, up to the one that comes nearest; none when the bare ground is
        nearest, fewer when more coats lead away from the value or change nothing any more.
    """
    start = _value(ground)
    sign = np.sign(value - start)
    coats: list[Colour] = []
    below, before = ground, start
    for _ in range(most):
        below = stack(below, (Film(parts, mm),), rack)
        colour = seen(below)
        overshoots = (colour.value - value) * sign > 0
        if overshoots and abs(colour.value - value) > abs(before - value):
            # This coat would overshoot by more than stopping before it falls short.
            break
        if abs(colour.value - before) < 0.005 or (colour.value - before) * sign < 0:
            break
        coats.append(colour)
        before = colour.value
        if (colour.value - value) * sign >= 0:
            break
    return tuple(coats)


def film_for_value(
    ground: Doubles, parts: dict[str, int], rack: Rack, value: float, thickest: DryMm
) -> DryMm:
    """Dry film that brings a ground down to a value; `thickest` when none does.

    The root is found as in Brent 1973, *Algorithms for minimization without derivatives*.

    Parameters
    ----------
    ground
        (31,) internal reflectance.
    parts, rack
        The mixture, and where its tubes are.
    value
        Wanted, 0–10, darker than the ground.
    thickest
        The most that is tried.
    """
    k, s = rack.mixture(parts)

    def reached(film: float) -> float:
        return _value(film_reflectance(k, s, film, ground))

    if reached(thickest) > value:
        return thickest
    if reached(0.0) <= value:
        return DryMm(0.0)
    from scipy.optimize import brentq

    return DryMm(brentq(lambda film: reached(film) - value, 0.0, float(thickest), xtol=FILM_TOLERANCE_MM))


def strength_by_swatch(
    tube: str, rack: Rack, thinning: Thinning, dilution: Dilution, value: float, support: Support
) -> float:
    """Strength of a tube's thin layers, from one laid at a known dilution on white and read dry.

    Parameters
    ----------
    tube, rack
        Which tube.
    thinning, dilution
        How the layer was laid.
    value
        As read when dry, 0–10.
    support
        What it was laid on.

    Raises
    ------
    Refusal
        For a value that no film of that tube gives on that support.
    """
    ground = support.internal()
    bare = _value(ground)
    if value >= bare - LEAST_READ:
        raise Refusal(f"a swatch has to be darker than the bare paper, which is value {bare:.1f}")
    film = film_for_value(ground, {tube: 1}, rack, value, _THICKEST_SWATCH_MM)
    if film >= _THICKEST_SWATCH_MM:
        raise Refusal("no layer of this tube gets that dark: was it another tube?")
    return thinning.strength_of(dilution, film)
