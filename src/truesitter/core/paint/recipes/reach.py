"""How dark and how light a palette can go, and how a photograph's values are fitted into that."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import ArrayLike

from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.paint.recipes.mixing import mixture_reflectance
from truesitter.core.paint.recipes.tuning import PAIR_SHARES, TABLE_STEPS
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.types import Doubles, Floats


@dataclass(frozen=True)
class Reach:
    """The darkest and lightest value a palette can make, 0–10."""

    darkest: float
    lightest: float


@lru_cache(256)
def palette_reach(palette: Palette) -> Reach:
    """Darkest and lightest thick film (or wash) over all pairs of tubes."""
    absorption, scattering = palette.rack.curves(palette.tubes)
    n = len(palette.tubes)
    blends = [np.eye(n)]
    for i, j in combinations(range(n), 2):
        pair = np.zeros((len(PAIR_SHARES), n))
        pair[:, i], pair[:, j] = PAIR_SHARES, 1 - PAIR_SHARES
        blends.append(pair)
    amounts = np.concatenate(blends)
    if palette.transparent:
        amounts = amounts * palette.thinning.thickest
    values = lab_value(reflectance_to_lab(mixture_reflectance(amounts, absorption, scattering, palette)))
    lightest = float(values.max())
    if palette.washes_on is not None:
        lightest = float(lab_value(reflectance_to_lab(palette.washes_on.seen())))
    return Reach(darkest=float(values.min()), lightest=lightest)


def compress_value(value: ArrayLike, reach: Reach) -> Doubles:
    """Fit values 0–10 smoothly into a palette's reach.

    The middle stays as it is; towards either end the steps grow smaller, so that
    0 and 10 come to lie on the darkest and lightest paint and the order is kept.
    """
    v = np.clip(np.asarray(value, dtype=np.float64), 0, 10)
    low, high = reach.darkest, reach.lightest
    centre = float(np.clip(5.0, low, high))
    below, above = (centre + low) / 2, (centre + high) / 2
    return np.where(
        v > above, _shoulder(v, above, 10.0, high),
        np.where(v < below, -_shoulder(-v, -below, 0.0, -low), v),
    )  # fmt: skip


def clip_value(value: ArrayLike, reach: Reach) -> Doubles:
    """Cut values off at a palette's reach."""
    return np.clip(np.asarray(value, dtype=np.float64), reach.darkest, reach.lightest)


def _shoulder(v: Doubles, knee: float, end: float, limit: float) -> Doubles:
    """Slope 1 at the knee, `limit` at `end`, rising all the way between."""
    run, rise = end - knee, limit - knee
    if run <= 0 or rise <= 0:
        return np.full_like(v, limit)
    u = np.clip((v - knee) / run, 0, 1)
    return np.asarray(knee + rise * (1 - (1 - u) ** (run / rise)))


def map_target(lab: ArrayLike, reach: Reach, clip: bool = False) -> Doubles:
    """Bring an L*a*b* colour (..., 3) into a palette's value range, keeping a* and b*.

    Parameters
    ----------
    lab
        (..., 3) L*a*b*.
    reach
        Darkest and lightest value of the palette.
    clip
        True to keep to the nearest value that can be reached; False to fit the whole range.

    Returns
    -------
    Doubles
        (..., 3) L*a*b*.
    """
    out = np.array(lab, dtype=np.float64)
    value = lab_value(out)
    mapped = clip_value(value, reach) if clip else compress_value(value, reach)
    out[..., 0] = value_to_lightness(mapped)
    return out


def map_picture(lab: Floats, reach: Reach, clip: bool = False) -> tuple[Floats, Floats]:
    """As `map_target` for a whole picture, by table; also its mapped values.

    Parameters
    ----------
    lab
        (h, w, 3) float32.

    Returns
    -------
    mapped, value
        (h, w, 3) and (h, w) float32, within 0.01 of the exact figures.
    """
    entries = np.zeros((TABLE_STEPS + 1, 3))
    entries[:, 0] = np.linspace(0, 100, TABLE_STEPS + 1)
    mapped = map_target(entries, reach, clip)
    code = np.clip(lab[..., 0] * (TABLE_STEPS / 100) + 0.5, 0, TABLE_STEPS).astype(np.uint16)
    out = lab.copy()
    out[..., 0] = mapped[:, 0].astype(np.float32)[code]
    return out, lab_value(mapped).astype(np.float32)[code]
