"""The light on a painting taken out of its photograph: lamp colour, fall-off and gloss.

One lamp falls off alike in all its colours, so the photograph is the painting times three gains and one
slow surface. Where a card or a spot of known mixture is marked, the gains are known; without one they are
taken from what the plan says the painting should be, and a key that is wrong as a whole cannot be seen.
The surface comes from the plan either way: fitted to the logarithm of photographed over planned light,
places that disagree (those painted wrong) counting for less and less.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import LUMINANCE_WEIGHTS, srgb_to_linear
from truesitter.core.colour.value import linear_luminance, linear_to_value
from truesitter.core.easel.find.view import View
from truesitter.core.easel.lamp.tuning import (
    CLIPPED_SRGB,
    CURVED,
    DIM,
    DISAGREES,
    FAINT,
    FIT_LONG_SIDE,
    GLOSS_LONG_SIDE,
    GREY,
    LEAST_GLOSS,
    LIGHTEST,
    MOST_GLOSS,
    OVERLOOKED,
    ROUNDS,
    SKIRT,
)
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles, Floats, Mask

_CLIPPED = float(srgb_to_linear(np.array(CLIPPED_SRGB)))


@dataclass(frozen=True)
class Lighting:
    """The light on a painting.

    Attributes
    ----------
    gains
        Linear RGB (3,) in the middle of the painting, in parts of a white fully exposed.
    surface
        (6,) natural logarithm of the fall-off: coefficients of 1, x, y, x², xy, y² about the middle.
    absolute
        True when the gains come from something of known colour.
    words
        Where they come from.
    """

    gains: Doubles
    surface: Doubles
    absolute: bool
    words: str

    def at(self, x: Doubles, y: Doubles) -> Doubles:
        """Light (…, 3) at spots in fractions of the painting."""
        fall = np.exp(np.clip(_terms(x, y) @ self.surface, -3, 3))
        return np.asarray(fall[..., None] * self.gains)

    def over(self, shape: tuple[int, int]) -> Floats:
        """Light (h, w, 3) on the whole painting."""
        small = (max(2, shape[0] // 8), max(2, shape[1] // 8))
        y, x = ((np.arange(n) + 0.5) / n for n in small)
        columns, rows = np.meshgrid(x, y)
        light = self.at(columns, rows).astype(np.float32)
        return cv2.resize(light, shape[::-1], interpolation=cv2.INTER_CUBIC)

    @property
    def fall_off(self) -> float:
        """Part of the light lost from the painting's lightest to its dimmest corner, 0–1."""
        x, y = np.array([(0, 0), (1, 0), (1, 1), (0, 1)], float).T
        fall = _terms(x, y) @ self.surface
        return float(1 - np.exp(fall.min() - fall.max()))


def _terms(x: Doubles, y: Doubles) -> Doubles:
    u, v = x - 0.5, y - 0.5
    return np.stack([np.ones_like(u), u, v, u * u, u * v, v * v], axis=-1)


@dataclass(frozen=True)
class Known:
    """Something of known colour: a card beside the painting, or a spot of a known mixture on it.

    Attributes
    ----------
    spot
        Where, in fractions of the painting; outside 0–1 for a card beside it.
    seen
        Linear RGB (3,) in the photograph.
    true
        Linear RGB (3,) under a full white light.
    """

    spot: tuple[float, float]
    seen: Doubles
    true: Doubles


