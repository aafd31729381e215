"""Washes on what already lies on the paper: which mixture, in how many goes, and how deep they can get."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.dilution import Dilution, Thinning
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.reach import Reach, palette_reach
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipes
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.plan.water.tuning import SAMPLE, STAGES
from truesitter.core.school.tuning import MOST_FILM
from truesitter.core.types import Doubles, Floats


@dataclass(frozen=True, eq=False)
class Beneath:
    """What a wash is laid on: paper with the washes before it."""

    spectrum: Doubles

    def internal(self) -> Doubles:
        """Internal reflectance (31,)."""
        return self.spectrum

    def seen(self) -> Doubles:
        """Reflectance (31,) as the eye sees it."""
        return leave_surface(self.spectrum)

    def under(self, made: Recipe, palette: Palette) -> Beneath:
        """The same with a wash over it."""
        k, s = palette.rack.mixture(made.parts)
        return Beneath(film_reflectance(k, s, float(made.film_mm or 0), self.spectrum))


def wash_over(palette: Palette, wishes: Wishes, under: Beneath, lab: Doubles) -> Recipe:
    """The thinned mixture that brings what lies beneath nearest to a colour (3,).

    Parameters
    ----------
    palette
        The tubes that may be used.
    wishes
        What the painter asks of recipes.
    under
        What lies there, as it shines through.
    lab
        (3,) wanted.

    Returns
    -------
    Recipe
        With its dilution.
    """
    return solve_recipes(as_lab(lab), replace(palette, washes_on=under), wishes, 1)[0]


def in_coats(film: DryMm, thinning: Thinning) -> tuple[int, Dilution]:
    """Equal washes that make up a film, none too strong to flow, and how each is thinned.

    Films of one mixture on one another are one film of their summed thickness (Kubelka 1948).
    """
    coats = max(1, math.ceil(film / (thinning.thickest * MOST_FILM) - 1e-9))
    return coats, thinning.dilution(DryMm(film / coats))


def wash_reach(palette: Palette, wishes: Wishes, lab: Floats) -> Reach:
    """How dark a picture's own darks can get by washes over one another, and how light the paper is.

    The darkest pair of tubes says little: a deep violet is no help in a brown shadow, and every wash with
    a yellow in it scatters some light. So a wash for the whole is laid, one for its darks, and one for what
    is darkest.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b* of the picture.
    """
    flat = lab.reshape(-1, 3)
    flat = flat[:: max(1, len(flat) // SAMPLE)]
    order = np.argsort(flat[:, 0])
    bare, ground = palette_reach(palette), Beneath(palette.below())
    deepest = bare.lightest
    for part in STAGES:
        lab_there = flat[order[: max(1, int(len(order) * part))]].mean(axis=0, dtype=np.float64)
        made = wash_over(palette, wishes, ground, lab_there)
        ground, deepest = ground.under(made, palette), made.predicted.value
    # A picture without darks asks for none.
    return bare if deepest <= float(lab_value(lab_there)) else Reach(deepest, bare.lightest)
