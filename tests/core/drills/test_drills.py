"""Drills: rounds are fair, scores are what other libraries say they are, and eyes are measured truly."""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st
from skimage.draw import polygon

from tests.conftest import study_of, truth
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import hex_to_srgb, srgb_to_lab
from truesitter.core.colour.tuning import WARM_HUE
from truesitter.core.colour.value import lab_value
from truesitter.core.drills.drawing_rounds import filled
from truesitter.core.drills.drill_kinds import DRILLS, DrillName
from truesitter.core.drills.drill_picture import DrillPicture, Peak
from truesitter.core.drills.make import MAKERS, make_round
from truesitter.core.drills.rounds import Answer, NotHere, Round
from truesitter.core.drills.tuning import THINS_TO
from truesitter.core.paint.tubes.palettes import starter
from truesitter.core.refusal import Refusal

LOOKING: tuple[DrillName, ...] = ("value", "surround", "lighter", "same value", "warm", "steps")


@cache
def picture(name: str = "tobias") -> DrillPicture:
    return study_of(name).drills.picture()


def value_of(hex_: str) -> float:
    return float(lab_value(srgb_to_lab(hex_to_srgb(hex_))))


def flat(**changes: object) -> DrillPicture:
    """A made picture: grey, its left half in shadow, one peak, hair that runs to the right."""
    lab = np.zeros((100, 80, 3), np.float32)
    lab[..., 0] = 50
    growth = np.zeros((100, 80, 2), np.float32)
    growth[10:40, 20:60] = (1, 0)
    shadow = np.zeros((100, 80), bool)
    shadow[20:80, 10:40] = True
    figure = np.zeros((100, 80), bool)
    figure[10:90, 5:75] = True
    known = {
        "lab": lab, "places": np.zeros((100, 80), np.uint8), "names": ("all",), "figure": figure,
        "shadow": shadow, "peaks": (Peak(0.5, 0.5, "nose"), Peak(0.25, 0.2, "forehead")),
        "outline": np.column_stack([np.full(81, 0.5), np.linspace(0.1, 0.9, 81)]), "growth": growth,
        "palette": starter("earth-four"),
    }  # fmt: skip
    return DrillPicture(**{**known, **changes})  # type: ignore[arg-type]


@pytest.mark.parametrize("drill", list(DRILLS))
def test_a_round_is_the_same_again_and_another_by_another_lot(drill: DrillName) -> None:
    source = picture()
    first, again = (make_round(drill, source, 1.0, 7).question for _ in range(2))
    assert first == again
    if drill not in ("peaks", "masses"):
        assert len({repr(make_round(drill, source, 1.0, seed).question) for seed in range(8)}) > 4


@pytest.mark.parametrize("drill", list(DRILLS))
def test_no_answer_and_nonsense_are_refused(drill: DrillName) -> None:
    one = make_round(drill, picture(), 1.0, 1)
    for answer in (Answer(), Answer(number=11, choice=9, parts={"gold": 1}, shapes=((),))):
        with pytest.raises(Refusal):
            one.score(answer)


# -- looking ------------------------------------------------------------------------------------


@pytest.mark.parametrize("seed", range(12))
@pytest.mark.parametrize("drill", ["value", "surround"])
def test_a_value_is_that_of_the_colour_on_the_screen(drill: DrillName, seed: int) -> None:
    one = make_round(drill, picture(), 0.5, seed)
    true = value_of(one.question.patches[0])
    assert one.score(Answer(number=round(true, 3))).off < 0.001
    high = one.score(Answer(number=min(10, true + 0.6)))
    assert (high.right, "too light" in high.words) == (False, True)
    if drill == "surround":
        assert abs(value_of(one.question.around) - true) > 2


