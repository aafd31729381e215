"""How things stand to one another: what a painter judges before any single tone."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.easel.compare.difference_words import in_steps
from truesitter.core.easel.compare.squinted import Squinted
from truesitter.core.easel.compare.tuning import LEAST_PX, SILENT
from truesitter.core.sitter.areas import Areas
from truesitter.core.types import Mask


@dataclass(frozen=True)
class Relation:
    """Two things beside one another.

    Attributes
    ----------
    one, other
        Their names.
    painted, planned
        By how many steps the first is lighter than the second.
    """

    one: str
    other: str
    painted: float
    planned: float

    @property
    def off(self) -> float:
        """Value steps by which their distance is off."""
        return self.painted - self.planned

    @property
    def holds(self) -> bool:
        """True when nobody would see it."""
        return abs(self.off) < SILENT

    @property
    def words(self) -> str:
        """In a sentence."""
        if self.holds:
            return f"{self.one} against {self.other}: as planned."
        grown = abs(self.painted) > abs(self.planned) or self.painted * self.planned < 0
        how = "too far apart" if grown else "too near together"
        return f"{self.one} against {self.other}: {how}, by {in_steps(self.off)}."


def relations_of(seen: Squinted, areas: Areas) -> tuple[Relation, ...]:
    """Sides of the face, pairs of features, and the large masses, farthest off first."""
    pairs: list[tuple[str, Mask, str, Mask]] = []
    sides = [
        np.isin(areas.labels, [i for i, n in enumerate(areas.names) if n.startswith(f"{s} ")])
        & areas.wholes("face")
        for s in ("left", "right")
    ]
    pairs.append(("left side of the face", sides[0], "right side", sides[1]))
    for thing in ("eye socket", "cheekbone", "cheek", "jaw", "brow ridge", "temple"):
        names = [f"left {thing}", f"right {thing}"]
        if all(n in areas.names for n in names):
            pairs.append((names[0], areas.mask(names[0]), names[1], areas.mask(names[1])))
    skin = "face" if "face" in areas.whole else "skin"
    for one, other in (("hair", skin), (skin, "background"), ("garment", skin), ("hair", "background")):
        if one in areas.whole and other in areas.whole:
            pairs.append((one, areas.wholes(one), other, areas.wholes(other)))
    if "upper lip" in areas.names and "lower lip" in areas.names:
        pairs.append(("upper lip", areas.mask("upper lip"), "lower lip", areas.mask("lower lip")))
    found = []
    for one, here, other, there in pairs:
        a, b = here & seen.trusted, there & seen.trusted
        if min(a.sum(), b.sum()) >= LEAST_PX:
            painted, planned = (float(v[a].mean() - v[b].mean()) for v in (seen.value, seen.wanted))
            found.append(Relation(one, other, painted, planned))
    return tuple(sorted(found, key=lambda r: -abs(r.off)))
