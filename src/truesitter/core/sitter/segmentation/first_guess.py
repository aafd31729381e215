"""What is guessed of a picture's regions before any stroke: the same however often they are solved."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

import cv2
import numpy as np

from truesitter.core.sitter.landmarks import Detection
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.body_skin import body_skin
from truesitter.core.sitter.segmentation.faceless import seeds_without_face
from truesitter.core.sitter.segmentation.grey_looks import grey_looks, without_colour
from truesitter.core.sitter.segmentation.in_front import in_front
from truesitter.core.sitter.segmentation.posterior import Evidence, Looks
from truesitter.core.sitter.segmentation.region_beliefs import place_beliefs
from truesitter.core.sitter.segmentation.seeds import first_seeds
from truesitter.core.sitter.segmentation.tuning import NOT_CLOTH, TEXTURE
from truesitter.core.types import Floats, Labels, Mask


def _overrule(beliefs: dict[Region, Floats], bare: Mask) -> None:
    """What is known of place says little where the skin of the face goes on below the neck; in place."""
    beliefs[Region.SKIN][bare] = 0
    for region in (Region.GARMENT, Region.HAIR):
        beliefs[region][bare] -= NOT_CLOTH


@dataclass(frozen=True)
class FirstGuess:
    """Where a picture's regions may be, by the face and the person found in it.

    Attributes
    ----------
    looks, detection
        Of the picture.
    person
        (h, w) likelihood of being the sitter, 0–1, at the working size.
    seeds
        (h, w) uint8 of `Region`: almost certain pixels, 255 elsewhere.
    beliefs
        Log beliefs about place, (h, w) for each of `SOLVED`.
    posterior
        (5, h, w) likelihood of each of `SOLVED` by these alone; None where neither a face nor a colour of
        skin is found, when nothing is known before the first stroke.
    colourless
        True where the photograph has no colour to tell regions by, and textures stand in.
    """

    looks: Looks
    detection: Detection
    person: Floats
    seeds: Labels
    beliefs: dict[Region, Floats]
    posterior: Floats | None
    colourless: bool = False

    @classmethod
    def of(cls, looks: Looks, detection: Detection) -> Self:
        """The first guess of a picture from its looks and what was detected in it."""
        shape, face = looks.features.shape[:2], detection.face
        person = cv2.resize(detection.person, shape[::-1], interpolation=cv2.INTER_LINEAR)
        colourless = face is not None and without_colour(looks.fine, person)
        texture = looks.features[..., TEXTURE]
        if face is not None and colourless:
            looks = grey_looks(looks, face)
        told = None if face is not None else seeds_without_face(looks, person)
        seeds, beliefs = told or (first_seeds(looks.features, person, face), place_beliefs(face, shape))
        if face is not None:
            skin = seeds == Region.SKIN
            bare = body_skin(
                looks.fine, texture, person, face, skin, looks.features[..., 1] if colourless else None
            )
            if bare is not None:
                seeds = first_seeds(looks.features, person, face, bare)
                _overrule(beliefs, bare)
            if not colourless:
                held = in_front(looks.fine, looks.features, person, face, seeds)
                seeds[held] = Region.GARMENT
                beliefs[Region.GARMENT][held] = 0
                beliefs[Region.SKIN][held] -= NOT_CLOTH
        if (seeds == Region.FACIAL_HAIR).any():
            # What grows round the mouth of a bearded sitter is beard, not hair of the head.
            beliefs[Region.HAIR] -= np.where(beliefs[Region.FACIAL_HAIR] > -2, 6, 0).astype(np.float32)
        nothing = face is None and told is None
        alone = None if nothing else Evidence(looks, person, beliefs, {}).posteriors(seeds)
        return cls(looks, detection, person, seeds, beliefs, alone, colourless)
