"""Supports: what paint is laid on, and how it lets go of it again."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np

from truesitter.core.paint.optics.kubelka_munk import enter_surface
from truesitter.core.types import Doubles

SupportName = Literal["primed canvas", "primed panel", "gesso board", "smooth paper", "rough paper"]
Lightens = Literal["by degrees", "all or nothing", "not at all"]


@dataclass(frozen=True)
class Support:
    """What the first layer lies on.

    Attributes
    ----------
    name
        As the painter calls it.
    reflectance
        0–1 as the eye sees it, even over the spectrum (from memory).
    lightens
        How dry paint comes off it under an eraser or a damp brush [try].
    """

    name: SupportName
    reflectance: float
    lightens: Lightens

    def seen(self) -> Doubles:
        """Reflectance (31,) as the eye sees it."""
        return np.full(31, self.reflectance)

    def internal(self) -> Doubles:
        """Reflectance (31,) below the surface, as films are laid on it."""
        return enter_surface(self.seen())


SUPPORTS: dict[SupportName, Support] = {
    s.name: s
    for s in (
        Support("primed canvas", 0.85, "not at all"),
        Support("primed panel", 0.86, "all or nothing"),
        Support("gesso board", 0.88, "by degrees"),
        Support("smooth paper", 0.88, "by degrees"),
        Support("rough paper", 0.86, "all or nothing"),
    )
}

if set(SUPPORTS) != set(get_args(SupportName)):
    raise AssertionError("every support that can be named is known")

WHITE_PAPER, PRIMED_CANVAS = SUPPORTS["smooth paper"], SUPPORTS["primed canvas"]