def lighting_of(
    seen: Floats, wanted: Floats, trusted: Mask, known: tuple[Known, ...] = (), even: bool = False
) -> Lighting:
    """The light on a painting.

    Parameters
    ----------
    seen, wanted
        (h, w, 3) linear light of the squared-up photograph, and of what the plan has there.
    trusted
        (h, w) where the photograph can be believed.
    known
        Things of known colour; from three on they give the fall-off as well.
    even
        True to take the light as even.

    Raises
    ------
    Refusal
        For a known spot that is over- or underexposed.
    """
    for one in known:
        if one.seen.max() >= _CLIPPED:
            raise Refusal("the white is overexposed in the photograph: take one a little darker")
        if one.seen.min() < 0.02 * one.true.max():
            raise Refusal("the white is far too dark in the photograph: use more light")
    height, width = seen.shape[:2]
    scale = FIT_LONG_SIDE / max(height, width)
    size = (max(8, round(width * scale)), max(8, round(height * scale)))
    there = cv2.resize(trusted.astype(np.float32), size, interpolation=cv2.INTER_AREA) > 0.9
    own, plan = (
        cv2.resize(light * trusted[..., None], size, interpolation=cv2.INTER_AREA).astype(np.float64)
        for light in (seen, wanted)
    )
    y, x = np.mgrid[0 : size[1], 0 : size[0]]
    terms = _terms((x[there] + 0.5) / size[0], (y[there] + 0.5) / size[1])
    light, should = (np.maximum(p[there] @ LUMINANCE_WEIGHTS, 1e-5) for p in (own, plan))
    if even:
        surface = np.zeros(6)
    elif len(known) >= 3:
        surface = _by_known(known)
    else:
        surface = _robust(terms, np.log(light / should), should / (should + DIM))
    surface = surface - np.eye(6)[0] * surface[0]
    if known:
        each = [k.seen / k.true / np.exp(_terms(*map(np.array, k.spot)) @ surface) for k in known]
        words = "three or more whites" if len(known) >= 3 else "something of known colour"
        return Lighting(np.mean(each, axis=0), surface, True, words)
    weights = should / (should + DIM)
    ratios = np.log(np.maximum(own[there], 1e-5) / np.maximum(plan[there], 1e-5)) - (terms @ surface)[:, None]
    gains = np.exp([_middle(ratios[:, channel], weights) for channel in range(3)])
    return Lighting(gains, surface, False, "the plan itself")


def _middle(values: Doubles, weights: Doubles) -> float:
    """Weighted median."""
    order = np.argsort(values)
    run = np.cumsum(weights[order])
    return float(values[order][int(np.searchsorted(run, run[-1] / 2))])


def _by_known(known: tuple[Known, ...]) -> Doubles:
    """A slope through whites, none along directions in which they hardly differ."""
    spots = np.array([k.spot for k in known]) - 0.5
    light = np.array([np.log(k.seen / k.true).mean() for k in known])
    slope, *_ = np.linalg.lstsq(spots - spots.mean(axis=0), light - light.mean(), rcond=0.15)
    return np.array([0.0, *slope, 0.0, 0.0, 0.0])


def _robust(terms: Doubles, values: Doubles, weights: Doubles) -> Doubles:
    """Coefficients (6,) of the surface that most places agree on (Cauchy weights, Holland & Welsch 1977)."""
    stiff = np.diag([0.0, 0.0, 0.0, 1.0, 1.0, 1.0]) * CURVED * len(values) * 1e-4
    found = np.zeros(6)
    found[0] = _middle(values, weights)
    scale = 6.0
    for _ in range(ROUNDS):
        off = (values - terms @ found) / (DISAGREES * scale)
        own = weights / (1 + off * off)
        found = np.linalg.solve((terms * own[:, None]).T @ terms + stiff, (terms * own[:, None]).T @ values)
        # At first nearly everything counts, in the end only what agrees.
        scale = max(1.0, scale * 0.75)
    return found


def known_card(
    photograph: Floats, view: View, mark: tuple[float, float, float, float], white: float
) -> Known:
    """A card marked by a rectangle (x1, y1, x2, y2) in fractions of a linear photograph (H, W, 3).

    Parameters
    ----------
    photograph
        (H, W, 3) linear light.
    view
        Where the painting lies.
    mark
        Left, top, right, bottom in fractions of the photograph.
    white
        Luminance factor of the card, 0–1.

    Returns
    -------
    Known
        Where it lies beside the painting, and its light.
    """
    height, width = photograph.shape[:2]
    x1, x2 = sorted((mark[0], mark[2]))
    y1, y2 = sorted((mark[1], mark[3]))
    pad_x, pad_y = 0.15 * (x2 - x1), 0.15 * (y2 - y1)
    rows = slice(int((y1 + pad_y) * height), int((y2 - pad_y) * height) + 1)
    columns = slice(int((x1 + pad_x) * width), int((x2 - pad_x) * width) + 1)
    patch = photograph[rows, columns].reshape(-1, 3)
    if len(patch) < 16:
        raise Refusal("the mark on the white is too small: drag a larger rectangle inside it")
    at = np.array((((x1 + x2) / 2) * width, ((y1 + y2) / 2) * height, 1.0))
    spot = np.linalg.inv(view.matrix) @ at
    return Known(
        (float(spot[0] / spot[2]), float(spot[1] / spot[2])), patch.mean(axis=0, dtype=np.float64),
        np.full(3, white),
    )  # fmt: skip


