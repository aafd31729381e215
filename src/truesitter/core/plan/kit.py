"""The kit: what has to lie ready before the first pass, and how much of it."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from truesitter.core.brushes.brush import Brush
from truesitter.core.paint.media.quantity import tube_amounts, tube_cm
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.plan.clock.schedule import PlannedSitting
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.tuning import HEAVY_G_CM3, LONGEST, SETTLES_FROM


@dataclass(frozen=True)
class KitBrush:
    """A brush or another tool, and how many passes want it.

    Attributes
    ----------
    name, brush, passes
        What it is called, the brush where it is one, and how many passes.
    """

    name: str
    brush: Brush | None
    passes: int


@dataclass(frozen=True)
class KitTube:
    """A tube: what is used of it in all, and in the thirstiest sitting."""

    key: str
    ml: float
    cm: float
    most_in_a_sitting_ml: float


@dataclass(frozen=True)
class Kit:
    """All of it.

    Attributes
    ----------
    brushes, tubes
        Widest and most used first.
    thinner_ml
        Water, medium or spirit that thinned layers take.
    timers
        Waits of less than a sitting, as name and minutes.
    stir
        Tubes that settle in thin paint.
    """

    brushes: tuple[KitBrush, ...]
    tubes: tuple[KitTube, ...]
    thinner_ml: float
    timers: tuple[tuple[str, float], ...]
    stir: tuple[str, ...]


def kit_for(plan: PassPlan, sittings: tuple[PlannedSitting, ...], rack: Rack, names: tuple[str, ...]) -> Kit:
    """What a plan needs.

    Parameters
    ----------
    names
        The painter's own names of the value groups.
    """
    return Kit(
        _brushes(plan), _tubes(plan, sittings), _thinner_ml(plan), _timers(plan, names),
        _stir(plan, rack),
    )  # fmt: skip


def _brushes(plan: PassPlan) -> tuple[KitBrush, ...]:
    """Brushes, widest first, then what is no brush."""
    taken = Counter(p.brush for p in plan.passes if p.brush)
    others = Counter(p.tool for p in plan.passes if p.brush is None)
    return (
        *(KitBrush(b.name, b, taken[b]) for b in plan.brushes),
        *(KitBrush(tool, None, count) for tool, count in others.items()),
    )


def _tubes(plan: PassPlan, sittings: tuple[PlannedSitting, ...]) -> tuple[KitTube, ...]:
    used: dict[str, float] = {}
    by_sitting = [dict[str, float]() for _ in sittings]
    share = [
        {b.task: b.minutes / plan.passes[b.task].work_minutes for b in s.intervals} for s in sittings
    ]  # fmt: skip
    for number, one in enumerate(plan.passes):
        if not one.recipe.parts:
            continue
        for mixed, part in one.portions:
            for key, ml in tube_amounts(mixed, one.ml * part).items():
                used[key] = used.get(key, 0.0) + ml
                for spent, parts in zip(by_sitting, share, strict=True):
                    spent[key] = spent.get(key, 0.0) + ml * parts.get(number, 0.0)
    listed = [
        KitTube(key, ml, tube_cm(ml), max((s.get(key, 0.0) for s in by_sitting), default=0.0))
        for key, ml in used.items()
    ]
    return tuple(sorted(listed, key=lambda t: -t.ml))


def _thinner_ml(plan: PassPlan) -> float:
    """Every dilution takes its own thinner for its own part of the paint, and so does every drop."""
    dropped = [sum(charge.ml for charge in p.charges if not charge.added) for p in plan.passes]
    own = sum(
        (p.ml - drops) * t.share * t.dilution.ratio
        for p, drops in zip(plan.passes, dropped, strict=True)
        for t in p.thinned
    )
    return own + sum(c.ml * c.dilution.ratio for p in plan.passes for c in p.charges if not c.added)


def _timers(plan: PassPlan, names: tuple[str, ...]) -> tuple[tuple[str, float], ...]:
    """Waits that are sat out."""
    return tuple((p.title(names), p.wait_minutes) for p in plan.passes if 1 <= p.wait_minutes < LONGEST)


def _stir(plan: PassPlan, rack: Rack) -> tuple[str, ...]:
    """Tubes heavy enough to settle in paint that is thinned or in a watery medium."""
    thin = [p for p in plan.passes if p.thinned or plan.medium.watery]
    used = {key for p in thin for parts, _ in p.portions for key in parts}
    return tuple(sorted(k for k in used if HEAVY_G_CM3.get(rack.base(k), 0.0) > SETTLES_FROM))
