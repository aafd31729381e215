"""First coats in hollows are as strong as the washes over them let them be."""

from __future__ import annotations

import pytest

from tests.core.test_schools import planned
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.school.library import SCHOOLS

RECESSES = SCHOOLS["watercolour-recesses"]
WITHOUT = RECESSES.model_copy(
    update={"passes": tuple(p for p in RECESSES.passes if not p.key.startswith("recess"))}
)


def plans(name: str) -> tuple[PassPlan, PassPlan]:
    """The order that begins with the hollows, and the same without them."""
    study = planned(name, RECESSES.key)
    flesh = study.flesh.settings
    other = plan_passes(
        study.passes.subject(), study.flesh.palette(), WITHOUT, flesh.wishes(), flesh.medium_used()
    )
    return study.passes.plan(), other


@pytest.mark.parametrize("name", ["ines", "hedda", "orsolya"])
def test_hollows_laid_first_never_take_the_canvas_away_from_the_sitter(name: str) -> None:
    """Before they were thinned they did, by up to 0.05 step."""
    hollows, plain = plans(name)
    assert any(p.key.startswith("recess") for p in hollows.passes)
    assert hollows.passes[-1].value_error <= plain.passes[-1].value_error + 0.012


def test_a_thinner_first_coat_is_told_as_it_looks() -> None:
    """Its target is what it comes to: nothing is remarked of a tube that falls short."""
    plan, _ = plans("orsolya")
    first = next(p for p in plan.passes if p.key == "recess")
    assert first.thinned
    assert abs(first.recipe.value_error) < 0.3
    assert not any(r.name.startswith("Recess") and "comes no nearer" in r.words for r in plan.remarks)
    # Lighter than it was once meant to be in the end.
    reference = planned("orsolya", "watercolour-recesses").passes.subject()
    wanted = float(reference.value[plan.bare.patchwork.mask(first.pieces)].mean())
    assert first.recipe.predicted.value > wanted
