"""Waiting: when a pass may go over the ones below it."""

from __future__ import annotations

from dataclasses import dataclass

from truesitter.core.paint.tubes.rack import LIBRARY, Rack

_SPEED = {"fast": 0.6, "medium": 1.0, "slow": 1.6}
"""Drying time of a pigment ground in oil, relative to a medium one (from memory)."""


def drying_minutes(base: int, parts: dict[str, int], rack: Rack = LIBRARY) -> int:
    """Drying time of a mixture: that of its slowest tube that makes up a tenth of it or more."""
    total = sum(parts.values())
    speeds = [_SPEED[rack.pigment(key).oil_drying] for key, p in parts.items() if p * 10 >= total]
    return round(base * max(speeds, default=1.0))


@dataclass(frozen=True)
class Timed:
    """A pass as the clock sees it.

    Attributes
    ----------
    work
        Minutes it takes.
    dries
        Minutes before another layer may go over it.
    under
        Numbers of the earlier passes that it lies over.
    """

    work: float
    dries: float
    under: tuple[int, ...]


def earliest_starts(passes: tuple[Timed, ...]) -> tuple[float, ...]:
    """Earliest start of every pass, minutes after the first begins.

    A pass starts when the one before is finished and everything below it has dried.
    """
    starts: list[float] = []
    for number, current in enumerate(passes):
        start = 0.0
        if number:
            start = starts[-1] + passes[number - 1].work
        for below in current.under:
            start = max(start, starts[below] + passes[below].work + passes[below].dries)
        starts.append(start)
    return tuple(starts)
