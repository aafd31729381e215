"""The sitter in the picture: face, person, regions."""

from __future__ import annotations

from collections.abc import Hashable

import numpy as np

from truesitter.core.sitter import places
from truesitter.core.sitter.borders import as_masses
from truesitter.core.sitter.first_guess import FirstGuess
from truesitter.core.sitter.landmarks import Detection, detect
from truesitter.core.sitter.posterior import Looks
from truesitter.core.sitter.proportions import Proportion, face_proportions
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.regions import Regions, solve_regions
from truesitter.core.study.part import Source, reduced_labels, reduced_size
from truesitter.core.study.picture import PictureStage
from truesitter.core.types import Mask
from truesitter.core.values.outlines import Outline, trace_outlines

OUTLINE_LONG_SIDE = 800
_ROUNDED = 2.0
"""Outlines are drawn round masses: this spread in their pixels, 1 mm on a canvas of 400 mm."""


class SitterStage:
    """What was found of the sitter, with the painter's corrections."""

    def __init__(self, source: Source, picture: PictureStage) -> None:
        self._source, self._picture = source, picture
        self.settings = source.settings.regions

    @property
    def key(self) -> Hashable:
        """Changes when the regions may."""
        return (self._picture.key, self.settings)

    def detection(self) -> Detection:
        """Face landmarks and person mask."""
        return self._source.remember("detection", self._picture.key, lambda: detect(self._picture.framed()))

    def first_guess(self) -> FirstGuess:
        """What is guessed of the regions before any stroke."""
        return self._source.remember(
            "first guess",
            self._picture.key,
            lambda: FirstGuess.of(Looks.of(self._picture.framed()), self.detection()),
        )

    def regions(self) -> Regions:
        """Regions, with the painter's scribbles."""
        scribbles = tuple(s.scribble() for s in self.settings.scribbles)
        return self._source.remember(
            "regions",
            self.key,
            lambda: solve_regions(self.first_guess(), self._picture.framed().shape[:2], scribbles),
        )

    def features(self) -> Mask | None:
        """Eyes, nostrils and mouth, where smaller shapes are kept; None without a face."""
        landmarks = self.detection().landmarks
        if landmarks is None:
            return None
        return places.feature_mask(landmarks, self._picture.framed().shape[:2])

    def head_top(self) -> tuple[float, float] | None:
        """Top of the head with its hair, (x, y) in fractions; None without a face."""
        landmarks = self.detection().landmarks
        if landmarks is None:
            return None
        head = self.regions().mask(Region.HAIR, Region.SKIN)
        height, width = head.shape
        left, right = sorted(float(landmarks[i, 0]) for i in (127, 356))
        first = int(np.clip(left * width, 0, width - 1))
        inner = head[:, first : int(np.clip(right * width, first + 1, width))]
        rows = np.flatnonzero(inner.mean(axis=1) > 0.1)
        if not len(rows):
            return None
        return (left + right) / 2, float(rows[0]) / height

    def hairline(self) -> tuple[float, float] | None:
        """Where the hair begins straight above the brows, (x, y) in fractions; None when it does not."""
        landmarks = self.detection().landmarks
        if landmarks is None:
            return None
        labels = self.regions().labels
        height, width = labels.shape
        brow, chin = landmarks[9, :2], landmarks[152, :2]
        for step in np.linspace(0, 0.6, 300):
            x, y = brow + (brow - chin) * step
            column, row = int(x * width), int(y * height)
            if not (0 <= column < width and 0 <= row < height):
                return None
            if labels[row, column] == Region.HAIR:
                return float(x), float(y)
        return None

    def proportions(self) -> tuple[Proportion, ...]:
        """The face's proportions beside the usual ones; none without a face."""
        landmarks = self.detection().landmarks
        if landmarks is None:
            return ()
        height, width = self._picture.framed().shape[:2]
        return face_proportions(landmarks, height / width, self.head_top(), self.hairline())

    def outlines(self) -> tuple[Outline, ...]:
        """Outlines of the regions, in pixels of a map of `OUTLINE_LONG_SIDE`."""
        return self._source.remember("region outlines", self.key, self._outlines)

    def map_width(self) -> int:
        """Width in pixels of the map the outlines are drawn on."""
        return reduced_size(self._picture.framed().shape, OUTLINE_LONG_SIDE)[0]

    def _outlines(self) -> tuple[Outline, ...]:
        masses = as_masses(reduced_labels(self.regions().labels, OUTLINE_LONG_SIDE), _ROUNDED)
        return trace_outlines(masses)

    def region_at(self, x: float, y: float) -> Region:
        """Region at a spot, in fractions of the framed picture."""
        labels = self.regions().labels
        height, width = labels.shape
        return Region(int(labels[min(height - 1, int(y * height)), min(width - 1, int(x * width))]))

    def place_at(self, x: float, y: float) -> str:
        """A spot in the painter's words: a place of the face, else its region."""
        region = self.region_at(x, y)
        if region in (Region.BACKGROUND, Region.GARMENT, Region.HAIR):
            return region.name.lower()
        height, width = self._picture.framed().shape[:2]
        return places.place_of(x, y, self.detection().landmarks, height / width)

    def hair_mask(self) -> Mask:
        """Hair of the head, facial hair and brows."""
        return self.regions().mask(Region.HAIR, Region.FACIAL_HAIR, Region.BROWS)
