"""Where the key light comes from, read off the face."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.sitter.face import Face
from truesitter.core.types import Doubles, Floats, Mask


@dataclass(frozen=True)
class LightDirection:
    """Direction towards the key light in the picture's own axes.

    Attributes
    ----------
    vector
        Unit vector: x right, y up, z towards the viewer.
    confidence
        Part of the variation of skin luminance that one light and an even ambient explain, 0–1.
    """

    vector: tuple[float, float, float]
    confidence: float

    def in_words(self) -> str:
        """The direction as a painter says it, e.g. ``upper left, from the front``."""
        x, y, z = self.vector
        height = "upper " if y > 0.25 else "lower " if y < -0.25 else ""
        side = "left" if x < -0.2 else "right" if x > 0.2 else "middle"
        depth = "from the front" if z > 0.5 else "from the side" if z > -0.2 else "from behind"
        return f"{height}{side}, {depth}"


def _mesh_normals(points: Doubles) -> tuple[Doubles, Doubles, Doubles]:
    """Centres (t, 2), outward normals (t, 3) and areas (t,) of the mesh triangles, in pixels."""
    from scipy.spatial import Delaunay

    triangles = Delaunay(points[:, :2]).simplices
    a, b, c = (points[triangles[:, i]] for i in range(3))
    normal = np.cross(b - a, c - a)
    size = np.linalg.norm(normal, axis=1)
    good = size > 1e-9
    normal, triangles = normal[good] / size[good, None], triangles[good]
    area = np.abs(normal[:, 2]) * size[good] / 2
    normal[normal[:, 2] > 0] *= -1  # the detector's z grows away from the viewer
    normal *= (1, -1, -1)  # to x right, y up, z towards the viewer
    return points[triangles].mean(axis=1)[:, :2], normal, area


def light_direction(luminance: Floats, skin: Mask, face: Face) -> LightDirection | None:
    """Fit max(n·l, 0) + ambient to the luminance of the skin over the face mesh.

    Parameters
    ----------
    luminance
        (H, W) squinted luminance factor.
    skin
        (H, W) where there is bare skin.
    face
        As found by the detector.

    Returns
    -------
    LightDirection or None
        None when too little of the face is bare skin.

    Notes
    -----
    Least squares with a lit set that is found again from the last direction, and
    with the largest residuals (highlights, cast shadows, moles) left out each time. Each
    triangle counts by its area: the mesh is densest round nostrils and lips, where its
    normals are worst.
    """
    height, width = luminance.shape
    centres, normals, areas = _mesh_normals(face.mesh((height, width)))
    cols = np.clip(centres[:, 0].astype(int), 0, width - 1)
    rows = np.clip(centres[:, 1].astype(int), 0, height - 1)
    on_skin = skin[rows, cols]
    if on_skin.sum() < 80:
        return None
    from scipy.optimize import nnls

    n, light = normals[on_skin], luminance[rows[on_skin], cols[on_skin]].astype(np.float64)
    weight = np.sqrt(areas[on_skin])
    use = np.ones(len(n), bool)
    direction = np.array([0.0, 0.0, 1.0])
    explained = 0.0
    for _ in range(12):
        lit = n @ direction > 0
        # Signed unknowns for the light, a non-negative one for the ambient.
        rows_ = np.where(lit[:, None], n, 0.0)
        system = np.column_stack([rows_, -rows_, np.ones(len(n))])
        solution, _ = nnls(system[use] * weight[use, None], light[use] * weight[use])
        vector = solution[:3] - solution[3:6]
        length = float(np.linalg.norm(vector))
        if length < 1e-9:
            return None
        direction = vector / length
        residual = np.abs(system @ solution - light)
        use = residual <= np.quantile(residual, 0.85)
        share = weight[use] ** 2 / (weight[use] ** 2).sum()
        spread = float(share @ (light[use] - share @ light[use]) ** 2)
        explained = 1 - float(share @ residual[use] ** 2) / spread if spread > 0 else 0.0
    x, y, z = (float(v) for v in direction)
    return LightDirection(vector=(x, y, z), confidence=float(np.clip(explained, 0, 1)))
