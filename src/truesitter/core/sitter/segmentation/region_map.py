"""Regions of the sitter: skin, hair, brows, facial hair, lips, eyes, garment, background.

Seeds come from the person mask, from the face outline and from the painter's
scribbles. Each class has a mixture of Gaussians in L*a*b* and texture; these
and weak beliefs about place ("hair is near the head, cloth is below the chin")
give a likelihood for each pixel, smoothed along the picture's own edges (He, Sun, Tang 2013,
guided image filtering) and re-estimated a few times from its own result.
Features (brows, lips, eyes) come straight from the landmarks.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import BROWS, EYES, LIPS, Face
from truesitter.core.sitter.region_names import DRAWN, SOLVED, Region
from truesitter.core.sitter.segmentation.colour_models import log_likelihood
from truesitter.core.sitter.segmentation.faceless import RIGHT_WITHOUT_FACE, figure_rows
from truesitter.core.sitter.segmentation.first_guess import FirstGuess
from truesitter.core.sitter.segmentation.posterior import Evidence, drop_islands, likeliest
from truesitter.core.sitter.segmentation.region_beliefs import add_nearness, place_beliefs
from truesitter.core.sitter.segmentation.region_borders import refine_borders
from truesitter.core.sitter.segmentation.scribbles import ScribbleSeeds, hear_strokes
from truesitter.core.sitter.segmentation.tuning import GAP, LEAST_ROUND, LIKE, ROUNDS
from truesitter.core.types import Floats, Ints, Labels, Mask, Shape


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
    height = shape[0]
    canvas = np.full(shape, 255, np.uint8)
    for scribble in scribbles:
        points = np.round(in_pixels(scribble.points, shape)).astype(np.int32)
        thickness = max(1, round(scribble.width * height))
        code = 255 if scribble.region is None else int(scribble.region)
        cv2.polylines(canvas, [points.reshape(-1, 1, 2)], False, code, thickness)
        if scribble.region in DRAWN and _closes(points, thickness):
            cv2.fillPoly(canvas, [points.reshape(-1, 1, 2)], code)
        if len(points) == 1:
            cv2.circle(canvas, points[0].tolist(), thickness // 2, code, -1)
    return canvas


def _closes(points: Ints, thickness: int) -> bool:
    """True for a stroke that comes back to where it began."""
    if len(points) < LEAST_ROUND:
        return False
    length = float(np.hypot(*np.diff(points, axis=0).T).sum())
    gap = float(np.hypot(*(points[-1] - points[0])))
    return gap <= max(2.0 * thickness, GAP * length)


def solve_regions(guess: FirstGuess, size: Shape, scribbles: tuple[Scribble, ...] = ()) -> Regions:
    """Split a picture into regions.

    Parameters
    ----------
    guess
        Of the picture.
    size
        (H, W) of the picture.
    scribbles
        The painter's corrections; a later one wins where they cross.

    Returns
    -------
    Regions
        At that size. Without a face, a colour of skin and scribbles the sitter
        comes as one garment region: nothing tells skin from cloth.
    """
    height, width = size
    looks, face = guess.looks, guess.detection.face
    drawn = rasterise(scribbles, guess.seeds.shape)
    marked = np.where(np.isin(drawn, [int(r) for r in SOLVED]), drawn, 255).astype(np.uint8)
    person = _person(guess.person, drawn)
    seeds, beliefs = guess.seeds.copy(), {r: b.copy() for r, b in guess.beliefs.items()}
    told = ScribbleSeeds({}, np.zeros(drawn.shape, bool))
    posterior = guess.posterior
    if face is not None:
        told = hear_strokes(beliefs, seeds, looks, marked)
    elif (marked != 255).any() or posterior is None:
        posterior = None
        _drawn_without_face(beliefs, seeds, marked, person, looks.features)
        if not np.isin(seeds, (Region.SKIN, Region.HAIR, Region.GARMENT)).any():
            seeds[person > 0.85] = Region.GARMENT

    evidence = Evidence(looks, person, beliefs, told.looks)
    if posterior is None:
        posterior = evidence.posteriors(seeds)
    for _ in range(ROUNDS - 1):
        best, top = likeliest(enumerate(posterior))
        again = np.where((top > 0.9) & ~told.heard, np.array(SOLVED, np.uint8)[best], 255)
        posterior = evidence.posteriors(np.where(seeds != 255, seeds, again).astype(np.uint8))
    # Hair grows from the head: from above the mouth, or the shoulders where no face is seen.
    lowest = float(figure_rows(person > 0.5)[1]) if face is None else face.mouth_row * drawn.shape[0]
    drop_islands(posterior, marked, lowest)
    for i, region in enumerate(SOLVED):
        posterior[:, marked == region] = 0
        posterior[i, marked == region] = 1

    fine, top = evidence.enlarge(posterior)
    sitter = fine != Region.BACKGROUND
    if face is None:
        # Colour alone is surer of itself than it is right.
        for region, most in RIGHT_WITHOUT_FACE.items():
            if not (marked == region).any():
                top = np.where(fine == region, np.minimum(top, most), top)
    sure = {r.name.lower(): float(top[fine == r].mean()) for r in SOLVED if (fine == r).any()}
    _draw_features(fine, face)
    fine = refine_borders(fine, looks.fine, rasterise(scribbles, fine.shape) != 255)
    labels = cv2.resize(fine, (width, height), interpolation=cv2.INTER_NEAREST)
    drawn_full = rasterise(scribbles, (height, width))
    fixed = np.isin(drawn_full, (Region.BROWS, Region.LIPS, Region.EYES, *DRAWN))
    labels[fixed] = drawn_full[fixed]
    return Regions(
        labels=labels,
        sureness=float(top[sitter].mean()) if sitter.any() else 0.0,
        sure=sure,
    )


def _drawn_without_face(
    beliefs: dict[Region, Floats], seeds: Labels, marked: Labels, person: Floats, features: Floats
) -> None:
    """Of what was drawn the strokes say everything, of the rest the guess still does; in place."""
    seeds[seeds == Region.BACKGROUND] = 255
    for region in (Region.SKIN, Region.HAIR, Region.GARMENT):
        hit = marked == region
        if hit.any():
            like = log_likelihood(features[hit], features.reshape(-1, features.shape[2])).reshape(hit.shape)
            seeds[(seeds == region) | (like >= np.quantile(like[hit], LIKE))] = 255
            beliefs[region] = place_beliefs(None, marked.shape)[region]
    seeds[person < 0.1] = Region.BACKGROUND
    add_nearness(beliefs, marked)
    seeds[marked != 255] = marked[marked != 255]


def _person(person: Floats, drawn: Labels) -> Floats:
    """Likelihood of being the sitter, with the painter's word for and against it nearby."""
    for hit, sign in ((drawn == Region.BACKGROUND, -1), ((drawn != 255) & (drawn != Region.BACKGROUND), 1)):
        if hit.any():
            reach = cv2.GaussianBlur(hit.astype(np.float32), (0, 0), 0.03 * drawn.shape[0])
            person = np.clip(person + sign * 1.5 * reach, 0, 1)
    return person


def _draw_features(labels: Labels, face: Face | None) -> None:
    """Lay lips, eyes and brows over the solved regions, in place."""
    if face is None:
        return
    shape = labels.shape[:2]
    covered = labels == Region.FACIAL_HAIR
    lips = face.outline_mask(LIPS, shape)
    labels[lips & ~covered] = Region.LIPS
    for brow in BROWS:
        mask = face.outline_mask(brow, shape, 1.05)
        labels[mask & (labels == Region.SKIN)] = Region.BROWS
    for eye in EYES:
        labels[face.outline_mask(eye, shape)] = Region.EYES
