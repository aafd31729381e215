"""Parts of a sitter as simple solids under the sitter's light: ball, dome, cylinder, bowl.

A solid says where a part is lightest and where it turns into shadow when nothing is cast on it and it
is of one colour; where the photograph differs, something else is to be seen (common practice).
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

import numpy as np

from truesitter.core.light.form.tuning import DOME_LIES, SOLID_FRONT, SOLID_SIDE
from truesitter.core.types import Doubles, Mask


class Solid(StrEnum):
    """What a part is like."""

    BALL = "ball"
    DOME = "dome"
    UPRIGHT = "upright cylinder"
    LYING = "lying cylinder"
    BOWL = "bowl"


PARTS: tuple[tuple[str, Solid], ...] = (
    ("forehead", Solid.DOME), ("eye in its lids", Solid.BALL), ("iris", Solid.BOWL), ("nose tip", Solid.BALL),
    ("cheek", Solid.BALL), ("lips", Solid.LYING), ("chin", Solid.BALL), ("neck", Solid.UPRIGHT),
)  # fmt: skip
"""Of a head (common practice)."""

BODY: tuple[tuple[str, Solid], ...] = (
    ("head", Solid.BALL), ("neck", Solid.UPRIGHT), ("shoulder", Solid.BALL), ("arm", Solid.UPRIGHT),
)  # fmt: skip
"""Of a body without a face (common practice)."""


@dataclass(frozen=True)
class LitSolid:
    """A part as a solid under a light.

    Attributes
    ----------
    part
        What it is of the sitter.
    solid
        What it is like.
    x, y
        Where it is lightest, −1 to 1 to the right and upwards.
    shadow
        Part of it that the light does not reach, 0–1.
    """

    part: str
    solid: Solid
    x: float
    y: float
    shadow: float

    @property
    def words(self) -> str:
        """In a sentence."""
        side = "right" if self.x > SOLID_SIDE else "left" if self.x < -SOLID_SIDE else ""
        high = "upper" if self.y > SOLID_SIDE else "lower" if self.y < -SOLID_SIDE else ""
        if high and side:
            where = f"at its {high} {side}"
        elif high:
            where = "along its top" if high == "upper" else "along its foot"
        else:
            where = f"on its {side}" if side else "in its middle"
        if self.solid is Solid.BOWL:
            where += ", across from the light"
        turned = (
            f"; {self.shadow * 100:.0f}\u00a0% of it turns from the light"
            if self.shadow > SOLID_FRONT
            else ""
        )
        article = "an" if self.solid is Solid.UPRIGHT else "a"
        return f"{self.part[:1].upper()}{self.part[1:]}, {article} {self.solid}: lightest {where}{turned}."


def solid_normals(solid: Solid, size: int) -> tuple[Doubles, Mask]:
    """The surface of a solid seen from the front.

    Parameters
    ----------
    solid
        Which.
    size
        Side of the square it fills, in pixels.

    Returns
    -------
    normals, inside
        (size, size, 3) unit vectors, x right, y up, z to the viewer; (size, size) where the solid is.
    """
    down, x = (np.mgrid[0:size, 0:size] + 0.5) / size * 2 - 1
    y = -down
    if solid in (Solid.UPRIGHT, Solid.LYING):
        across, along = (x, y) if solid is Solid.UPRIGHT else (y, x)
        inside = (np.abs(across) < 1) & (np.abs(along) <= 1)
        z, none = np.sqrt(np.clip(1 - across**2, 0, 1)), np.zeros_like(x)
        parts = (x, none, z) if solid is Solid.UPRIGHT else (none, y, z)
        return np.stack(parts, axis=-1), inside
    inside = x**2 + y**2 < 1
    z = np.sqrt(np.clip(1 - x**2 - y**2, 0, 1))
    normals = np.stack([x, y, z], axis=-1)
    if solid is Solid.BOWL:
        # Hollow: what lies to the right faces left.
        normals = normals * (-1, -1, 1)
    if solid is Solid.DOME:
        # The upper part of an egg that leans back.
        normals = normals + np.array((0, DOME_LIES, 0))
        normals /= np.linalg.norm(normals, axis=-1, keepdims=True)
    return normals, inside


def lit(solid: Solid, key: tuple[float, float, float], size: int) -> tuple[Doubles, Mask]:
    """How squarely the light meets each spot of a matt solid (Lambert), −1 to 1, and where the solid is.

    Parameters
    ----------
    solid
        Which.
    key
        Unit vector towards the light, x right, y up, z to the viewer.
    size
        Side in pixels.

    Returns
    -------
    cosine, inside
        (size, size) each.
    """
    normals, inside = solid_normals(solid, size)
    return normals @ np.asarray(key, dtype=np.float64), inside


def lit_solids(
    parts: tuple[tuple[str, Solid], ...], key: tuple[float, float, float], size: int = 64
) -> tuple[LitSolid, ...]:
    """Where each part is lightest as the solid it is like.

    Parameters
    ----------
    parts
        Names and solids.
    key
        Unit vector towards the light.
    size
        Side of the map it is measured on, in pixels.

    Returns
    -------
    tuple[LitSolid, ...]
        In the order given.
    """
    found = []
    for part, solid in parts:
        cosine, inside = lit(solid, key, size)
        top = inside & (cosine >= cosine[inside].max() - 1e-3)
        row, column = (float(np.mean(axis)) for axis in np.nonzero(top))
        x, y = (column + 0.5) / size * 2 - 1, 1 - (row + 0.5) / size * 2
        found.append(LitSolid(part, solid, x, y, float((cosine[inside] <= 0).mean())))
    return tuple(found)
