"""Ranked recipes and wishes, films, strings, nudges, drying, amounts."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.board.nudges import DIRECTIONS, Direction, nudge
from truesitter.core.paint.board.strings import mix_string, tone_targets
from truesitter.core.paint.layered.films import Film, coats_to_value, ground_of, hiding, seen, stack
from truesitter.core.paint.layered.glazes import find_glazes
from truesitter.core.paint.media.drying import DryingShift
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.quantity import paint_ml, tube_amounts, tube_cm
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.pigment_shares import TubeSets
from truesitter.core.paint.recipes.reach import palette_reach
from truesitter.core.paint.recipes.solver import solve_recipe, solve_recipes
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import STARTERS, Palette
from truesitter.core.refusal import Refusal

EARTH, SIX, _, GREYS, WASHES = STARTERS
OIL = MEDIA["oil"].thinning
FLESH = (62.0, 18.0, 24.0)
targets = st.tuples(st.floats(25, 85), st.floats(-5, 30), st.floats(0, 35))


@given(targets)
@settings(deadline=None, max_examples=25)
def test_recipes_come_best_first_and_each_of_other_tubes(target: tuple[float, float, float]) -> None:
    recipes = solve_recipes(target, SIX, count=4)
    assert 1 <= len(recipes) <= 4
    assert len({tuple(sorted(r.parts)) for r in recipes}) == len(recipes)
    for recipe in recipes:
        again = mix({k: float(p) for k, p in recipe.parts.items()}, SIX)
        assert again.lab == pytest.approx(recipe.predicted.lab, abs=1e-6)
    single = solve_recipe(target, SIX)
    cost = [r.delta_e + 6 * abs(r.value_error) for r in recipes]
    assert min(cost) <= single.delta_e + 6 * abs(single.value_error) + 1.5


@given(
    targets, st.sets(st.sampled_from(SIX.tubes), max_size=2), st.sets(st.sampled_from(SIX.tubes), max_size=3)
)
@settings(deadline=None, max_examples=40)
def test_wishes_are_kept(target: tuple[float, float, float], must: set[str], without: set[str]) -> None:
    without -= must
    recipe = solve_recipes(target, SIX, Wishes(must=tuple(must), without=tuple(without)), 1)[0]
    assert must <= set(recipe.parts)
    assert not without & set(recipe.parts)
    assert len(recipe.parts) <= 4


def test_an_ordinary_flesh_has_several_ways_and_none_is_far_off() -> None:
    recipes = solve_recipes(FLESH, SIX, count=4)
    assert len(recipes) >= 3
    assert all(r.delta_e < 6 for r in recipes)


def test_dearer_tubes_make_for_fewer_of_them() -> None:
    many = solve_recipes(FLESH, SIX, Wishes(tube_cost=0.0), 1)[0]
    few = solve_recipes(FLESH, SIX, Wishes(tube_cost=8.0), 1)[0]
    assert len(few.parts) < len(many.parts)


def test_black_can_be_ruled_out() -> None:
    assert "ivory-black" not in solve_recipes((20.0, 3.0, 3.0), EARTH, Wishes(black=False), 1)[0].parts
    assert "ivory-black" in solve_recipes((20.0, 3.0, 3.0), EARTH, Wishes(), 1)[0].parts


@pytest.mark.parametrize(
    ("wishes", "sentence"),
    [
        (Wishes(must=("viridian",)), "Viridian is not set out"),
        (Wishes(must=("light-red",), without=("light-red",)), "both asked for and ruled out"),
        (Wishes(must=("ivory-black",), black=False), "both asked for and ruled out"),
        (Wishes(without=EARTH.tubes), "every tube is ruled out"),
        (Wishes(most_tubes=1, must=("light-red", "yellow-ochre")), "may hold 1"),
        (Wishes(most_tubes=9), "1 to 6 tubes"),
    ],
)
def test_wishes_that_cannot_be_kept_say_why(wishes: Wishes, sentence: str) -> None:
    with pytest.raises(Refusal, match=sentence):
        solve_recipes(FLESH, EARTH, wishes)


def test_the_derivative_is_that_of_the_colour() -> None:
    """Against differences: opaque mixtures and washes."""
    for palette, start in ((SIX, 0.0), (WASHES, np.log(0.0005))):
        sets = TubeSets(np.array(FLESH), palette, np.array([[0, 1, 2]], dtype=np.int32))
        logs = np.array([[start, start - 0.5, start - 1.0]])
        rows = np.zeros(1, dtype=np.int32)
        residual, jacobian = sets.linearise(logs, rows)
        for i in range(3):
            moved = logs.copy()
            moved[0, i] += 1e-5
            numeric = (sets.linearise(moved, rows)[0] - residual) / 1e-5
            np.testing.assert_allclose(jacobian[0, :, i], numeric[0], rtol=2e-3, atol=2e-3)


@given(st.floats(0.0005, 0.2), st.floats(0.0005, 0.2), st.sampled_from(SIX.tubes))
@settings(deadline=None)
def test_two_films_are_one_of_their_summed_thickness(a: float, b: float, tube: str) -> None:
    """Kubelka (1948)."""
    ground = ground_of((60.0, 5.0, 10.0))
    twice = stack(ground, (Film({tube: 1}, a), Film({tube: 1}, b)))
    np.testing.assert_allclose(twice, stack(ground, (Film({tube: 1}, a + b),)), atol=1e-9)


def test_a_ground_known_by_its_colour_is_seen_in_it() -> None:
    for lab in ((30.0, 5.0, 8.0), (60.0, 20.0, 30.0), (90.0, 0.0, 3.0)):
        assert float(delta_e_2000(np.array(seen(ground_of(lab)).lab), np.array(lab))) < 0.05


def test_hiding_grows_with_the_film_and_white_hides_as_the_fit_says() -> None:
    """A 50 µm film of titanium white hides 96 % (the figure its scattering is set by)."""
    assert hiding({"titanium-white": 1}, 0.05) == pytest.approx(0.96, abs=0.001)
    films = [hiding({"perm-crimson": 1}, mm) for mm in (0.001, 0.01, 0.1)]
    assert films == sorted(films)
    assert hiding({"yellow-ochre": 1}, 0.05) > hiding({"quinacridone-rose": 1}, 0.05)


def test_coats_go_step_by_step_and_stop_at_the_value() -> None:
    ground = ground_of((75.0, 0.0, 0.0))
    start = seen(ground).value
    coats = coats_to_value({"raw-umber": 1}, 0.00006, ground, start - 1.5)
    values = [start, *[c.value for c in coats]]
    assert len(coats) > 2
    assert all(b < a for a, b in pairwise(values))
    assert abs(values[-1] - (start - 1.5)) <= max(a - b for a, b in pairwise(values))
    up = coats_to_value({"titanium-white": 1}, 0.004, ground_of((30.0, 0.0, 0.0)), 6.0)
    assert [c.value for c in up] == sorted(c.value for c in up)
    assert coats_to_value({"raw-umber": 1}, 0.001, ground, 10.0) == ()
    with pytest.raises(Refusal, match="parts"):
        stack(ground, (Film({}, 0.1),))


def skin() -> np.ndarray:
    """Made skin: warm in the light, redder and darker in the shadow."""
    rng = np.random.default_rng(2)
    light = rng.uniform(0, 1, 4000)
    return np.column_stack([28 + 52 * light, 20 - 8 * light, 16 + 10 * light]).astype(
        np.float32
    ) + rng.normal(0, 0.6, (4000, 3)).astype(np.float32)


@pytest.mark.parametrize("count", [3, 5, 9])
@pytest.mark.parametrize("palette", [EARTH, SIX])
def test_a_string_climbs_from_the_darkest_to_the_lightest(count: int, palette: Palette) -> None:
    tones = mix_string(skin(), palette, count)
    assert len(tones) == count
    for rows in ([t.recipe.predicted.value for t in tones], [t.stepped.value for t in tones]):
        assert all(b > a for a, b in pairwise(rows))
    assert len({k for t in tones for k in t.recipe.parts}) <= 4, "one set of tubes for all"
    assert tones[0].added == {}
    assert all(t.base > 0 and t.added for t in tones[1:])
    reach = palette_reach(palette)
    assert reach.darkest - 0.1 <= tones[0].stepped.value
    assert tones[-1].stepped.value <= reach.lightest + 0.1


def test_each_tone_is_truly_the_last_one_and_a_little() -> None:
    tones = mix_string(skin(), EARTH, 5)
    pile = {k: float(p) for k, p in tones[0].recipe.parts.items()}
    for tone in tones[1:]:
        total = sum(pile.values())
        pile = {k: tone.base * pile.get(k, 0) / total + tone.added.get(k, 0) for k in EARTH.tubes}
        made = mix({k: p for k, p in pile.items() if p > 0}, EARTH)
        assert made.lab == pytest.approx(tone.stepped.lab, abs=1e-6)
        assert float(delta_e_2000(np.array(made.lab), np.array(tone.recipe.target_lab))) < 8


def test_tones_follow_the_pictures_own_shift_of_hue() -> None:
    targets_ = tone_targets(skin(), 5)
    value = lab_value(targets_)
    np.testing.assert_allclose(np.diff(value), np.diff(value).mean(), atol=0.05)
    assert targets_[0, 1] > targets_[-1, 1] + 3, "redder in the shadow"
    assert targets_[-1, 2] > targets_[0, 2] + 3, "yellower in the light"


def test_what_makes_no_string_says_so() -> None:
    flat = np.full((50, 3), (50.0, 10.0, 10.0), np.float32)
    with pytest.raises(Refusal, match="single mixture"):
        tone_targets(flat, 5)
    with pytest.raises(Refusal, match="3 to 9"):
        tone_targets(skin(), 2)


def warm(lab: tuple[float, float, float]) -> float:
    """How far along the warmest hue, orange at 55°."""
    return float(lab[1] * np.cos(np.radians(55)) + lab[2] * np.sin(np.radians(55)))


@pytest.mark.parametrize("direction", DIRECTIONS)
def test_a_nudge_goes_its_way_and_tells_what_it_makes(direction: Direction) -> None:
    palette = SIX.with_tubes((*SIX.tubes, "viridian", "ivory-black"))
    parts = {"titanium-white": 8, "yellow-ochre": 2, "pyrrole-red": 1}
    found = nudge(parts, palette, direction)
    assert found is not None
    before = mix({k: float(v) for k, v in parts.items()}, palette)
    amounts = {k: v / 11 for k, v in parts.items()}
    amounts[found.tube] = amounts.get(found.tube, 0) + 1 / found.pile
    after = mix(amounts, palette)
    assert after.lab == pytest.approx(found.predicted.lab, abs=1e-6)
    way = {
        "lighter": after.value - before.value, "darker": before.value - after.value,
        "redder": after.lab[1] - before.lab[1], "greener": before.lab[1] - after.lab[1],
        "greyer": np.hypot(*before.lab[1:]) - np.hypot(*after.lab[1:]),
        "warmer": warm(after.lab) - warm(before.lab), "cooler": warm(before.lab) - warm(after.lab),
    }[direction]  # fmt: skip
    assert way == pytest.approx(found.moved, abs=0.01)
    assert found.moved > 0.2


def test_a_palette_that_cannot_move_a_mixture_says_nothing() -> None:
    two = Palette("two", "Two", ("titanium-white", "ivory-black"))
    assert nudge({"titanium-white": 1, "ivory-black": 1}, two, "redder") is None
    with pytest.raises(Refusal, match="thinned"):
        nudge({"arylide-yellow": 1}, WASHES, "redder")
    with pytest.raises(Refusal, match="sweeter"):
        nudge({"titanium-white": 1}, two, "sweeter")  # type: ignore[arg-type]


@given(st.sampled_from(sorted(MEDIA)), st.floats(1.5, 9))
def test_laid_wet_it_dries_to_what_was_wanted(medium: str, value: float) -> None:
    shift = MEDIA[medium].shift
    wet = shift.wet(value)
    if 0.01 < wet < 9.99:
        assert shift.dry(wet) == pytest.approx(value, abs=0.01)


def test_watercolour_dries_lighter_and_acrylic_darker_by_default() -> None:
    """Common practice, no source."""
    assert MEDIA["watercolour"].shift.dry(4) > 4
    assert MEDIA["acrylic"].shift.dry(4) < 4
    assert MEDIA["oil"].shift.dry(4) == pytest.approx(4)


@pytest.mark.parametrize(
    ("pairs", "sentence"),
    [((), "at least one"), (((1.0, 11.0),), "between 0 and 10"), (((2.0, 3.0), (4.0, 2.0)), "lighter"),
     (((1.0, 9.0),), "check the swatches")],
)  # fmt: skip
def test_swatches_no_paint_would_give_are_refused(
    pairs: tuple[tuple[float, float], ...], sentence: str
) -> None:
    with pytest.raises(Refusal, match=sentence):
        DryingShift(pairs)


def test_amounts_worked_by_hand() -> None:
    """300 × 400 mm at 0.1 mm is 12 ml; a third of it ochre; a strand 8 mm thick holds 0.503 ml to the cm."""
    ml = paint_ml(1200, 0.1)
    assert ml == pytest.approx(12)
    assert tube_amounts({"yellow-ochre": 1, "titanium-white": 2}, ml) == pytest.approx(
        {"yellow-ochre": 4, "titanium-white": 8}
    )
    assert tube_cm(0.50265) == pytest.approx(1, abs=1e-4)
    with pytest.raises(Refusal, match="negative"):
        tube_cm(-1)
    with pytest.raises(Refusal, match="negative"):
        tube_amounts({}, 1)


def test_a_glaze_laid_by_hand_is_found_again() -> None:
    ground = ground_of((66.0, 0.0, 2.0))
    palette = Palette("clear", "Clear", ("quinacridone-rose", "perm-crimson", "ultramarine-blue", "viridian"))
    wanted = seen(stack(ground, (Film({"quinacridone-rose": 1, "viridian": 1}, 0.001),)))
    best, *others = find_glazes(ground, np.array(wanted.lab), palette, OIL)
    assert best.cost < 1.5
    assert all(best.cost <= other.cost + 0.7 for other in others)
    assert len({frozenset(g.parts) for g in (best, *others)}) == 1 + len(others)
    again = seen(stack(ground, (Film(best.parts, best.mm),)))
    assert again == best.after
    assert best.after.value < best.before.value


def test_a_grey_is_glazed_to_flesh_without_white_or_opaque_paint() -> None:
    glazes = find_glazes(ground_of((70.0, 0.0, 0.0)), np.array([62.0, 14.0, 18.0]), SIX, OIL)
    assert glazes
    for glaze in glazes:
        assert "titanium-white" not in glaze.parts
        assert glaze.after.lab[1] > 5
    assert (
        find_glazes(
            ground_of((70.0, 0.0, 0.0)),
            np.array(FLESH),
            GREYS.with_tubes(("titanium-white",)),
            OIL,
        )
        == ()
    )


@pytest.mark.parametrize("lightness", [55.0, 75.0])
def test_value_comes_first_where_the_colour_cannot_be_had(lightness: float) -> None:
    """Colours that earths cannot reach: the hue gives way, the value does not."""
    for a, b in ((-45.0, 20.0), (40.0, -45.0), (-30.0, -25.0), (5.0, 80.0), (60.0, 10.0), (-50.0, 50.0)):
        recipe = solve_recipes((lightness, a, b), EARTH, count=1)[0]
        assert recipe.delta_e > 3
        assert abs(recipe.value_error) < 0.1
