"""How wet the paper is for a wash, and how long that leaves for it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from tests.core.plan.water.test_charges import planned, turning
from truesitter.core.pace.waiting import Room
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.plan.subject import Subject
from truesitter.core.plan.water.tuning import PAPER_OPEN
from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.school_document import PaperState
from truesitter.core.sitter.region_names import Region

OPEN = MEDIA["watercolour"].open_minutes[1]


def on_paper(paper: PaperState | None, one: Subject) -> PassPlan:
    school = SCHOOLS["watercolour-zones"]
    passes = tuple(p.model_copy(update={"paper": paper}) for p in school.passes)
    palette = next(p for p in STARTERS if p.key == "warm-cool-six")
    return plan_passes(
        one, palette, school.model_copy(update={"passes": passes}), medium=MEDIA["watercolour"]
    )


@pytest.mark.parametrize("paper", ["damp", "wet", "soaked"])
def test_paper_that_was_wetted_stays_open_for_longer(paper: PaperState) -> None:
    for one in on_paper(paper, turning(30.0)).passes:
        if one.way:
            assert one.paper == paper
            assert one.open_minutes[1] == pytest.approx(OPEN * PAPER_OPEN[paper])


def test_a_small_wash_is_dropped_into_dry_and_a_large_one_is_wetted_first() -> None:
    """What cannot be laid while it is open cannot be charged on dry paper either."""
    small, large = turning(30.0), replace(turning(30.0), mm_per_px=4.0)
    papers = [{p.paper for p in planned(one).passes if p.charges} for one in (small, large)]
    assert papers == [{"dry"}, {"wet"}]


def test_a_wash_over_face_and_wall_links_them() -> None:
    school = SCHOOLS["watercolour-zones"]
    first = school.passes[0]
    both = first.model_copy(update={"regions": (Region.SKIN, Region.BACKGROUND), "steps": 1, "to_step": 1})
    one = turning(30.0)
    half = one.regions.copy()
    half[:, :70] = int(Region.BACKGROUND)
    palette = next(p for p in STARTERS if p.key == "warm-cool-six")
    plan = plan_passes(
        replace(one, regions=half), palette, school.model_copy(update={"passes": (both,)}),
        medium=MEDIA["watercolour"],
    )  # fmt: skip
    (laid,) = (p for p in plan.passes if p.way)
    assert laid.way == "linked"
    (alone,) = (
        p
        for p in plan_passes(
            one, palette, school.model_copy(update={"passes": (both,)}), medium=MEDIA["watercolour"]
        ).passes
        if p.way
    )
    assert alone.way == "flat"


def test_a_hair_dryer_shortens_the_waits_and_not_the_time_to_work() -> None:
    """Twenty times as fast in watercolour (from memory)."""
    by_itself = planned(turning(0.0))
    dried = planned(replace(turning(0.0), room=Room(dryer=True)))
    waits = [np.array([p.dries_minutes for p in plan.passes]) for plan in (by_itself, dried)]
    np.testing.assert_allclose(waits[1], waits[0] / MEDIA["watercolour"].dryer, atol=0.51)
    assert dried.passes[0].open_minutes == by_itself.passes[0].open_minutes


def test_damp_air_leaves_longer_for_an_edge() -> None:
    usual = planned(turning(0.0)).passes[0].open_minutes
    damp = planned(replace(turning(0.0), room=Room(humidity=75))).passes[0].open_minutes
    assert damp[1] == pytest.approx(2 * usual[1])
