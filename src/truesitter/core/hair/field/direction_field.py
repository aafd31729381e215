"""Direction field of the hair: which way it lies at every point of its mass.

A structure tensor (Bigün & Granlund 1987) of the finest detail gives direction and
coherence where strands can be seen: what is coarser than a few strands (bands of shine,
the borders of locks) runs across the hair as often as along it, and is taken off first.
The painter's handles are strong data, the anatomy of brows is weak data. All are joined,
in double-angle form so that a direction and its opposite are the same thing, by least
squares with a smoothness term, each kind of hair for itself:

    sum w |z - z_data|^2 + mu sum |z - z_drawn|^2 + lambda sum |grad z|^2
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.hair.field.field_solver import grid_edges, solve_smooth
from truesitter.core.hair.field.guides import NOTHING_DRAWN, Handles, lay_handles
from truesitter.core.hair.field.hair_kinds import Kind, brow_directions, reduced_kinds
from truesitter.core.hair.field.tuning import (
    ANATOMY,
    COARSE,
    DIRECTION_FIELD_FINE,
    FLOOR,
    INSET,
    LAMBDA,
    LAMBDA_TANGLED,
    MU,
    NOISE,
    ORDER_SIGMA,
    OVER_A_LOCK,
    PLAIN,
    SOLVE_LONG_SIDE,
    STRAND_LONG_SIDE,
    TANGLED_ORDER,
    WINDOW,
)
from truesitter.core.imaging.blur import blur
from truesitter.core.sitter.face import Face
from truesitter.core.types import Floats, Labels, Mask


@dataclass(frozen=True)
class AxisField:
    """Undirected directions on a reduced grid.

    Attributes
    ----------
    z
        (h, w, 2) double-angle vector (cos 2θ, sin 2θ), unit length inside the hair.
    coherence
        (h, w) how plainly the strands showed, 0–1.
    kinds
        (h, w) which kind of hair is where, 0 for none.
    order
        (h, w) how much the strands of a lock lie alike as they are seen, 0–1; None where they are not.
    """

    z: Floats
    coherence: Floats
    kinds: Labels
    order: Floats | None = None

    @property
    def mask(self) -> Mask:
        """(h, w) where there is hair."""
        return np.asarray(self.kinds != Kind.NONE)

    @property
    def angle(self) -> Floats:
        """Direction θ in radians, counter-clockwise from +x with y up, in (−π/2, π/2]."""
        return np.asarray(0.5 * np.arctan2(self.z[..., 1], self.z[..., 0]))


def structure_tensor_field(detail: Floats, inside: Floats | None = None) -> Floats:
    """Direction along the strands, as double-angle vector weighted by coherence.

    Parameters
    ----------
    detail
        (H, W) float32 lightness; the direction found runs along its ridges.
    inside
        (H, W) 0–1, where the gradient counts; everywhere without it.

    Returns
    -------
    (H, W, 2) double-angle vectors of length 0–1, y up.

    Notes
    -----
    With gradient components gx, gy the double-angle vector of the *gradient* is
    (gx² − gy², 2 gx gy); strands run at right angles to it, which turns the double
    angle by π, and y counts upwards, which mirrors it.
    """
    smooth = cv2.GaussianBlur(detail, (0, 0), DIRECTION_FIELD_FINE)
    gx = cv2.Sobel(smooth, cv2.CV_32F, 1, 0, ksize=3, scale=1 / 8)
    gy = cv2.Sobel(smooth, cv2.CV_32F, 0, 1, ksize=3, scale=1 / 8)
    if inside is not None:
        gx *= inside
        gy *= inside
    cos2 = blur(gy * gy - gx * gx, WINDOW)
    sin2 = blur(2 * gx * gy, WINDOW)
    power = blur(gx * gx + gy * gy, WINDOW) + np.float32(NOISE)
    return np.dstack([cos2 / power, sin2 / power])


def strand_order(tensor: Floats, sigma: float) -> tuple[Floats, Floats]:
    """Mean axis of the strands about every pixel, and how much they lie alike.

    Parameters
    ----------
    tensor
        (h, w, 2) double-angle vectors, as long as the strands are plain.
    sigma
        Of the Gaussian over which they are averaged, in pixels.

    Returns
    -------
    axis
        (h, w) radians, counter-clockwise from +x with y up.
    order
        (h, w) 0–1.
    """
    mean, whole = blur(tensor, sigma), blur(np.hypot(tensor[..., 0], tensor[..., 1]), sigma)
    order = np.hypot(mean[..., 0], mean[..., 1]) / (whole + 1e-6)
    return 0.5 * np.arctan2(mean[..., 1], mean[..., 0]), np.asarray(order, np.float32)


def strand_detail(lightness: Floats, mask: Mask) -> tuple[Floats, Floats]:
    """Lightness of the hair without all that is coarser than strands, and where it counts.

    Parameters
    ----------
    lightness, mask
        (H, W) float32 L* and where there is hair, at any size.

    Returns
    -------
    detail, inside
        (h, w) with a long side of at most `STRAND_LONG_SIDE`.
    """
    height, width = lightness.shape
    scale = min(1.0, STRAND_LONG_SIDE / max(height, width))
    size = (max(4, round(width * scale)), max(4, round(height * scale)))
    fine = cv2.resize(lightness, size, interpolation=cv2.INTER_AREA)
    cover = cv2.resize(mask.astype(np.float32), size, interpolation=cv2.INTER_AREA)
    local = cv2.GaussianBlur(fine * cover, (0, 0), COARSE)
    local /= cv2.GaussianBlur(cover, (0, 0), COARSE) + 1e-4
    away = cv2.distanceTransform((cover > 0.5).astype(np.uint8), cv2.DIST_L2, 3)
    return (fine - local) * cover, (away > INSET).astype(np.float32)


def solve_axes(
    lightness: Floats, kinds: Labels, handles: Handles = NOTHING_DRAWN, face: Face | None = None
) -> AxisField:
    """Direction field of the hair.

    Parameters
    ----------
    lightness
        (H, W) float32 L* of the picture.
    kinds
        (H, W) which kind of hair is where.
    handles
        What the painter drew.
    face
        Tells how brows grow; without one they are read like other hair.

    Returns
    -------
    AxisField
        On a grid whose long side is at most `SOLVE_LONG_SIDE`.
    """
    height, width = lightness.shape
    scale = min(1.0, SOLVE_LONG_SIDE / max(height, width))
    size = (max(4, round(width * scale)), max(4, round(height * scale)))
    parts = reduced_kinds(kinds, size)
    mask = parts > 0
    shape = parts.shape
    if not mask.any():
        return AxisField(np.zeros((*shape, 2), np.float32), np.zeros(shape, np.float32), parts)
    tensor = structure_tensor_field(*strand_detail(lightness, kinds > 0))
    tensor = cv2.resize(tensor, size, interpolation=cv2.INTER_AREA)
    _, order = strand_order(tensor, ORDER_SIGMA)
    seen = tensor[mask]
    strength = np.clip(np.hypot(seen[:, 0], seen[:, 1]), 0, 1)
    unit = seen / (strength[:, None] + 1e-9)

    drawn = lay_handles(handles, shape)
    picture = (strength * (1 - drawn.overruled[mask]) + FLOOR * (strength > 0))[:, None]
    painter = MU * drawn.weight[mask][:, None]
    data = picture * unit + painter * drawn.double[mask]
    weight = picture + painter
    if face is not None:
        brow = brow_directions(parts, face, shape)[mask]
        anatomy = ANATOMY * np.hypot(brow[:, 0], brow[:, 1])[:, None] * (1 - drawn.overruled[mask][:, None])
        data += anatomy * np.column_stack(
            [brow[:, 0] ** 2 - brow[:, 1] ** 2, 2 * brow[:, 0] * brow[:, 1]]
        )  # fmt: skip
        weight = weight + anatomy
    _, pairs = grid_edges(parts)
    # A curl is no direction of the hair: where plain strands cross its way is that of the lock.
    tangled = (order[mask] < TANGLED_ORDER) & (strength > PLAIN)
    solution = solve_smooth(
        (data / (weight + 1e-9)).astype(np.float64),
        weight[:, 0].astype(np.float64) + 1e-6,
        pairs,
        np.where(tangled[pairs].all(axis=0), LAMBDA_TANGLED, LAMBDA),
    )
    z = np.zeros((*shape, 2), np.float32)
    z[mask] = solution / (np.hypot(*solution.T)[:, None] + 1e-9)
    coherence = np.zeros(shape, np.float32)
    coherence[mask] = strength
    _, of_locks = strand_order(tensor, OVER_A_LOCK * height * scale)
    return AxisField(z=z, coherence=coherence, kinds=parts, order=of_locks)
