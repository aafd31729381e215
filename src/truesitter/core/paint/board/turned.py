"""A mixture turned another way: half a step darker and bluer, by the smallest addition to its heap."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.paint.board.steps import step_to
from truesitter.core.paint.board.tuning import BASES, TURN
from truesitter.core.paint.recipes.mixing import Colour, mix
from truesitter.core.paint.tubes.palettes import Palette

Way = Literal["redder", "yellower", "greener", "bluer", "greyer", "stronger"]


_AXES: dict[Way, tuple[float, float]] = {
    "redder": (1.0, 0.0), "yellower": (0.0, 1.0), "greener": (-1.0, 0.0), "bluer": (0.0, -1.0),
}  # fmt: skip


@dataclass(frozen=True)
class TurnedMixture:
    """A mixture and what turned it.

    Attributes
    ----------
    base, added
        Parts of the mixture, and parts of tubes added to them.
    wanted, after
        Colour aimed at, and made.
    """

    base: int
    added: dict[str, int]
    wanted: Colour
    after: Colour


def turned(parts: Mapping[str, int], steps: float, way: Way | None, palette: Palette) -> TurnedMixture:
    """A mixture made so many value steps lighter (darker below 0), and turned one way.

    Parameters
    ----------
    parts
        Straight from the tubes, all in `palette`.
    palette
        Tubes that may be added, opaque.
    """
    before = mix({k: float(n) for k, n in parts.items()}, palette)
    lightness, a, b = before.lab
    value = float(np.clip(lab_value(np.array(before.lab)) + steps, 0.3, 9.7))
    chroma = float(np.hypot(a, b))
    if way in _AXES:
        a, b = a + TURN * _AXES[way][0], b + TURN * _AXES[way][1]
    elif way and chroma > 1e-6:
        scale = max(0.0, chroma + (TURN if way == "stronger" else -TURN)) / chroma
        a, b = a * scale, b * scale
    lightness = float(value_to_lightness(value)) if steps else lightness
    wanted = np.array([lightness, a, b])
    whole = sum(parts.values())
    shares = np.array([parts.get(key, 0) / whole for key in palette.tubes])
    base, added, after = step_to(shares, wanted, palette, BASES, kinds=2 if len(palette.tubes) > 8 else 3)
    counted = {key: int(n) for key, n in zip(palette.tubes, added, strict=True) if n}
    return TurnedMixture(base, counted, Colour.of(wanted), after)
