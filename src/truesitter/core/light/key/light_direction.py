"""Where the key light comes from, read off the face, and whether one light explains the skin.

For every direction of a grid the face is lit as a matt form would be (Lambert 1760), squinted as
the photograph is, and compared with it; the best direction is then refined.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.imaging.reduce import scaled
from truesitter.core.light.key.body_normals import body_normals
from truesitter.core.light.key.face_normals import face_normals
from truesitter.core.light.key.lit_form import LightFit, LitForm, fit_light
from truesitter.core.light.key.tuning import (
    COARSER,
    DIRECTIONS,
    ENOUGH,
    FACE_PX,
    FIGURE_PX,
    FROM_BEHIND,
    PAIRS,
    PAIRS_APART,
    REFINE,
    SECOND_APART,
    SECOND_GAIN,
    SECOND_LEAST_Z,
    SECOND_STRENGTH,
    SQUINT,
)
from truesitter.core.sitter.face import Face
from truesitter.core.types import Doubles, Floats, Labels, Mask

Vector = tuple[float, float, float]


@dataclass(frozen=True)
class LightDirection:
    """Direction towards the key light in the picture's own axes.

    Attributes
    ----------
    vector
        Unit vector: x right, y up, z towards the viewer.
    confidence
        Part of the variation of skin luminance that one light and an even ambient explain, 0–1.
    ambient
        Strength of the even ambient as part of the key's, 0 or more.
    second
        Direction towards a second light where one light does not explain the skin.
    second_strength
        As part of the key's; 0 without one.
    """

    vector: Vector
    confidence: float
    ambient: float = 0.0
    second: Vector | None = None
    second_strength: float = 0.0

    def in_words(self) -> str:
        """The direction as a painter says it, e.g. ``upper left, from the front``."""
        return direction_words(self.vector)


def direction_words(vector: Vector) -> str:
    """A direction as a painter says it.

    Examples
    --------
    >>> direction_words((-0.5, 0.5, 0.7))
    'upper left, from the front'
    """
    x, y, z = vector
    height = "upper " if y > 0.25 else "lower " if y < -0.25 else ""
    side = "left" if x < -0.2 else "right" if x > 0.2 else "middle"
    depth = "from the front" if z > 0.5 else "from the side" if z > -0.2 else "from behind"
    return f"{height}{side}, {depth}"


def _sphere() -> Doubles:
    """Directions spread evenly over the sphere (Vogel's spiral), without those far behind."""
    i = np.arange(DIRECTIONS) + 0.5
    down, round_ = np.arccos(1 - 2 * i / DIRECTIONS), np.pi * (1 + 5**0.5) * i
    every = np.stack([np.cos(round_) * np.sin(down), np.sin(round_) * np.sin(down), np.cos(down)], axis=1)
    return np.asarray(every[every[:, 2] > FROM_BEHIND])


def _beside(middle: Doubles, step: float) -> Doubles:
    """Twenty-five directions in a square round one, `step` degrees to its sides."""
    first = np.cross(middle, (0.0, 1.0, 0.3))
    first /= np.linalg.norm(first)
    second = np.cross(middle, first)
    offsets = np.radians(step) * np.linspace(-1, 1, 5)
    grid = np.stack(np.meshgrid(offsets, offsets), axis=-1).reshape(-1, 2)
    near = middle + grid @ np.stack([first, second])
    return np.asarray(near / np.linalg.norm(near, axis=1, keepdims=True))


def light_direction(luminance: Floats, skin: Mask, face: Face) -> LightDirection | None:
    """Where the light on a face comes from.

    Parameters
    ----------
    luminance
        (H, W) luminance factor.
    skin
        (H, W) where there is bare skin.
    face
        As found by the detector.

    Returns
    -------
    LightDirection or None
        None when too little of the face is bare skin, or nothing on it is lighter than the rest.
    """
    factor = FACE_PX / face.height(luminance.shape)
    light, bare = scaled(luminance, factor), scaled(skin.astype(np.float32), factor) > 0.5
    normals, inside = face_normals(face, light.shape)
    return _told_by(LitForm(light, inside & bare, normals, SQUINT * FACE_PX))


def figure_light(luminance: Floats, skin: Mask, regions: Labels) -> LightDirection | None:
    """Where the light on a figure comes from, by the roundness of its outline alone: less sure than a face.

    Parameters
    ----------
    luminance, skin
        As for `light_direction`.
    regions
        (H, W) regions of the sitter.
    """
    factor = FIGURE_PX / max(luminance.shape)
    light, bare = scaled(luminance, factor), scaled(skin.astype(np.float32), factor) > 0.5
    small = cv2.resize(regions, light.shape[::-1], interpolation=cv2.INTER_NEAREST)
    normals, inside = body_normals(small, None)
    found = _told_by(LitForm(light, inside & bare, normals, SQUINT * FIGURE_PX))
    return None if found is None else replace(found, second=None, second_strength=0.0)


def _told_by(form: LitForm) -> LightDirection | None:
    """The light that explains a form; None for too little of it, or for no light on it."""
    if not form.enough or np.ptp(form.seen) < 1e-4:
        return None
    key, fit = _search(form)
    strength, rest = (float(v) for v in fit.strengths[fit.best])
    if strength < 1e-6:
        return None
    on = fit.trusted[:, fit.best]
    spread = float(form.seen[on].var())
    error = float(fit.error[fit.best])
    explained = 1 - error / spread if spread > 0 else 0.0
    found = LightDirection(_told(key), float(np.clip(explained, 0, 1)), rest / strength)
    return found if explained >= ENOUGH else _with_second(form, error, found)


def _told(direction: Doubles) -> Vector:
    x, y, z = (float(v) for v in direction)
    return x, y, z


def _in_front(directions: Doubles, middle: Doubles) -> Doubles:
    """The same, with the middle in place of those from which nothing of a face is lit."""
    return np.where(directions[:, 2:] > FROM_BEHIND, directions, middle)


def _search(
    form: LitForm, others: Floats | None = None, near: Doubles | None = None
) -> tuple[Doubles, LightFit]:
    """The direction that explains the skin best, beside other lights; near one, or anywhere."""
    best = np.array([0.0, 0.0, 1.0]) if near is None else near
    fit = None
    for step in (0.0 if near is None else 3 * REFINE[0], *REFINE):
        directions = _in_front(_beside(best, step), best) if step else _sphere()
        fit = fit_light(form.lit(directions), form.seen, others)
        best = directions[fit.best]
    assert fit is not None
    return best, fit


def _pairs(form: LitForm) -> list[tuple[Doubles, Doubles]]:
    """Of all pairs of the grid those that together explain the skin best, unlike one another."""
    directions = _sphere()[::COARSER]
    lit = np.column_stack([form.lit(directions), np.ones(len(form.seen), np.float32)]).astype(np.float64)
    gram, right = lit.T @ lit, lit.T @ form.seen
    cosines = directions @ directions.T
    i, j = np.nonzero(np.triu(cosines < np.cos(np.radians(SECOND_APART)), 1))
    at = np.stack([i, j, np.full(len(i), len(directions))], axis=1)
    normal = gram[at[:, :, None], at[:, None, :]] + 1e-6 * np.eye(3)
    strengths = np.linalg.solve(normal, right[at][..., None])[..., 0]
    # What the fit takes off the sum of squares; a light or a rest that takes light away is none.
    gain = np.where((strengths < 0).any(axis=1), -np.inf, (strengths * right[at]).sum(axis=1))
    near = cosines > np.cos(np.radians(PAIRS_APART))
    chosen: list[int] = []
    for n in np.argsort(-gain)[: np.isfinite(gain).sum()]:
        a, b = i[n], j[n]
        if not any((near[a, i[k]] & near[b, j[k]]) | (near[a, j[k]] & near[b, i[k]]) for k in chosen):
            chosen.append(int(n))
        if len(chosen) == PAIRS:
            break
    return [(directions[i[n]], directions[j[n]]) for n in chosen]


def _with_second(form: LitForm, error: float, one: LightDirection) -> LightDirection:
    """The same, or with two lights where they explain much more: each is found beside the other.

    The key is the light that gives the skin more light in all, as a painter sees it; by strength alone a
    glancing light that lights few pixels takes the name from one that lights the whole face.
    """
    found = []
    for coarse, other in _pairs(form):
        second, _ = _search(form, form.lit(coarse[None]), other)
        first, fit = _search(form, form.lit(second[None]), coarse)
        found.append((float(fit.error[fit.best]), fit.strengths[fit.best], first, second))
    if not found:
        return one
    least, (*lights, rest), *ways = min(found, key=lambda pair: pair[0])
    given = [s * float(form.lit(way[None]).mean()) for s, way in zip(lights, ways, strict=True)]
    key = int(np.argmax(given))
    strength, weaker = (max(float(s), 1e-9) for s in (lights[key], lights[1 - key]))
    first, second = ways[key], ways[1 - key]
    share = min(1.0, weaker / strength)
    apart = float(np.degrees(np.arccos(np.clip(first @ second, -1, 1))))
    seen = apart >= SECOND_APART and second[2] >= SECOND_LEAST_Z
    if not seen or share < SECOND_STRENGTH or 1 - least / error < SECOND_GAIN:
        return one
    return LightDirection(_told(first), one.confidence, float(rest) / strength, _told(second), share)
