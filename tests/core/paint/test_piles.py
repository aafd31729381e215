"""Piles a hand can measure."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from truesitter.core.paint.board.piles import measured
from truesitter.core.paint.board.tuning import SMALLEST_PILE_ML
from truesitter.core.paint.media.quantity import tube_amounts
from truesitter.core.paint.recipes.let_down import told_by_heaps

STRONG = {"titanium-white": 7 * 21 + 100, "ivory-black": 5, "yellow-ochre": 42}
TWICE = {"titanium-white": 21 * 21 * 9 + 440, "phthalo-blue": 1, "yellow-ochre": 441}
recipes = st.one_of(
    st.sampled_from([STRONG, TWICE]),
    st.dictionaries(st.sampled_from("abcd"), st.integers(1, 24), min_size=1, max_size=4),
)


@given(recipes, st.floats(0.001, 200))
def test_no_pile_is_too_small_to_measure_and_there_is_enough(parts: dict[str, int], ml: float) -> None:
    found = measured(parts, ml)
    assert min(found.piles_ml) >= SMALLEST_PILE_ML * (1 - 1e-9)
    assert found.ml >= ml
    assert sum(found.tubes_ml.values()) >= found.ml * (1 - 1e-9)
    for key, amount in tube_amounts(parts, found.ml).items():
        assert found.tubes_ml[key] >= amount * (1 - 1e-9), "what is over of a heap comes on top"


@given(recipes)
def test_of_plenty_just_what_is_wanted_is_made(parts: dict[str, int]) -> None:
    found = measured(parts, 5000)
    assert found.ml == 5000
    assert found.tubes_ml == pytest.approx(tube_amounts(parts, 5000))


def test_small_amounts_worked_by_hand() -> None:
    """3 to 1 of which 0.1 ml is wanted: the one part is to be 0.05 ml, so 0.2 ml are made."""
    found = measured({"a": 3, "b": 1}, 0.1)
    assert found.ml == pytest.approx(0.2)
    assert found.tubes_ml == pytest.approx({"a": 0.15, "b": 0.05})
    assert measured({"a": 3, "b": 1}, 0).ml == 0


def test_a_heap_is_made_as_large_as_its_strong_part_asks_for() -> None:
    """0.05 ml of black in 1 ml of white is the smallest heap there is."""
    told = told_by_heaps(STRONG)
    assert told is not None
    found = measured(STRONG, 0.5)
    assert found.ml == pytest.approx(0.5)
    assert found.tubes_ml["ivory-black"] == pytest.approx(0.05)
    plain = 0.5 * told.parts["titanium-white"] / sum(told.parts.values())
    assert found.tubes_ml["titanium-white"] == pytest.approx(1.0 + plain)
    twice = told_by_heaps(TWICE)
    assert twice is not None
    assert twice.heaps == {"phthalo-blue": 2}
    assert measured(TWICE, 1).tubes_ml["phthalo-blue"] == pytest.approx(0.05)