@pytest.mark.parametrize("level", [0.1, 0.5, 1.5, 3.0])
def test_two_values_differ_by_the_level(level: float) -> None:
    """The eight bits of a screen round by up to a fiftieth of a step."""
    firsts = 0
    for seed in range(30):
        one = make_round("lighter", picture(), level, seed)
        values = [value_of(p) for p in one.question.patches]
        assert abs(values[0] - values[1]) == pytest.approx(level, abs=0.06)
        right = int(values[1] > values[0])
        firsts += right == 0
        assert one.score(Answer(choice=right)).right
        assert not one.score(Answer(choice=1 - right)).right
    assert 6 < firsts < 24


@pytest.mark.parametrize("level", [0.3, 1.0, 2.5])
def test_one_of_four_has_the_same_value_and_another_colour(level: float) -> None:
    places = set()
    for seed in range(30):
        one = make_round("same value", picture(), level, seed)
        first, *others = one.question.patches
        away = [abs(value_of(p) - value_of(first)) for p in others]
        right = int(np.argmin(away))
        places.add(right)
        assert away[right] < 0.08
        assert min(a for n, a in enumerate(away) if n != right) > level - 0.15
        assert one.score(Answer(choice=right)).right
        assert float(delta_e_2000(*(srgb_to_lab(hex_to_srgb(p)) for p in (first, others[right])))) > 2
    assert places == {0, 1, 2, 3}


def test_steps_between_are_counted_either_way() -> None:
    for seed in range(20):
        one = make_round("steps", picture(), 1.0, seed)
        true = abs(value_of(one.question.patches[0]) - value_of(one.question.patches[1]))
        assert 0.3 < true < 5.2
        assert one.score(Answer(number=true)).off < 1e-6
        assert one.score(Answer(number=true + 0.5)).off == pytest.approx(0.5)


@pytest.mark.parametrize("level", [1.0, 4.0, 12.0])
def test_two_colours_are_equally_light_and_one_is_warmer(level: float) -> None:
    """Warmth by b* and a* as CIE 15 has them; distance by CIEDE2000."""
    for seed in range(20):
        one = make_round("warm", picture(), level, seed)
        labs = [srgb_to_lab(hex_to_srgb(p)) for p in one.question.patches]
        assert abs(value_of(one.question.patches[0]) - value_of(one.question.patches[1])) < 0.1
        assert float(delta_e_2000(*labs)) == pytest.approx(level, abs=max(1.0, 0.25 * level))
        warmth = [
            lab[1] * np.cos(np.radians(WARM_HUE)) + lab[2] * np.sin(np.radians(WARM_HUE)) for lab in labs
        ]
        assert one.score(Answer(choice=int(np.argmax(warmth)))).right
        assert not one.score(Answer(choice=int(np.argmin(warmth)))).right


def test_own_habits_choose_the_places() -> None:
    """A place that is painted too dark again and again is asked for in half of the rounds and more."""
    lab = np.zeros((100, 80, 3), np.float32)
    lab[..., 0], lab[40:60, 30:50, 0] = 20, 80
    places = np.zeros((100, 80), np.uint8)
    places[40:60, 30:50] = 1
    source = flat(lab=lab, places=places, names=("coat", "eye socket"))

    def light(own: tuple[str, ...]) -> float:
        rounds = [make_round("value", source, 1.0, seed, own) for seed in range(80)]
        return float(np.mean([value_of(r.question.patches[0]) > 5 for r in rounds]))

    assert light(()) < 0.2
    assert 0.35 < light(("eye socket",)) < 0.75


# -- mixing -------------------------------------------------------------------------------------


def test_the_parts_it_was_made_of_make_the_colour() -> None:
    import re

    found = 0
    for seed in range(20):
        one = make_round("mix", picture(), 5.0, seed)
        target = one.question.patches[0]
        guess = one.score(Answer(parts={one.question.tubes[0][0]: 1}))
        names = {name: key for key, name, _ in one.question.tubes}
        recipe = guess.words.split("made of ")[1].rstrip(".").split(" : ")
        parts = {names[m[2]]: int(m[1]) for part in recipe if (m := re.fullmatch(r"(\d+) (.+)", part))}
        right = one.score(Answer(parts=parts))
        assert right.off < 1e-6
        assert right.patches == (target, target)
        assert one.score(Answer(parts={k: 2 * v for k, v in parts.items()})).off < 1e-6
        found += guess.off > 5
    assert found > 10


