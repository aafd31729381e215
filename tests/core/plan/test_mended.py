"""First coats in hollows are as strong as the washes over them let them be."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.school.test_schools import planned
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


def exact_plan(name: str) -> PassPlan:
    """Laid in exact mixtures: nothing but the mending moves a canvas."""
    study = planned(name, RECESSES.key)
    flesh = study.flesh.settings
    exact = flesh.wishes().exact()
    return plan_passes(study.passes.subject(), study.flesh.palette(), RECESSES, exact, flesh.medium_used())


@pytest.mark.parametrize("name", ["ines", "hedda", "maren"])
def test_a_hollow_ends_no_farther_from_the_sitter_than_unmended(
    name: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    mended = exact_plan(name)
    monkeypatch.setattr("truesitter.core.plan.mended.WEAKER", ())
    plain = exact_plan(name)
    wanted = planned(name, RECESSES.key).passes.subject().value

    def off(plan: PassPlan) -> float:
        hollows = [p.pieces for p in plan.passes if p.key.startswith("recess")]
        here = plan.bare.patchwork.mask(np.any(hollows, axis=0))
        canvas = plan.canvases[-1].piece_values()[plan.bare.patchwork.labels]
        return float(np.abs(canvas - wanted)[here].mean())

    assert off(mended) <= off(plain) + 0.005
    assert len(mended.passes) == len(plain.passes)


def test_one_of_them_is_nearer_than_unmended(monkeypatch: pytest.MonkeyPatch) -> None:
    mended = exact_plan("hedda").passes[-1].value_error
    monkeypatch.setattr("truesitter.core.plan.mended.WEAKER", ())
    assert mended < exact_plan("hedda").passes[-1].value_error - 0.003


@pytest.mark.parametrize("name", ["ines", "hedda"])
def test_area_and_colour_of_mended_passes_are_those_of_the_canvas(name: str) -> None:
    plan = exact_plan(name)
    sizes = plan.bare.patchwork.sizes
    mm2 = planned(name, RECESSES.key).passes.subject().mm_per_px ** 2
    for number, one in enumerate(plan.passes):
        if one.lines:
            continue
        assert one.area_cm2 == pytest.approx(sizes[one.pieces].sum() * mm2 / 100)
        if one.key == "recess":
            seen = np.average(plan.canvases[number].labs()[one.pieces], axis=0, weights=sizes[one.pieces])
            np.testing.assert_allclose(one.recipe.predicted.lab, seen, atol=1.0)
