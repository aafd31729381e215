"""Washes beside one another: what is begun while its neighbour is wet, on made pieces."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from tests.core.plan.test_hair_in_schools import study_in
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.paint.tubes.rack import LIBRARY
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.plan.water.wet_beside import wet_minutes, with_neighbours
from truesitter.formats.words.wash_words import laid_words

STRIPES = Patchwork.of((4, 40), np.repeat([[0, 1, 2, 3]], 4, axis=0).repeat(10, axis=1).astype(np.uint8))


@pytest.fixture(scope="module")
def wash() -> Pass:
    plan = study_in("maren", "watercolour-zones").passes.plan()
    return next(p for p in plan.passes if p.way == "flat" and not p.lines)


def on(wash: Pass, *numbers: int, **changed: object) -> Pass:
    at = STRIPES.at(np.repeat([[0, 1, 2, 3]], 4, axis=0).repeat(10, axis=1).astype(np.uint8))
    whole = {"over": (), "beside": (), "start_minutes": 0.0, "work_minutes": 5.0, "dries_minutes": 20.0}
    return replace(wash, pieces=np.isin(at, numbers), **{**whole, **changed})


def test_only_washes_that_touch_are_neighbours(wash: Pass) -> None:
    first, far, near = on(wash, 0), on(wash, 3), on(wash, 1)
    assert [p.beside for p in with_neighbours([first, far, near], STRIPES)] == [(), (), (0,)]


def test_washes_above_one_another_are_neighbours_too(wash: Pass) -> None:
    rows = np.repeat([[0], [1], [2]], 10, axis=1).repeat(5, axis=0).astype(np.uint8)
    patchwork = Patchwork.of(rows.shape, rows)
    at = patchwork.at(rows)
    top, low, middle = (replace(on(wash), pieces=at == n) for n in (0, 2, 1))
    assert [p.beside for p in with_neighbours([top, low, middle], patchwork)] == [(), (), (0, 1)]


def test_what_it_lies_over_is_no_neighbour_and_neither_are_lines_or_paint(wash: Pass) -> None:
    first = on(wash, 0)
    assert with_neighbours([first, on(wash, 0, 1, over=(0,))], STRIPES)[1].beside == ()
    assert with_neighbours([replace(first, way=None), on(wash, 1)], STRIPES)[1].beside == ()
    assert with_neighbours([first, replace(on(wash, 1), way=None)], STRIPES)[1].beside == ()


def test_a_neighbour_is_wet_until_it_has_dried(wash: Pass) -> None:
    """Begun at 0, five minutes of work, dry twenty later: at 11 it is wet for 14 more."""
    first, then = on(wash, 0), on(wash, 1, start_minutes=11.0)
    assert wet_minutes(then, first) == 14.0
    assert wet_minutes(replace(then, start_minutes=30.0), first) == 0.0
    passes = with_neighbours([first, then], STRIPES)
    said = laid_words(passes[1], LIBRARY, passes)
    assert f"“{wash.name}” beside it is wet for 14 minutes more: wait where the border is to stay" in said
    apart = (replace(passes[0], places=("elsewhere",)), passes[1])
    assert "14 minutes more: leave a hair of dry paper" in laid_words(passes[1], LIBRARY, apart)
    dry = (passes[0], replace(passes[1], start_minutes=30.0))
    assert "beside it" not in laid_words(dry[1], LIBRARY, dry)


def test_a_wash_says_from_when_to_when_it_would_bloom(wash: Pass) -> None:
    one = on(wash, 0, open_minutes=(1.0, 2.4), dries_minutes=18.0)
    assert "From 3 to 18 minutes after it is laid nothing wetter" in laid_words(one, LIBRARY, [one])
    soon = replace(one, dries_minutes=2.0)
    assert "bloom" not in laid_words(soon, LIBRARY, [soon])