# -- drawing ------------------------------------------------------------------------------------


def test_peaks_are_held_to_the_nearest_each() -> None:
    one = make_round("peaks", flat(), 4.0, 1)
    assert one.question.count == 2
    assert one.score(Answer(points=((0.25, 0.2), (0.5, 0.5)))).off == 0
    # 0.1 of the width of 80 is 8 % of the height of 100.
    assert one.score(Answer(points=((0.6, 0.5), (0.25, 0.2)))).off == pytest.approx(4)
    # Both marks on one peak: the other is far.
    assert one.score(Answer(points=((0.5, 0.5), (0.5, 0.5)))).off > 10
    with pytest.raises(Refusal, match="mark 2"):
        one.score(Answer(points=((0.5, 0.5),)))


@given(st.lists(st.tuples(st.floats(0.05, 0.95), st.floats(0.05, 0.95)), min_size=3, max_size=8, unique=True))
def test_shapes_are_filled_as_another_library_fills_them(points: list[tuple[float, float]]) -> None:
    """Against scikit-image; corners between pixels may fall to either side."""
    line = shapely.Polygon(points)
    if not line.is_valid or line.area < 0.02:
        return
    ours = filled((tuple(points),), (200, 160))
    theirs = np.zeros((200, 160), bool)
    xs, ys = np.array(points).T * [[160], [200]] - 0.5
    theirs[polygon(ys, xs, (200, 160))] = True
    assert (ours & theirs).sum() / (ours | theirs).sum() > 1 - 3 * line.length / line.area / 160


def test_masses_are_scored_by_what_they_share() -> None:
    """Against shapely: the true shadow is a rectangle from 10 to 40 and from 20 to 80."""
    one = make_round("masses", flat(), 40.0, 1)
    drawn = ((20 / 80, 0.2), (55 / 80, 0.2), (55 / 80, 0.9), (20 / 80, 0.9))
    true, given_ = shapely.box(10, 20, 40, 80), shapely.box(20, 20, 55, 90)
    share = true.intersection(given_).area / true.union(given_).area
    assert one.score(Answer(shapes=(drawn,))).off == pytest.approx(100 * (1 - share), abs=2)
    whole = ((10 / 80, 0.2), (0.5, 0.2), (0.5, 0.8), (10 / 80, 0.8))
    # Lines are as wide as a pixel, and there are only a hundred of them.
    assert one.score(Answer(shapes=(whole,))).off < 6
    # What is drawn beside the figure, which begins at 5, costs nothing.
    to_the_rim, beyond = (((x, 0.2), (0.5, 0.2), (0.5, 0.8), (x, 0.8)) for x in (5 / 80, 0.0))
    off = one.score(Answer(shapes=(to_the_rim,))).off
    assert off == pytest.approx(100 / 7, abs=4)
    assert one.score(Answer(shapes=(beyond,))).off == pytest.approx(off)


@pytest.mark.parametrize("angle", [0, 10, 45, 90, 170])
def test_a_stroke_is_judged_where_it_leaves_its_root(angle: float) -> None:
    one = make_round("strokes", flat(), 15.0, 3)
    assert one.question.at is not None
    x, y = one.question.at
    away = np.linspace(0, 12, 20)[:, None] * (np.cos(np.radians(angle)), -np.sin(np.radians(angle)))
    # Free after its first quarter.
    away[8:, 1] += np.linspace(0, 6, 12)
    points = tuple((x + dx / 80, y + dy / 100) for dx, dy in away)
    taper = tuple(np.linspace(1, 0.2, 20))
    score = one.score(Answer(points=points, widths=taper))
    assert score.off == pytest.approx(angle, abs=0.5)
    assert score.right == (angle <= 15)
    blunt = one.score(Answer(points=points, widths=(1.0,) * 20))
    assert (blunt.right, "as thick" in blunt.words) == (False, True)
    at_the_bar = (1.0,) * 14 + (THINS_TO - 0.01,) * 6
    assert one.score(Answer(points=points, widths=at_the_bar)).right == (angle <= 15)


