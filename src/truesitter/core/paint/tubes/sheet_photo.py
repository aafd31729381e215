"""Colours read off a photograph of swatches, corrected for the light by a patch known to be white or grey."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab, linear_to_srgb, picture_to_linear, srgb_to_lab
from truesitter.core.paint.tubes.tuning import (
    CLIPPED,
    FEWEST_PIXELS,
    INNER,
    LEAST_SPREAD,
    PLANE,
    TOO_DARK,
    UNEVEN,
)
from truesitter.core.refusal import Refusal
from truesitter.core.types import Bytes, Doubles


@dataclass(frozen=True)
class SheetMark:
    """A rectangle on the photograph, corners in fractions of its width and height, 0–1."""

    x1: float
    y1: float
    x2: float
    y2: float

    def centre(self) -> tuple[float, float]:
        """Its middle."""
        return (self.x1 + self.x2) / 2, (self.y1 + self.y2) / 2


@dataclass(frozen=True)
class PatchReading:
    """One patch as read.

    Attributes
    ----------
    lab
        L*a*b* (D65, 2°) under the corrected light.
    uneven
        True when the patch is far from even: a shadow, a gloss or a brush mark lies on it.
    """

    lab: Lab
    uneven: bool


def read_patches(
    picture: Bytes, patches: dict[str, SheetMark], whites: tuple[SheetMark, ...], white: float
) -> dict[str, PatchReading]:
    """Read marked patches.

    Parameters
    ----------
    picture
        sRGB (H, W, 3) uint8.
    patches
        Marks by name.
    whites
        One or more marks on white or grey of known reflectance; from three on, light that
        falls off evenly across the sheet is taken out as well.
    white
        Their reflectance, 0.05–1.

    Raises
    ------
    Refusal
        With a sentence: no white, a mark too small, a white over- or underexposed, a patch
        lighter than anything can be.
    """
    if not whites:
        raise Refusal("mark a white or grey patch first: without one the light cannot be told")
    if not 0.05 <= white <= 1:
        raise Refusal("a white or grey patch reflects between 5 % and 100 % of the light")
    lights = []
    for mark in whites:
        colour = _inside(picture, mark, "the white patch").mean(axis=0)
        if colour.max() >= CLIPPED:
            raise Refusal("the white patch is overexposed in the photograph: take one a little darker")
        if colour.min() < TOO_DARK * white:
            raise Refusal("the white patch is far too dark in the photograph: use more light")
        lights.append(colour / white)
    light = _light_over_sheet(whites, np.array(lights))
    found = {}
    for name, mark in patches.items():
        linear = _inside(picture, mark, f"the patch {name.replace('_', ' ')}")
        corrected = linear.mean(axis=0) / light(mark)
        if corrected.max() > 1.08:
            raise Refusal(
                f"the patch {name.replace('_', ' ')} is lighter than the white: gloss, or marks exchanged?"
            )
        spread = srgb_to_lab(linear_to_srgb(np.clip(linear / light(mark), 0, 1)))[:, 0].std()
        lab = srgb_to_lab(linear_to_srgb(np.clip(corrected, 0, 1)))
        found[name] = PatchReading(as_lab(lab), bool(spread > UNEVEN))
    return found


def _inside(picture: Bytes, mark: SheetMark, what: str) -> Doubles:
    """Linear sRGB (n, 3) of the inner part of a mark."""
    height, width = picture.shape[:2]
    (x, y), half = mark.centre(), INNER / 2
    reach_x, reach_y = abs(mark.x2 - mark.x1) * half, abs(mark.y2 - mark.y1) * half
    rows = slice(max(0, int((y - reach_y) * height)), int((y + reach_y) * height) + 1)
    columns = slice(max(0, int((x - reach_x) * width)), int((x + reach_x) * width) + 1)
    patch = picture[rows, columns]
    if patch.shape[0] * patch.shape[1] < FEWEST_PIXELS:
        raise Refusal(f"the mark on {what} is too small: drag a larger rectangle inside it")
    return picture_to_linear(np.ascontiguousarray(patch)).reshape(-1, 3).astype(np.float64)


def _light_over_sheet(whites: tuple[SheetMark, ...], lights: Doubles) -> Callable[[SheetMark], Doubles]:
    """The light, linear RGB (3,), at any mark: even, or a plane through three or more whites."""
    if len(whites) < PLANE:
        mean = lights.mean(axis=0)
        return lambda _: mean
    places = np.array([mark.centre() for mark in whites])
    middle, mean = places.mean(axis=0), lights.mean(axis=0)
    # Of a direction in which the whites hardly differ nothing is known: the light is even along it.
    slope, *_ = np.linalg.lstsq(places - middle, lights - mean, rcond=LEAST_SPREAD)
    least = 0.2 * lights.min(axis=0)
    return lambda mark: np.maximum(mean + (np.array(mark.centre()) - middle) @ slope, least)
