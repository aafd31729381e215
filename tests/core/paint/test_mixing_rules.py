"""Rules of mixing, each against every other possibility: the best is first, the purest is taken."""

from __future__ import annotations

import numpy as np
import pytest

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.paint.board.flesh_mixtures import mix_colour, mix_flesh
from truesitter.core.paint.board.nudges import nudge
from truesitter.core.paint.board.strings import SingleValue, mix_string, tone_targets
from truesitter.core.paint.board.tuning import PILES
from truesitter.core.paint.layered.films import coats_to_value, ground_of, seen
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.quantity import tube_amounts
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.recipes.reach import palette_reach
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipe, solve_recipes, suggest_tube
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import STARTERS, Palette, starter
from truesitter.core.paint.tubes.pigments import pigment_library
from truesitter.core.paint.tubes.swatches import Swatches, fit_swatches
from truesitter.core.refusal import Refusal

EARTH, SIX = STARTERS[0], STARTERS[1]
SKIN = (62.0, 17.0, 24.0)


def cost(recipe: Recipe) -> float:
    return float(recipe_cost(np.array(recipe.predicted.lab), np.array(recipe.target_lab)))


@pytest.mark.parametrize("target", [SKIN, (40.0, 20.0, 15.0), (75.0, 5.0, 30.0), (30.0, -5.0, -10.0)])
def test_the_best_recipe_comes_first_and_no_two_hold_the_same_tubes(
    target: tuple[float, float, float],
) -> None:
    recipes = solve_recipes(target, SIX, count=4)
    assert len(recipes) > 1
    # More tubes and more parts cost a little: never more than this.
    costs = [cost(r) for r in recipes]
    assert costs[0] <= min(costs) + 1.5
    assert costs[-1] >= costs[0] - 0.5
    assert len({frozenset(r.parts) for r in recipes}) == len(recipes)


def test_without_black_darks_stay_apart_and_each_is_reached() -> None:
    """Darks are eased into the reach of the tubes that may be used, not flattened onto its end."""
    no_black = Wishes(black=False)
    darks = [np.array([v, 4.0, 6.0]) for v in (5, 12, 20, 28, 35, 42)]
    made = [mix_colour(dark, EARTH, no_black)[0] for dark in darks]
    assert max(abs(m.value_error) for m in made) < 0.2
    wanted = [float(lab_value(np.array(m.target_lab))) for m in made]
    assert min(np.diff(wanted)) > 0, "the order is kept"
    assert min(np.diff(wanted[2:])) > 0.02, "and what is near the reach stays apart"
    assert all("ivory-black" not in m.parts for m in made)
    assert mix_colour(darks[1], EARTH)[0].predicted.value < made[0].predicted.value - 1


def test_a_pair_may_be_darker_than_either_of_its_tubes() -> None:
    """Complements take each other's light (common practice): the reach is found over pairs."""
    pair = Palette("own", "Own", ("pyrrole-red", "cobalt-blue"))
    singles = [mix({key: 1.0}, pair).value for key in pair.tubes]
    assert palette_reach(pair).darkest < min(singles) - 0.05


def every_nudge(parts: dict[str, int], palette: Palette, lighter: bool) -> list[tuple[int, float, float]]:
    """Pile, purity and value step of every single addition, by hand."""
    before, out = mix({k: float(v) for k, v in parts.items()}, palette), []
    total = sum(parts.values())
    for pile in PILES:
        for tube in palette.tubes:
            amounts = {k: v * pile / total for k, v in parts.items()}
            amounts[tube] = amounts.get(tube, 0.0) + 1
            after = mix(amounts, palette)
            step = (after.value - before.value) * (1 if lighter else -1)
            change = max(0.1, float(delta_e_2000(np.array(after.lab), np.array(before.lab))))
            if 0.25 <= step <= 1.0:
                out.append((pile, step / change, step))
    return out


@pytest.mark.parametrize("lighter", [True, False])
def test_a_nudge_is_the_smallest_addition_and_of_those_the_purest(lighter: bool) -> None:
    parts = {"titanium-white": 4, "yellow-ochre": 2, "light-red": 1}
    found = nudge(parts, EARTH, "lighter" if lighter else "darker")
    assert found is not None
    every = every_nudge(parts, EARTH, lighter)
    smallest = max(pile for pile, _, _ in every)
    assert found.pile == smallest
    purest = max(purity for pile, purity, _ in every if pile == smallest)
    after = np.array(found.predicted.lab)
    before = np.array(mix({k: float(v) for k, v in parts.items()}, EARTH).lab)
    assert found.moved / float(delta_e_2000(after, before)) == pytest.approx(purest, rel=0.01)


