"""A photograph of a painting taken in: squared up, its light taken out, what cannot be believed left out."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import linear_to_srgb, picture_to_linear
from truesitter.core.easel.find.view import View
from truesitter.core.easel.lamp.lighting import Known, Lighting, gloss, known_card, lighting_of
from truesitter.core.easel.lamp.tuning import RIM
from truesitter.core.refusal import Refusal
from truesitter.core.types import Bytes, Doubles, Floats, Mask


@dataclass(frozen=True)
class WhiteMark:
    """A rectangle on the photograph, in its fractions, on a white or grey of known reflectance."""

    x1: float
    y1: float
    x2: float
    y2: float
    reflects: float = 0.9


@dataclass(frozen=True)
class MixtureMark:
    """A spot of the painting, in its fractions, whose colour is known."""

    x: float
    y: float
    lab: tuple[float, float, float]


@dataclass(frozen=True)
class RectifiedPainting:
    """A painting as its paint is, under an even white light.

    Attributes
    ----------
    light
        (h, w, 3) linear light, white 1.
    squared
        (h, w, 3) sRGB as photographed, squared up.
    trusted
        (h, w) False under gloss and where the photograph ends.
    lighting
        What was taken out.
    gloss
        Part of the painting under gloss, 0–1.
    """

    light: Floats
    squared: Bytes
    trusted: Mask
    lighting: Lighting
    gloss: float

    def picture(self) -> Bytes:
        """(h, w, 3) sRGB under an even white light."""
        return np.asarray(np.round(linear_to_srgb(np.clip(self.light, 0, 1)) * 255), dtype=np.uint8)


def take_in(
    photograph: Bytes,
    view: View,
    wanted: Floats,
    whites: tuple[WhiteMark, ...] = (),
    mixture: MixtureMark | None = None,
    even: bool = False,
) -> RectifiedPainting:
    """Square a painting up and take its light out.

    Parameters
    ----------
    photograph
        (H, W, 3) sRGB.
    view
        How the camera saw the painting.
    wanted
        (h, w, 3) linear light of what the plan has there.
    whites, mixture
        What is known of the light; nothing to take it from the plan.
    even
        True to take the light as even.
    """
    shape = (wanted.shape[0], wanted.shape[1])
    squared = view.squared(photograph, shape)
    seen = picture_to_linear(squared)
    there = _inside(view, shape)
    known = _known(photograph, view, squared, whites, mixture)
    clear = there
    for _ in range(2):
        lighting = lighting_of(seen, wanted, clear, known, even)
        light = (seen / np.maximum(lighting.over(shape), 1e-4)).astype(np.float32)
        shine = gloss(seen, light, wanted)
        clear = there & ~shine
        if clear.mean() < 0.2:
            raise Refusal("nearly all of the painting lies under gloss: photograph it from another side")
    return RectifiedPainting(light, squared, clear, lighting, float(shine.mean()))


def _known(
    photograph: Bytes, view: View, squared: Bytes, whites: tuple[WhiteMark, ...], mixture: MixtureMark | None
) -> tuple[Known, ...]:
    if not whites and mixture is None:
        return ()
    linear = picture_to_linear(photograph) if whites else np.zeros((1, 1, 3), np.float32)
    found = [known_card(linear, view, (w.x1, w.y1, w.x2, w.y2), w.reflects) for w in whites]
    if mixture is not None:
        reach = max(2, round(0.006 * max(squared.shape)))
        row, column = int(mixture.y * squared.shape[0]), int(mixture.x * squared.shape[1])
        box = tuple(slice(max(0, a - reach), a + reach + 1) for a in (row, column))
        seen = picture_to_linear(np.ascontiguousarray(squared[box])).reshape(-1, 3).mean(axis=0)
        found.append(Known((mixture.x, mixture.y), seen.astype(np.float64), _linear_of(mixture.lab)))
    return tuple(found)


def _linear_of(lab: tuple[float, float, float]) -> Doubles:
    small = np.array(lab, np.float32).reshape(1, 1, 3)
    return np.asarray(cv2.cvtColor(small, cv2.COLOR_Lab2LRGB), dtype=np.float64).reshape(3).clip(1e-4)


def _inside(view: View, shape: tuple[int, int]) -> Mask:
    """(h, w) where the photograph shows the painting at all."""
    x, y = view.where(shape)
    rim = max(1, round(RIM * max(shape)))
    seen = (x >= 0) & (x <= view.shape[1] - 1) & (y >= 0) & (y <= view.shape[0] - 1)
    seen[:rim] = seen[-rim:] = False
    seen[:, :rim] = seen[:, -rim:] = False
    return np.asarray(seen)
