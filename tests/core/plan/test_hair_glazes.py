"""A glaze over the hair does what it was asked for, over each tone; paint is thick where it can stand."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.plan.test_hair_in_schools import hair_of, study_in
from truesitter.core.colour.spaces import WARM_AXIS
from truesitter.core.plan.glaze_looks import GlazeLook, glaze_looks
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study


def glazed(purpose: str) -> tuple[GlazeLook, ...]:
    """Looks of the glaze over the hair of tobias, whose greys can be turned either way."""
    base = study_in("tobias", "layered-oil")
    chosen = base.settings.model_dump()
    chosen["hair"]["glaze"] = purpose
    study = Study(
        base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo
    )  # fmt: skip
    plan = study.passes.plan()
    (number,) = (n for n, p in enumerate(plan.passes) if p.hair is not None and p.hair.purpose)
    looks = glaze_looks(plan, number)
    pieces, sizes = plan.passes[number].pieces, plan.bare.patchwork.sizes
    under, over = (float(np.average(plan.canvases[n].labs()[pieces, 0], weights=sizes[pieces])) for n in
                   (number - 1, number))  # fmt: skip
    for when, whole in (("before", under), ("after", over)):
        assert min(getattr(one, when).lab[0] for one in looks) <= whole
        assert whole <= max(getattr(one, when).lab[0] for one in looks), "thirds of that very place"
    assert glaze_looks(plan, number - 1) == () or plan.passes[number - 1].does == "glaze"
    return looks


@pytest.mark.parametrize(("purpose", "way"), [("warm", 1), ("cool", -1)])
def test_a_glaze_turns_the_hair(purpose: str, way: int) -> None:
    looks = glazed(purpose)
    assert [one.tone for one in looks] == ["darks", "middle", "lights"]
    turned = [float(np.subtract(one.after.lab[1:], one.before.lab[1:]) @ WARM_AXIS) for one in looks]
    assert way * float(np.mean(turned)) > 1.0


def test_a_glaze_takes_the_hair_down() -> None:
    steps = [one.after.value - one.before.value for one in glazed("darken")]
    assert -1.2 < min(steps) < -0.25
    assert float(np.mean(steps)) < -0.2


@pytest.mark.parametrize(("school", "stands"), [("layered-oil", True), ("tempera", False)])
def test_paint_is_laid_thick_only_where_it_stands_up(school: str, stands: bool) -> None:
    """Gouache and egg tempera crack where they are thick (common practice)."""
    study = study_in("maren", school, "every pass")
    assert any(one.role == "shine" for one in study.passes.subject().hair)
    plan = study.passes.plan()
    assert any(p.hair is not None and p.hair.role == "shine" for p in plan.passes) == stands
    assert any("cannot be laid thick" in r.words for r in plan.remarks) != stands
    said = " ".join(p.note for p in hair_of(plan))
    assert ("dry round" in said) == stands, "marks are knocked back in paint that stays open"
