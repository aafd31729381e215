"""The made sitters in other rooms: hair, skin, cloth, wall, light and framing drawn by lot.

The truth keeps its shapes, so what is measured on one of these was not adjusted to its
colours. The sitter is lifted off its wall with the true coverage of hair, recoloured by part
in linear light and laid over a new wall.
"""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np

from tests.conftest import TRUTH, truth
from truesitter.core.colour.spaces import linear_to_srgb, srgb_to_linear

_SKIN_PARTS, _HAIR_PARTS, _CLOTH = (1, 5, 6), (2, 3, 4), 7


@cache
def _lifted(name: str) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """A sitter without its wall: linear sRGB, coverage of the sitter and of its hair, 0–1."""
    picture = cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_COLOR)[..., ::-1]
    light = np.asarray(srgb_to_linear(picture / np.float32(255)), np.float32)
    labels = truth(name).labels
    hair = cv2.imread(str(TRUTH / name / "hair_coverage.png"), cv2.IMREAD_GRAYSCALE) / np.float32(255)
    solid = ((labels != 0) & ~np.isin(labels, _HAIR_PARTS)).astype(np.float32)
    covered = np.maximum(hair, cv2.GaussianBlur(solid, (0, 0), 0.7))
    covered[(labels != 0) & (hair < 0.5)] = 1
    bare = cv2.erode((covered < 0.02).astype(np.uint8), np.ones((9, 9))).astype(np.float32)
    wall = _far_blur(np.dstack([light * bare[..., None], bare]), 60)
    wall = wall[..., :3] / (wall[..., 3:] + 1e-5)
    alone = (light - (1 - covered[..., None]) * wall) / np.maximum(covered[..., None], 0.15)
    return np.clip(alone, 0, 1), covered, hair


def restaged(name: str, seed: int) -> tuple[np.ndarray, np.ndarray]:
    """A sitter in the room of a lot: sRGB picture (h, w, 3) uint8 and its true labels (h, w)."""
    alone, covered, hair = _lifted(name)
    labels = truth(name).labels
    draw = np.random.default_rng([seed, *name.encode()])

    def times(least: float, most: float, tint: float) -> np.ndarray:
        return np.exp(draw.uniform(np.log(least), np.log(most)) + draw.normal(0, tint, 3)).astype(np.float32)

    hair_tone, skin_tone, cloth_tone = times(0.4, 2.5, 0.12), times(0.6, 1.5, 0.06), times(0.3, 2.5, 0.3)
    skin, cloth = (
        cv2.GaussianBlur(np.isin(labels, parts).astype(np.float32), (0, 0), 0.7)[..., None]
        for parts in ((*_SKIN_PARTS, *_HAIR_PARTS), (_CLOTH,))
    )
    body = (1 + skin * (skin_tone - 1)) * (1 - cloth) + cloth * cloth_tone
    sitter = alone * (body * (1 - hair[..., None]) + hair_tone * hair[..., None])
    picture = sitter * covered[..., None] + _wall(draw, labels.shape) * (1 - covered[..., None])
    picture *= times(0.7, 1.3, 0.08)
    picture *= min(1.0, 0.9 / float(np.quantile(picture, 0.999)))
    if draw.random() < 0.5:
        picture, labels = picture[:, ::-1], labels[:, ::-1]
    height = 20 * round(draw.uniform(60, 100))
    size = (height * 4 // 5, height)
    small = cv2.resize(np.asarray(linear_to_srgb(picture), np.float32), size, interpolation=cv2.INTER_AREA)
    grain = draw.normal(0, draw.uniform(0, 3), small.shape)
    shares = [
        cv2.resize((labels == k).astype(np.float32), size, interpolation=cv2.INTER_AREA) for k in range(8)
    ]
    return np.clip(255 * small + grain, 0, 255).astype(np.uint8), np.argmax(shares, axis=0).astype(np.uint8)


def _far_blur(picture: np.ndarray, sigma: float) -> np.ndarray:
    """Gaussian blur over many pixels, counted at a quarter of the size."""
    height, width = picture.shape[:2]
    small = cv2.resize(picture, (width // 4, height // 4), interpolation=cv2.INTER_AREA)
    return np.asarray(cv2.resize(cv2.GaussianBlur(small, (0, 0), sigma / 4), (width, height)))


def _wall(draw: np.random.Generator, shape: tuple[int, ...]) -> np.ndarray:
    """A wall from near black to light, shaded across, plain or mottled; linear sRGB (h, w, 3)."""
    height, width = shape
    colour = np.exp(draw.uniform(np.log(0.02), np.log(0.6)) + draw.normal(0, 0.15, 3))
    across, down = (np.linspace(-1, 1, n, dtype=np.float32) for n in (width, height))
    shade = draw.uniform(-0.4, 0.4) * across + draw.uniform(-0.4, 0.4) * down[:, None]
    mottle = _far_blur(draw.standard_normal((height, width), np.float32), draw.uniform(4, 60))
    strength = draw.choice([0, 0.05, 0.15, 0.3])
    return np.asarray(colour * np.exp(shade + strength * mottle / mottle.std())[..., None], np.float32)
