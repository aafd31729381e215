"""How a border is made: by its kind, the medium, the time its paint stays open, and the brush in hand.

All of it is common practice.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from truesitter.core.brushes.brush import Brush, Shape
from truesitter.core.paint.media.media_table import Medium, MediumName
from truesitter.core.plan.hand.tuning import SPRAY_CM_A_MM
from truesitter.core.values.edges import Sharpness

Hand = Literal["open", "body", "wash", "hatch", "spray"]
"""How borders are softened: while paint stays open for hours, while body paint or a wash is damp for minutes,
by strokes that part, by distance."""

_HANDS: dict[MediumName, Hand] = {
    "oil": "open", "quick oil": "open", "acrylic": "body", "gouache": "body", "watercolour": "wash",
    "egg tempera": "hatch", "airbrush": "spray",
}  # fmt: skip

if set(_HANDS) != set(get_args(MediumName)):
    raise AssertionError("borders are made in every medium that can be named")


@dataclass(frozen=True)
class Border:
    """A border to be made.

    Attributes
    ----------
    kind, one_sided, width_mm
        Hard, firm, soft or lost; whether it is soft on one side alone; its 10–90 % width.
    """

    kind: Sharpness
    one_sided: bool
    width_mm: float


def means_of(border: Border, medium: Medium, clear: bool, brush: Brush | None) -> str:
    """How to make a border, in words.

    Parameters
    ----------
    medium, clear
        What is painted in, and whether in washes over white.
    brush
        The brush in hand; None for another tool.
    """
    hand = "wash" if clear and medium.watery and not medium.sprayed else _HANDS[medium.name]
    within = f"within {_minutes(medium.open_minutes[0])}"
    if hand == "spray":
        return _sprayed(border)
    if hand == "hatch":
        return _hatched(border, _drawn(brush))
    if hand == "wash":
        return _washed(border, within)
    return _opaque(border, brush, within if hand == "body" else "")


_ALONG: dict[Shape, str] = {
    "flat": "the flat set along it",
    "filbert": "the narrow side of the filbert along it",
    "round": "the point along it",
    "liner": "the liner along it",
    "mop": "the mop stopped short of it, its edge drawn with a point",
}
"""A crisp edge, by the shape of the brush."""


def _drawn(brush: Brush | None) -> str:
    return "a card or tape along it" if brush is None else _ALONG[brush.shape]


def _opaque(border: Border, brush: Brush | None, within: str) -> str:
    """In paint that hides: `within` says how long it is damp, and is empty where it stays open for hours."""
    if border.one_sided:
        if brush and brush.shape in ("flat", "filbert") and not within:
            return f"the {brush.shape} loaded on one side"
        return f"{_drawn(brush)}, the soft side drawn out with a clean brush {within or 'while it is open'}"
    if border.kind is Sharpness.HARD:
        return _drawn(brush)
    if border.kind is Sharpness.FIRM:
        return f"{_drawn(brush)}, then one light stroke {within or 'while it is open'}"
    return _blended(border, brush, within)


def _blended(border: Border, brush: Brush | None, within: str) -> str:
    if within:
        damp = f"a damp brush over both {within}, later thin strokes side by side"
        return "thinned towards it, stroke over stroke" if border.kind is Sharpness.LOST else damp
    if border.kind is Sharpness.LOST:
        return "let the two run into one another"
    if brush and brush.shape == "flat":
        return "light strokes of the flat across it while both are open"
    return f"the {brush.shape if brush else 'brush'} over both while they are open"


def _washed(border: Border, within: str) -> str:
    if border.kind is Sharpness.LOST:
        return "on damp paper, left to run out"
    if border.one_sided:
        return f"one side on dry paper, the other drawn out with a clean damp brush {within}"
    if border.kind is Sharpness.HARD:
        return "on dry paper, left alone until it is dry"
    if border.kind is Sharpness.FIRM:
        return f"on dry paper, touched once with a damp brush {within}"
    return f"a damp brush along it {within}, or damp paper first"


def _hatched(border: Border, drawn: str) -> str:
    wide = f"over {border.width_mm:.0f} mm"
    if border.kind is Sharpness.LOST:
        return f"thinner from coat to coat, its last strokes far apart {wide}"
    if border.one_sided:
        return f"{drawn}, strokes that part {wide} on its soft side"
    if border.kind is Sharpness.HARD:
        return drawn
    if border.kind is Sharpness.FIRM:
        return "one row of short strokes across it"
    return f"hatched, strokes that part {wide}"


def _sprayed(border: Border) -> str:
    off = f"about {max(1.0, border.width_mm * SPRAY_CM_A_MM):.0f} cm off"
    if border.kind is Sharpness.LOST:
        return "freehand, both at once"
    if border.one_sided:
        return f"a shield on the crisp side, then freehand away from it, {off}"
    if border.kind is Sharpness.HARD:
        return "a shield or narrow tape, then freehand over it"
    if border.kind is Sharpness.FIRM:
        return "a shield held just off the surface, then freehand"
    return f"freehand, {off}"


def _minutes(number: float) -> str:
    if number < 0.75:
        return "half a minute"
    return "a minute" if number < 1.5 else f"{number:.0f} minutes"
