"""What was learned of a painter's pace, in words."""

from __future__ import annotations

from typing import get_args

from truesitter.core.pace.own_pace import Learned, Level
from truesitter.core.plan.pass_plan import Doing

_LIKE_USUAL = 1.05
"""Nothing is called faster or slower that differs by less [try]."""

_WORK: dict[str, str] = {
    "ground": "grounds", "wash": "washes", "mass": "masses", "glaze": "glazes", "light": "lights",
    "lines": "lines", "remove": "taking off", "coat": "sprayed coats", "smear": "smearing",
}  # fmt: skip

if set(_WORK) != set(get_args(Doing)):
    raise AssertionError("whatever is done in a pass has a name")


def level_words(level: Level) -> str:
    """Which work is meant, as ``washes on skin with a small brush``."""
    said = _WORK.get(level.kind, level.kind) or "all work"
    if level.place:
        said += f" on {level.place}"
    if level.brush:
        said += f" with a {level.brush} brush"
    if level.school:
        said += f" in {level.school.replace('-', ' ')}"
    return said


def times(factor: float) -> str:
    """A factor, as ``1.4 times``."""
    return f"{factor:.2g} times"


def pace_words(found: tuple[Level, Learned] | None, more: str, same: str) -> str:
    """What was learned, as ``takes you 1.4 times as long``; empty for nothing.

    Parameters
    ----------
    more, same
        Words for what differs from the usual, and for what does not.
    """
    if found is None:
        return ""
    level, learned = found
    from_ = f"learned from {learned.sittings} sittings of {level_words(level)}"
    if 1 / _LIKE_USUAL < learned.factor < _LIKE_USUAL:
        return f"{same}, {from_}"
    return f"{more} {times(learned.bounded())} the usual, {from_}"
