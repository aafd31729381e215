"""Rounds of drills as they are kept."""

from __future__ import annotations

import random
from pathlib import Path

import pytest
from sqlalchemy import event

from truesitter.core.drills.rounds import Score
from truesitter.core.drills.tuning import REMEMBERED
from truesitter.store.log.drills import Asked
from truesitter.store.settings.sitters import Repository


def asked(go: str, seed: int) -> Asked:
    return Asked("values", go, 1.0, seed, "s")


@pytest.mark.parametrize("seed", range(6))
def test_goes_answered_in_turn_count_each(tmp_path: Path, seed: int) -> None:
    """Two windows, ten rounds to a go: whatever their order, a go that has its ten is whole."""
    rng, drills = random.Random(seed), Repository(tmp_path).drills
    order = [rng.choice("ab") * 8 for _ in range(22)]
    for n, go in enumerate(order):
        assert drills.add(asked(go, n), Score(0.0, n % 2 == 0, ""))
        assert not drills.add(asked(go, n), Score(0.0, True, "")), "answered already"
    found = drills.goes("values", 10)
    assert len(found) == sum(order.count(go) >= 10 for go in set(order))
    whole = [go for go in set(order) if order.count(go) >= 10]
    right = {go: [n % 2 == 0 for n, each in enumerate(order) if each == go] for go in whole}
    assert sorted(g.right for g in found) == pytest.approx(sorted(sum(r) / len(r) for r in right.values()))
    assert drills.count("values") == 22
    assert drills.goes("values", 10, "Ada") == drills.latest("values", "Ada") == []


def test_an_answer_reads_no_more_rounds_than_count(tmp_path: Path) -> None:
    repository = Repository(tmp_path)
    for n in range(REMEMBERED + 40):
        repository.drills.add(asked("a" * 8, n), Score(float(n), True, ""))
    loaded = []
    event.listen(repository._engine, "after_cursor_execute", lambda *a: loaded.append(a[2]))
    latest = repository.drills.latest("values")
    assert [r.told.off for r in latest] == list(range(40, REMEMBERED + 40))
    assert all("LIMIT" in statement for statement in loaded if "SELECT" in statement)
