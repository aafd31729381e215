"""Drills on made pictures: what is shown, and scores reckoned by hand."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.drills.test_drills import flat, value_of
from truesitter.core.colour.spaces import hex_to_srgb, srgb_to_lab
from truesitter.core.drills.drill_kinds import DRILLS
from truesitter.core.drills.make import make_round
from truesitter.core.drills.rounds import Answer
from truesitter.core.drills.staircase import estimate
from truesitter.core.drills.tuning import LIGHT, LONG, SURE
from truesitter.core.paint.tubes.palettes import starter
from truesitter.core.refusal import Refusal


def coloured(lightness: float, a: float = 0.0, b: float = 0.0) -> np.ndarray:
    """The colour of a whole made picture."""
    return np.full((100, 80, 3), (lightness, a, b), np.float32)


def test_only_drills_on_the_picture_show_it_and_only_peaks_are_counted() -> None:
    shown = {name: make_round(name, flat(), 1.0, 3).question for name in DRILLS}
    assert {n for n, q in shown.items() if q.pictured} == {"peaks", "masses", "strokes"}
    assert {n: q.count for n, q in shown.items() if q.count} == {"peaks": 2}


def test_masses_that_are_half_found_are_told_as_half() -> None:
    half = ((10 / 80, 0.2), (25 / 80, 0.2), (25 / 80, 0.8), (10 / 80, 0.8))
    score = make_round("masses", flat(), 60.0, 1).score(Answer(shapes=(half,)))
    # A pixel that the line crosses is in: 16 columns and 61 rows of 30 and 60.
    assert score.off == pytest.approx(50, abs=3.5)
    assert score.words.startswith(f"{100 - score.off:.0f} %")
    (border,) = score.lines
    # Shadow from column 10 to 39 and row 20 to 79: its border lies about its middle, in middles of pixels.
    low, high = np.min(border, axis=0), np.max(border, axis=0)
    assert (low + high) / 2 == pytest.approx((25 / 80, 0.5))
    assert high - low == pytest.approx((29 / 80, 0.59))


def test_a_stroke_begins_in_the_middle_of_a_pixel_and_three_points_are_a_stroke() -> None:
    growth = np.zeros((100, 80, 2), np.float32)
    growth[30, 20] = (1, 0)
    one = make_round("strokes", flat(growth=growth), 10.0, 1)
    assert one.question.at == pytest.approx((20.5 / 80, 0.305))
    x, y = 20.5 / 80, 0.305
    line = ((x, y), (x + 0.1, y), (x + 0.2, y))
    assert one.score(Answer(points=line, widths=(1.0, 1.0, 0.1))).off == pytest.approx(0, abs=0.01)
    with pytest.raises(Refusal):
        one.score(Answer(points=line[:2], widths=(1.0, 0.1)))


def test_a_contour_is_as_long_as_it_should_be() -> None:
    for seed in range(6):
        line = np.array(make_round("contour", flat(), 5.0, seed).question.line)
        assert np.ptp(line[:, 1]) == pytest.approx(LONG, abs=0.03)


def test_of_two_whites_one_is_set_out() -> None:
    palette = starter("earth-four")
    both = ("titanium-white", "zinc-white", *[t for t in palette.tubes if "white" not in t])
    for seed in range(8):
        tubes = make_round("mix", flat(palette=palette.with_tubes(both)), 3.0, seed).question.tubes
        assert sum("white" in key for key, _, _ in tubes) == 1


def test_exactly_as_far_off_as_allowed_is_right_and_no_value_lies_below_black() -> None:
    far = make_round("value", flat(), 1.0, 1).score(Answer(number=6.0))
    assert make_round("value", flat(), far.off, 1).score(Answer(number=6.0)).right
    assert not make_round("value", flat(), far.off - 1e-6, 1).score(Answer(number=6.0)).right
    with pytest.raises(Refusal):
        make_round("value", flat(), 1.0, 1).score(Answer(number=-0.5))


def test_light_pairs_reach_up_to_the_lightest_and_steps_down_to_the_darkest() -> None:
    light = make_round("lighter", flat(lab=coloured(97)), 3.0, 1).question.patches
    assert max(value_of(p) for p in light) == pytest.approx(LIGHT, abs=0.1)
    dark = [make_round("steps", flat(lab=coloured(54)), 1.0, seed).question.patches for seed in range(40)]
    assert min(value_of(p) for pair in dark for p in pair) < 1.2


def test_warm_and_cool_keep_the_hue_of_the_picture() -> None:
    pair = make_round("warm", flat(lab=coloured(50, 30, 10)), 4.0, 2).question.patches
    lab = np.mean([srgb_to_lab(hex_to_srgb(p)) for p in pair], axis=0)
    assert lab[1:] == pytest.approx((15, 5), abs=1.5)


def test_before_the_first_answer_an_eye_is_believed_to_be_as_the_drill_begins() -> None:
    """The belief is normal in the logarithm: its spread by hand is threshold · ln 10 · σ."""
    for drill in DRILLS.values():
        if drill.choices:
            known = estimate(drill, ())
            assert known.threshold == pytest.approx(drill.start, rel=0.25)
            assert known.error == pytest.approx(known.threshold * np.log(10) * SURE, rel=0.25)
