"""Which way the skin of a face looks, pixel by pixel, from the mesh of its landmarks."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.light.key.tuning import DEPTH, FINER, SMALL
from truesitter.core.sitter.face import Face
from truesitter.core.types import Floats, Mask, Shape


def face_normals(face: Face, shape: Shape) -> tuple[Floats, Mask]:
    """Normals of the face inside its outline.

    Returns
    -------
    normals, inside
        (h, w, 3) unit vectors, x right, y up, z towards the viewer, zero outside; (h, w) where that is.
    """
    from scipy.spatial import Delaunay

    height, width = shape[:2]
    points = face.mesh((height, width)) * (1, 1, DEPTH)
    triangles = Delaunay(points[:, :2]).simplices
    a, b, c = (points[triangles[:, i]] for i in range(3))
    normal = np.cross(b - a, c - a)
    length = np.linalg.norm(normal, axis=1)
    # Towards the viewer: the detector's z grows away from it.
    normal = normal / np.maximum(length, 1e-9)[:, None] * np.where(normal[:, 2] > 0, -1, 1)[:, None]
    normal *= (1, -1, -1)
    # Only the face's own box is drawn; a small face is drawn finer.
    low = np.clip(np.floor(points[:, :2].min(axis=0)).astype(int), 0, (width - 1, height - 1))
    high = np.clip(np.ceil(points[:, :2].max(axis=0)).astype(int) + 1, low + 1, (width, height))
    finer = FINER if high[1] - low[1] < SMALL else 1
    number = np.zeros(((high[1] - low[1]) * finer, (high[0] - low[0]) * finer), np.int32)
    corners = np.round((points[triangles, :2] - low) * finer).astype(np.int32)
    for i in np.flatnonzero(length > 1e-9):
        cv2.fillConvexPoly(number, corners[i], int(i) + 1)
    drawn = np.concatenate([np.zeros((1, 3)), normal]).astype(np.float32)[number]
    small = cv2.resize(drawn, tuple(int(n) for n in high - low), interpolation=cv2.INTER_AREA)
    size = np.sqrt((small * small).sum(axis=2))
    normals = np.zeros((height, width, 3), np.float32)
    inside = np.zeros((height, width), bool)
    box = slice(low[1], high[1]), slice(low[0], high[0])
    normals[box] = small / np.maximum(size, 1e-6)[..., None]
    inside[box] = size > 0.5
    return normals, inside
