"""What is called right is right: the truth passes every drill, and what is far off passes none."""

from __future__ import annotations

import re
from dataclasses import replace

import numpy as np
import pytest

from tests.core.drills.test_drills import flat, picture, value_of
from truesitter.core.drills.drill_kinds import DRILLS, DrillName
from truesitter.core.drills.make import make_round
from truesitter.core.drills.rounds import Answer
from truesitter.core.drills.staircase import estimate
from truesitter.core.paint.tubes.palettes import STARTERS

LOTS = range(8)


@pytest.mark.parametrize("drill", list(DRILLS))
def test_a_drill_is_chosen_or_told_and_begins_between_its_ends(drill: DrillName) -> None:
    known = DRILLS[drill]
    assert 0 < known.least < known.start < known.most
    assert known.choices == {"lighter": 2, "same value": 4, "warm": 2}.get(drill, 0)
    fresh = estimate(known, [])
    assert fresh.threshold == pytest.approx(known.start, rel=0.2)


@pytest.mark.parametrize("drill", ["value", "surround", "steps"])
def test_a_number_is_right_within_the_level(drill: DrillName) -> None:
    for lot in LOTS:
        one = make_round(drill, picture(), 0.5, lot)
        true = one.score(Answer(number=5)).number
        assert true is not None
        exact = one.score(Answer(number=true))
        assert (exact.off, exact.right) == (pytest.approx(0), True)
        assert "right on it" in exact.words
        for off, word in ((0.8, ("light", "many")), (-0.8, ("dark", "few"))):
            if 0 <= true + off <= 10:
                wrong = one.score(Answer(number=true + off))
                assert (wrong.off, wrong.right) == (pytest.approx(0.8), False)
                assert "0.8 " in wrong.words
                assert any(w in wrong.words for w in word)


def test_words_of_two_colours_are_their_values_in_order() -> None:
    apart = []
    for lot in range(40):
        one = make_round("steps", picture(), 0.5, lot)
        first, second = (value_of(p) for p in one.question.patches)
        said = [float(v) for v in re.findall(r"\d+\.\d", one.score(Answer(number=1)).words)][:3]
        assert said == pytest.approx([first, second, abs(first - second)], abs=0.06)
        apart.append(abs(first - second))
        other = make_round("lighter", picture(), 1.0, lot)
        values = [value_of(p) for p in other.question.patches]
        told = [float(v) for v in re.findall(r"\d+\.\d", other.score(Answer(choice=0)).words)][:2]
        assert told == pytest.approx(values, abs=0.06)
    assert min(apart) < 1.4, "small steps are asked too"
    assert max(apart) > 3.5


def test_company_is_far_enough_to_fool() -> None:
    """Simultaneous contrast (common practice): the ground stands some three steps off."""
    away = []
    for lot in LOTS:
        question = make_round("surround", picture(), 0.5, lot).question
        assert question.around is not None
        away.append(abs(value_of(question.around) - value_of(question.patches[0])))
    assert np.median(away) == pytest.approx(3.5, abs=0.3)


def test_four_tubes_are_set_out_and_two_with_white_make_the_colour() -> None:
    source = replace(picture(), palette=next(p for p in STARTERS if len(p.tubes) >= 6))
    for lot in LOTS:
        one = make_round("mix", source, 5.0, lot)
        assert len(one.question.tubes) == 4
        key = one.question.tubes[1][0]
        words = one.score(Answer(parts={key: 1})).words
        parts = [int(n) for n in re.findall(r"(\d+) [A-Z]", words.split("made of ")[1])]
        assert 2 <= len(parts) <= 3
        assert min(parts) >= 1
    two = replace(picture(), palette=replace(source.palette, tubes=source.palette.tubes[:2]))
    assert make_round("mix", two, 5.0, 1).question.tubes


def test_a_mixture_is_right_when_it_looks_the_same() -> None:
    verdicts = set()
    for lot in range(12):
        one = make_round("mix", picture(), 3.0, lot)
        for key, _, _ in one.question.tubes:
            score = one.score(Answer(parts={key: 1}))
            assert score.right == (score.off <= 3.0)
            verdicts.add(score.right)
    assert False in verdicts


def test_a_copied_contour_is_right_and_one_drawn_elsewhere_is_not() -> None:
    one = make_round("contour", flat(), 4.0, 5)
    assert one.score(Answer(points=one.question.line)).right
    beside = tuple((x + 0.2, y) for x, y in one.question.line)
    wrong = one.score(Answer(points=beside))
    assert not wrong.right
    assert wrong.off == pytest.approx(0.2 * 80, abs=0.5)


def test_masses_drawn_as_they_are_share_all_there_is() -> None:
    one = make_round("masses", flat(), 10.0, 1)
    whole = ((10 / 80, 0.2), (0.5, 0.2), (0.5, 0.8), (10 / 80, 0.8))
    score = one.score(Answer(shapes=(whole,)))
    assert score.right
    told = re.match(r"(\d+) %", score.words)
    assert told is not None
    assert int(told[1]) == round(100 - score.off)
    # A line of two points encloses nothing.
    again = one.score(Answer(shapes=(whole, ((0.6, 0.1), (0.9, 0.9)))))
    assert again.off == score.off


def test_the_stroke_that_is_shown_grows_from_the_mark() -> None:
    one = make_round("strokes", flat(), 15.0, 3)
    assert one.question.at is not None
    at = np.array(one.question.at)
    points = tuple((at[0] + 0.01 * n, at[1]) for n in range(10))
    (shown,) = one.score(Answer(points=points, widths=tuple(np.linspace(1, 0.2, 10)))).lines
    np.testing.assert_allclose(shown[0], at)
    way = (np.array(shown[-1]) - at) * (80, 100)
    # To the right, a twelfth of the height long.
    np.testing.assert_allclose(way, (8.0, 0.0), atol=0.1)
