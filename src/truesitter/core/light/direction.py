"""Where the key light comes from, read off the face, and whether one light explains the skin.

For every direction of a grid the face is lit as a matt form would be (Lambert 1760), squinted as
the photograph is, and compared with it; the best direction is then refined.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.light.body_normals import body_normals
from truesitter.core.light.face_normals import face_normals
from truesitter.core.sitter.face import Face
from truesitter.core.types import Doubles, Floats, Labels, Mask

Vector = tuple[float, float, float]

FACE_PX = 72
"""The face is compared at this height."""

FIGURE_PX = 200
"""The figure is compared at this long side."""

SQUINT = 0.012
"""Of the face's height: both sides are squinted by this much before they are compared [try].

Chosen on maren, tobias, selda, orsolya and on ten pictures of them lit anew, from behind as well.
"""

TRUSTED = 0.85
"""The best fitting part of the skin; the rest holds highlights, cast shadows and moles [try]."""

SECOND_STRENGTH = 0.2
"""A second light is worth telling from this part of the key's strength [try]."""

SECOND_GAIN = 0.05
"""And when it explains so much of what the key leaves unexplained [try]."""

SECOND_APART = 70.0
"""Degrees between two lights that are two [try]."""

SECOND_LEAST_Z = -0.2
"""A second light from farther behind cannot be told from the error of the mesh [try]."""

_DIRECTIONS = 300
_FROM_BEHIND = -0.75
"""Least z of a direction: from farther behind nothing of the face is lit."""

_LEAST_PIXELS = 200
_REFINE = (8.0, 2.5)
"""Steps of the refinements, in degrees."""

_COARSER = 2
"""Pairs are tried of every such direction of the grid."""

_ROUNDS = 3
_SAMPLES = 1000
_TURNS = 1
"""So often each of two lights is found anew beside the other."""


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
    """A direction as a painter says it."""
    x, y, z = vector
    height = "upper " if y > 0.25 else "lower " if y < -0.25 else ""
    side = "left" if x < -0.2 else "right" if x > 0.2 else "middle"
    depth = "from the front" if z > 0.5 else "from the side" if z > -0.2 else "from behind"
    return f"{height}{side}, {depth}"


