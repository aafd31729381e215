"""Two photographed paintings of one sitter: what was planted between them is told, and which is nearer."""

from __future__ import annotations

import numpy as np
import pytest

from tests.easel import painter, photographed, relit
from truesitter.core.refusal import Refusal


@pytest.mark.parametrize(("name", "steps"), [("maren", 1.0), ("tobias", -0.8)])
def test_a_place_painted_otherwise_is_told_first_and_the_untouched_one_is_nearer(
    name: str, steps: float
) -> None:
    """Laid on with another library's L*a*b*, each photographed in a studio by lot."""
    study = painter(name)
    canvas = study.easel.template(None, "photograph")
    areas = study.sitter.areas()
    where = areas.wholes("hair")
    first = photographed(canvas, 11, against="photograph")
    second = photographed(relit(canvas, where, steps), 12, against="photograph")
    rows = study.easel.between(first, second)
    hair = {n for n, w in zip(areas.names, areas.whole, strict=True) if w == "hair"}
    assert rows[0].place in hair
    assert rows[0].steps == pytest.approx(-steps, abs=0.4)
    assert ("darker" if steps > 0 else "lighter") in rows[0].words
    assert rows[0].nearer == "first"
    # What was left as it is differs by no more than the lamps do.
    assert not rows[0].alike
    rest = [r for r in rows if r.place not in hair]
    assert np.mean([r.alike for r in rest]) > 0.6
    assert np.mean([abs(r.steps) for r in rest]) < 0.3
    assert all(r.nearer != "second" for r in rows if r.place in hair)


def test_turned_round_the_difference_turns_round() -> None:
    study = painter("maren")
    canvas = study.easel.template(None, "photograph")
    first = photographed(canvas, 11, against="photograph")
    second = photographed(relit(canvas, study.sitter.areas().wholes("face"), -1.0), 14, against="photograph")
    one = {r.place: r for r in study.easel.between(first, second)}
    two = {r.place: r for r in study.easel.between(second, first)}
    other = {"first": "second", "second": "first", "neither": "neither"}
    assert one.keys() == two.keys()
    for place, row in one.items():
        assert row.steps == pytest.approx(-two[place].steps, abs=1e-6)
        assert row.off == pytest.approx(two[place].off[::-1])
        assert other[row.nearer] == two[place].nearer


def test_a_painting_is_not_held_against_itself() -> None:
    study = painter("maren")
    one = photographed(study.easel.template(None, "photograph"), 11, against="photograph")
    with pytest.raises(Refusal, match="choose two"):
        study.easel.between(one, one)
