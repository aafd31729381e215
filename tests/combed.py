"""How well the hair of a made sitter is combed: axis and sense against its true strands."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from tests.conftest import jpeg, truth
from tests.restaged import restaged
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study

SCALP, BROWS, BEARD = 2, 3, 4
"""Numbers of the true labels."""


@dataclass(frozen=True)
class Combed:
    """Errors where both the truth and the study see hair.

    Attributes
    ----------
    off
        (h, w) degrees between the true axis and the one found, 0–90.
    right
        (h, w) the root is at the right end.
    scored, outside
        (h, w) where both see hair, and that without a knot, whose sense is undecided.
    labels
        (h, w) true labels.
    """

    off: np.ndarray
    right: np.ndarray
    scored: np.ndarray
    outside: np.ndarray
    labels: np.ndarray

    def axis(self, at: float = 50) -> float:
        """A percentile of the error of the axis, in degrees."""
        return float(np.percentile(self.off[self.scored], at))

    def sense(self, *labels: int) -> float:
        """Share of some hair whose root is found; 1 where there is none to speak of."""
        here = self.outside & np.isin(self.labels, labels)
        return float(self.right[here].mean()) if here.sum() > 200 else 1.0


def combed(name: str, study: Study, mirrored: bool = False) -> Combed:
    """Score the hair of a study of a made sitter framed whole."""
    mask, undirected, directed = truth(name).smoothed_direction()
    labels = truth(name).labels
    if mirrored:
        mask, labels = mask[:, ::-1], labels[:, ::-1]
        undirected, directed = np.pi - undirected[:, ::-1], np.pi - directed[:, ::-1]
    sense = study.hair.sense()
    size = (mask.shape[1], mask.shape[0])
    big = cv2.resize(sense.directed, size)
    angle = np.arctan2(big[..., 1], big[..., 0])
    off = np.degrees(np.abs(np.angle(np.exp(2j * (angle - undirected))))) / 2
    scored = mask & (np.hypot(big[..., 0], big[..., 1]) > 0.1)
    hair = study.sitter.hair_mask().astype(np.uint8)
    scored &= cv2.resize(hair, size, interpolation=cv2.INTER_NEAREST) > 0
    outside = scored
    if sense.knot is not None:
        outside = scored & (
            cv2.resize(sense.knot.mask.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST) == 0
        )
    return Combed(off, np.cos(angle - directed) > 0, scored, outside, labels)


def mirrored_study(name: str) -> Study:
    """A made sitter in a mirror."""
    picture = cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_COLOR)[:, ::-1, ::-1]
    return Study.of_bytes(jpeg(np.ascontiguousarray(picture)), StudySettings())


def study_in_a_room(name: str, seed: int) -> tuple[Study, bool]:
    """A made sitter in a room drawn by lot, and whether it is mirrored there."""
    picture, labels = restaged(name, seed)
    true = cv2.resize(truth(name).labels, labels.shape[::-1], interpolation=cv2.INTER_NEAREST)
    mirrored = bool((true[:, ::-1] == labels).mean() > (true == labels).mean())
    return Study.of_bytes(jpeg(picture), StudySettings()), mirrored
