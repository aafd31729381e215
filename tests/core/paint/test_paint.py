"""Recipes, reach, washes, suggestions and cautions."""

from __future__ import annotations

from math import gcd

import numpy as np
import pytest
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st

from truesitter.core.colour.spaces import Lab
from truesitter.core.paint.board.flesh_mixtures import mix_colour
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.recipes.let_down import Weakened, told_by_heaps
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.reach import Reach, clip_value, compress_value, map_target, palette_reach
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipe, suggest_tube
from truesitter.core.paint.recipes.tuning import HEAP_PARTS
from truesitter.core.paint.tubes.cautions import (
    GENERAL,
    PROCESSES,
    cautions_for,
    off_by_default,
    safe_substitute,
)
from truesitter.core.paint.tubes.fit import fit_pigment, fit_titanium_white
from truesitter.core.paint.tubes.palettes import STARTERS, Palette, starter
from truesitter.core.paint.tubes.pigments import pigment_curves, pigment_library
from truesitter.core.refusal import Refusal

EARTH, SIX, PRIMARIES, GREYS, WASHES = STARTERS
values = st.floats(0, 10)
reaches = st.tuples(st.floats(0, 4.5), st.floats(5.5, 10)).map(lambda t: Reach(*t))


@given(reaches, values, values)
def test_compressing_keeps_order_and_stays_in_reach(reach: Reach, a: float, b: float) -> None:
    low, high = compress_value(np.array(sorted((a, b))), reach)
    assert reach.darkest - 1e-9 <= low <= high <= reach.lightest + 1e-9
    assert reach.darkest <= clip_value(a, reach) <= reach.lightest


@given(reaches)
def test_compressing_keeps_the_middle_and_reaches_both_ends(reach: Reach) -> None:
    assert compress_value(5.0, reach) == pytest.approx(5.0)
    assert compress_value(0.0, reach) == pytest.approx(reach.darkest)
    assert compress_value(10.0, reach) == pytest.approx(reach.lightest)


def test_mapping_a_target_keeps_its_hue_plane() -> None:
    mapped = map_target(np.array([1.0, 5.0, 7.0]), palette_reach(EARTH))
    assert mapped[0] > 1
    assert mapped[1:].tolist() == [5.0, 7.0]


@given(st.lists(st.floats(0.05, 1), min_size=3, max_size=4))
@settings(deadline=None, max_examples=25)
def test_what_the_tubes_can_make_is_found_again(shares: list[float]) -> None:
    """A mixture of the palette's own tubes is always reached."""
    tubes = EARTH.tubes[: len(shares)]
    target = mix(dict(zip(tubes, shares, strict=True)), EARTH)
    recipe = solve_recipe(target.lab, EARTH)
    assert recipe.delta_e + 6 * abs(recipe.value_error) < 2.5
    assert recipe.reached


@given(st.floats(5, 95), st.floats(-60, 60), st.floats(-60, 60))
@example(30.0, 0.0, 25.0)
@settings(deadline=None, max_examples=25)
def test_recipes_are_whole_small_parts_that_say_truly_what_they_make(
    light: float, a: float, b: float
) -> None:
    recipe = solve_recipe((light, a, b), SIX, most_tubes=3)
    assert 1 <= len(recipe.parts) <= 3
    assert all(isinstance(p, int) and p > 0 for p in recipe.parts.values())
    told = told_by_heaps(recipe.parts)
    counted = list((told.parts if told else recipe.parts).values())
    assert sum(counted) <= 120
    assert gcd(*counted) == 1
    again = mix({k: float(v) for k, v in recipe.parts.items()}, SIX)
    np.testing.assert_allclose(again.lab, recipe.predicted.lab, atol=1e-9)


