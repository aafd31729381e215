"""A few of the pictures of `./sitter siege pictures`, on a seed of their own."""

from __future__ import annotations

import pytest

from siege.pictures import oddities, trial, variant


@pytest.mark.parametrize("number", range(12))
def test_a_picture_altered_by_lot_goes_through_the_whole_program(number: int) -> None:
    name, wrong, _ = trial(1130_000 + number)
    assert wrong == [], name


def test_the_same_number_gives_the_same_picture_and_another_another() -> None:
    assert variant(5) == variant(5)
    assert variant(5)[1] != variant(6)[1]


def test_what_no_plan_may_hold_is_seen() -> None:
    well = {"x": 0.5, "film_mm": 0.02, "passes": [{"parts": {"a": 3, "b": 1}}], "other": 7.0}
    assert oddities(well) == []
    assert len(oddities({"peaks": [{"x": 1.2, "y": -0.1}]})) == 2
    assert oddities({"film_mm": 1e-5}) == [".film_mm = 1e-05 mm: no film"]
    assert len(oddities({"parts": {"a": 651, "b": 1}})) == 1
    assert oddities({"parts": {"a": 651}, "heap": {"parts": {"a": 9}}}) == []
    assert oddities({"parts": {"a": 651}, "weakened": {"parts": {"a": 9}}}) == []
    assert len(oddities([float("nan"), float("inf")])) == 2