def test_what_else_a_nudge_does_is_said_the_right_way_round() -> None:
    parts = {"titanium-white": 6, "yellow-ochre": 2, "light-red": 1}
    before = mix({k: float(v) for k, v in parts.items()}, SIX)
    said = 0
    for direction in ("warmer", "cooler", "redder", "greener", "lighter", "darker", "greyer"):
        found = nudge(parts, SIX, direction)  # type: ignore[arg-type]
        if found is None:
            continue
        step = found.predicted.value - before.value
        chroma = found.predicted.chroma - before.chroma
        red = found.predicted.lab[1] - before.lab[1]
        yellow = found.predicted.lab[2] - before.lab[2]
        for word, amount in (
            ("steps lighter", step), ("steps darker", -step),
            ("stronger in colour", chroma), ("greyer", -chroma),
            ("redder", red), ("greener", -red), ("yellower", yellow), ("bluer", -yellow),
        ):  # fmt: skip
            if word in found.side_effects:
                said += 1
                assert amount > 0, (direction, word)
    assert said >= 4


def test_a_tube_is_suggested_only_when_it_takes_away_a_third_of_the_error() -> None:
    grey = Palette("own", "Own", ("titanium-white", "ivory-black"))
    for target in ((55.0, 40.0, 30.0), (60.0, -25.0, 10.0), (70.0, 5.0, 60.0), (50.0, 3.0, -3.0)):
        recipe = solve_recipe(target, grey)
        suggestion = suggest_tube(recipe, grey)
        if recipe.reached:
            assert suggestion is None
            continue
        assert suggestion is not None
        better = solve_recipe(target, grey.with_tubes((*grey.tubes, suggestion.tube)))
        assert cost(better) < cost(recipe) * 0.75
    hopeless = solve_recipe((97.0, 60.0, -60.0), EARTH)
    assert not hopeless.reached
    assert suggest_tube(hopeless, EARTH) is None, "no paint is so pale and so purple"


def test_no_tube_is_suggested_that_was_ruled_out() -> None:
    white = Palette("own", "Own", ("titanium-white", "yellow-ochre"))
    dark = solve_recipe((20.0, 0.0, 0.0), white)
    offered = suggest_tube(dark, white)
    assert offered is not None
    assert pigment_library()[offered.tube].family == "black"
    other = suggest_tube(dark, white, Wishes(black=False))
    assert other is None or pigment_library()[other.tube].family != "black"


def skin_pixels(low: float = 3.0, high: float = 8.0) -> np.ndarray:
    """A ramp of flesh, evenly over the values."""
    value = np.linspace(low, high, 2000)
    light = value_to_lightness(value)
    return np.column_stack([light, np.full(2000, 15.0), np.full(2000, 20.0)]).astype(np.float32)


def test_a_string_reaches_from_the_darkest_to_the_lightest_but_for_strays() -> None:
    targets = tone_targets(skin_pixels(), 5)
    values = lab_value(targets)
    assert values[0] == pytest.approx(3.1, abs=0.05)
    assert values[-1] == pytest.approx(7.9, abs=0.05)
    np.testing.assert_allclose(np.diff(values), np.diff(values).mean(), atol=0.05)
    with pytest.raises(SingleValue):
        tone_targets(skin_pixels(5.0, 5.2), 5)


def test_tubes_that_must_be_in_it_are_in_every_tone_of_a_string() -> None:
    wishes = Wishes(must=("light-red", "yellow-ochre"), without=("ivory-black",), most_tubes=3)
    tones = mix_string(skin_pixels(), EARTH, 5, wishes)
    for tone in tones:
        assert {"light-red", "yellow-ochre"} <= set(tone.recipe.parts)
        assert "ivory-black" not in {*tone.recipe.parts, *tone.added}
        assert len(tone.recipe.parts) <= 3


def test_a_string_may_be_of_just_the_tubes_that_must_be_in_it() -> None:
    must = ("titanium-white", "yellow-ochre", "light-red")
    for tone in mix_string(skin_pixels(), EARTH, 3, Wishes(must=must, most_tubes=3)):
        assert set(tone.recipe.parts) == set(must)


def test_a_pinned_wash_is_predicted_as_the_wash_it_was() -> None:
    washes = starter("watercolour-three")
    kept = solve_recipe(SKIN, washes)
    again = Recipe.of_parts(kept.parts, kept.target_lab, washes, kept.film_mm)
    assert again.predicted.lab == pytest.approx(kept.predicted.lab)
    assert again.delta_e == pytest.approx(kept.delta_e)
    without = Recipe.of_parts(kept.parts, kept.target_lab, washes)
    assert without.delta_e < kept.delta_e + 2
    assert without.film_mm == pytest.approx(kept.film_mm, rel=0.25)
    thick = Recipe.of_parts({"titanium-white": 1, "light-red": 1}, SKIN, EARTH)
    assert thick.film_mm is None


def test_the_first_coat_too_is_held_against_laying_none() -> None:
    """A dark, thick first coat overshoots by far more than bare paper falls short."""
    paper = WHITE_PAPER.internal()
    start = seen(paper).value
    assert coats_to_value({"ivory-black": 1}, DryMm(0.05), paper, start - 0.5) == ()
    near = coats_to_value({"ivory-black": 1}, DryMm(0.00002), paper, start - 0.5)
    assert near
    assert abs(near[-1].value - (start - 0.5)) <= 0.5
    assert coats_to_value({"ivory-black": 1}, DryMm(0.05), ground_of((90.0, 0.0, 0.0)), 0.5)