@given(st.lists(st.integers(1, 24), min_size=2, max_size=5), st.data())
def test_a_recipe_by_way_of_heaps_is_told_as_the_same_mixture(small: list[int], data: st.DataObject) -> None:
    """Straight from the tubes and by way of heaps are one mixture, told no longer than it was found."""
    assume(gcd(*small) == 1)
    main, *others = data.draw(st.permutations(range(len(small))))
    chosen = data.draw(st.lists(st.sampled_from(others), min_size=1, max_size=2, unique=True))
    heaps = Weakened(main, tuple((i, data.draw(st.integers(1, 2))) for i in chosen))
    full = heaps.in_full(np.array(small, dtype=np.int64))
    assume(full[main] == full.max() and list(full).count(full.max()) == 1)
    parts = {f"tube-{i}": int(n) for i, n in enumerate(full)}
    told = told_by_heaps(parts)
    assume(5 * sum(small) <= full.sum())
    assert told is not None
    assert sum(told.parts.values()) <= sum(small)
    shares = dict.fromkeys(parts, 0.0)
    for key, n in told.parts.items():
        weak = (HEAP_PARTS + 1) ** told.heaps.get(key, 0)
        shares[key] += n / weak
        shares[told.into] += n * (1 - 1 / weak)
    whole = sum(parts.values())
    for key, n in parts.items():
        assert shares[key] / sum(shares.values()) == pytest.approx(n / whole)
    for key, times in told.heaps.items():
        heap = told.heap(key)
        assert (heap[key], sum(heap.values())) == (1, (HEAP_PARTS + 1) ** times)


def test_a_plain_recipe_needs_no_heap() -> None:
    assert told_by_heaps({"titanium-white": 20, "ivory-black": 1}) is None
    assert told_by_heaps({"titanium-white": 9, "light-red": 4, "yellow-ochre": 3}) is None


@pytest.mark.parametrize("target", [(75.0, -50.0, 50.0), (65.3, 12.5, 19.2), (62.0, 18.0, 24.0)])
def test_a_strong_tube_is_let_down_where_no_count_of_parts_would_do(target: Lab) -> None:
    """A bright green and light flesh from a strong blue: reached, with few parts of a heap."""
    recipe = solve_recipe(target, starter("three-primaries"))
    assert recipe.delta_e < 3
    assert abs(recipe.value_error) < 0.2
    told = told_by_heaps(recipe.parts)
    assert told is not None
    assert sum(told.parts.values()) <= 60


@pytest.mark.parametrize("key", ["quinacridone-rose", "raw-sienna", "light-red"])
def test_the_library_ships_what_the_fit_gives(key: str) -> None:
    pigment, shipped = pigment_library()[key], pigment_curves()[key]
    found = fit_pigment(pigment.masstone, pigment.tint, pigment.opacity, pigment_curves()["titanium-white"])
    np.testing.assert_allclose(found.curves.scattering, shipped.scattering, rtol=0.02)
    np.testing.assert_allclose(found.curves.absorption, shipped.absorption, rtol=0.02, atol=0.01)


def test_value_comes_before_hue() -> None:
    """Out of reach in colour, the value is still met."""
    recipe = solve_recipe((45, -50, -10), EARTH)
    assert recipe.delta_e > 10
    assert abs(recipe.value_error) < 0.25
    assert not recipe.reached


def test_the_missing_tube_is_named_and_helps() -> None:
    recipe = solve_recipe((40, 5, -40), EARTH)
    suggestion = suggest_tube(recipe, EARTH)
    assert suggestion is not None
    bigger = EARTH.with_tubes((*EARTH.tubes, suggestion.tube))
    assert solve_recipe((40, 5, -40), bigger).delta_e < recipe.delta_e / 2
    assert suggest_tube(solve_recipe((60, 10, 20), EARTH), EARTH) is None


def test_washes_darken_with_their_film_and_need_no_white() -> None:
    thin, thick = (mix({"quinacridone-rose": 1}, WASHES, f) for f in (0.0002, 0.002))
    assert thin.value > thick.value
    recipe = solve_recipe((75, 14, 17), WASHES)
    assert recipe.film_mm is not None
    assert recipe.delta_e < 1.5
    assert palette_reach(WASHES).lightest == pytest.approx(9.51, abs=0.02)


@pytest.mark.parametrize("target", [(120, 0, 0), (50, float("nan"), 0), (50, 500, 0)])
def test_impossible_targets_are_refused(target: tuple[float, float, float]) -> None:
    with pytest.raises(Refusal, match="target"):
        solve_recipe(target, EARTH)


