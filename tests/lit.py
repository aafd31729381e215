"""What is truly lit on the made sitters, and the same sitters lit anew from a side of our choice."""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache

import cv2
import numpy as np

from tests.conftest import TRUTH, study_of, truth
from truesitter.core.colour.spaces import linear_to_srgb, picture_to_linear, srgb_to_linear

HEIGHT = 800
_SKIN, _FACE = 1, (1, 3, 5, 6)
_EVEN = 0.12


@dataclass(frozen=True)
class Lit:
    """The true light of a sitter, 800 pixels high.

    Attributes
    ----------
    key
        Unit vector towards the key light: x right, y up, z towards the viewer.
    normals
        (h, w, 3) of the skin.
    direct, shine
        (h, w) direct diffuse light before the skin's colour, and mirrored light.
    skin
        (h, w)
    """

    key: np.ndarray
    normals: np.ndarray
    direct: np.ndarray
    shine: np.ndarray
    skin: np.ndarray

    @property
    def shadow(self) -> np.ndarray:
        """Skin whose direct light is below a fifth of its 95 %."""
        return self.skin & (self.direct < 0.2 * np.quantile(self.direct[self.skin], 0.95))


@cache
def lit(name: str) -> Lit:
    folder = TRUTH / name
    meta = json.loads((folder / "meta.json").read_text())
    scales = meta["passes"]["scales"]

    def light(file: str) -> np.ndarray:
        picture = cv2.imread(str(folder / f"{file}.png")) / np.float32(255)
        return np.asarray(srgb_to_linear(picture)).mean(axis=2) / scales[file]

    normals = cv2.imread(str(folder / "normals.png"))[..., ::-1] / np.float32(255) * 2 - 1
    labels = truth(name).labels
    skin = cv2.resize(labels, normals.shape[1::-1], interpolation=cv2.INTER_NEAREST) == _SKIN
    key = np.array(meta["lights"]["key"]["direction_camera"])
    return Lit(key / np.linalg.norm(key), normals, light("diffuse_light"), light("specular"), skin)


def at_height(map_: np.ndarray, height: int = HEIGHT) -> np.ndarray:
    """A map of measures or labels at the height of the truth."""
    size = round(map_.shape[1] * height / map_.shape[0]), height
    if map_.dtype == bool:
        return cv2.resize(map_.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST) > 0
    way = cv2.INTER_NEAREST if map_.dtype == np.uint8 else cv2.INTER_AREA
    return cv2.resize(map_, size, interpolation=way)


def degrees(a: np.ndarray, b: np.ndarray) -> float:
    """Angle between two vectors."""
    a, b = (np.asarray(v) / np.linalg.norm(v) for v in (a, b))
    return float(np.degrees(np.arccos(np.clip(a @ b, -1, 1))))


def flashed(name: str, sheen: float, exponent: float = 10) -> np.ndarray:
    """A sitter by a flash beside the lens, on skin with a broad sheen; sRGB, 800 high.

    Phong's lobe (B. T. Phong, CACM 18, 1975) about the view, so strong in parts of the skin's own light.
    """
    linear = picture_to_linear(relit(name, (0, 0.1, 1)))
    there = lit(name)
    known = (np.linalg.norm(there.normals, axis=2) > 0.5) & np.isin(at_height(truth(name).labels), (1, 5))
    facing = there.normals[..., 2] / np.maximum(np.linalg.norm(there.normals, axis=2), 1e-6)
    own = np.quantile(linear[there.skin].mean(axis=1), 0.9)
    lobe = np.where(known, sheen * own * np.clip(facing, 0, 1) ** exponent, 0).astype(np.float32)
    lobe = cv2.GaussianBlur(lobe, (0, 0), 1)
    return np.round(linear_to_srgb(np.clip(linear + lobe[..., None], 0, 1)) * 255).astype(np.uint8)


def relit(
    name: str,
    key: tuple[float, float, float],
    second: tuple[tuple[float, float, float], float] | None = None,
) -> np.ndarray:
    """A sitter whose face is matt skin of its own detail under another light; sRGB, 800 high.

    True normals, spread to the features; Lambert's law (1760), an even rest of 0.12, no cast shadows.
    """
    there = lit(name)
    linear = at_height(picture_to_linear(study_of(name).picture.framed()))
    labels = at_height(truth(name).labels)
    known = ((np.linalg.norm(there.normals, axis=2) > 0.5) & np.isin(labels, (1, 5))).astype(np.float32)

    def spread(map_: np.ndarray, sigma: float) -> np.ndarray:
        weight = np.maximum(cv2.GaussianBlur(known, (0, 0), sigma), 1e-4)
        blurred = cv2.GaussianBlur((map_.T * known.T).T.astype(np.float32), (0, 0), sigma)
        return (blurred.T / weight.T).T

    normals = np.where(known[..., None] > 0, there.normals, spread(there.normals, 10))
    normals /= np.linalg.norm(normals, axis=2, keepdims=True) + 1e-6
    way = np.array(key) / np.linalg.norm(key)
    shade = np.clip(normals @ way, 0, None) + _EVEN
    if second is not None:
        other = np.array(second[0]) / np.linalg.norm(second[0])
        shade = shade + second[1] * np.clip(normals @ other, 0, None)
    full = np.quantile(there.direct[known > 0], 0.95)
    old = np.where(known > 0, spread(there.direct / full, 2), spread(there.direct / full, 10)) + 0.06
    detail = np.clip(linear / np.maximum(cv2.GaussianBlur(linear, (0, 0), 5), 1e-3), 0.5, 1.5)
    tone = np.median(linear[there.skin], axis=0) / np.median(old[there.skin])
    features = np.isin(labels, (3, 5, 6))[..., None]
    new = np.where(
        features, linear * np.clip(shade / old, 0, 12)[..., None], tone * shade[..., None] * detail
    )
    face = cv2.dilate(np.isin(labels, _FACE).astype(np.uint8), np.ones((5, 5), np.uint8))
    part = cv2.GaussianBlur(face.astype(np.float32), (0, 0), 1.5)[..., None]
    picture = linear * (1 - part) * 0.6 + np.clip(new, 0, 1.2) * part
    return np.round(linear_to_srgb(np.clip(picture, 0, 1)) * 255).astype(np.uint8)