class _Form:
    """Skin as a matt form, squinted; and how light it is in the photograph."""

    def __init__(self, light: Floats, on: Mask, normals: Floats, sigma: float) -> None:
        self.enough = int(on.sum()) >= _LEAST_PIXELS
        if not self.enough:
            return
        rows, columns = (np.flatnonzero(on.any(axis=axis)) for axis in (1, 0))
        box = slice(rows[0], rows[-1] + 1), slice(columns[0], columns[-1] + 1)
        self._normals, self._part = normals[box], on[box].astype(np.float32)
        self._sigma = sigma
        # Not every pixel is needed to tell a direction.
        self._at = np.flatnonzero(on[box])[:: max(1, int(on.sum()) // _SAMPLES)]
        self._weight = cv2.GaussianBlur(self._part, (0, 0), self._sigma).ravel()[self._at]
        self.seen = self._squinted(light[box] * self._part)[:, 0]

    def _squinted(self, light: Floats) -> Floats:
        """Of each of up to four maps, blurred over the skin alone; (n, maps)."""
        blurred = cv2.GaussianBlur(light, (0, 0), self._sigma).reshape(self._part.size, -1)
        return np.asarray(blurred[self._at] / self._weight[:, None])

    def lit(self, directions: Doubles) -> Floats:
        """How strongly each pixel is lit from each direction, (n, directions), 0–1."""
        turned = np.clip(self._normals @ directions.T.astype(np.float32), 0, None) * self._part[..., None]
        return np.concatenate(
            [self._squinted(turned[..., i : i + 4]) for i in range(0, len(directions), 4)], axis=1
        )


@dataclass(frozen=True)
class _Fit:
    """For each of d directions the strengths of the lights and of the even rest, and the squared error.

    Attributes
    ----------
    strengths
        (d, lights + 1), the rest last; none negative.
    error
        (d,) mean over what is trusted.
    trusted
        (n, d)
    """

    strengths: Doubles
    error: Doubles
    trusted: Mask

    @property
    def best(self) -> int:
        """The direction of least error."""
        return int(self.error.argmin())


def _fit(lit: Floats, seen: Floats, others: Floats | None = None) -> _Fit:
    """Least squares of strengths · lights + rest on the best fitting part of the skin.

    Parameters
    ----------
    lit
        (n, d) one light from each of d directions.
    others
        (n, k) lights that are there whatever that one is.
    """
    count, tried = lit.shape
    known = np.zeros((count, 0), np.float32) if others is None else others
    fixed = np.column_stack([known, np.ones(count, np.float32)])
    trusted = np.ones(lit.shape, np.float32)
    at = int(TRUSTED * (count - 1))
    for _ in range(_ROUNDS):
        lights = fixed.shape[1] + 1
        normal = np.empty((tried, lights, lights))
        wanted = np.empty((tried, lights))
        weighted = trusted * lit
        normal[:, 0, 0] = (weighted * lit).sum(axis=0)
        normal[:, 0, 1:] = normal[:, 1:, 0] = weighted.T @ fixed
        normal[:, 1:, 1:] = np.einsum("nd,ni,nj->dij", trusted, fixed, fixed, optimize=True)
        wanted[:, 0] = weighted.T @ seen
        wanted[:, 1:] = trusted.T @ (fixed * seen[:, None])
        strengths = np.linalg.solve(normal + 1e-6 * np.eye(lights), wanted[..., None])[..., 0]
        # No light takes light away: what would is left out, and the rest found without it.
        dark = strengths[:, -1] < 0
        few = np.linalg.solve(normal[dark][:, :-1, :-1] + 1e-6 * np.eye(lights - 1), wanted[dark, :-1, None])
        strengths[dark] = np.column_stack([few[..., 0], np.zeros(dark.sum())])
        strengths = np.maximum(strengths, 0)
        away = np.abs(lit * strengths[:, 0] + fixed @ strengths[:, 1:].T.astype(np.float32) - seen[:, None])
        trusted = (away <= np.partition(away, at, axis=0)[at]).astype(np.float32)
    error = (trusted * away**2).sum(axis=0) / trusted.sum(axis=0)
    return _Fit(strengths, error, trusted > 0)


def _sphere() -> Doubles:
    """Directions spread evenly over the sphere (Vogel's spiral), without those far behind."""
    i = np.arange(_DIRECTIONS) + 0.5
    down, round_ = np.arccos(1 - 2 * i / _DIRECTIONS), np.pi * (1 + 5**0.5) * i
    every = np.stack([np.cos(round_) * np.sin(down), np.sin(round_) * np.sin(down), np.cos(down)], axis=1)
    return np.asarray(every[every[:, 2] > _FROM_BEHIND])


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
    light, bare = _shrunk(luminance, factor), _shrunk(skin.astype(np.float32), factor) > 0.5
    normals, inside = face_normals(face, light.shape)
    return _told_by(_Form(light, inside & bare, normals, SQUINT * FACE_PX))


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
    light, bare = _shrunk(luminance, factor), _shrunk(skin.astype(np.float32), factor) > 0.5
    small = cv2.resize(regions, light.shape[::-1], interpolation=cv2.INTER_NEAREST)
    normals, inside = body_normals(small, None)
    found = _told_by(_Form(light, inside & bare, normals, SQUINT * FIGURE_PX))
    return None if found is None else replace(found, second=None, second_strength=0.0)


def _shrunk(map_: Floats, factor: float) -> Floats:
    height, width = map_.shape
    size = max(8, round(width * factor)), max(8, round(height * factor))
    return np.asarray(cv2.resize(map_, size, interpolation=cv2.INTER_AREA))


def _told_by(form: _Form) -> LightDirection | None:
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
    return _with_second(form, error, found)


def _told(direction: Doubles) -> Vector:
    x, y, z = (float(v) for v in direction)
    return x, y, z


def _search(form: _Form, others: Floats | None = None, near: Doubles | None = None) -> tuple[Doubles, _Fit]:
    """The direction that explains the skin best, beside other lights; near one, or anywhere."""
    best = np.array([0.0, 0.0, 1.0]) if near is None else near
    fit = None
    for step in (0.0 if near is None else 3 * _REFINE[0], *_REFINE):
        directions = _beside(best, step) if step else _sphere()
        fit = _fit(form.lit(directions), form.seen, others)
        best = directions[fit.best]
    assert fit is not None
    return best, fit


def _pair(form: _Form) -> tuple[Doubles, Doubles]:
    """The two directions of the grid that together explain the skin best: every pair is tried."""
    directions = _sphere()[::_COARSER]
    lit = np.column_stack([form.lit(directions), np.ones(len(form.seen), np.float32)]).astype(np.float64)
    gram, right = lit.T @ lit, lit.T @ form.seen
    i, j = np.triu_indices(len(directions), 1)
    at = np.stack([i, j, np.full(len(i), len(directions))], axis=1)
    normal = gram[at[:, :, None], at[:, None, :]] + 1e-6 * np.eye(3)
    strengths = np.linalg.solve(normal, right[at][..., None])[..., 0]
    # What the fit takes off the sum of squares; a light or a rest that takes light away is none.
    gain = np.where((strengths < 0).any(axis=1), -np.inf, (strengths * right[at]).sum(axis=1))
    best = int(gain.argmax())
    return directions[i[best]], directions[j[best]]


def _with_second(form: _Form, error: float, one: LightDirection) -> LightDirection:
    """The same, or with two lights where they explain much more: each is found beside the other."""
    first, second = _pair(form)
    for _ in range(_TURNS):
        second, _ = _search(form, form.lit(first[None]), second)
        first, fit = _search(form, form.lit(second[None]), first)
    both = fit.strengths[fit.best]
    strength, weaker, rest = (float(v) for v in both)
    if strength < weaker:
        first, second, strength, weaker = second, first, weaker, strength
    share = weaker / max(strength, 1e-9)
    apart = float(np.degrees(np.arccos(np.clip(first @ second, -1, 1))))
    gain = 1 - float(fit.error[fit.best]) / error
    seen = apart >= SECOND_APART and second[2] >= SECOND_LEAST_Z
    if not seen or share < SECOND_STRENGTH or gain < SECOND_GAIN:
        return one
    return LightDirection(_told(first), one.confidence, rest / strength, _told(second), share)
