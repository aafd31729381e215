"""Where a first wash wants another hue, on made maps whose hues are known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from tests.core.plan.test_pass_places import subject
from tests.core.plan.water.test_charges import planned, turning
from truesitter.core.canvas.layer import Layer
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.subject import Subject
from truesitter.core.plan.water.hue_places import hue_places
from truesitter.core.plan.water.tuning import HUE_APART
from truesitter.core.plan.water.ways import Charge
from truesitter.core.types import Doubles, Floats, Mask


def hued(apart: float, where: slice = slice(0, 60)) -> tuple[Subject, Mask]:
    """A place of one value whose left part is redder by so much; 1 mm to a pixel."""
    shape = (120, 120)
    lab: Floats = np.empty((*shape, 3), np.float32)
    lab[...] = 65.0, 12.0, 16.0
    lab[:, where, 1] += apart
    value = np.full(shape, 6.5, np.float32)
    flat = np.zeros(shape, np.uint8)
    made = replace(subject(), groups=flat, regions=flat, zones=flat, lab=lab, value=value)
    return made, np.ones(shape, bool)


def test_two_halves_of_two_hues_are_two_places() -> None:
    made, where = hued(14.0)
    found = hue_places(made, where)
    left, right = found[:, 8:48], found[:, 72:112]
    assert len(np.unique(left)) == len(np.unique(right)) == 1
    assert {int(left[0, 0]), int(right[0, 0])} == {1, 2}


@pytest.mark.parametrize("apart", [0.0, HUE_APART])
def test_what_is_hardly_apart_wants_no_drop(apart: float) -> None:
    made, where = hued(apart)
    assert not hue_places(made, where).any()


def test_a_spot_smaller_than_a_drop_runs_is_none() -> None:
    made, where = hued(12.0, slice(50, 52))
    assert not hue_places(made, where).any()


def test_a_darker_shadow_that_is_warmer_is_no_matter_of_the_first_wash() -> None:
    """Hues are held to what is as light."""
    made, where = hued(14.0)
    value = made.value.copy()
    value[:, :60] = 4.0
    assert not hue_places(replace(made, value=value), where).any()


def test_nothing_outside_and_nothing_for_an_empty_place() -> None:
    made, where = hued(14.0)
    where = where.copy()
    where[:40] = False
    assert not hue_places(made, where)[:40].any()
    assert not hue_places(made, np.zeros_like(where)).any()


def test_a_face_of_two_hues_gets_a_drop_where_it_is_redder() -> None:
    """The drop brings its place nearer in a* and b*, and is neither black nor white."""
    one = turning(30.0)
    lab = one.lab.copy()
    lab[:60, :, 1] += 16.0
    lab[:60, :, 2] -= 6.0
    plan = planned(replace(one, lab=lab))
    drops = [(n, charge) for n, p in enumerate(plan.passes) for charge in p.charges if charge.added]
    assert drops
    for number, charge in drops:
        assert set(charge.added) < set(charge.parts)
        patchwork = plan.bare.patchwork
        wanted = (patchwork.sums(lab) / patchwork.sizes[:, None])[charge.pieces]
        ends = [finished(plan, number, charge, own)[charge.pieces] for own in (False, True)]
        off = [float(np.sum(recipe_cost(e, wanted) * patchwork.sizes[charge.pieces])) for e in ends]
        assert off[0] < 0.97 * off[1]


def finished(plan: PassPlan, number: int, charge: Charge, own: bool) -> Doubles:
    """L*a*b* of all pieces in the end; with a pass's own mixture instead of a drop if wanted."""
    canvas, pieces = plan.bare, charge.pieces
    for n, one in enumerate(plan.passes):
        for operation in one.operations:
            laid = operation
            if own and n == number and isinstance(laid, Layer) and (laid.pieces == pieces).all():
                laid = replace(laid, parts=one.taken_from)
            canvas = canvas.dried().do(laid)
    return canvas.labs()


def test_no_black_is_dropped_into_flesh() -> None:
    """Of ochre, light red and black, black alone would make a place cooler."""
    one = turning(30.0)
    lab = one.lab.copy()
    lab[:60, :, 1:] -= 9.0
    plan = planned(replace(one, lab=lab), "earth-four")
    added = {key for p in plan.passes for charge in p.charges for key in charge.added}
    assert "ivory-black" not in added