def test_a_contour_is_held_to_the_line_on_its_head() -> None:
    """Against shapely: the mean of both lines' distances, sampled evenly."""
    outline = np.column_stack([0.5 + 0.2 * np.sin(np.linspace(0, 5, 400)), np.linspace(0.05, 0.95, 400)])
    one = make_round("contour", flat(outline=outline), 4.0, 5)
    line = np.array(one.question.line)
    assert one.score(Answer(points=one.question.line)).off < 0.05
    copy = line + np.array((0.05, 0.01))
    pixels = [shapely.LineString(part * (80, 100)) for part in (copy, line)]
    even = [[one_.interpolate(t, normalized=True) for t in np.linspace(0, 1, 400)] for one_ in pixels]
    apart = np.mean([np.mean([pixels[1 - k].distance(point) for point in even[k]]) for k in (0, 1)])
    score = one.score(Answer(points=tuple(map(tuple, copy))))
    assert score.off == pytest.approx(apart, abs=0.25)
    # The piece is one of the outline, turned by half a turn.
    back = 1 - line
    tree = shapely.LineString(outline)
    assert max(tree.distance(shapely.Point(p)) for p in back) < 0.02


def test_what_the_picture_has_not_is_said() -> None:
    bare = flat(
        peaks=(), shadow=np.zeros((100, 80), bool), growth=np.zeros((100, 80, 2), np.float32),
        outline=np.zeros((0, 2)),
    )  # fmt: skip
    for drill in ("peaks", "masses", "strokes", "contour"):
        with pytest.raises(NotHere):
            make_round(drill, bare, 1.0, 1)  # type: ignore[arg-type]


@pytest.mark.parametrize("name", ["maren", "tobias", "ines", "selda", "orsolya"])
def test_every_sitter_gives_every_drill(name: str) -> None:
    source = study_of(name).drills.picture()
    for drill in MAKERS:
        assert isinstance(make_round(drill, source, 1.0, 3), Round)
    share = source.shadow.sum() / source.figure.sum()
    assert 0.1 < share < 0.9
    lit = source.figure & ~source.shadow
    assert source.lab[source.shadow][:, 0].mean() < source.lab[lit][:, 0].mean() - 10


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_hair_grows_as_it_does_on_the_sitter(name: str) -> None:
    """Against the true directions the sitters were made with; y runs down in drills."""
    growth = study_of(name).drills.picture().growth
    mask, _, true = truth(name).smoothed_direction()
    size = growth.shape[1::-1]
    known = cv2.resize(mask.astype(np.uint8), size, interpolation=cv2.INTER_NEAREST) > 0
    angle = cv2.resize(true.astype(np.float32), size, interpolation=cv2.INTER_NEAREST)
    here = known & (np.hypot(growth[..., 0], growth[..., 1]) > 0.5)
    along = growth[..., 0] * np.cos(angle) - growth[..., 1] * np.sin(angle)
    assert here.sum() > 1000
    assert np.median(np.degrees(np.arccos(np.clip(along[here], -1, 1)))) < 12


def test_a_stroke_beside_its_mark_is_not_judged() -> None:
    one = make_round("strokes", flat(), 15.0, 3)
    assert one.question.at is not None
    x, y = one.question.at
    along = np.linspace(0, 0.15, 20)
    elsewhere = tuple((float(x + (0.3 if x < 0.5 else -0.3) + d), float(y)) for d in along)
    with pytest.raises(Refusal, match="at the mark"):
        one.score(Answer(points=elsewhere, widths=(1.0,) * 20))
    # A finger's breadth beside it will do.
    near = tuple((float(x + d), float(y + 0.03)) for d in along)
    assert one.score(Answer(points=near, widths=tuple(np.linspace(1, 0.2, 20)))).off < 1
