"""The rest of a plan, made anew on what is really on the canvas, beside the plan as it was."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.canvas.tuning import BEYOND
from truesitter.core.colour.value import lab_value
from truesitter.core.easel.compare.difference_words import in_steps
from truesitter.core.imaging.reduce import reduced_labels
from truesitter.core.plan.clock.pacing import paced
from truesitter.core.plan.pass_plan import Pass, PassPlan
from truesitter.core.settings import PaintingSettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.study import Study
from truesitter.core.stages.tuning import PLANNING_LONG_SIDE
from truesitter.core.types import Doubles
from truesitter.core.usecases.tuning import (
    BACKGROUND_MINUTES,
    LEAST_CM2,
    LIFT_MINUTES,
    MOST_REKEY,
    TOUCH_MINUTES,
)


@dataclass(frozen=True)
class AgainWay:
    """A way out: what it is, how many minutes it takes, and how it is done."""

    kind: str
    minutes: float
    words: str


@dataclass(frozen=True)
class Beyond:
    """A place that the passes that are left cannot bring to what was planned.

    Attributes
    ----------
    place
        Its region and value group, in words.
    steps
        Value steps by which it will end up too light.
    area_cm2
        Its area.
    ways
        Ways out, the cheapest first.
    """

    place: str
    steps: float
    area_cm2: float
    ways: tuple[AgainWay, ...]


@dataclass(frozen=True)
class Again:
    """Old and new plan side by side.

    Attributes
    ----------
    old, new
        Passes that were left, and that are left now.
    plan
        The new plan, its first passes as they were laid.
    dropped
        Why passes drop out, in sentences.
    beyond
        What is out of reach.
    """

    old: tuple[Pass, ...]
    new: tuple[Pass, ...]
    plan: PassPlan
    dropped: tuple[str, ...]
    beyond: tuple[Beyond, ...]


def plan_again(study: Study, painting: PaintingSettings) -> Again:
    """Plan the rest on the real canvas; see `EaselStage.again` for what it refuses."""
    new, old = study.easel.again(painting), study.passes.plan()
    laid = painting.after or 0
    names = study.settings.values.group_names()
    before = {r.sentence(names) for r in old.remarks}
    dropped = tuple(s for r in new.remarks if (s := r.sentence(names)) not in before)
    at_pace = paced(new, study.settings.passes.school, study.source.own_pace())
    left = study.passes.paced().passes[laid:], at_pace.passes[laid:]
    return Again(*left, at_pace, dropped, _beyond(study, old, new, names))


def _beyond(study: Study, old: PassPlan, new: PassPlan, names: tuple[str, ...]) -> tuple[Beyond, ...]:
    """Places whose last state differs from the one planned, by region and value group."""
    work = old.bare.patchwork
    off = np.asarray(lab_value(new.finished.labs()) - lab_value(old.finished.labs()))
    regions = work.at(reduced_labels(study.sitter.regions().labels, PLANNING_LONG_SIDE))
    groups = work.at(study.surround.surround().groups)
    mm = study.surround.mm_per_px()
    cm2: Doubles = work.sizes * mm**2 / 100
    found = []
    for region in Region:
        for group in np.unique(groups):
            for sign in (1, -1):
                here = (regions == region) & (groups == group) & (sign * off >= BEYOND)
                area = float(cm2[here].sum())
                if area < LEAST_CM2:
                    continue
                steps = float(np.average(off[here], weights=cm2[here]))
                place = f"{region.spoken}, {names[int(group)]}"
                found.append(Beyond(place, steps, area, _ways(study, steps, area, region)))
    return tuple(sorted(found, key=lambda b: -abs(b.steps) * b.area_cm2))


def _ways(study: Study, steps: float, area: float, region: Region) -> tuple[AgainWay, ...]:
    """What can be done about a place that ends too dark, or too light."""
    school, support = study.passes.settings.followed(), study.passes.support()
    amount = in_steps(steps)
    ways = []
    if steps < 0 and school.transparent:
        if support.lightens == "by degrees":
            ways.append(
                AgainWay(
                    "lift", area * LIFT_MINUTES, f"Lift it by {amount} before the next pass; lifting dulls."
                )
            )
        ways.append(
            AgainWay(
                "opaque touch",
                area * TOUCH_MINUTES,
                "Opaque white with the colours at the very end, sparingly.",
            )
        )
    elif steps < 0:
        ways.append(AgainWay("repaint", area * TOUCH_MINUTES, "Lay it again, opaque, before the next pass."))
    else:
        ways.append(
            AgainWay("another coat", area * LIFT_MINUTES, f"One more coat there: it ends {amount} too light.")
        )
    if region is not Region.BACKGROUND and steps < 0:
        wall = study.sitter.areas().wholes("background").sum() * study.surround.mm_per_px() ** 2 / 100
        words = f"Take the background beside it down by {amount}: it looks lighter for it."
        ways.append(AgainWay("background", float(wall) * BACKGROUND_MINUTES, words))
    if abs(steps) <= MOST_REKEY:
        way = "darker" if steps < 0 else "lighter"
        words = f"Paint all that is left {amount} {way}, so that everything stands to everything as planned."
        ways.append(AgainWay("re-key", 0.0, words))
    return tuple(sorted(ways, key=lambda w: w.minutes or 1e6))
