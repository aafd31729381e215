"""Direction field of the hair: which way it lies at every point of its mass.

A multi-scale structure tensor (Bigün & Granlund 1987) gives direction and
coherence where strands can be seen. The painter's guide strokes are strong
data. Both are joined, in double-angle form so that a direction and its
opposite are the same thing, by least squares with a smoothness term:

    sum w |z - z_data|^2 + mu sum |z - z_guide|^2 + lambda sum |grad z|^2
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import cv2
import numpy as np

from truesitter.core.blur import blur
from truesitter.core.types import Doubles, Floats, Ints, Mask, Shape

SOLVE_LONG_SIDE = 360
"""The least-squares problem is solved with this long side; directions vary slowly."""

_SCALES = (1.0, 2.0, 4.0)
_MU = 40.0
_LAMBDA = 4.0
_FLOOR = 1e-3
_FILL_SIGMA = 12.0


@dataclass(frozen=True)
class Guide:
    """A guide stroke, drawn from root to tip.

    Attributes
    ----------
    points
        (x, y) in fractions of width and height, at least two.
    reach
        Distance from the stroke up to which it overrules the picture, as a fraction
        of the picture's height.
    """

    points: tuple[tuple[float, float], ...]
    reach: float = 0.04


@dataclass(frozen=True)
class AxisField:
    """Undirected directions on a reduced grid.

    Attributes
    ----------
    z
        (h, w, 2) double-angle vector (cos 2θ, sin 2θ), unit length inside the mask.
    coherence
        (h, w) how plainly the strands showed, 0–1.
    mask
        (h, w) where there is hair.
    """

    z: Floats
    coherence: Floats
    mask: Mask

    @property
    def angle(self) -> Floats:
        """Direction θ in radians, counter-clockwise from +x with y up, in (−π/2, π/2]."""
        return np.asarray(0.5 * np.arctan2(self.z[..., 1], self.z[..., 0]))


def structure_tensor_field(grey: Floats, outer: float = 2.5) -> Floats:
    """Direction along the strands, as double-angle vector weighted by coherence.

    Parameters
    ----------
    grey
        (H, W) float32 lightness; the direction found runs along its ridges.
    outer
        Size of the averaging window relative to each derivative scale.

    Returns
    -------
    (H, W, 2) coherence-weighted double-angle vectors averaged over the scales, y up.

    Notes
    -----
    With gradient components gx, gy the double-angle vector of the *gradient* is
    (gx² − gy², 2 gx gy); strands run at right angles to it, which turns the double
    angle by π, and y counts upwards, which mirrors it.
    """
    total = np.zeros((*grey.shape, 2), np.float32)
    for sigma in _SCALES:
        smooth = cv2.GaussianBlur(grey, (0, 0), sigma)
        gx = cv2.Sobel(smooth, cv2.CV_32F, 1, 0, ksize=3) * (sigma / 8)
        gy = cv2.Sobel(smooth, cv2.CV_32F, 0, 1, ksize=3) * (sigma / 8)
        window = outer * sigma
        cos2 = blur(gy * gy - gx * gx, window)
        sin2 = blur(2 * gx * gy, window)
        power = blur(gx * gx + gy * gy, window)
        coherent = 1.0 / (power + 0.02)
        total[..., 0] += cos2 * coherent
        total[..., 1] += sin2 * coherent
    return total / len(_SCALES)


def guide_data(guides: tuple[Guide, ...], shape: Shape) -> tuple[Floats, Floats, Floats, Floats]:
    """Weighted double-angle data, unit directions, weight and overruling of guides."""
    height, width = shape
    z = np.zeros((*shape, 2), np.float32)
    direction = np.zeros((*shape, 2), np.float32)
    weight = np.zeros(shape, np.float32)
    overruled = np.zeros(shape, np.float32)
    for guide in guides:
        points = np.array(guide.points, dtype=np.float64) * (width, height)
        line = np.zeros(shape, np.float32)
        mine = np.zeros((*shape, 2), np.float32)
        for start, end in pairwise(points):
            step = end - start
            length = float(np.hypot(*step))
            if length < 1e-6:
                continue
            segment = np.zeros(shape, np.uint8)
            cv2.line(segment, _pixel(start), _pixel(end), 1, 1)
            on = segment.astype(bool)
            mine[on] = (step[0] / length, -step[1] / length)
            line[on] = 1.0
        if not line.any():
            continue
        reach = max(1.0, guide.reach * height)
        away = cv2.distanceTransform((line == 0).astype(np.uint8), cv2.DIST_L2, 3)
        overruled = np.maximum(overruled, np.exp(-((away / reach) ** 2)))
        on = line > 0
        double = np.arctan2(mine[on, 1], mine[on, 0]) * 2
        z[on] = np.stack([np.cos(double), np.sin(double)], axis=-1)
        direction[on] = mine[on]
        weight[on] = 1.0
    return z, direction, weight, overruled


def _pixel(point: Doubles) -> tuple[int, int]:
    return int(point[0]), int(point[1])


def grid_edges(mask: Mask) -> tuple[Ints, Doubles]:
    """Number the pixels of a mask and list its neighbour pairs.

    Returns
    -------
    index, pairs
        (h, w) int32 running numbers, −1 outside; (2, m) numbers of 4-neighbours.
    """
    index = np.full(mask.shape, -1, np.int32)
    index[mask] = np.arange(int(mask.sum()))
    across = mask[:, :-1] & mask[:, 1:]
    down = mask[:-1] & mask[1:]
    first = np.concatenate([index[:, :-1][across], index[:-1][down]])
    second = np.concatenate([index[:, 1:][across], index[1:][down]])
    return index, np.stack([first, second])


def solve_smooth(data: Doubles, weight: Doubles, pairs: Doubles, coupling: Doubles) -> Doubles:
    """Least squares of data and of coupled neighbours.

    Minimises Σ weight (x − data)² + Σ |coupling| (x_i − sign(coupling) x_j)².

    Parameters
    ----------
    data
        (n, k) values.
    weight
        (n,) non-negative weights; at least one positive in each connected part.
    pairs
        (2, m) neighbour numbers.
    coupling
        (m,) coupling strengths; a negative one asks for opposite signs.

    Returns
    -------
    (n, k) solution.
    """
    from scipy import sparse
    from scipy.sparse.linalg import splu

    n = len(data)
    strength = np.abs(coupling)
    diagonal = weight.astype(np.float64).copy()
    np.add.at(diagonal, pairs[0], strength)
    np.add.at(diagonal, pairs[1], strength)
    rows = np.concatenate([pairs[0], pairs[1], np.arange(n)])
    cols = np.concatenate([pairs[1], pairs[0], np.arange(n)])
    entries = np.concatenate([-coupling, -coupling, diagonal])
    matrix = sparse.csc_matrix((entries, (rows, cols)), shape=(n, n))
    solver = splu(matrix, permc_spec="MMD_AT_PLUS_A", options={"SymmetricMode": True})
    return np.asarray(solver.solve(np.ascontiguousarray(data * weight[:, None])))


def solve_axes(lightness: Floats, mask: Mask, guides: tuple[Guide, ...] = ()) -> AxisField:
    """Direction field of the hair.

    Parameters
    ----------
    lightness
        (H, W) float32 L* of the picture.
    mask
        (H, W) where there is hair.
    guides
        The painter's guide strokes.

    Returns
    -------
    AxisField
        On a grid whose long side is at most `SOLVE_LONG_SIDE`.
    """
    height, width = lightness.shape
    scale = min(1.0, SOLVE_LONG_SIDE / max(height, width))
    size = (max(4, round(width * scale)), max(4, round(height * scale)))
    tensor_scale = min(1.0, 1000 / max(height, width))
    tensor_size = (max(4, round(width * tensor_scale)), max(4, round(height * tensor_scale)))
    fine = cv2.resize(lightness, tensor_size, interpolation=cv2.INTER_AREA)
    fine_mask = cv2.resize(mask.astype(np.float32), tensor_size, interpolation=cv2.INTER_AREA)
    # Fill beyond the hair with its own mean so that the silhouette is not read as strands.
    local = blur(fine * fine_mask, _FILL_SIGMA) / (blur(fine_mask, _FILL_SIGMA).clip(0) + 1e-4)
    inside = fine * fine_mask + local * (1 - fine_mask)
    tensor = structure_tensor_field(inside - local)
    weighted = cv2.resize(tensor * fine_mask[..., None], size, interpolation=cv2.INTER_AREA)
    grid_mask = cv2.resize(mask.astype(np.uint8), size, interpolation=cv2.INTER_AREA) > 0
    if not grid_mask.any():
        empty = np.zeros((size[1], size[0]), np.float32)
        return AxisField(np.zeros((*empty.shape, 2), np.float32), empty, grid_mask)

    strength = np.hypot(weighted[..., 0], weighted[..., 1])
    unit = weighted / (strength[..., None] + 1e-9)
    guide_z, _, guide_weight, overruled = guide_data(guides, grid_mask.shape)
    data_weight = np.clip(strength, 0, 1) ** 2 * (1 - overruled) + _FLOOR * (strength > 0)
    total_weight = data_weight + _MU * guide_weight
    data = data_weight[..., None] * unit + _MU * guide_weight[..., None] * guide_z
    data /= total_weight[..., None] + 1e-9

    _, pairs = grid_edges(grid_mask)
    weights = total_weight[grid_mask].astype(np.float64) + 1e-6
    solution = solve_smooth(
        data[grid_mask].astype(np.float64), weights, pairs, np.full(pairs.shape[1], _LAMBDA)
    )
    z = np.zeros((*grid_mask.shape, 2), np.float32)
    norm = np.hypot(solution[:, 0], solution[:, 1])
    z[grid_mask] = (solution / (norm[:, None] + 1e-9)).astype(np.float32)
    coherence = np.where(grid_mask, np.clip(strength, 0, 1), 0).astype(np.float32)
    return AxisField(z=z, coherence=coherence, mask=grid_mask)
