"""A simulated studio camera: photographs a painting on its easel by hand and by lamp light.

Nothing of it is known to the rest of the application but the picture: where the corners truly are, the
lamp's colour and fall-off, the bow of the lens and the glare are told only to whoever holds the camera.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import linear_to_srgb, picture_to_linear
from truesitter.core.types import Bytes, Doubles, Floats

LONG_SIDE = 2000
"""Of a photograph, in pixels, unless asked otherwise."""

WHITE_CARD = 0.9
"""Part of the light that the card beside the painting reflects."""


@dataclass(frozen=True)
class Studio:
    """Where the camera stands and what light there is.

    Attributes
    ----------
    tilt, swing, roll
        Degrees by which the painting is turned against the camera about its horizontal, vertical and
        its own axis.
    distance
        Of the camera, in long sides of the painting.
    fills
        Part of the photograph's shorter measure that the painting takes.
    radial_distortion
        Radial bow of the lens: the corners of the photograph are moved inwards by so much of their distance
        from the middle; negative outwards.
    lamp
        Linear RGB of the light in the middle of the painting; white and fully exposed is 1, 1, 1.
    fall
        Direction in degrees, counter-clockwise from rightwards, in which the light falls off.
    fall_off
        Part of the light lost from one end of the painting to the other.
    glare
        Mirrored light at its strongest, in parts of white; 0 for none.
    glare_at
        Where, in fractions of the painting.
    blur_px, grain
        Sigma of the focus in pixels of the photograph, and of the noise in 8-bit steps.
    texture
        Sigma of the light and dark that the brush's relief makes, in parts of the light.
    card
        True when a white card leans beside the painting.
    seed
        Of noise, wall and relief.
    """

    tilt: float = 0.0
    swing: float = 0.0
    roll: float = 0.0
    distance: float = 2.5
    fills: float = 0.75
    radial_distortion: float = 0.0
    lamp: tuple[float, float, float] = (0.8, 0.8, 0.8)
    fall: float = 90.0
    fall_off: float = 0.0
    glare: float = 0.0
    glare_at: tuple[float, float] = (0.5, 0.2)
    blur_px: float = 0.6
    grain: float = 1.0
    texture: float = 0.01
    card: bool = False
    seed: int = 0

    @classmethod
    def by_lot(cls, seed: int) -> Studio:
        """A studio drawn by lot, as untidy as they are."""
        rng = np.random.default_rng(seed)
        warm = rng.uniform(-0.12, 0.25)
        level = rng.uniform(0.55, 0.85)
        return cls(
            tilt=float(rng.uniform(-9, 9)), swing=float(rng.uniform(-9, 9)), roll=float(rng.uniform(-3, 3)),
            distance=float(rng.uniform(1.8, 3.5)), fills=float(rng.uniform(0.62, 0.85)),
            radial_distortion=float(rng.uniform(-0.012, 0.02)),
            lamp=(level * (1 + 0.5 * warm), level, level * (1 - warm)),
            fall=float(rng.uniform(0, 360)), fall_off=float(rng.uniform(0.05, 0.35)),
            glare=float(rng.choice([0.0, rng.uniform(0.5, 1.2)])),
            glare_at=(float(rng.uniform(0.1, 0.9)), float(rng.uniform(0.05, 0.9))),
            blur_px=float(rng.uniform(0.5, 1.4)), grain=float(rng.uniform(0.6, 2.2)),
            texture=float(rng.uniform(0.005, 0.03)), card=bool(rng.random() < 0.5), seed=seed,
        )  # fmt: skip


@dataclass(frozen=True)
class Shot:
    """A photograph and what only the camera knows.

    Attributes
    ----------
    picture
        (H, W, 3) sRGB.
    corners
        (4, 2) where the painting's corners are, in fractions of the photograph: top left and on clockwise.
    card
        The white card's corners (4, 2) in fractions; None without one.
    matrix
        (3, 3) from fractions of the painting to pixels of the photograph, before the lens bows it.
    studio
        Where it was taken.
    """

    picture: Bytes
    corners: Doubles
    card: Doubles | None
    matrix: Doubles
    studio: Studio

    def seen_at(self, spots: Doubles) -> Doubles:
        """Where spots (n, 2) of the painting, in fractions, truly are in the photograph, in pixels."""
        return bowed(_project(self.matrix, spots), self.picture.shape, self.studio.radial_distortion)

    def light_at(self, spots: Doubles) -> Doubles:
        """Linear RGB (n, 3) of the light on spots of the painting, without glare."""
        fall = _fall_off(self.studio, spots[:, 0], spots[:, 1])
        return np.asarray(np.array(self.studio.lamp) * fall[:, None])


def _project(matrix: Doubles, spots: Doubles) -> Doubles:
    flat = np.c_[spots, np.ones(len(spots))] @ matrix.T
    return np.asarray(flat[:, :2] / flat[:, 2:])


def bowed(points: Doubles, shape: tuple[int, ...], radial_distortion: float) -> Doubles:
    """Points (n, 2) in pixels as a lens with some bow moves them."""
    middle = np.array((shape[1], shape[0])) / 2
    away = points - middle
    r2 = (away**2).sum(axis=-1, keepdims=True) / (middle**2).sum()
    return np.asarray(middle + away * (1 - radial_distortion * r2))


def _fall_off(studio: Studio, x: Doubles, y: Doubles) -> Doubles:
    """Part of the light at spots of the painting: an inverse-square lamp, 1 in the middle."""
    along = (x - 0.5) * np.cos(np.radians(studio.fall)) - (y - 0.5) * np.sin(np.radians(studio.fall))
    # A lamp at a distance at which it loses so much from one end to the other.
    keep = 1 - min(0.8, studio.fall_off)
    far = (1 + np.sqrt(keep)) / (2 * (1 - np.sqrt(keep))) if studio.fall_off > 0 else 1e6
    return np.asarray((far / (far + along)) ** 2)


def photograph(painting: Bytes, studio: Studio, long_side: int = LONG_SIDE) -> Shot:
    """Take a photograph of a painting.

    Parameters
    ----------
    painting
        (h, w, 3) sRGB.
    long_side
        Of the photograph in pixels.
    """
    height, width = painting.shape[:2]
    out_h, out_w = (long_side, round(long_side * 0.75)) if height >= width else (
        round(long_side * 0.75), long_side)  # fmt: skip
    rng = np.random.default_rng(studio.seed)
    matrix = _view(studio, width / height, (out_h, out_w))
    light = _on_painting(painting, studio, rng)
    where = _ray_map(matrix, studio.radial_distortion, (out_h, out_w))
    scene = _wall(studio, (out_h, out_w), rng)
    seen, inside = _look(light, where)
    edge = inside[..., None]
    picture = np.asarray(scene * (1 - edge) + seen * edge, dtype=np.float32)
    card = None
    if studio.card:
        card = _put_card(picture, matrix, studio, (out_h, out_w))
    picture = cv2.GaussianBlur(picture, (0, 0), studio.blur_px)
    encoded = linear_to_srgb(np.clip(picture, 0, 1)) * 255 + rng.normal(0, studio.grain, picture.shape)
    corners = bowed(_project(matrix, _UNIT), (out_h, out_w), studio.radial_distortion) / (out_w, out_h)
    return Shot(np.clip(np.round(encoded), 0, 255).astype(np.uint8), corners, card, matrix, studio)


_UNIT = np.array([(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)])


def _view(studio: Studio, aspect: float, shape: tuple[int, int]) -> Doubles:
    """Homography (3, 3) from fractions of the painting to pixels of the photograph."""
    half = np.array((aspect, 1.0)) / (2 * max(aspect, 1.0))
    plane = np.c_[(_UNIT - 0.5) * 2 * half, np.zeros(4)]
    a, b, c = np.radians((studio.tilt, studio.swing, studio.roll))
    tilt = np.array([[1, 0, 0], [0, np.cos(a), -np.sin(a)], [0, np.sin(a), np.cos(a)]])
    swing = np.array([[np.cos(b), 0, np.sin(b)], [0, 1, 0], [-np.sin(b), 0, np.cos(b)]])
    roll = np.array([[np.cos(c), -np.sin(c), 0], [np.sin(c), np.cos(c), 0], [0, 0, 1]])
    turned = plane @ (roll @ swing @ tilt).T
    flat = turned[:, :2] / (studio.distance + turned[:, 2:])
    height, width = shape
    spread = flat.max(axis=0) - flat.min(axis=0)
    scale = studio.fills * min(width / spread[0], height / spread[1])
    rng = np.random.default_rng(studio.seed + 1)
    room = (np.array((width, height)) - spread * scale) / 2
    middle = np.array((width, height)) / 2 + rng.uniform(-0.5, 0.5, 2) * room
    pixels = (flat - (flat.max(axis=0) + flat.min(axis=0)) / 2) * scale + middle
    return cv2.getPerspectiveTransform(_UNIT.astype(np.float32), pixels.astype(np.float32))


def _on_painting(painting: Bytes, studio: Studio, rng: np.random.Generator) -> Floats:
    """Light (h, w, 3) that comes off the painting: its paint, the relief of the strokes, lamp and glare."""
    light = picture_to_linear(painting).astype(np.float32)
    height, width = light.shape[:2]
    y, x = (np.arange(n) + 0.5 for n in (height, width))
    x, y = np.meshgrid(x / width, y / height)
    if studio.texture > 0:
        fine = rng.normal(0, 1, (height, width)).astype(np.float32)
        # Strokes run along some direction that changes slowly.
        strokes = cv2.GaussianBlur(fine, (0, 0), sigmaX=4.0, sigmaY=0.9)
        across = cv2.GaussianBlur(fine[::-1], (0, 0), sigmaX=0.9, sigmaY=4.0)
        turn = cv2.GaussianBlur(rng.normal(0, 1, (height, width)).astype(np.float32), (0, 0), 40)
        relief = np.where(turn > 0, strokes, across)
        light = light * (1 + studio.texture * relief / relief.std())[..., None]
    light = light * (np.array(studio.lamp) * _fall_off(studio, x, y)[..., None])
    if studio.glare > 0:
        aspect = height / width
        away = np.hypot((x - studio.glare_at[0]) / 0.07, (y - studio.glare_at[1]) * aspect / 0.05)
        light = light + np.array(studio.lamp) * (studio.glare * np.exp(-(away**2) / 2))[..., None]
    return np.asarray(light, dtype=np.float32)


def _ray_map(matrix: Doubles, radial_distortion: float, shape: tuple[int, int]) -> tuple[Floats, Floats]:
    """Spot of the painting, in fractions, that each pixel of the photograph looks at."""
    height, width = shape
    x, y = np.meshgrid(np.arange(width) + 0.5, np.arange(height) + 0.5)
    middle = np.array((width, height)) / 2
    away = np.stack([x, y], axis=-1) - middle
    straight = away.copy()
    for _ in range(4):
        r2 = (straight**2).sum(axis=-1, keepdims=True) / (middle**2).sum()
        straight = away / (1 - radial_distortion * r2)
    points = (straight + middle).reshape(-1, 2)
    spots = _project(np.linalg.inv(matrix), points).reshape(height, width, 2)
    return spots[..., 0].astype(np.float32), spots[..., 1].astype(np.float32)


def _look(light: Floats, where: tuple[Floats, Floats]) -> tuple[Floats, Floats]:
    """What is seen at each ray, and how much of the pixel lies on the painting."""
    height, width = light.shape[:2]
    x, y = where[0] * width, where[1] * height
    # Shrunk first by area when the photograph is smaller than the painting.
    shrink = abs(float(x[x.shape[0] // 2, x.shape[1] // 2] - x[x.shape[0] // 2, x.shape[1] // 2 - 1]))
    if shrink > 1.3:
        light = cv2.GaussianBlur(light, (0, 0), shrink / 2.5)
    seen = cv2.remap(light, x - 0.5, y - 0.5, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    rim = np.minimum(np.minimum(x, width - x), np.minimum(y, height - y)) / max(shrink, 1e-6)
    return np.asarray(seen), np.clip(rim + 0.5, 0, 1).astype(np.float32)


def _wall(studio: Studio, shape: tuple[int, int], rng: np.random.Generator) -> Floats:
    """A plastered wall and the posts of an easel behind the painting, lit by the same lamp."""
    height, width = shape
    own = np.array((0.30, 0.29, 0.27)) * rng.uniform(0.4, 1.9)
    plaster = cv2.GaussianBlur(rng.normal(0, 1, shape).astype(np.float32), (0, 0), width / 150)
    wall = own * (1 + 0.08 * (plaster / plaster.std()))[..., None]
    for at in (0.2, 0.5, 0.8):
        x = int((at + rng.uniform(-0.04, 0.04)) * width)
        wood = np.array((0.24, 0.15, 0.08)) * rng.uniform(0.5, 1.3)
        wall[:, x : x + max(4, width // 45)] = wood
    y, x = np.mgrid[0:height, 0:width]
    light = np.array(studio.lamp) * _fall_off(studio, x / width, y / height)[..., None]
    return np.asarray(wall * light, dtype=np.float32)


def _put_card(picture: Floats, matrix: Doubles, studio: Studio, shape: tuple[int, int]) -> Doubles | None:
    """Lean a white card in the painting's plane beside it, on the side with more room; its corners."""
    for spots in (
        np.array([(1.02, 0.72), (1.10, 0.72), (1.10, 0.82), (1.02, 0.82)]),
        np.array([(-0.10, 0.72), (-0.02, 0.72), (-0.02, 0.82), (-0.10, 0.82)]),
        np.array([(0.4, 1.02), (0.55, 1.02), (0.55, 1.08), (0.4, 1.08)]),
    ):
        at = bowed(_project(matrix, spots), shape, studio.radial_distortion)
        if (at > 4).all() and (at < np.array((shape[1], shape[0])) - 4).all():
            mask = np.zeros(shape, np.uint8)
            cv2.fillConvexPoly(mask, np.round(at).astype(np.int32), 1)
            middle = spots.mean(axis=0)
            light = np.array(studio.lamp) * _fall_off(studio, *(np.array([m]) for m in middle))[0]
            picture[mask > 0] = WHITE_CARD * light
            return np.asarray(at / (shape[1], shape[0]))
    return None
