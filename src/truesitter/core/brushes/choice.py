"""The few brushes for a painting: of those that are there, the ones that take the fewest minutes in all."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from truesitter.core.brushes.brush import EVERY_BRUSH, Brush, Shape
from truesitter.core.brushes.laying import laying_minutes
from truesitter.core.brushes.tuning import (
    LINE_HAIR,
    LINE_LENGTH,
    LINE_SECONDS,
    MINUTES_A_BRUSH,
    MOST_BRUSHES,
    MOST_MISSING,
    NARROW,
    OTHER_SHAPE,
    TIP,
    UNFIT_MINUTES,
    UNLIKE,
    WORTH_MINUTES,
)
from truesitter.core.types import Doubles

_TOOLS: dict[str, Shape | None] = {
    "flat": "flat", "filbert": "filbert", "round": "round", "liner": "liner", "rigger": "liner", "mop": "mop",
    "rag": None, "eraser": None, "airbrush": None, "handle": None, "finger": None, "sponge": None,
    "knife": None, "tissue": None,
}  # fmt: skip
_WORD = re.compile(r"\b(" + "|".join((*_TOOLS, "brush")) + r")\b")
_KIND = "|".join(name for name, shape in _TOOLS.items() if shape)
_BRUSH_WORDS = re.compile(
    rf"\b(?:(?:large|small|broad|wide|soft|fine|old|middle)\s+)*(?:(?:{_KIND})(?:\s+brush)?|brush)"
    rf"(?:,?\s+or\s+(?:an?\s+)?(?:{_KIND}|brush)(?:\s+brush)?)?\b"
)


@dataclass(frozen=True)
class Work:
    """What one pass asks of its brush.

    Attributes
    ----------
    tool
        As the school words it.
    room_mm
        The widest brush that goes into its place.
    area_cm2
        What it covers, all its coats together.
    lines_mm
        (n,) widths of the lines it is made of, mm; none for a place.
    watery, thick
        True for paint thinned with water; and for a film that soft hair hardly moves.
    """

    tool: str
    room_mm: float
    area_cm2: float
    lines_mm: Doubles
    watery: bool = False
    thick: bool = False

    @property
    def shape(self) -> Shape | None:
        """The shape its tool is of; None for what is no brush."""
        met = _WORD.search(self.tool)
        if met is None:
            return None
        word = met.group(1)
        return _TOOLS.get(word, "mop" if "soft" in self.tool else "flat")

    @property
    def soft(self) -> bool:
        """True where soft hair is asked for."""
        return "soft" in self.tool or self.shape == "mop"


@dataclass(frozen=True)
class Missing:
    """A brush that is not there.

    Attributes
    ----------
    brush
        What it would be.
    minutes
        What it would save.
    works
        Numbers of the works it would be taken for.
    too_wide
        True where nothing that is there is narrow enough.
    """

    brush: Brush
    minutes: float
    works: tuple[int, ...]
    too_wide: bool


@dataclass(frozen=True)
class Chosen:
    """Brushes for a painting.

    Attributes
    ----------
    brushes
        Widest first.
    taken
        For each work the brush it is done with; None for what is no brush's.
    longer
        For each work the minutes it takes beyond those with the widest brush that goes in.
    missing
        What is worth buying.
    """

    brushes: tuple[Brush, ...]
    taken: tuple[Brush | None, ...]
    longer: tuple[float, ...]
    missing: tuple[Missing, ...]


def fits(brush: Brush, work: Work) -> bool:
    """True for a brush that the work can be done with."""
    if len(work.lines_mm):
        # A flat draws along its edge or lays its whole width.
        broad = not brush.pointed and brush.mm > work.lines_mm.max() + 1e-9
        return not broad and brush.finest_mm <= _thin_line(work) + 1e-9
    if work.watery and brush.stiffness == "stiff":
        # It takes up what is below.
        return False
    if brush.shape == "mop" and (work.thick or not (work.soft or work.watery)):
        return False
    return brush.mm * (TIP if brush.pointed else 1.0) <= work.room_mm + 1e-9


def _thin_line(work: Work) -> float:
    """Most of its lines are no thinner."""
    return float(np.quantile(work.lines_mm, 0.1))


def minutes_with(brush: Brush, work: Work) -> float:
    """Minutes of laying; whether the brush goes in is told by `fits`."""
    if len(work.lines_mm):
        # Lines wider than the brush are drawn in strokes side by side.
        strokes = float(np.maximum(1, np.ceil(work.lines_mm / brush.mm - 1e-9)).sum())
        return strokes * LINE_SECONDS / 60 * LINE_LENGTH[brush.length] * LINE_HAIR[brush.stiffness]
    times = 1.0
    if (work.soft and brush.stiffness != "soft") or (work.thick and brush.stiffness == "soft"):
        times *= UNLIKE
    if brush.mm > work.room_mm:
        times *= UNLIKE
    # A filbert is a flat with its corners off.
    lays, asked = (s.replace("filbert", "flat") for s in (brush.shape, work.shape or brush.shape))
    if lays != asked:
        times *= OTHER_SHAPE
    return laying_minutes(work.area_cm2, brush.covers_mm(work.room_mm, work.watery)) * times


def _cost(brush: Brush, work: Work) -> float:
    minutes = minutes_with(brush, work)
    if fits(brush, work):
        return minutes
    wide = brush.finest_mm / _thin_line(work) if len(work.lines_mm) else brush.mm / work.room_mm
    return minutes + UNFIT_MINUTES * (1 + min(wide, 1e3))


def chosen(works: Sequence[Work], owned: Sequence[Brush], most: int = MOST_BRUSHES) -> Chosen:
    """The brushes that a painting takes the fewest minutes with.

    Parameters
    ----------
    works
        What each pass asks.
    owned
        What there is; with nothing, what a shop has.
    most
        So many at most, 1 or more.
    """
    there = tuple(dict.fromkeys(owned)) or EVERY_BRUSH
    painted = [n for n, w in enumerate(works) if w.shape is not None]
    if not painted:
        none = (None,) * len(works)
        return Chosen((), none, (0.0,) * len(works), ())
    asked = [works[n] for n in painted]
    cost = _costs(there, asked)
    some = _few(cost, most)
    best = cost[some].argmin(axis=0)
    taken: list[Brush | None] = [None] * len(works)
    longer = [0.0] * len(works)
    for place, row in enumerate(best):
        number, brush, work = painted[place], there[some[row]], asked[place]
        taken[number] = brush
        longer[number] = max(0.0, minutes_with(brush, work) - minutes_with(_ideal(work), work))
    used = sorted({some[row] for row in best}, key=lambda b: (-there[b].mm, there[b].shape))
    missing = _missing(cost, some, asked, painted, there, most) if owned else ()
    return Chosen(tuple(there[b] for b in used), tuple(taken), tuple(longer), missing)


def _costs(brushes: Sequence[Brush], works: Sequence[Work]) -> Doubles:
    """(brushes, works) minutes, and very many where a brush does not go in."""
    return np.array([[_cost(b, w) for w in works] for b in brushes])


def _ideal(work: Work) -> Brush:
    """The widest that goes in, of the shape that is asked for."""
    widest = float(work.lines_mm.max()) if len(work.lines_mm) else work.room_mm
    return Brush(work.shape or "flat", widest, stiffness="soft" if work.soft else "springy")


def _few(cost: Doubles, most: int) -> list[int]:
    """Rows of a cost matrix, at most so many, with which the sum of each column's least is least.

    One after another is added and then exchanged as long as that helps; each costs something by itself.
    """

    def total(rows: list[int]) -> float:
        return float(cost[rows].min(axis=0).sum()) + MINUTES_A_BRUSH * len(rows)

    some, now = list[int](), float("inf")
    while len(some) < most:
        others = [n for n in range(len(cost)) if n not in some]
        if not others:
            break
        best = min(others, key=lambda n: total([*some, n]))
        if total([*some, best]) >= now:
            break
        some, now = [*some, best], total([*some, best])
    while True:
        swaps = [
            [*some[:place], n, *some[place + 1 :]]
            for place in range(len(some))
            for n in range(len(cost))
            if n not in some
        ]
        swaps += [[*some[:place], *some[place + 1 :]] for place in range(len(some)) if len(some) > 1]
        better = min(swaps, key=total, default=some)
        if total(better) >= now - 1e-9:
            return some
        some, now = better, total(better)


def _missing(
    cost: Doubles, some: list[int], asked: Sequence[Work], painted: Sequence[int], there: Sequence[Brush],
    most: int,
) -> tuple[Missing, ...]:  # fmt: skip
    """What is worth buying, most first."""
    rows, held, found = cost[some], [there[n] for n in some], list[Missing]()
    others = [b for b in EVERY_BRUSH if b.key not in {t.key for t in there}]
    added = _costs(others, asked)
    while len(found) < MOST_MISSING:
        before = rows.min(axis=0)
        using = [held[n] for n in rows.argmin(axis=0)]
        best: tuple[float, int, list[int], bool] | None = None
        for number, brush in enumerate(others):
            row = added[number]
            # With the hand full another is laid away for it.
            kept = [np.vstack([np.delete(rows, n, axis=0), row]) for n in range(len(rows))]
            with_it = [np.vstack([rows, row])] if len(rows) < most else kept
            taken = [n for n in range(len(asked)) if row[n] < before[n] - 1e-9 and fits(brush, asked[n])]
            narrow = [n for n in taken if brush.mm >= NARROW * using[n].mm]
            wide = [n for n in taken if not fits(using[n], asked[n])]
            saved = float(before.sum() - min(w.min(axis=0).sum() for w in with_it))
            worth = wide or float((before - row)[narrow].sum()) > WORTH_MINUTES
            if worth and saved > WORTH_MINUTES and (best is None or saved > best[0]):
                best = saved, number, taken, bool(wide)
        if best is None:
            break
        _, number, taken, unfit = best
        real = sum(minutes_with(using[n], asked[n]) - minutes_with(others[number], asked[n]) for n in taken)
        found.append(Missing(others[number], max(0.0, real), tuple(painted[n] for n in taken), unfit))
        rows, held = np.vstack([rows, added[number]]), [*held, others[number]]
    return tuple(found)


def tool_words(tool: str, brush: Brush | None) -> str:
    """The words of a tool with the brush that is taken in them.

    Examples
    --------
    >>> from truesitter.core.brushes.brush import brush_of
    >>> tool_words("filbert, then rigger", brush_of("10filbert"))
    'no. 10 filbert, then rigger'
    >>> tool_words("rag round a finger", None)
    'rag round a finger'
    """
    return tool if brush is None else _BRUSH_WORDS.sub(brush.name, tool, count=1)