@pytest.mark.parametrize(("apart", "refused"), [(4.0, True), (7.0, True), (12.0, False)])
def test_swatches_that_look_alike_were_exchanged(apart: float, refused: bool) -> None:
    """ΔE2000 below 8 between tint and masstone: no colour diluted tenfold in white stays so near."""
    masstone, lightness = (50.0, 20.0, 30.0), 50.0
    while delta_e_2000(np.array(masstone), np.array((lightness, 20.0, 30.0))) < apart:
        lightness += 0.1
    swatches = Swatches(masstone, (lightness, 20.0, 30.0))
    if refused:
        with pytest.raises(Refusal, match="look alike"):
            fit_swatches(swatches, pigment_library()["yellow-ochre"])
    else:
        assert fit_swatches(swatches, pigment_library()["yellow-ochre"]).masstone_error < 5


def test_a_wet_film_is_thicker_than_what_is_left_of_it() -> None:
    for medium in MEDIA.values():
        assert medium.dry(WetMm(0.1)) == pytest.approx(0.1 * medium.solids)
        assert medium.wet(medium.dry(WetMm(0.1))) == pytest.approx(0.1)
        assert 0 < medium.solids <= 1
    assert MEDIA["watercolour"].solids < MEDIA["oil"].solids


@pytest.mark.parametrize("palette", [EARTH, SIX])
def test_each_tone_is_the_one_before_with_a_little_added(palette: Palette) -> None:
    """Base and additions of every step, mixed by hand, are what is shown; few parts of few tubes, lighter."""
    first, *others = mix_string(skin_pixels(), palette, 6)
    assert (first.base, first.added, first.stepped) == (0, {}, first.recipe.predicted)
    total = sum(first.recipe.parts.values())
    shares, before = {k: n / total for k, n in first.recipe.parts.items()}, first.stepped
    for tone in others:
        assert 1 <= tone.base <= 6
        assert 1 <= len(tone.added) <= 3
        assert sum(tone.added.values()) <= 20
        amounts = {k: tone.base * shares.get(k, 0.0) + tone.added.get(k, 0) for k in {*shares, *tone.added}}
        shares = {k: n / sum(amounts.values()) for k, n in amounts.items()}
        after = mix(shares, palette)
        assert after.lab == pytest.approx(tone.stepped.lab, abs=1e-6)
        assert after.value > before.value
        assert after.value == pytest.approx(float(lab_value(np.array(tone.recipe.target_lab))), abs=0.15)
        before = after


def test_of_many_tubes_a_string_takes_those_that_serve_both_its_ends() -> None:
    """Light and dark flesh from fourteen tubes: no tone misses its value, none is far off in colour."""
    many = Palette("many", "Many", tuple(pigment_library())[:14])
    for lab in (skin_pixels(), skin_pixels(3.0, 5.0), skin_pixels(5.5, 8.0)):
        for tone in mix_string(lab, many, 5, Wishes(most_tubes=4)):
            assert abs(tone.recipe.value_error) < 0.15
            assert tone.recipe.delta_e < 3


def test_washes_reach_as_deep_as_their_thickest_film() -> None:
    """One blue on white paper, 0.1 mm wet, undiluted, of strength 0.05: its own film and nothing else."""
    blue = Palette("own", "Own", ("ultramarine-blue",), WHITE_PAPER)
    k, s = blue.rack.mixture({"ultramarine-blue": 1})
    film = leave_surface(film_reflectance(k, s, DryMm(0.1 * 0.05), WHITE_PAPER.internal()))
    reach = palette_reach(blue)
    assert reach.darkest == pytest.approx(float(lab_value(reflectance_to_lab(film))), abs=1e-6)
    assert reach.lightest == pytest.approx(float(lab_value(reflectance_to_lab(WHITE_PAPER.seen()))), abs=1e-6)


def test_the_reach_told_with_flesh_is_that_of_the_tubes_allowed() -> None:
    lab = np.full((8, 8, 3), SKIN)
    skin, groups = np.ones((8, 8), bool), np.zeros((8, 8), np.uint8)
    no_black = mix_flesh(lab, groups, skin, EARTH, Wishes(black=False))
    assert no_black.reach == palette_reach(Palette("own", "Own", EARTH.tubes[:-1]))
    assert no_black.reach.darkest > mix_flesh(lab, groups, skin, EARTH).reach.darkest + 1


def test_nothing_of_a_mixture_takes_nothing_of_each_tube() -> None:
    assert tube_amounts({"yellow-ochre": 2, "light-red": 1}, 0) == {"yellow-ochre": 0, "light-red": 0}
    assert tube_amounts({"yellow-ochre": 2, "light-red": 1}, 6) == {"yellow-ochre": 4, "light-red": 2}
    with pytest.raises(Refusal):
        tube_amounts({"yellow-ochre": 0}, 1)
