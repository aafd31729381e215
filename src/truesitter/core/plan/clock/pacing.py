"""A plan at the painter's own pace: what each pass takes by what was learned of such work."""

from __future__ import annotations

from dataclasses import replace

from truesitter.core.pace.own_pace import Level, OwnPace, brush_size, place_of
from truesitter.core.pace.waiting import Timed, earliest_starts
from truesitter.core.plan.clock.tuning import SPREAD
from truesitter.core.plan.heaps import with_amounts
from truesitter.core.plan.pass_plan import Hours, Pass, PassPlan


def level_of(one: Pass, school: str) -> Level:
    """What a pass's time and paint are learned under; `school` is a key."""
    return Level(one.does, place_of(one.places), brush_size(one.brush_mm), school)


def paced(plan: PassPlan, school: str, pace: OwnPace) -> PassPlan:
    """A plan with the time and the paint that its passes take this painter.

    What nothing is known of stays as reckoned; starts and waits follow.

    Parameters
    ----------
    school
        Key of the school it follows.
    """
    if not pace:
        return plan
    passes = [_at_own_pace(one, school, pace) for one in plan.passes]
    starts = earliest_starts(tuple(Timed(p.work_minutes, p.dries_minutes, p.over) for p in passes))
    ends = [start + p.work_minutes for start, p in zip(starts, passes, strict=True)]
    following = [*starts[1:], ends[-1]] if ends else []
    timed = tuple(
        replace(p, start_minutes=start, wait_minutes=max(0.0, next_ - end))
        for p, start, end, next_ in zip(passes, starts, ends, following, strict=True)
    )
    heaps = with_amounts(plan.heaps, timed)
    return replace(plan, passes=timed, hours=_hours(timed, plan.hours), heaps=heaps)


def _at_own_pace(one: Pass, school: str, pace: OwnPace) -> Pass:
    level = level_of(one, school)
    time, paint = pace.time_for(level), pace.paint_for(level)
    spent = paint[1].bounded() if paint else 1.0
    return replace(
        one,
        work_minutes=one.usual_minutes * (time[1].bounded() if time else 1.0),
        ml=one.usual_ml * spent,
        charges=tuple(replace(charge, ml=charge.ml * spent) for charge in one.charges),
        pace=time,
        paint=paint,
    )


def _hours(passes: tuple[Pass, ...], usual: Hours) -> Hours:
    """Hours of some passes: how far they may differ was learned, or is taken as usual.

    The part of the hair is told as reckoned: passes over several places do not say what went where.
    """
    least = sum(p.work_minutes * (1 / p.pace[1].spread if p.pace else SPREAD[0]) for p in passes)
    most = sum(p.work_minutes * (p.pace[1].spread if p.pace else SPREAD[1]) for p in passes)
    likely = sum(p.work_minutes for p in passes)
    return Hours(least / 60, likely / 60, most / 60, usual.hair)
