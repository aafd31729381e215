"""Glazes: which thin film of which mixture turns what is there into what is wanted."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.paint.layered.films import Film, seen, stack
from truesitter.core.paint.layered.tuning import NEAR, RATIOS, SIMPLER, SPARSE, WORTH_SHOWING
from truesitter.core.paint.media.dilution import Dilution, Thinning
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.types import Doubles


@dataclass(frozen=True)
class Glaze:
    """One glaze over one ground.

    Attributes
    ----------
    parts, dilution, mm
        Mixture by volume, how it is thinned, and the dry film that leaves.
    before, after
        Colour of the ground, and of the ground with the glaze.
    cost
        How far `after` is from what was wanted: ΔE2000, a value error counting more.
    """

    parts: dict[str, int]
    dilution: Dilution
    mm: DryMm
    before: Colour
    after: Colour
    cost: float

    @property
    def near(self) -> bool:
        """True when it is worth laying."""
        return self.cost <= NEAR


def glaze_blends(palette: Palette) -> list[dict[str, int]]:
    """Single tubes and pairs of a palette; whites veil instead of glazing and are left out."""
    colours = [key for key in palette.tubes if palette.pigment(key).family != "white"]
    blends: list[dict[str, int]] = [{key: 1} for key in colours]
    return blends + [{a: m, b: n} for a, b in combinations(colours, 2) for m, n in RATIOS]


def find_glazes(
    ground: Doubles, target: Doubles, palette: Palette, thinning: Thinning, count: int = 3
) -> tuple[Glaze, ...]:
    """The glazes that bring a ground nearest to a colour, best first, each of other tubes.

    Parameters
    ----------
    ground
        (31,) internal reflectance of what is there, dry.
    target
        (3,) L*a*b* wanted.
    palette
        The tubes at hand.
    thinning
        How the glaze is thinned.
    count
        How many are wanted.

    Returns
    -------
    tuple of Glaze
        None when there is no tube but white.
    """
    blends = glaze_blends(palette)
    if not blends:
        return ()
    curves = [palette.rack.mixture(parts) for parts in blends]
    k, s = (np.stack([c[i] for c in curves])[:, None] for i in (0, 1))
    dilutions = thinning.every()
    films = np.array([thinning.dry(d) for d in dilutions])[None, :, None]
    labs = reflectance_to_lab(leave_surface(film_reflectance(k, s, films, ground)))
    cost = recipe_cost(labs, target)
    best_film = cost.argmin(axis=1)
    least = cost.min(axis=1) + SIMPLER * np.array([len(parts) for parts in blends])
    before = seen(ground)
    found: dict[frozenset[str], Glaze] = {}
    for i in np.argsort(least, kind="stable"):
        if least[i] > least.min() + WORTH_SHOWING:
            break
        parts, dilution = blends[int(i)], dilutions[int(best_film[i])]
        mm = thinning.dry(dilution)
        after = seen(stack(ground, (Film(parts, mm),), palette.rack))
        found.setdefault(
            frozenset(parts), Glaze(parts, dilution, mm, before, after, float(cost[i, best_film[i]]))
        )
        if len(found) == count:
            break
    return tuple(found.values())


@dataclass(frozen=True)
class Unifying:
    """One glaze over several grounds at once.

    Attributes
    ----------
    parts, dilution, mm
        Mixture by volume, how it is thinned, and the dry film that leaves.
    labs
        (n, 3) colour over each ground.
    error_before, error_after
        Mean ΔE2000 to what is wanted, by weight.
    spread_before, spread_after
        How far the hues lie apart, in degrees.
    """

    parts: dict[str, int]
    dilution: Dilution
    mm: DryMm
    labs: Doubles
    error_before: float
    error_after: float
    spread_before: float
    spread_after: float


def hue_spread(labs: Doubles, weights: Doubles) -> float:
    """Circular standard deviation of the hues of colours (n, 3), in degrees; stronger colours count more."""
    chroma = np.hypot(labs[:, 1], labs[:, 2]) * weights
    if chroma.sum() < 1e-9:
        return 0.0
    along = np.hypot(weights @ labs[:, 1], weights @ labs[:, 2]) / chroma.sum()
    return float(np.degrees(np.sqrt(max(0.0, -2 * np.log(max(along, 1e-9))))))


def glaze_over_all(
    grounds: Doubles, wanted: Doubles, weights: Doubles, palette: Palette, thinning: Thinning
) -> Unifying | None:
    """The one thin film, of one or two tubes, that brings several grounds nearest to their colours.

    Parameters
    ----------
    grounds
        (n, 31) internal reflectance of what is there: stacks, or locks of unlike colours.
    wanted
        (n, 3) L*a*b*.
    weights
        (n,) how much each counts, as by area.

    Returns
    -------
    Unifying
        None when there is no tube but white.
    """
    share = weights / weights.sum()
    before = reflectance_to_lab(leave_surface(grounds))
    # Every third dilution will do: neighbours look alike.
    dilutions = thinning.every()[::SPARSE]
    films = np.array([thinning.dry(d) for d in dilutions])[:, None, None]
    best: tuple[float, dict[str, int], Dilution, Doubles] | None = None
    for parts in glaze_blends(palette):
        k, s = palette.rack.mixture(parts)
        labs = reflectance_to_lab(leave_surface(film_reflectance(k, s, films, grounds)))
        errors = delta_e_2000(labs, wanted) @ share
        film = int(np.argmin(errors))
        if best is None or errors[film] < best[0]:
            best = (float(errors[film]), parts, dilutions[film], labs[film])
    if best is None:
        return None
    error, parts, dilution, labs = best
    return Unifying(
        parts, dilution, thinning.dry(dilution), labs, float(share @ delta_e_2000(before, wanted)), error,
        hue_spread(before, weights), hue_spread(labs, weights),
    )  # fmt: skip
