"""Pigments: what is in a tube, and its fitted absorption and scattering curves."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np

from truesitter.core.colour.spaces import Lab, lab_to_srgb, srgb_to_hex
from truesitter.core.colour.spectrum import WAVELENGTHS, reflectance_to_lab
from truesitter.core.data import read_table
from truesitter.core.paint.optics.kubelka_munk import leave_surface, opaque_reflectance
from truesitter.core.types import Doubles


@dataclass(frozen=True)
class Pigment:
    """One pigment of the library; every number is typical, from memory.

    Attributes
    ----------
    key, name, ci_name, family
        Key, generic name, Colour Index name, and family (white, earth, red …).
    masstone, tint
        L*a*b* at full strength, and 1 part in 10 parts titanium white by volume
        (None for the whites).
    opacity, lightfastness, oil_drying, hazard, substitute
        As in the table; hazard and substitute are empty when there is none.
    staining, granulation
        In water: how firmly it holds to paper, 0 lifts – 3 stains; and how much it settles into the hollows
        of the paper, 0 even – 2 strongly.
    """

    key: str
    name: str
    ci_name: str
    family: str
    masstone: Lab
    tint: Lab | None
    opacity: str
    lightfastness: str
    oil_drying: str
    hazard: str
    substitute: str
    staining: int
    granulation: int


@dataclass(frozen=True)
class Curves:
    """Absorption and scattering of one pigment, (31,) each, per mm of film."""

    absorption: Doubles
    scattering: Doubles

    def masstone_hex(self) -> str:
        """Colour of a thick film, for drawing the tube's dab."""
        seen = leave_surface(opaque_reflectance(self.absorption / self.scattering))
        return srgb_to_hex(lab_to_srgb(reflectance_to_lab(seen)))


def _lab(row: dict[str, str], prefix: str) -> Lab | None:
    parts = [row[f"{prefix}_{c}"] for c in ("L", "a", "b")]
    if not all(parts):
        return None
    return (float(parts[0]), float(parts[1]), float(parts[2]))


@cache
def pigment_library() -> dict[str, Pigment]:
    """All pigments by key, in the table's order."""
    library = {}
    water = {row["key"]: row for row in read_table("water.csv")}
    for row in read_table("pigments.csv"):
        masstone = _lab(row, "masstone")
        if masstone is None:
            raise ValueError(f"pigment {row['key']} has no masstone")
        library[row["key"]] = Pigment(
            key=row["key"],
            name=row["name"],
            ci_name=row["ci_name"],
            family=row["family"],
            masstone=masstone,
            tint=_lab(row, "tint"),
            opacity=row["opacity"],
            lightfastness=row["lightfastness"],
            oil_drying=row["oil_drying"],
            hazard=row["hazard"],
            substitute=row["substitute"],
            staining=int(water[row["key"]]["staining"]),
            granulation=int(water[row["key"]]["granulation"]),
        )
    return library


@cache
def pigment_curves() -> dict[str, Curves]:
    """Fitted curves of every pigment, shipped in pigment_curves.csv."""
    table: dict[str, list[tuple[float, float]]] = {}
    for row in read_table("pigment_curves.csv"):
        table.setdefault(row["key"], []).append((float(row["k_per_mm"]), float(row["s_per_mm"])))
    curves = {}
    for key, pairs in table.items():
        columns = np.array(pairs)
        if len(columns) != len(WAVELENGTHS):
            raise ValueError(f"the curves of {key} do not cover 400–700 nm")
        curves[key] = Curves(absorption=columns[:, 0], scattering=columns[:, 1])
    return curves
