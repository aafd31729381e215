"""Skin below the neck: bare shoulders, arms, chest or back, found by the face's own colours at equal light.

The face says how skin looks in this light at every lightness. What goes on in those colours below the
chin, without a hem between, is skin wherever it lies.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import OVAL, Face
from truesitter.core.sitter.segmentation.straps import beyond_straps
from truesitter.core.sitter.segmentation.tuning import (
    ABOVE_CHIN,
    ACROSS,
    ALONG,
    CANDIDATE,
    DARKEST,
    DEVIATION,
    HEM,
    LEAST,
    LONG_SIDE,
    LOW,
    MEAN_DEVIATION,
    MOSTLY,
    NO_DARKER,
    NO_LIGHTER,
    NO_ROUGHER,
    PERSON,
    ROUGHER,
    SIGMA,
    STRAPS,
    WINDOW,
)
from truesitter.core.types import Doubles, Floats, Ints, Mask


@dataclass(frozen=True)
class EqualLight:
    """How skin looks at every lightness: a* and b*, scaled for light, as quadratics of L*.

    Attributes
    ----------
    coefficients
        (3, 2) of 1, L/50, (L/50)².
    """

    coefficients: Doubles

    @classmethod
    def of(cls, lab: Floats) -> EqualLight:
        """From skin (n, 3); outliers count little, and no lightness more than another."""
        lightness = lab[:, 0].astype(np.float64)
        terms, seen = _terms(lightness), _scaled(lab)
        bins = np.clip(lightness / 5, 0, 20).astype(int)
        even = 1 / np.bincount(bins, minlength=21)[bins]
        weight = even.copy()
        found = np.zeros((3, 2))
        for _ in range(6):
            root = np.sqrt(weight)[:, None]
            found = np.linalg.lstsq(terms * root, seen * root, rcond=None)[0]
            off = np.hypot(*(seen - terms @ found).T)
            weight = even / np.maximum(1, off)
        return cls(found)

    def off(self, lab: Floats) -> tuple[Floats, Floats]:
        """How far colours (…, 3) lie from skin of their lightness: along its chroma, and across it."""
        wanted = _terms(lab[..., 0].ravel().astype(np.float64)) @ self.coefficients
        away = _scaled(lab).reshape(-1, 2) - wanted
        way = wanted / np.maximum(np.hypot(*wanted.T), 1e-6)[:, None]
        along = (away * way).sum(axis=1)
        across = away[:, 1] * way[:, 0] - away[:, 0] * way[:, 1]
        shape = lab.shape[:-1]
        return along.reshape(shape).astype(np.float32), across.reshape(shape).astype(np.float32)


def _terms(lightness: Doubles) -> Doubles:
    part = lightness / 50
    return np.stack([np.ones_like(part), part, part**2], axis=1)


def _scaled(lab: Floats) -> Doubles:
    return np.asarray(lab[..., 1:] * (45 / (lab[..., :1] + 18)), dtype=np.float64)


def body_skin(
    lab: Floats, texture: Floats, person: Floats, face: Face, skin: Mask, fineness: Floats | None = None
) -> Mask | None:
    """Skin below the neck; None where there is hardly any, as in an ordinary portrait.

    Parameters
    ----------
    lab
        (H, W, 3) L*a*b*, of any size.
    texture
        (h, w) strand texture at the working size.
    person
        (h, w) likelihood of being the sitter.
    face, skin
        The face, and where at the working size its skin is almost certain, (h, w).
    fineness
        (h, w) how fine marks are, for a photograph without colour: cloth is finer than skin there.
    """
    if skin.sum() < 50:
        return None
    shape = person.shape
    model_lab = cv2.resize(lab, shape[::-1], interpolation=cv2.INTER_AREA)
    model = EqualLight.of(model_lab[skin])
    scale = LONG_SIDE / max(lab.shape[:2])
    large = (round(lab.shape[0] * scale), round(lab.shape[1] * scale))
    size = face.height(large)
    chin_x, chin_y = in_pixels(face.chin, large)
    # Nothing above the jaw can be of the body.
    rows = slice(max(0, int(chin_y - ABOVE_CHIN * size)), large[0])
    fine = cv2.resize(lab, large[::-1], interpolation=cv2.INTER_AREA)[rows]
    along, across = model.off(fine)
    off = np.hypot(along / ALONG, across / ACROSS)
    below = ((np.arange(large[0])[rows, None] - chin_y) / size + np.zeros(off.shape)).astype(np.float32)
    sitter = cv2.resize(person, large[::-1], interpolation=cv2.INTER_LINEAR)[rows] > PERSON
    likely = (off < DEVIATION) & (fine[..., 0] > DARKEST) & sitter
    likely &= ~face.outline_mask(OVAL, large)[rows]
    if (likely & (below > LOW)).sum() < LEAST * size**2:
        return None
    edges = _edges(fine[..., 0], along, across)
    rough = cv2.resize(texture, large[::-1], interpolation=cv2.INTER_LINEAR)[rows]
    smooth = rough < float(np.median(texture[skin])) + ROUGHER
    hem = HEM * float(np.quantile(model_lab[skin][:, 0], 0.9))
    x = (np.arange(large[1])[None, :] - chin_x) / size + np.zeros(off.shape)
    start = likely & (np.abs(x) < 0.3) & (below > 0.05) & (below < 0.45)
    areas = _areas(edges)
    could = candidates(areas, likely, np.minimum(off, 4), smooth)
    found = grown(areas, edges, could, start, hem)
    if (found & (below > LOW)).sum() < LEAST * size**2:
        return None
    # Only a body that is seen to be bare wears straps: elsewhere a beard's end or a collar would be one.
    for _ in range(STRAPS):
        beyond = beyond_straps(found, could[areas], areas, fine[..., 0], size)
        if not beyond.any():
            break
        found |= grown(areas, edges, could, found | beyond, hem)
    whole = np.zeros(large, np.float32)
    whole[rows] = found
    low = np.zeros(large, bool)
    low[rows] = found & (below > LOW)
    if fineness is not None and not _as_smooth_and_light(model_lab, fineness, skin, low):
        return None
    return np.asarray(cv2.resize(whole, shape[::-1], interpolation=cv2.INTER_AREA) > MOSTLY)


def _as_smooth_and_light(lab: Floats, fineness: Floats, skin: Mask, low: Mask) -> bool:
    """Whether what was found is no rougher than the face, and about as light.

    Without hue a hem alone does not tell cloth from skin.
    """
    found = cv2.resize(low.astype(np.uint8), skin.shape[::-1], interpolation=cv2.INTER_NEAREST) > 0
    if not found.any():
        return False
    middle = float(np.median(fineness[skin]))
    spread = 1.48 * float(np.median(np.abs(fineness[skin] - middle))) + 1e-6
    rougher = (float(np.median(fineness[found])) - middle) / spread
    lighter = float(np.median(lab[found][:, 0]) / max(1e-6, np.median(lab[skin][:, 0])))
    return rougher < NO_ROUGHER and NO_DARKER < lighter < NO_LIGHTER


def _edges(lightness: Floats, along: Floats, across: Floats) -> Floats:
    total = np.zeros(lightness.shape, np.float32)
    for channel in (lightness, along, 2 * across):
        soft = cv2.GaussianBlur(channel, (0, 0), SIGMA)
        total += cv2.Sobel(soft, cv2.CV_32F, 1, 0, ksize=3, scale=1 / 8) ** 2
        total += cv2.Sobel(soft, cv2.CV_32F, 0, 1, ksize=3, scale=1 / 8) ** 2
    return np.sqrt(total)


def _areas(edges: Floats) -> Ints:
    """Areas between ridges of the edges: a watershed from its shallow hollows."""
    from scipy.ndimage import label, minimum_filter, watershed_ift

    hollow = edges <= minimum_filter(edges, WINDOW)
    seeds, _ = label(hollow, structure=np.ones((3, 3)))
    deep = np.clip(edges * (65535 / max(1e-6, float(np.quantile(edges, 0.999)))), 0, 65535)
    return np.asarray(watershed_ift(deep.astype(np.uint16), seeds.astype(np.int32)), dtype=np.int32)


def candidates(areas: Ints, likely: Mask, off: Floats, smooth: Mask) -> Mask:
    """Which areas look like skin.

    Parameters
    ----------
    areas
        (h, w) numbers of even areas.
    likely
        (h, w) colours of skin.
    off
        (h, w) distance from the skin’s colour.
    smooth
        (h, w) without the pattern of cloth.

    Returns
    -------
    Mask
        By number of area.
    """
    count = int(areas.max()) + 1
    flat = areas.ravel()
    size = np.bincount(flat, minlength=count)
    eligible = np.bincount(flat, weights=likely.ravel(), minlength=count) >= CANDIDATE * size
    eligible &= np.bincount(flat, weights=smooth.ravel(), minlength=count) >= 0.5 * size
    eligible &= np.bincount(flat, weights=off.ravel(), minlength=count) < MEAN_DEVIATION * size
    return np.asarray(eligible & (size > 0))


def grown(areas: Ints, edges: Floats, eligible: Mask, start: Mask, hem: float) -> Mask:
    """Areas joined from the start on, across borders that are no hem.

    Parameters
    ----------
    areas
        (h, w) numbers of even areas.
    edges
        (h, w) strength of edges.
    eligible
        Which of them look like skin, by number.
    start
        (h, w) skin for certain.
    hem
        Strength of an edge that is a hem.

    Returns
    -------
    Mask
        (h, w) skin.
    """
    flat = areas.ravel()
    size = np.bincount(flat, minlength=len(eligible))
    taken = eligible & (np.bincount(flat, weights=start.ravel(), minlength=len(eligible)) > 0.3 * size)
    pairs, strength = _borders(areas, edges)
    for _ in range(200):
        one, two = taken[pairs[:, 0]], taken[pairs[:, 1]]
        across = one != two
        outside = np.where(one, pairs[:, 1], pairs[:, 0])
        across &= eligible[outside]
        if not across.any():
            break
        owner, value = outside[across], strength[across]
        order = np.lexsort((value, owner))
        owner, value = owner[order], value[order]
        first = np.flatnonzero(np.r_[True, owner[1:] != owner[:-1]])
        length = np.diff(np.r_[first, len(owner)])
        median = value[first + (length - 1) // 2]
        joins = owner[first][median < hem]
        if not len(joins):
            break
        taken[joins] = True
    return np.asarray(taken[areas])


def _borders(areas: Ints, edges: Floats) -> tuple[Ints, Floats]:
    """Neighbouring pixels of unlike areas: their areas (n, 2), and how strong the edge is there."""
    beside, above = areas[:, :-1] != areas[:, 1:], areas[:-1] != areas[1:]
    pairs = np.concatenate(
        [
            np.stack([areas[:, :-1][beside], areas[:, 1:][beside]], axis=1),
            np.stack([areas[:-1][above], areas[1:][above]], axis=1),
        ]
    )
    strength = np.concatenate(
        [
            np.maximum(edges[:, :-1][beside], edges[:, 1:][beside]),
            np.maximum(edges[:-1][above], edges[1:][above]),
        ]
    )
    return pairs, strength
