"""Waiting: when a pass may go over the ones below it."""

from __future__ import annotations

from dataclasses import dataclass

from truesitter.core.pace.tuning import DOUBLES_EVERY, DRYING_SPEED, USUAL_HUMIDITY, USUAL_TEMPERATURE
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.tubes.rack import LIBRARY, Rack


def drying_minutes(base: int, parts: dict[str, int], medium: Medium, rack: Rack = LIBRARY) -> int:
    """Drying time of a mixture in minutes.

    Pigments speed or slow oil only, which hardens by taking up oxygen: there the slowest tube that makes up
    a tenth of the mixture or more decides. What dries by losing water takes its usual time.

    Parameters
    ----------
    base
        Minutes that a mixture of medium speed takes in this medium and room.
    """
    if not medium.oily:
        return base
    total = sum(parts.values())
    speeds = [DRYING_SPEED[rack.pigment(key).oil_drying] for key, p in parts.items() if p * 10 >= total]
    return round(base * max(speeds, default=1.0))


@dataclass(frozen=True)
class Room:
    """The air of the studio.

    Attributes
    ----------
    temperature
        °C.
    humidity
        Relative, in per cent.
    dryer
        True where waits are shortened with a hair dryer.
    """

    temperature: float = USUAL_TEMPERATURE
    humidity: float = USUAL_HUMIDITY
    dryer: bool = False

    def slows(self, watery: bool) -> float:
        """How many times as long paint takes to dry here as in the usual room.

        Warmth speeds both ways of drying; what dries by losing water also waits for dry air, in
        proportion to how far the air is from full.
        """
        warm = 2 ** ((USUAL_TEMPERATURE - self.temperature) / DOUBLES_EVERY)
        damp = (100 - USUAL_HUMIDITY) / (100 - min(self.humidity, 95.0)) if watery else 1.0
        return float(warm * damp)


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
