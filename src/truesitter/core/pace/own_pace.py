"""A painter's own pace: how their work compares with what the planner reckons."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import NamedTuple

from truesitter.core.pace.tuning import BRUSH_SIZES, SLOWEST

_FEATURES = frozenset({"eyes", "lips", "mouth", "brows"})


class Level(NamedTuple):
    """What a rate was learned from; an empty field stands for all."""

    kind: str = ""
    place: str = ""
    brush: str = ""
    school: str = ""


@dataclass(frozen=True)
class Learned:
    """What was learned at a level.

    Attributes
    ----------
    factor
        Time or paint it takes, in parts of what is reckoned.
    spread
        Standard deviation as a factor, ≥ 1: most sittings lie between factor ÷ spread and factor × spread.
    sittings
        From how many.
    per_cm2
        Minutes, or ml, on a cm².
    """

    factor: float
    spread: float
    sittings: int
    per_cm2: float

    def bounded(self) -> float:
        """The factor a plan is made with."""
        return min(max(self.factor, 1 / SLOWEST), SLOWEST)


@dataclass(frozen=True)
class OwnPace:
    """Everything learned of a painter.

    Attributes
    ----------
    time, paint, film
        What was learned, by level: of the film, only the paint that stayed on the canvas.
    loss
        Part of the paint that was scraped off, 0–1, and its standard deviation; None when not known.
    """

    time: dict[Level, Learned] = field(default_factory=dict)
    paint: dict[Level, Learned] = field(default_factory=dict)
    film: dict[Level, Learned] = field(default_factory=dict)
    loss: tuple[float, float, int] | None = None

    def __bool__(self) -> bool:
        return bool(self.time or self.paint or self.loss)

    def time_for(self, level: Level) -> tuple[Level, Learned] | None:
        """What is known of the time for such work: the nearest level, and what it says."""
        return _nearest(self.time, level)

    def paint_for(self, level: Level) -> tuple[Level, Learned] | None:
        """Likewise of the paint it takes."""
        return _nearest(self.paint, level)


def levels_of(level: Level) -> tuple[Level, ...]:
    """Levels that a piece of work counts for, nearest first."""
    kind, place, brush, school = level
    return (
        level,
        Level(kind, place, "", school),
        Level(kind, place),
        Level(kind, "", brush),
        Level(kind),
        Level("", "", "", school),
        Level(),
    )


def _nearest(known: dict[Level, Learned], level: Level) -> tuple[Level, Learned] | None:
    return next(((at, known[at]) for at in levels_of(level) if at in known), None)


def brush_size(width_mm: float) -> str:
    """Size of a brush in one word; empty for none.

    Examples
    --------
    >>> brush_size(3.0)
    'small'
    """
    if width_mm <= 0:
        return ""
    return next((word for most, word in BRUSH_SIZES if width_mm < most), "broad")


def place_of(places: Iterable[str]) -> str:
    """The one place that work on several places counts for.

    Examples
    --------
    >>> place_of(["skin"])
    'skin'
    """
    found = {"features" if p in _FEATURES else p.replace("facial hair", "hair") for p in places}
    return found.pop() if len(found) == 1 else "several places"
