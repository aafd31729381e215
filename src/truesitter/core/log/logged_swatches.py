"""Drying swatches out of the trials: how paint dries on each paper and in each medium."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Tried
from truesitter.core.log.tuning import LOGGED_SWATCHES_MOST


@dataclass(frozen=True)
class LoggedSwatches:
    """Values wet and dry, as read on one paper in one medium, by rising wet value."""

    paper: str
    medium: str
    pairs: tuple[tuple[float, float], ...]


def swatches_of(entries: Iterable[Entry]) -> tuple[LoggedSwatches, ...]:
    """Swatches by paper and medium; of two with one wet value the newer counts."""
    found: dict[tuple[str, str], dict[float, float]] = {}
    for entry in entries:
        what = entry.what
        if not entry.stands or not isinstance(what, Tried) or what.wet is None or what.dry is None:
            continue
        pairs = found.setdefault((what.paper, what.medium), {})
        pairs.pop(what.wet, None)
        pairs[what.wet] = what.dry
    return tuple(
        LoggedSwatches(paper, medium, tuple(sorted(list(pairs.items())[-LOGGED_SWATCHES_MOST:])))
        for (paper, medium), pairs in sorted(found.items())
    )