def test_senseless_mixtures_and_palettes_are_refused() -> None:
    for parts in ({"yellow-ochre": -1.0}, {"yellow-ochre": 0.0}, {"yellow-ochre": float("nan")}):
        with pytest.raises(Refusal, match="part"):
            mix(parts, EARTH)
    with pytest.raises(Refusal, match="film"):
        mix({"quinacridone-rose": 1}, WASHES)
    with pytest.raises(Refusal, match="no tube called"):
        Palette("x", "x", ("moon-dust",))
    with pytest.raises(Refusal, match="twice"):
        starter("yellow-ochre,yellow-ochre")
    with pytest.raises(Refusal, match="no palette called"):
        starter("nonsense")
    assert starter("three-primaries") is PRIMARIES


def test_cautions_name_the_pigment_and_defer_to_labels() -> None:
    sprayed = cautions_for(["yellow-ochre", "cadmium-yellow"], medium=MEDIA["airbrush"])
    assert "respirator" in sprayed[0]
    assert "Do not spray Cadmium yellow medium: set out another tube for it." in sprayed
    assert not any("Do not spray Yellow ochre" in line for line in sprayed)
    assert not any("Do not spray" in line for line in cautions_for(["cadmium-yellow"], medium=MEDIA["oil"]))
    assert "egg" in cautions_for([], medium=MEDIA["egg tempera"])[0]
    lines = cautions_for(["yellow-ochre", "lead-white", "vermilion", "alizarin-crimson"])
    assert any("Lead white" in line and "lead" in line for line in lines)
    assert any("mercury" in line and "Pyrrole red can stand in" in line for line in lines)
    assert any("fades in light" in line for line in lines)
    assert not any("Yellow ochre" in line for line in lines)
    assert lines[-1] == GENERAL
    assert "safety data sheets" in GENERAL


def test_monochrome_asks_for_values_only() -> None:
    flesh = np.array([62.0, 18.0, 24.0])
    recipe, suggestion = mix_colour(flesh, GREYS, monochrome=True)
    assert recipe.target_lab[1:] == (0.0, 0.0)
    assert recipe.reached
    assert suggestion is None
    assert abs(recipe.value_error) < 0.1
    assert not mix_colour(flesh, GREYS)[0].reached


def test_lead_and_mercury_are_off_by_default_with_the_reason_and_a_substitute() -> None:
    library = pigment_library().values()
    off = {p.key: off_by_default(p.hazard) for p in library if off_by_default(p.hazard)}
    assert {"lead-white", "vermilion"} <= set(off)
    assert all("lead" in why or "mercury" in why for why in off.values())
    assert all(pigment_library()[key].substitute for key in off)
    assert not any(pigment_library()[safe_substitute(key)].hazard for key in off)
    assert not any(key in off for palette in STARTERS for key in palette.tubes)
    assert {"sanding", "spraying", "solvents"} <= set(PROCESSES)


def test_the_shipped_curves_are_those_of_the_fit() -> None:
    library = pigment_library()
    white = fit_titanium_white(library["titanium-white"].masstone)
    np.testing.assert_allclose(white.scattering, pigment_curves()["titanium-white"].scattering, rtol=1e-4)
    ochre = library["yellow-ochre"]
    assert ochre.tint is not None
    fit = fit_pigment(ochre.masstone, ochre.tint, ochre.opacity, white)
    np.testing.assert_allclose(fit.curves.absorption, pigment_curves()["yellow-ochre"].absorption, rtol=0.02)
    assert fit.masstone_error < 0.3
    assert fit.tint_error < 0.3


@pytest.mark.parametrize(("lightness", "sign"), [(70.0, 1), (40.0, -1)])
def test_a_mixture_lighter_than_wanted_is_off_upward(lightness: float, sign: int) -> None:
    target = np.array((55.0, 4.0, 9.0))
    one = Recipe.held({"yellow-ochre": 1}, np.array((lightness, 4.0, 9.0)), target)
    assert np.sign(one.value_error) == sign
    assert one.delta_e > 1
    assert one.seen_as(target).value_error == pytest.approx(0, abs=1e-9)
    assert one.seen_as(target).parts == one.parts
