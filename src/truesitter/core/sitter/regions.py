"""Regions of the sitter: skin, hair, brows, facial hair, lips, eyes, garment, background.

Seeds come from the person mask, from the face outline and from the painter's
scribbles. Each class has a mixture of Gaussians in L*a*b* and texture; these
and weak beliefs about place ("hair is near the head, cloth is below the chin")
give a likelihood for each pixel, smoothed along the picture's own edges (He, Sun, Tang 2013,
guided image filtering) and re-estimated a few times from its own result.
Features (brows, lips, eyes) come straight from the landmarks.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import picture_to_lab
from truesitter.core.sitter import places
from truesitter.core.sitter.beliefs import add_nearness, add_strokes, place_beliefs
from truesitter.core.sitter.colour_models import log_likelihood
from truesitter.core.sitter.guided import GuidedFilter
from truesitter.core.sitter.landmarks import Detection
from truesitter.core.sitter.region_names import SOLVED, Region
from truesitter.core.types import Bytes, Doubles, Floats, Labels, Mask, Shape

WORKING_LONG_SIDE = 400
"""Regions are solved with this long side; edges are sharpened when enlarged."""

FINE_LONG_SIDE = 1200
_RADIUS, _FINE_RADIUS = 4, 2
_ROUNDS = 3


_SMALLEST_ISLAND = {Region.SKIN: 0.015}
"""Islands smaller than this part of their region's largest piece are given away."""


@dataclass(frozen=True)
class Scribble:
    """A painter's correction: a stroke that names what lies under it.

    Attributes
    ----------
    region
        What the painter says is there; None takes earlier strokes away.
    points
        Points along the stroke, (x, y) in fractions of width and height.
    width
        Stroke width as a fraction of the picture's height.
    """

    region: Region | None
    points: tuple[tuple[float, float], ...]
    width: float = 0.02


@dataclass(frozen=True)
class Regions:
    """Region map and how sure it is.

    Attributes
    ----------
    labels
        (H, W) uint8 of `Region`.
    sureness
        Mean posterior of the chosen region over the sitter, 0–1.
    sure
        The same for each region found by colour and place, by its lower-case name.
    """

    labels: Labels
    sureness: float
    sure: dict[str, float]

    def mask(self, *regions: Region) -> Mask:
        """True where the map holds one of `regions`."""
        return np.asarray(np.isin(self.labels, [int(r) for r in regions]))

    def shares(self) -> dict[str, float]:
        """Share of the picture of each region, by its lower-case name."""
        counts = np.bincount(self.labels.ravel(), minlength=len(Region))
        return {r.name.lower(): float(counts[r] / self.labels.size) for r in Region}


