"""What the log writes down of a pass that is worked on."""

from __future__ import annotations

from truesitter.core.log.events import Work
from truesitter.core.pace.own_pace import place_of
from truesitter.core.plan.pass_plan import Pass


def work_of(one: Pass, school: str, group_names: tuple[str, ...], mixture: str = "") -> Work:
    """A pass as the log keeps it: the plan may change, what was done stays what it was.

    Parameters
    ----------
    school
        Key of the school.
    group_names
        The painter's own names of the value groups.
    mixture
        Its recipe in words.
    """
    return Work(
        name=one.title(group_names)[:120],
        school=school,
        key=one.key,
        kind=one.does,
        place=place_of(one.places),
        mixture=mixture[:300],
        brush_mm=one.brush_mm,
        area_cm2=one.area_cm2,
        minutes=one.usual_minutes,
        ml=one.usual_ml,
        dries_minutes=one.dries_minutes,
    )
