"""Which way the figure looks, pixel by pixel, from its outline alone.

A body is round: at its outline against the background it turns away, in its middle it looks
towards the viewer. The smoothest such form comes from Poisson's equation with nothing at the
outline: for a limb between two straight outlines it is exactly a half-cylinder.
"""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.light.key.tuning import CURVED, LONG_SIDE
from truesitter.core.sitter.face import OVAL, Face
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Floats, Labels, Mask

_BESIDE = (Region.BACKGROUND, Region.HAIR)
"""A neck turns away towards the hair that hangs beside it, too."""


def body_mask(regions: Labels, face: Face | None) -> Mask:
    """Where the figure is: below the mouth and outside the face, or all of the sitter without one."""
    sitter = ~np.isin(regions, _BESIDE)
    if face is None:
        return np.asarray(regions != Region.BACKGROUND)
    below = np.arange(regions.shape[0])[:, None] > face.mouth_row * regions.shape[0]
    return np.asarray(sitter & below & ~face.outline_mask(OVAL, regions.shape))


def body_normals(regions: Labels, face: Face | None) -> tuple[Floats, Mask]:
    """Normals of the figure.

    Parameters
    ----------
    regions
        (h, w) regions of the sitter.

    Returns
    -------
    normals, inside
        (h, w, 3) unit vectors, x right, y up, z towards the viewer; (h, w) where they are told.
    """
    inside = body_mask(regions, face)
    height, width = regions.shape
    factor = min(1.0, LONG_SIDE / max(height, width))
    size = max(4, round(width * factor)), max(4, round(height * factor))
    small = cv2.resize(inside.astype(np.float32), size, interpolation=cv2.INTER_AREA) > 0.5
    beside = np.isin(regions, _BESIDE) if face is not None else regions == Region.BACKGROUND
    out = cv2.resize(beside.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    swell = _swell(small, out > 0.5)
    gy, gx = np.gradient(cv2.GaussianBlur(swell.astype(np.float32), (0, 0), 1.0))
    normal = np.dstack([-gx / 2, gy / 2, np.sqrt(np.maximum(swell, 0.05))]).astype(np.float32)
    large = cv2.resize(normal, (width, height), interpolation=cv2.INTER_LINEAR)
    length = np.linalg.norm(large, axis=2, keepdims=True)
    normals = np.where(inside[..., None], large / np.maximum(length, 1e-6), 0)
    return normals.astype(np.float32), inside


def _swell(inside: Mask, outside: Mask) -> Floats:
    """Square of the form's height: nothing where it meets the background, free where it is only cut off."""
    from scipy.sparse import coo_matrix
    from scipy.sparse.linalg import spsolve

    height, width = inside.shape
    swell = np.zeros(inside.shape)
    count = int(inside.sum())
    if not count:
        return swell.astype(np.float32)
    number = np.full(inside.shape, -1)
    number[inside] = np.arange(count)
    rows, columns = np.nonzero(inside)
    rights, lefts, weights = [np.arange(count)], [np.arange(count)], list[Doubles]()
    own = np.full(count, 1e-6)
    for dr, dc in ((0, 1), (0, -1), (1, 0), (-1, 0)):
        r, c = rows + dr, columns + dc
        there = (r >= 0) & (r < height) & (c >= 0) & (c < width)
        at = np.flatnonzero(there)
        kin = inside[r[at], c[at]]
        own[at] += kin | outside[r[at], c[at]]
        lefts.append(at[kin])
        rights.append(number[r[at[kin]], c[at[kin]]])
        weights.append(-np.ones(int(kin.sum())))
    entries = np.concatenate([own, *weights]), (np.concatenate(lefts), np.concatenate(rights))
    matrix = coo_matrix(entries, shape=(count, count)).tocsc()
    swell[inside] = spsolve(matrix, np.full(count, CURVED))
    return swell.astype(np.float32)