def rasterise(scribbles: tuple[Scribble, ...], shape: Shape) -> Labels:
    """Draw scribbles in order into a label map, 255 where none; uint8 (h, w)."""
    height, width = shape
    canvas = np.full(shape, 255, np.uint8)
    for scribble in scribbles:
        points = np.round(np.array(scribble.points) * (width, height)).astype(np.int32)
        thickness = max(1, round(scribble.width * height))
        code = 255 if scribble.region is None else int(scribble.region)
        cv2.polylines(canvas, [points.reshape(-1, 1, 2)], False, code, thickness)
        if len(points) == 1:
            cv2.circle(canvas, points[0].tolist(), thickness // 2, code, -1)
    return canvas


def _features(picture: Bytes) -> Floats:
    """Lightness, chroma plane and strand texture of each pixel, float32 (h, w, 4)."""
    lab = cv2.bilateralFilter(picture_to_lab(picture), 5, 12, 3)
    lightness = lab[..., 0]
    fine = cv2.absdiff(lightness, cv2.GaussianBlur(lightness, (0, 0), 2.0))
    texture = np.log1p(cv2.GaussianBlur(fine, (0, 0), 2.5)) * 8
    # Chroma falls with light: hue-like coordinates hold better from light into shadow.
    scale = 45.0 / (lightness + 18.0)
    return np.dstack([lightness * 0.45, lab[..., 1] * scale, lab[..., 2] * scale, texture]).astype(np.float32)


def _seeds(features: Floats, person: Floats, landmarks: Doubles | None) -> Labels:
    """First guess of certain pixels, 255 where unknown; uint8 (h, w)."""
    shape = person.shape
    seeds = np.full(shape, 255, np.uint8)
    seeds[person < 0.1] = Region.BACKGROUND
    if landmarks is None:
        return seeds
    height, width = shape
    sitter = person > 0.85
    face = places.face_height(landmarks, shape)
    y = np.arange(height)[:, None] + np.zeros(shape)
    oval = places.outline_mask(landmarks, places.OVAL, shape)
    outside = cv2.distanceTransform((~oval).astype(np.uint8), cv2.DIST_L2, 3) / face
    skip = places.feature_mask(landmarks, shape, 1.5)
    for brow in places.BROWS:
        skip |= places.outline_mask(landmarks, brow, shape, 1.6)
    inner = places.outline_mask(landmarks, places.OVAL, shape, 0.86)
    upper = y < landmarks[2, 1] * height
    skin = inner & upper & ~skip & sitter
    seeds[skin] = Region.SKIN
    brow_y = landmarks[list(places.BROWS[0] + places.BROWS[1]), 1].mean() * height
    crown = sitter & (outside > 0.06) & (outside < 0.35) & (y < brow_y)
    if crown.any() and skin.any():
        # A high forehead reaches above the landmarks: leave out what is plainly skin.
        usual = np.quantile(log_likelihood(features[skin], features[skin]), 0.04)
        crown[crown] = log_likelihood(features[skin], features[crown]) < usual
    seeds[crown] = Region.HAIR
    chin_y = landmarks[152, 1] * height
    x = np.arange(width)[None, :] + np.zeros(shape)
    aside = np.abs(x - landmarks[152, 0] * width)
    low = sitter & (y > chin_y + 0.45 * face - 0.5 * np.clip(aside - 0.4 * face, 0, 0.8 * face))
    if low.sum() > 200 and crown.sum() > 50 and skin.sum() > 50:
        known = {
            Region.SKIN: log_likelihood(features[skin], features[low]),
            Region.HAIR: log_likelihood(features[crown], features[low]),
        }
        alien = np.maximum(known[Region.SKIN], known[Region.HAIR])
        chosen = np.zeros(shape, bool)
        chosen[low] = alien < np.quantile(alien, 0.45)
        seeds[chosen] = Region.GARMENT
    # A beard differs from the skin of the same face and lies round the mouth.
    lower = oval & ~upper & ~skip & sitter
    if lower.sum() > 50 and skin.sum() > 50 and crown.sum() > 50:
        as_skin = log_likelihood(features[skin], features[lower])
        as_hair = log_likelihood(features[crown], features[lower])
        bearded = np.zeros(shape, bool)
        bearded[lower] = as_hair > as_skin + 1.0
        if bearded.sum() > 0.25 * lower.sum():
            seeds[bearded] = Region.FACIAL_HAIR
        else:
            seeds[lower & ~bearded] = Region.SKIN
    return seeds


def _posteriors(features: Floats, seeds: Labels, beliefs: dict[Region, Floats], person: Floats) -> Floats:
    """Smoothed posterior of each solved region, (5, h, w), summing to 1."""
    shape = person.shape
    flat = features.reshape(-1, features.shape[-1])
    scores = np.full((len(SOLVED), *shape), -60, np.float32)
    odds = np.log(np.clip(person, 1e-3, 1 - 1e-3) / (1 - np.clip(person, 1e-3, 1 - 1e-3)))
    for i, region in enumerate(SOLVED):
        sample = features[seeds == region]
        if len(sample) < 12:
            continue
        likelihood = log_likelihood(sample, flat).reshape(shape)
        belongs = -odds if region == Region.BACKGROUND else odds
        scores[i] = likelihood + beliefs[region] + 1.2 * np.minimum(belongs, 4)
    scores -= scores.max(axis=0)
    posterior = np.exp(np.clip(scores, -30, 0))
    posterior /= posterior.sum(axis=0)
    edges = GuidedFilter(features[..., 0] / 0.45, _RADIUS)
    smoothed = np.stack([np.clip(edges.smooth(p), 1e-4, 1) for p in posterior])
    return np.asarray(smoothed / smoothed.sum(axis=0))


def _likeliest(posterior: Iterable[Floats]) -> tuple[Labels, Floats]:
    """Number of the largest of several maps at each pixel, and its size; one map in hand at a time."""
    maps = iter(posterior)
    top = next(maps)
    best = np.zeros(top.shape, np.uint8)
    for number, current in enumerate(maps, start=1):
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


def _enlarge(posterior: Floats, guide: Floats, picture: Bytes) -> tuple[Labels, Floats]:
    """Labels and likelihoods at the size of the picture, drawn along its own edges."""
    height, width = picture.shape[:2]
    scale = min(1.0, FINE_LONG_SIDE / max(height, width))
    size = (max(8, round(width * scale)), max(8, round(height * scale)))
    fine = picture_to_lab(np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA)))[..., 0]
    edges = GuidedFilter(guide, _FINE_RADIUS)
    best, top = _likeliest(_along_edges(edges, p, fine) for p in posterior)
    labels = np.asarray(cv2.LUT(best, np.resize(np.array(SOLVED, np.uint8), 256)))
    return (
        np.asarray(cv2.resize(labels, (width, height), interpolation=cv2.INTER_NEAREST)),
        np.asarray(cv2.resize(np.clip(top, 0, 1), (width, height), interpolation=cv2.INTER_LINEAR)),
    )


