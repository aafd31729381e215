"""Beliefs about where each region lies: from the face, or from nearness to scribbles."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import OVAL, Face
from truesitter.core.sitter.region_names import SOLVED, Region
from truesitter.core.sitter.segmentation.tuning import NEARNESS
from truesitter.core.types import Floats, Labels, Shape


def place_beliefs(face: Face | None, shape: Shape) -> dict[Region, Floats]:
    """Log beliefs about place for each solved region; zero everywhere without a face."""
    height, width = shape
    beliefs = {r: np.zeros(shape, np.float32) for r in SOLVED}
    if face is None:
        beliefs[Region.FACIAL_HAIR] -= 50
        return beliefs
    size = face.height(shape)
    chin_x, chin_y = in_pixels(face.chin, shape)
    top_y = float(face.top[1]) * height
    nose_y = face.nose_base_row * height
    oval = face.outline_mask(OVAL, shape)
    outside = cv2.distanceTransform((~oval).astype(np.uint8), cv2.DIST_L2, 3) / size
    inside = cv2.distanceTransform(oval.astype(np.uint8), cv2.DIST_L2, 3) / size
    y = np.arange(height, dtype=np.float32)[:, None] + np.zeros(shape, np.float32)
    below_chin = (y - chin_y) / size
    below_nose = (y - nose_y) / size
    x = np.arange(width, dtype=np.float32)[None, :] + np.zeros(shape, np.float32)
    aside = np.abs(x - chin_x) / size

    beliefs[Region.GARMENT] = -48 * np.clip(
        0.2 - below_chin - 0.8 * np.clip(aside - 0.35, 0, 0.6), 0, 1
    ) + 1.5 * np.clip(below_chin - 0.5, 0, 1)
    beliefs[Region.HAIR] = -40 * inside - 1.5 * np.clip(outside - 0.5, 0, 2)
    beliefs[Region.HAIR] -= 6 * ((below_nose > 0) & (aside < 0.30) & (outside < 0.45))
    beliefs[Region.SKIN] = -8 * np.clip(outside - 0.06, 0, 0.4) * (below_chin < -0.35)
    beliefs[Region.SKIN] -= 10 * np.clip((top_y - y) / size - 0.12, 0, 1)
    collar = np.clip(below_chin - 0.15, 0, 1) + np.clip(aside - 0.45, 0, 1)
    beliefs[Region.SKIN] -= 7 * collar * (below_chin > 0.05)
    beliefs[Region.HAIR] -= 2.5 * np.clip(below_chin + 0.2, 0, 1) + 3 * np.clip(aside - 0.7, 0, 1)
    near_mouth = (below_nose > -0.04) & (below_chin < 0.55) & (aside < 0.45) & (outside < 0.5)
    near_mouth |= (below_nose > -0.3) & (below_nose < 0.3) & (inside < 0.1) & (outside < 0.1)
    beliefs[Region.FACIAL_HAIR] = np.where(near_mouth, -3 * outside, -50).astype(np.float32)
    return {r: b.astype(np.float32) for r, b in beliefs.items()}


def add_nearness(beliefs: dict[Region, Floats], drawn: Labels) -> None:
    """Without a face, a region is likelier near its own scribbles; in place."""
    for region in SOLVED[1:]:
        hit = drawn == region
        if hit.any():
            away = cv2.distanceTransform((~hit).astype(np.uint8), cv2.DIST_L2, 3)
            beliefs[region] -= NEARNESS * away / drawn.shape[0]
