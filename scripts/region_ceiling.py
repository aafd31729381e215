"""How much of the made sitters' true hair masks any method could find: two ceilings.

First the truth itself, reduced and brought back to its size. Then a random forest (Breiman 2001)
that learns hair from not hair on the truth of the same photograph: the border bands are cut into
tiles like a chessboard, the black ones teach and the white ones are judged, and the other way
round. Outside the bands the truth stands.
"""

from __future__ import annotations

import sys
from pathlib import Path

import cv2
import numpy as np

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.conftest import overlap, truth  # noqa: E402

_BAND, _TILE, _SAMPLE = 30, 60, 40_000
_HAIR, _WALL, _SITTER = 2, (0,), (1, 4, 7)


def reduced(labels: np.ndarray, height: int) -> np.ndarray:
    """The truth by majority at a smaller height, brought back to its size."""
    size = (round(labels.shape[1] * height / labels.shape[0]), height)
    shares = [
        cv2.resize((labels == k).astype(np.float32), size, interpolation=cv2.INTER_AREA) for k in range(8)
    ]
    small = np.argmax(shares, axis=0).astype(np.uint8)
    return cv2.resize(small, labels.shape[::-1], interpolation=cv2.INTER_NEAREST)


def looks(lab: np.ndarray, hair: np.ndarray, other: np.ndarray) -> np.ndarray:
    """What the forest sees of each pixel: its colour beside those of either side, and its surroundings."""

    def usual(mask: np.ndarray) -> np.ndarray:
        core = cv2.erode(mask.astype(np.uint8), np.ones((31, 31))).astype(np.float32)
        weight = cv2.GaussianBlur(core, (0, 0), 40)[..., None] + 1e-6
        return cv2.GaussianBlur(lab * core[..., None], (0, 0), 40) / weight

    inside, outside = usual(hair), usual(other)
    near, round_ = cv2.GaussianBlur(lab, (0, 0), 1), cv2.GaussianBlur(lab, (0, 0), 3)
    spread = np.sqrt(np.maximum(cv2.GaussianBlur(lab * lab, (0, 0), 3) - round_ * round_, 0))
    parts = (lab - outside, lab - inside, near - outside, round_ - outside, round_ - inside, spread)
    return np.dstack([*parts, outside - inside]).astype(np.float32)


def learnt(lab: np.ndarray, labels: np.ndarray) -> np.ndarray:
    """Hair as the forest finds it within the bands, as it truly is elsewhere."""
    hair = labels == _HAIR
    found = hair.copy()
    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * _BAND + 1, 2 * _BAND + 1))
    draw = np.random.default_rng(0)
    for there, elsewhere in ((_WALL, _SITTER), (_SITTER, _WALL)):
        other = np.isin(labels, there)
        away, further = (
            cv2.distanceTransform((~np.isin(labels, which)).astype(np.uint8), cv2.DIST_L2, 5)
            for which in (there, elsewhere)
        )
        near_hair = cv2.dilate(hair.astype(np.uint8), disc) > 0
        band = near_hair & (away < _BAND) & (hair | other) & (away <= further)
        rows, columns = np.nonzero(band)
        seen, is_hair = looks(lab, hair, other)[rows, columns], hair[rows, columns]
        black = (rows // _TILE + columns // _TILE) % 2 == 0
        for taught in (black, ~black):
            sample = draw.permutation(np.flatnonzero(taught))[:_SAMPLE]
            forest = cv2.ml.RTrees_create()
            forest.setMaxDepth(18)
            forest.setMinSampleCount(5)
            forest.setTermCriteria((cv2.TERM_CRITERIA_MAX_ITER + cv2.TERM_CRITERIA_EPS, 60, 0))
            forest.train(seen[sample], cv2.ml.ROW_SAMPLE, is_hair[sample].astype(np.int32))
            judged = forest.predict(seen[~taught])[1].ravel() > 0.5
            found[rows[~taught], columns[~taught]] = judged
    return found


def main() -> None:
    """Print both ceilings for each made sitter."""
    for name in ("maren", "tobias", "ines"):
        labels = truth(name).labels
        picture = cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_COLOR)
        lab = cv2.cvtColor(picture.astype(np.float32) / 255, cv2.COLOR_BGR2LAB)
        at = ", ".join(
            f"{h}: {overlap(reduced(labels, h) == _HAIR, labels == _HAIR):.3f}" for h in (1200, 1600)
        )
        print(
            f"{name}: hair of the truth reduced to a height of {at}; learnt from the truth: "
            f"{overlap(learnt(lab, labels), labels == _HAIR):.3f}"
        )


if __name__ == "__main__":
    main()
