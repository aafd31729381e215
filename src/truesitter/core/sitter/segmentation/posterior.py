"""How likely each region is at each pixel: colour, texture and place, smoothed along edges."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Self

import cv2
import numpy as np

from truesitter.core.colour.spaces import picture_to_lab
from truesitter.core.imaging.reduce import scaled
from truesitter.core.sitter.region_names import SOLVED, Region
from truesitter.core.sitter.segmentation.colour_models import ColourModel, quadratic_terms
from truesitter.core.sitter.segmentation.cores import side_by_side
from truesitter.core.sitter.segmentation.guided import GuidedFilter
from truesitter.core.sitter.segmentation.tuning import (
    FEWEST,
    FINE_LONG_SIDE,
    FINE_RADIUS,
    LIGHTNESS_WEIGHT,
    RADIUS,
    WORKING_LONG_SIDE,
)
from truesitter.core.types import Bytes, Floats, Labels

_SMALLEST_ISLAND = {Region.SKIN: 0.015}
"""Islands smaller than this part of their region's largest piece are given away."""

_CODES = np.resize(np.array(SOLVED, np.uint8), 256)


def pixel_features(picture: Bytes) -> Floats:
    """Lightness, chroma plane and strand texture of each pixel of sRGB (h, w, 3); float32 (h, w, 4)."""
    lab = cv2.bilateralFilter(picture_to_lab(picture), 5, 12, 3)
    lightness = lab[..., 0]
    fine = cv2.absdiff(lightness, cv2.GaussianBlur(lightness, (0, 0), 2.0))
    texture = np.log1p(cv2.GaussianBlur(fine, (0, 0), 2.5)) * 8
    # Chroma falls with light: hue-like coordinates hold better from light into shadow.
    scale = 45.0 / (lightness + 18.0)
    return np.dstack(
        [lightness * LIGHTNESS_WEIGHT, lab[..., 1] * scale, lab[..., 2] * scale, texture]
    ).astype(np.float32)


@dataclass(frozen=True)
class Looks:
    """What a picture looks like pixel by pixel; the same however often its regions are solved.

    Attributes
    ----------
    features, terms
        (h, w, d) as `pixel_features` gives at the working size, and their `quadratic_terms`.
    fine
        (H, W, 3) L*a*b* at the size at which borders are drawn.
    """

    features: Floats
    terms: Floats
    fine: Floats

    @classmethod
    def of(cls, picture: Bytes) -> Self:
        """The looks of an sRGB picture (H, W, 3) of any size."""
        features = pixel_features(_at_most(picture, WORKING_LONG_SIDE))
        return cls(features, quadratic_terms(features), picture_to_lab(_at_most(picture, FINE_LONG_SIDE)))


def _at_most(picture: Bytes, long_side: int) -> Bytes:
    return scaled(picture, min(1.0, long_side / max(picture.shape[:2])))


