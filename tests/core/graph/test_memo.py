"""What is remembered: each array counted once, however many results hold it, and none of it changed later."""

from __future__ import annotations

import time
from dataclasses import dataclass, field

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from truesitter.core.graph.footprint import Footprint
from truesitter.core.graph.memo import Memo

BIG = 100_000


@dataclass(frozen=True)
class Holder:
    """Something like a plan: many parts on one large map."""

    shared: np.ndarray
    parts: tuple[object, ...] = ()
    named: dict[str, np.ndarray] = field(default_factory=dict)


def test_what_a_result_shares_is_counted_once() -> None:
    shared = np.zeros(BIG, np.uint8)
    one = Holder(shared, tuple(Holder(shared) for _ in range(33)), {"again": shared})
    assert BIG <= Footprint(one).total < BIG + 20_000
    assert Footprint((np.zeros(BIG, np.uint8), np.zeros(BIG, np.uint8))).total >= 2 * BIG


def test_a_view_holds_all_that_it_was_cut_from() -> None:
    whole = np.zeros((1000, 100), np.uint8)
    assert Footprint(whole[:2]).total >= whole.nbytes
    assert Footprint((whole[:2], whole[5:], whole)).total < whole.nbytes + 1000


def test_arrays_in_dictionaries_and_cycles_are_found() -> None:
    ring: list[object] = [np.zeros(BIG, np.uint8)]
    ring.append({"itself": ring})
    assert BIG <= Footprint(ring).total < BIG + 2000


def test_results_that_share_are_charged_together_and_freed_with_the_last() -> None:
    memo, shared = Memo(most_bytes=3 * BIG), np.zeros(BIG, np.uint8)
    for n in range(50):
        memo.get(n, lambda: Holder(shared))
    assert memo.held < 1.5 * BIG
    assert memo.peek(0) is not None, "fifty of them fit where one does"
    memo.get("other", lambda: np.zeros(int(1.9 * BIG), np.uint8))
    assert 1.9 * BIG < memo.held <= 3 * BIG
    memo.get("last", lambda: np.zeros(int(2.5 * BIG), np.uint8))
    assert memo.peek(0) is None
    assert memo.held == Footprint(memo.peek("last")).total


@given(st.lists(st.tuples(st.integers(0, 9), st.sets(st.integers(0, 5), min_size=1)), max_size=40))
def test_what_is_charged_is_what_is_held(asked: list[tuple[int, set[int]]]) -> None:
    """The sum over distinct buffers of all that is remembered, after any order of asking."""
    buffers = [np.zeros(10_000 * (n + 1), np.uint8) for n in range(6)]
    memo = Memo(most_bytes=130_000)
    for key, which in asked:
        memo.get(key, lambda which=which: tuple(buffers[n] for n in sorted(which)))
    kept = [memo.peek(key) for key in range(10)]
    held = {id(array): array.nbytes for result in kept if result is not None for array in result}
    small = sum(Footprint(result).own for result in kept if result is not None)
    assert memo.held == sum(held.values()) + small <= 130_000


def test_what_took_long_outlives_what_is_large_and_cheap() -> None:
    memo = Memo(most_bytes=3 * BIG)

    def slow() -> np.ndarray:
        time.sleep(0.3)
        return np.zeros(BIG // 10, np.uint8)

    memo.get("slow", slow)
    for n in range(60):
        memo.get(n, lambda: np.zeros(BIG, np.uint8))
    assert memo.peek("slow") is not None
    assert memo.peek(59) is not None
    assert memo.peek(0) is None


def test_even_what_took_long_goes_when_it_is_not_asked_for_any_more() -> None:
    memo = Memo(most_bytes=3 * BIG)
    memo.get("slow", lambda: (time.sleep(0.1), np.zeros(BIG, np.uint8))[1])
    for n in range(300):
        memo.get(n, lambda: np.zeros(BIG, np.uint8))
    assert memo.peek("slow") is None


def test_what_is_kept_cannot_be_changed_by_whoever_asks() -> None:
    memo = Memo()
    made = memo.get("a", lambda: Holder(np.zeros(10), (), {"b": np.zeros((4, 4))[1:]}))
    for array in (made.shared, made.named["b"], made.named["b"].base):
        with pytest.raises(ValueError, match="read-only"):
            array[0] = 1


def test_what_is_brought_while_it_is_computed_is_charged_once() -> None:
    memo = Memo()

    def compute() -> np.ndarray:
        memo.keep("a", np.zeros(BIG, np.uint8))
        return np.zeros(BIG, np.uint8)

    memo.get("a", compute)
    assert memo.held < 1.1 * BIG