def gloss(photographed: Floats, corrected: Floats, wanted: Floats) -> Mask:
    """Where mirrored light lies on a painting, (h, w).

    Parameters
    ----------
    photographed, corrected
        (h, w, 3) linear light as in the photograph, and with the lamp taken out.
    wanted
        (h, w, 3) linear light of what the plan has there.
    """
    shape = corrected.shape[:2]
    scale = min(1.0, GLOSS_LONG_SIDE / max(shape))
    size = (max(8, round(shape[1] * scale)), max(8, round(shape[0] * scale)))
    clipped = cv2.resize(_most(photographed), size, interpolation=cv2.INTER_AREA) >= _CLIPPED
    lit, wanted = (cv2.resize(p, size, interpolation=cv2.INTER_AREA) for p in (corrected, wanted))
    more = lit - wanted
    least, most = _least(more), np.maximum(_most(more), 1e-6)
    grey = (least > LEAST_GLOSS) & (least > GREY * most)
    seeds = (clipped & (least > LEAST_GLOSS)) | (grey & (_most(lit) > LIGHTEST))
    # On paint that has a colour, light that adds none is the lamp's.
    colour = _most(wanted) > 1.6 * _least(wanted)
    seeds |= (least > 0.15) & (least > 0.88 * most) & (colour | _far_lighter(lit, wanted))
    seeds = cv2.morphologyEx(seeds.astype(np.uint8), cv2.MORPH_OPEN, np.ones((3, 3), np.uint8)) > 0
    if not seeds.any():
        return np.zeros(shape, bool)
    _, parts = cv2.connectedComponents((grey | seeds).astype(np.uint8))
    sizes = np.bincount(parts.ravel()) / parts.size
    glossy = [n for n in np.unique(parts[seeds]) if sizes[n] <= MOST_GLOSS]
    kept = np.isin(parts, glossy)
    if not kept.any():
        return np.zeros(shape, bool)
    whole = _with_skirt(kept, least, most, wanted).astype(np.uint8)
    return np.asarray(cv2.resize(whole, shape[::-1], interpolation=cv2.INTER_NEAREST) > 0)


def _least(light: Floats) -> Floats:
    """Least of three channels, (h, w)."""
    return np.asarray(np.minimum(np.minimum(light[..., 0], light[..., 1]), light[..., 2]))


def _most(light: Floats) -> Floats:
    """Most of three channels, (h, w)."""
    return np.asarray(np.maximum(np.maximum(light[..., 0], light[..., 1]), light[..., 2]))


def _far_lighter(lit: Floats, wanted: Floats) -> Mask:
    """Where paint would have to be so much lighter than planned that nobody overlooks it."""
    values = [linear_to_value(np.clip(linear_luminance(light), 0, 1)) for light in (lit, wanted)]
    return np.asarray(values[0] - values[1] > OVERLOOKED)


def _with_skirt(kept: Mask, least: Floats, most: Floats, wanted: Floats) -> Mask:
    """Gloss with its faint rim: on dark paint a trace of it is seen."""
    ground = linear_luminance(wanted)
    faint = (least > FAINT * (ground + 0.01)) & (least > 0.5 * most)
    reach = np.sqrt(kept.sum() / np.pi) * SKIRT
    near = cv2.distanceTransform((~kept).astype(np.uint8), cv2.DIST_L2, 3) <= reach
    _, parts = cv2.connectedComponents((faint & near | kept).astype(np.uint8))
    whole = np.isin(parts, np.unique(parts[kept])) & (parts > 0)
    size = 2 * max(1, round(0.006 * max(kept.shape))) + 1
    grown = cv2.dilate(whole.astype(np.uint8), cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (size, size)))
    return np.asarray(grown > 0)
