"""When each pass of a plan can be painted: what it lies over, how long that dries, and the waits."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from truesitter.core.pace.waiting import Timed, drying_minutes, earliest_starts
from truesitter.core.plan.laying import Scene
from truesitter.core.plan.pass_plan import Pass, Remark
from truesitter.core.school.school_document import PassTemplate
from truesitter.core.sitter.region_names import Region


def with_times(
    passes: Sequence[Pass], templates: Sequence[PassTemplate], scene: Scene, slower: float
) -> tuple[Pass, ...]:
    """Passes with what they lie over, their drying and their waits.

    Parameters
    ----------
    passes, templates
        In order, with their minutes of work, and the school's template of each.
    scene
        What they are painted from.
    slower
        Times that its medium dries slower than the school's own.

    Returns
    -------
    tuple[Pass, ...]
        The same passes.
    """
    air = scene.subject.room
    room = air.slows(scene.medium.watery) / (scene.medium.dryer if air.dryer else 1.0)
    places = [
        current.pieces if current.pieces.any() else np.isin(scene.regions, template.regions)
        for current, template in zip(passes, templates, strict=True)
    ]
    hardly = [not p.pieces.any() for p in passes]
    timed = []
    for number, (current, template) in enumerate(zip(passes, templates, strict=True)):
        # What goes into wet paint waits for nothing laid in the same sitting.
        first = next((n for n in range(number, 0, -1) if not passes[n].into_wet), 0)
        below = range(first if current.into_wet else number)
        # Lines hardly cover one another: they wait for places, not for other lines.
        under = tuple(
            n
            for n in below
            if bool((places[n] & places[number]).any()) and not (hardly[number] and hardly[n])
        )
        base = round(template.dries_minutes * slower * room)
        dries = drying_minutes(base, current.taken_from, scene.medium, scene.palette.rack)
        timed.append(Timed(current.work_minutes, dries, under))
    starts = earliest_starts(tuple(timed))
    found = []
    for number, (current, one) in enumerate(zip(passes, timed, strict=True)):
        end = starts[number] + one.work
        following = starts[number + 1] if number + 1 < len(starts) else end
        found.append(
            replace(
                current, dries_minutes=one.dries, over=one.under, start_minutes=starts[number],
                wait_minutes=max(0.0, following - end), usual_minutes=one.work, usual_ml=current.ml,
            )
        )  # fmt: skip
    return tuple(found)


def short_of(one: Pass) -> Remark:
    """What to say of a pass whose palette comes no nearer to its colour."""
    recipe = one.recipe
    words = (
        f": this palette comes no nearer than {recipe.value_error:+.1f} steps in value "
        f"and ΔE {recipe.delta_e:.0f}."
    )
    return Remark(one.name, one.group, words)


def bare_white(templates: Sequence[PassTemplate], grounds: Sequence[bool]) -> Remark | None:
    """What to say where flesh is judged against bare white; None where it is not.

    Parameters
    ----------
    templates
        Of the passes, in order.
    grounds
        True for those that put no colour on the canvas: grounds, and what takes paint off.
    """

    def first(region: Region) -> int | None:
        colour = (n for n, t in enumerate(templates) if region in t.regions and not grounds[n])
        return next(colour, None)

    toned = any(set(t.regions) == set(Region) for t in templates)
    flesh, wall = first(Region.SKIN), first(Region.BACKGROUND)
    if toned or flesh is None or wall is None or wall < flesh:
        return None
    words = (
        " stays bare white while the flesh is painted: beside it every tone looks darker than it is. "
        "Lay a first tone there, or judge the flesh through a hole in a grey card."
    )
    return Remark("The background", None, words)