class Evidence:
    """What is known before any seed: the look of each pixel, and where a person is.

    Parameters
    ----------
    looks
        Of the picture.
    person
        (h, w) likelihood of being the sitter, 0–1.
    beliefs
        Log beliefs about place, (h, w) for each of `SOLVED`.
    told
        (h, w) log density of what the painter's strokes say a region looks like there too.
    """

    def __init__(
        self, looks: Looks, person: Floats, beliefs: dict[Region, Floats], told: dict[Region, Floats]
    ) -> None:
        self._features, self._terms, self._fine = looks.features, looks.terms, looks.fine[..., 0]
        self._guide = looks.features[..., 0] / LIGHTNESS_WEIGHT
        self._edges = GuidedFilter(self._guide, RADIUS)
        self._told = told
        sure = np.clip(person, 1e-3, 1 - 1e-3)
        odds = np.log(sure / (1 - sure))
        self._prior = {
            r: beliefs[r] + 1.2 * np.minimum(-odds if r == Region.BACKGROUND else odds, 4) for r in SOLVED
        }

    def posteriors(self, seeds: Labels) -> Floats:
        """Smoothed likelihood of each of `SOLVED`, (5, h, w) float32, summing to 1.

        Parameters
        ----------
        seeds
            (h, w) uint8 of `Region`, 255 where unknown; what each region looks like is
            learnt from them. A region with hardly any seeds is nowhere.
        """
        shape = seeds.shape
        samples = {r: self._features[seeds == r] for r in SOLVED}
        present = [r for r in SOLVED if len(samples[r]) >= FEWEST]

        def score(region: Region) -> Floats:
            look = ColourModel.of(samples[region]).log_density(self._terms).reshape(shape)
            if region in self._told:
                look = np.logaddexp(look, self._told[region])
            return np.asarray(look + self._prior[region])

        posterior = np.zeros((len(SOLVED), *shape), np.float32)
        if not present:
            posterior[0] = 1
            return posterior
        found = np.stack(list(side_by_side(score, present)))
        found -= found.max(axis=0)
        np.exp(np.maximum(found, -30, out=found), out=found)
        found /= found.sum(axis=0)
        smoothed = side_by_side(self._edges.smooth, found)
        for region, likely in zip(present, smoothed, strict=True):
            posterior[SOLVED.index(region)] = np.clip(likely, 1e-4, 1)
        return np.asarray(posterior / posterior.sum(axis=0))

    def enlarge(self, posterior: Floats) -> tuple[Labels, Floats]:
        """Regions and their likelihoods at the fine size, along the picture's own edges."""
        lightness = np.ascontiguousarray(self._fine)
        edges = GuidedFilter(self._guide, FINE_RADIUS)
        present = [i for i, p in enumerate(posterior) if p.any()]
        maps = side_by_side(lambda i: _along_edges(edges, posterior[i], lightness), present)
        best, top = likeliest(zip(present, maps, strict=True))
        return cv2.LUT(best, _CODES), np.clip(top, 0, 1)


def likeliest(maps: Iterable[tuple[int, Floats]]) -> tuple[Labels, Floats]:
    """Number of the largest of some numbered maps at each pixel, and its size; one map in hand at a time."""
    rest = iter(maps)
    first, top = next(rest)
    best = np.full(top.shape, first, np.uint8)
    for number, current in rest:
        best[current > top] = number
        top = np.maximum(top, current)
    return best, top


def _along_edges(edges: GuidedFilter, posterior: Floats, fine: Floats) -> Floats:
    """One map enlarged along the picture's edges; never below a tenth of its plain enlargement.

    The guide alone overshoots where its edges are strongest, and would there leave the
    field to a region that is not in question at all.
    """
    plain = cv2.resize(posterior, (fine.shape[1], fine.shape[0]), interpolation=cv2.INTER_LINEAR)
    return np.asarray(np.maximum(0.5 * (edges.enlarge(posterior, fine) + plain), 0.1 * plain))


def drop_islands(posterior: Floats, drawn: Labels, lowest: float) -> None:
    """Give islands far smaller than their region to whatever lies round them most, in place.

    A sitter's neck, ears and hands are islands of skin in their own right; hair and cloth
    seldom come in crumbs, and hair that begins below the mouth grows from no head.
    What the painter marked (`drawn`) stays.

    Parameters
    ----------
    posterior
        (h, w, n) by region; changed in place.
    drawn
        (h, w) what the painter marked, 255 elsewhere.
    lowest
        Row below which no hair begins.
    """
    best, _ = likeliest(enumerate(posterior))
    for i, region in enumerate(SOLVED):
        count, parts, stats, _ = cv2.connectedComponentsWithStats(
            (best == i).astype(np.uint8), connectivity=4
        )
        if count <= 2:
            continue
        areas = stats[:, cv2.CC_STAT_AREA]
        kept = areas >= _SMALLEST_ISLAND.get(region, 0.06) * areas[1:].max()
        if region == Region.HAIR:
            kept &= stats[:, cv2.CC_STAT_TOP] < lowest
        kept[np.unique(parts[drawn == region])] = True
        for number in np.flatnonzero(~kept[1:]) + 1:
            x, y, width, height = stats[number, :4]
            window = (slice(max(0, y - 1), y + height + 1), slice(max(0, x - 1), x + width + 1))
            island = parts[window] == number
            shore = (cv2.dilate(island.view(np.uint8), np.ones((3, 3), np.uint8)) > 0) & ~island
            heir = int(np.bincount(best[window][shore], minlength=len(SOLVED)).argmax())
            posterior[:, window[0], window[1]][:, island] = 0
            posterior[heir][window][island] = 1
