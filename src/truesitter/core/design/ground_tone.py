"""Choosing a ground: which tone, laid once over everything, can stay visible where it is right already."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.design.tuning import (
    EARTH_VALUES,
    FILM_MM,
    HALFTONE,
    LONG_SIDE,
    STAYS_CM2,
    STAYS_DELTA_E,
    STAYS_VALUE,
)
from truesitter.core.paint.media.quantity import paint_ml
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipe
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Floats, Labels, Mask


@dataclass(frozen=True)
class GroundChoice:
    """One ground and what it does.

    Attributes
    ----------
    key, name
        For choosing, and where its colour comes from.
    recipe
        Its mixture.
    stays
        (h, w) where it may stay, at the size of the map of the reference.
    area_cm2, ml, minutes
        What stays, and the paint and the work that saves.
    serves
        Halftone, garment or background: what most of it is; empty where nothing stays.
    warmer
        b* of the flesh above its own: a cool ground sets warm flesh off.
    """

    key: str
    name: str
    recipe: Recipe
    stays: Mask
    area_cm2: float
    ml: float
    minutes: float
    serves: str
    warmer: float


def stays_where(lab: Floats, ground: Lab, mm_per_px: float) -> Mask:
    """Where a ground is near enough to stay, patches too small left out, (h, w).

    Parameters
    ----------
    lab
        (h, w, 3) wanted.
    """
    height, width = lab.shape[:2]
    scale = max(1.0, max(height, width) / LONG_SIDE)
    size = (max(1, round(width / scale)), max(1, round(height / scale)))
    small = cv2.resize(lab, size, interpolation=cv2.INTER_AREA).astype(np.float64)
    value = np.abs(lab_value(small) - float(lab_value(np.array(ground))))
    near = value <= STAYS_VALUE
    near[near] = delta_e_2000(small[near], np.array(ground)) <= STAYS_DELTA_E
    # A brush goes round nothing finer than its own width.
    near = cv2.morphologyEx(near.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8))
    count, numbers, stats, _ = cv2.connectedComponentsWithStats(near, connectivity=4)
    least = STAYS_CM2 * 100 / (mm_per_px * scale) ** 2
    large = stats[:, cv2.CC_STAT_AREA] >= least
    large[0] = False
    kept = large[numbers] if count else np.zeros(near.shape, bool)
    grown = cv2.resize(kept.astype(np.float32), (width, height), interpolation=cv2.INTER_LINEAR)
    return np.asarray(grown > 0.5)


def choose_grounds(
    lab: Floats, regions: Labels, mm_per_px: float, palette: Palette, own: Lab, rate: Doubles
) -> tuple[GroundChoice, ...]:
    """Grounds to choose from, the one that saves most work first.

    Parameters
    ----------
    lab
        (h, w, 3) reference in the palette's reach.
    own
        The school's own ground.
    rate
        (n,) minutes a cm² by region.
    """
    wanted = {"school": ("the school's own", own), **_from_picture(lab, regions), **_earths(palette)}
    choices = [
        _judged(key, name, target, lab, regions, mm_per_px, palette, rate)
        for key, (name, target) in wanted.items()
    ]
    return tuple(sorted(choices, key=lambda c: (-c.minutes, c.key != "school")))


def _from_picture(lab: Floats, regions: Labels) -> dict[str, tuple[str, Lab]]:
    """Tones of the sitter itself."""
    found: dict[str, tuple[str, Lab]] = {}
    for key, region in (("garment", Region.GARMENT), ("background", Region.BACKGROUND)):
        where = regions == region
        if where.mean() > 0.02:
            found[key] = (f"the {key}", as_lab(np.median(lab[where], axis=0)))
    skin = lab[regions == Region.SKIN]
    if len(skin):
        low, high = np.quantile(skin[:, 0], HALFTONE)
        middle = skin[(skin[:, 0] >= low) & (skin[:, 0] <= high)]
        found["halftone"] = ("the halftone of the flesh", as_lab(middle.mean(axis=0, dtype=np.float64)))
    return found


def _earths(palette: Palette) -> dict[str, tuple[str, Lab]]:
    """Earths of the palette, let down to middle values."""
    found: dict[str, tuple[str, Lab]] = {}
    for tube in palette.tubes:
        pigment = palette.pigment(tube)
        if pigment.family != "earth":
            continue
        for value in EARTH_VALUES:
            _, a, b = pigment.masstone
            lightness = float(value_to_lightness(value))
            found[f"{tube}-{value:g}"] = (f"{pigment.name}, value {value:g}", (lightness, 0.6 * a, 0.6 * b))
    return found


def _judged(
    key: str, name: str, target: Lab, lab: Floats, regions: Labels, mm_per_px: float, palette: Palette,
    rate: Doubles,
) -> GroundChoice:  # fmt: skip
    recipe = solve_recipe(target, palette, most_tubes=3)
    stays = stays_where(lab, recipe.predicted.lab, mm_per_px)
    by_region = np.bincount(regions[stays], minlength=len(Region)) * (mm_per_px**2 / 100)
    area = float(by_region.sum())
    flesh = lab[regions == Region.SKIN][:, 2]
    serves = "" if area == 0 else _serves(Region(int(by_region.argmax())))
    return GroundChoice(
        key, name, recipe, stays, area, paint_ml(area, FILM_MM), float((by_region * rate).sum()), serves,
        float(flesh.mean() - recipe.predicted.lab[2]) if len(flesh) else 0.0,
    )  # fmt: skip


def _serves(region: Region) -> str:
    return "halftone" if region is Region.SKIN else region.spoken