def _drop_islands(posterior: Floats, drawn: Labels) -> None:
    """Give islands far smaller than their region to whatever lies round them most, in place.

    A sitter's neck, ears and hands are islands of skin in their own right; hair and cloth
    seldom come in crumbs.
    """
    best, _ = _likeliest(posterior)
    for i, region in enumerate(SOLVED):
        count, parts, stats, _ = cv2.connectedComponentsWithStats(
            (best == i).astype(np.uint8), connectivity=4
        )
        if count <= 2:
            continue
        areas = stats[:, cv2.CC_STAT_AREA]
        kept = areas >= _SMALLEST_ISLAND.get(region, 0.06) * areas[1:].max()
        kept[np.unique(parts[drawn == region])] = True
        for number in np.flatnonzero(~kept[1:]) + 1:
            x, y, width, height = stats[number, :4]
            window = (slice(max(0, y - 1), y + height + 1), slice(max(0, x - 1), x + width + 1))
            island = parts[window] == number
            shore = (cv2.dilate(island.view(np.uint8), np.ones((3, 3), np.uint8)) > 0) & ~island
            heir = int(np.bincount(best[window][shore], minlength=len(SOLVED)).argmax())
            posterior[:, window[0], window[1]][:, island] = 0
            posterior[heir][window][island] = 1


def solve_regions(picture: Bytes, detection: Detection, scribbles: tuple[Scribble, ...] = ()) -> Regions:
    """Split the picture into regions.

    Parameters
    ----------
    picture
        sRGB (H, W, 3) uint8 of any size.
    detection
        Landmarks and person mask of the same picture.
    scribbles
        The painter's corrections; a later one wins where they cross.

    Returns
    -------
    Regions
        At the size of `picture`. Without a face and without scribbles the sitter
        comes as one garment region: nothing tells skin from cloth.
    """
    height, width = picture.shape[:2]
    scale = min(1.0, WORKING_LONG_SIDE / max(height, width))
    size = (max(8, round(width * scale)), max(8, round(height * scale)))
    small = np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA))
    shape = small.shape[:2]
    person = cv2.resize(detection.person, size, interpolation=cv2.INTER_LINEAR)
    features = _features(small)
    drawn = rasterise(scribbles, shape)
    beliefs = place_beliefs(detection.landmarks, shape)
    if detection.landmarks is None:
        add_nearness(beliefs, drawn)
    drawn_solved = np.where(np.isin(drawn, [int(r) for r in SOLVED]), drawn, 255)
    for scribbled, sign in ((Region.BACKGROUND, -1), (None, 1)):
        hit = drawn == scribbled if scribbled is not None else (drawn != 255) & (drawn != 0)
        if hit.any():
            reach = cv2.GaussianBlur(hit.astype(np.float32), (0, 0), 0.03 * shape[0])
            person = np.clip(person + sign * 1.5 * reach, 0, 1)
    seeds = _seeds(features, person, detection.landmarks)
    if detection.landmarks is None:
        seeds = np.where(drawn_solved != 255, drawn_solved, seeds).astype(np.uint8)
    else:
        add_strokes(beliefs, features, drawn_solved)
    if detection.landmarks is None and not np.isin(drawn_solved, (1, 2, 7)).any():
        seeds[person > 0.85] = Region.GARMENT

    if (seeds == Region.FACIAL_HAIR).any():
        # What grows round the mouth of a bearded sitter is beard, not hair of the head.
        beliefs[Region.HAIR] -= np.where(beliefs[Region.FACIAL_HAIR] > -2, 6, 0).astype(np.float32)
    posterior = _posteriors(features, seeds, beliefs, person)
    for _ in range(_ROUNDS - 1):
        best, top = _likeliest(posterior)
        again = np.where(top > 0.9, np.array(SOLVED, np.uint8)[best], 255)
        again = np.where(seeds != 255, seeds, again).astype(np.uint8)
        posterior = _posteriors(features, again, beliefs, person)
    _drop_islands(posterior, drawn_solved)
    for i, region in enumerate(SOLVED):
        posterior[:, drawn_solved == region] = 0
        posterior[i, drawn_solved == region] = 1

    labels, top = _enlarge(posterior, features[..., 0] / 0.45, picture)
    sitter = labels != Region.BACKGROUND
    sureness = float(cv2.mean(top, sitter.astype(np.uint8))[0]) if sitter.any() else 0.0
    sure = {
        r.name.lower(): float(cv2.mean(top, np.asarray(cv2.inRange(labels, int(r), int(r))))[0])
        for r in SOLVED
        if (labels == r).any()
    }
    _draw_features(labels, detection.landmarks)
    drawn_full = rasterise(scribbles, (height, width))
    fixed = np.isin(drawn_full, (Region.BROWS, Region.LIPS, Region.EYES))
    labels[fixed] = drawn_full[fixed]
    return Regions(labels=labels, sureness=sureness, sure=sure)


def _draw_features(labels: Labels, landmarks: Doubles | None) -> None:
    """Lay lips, eyes and brows over the solved regions, in place."""
    if landmarks is None:
        return
    shape = labels.shape[:2]
    covered = labels == Region.FACIAL_HAIR
    lips = places.outline_mask(landmarks, places.LIPS, shape, 1.02)
    labels[lips & ~covered] = Region.LIPS
    for brow in places.BROWS:
        mask = places.outline_mask(landmarks, brow, shape, 1.05)
        labels[mask & (labels == Region.SKIN)] = Region.BROWS
    for eye in places.EYES:
        labels[places.outline_mask(landmarks, eye, shape, 1.05)] = Region.EYES
