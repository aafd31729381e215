"""Easy recipes against every recipe that can be counted out, one by one."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from itertools import pairwise, product

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.paint.recipes.let_down import told_by_heaps
from truesitter.core.paint.recipes.mixing import mixture_reflectance
from truesitter.core.paint.recipes.pricing import EasyPricing, Tolerance, labour
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import _remembered, solve_recipes
from truesitter.core.paint.recipes.tuning import EASY_DELTA_E, EASY_LARGEST, EASY_VALUE
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import STARTERS

FOUR = STARTERS[0]
EASY = Wishes(tolerance=Tolerance())
FLESH = st.tuples(st.floats(30, 78), st.floats(4, 16), st.floats(0.7, 1.5)).map(
    lambda t: (t[0], t[1], t[1] * t[2])
)


@cache
def table() -> tuple[np.ndarray, np.ndarray]:
    """Every recipe of four tubes with a pile of up to 36 parts and up to eight of the rest beside it."""
    found = []
    for main in range(4):
        for rest in product(range(9), repeat=3):
            if sum(rest) <= 8:
                for pile in range(max(1, *rest), 37):
                    found.append([*rest[:main], pile, *rest[main:]])
    parts = np.unique(np.array(found, dtype=float), axis=0)
    k, s = FOUR.rack.curves(FOUR.tubes)
    return parts, reflectance_to_lab(mixture_reflectance(parts, k, s, FOUR))


def price(recipe: Recipe, pricing: EasyPricing) -> float:
    """What a recipe of tubes alone costs."""
    parts = np.array([list(recipe.parts.values())], dtype=float)
    lab, none = np.array([recipe.predicted.lab]), np.zeros(1, np.int32)
    return float(pricing.cost(lab, parts, np.array([len(recipe.parts)], np.int32), none)[0])


@settings(max_examples=25, deadline=None)
@given(FLESH)
def test_no_recipe_that_can_be_counted_out_is_easier(lab: tuple[float, float, float]) -> None:
    """The search looks at some hundreds of recipes; the table holds all 40 000 of them."""
    parts, labs = table()
    target = np.array(lab)
    (easy,) = solve_recipes(lab, FOUR, EASY, 1)
    if told_by_heaps(easy.parts):
        return
    (exact,) = solve_recipes(lab, FOUR, Wishes(), 1)
    tolerance = Tolerance()
    if tolerance.beyond(exact.delta_e, exact.value_error) != tolerance:
        # No tubes come so near: how much wider it is asked is told below.
        return
    pricing = EasyPricing(target, tolerance, EASY_LARGEST)
    tubes = (parts > 0).sum(axis=1)
    best = float(pricing.cost(labs, parts, tubes, np.zeros_like(tubes)).min())
    assert price(easy, pricing) <= best + 0.35


@settings(max_examples=40, deadline=None)
@given(FLESH)
def test_inside_the_tolerance_unless_no_tubes_come_so_near(lab: tuple[float, float, float]) -> None:
    (easy,) = solve_recipes(lab, FOUR, EASY, 1)
    (exact,) = solve_recipes(lab, FOUR, Wishes(), 1)
    allowed = Tolerance().beyond(exact.delta_e, exact.value_error).times(2)
    assert allowed.holds(easy.delta_e, easy.value_error)
    if not told_by_heaps(exact.parts) and not told_by_heaps(easy.parts):
        assert sum(easy.parts.values()) <= max(EASY_LARGEST, sum(exact.parts.values()))


def test_a_wider_tolerance_is_never_more_labour() -> None:
    def work(recipe: Recipe) -> float:
        told = told_by_heaps(recipe.parts)
        parts = np.array([list((told.parts if told else recipe.parts).values())], dtype=float)
        return float(labour(parts, np.array([len(recipe.parts)], np.int32))[0]) + (6.0 if told else 0.0)

    for lab in ((62.0, 14.0, 17.0), (45.0, 12.0, 14.0), (71.0, 9.0, 14.0), (33.0, 9.0, 10.0)):
        works = [
            work(solve_recipes(lab, FOUR, Wishes(tolerance=Tolerance().times(n)), 1)[0])
            for n in (0.5, 1, 2, 4)
        ]
        assert all(b <= a + 0.31 for a, b in pairwise(works))


def test_the_exact_recipe_comes_next_and_others_are_of_other_tubes() -> None:
    for lab in ((45.0, 12.0, 16.0), (35.0, 7.0, 9.0), (65.0, 10.0, 14.0), (60.0, 14.0, 16.0)):
        easy, *others = solve_recipes(lab, FOUR, EASY, 4)
        assert (easy,) == solve_recipes(lab, FOUR, EASY, 1)
        exact = solve_recipes(lab, FOUR, Wishes(), 4)
        assert set(map(str, others)) <= set(map(str, exact))
        assert all(r.delta_e < easy.delta_e or set(r.parts) != set(easy.parts) for r in others)
        assert len({frozenset(r.parts) for r in others}) == len(others)
        if exact[0].delta_e < easy.delta_e:
            assert others[0] == exact[0]
            assert sum(easy.parts.values()) < sum(exact[0].parts.values())


def test_tubes_asked_for_are_in_it_and_the_number_of_tubes_is_kept() -> None:
    lab = (60.0, 12.0, 16.0)
    wishes = replace(EASY, most_tubes=3, must=("ivory-black",))
    (found,) = solve_recipes(lab, FOUR, wishes, 1)
    assert "ivory-black" in found.parts
    assert len(found.parts) <= 3
    (two,) = solve_recipes(lab, FOUR, replace(EASY, most_tubes=2), 1)
    assert len(two.parts) <= 2
    without = replace(EASY, without=("yellow-ochre",), black=False)
    (left,) = solve_recipes(lab, FOUR, without, 1)
    assert set(left.parts) <= {"titanium-white", "light-red"}


def test_a_pile_costs_less_than_the_same_parts_beside_it() -> None:
    def one(*parts: int) -> float:
        return float(labour(np.array([parts], float), np.array([len(parts)], np.int32))[0])

    assert one(1, 1) == pytest.approx(2.2)
    assert one(8, 8) == pytest.approx(2 + 0.8 + 0.8)
    assert one(18, 1) == pytest.approx(2 + 0.8 + 0.3 + 0.1)
    assert one(9, 8, 3) == pytest.approx(3 + 0.8 + 0.03 + 0.8 + 1.5)
    assert one(5, 1, 1) > one(6, 1)


def test_elsewhere_more_is_let_go_than_in_the_face() -> None:
    wider = EASY.elsewhere().tolerance
    assert wider is not None
    assert wider.delta_e == pytest.approx(2 * EASY_DELTA_E)
    assert wider.value == pytest.approx(1.9 * EASY_VALUE)
    assert Wishes().elsewhere() == Wishes()


@settings(max_examples=20, deadline=None)
@given(
    st.floats(20, 90), st.floats(0, 20), st.floats(0, 25), st.booleans(), st.integers(0, len(STARTERS) - 1)
)
def test_a_remembered_recipe_is_what_would_be_found_anew(
    light: float, red: float, yellow: float, black: bool, palette: int
) -> None:
    """And is asked for by all that it depends on: colour, tubes, wishes and how many."""
    wishes = Wishes(black=black, tolerance=Tolerance(EASY_DELTA_E, EASY_VALUE))
    asked = ((light, red, yellow), STARTERS[palette], wishes, 2)
    first = solve_recipes(*asked)
    solve_recipes((light, red, yellow), STARTERS[palette], replace(wishes, black=not black), 2)
    solve_recipes((light, red, yellow), STARTERS[palette - 1], wishes, 2)
    again = solve_recipes(*asked)
    _remembered.cache_clear()
    anew = solve_recipes(*asked)
    assert [r.parts for r in first] == [r.parts for r in again] == [r.parts for r in anew]
    assert [r.predicted.lab for r in again] == [r.predicted.lab for r in anew]
