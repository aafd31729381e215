"""When a drill is due again: boxes with growing intervals (Leitner 1972, *So lernt man lernen*).

A go that went well when it was due moves a drill one box on, one that did not puts it back into the first;
one that went well ahead of its time leaves it where it is, as only what is due is looked at. The boxes are
looked at after 1, 2, 4, 8 and 16 days (the doubling is common practice; Leitner sized his boxes).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from truesitter.core.drills.tuning import DAYS, EARLY, WELL


@dataclass(frozen=True)
class DrillSession:
    """One go at a drill: when it ended, and the part of its rounds that were right."""

    at: datetime
    right: float


@dataclass(frozen=True)
class Due:
    """When a drill is due.

    Attributes
    ----------
    box
        Which it lies in, from 1; 0 before the first go.
    at
        When it is due; None before the first go: now.
    """

    box: int
    at: datetime | None


def due(goes: Iterable[DrillSession]) -> Due:
    """Where a drill lies after some goes, oldest first."""
    box, at = 0, None
    for go in goes:
        well = go.right >= WELL
        if well and at is not None and go.at < at - EARLY:
            continue
        box = min(box + 1, len(DAYS)) if well else 1
        at = go.at + timedelta(days=DAYS[box - 1])
    return Due(box, at)
