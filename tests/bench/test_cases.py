"""Every case of `./sitter bench` can be measured: each once, on the smallest input."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from bench import timing
from bench.cases import CASES, memory
from bench.screens import jobs
from bench.timing import table


@pytest.fixture(autouse=True)
def _once() -> Iterator[None]:
    timing.be_short()
    yield
    timing._SHORT.clear()


@pytest.mark.parametrize("name", list(CASES))
def test_a_case_is_measured(name: str) -> None:
    figures = CASES[name]()
    assert figures
    # A screen that asks for nothing new is there at once.
    assert all(0 <= f.median <= f.p95 < 600_000 for f in figures)
    assert len(table(figures).splitlines()) == len(figures) + 1


def test_memory_is_measured() -> None:
    assert "MiB" in memory()


def test_the_walk_knows_every_job() -> None:
    """As many as there are in the table of stages, each with its stage."""
    assert len(jobs()) > 40
    assert {job.split("/")[0] for job in jobs()} >= {
        "reference",
        "values",
        "flesh",
        "light",
        "hair",
        "passes",
    }
