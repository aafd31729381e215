"""What is believed of growth: where the roots are, before the strands are followed.

Each belief is a direction (root to tip) times how much it counts, at every pixel of the grid.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.hair.field.guides import Handles, lay_handles, line_mask
from truesitter.core.hair.field.hair_kinds import MOUSTACHE, Kind, brow_directions
from truesitter.core.hair.field.knot import Knot
from truesitter.core.hair.field.tuning import (
    ALWAYS,
    BEARD,
    BORDER,
    BORDER_REACH,
    DRAWN,
    HAIR_BELIEFS_MOUSTACHE,
    HANGING,
    NATURAL_HAIRLINE,
    NO_FACE,
    PULL,
    ROOTS,
    ROOTS_REACH,
    SIDES,
    UNSURE,
    WHORL,
    WHORL_REACH,
)
from truesitter.core.hair.field.whorls import Whorl
from truesitter.core.sitter.face import CHEEKS, NOSE_BASE, Face
from truesitter.core.types import Doubles, Floats, Labels, Mask, Shape


@dataclass(frozen=True)
class Signs:
    """What beliefs about growth rest on, on the grid of the field.

    Attributes
    ----------
    kinds
        (h, w) kinds of hair.
    skin
        (h, w) bare skin.
    face
        None in a back view or where none was found.
    knot
        Hair gathered up, if any.
    whorls
        Whorls seen.
    """

    kinds: Labels
    skin: Mask
    face: Face | None = None
    knot: Knot | None = None
    whorls: tuple[Whorl, ...] = ()


@dataclass(frozen=True)
class _Head:
    """A face's own measures at every pixel: x right and y up."""

    up: Doubles
    above: Doubles
    """(h, w) height above the brows in lengths of the nose."""
    sideways: Doubles
    """(h, w) distance from the face's axis, in half widths of the face."""

    @staticmethod
    def of(face: Face, shape: Shape) -> _Head:
        height, width = shape
        up = face.axis(height / width) * (1, -1)
        rows, columns = np.mgrid[0:height, 0:width] + 0.5
        brow = face.brow_middle * (width, height)
        x, y = columns - brow[0], -(rows - brow[1])
        nose = (face.at(NOSE_BASE) * (width, height) - brow) * (1, -1)
        length = max(1.0, float(-(nose @ up)))
        half = max(1.0, _half_width(face, shape))
        return _Head(up, (x * up[0] + y * up[1]) / length, np.abs(x * up[1] - y * up[0]) / half)


def _half_width(face: Face, shape: Shape) -> float:
    left, right = face.line(CHEEKS) * (shape[1], shape[0])
    return float(np.hypot(*(right - left))) / 2


def _away_from(mask: Mask) -> tuple[Floats, Doubles]:
    """Distance from a mask, and the unit direction away from it, x right and y up."""
    away = cv2.distanceTransform((~mask).astype(np.uint8), cv2.DIST_L2, 5)
    smooth = cv2.GaussianBlur(away, (0, 0), 2.0)
    gx = cv2.Sobel(smooth, cv2.CV_64F, 1, 0, ksize=3)
    gy = -cv2.Sobel(smooth, cv2.CV_64F, 0, 1, ksize=3)
    norm = np.hypot(gx, gy) + 1e-6
    return away, np.dstack([gx / norm, gy / norm])


def _gravity(signs: Signs, head: _Head | None) -> Doubles:
    """How much each pixel of the head's hair hangs."""
    if head is None:
        return np.full(signs.kinds.shape, 0.0 if signs.knot else NO_FACE)
    begins = 0.3 * np.clip((head.sideways - 0.75) / 0.2, 0, 1)
    return np.asarray(ALWAYS + HANGING * np.clip((begins - head.above) / 0.4, 0, 1))


def _borders(signs: Signs, head: _Head | None) -> Doubles:
    """Hair leaves a hairline and meets the skin with its tips below it: a fringe, hair on shoulders."""
    height = signs.kinds.shape[0]
    if not signs.skin.any():
        return np.zeros((*signs.kinds.shape, 2))
    away, normal = _away_from(signs.skin)
    weight = BORDER * np.exp(-((away / (BORDER_REACH * height)) ** 2))
    if head is None:
        sign = np.where(normal[..., 1] > 0.5, 1.0 if signs.knot else 0.0, 1.0)
        return np.asarray((weight * sign)[..., None] * normal)
    _, nearest = cv2.distanceTransformWithLabels(
        (~signs.skin).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
    )
    above = np.zeros(int(nearest.max()) + 1)
    above[nearest[signs.skin]] = head.above[signs.skin]
    at_skin = above[nearest]
    upward = normal @ head.up
    over = np.clip((at_skin - NATURAL_HAIRLINE) / UNSURE, -1, 1)
    beside = np.clip((at_skin - SIDES[0]) / SIDES[1], 0, 1)
    sign = np.where(upward > 0.5, over, np.where(upward > -0.5, beside, 0.0))
    return np.asarray((weight * sign)[..., None] * normal)


def growth_beliefs(signs: Signs, handles: Handles) -> Doubles:
    """Believed growth direction times belief, (h, w, 2), x right and y up."""
    shape = signs.kinds.shape
    height, width = shape
    head = None if signs.face is None else _Head.of(signs.face, shape)
    belief = np.zeros((*shape, 2))
    scalp = signs.kinds == Kind.SCALP
    gravity = _gravity(signs, head)
    rows, columns = np.mgrid[0:height, 0:width] + 0.5
    found = _borders(signs, head)
    found[..., 1] -= gravity
    if signs.knot is not None:
        pull = signs.knot.middle - np.dstack([columns, rows])
        far = np.hypot(pull[..., 0], pull[..., 1]) + 1e-6
        gathered = PULL * np.clip(1 - gravity / HANGING, 0, 1)
        found += (gathered / far)[..., None] * pull * (1, -1)
        found[signs.knot.mask] = 0
    for whorl in signs.whorls:
        if whorl.index < 1:
            continue
        out = np.dstack([columns - whorl.x * width, whorl.y * height - rows])
        distance = np.hypot(out[..., 0], out[..., 1]) + 1e-6
        weight = WHORL * np.exp(-((distance / (WHORL_REACH * height)) ** 2))
        found += (weight / distance)[..., None] * out
    belief[scalp] = found[scalp]
    belief[signs.kinds == Kind.BEARD] = (0, -BEARD)
    if signs.face is not None:
        side = signs.face.axis(height / width)[::-1] * (-1, 1)
        side = side if side[0] > 0 else -side
        for kind, way in zip(MOUSTACHE, (-1, 1), strict=True):
            belief[signs.kinds == kind] = way * HAIR_BELIEFS_MOUSTACHE * side * (1, -1)
        belief += brow_directions(signs.kinds, signs.face, shape)
    for line in (*handles.partings, *handles.hairlines):
        away, normal = _away_from(line_mask(line, shape))
        weight = ROOTS * np.exp(-((away / (ROOTS_REACH * height)) ** 2))
        belief += np.where(scalp, weight, 0)[..., None] * normal
    drawn = lay_handles(handles, shape)
    return np.asarray(belief + DRAWN * drawn.direction * drawn.weight[..., None])
