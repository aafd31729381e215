"""A painting under way: the rest is planned on what is really there, from the heaps that are mixed."""

from __future__ import annotations

from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.canvas.begun import Begun, adds_nothing
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.plan.size import JOINED
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study

LAID = 6


@pytest.fixture(scope="module")
def study() -> Study:
    base = study_of("selda")
    chosen = base.settings.model_dump()
    chosen["passes"] |= {"school": "layered-oil", "size": "portrait"}
    return Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)


@pytest.fixture(scope="module")
def plan(study: Study) -> PassPlan:
    return study.passes.plan()


def rest_of(
    study: Study,
    plan: PassPlan,
    off: float,
    heaps: tuple[dict[str, int], ...] | None = None,
    left_out: str = "",
) -> PassPlan:
    """The plan made anew for a painting whose background is lighter by so much."""
    subject = study.passes.subject()
    wall = subject.regions == Region.BACKGROUND
    lighter = np.zeros((*subject.groups.shape, 3), np.float32)
    lighter[wall, 0] = off
    mixed = tuple(h.parts for h in plan.heaps) if heaps is None else heaps
    keys = tuple(k for k in plan.every_key if k[0] != left_out)
    begun = Begun(LAID, lighter, np.ones(wall.shape, bool), keys, mixed)
    flesh = study.flesh.settings
    return plan_passes(
        subject, study.flesh.palette(), study.passes.settings.adapted(), flesh.wishes(), flesh.medium_used(),
        None, begun,
    )  # fmt: skip


def test_what_stands_there_is_laid_under_the_first_pass_that_is_left(study: Study, plan: PassPlan) -> None:
    again = rest_of(study, plan, 12.0)
    work = plan.bare.patchwork
    wall = work.at(study.passes.subject().regions) == Region.BACKGROUND
    sizes = work.sizes[wall]

    def lighter(key: str) -> float:
        one, other = again.canvases[again.keys.index(key)], plan.canvases[plan.keys.index(key)]
        return float(np.average((one.labs() - other.labs())[wall, 0], weights=sizes))

    before, last = plan.keys[LAID - 2 : LAID]
    assert abs(lighter(before)) < 1
    assert lighter(last) == pytest.approx(12, abs=2.5)
    assert Begun(LAID, np.zeros((1, 1, 3), np.float32), np.ones((1, 1), bool)).last == ""


def test_the_rest_is_mixed_from_the_heaps_that_are_there(study: Study, plan: PassPlan) -> None:
    """One that was mixed a little otherwise than planned is used, and none of nearly its colour beside it."""
    mixed = tuple({k: 2 * n + (n == max(h.parts.values())) for k, n in h.parts.items()} for h in plan.heaps)
    kept = [tuple(sorted(parts.items())) for parts in mixed]

    def there(heaps: tuple[dict[str, int], ...]) -> int:
        again = rest_of(study, plan, 12.0, heaps)
        return sum(tuple(sorted(h.parts.items())) in kept for h in again.heaps)

    assert there(mixed) >= len(mixed) - 1
    assert there(()) <= 1


def test_what_was_left_out_is_not_taken_up_again(study: Study, plan: PassPlan) -> None:
    last = plan.keys[-1]
    assert last not in rest_of(study, plan, 3.0, left_out=last).keys
    again = rest_of(study, plan, 3.0)
    assert set(again.keys) <= set(plan.keys)
    assert JOINED in plan.keys
    assert JOINED in again.keys
    every = replace(study.passes.subject(), size="every pass")
    assert set(plan.keys) - {JOINED} < {
        p.key
        for p in plan_passes(
            every, study.flesh.palette(), study.passes.settings.adapted(), study.flesh.settings.wishes()
        ).passes
    }


@pytest.mark.parametrize(
    ("change", "nothing"),
    [((0, 0, 0), True), ((1.5, 0, 0), True), ((3, 0, 0), False), ((0, 2.5, 0), True), ((0, 4.0, 0), False)],
)
def test_what_nobody_would_see_adds_nothing(change: tuple[float, float, float], nothing: bool) -> None:
    """A seventh of a step and ΔE2000 of 2.8 are lost at arm's length; a third of a step and 4.4 are not."""
    patchwork = Patchwork.of((4, 6), np.repeat([[0, 0, 0, 1, 1, 1]], 4, axis=0).astype(np.uint8))
    seen = np.array([[50.0, 5.0, 10.0], [60.0, 0.0, 0.0]])
    before, after = (SimpleNamespace(patchwork=patchwork, labs=lambda lab=lab: lab) for lab in (
        seen, seen + np.array([change, (30, 30, 30)])
    ))  # fmt: skip
    first = np.array([True, False])
    assert adds_nothing(before, after, first) == nothing  # type: ignore[arg-type]
    assert not adds_nothing(before, after, ~first)  # type: ignore[arg-type]
    assert not adds_nothing(before, after, first & False)  # type: ignore[arg-type]
