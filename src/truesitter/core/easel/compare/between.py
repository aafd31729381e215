"""Two paintings of one sitter side by side: how they differ, place by place, and which is nearer to it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.easel.compare.difference_words import in_steps
from truesitter.core.easel.compare.squinted import Squinted
from truesitter.core.easel.compare.tuning import LEAST_OF_PLACE, NEARER, SILENT, SILENT_COLOUR
from truesitter.core.sitter.areas import Areas, middle_of
from truesitter.core.types import Mask

Nearer = Literal["first", "second", "neither"]

_TURNS = {
    (True, True): "warmer", (True, False): "more violet", (False, True): "more yellow-green",
    (False, False): "cooler",
}  # fmt: skip


@dataclass(frozen=True)
class PlaceBetween:
    """One place in two paintings.

    Attributes
    ----------
    place, x, y
        Its name and a spot in it, in fractions.
    steps
        Value steps that it is lighter in the first.
    delta
        L*, a* and b* of the first less the second.
    off
        Mean ΔE2000 of the first and of the second from what is wanted there.
    nearer
        Which of them is clearly nearer.
    words
        All of it in a sentence.
    share
        Part of the picture.
    """

    place: str
    x: float
    y: float
    steps: float
    delta: tuple[float, float, float]
    off: tuple[float, float]
    nearer: Nearer
    words: str
    share: float

    @property
    def alike(self) -> bool:
        """True where no difference is seen that a photograph can be believed in."""
        return abs(self.steps) < SILENT and float(np.hypot(*self.delta[1:])) < SILENT_COLOUR


def between(first: Squinted, second: Squinted, areas: Areas) -> tuple[PlaceBetween, ...]:
    """How two paintings differ, each held to the same thing, the largest difference first.

    Parameters
    ----------
    first, second
        Squinted, of one size and held to the same reference.
    areas
        The picture by name.

    Returns
    -------
    tuple[PlaceBetween, ...]
        Every place that can be seen in both, those that do not differ among them.
    """
    both = first.trusted & second.trusted
    found = [
        _place(name, both & areas.mask(name), first, second)
        for name in areas.names
        if (both & areas.mask(name)).sum() >= LEAST_OF_PLACE * both.size
    ]
    return tuple(sorted(found, key=lambda p: -_size(p)))


def _size(one: PlaceBetween) -> float:
    return float(max(abs(one.steps) / SILENT, np.hypot(*one.delta[1:]) / SILENT_COLOUR) * np.sqrt(one.share))


def _place(name: str, where: Mask, first: Squinted, second: Squinted) -> PlaceBetween:
    steps = float((first.value[where] - second.value[where]).mean())
    means = [p.own[where].mean(axis=0, dtype=np.float64) for p in (first, second)]
    lightness, red, yellow = (float(d) for d in means[0] - means[1])
    off = tuple(float(delta_e_2000(p.own[where], p.plan[where]).mean()) for p in (first, second))
    nearer: Nearer = "neither"
    if min(off) < NEARER * max(off):
        nearer = "first" if off[0] < off[1] else "second"
    words = _words(name, steps, red, yellow, nearer)
    x, y = middle_of(where)
    delta = lightness, red, yellow
    return PlaceBetween(name, x, y, steps, delta, (off[0], off[1]), nearer, words, float(where.mean()))


def _words(name: str, steps: float, red: float, yellow: float, nearer: Nearer) -> str:
    said = [f"{in_steps(steps)} {'lighter' if steps > 0 else 'darker'}"] if abs(steps) >= SILENT else []
    if np.hypot(red, yellow) >= SILENT_COLOUR:
        if abs(red) > 2 * abs(yellow):
            said.append("redder" if red > 0 else "greener")
        elif abs(yellow) > 2 * abs(red):
            said.append("yellower" if yellow > 0 else "bluer")
        else:
            said.append(_TURNS[red > 0, yellow > 0])
    here = f"{', '.join(said)} here" if said else "alike"
    close = {"first": "; this one is nearer to the sitter", "second": "; the other is nearer to the sitter"}
    return f"{name[:1].upper()}{name[1:]}: {here}{close.get(nearer, '')}."
