"""Thin layers as a hand makes them: whole parts of paint and of what thins it."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from truesitter.core.colour.value import value_to_lightness
from truesitter.core.paint.layered.films import Film, ground_of, seen, stack, strength_by_swatch
from truesitter.core.paint.media.dilution import CONSISTENCIES, Dilution, Thinning
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.media.tuning import MOST_WATER
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.solver import solve_recipes
from truesitter.core.paint.tubes.palettes import Palette, starter
from truesitter.core.paint.tubes.rack import LIBRARY
from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings

WASH = MEDIA["watercolour"].thinning
thinnings = st.builds(Thinning, st.just("water"), st.floats(0.01, 2), st.floats(0.001, 0.3))
dilutions = st.builds(Dilution, st.just(1), st.integers(0, MOST_WATER), st.booleans())


@given(thinnings, st.integers(0, 29))
def test_twice_as_much_in_all_halves_the_dry_film(thinning: Thinning, thinner: int) -> None:
    """At equal wet film; 1 + n doubled."""
    once, twice = Dilution(1, thinner), Dilution(1, 2 * thinner + 1)
    assert thinning.dry(twice) == pytest.approx(thinning.dry(once) / 2)
    assert thinning.dry(Dilution(1, thinner, blotted=True)) == pytest.approx(thinning.dry(once) / 2)


def test_a_wash_worked_by_hand() -> None:
    """0.1 mm of 1 part to 24 of water at strength 0.1: a tenth of a 25th of 0.1 mm is 0.4 µm."""
    wash = Thinning("water", 0.1, WetMm(0.1))
    assert wash.dry(Dilution(1, 24)) == pytest.approx(0.0004)
    assert wash.dilution(DryMm(0.0004)) == Dilution(1, 24)
    assert wash.dilution(DryMm(0.00039)) == Dilution(1, 25), "rounded up: never darker than wanted"


@given(thinnings, st.floats(1e-6, 1))
def test_what_is_laid_is_wanted_or_the_next_thinner(thinning: Thinning, part: float) -> None:
    film = DryMm(thinning.thickest * part)
    found = thinning.dilution(film)
    laid = thinning.dry(found)
    assert found.thinner <= MOST_WATER * found.paint
    if film >= thinning.thinnest:
        assert laid <= film * (1 + 1e-9)
        less = Dilution(2, max(0, round(2 * found.ratio) - (1 if found.ratio < 2.25 else 2)), found.blotted)
        assert found.thinner == 0 or found.blotted or thinning.dry(less) >= film * (1 - 1e-9)
    else:
        assert laid == thinning.thinnest
    assert thinning.dilution(laid) == found, "what can be laid stays as it is"
    np.testing.assert_allclose(thinning.laid(np.array([film, film])), laid)


@given(thinnings, dilutions, st.floats(0.1, 3))
def test_a_swatch_of_known_dilution_gives_the_strength_back(
    thinning: Thinning, dilution: Dilution, factor: float
) -> None:
    """However much stronger or weaker the tube is than usual."""
    truly = thinning.dry(dilution) * factor
    assert thinning.strength_of(dilution, DryMm(truly)) == pytest.approx(thinning.strength * factor)


def test_five_consistencies_from_stiff_to_a_trace() -> None:
    told = [Dilution(1, n).consistency for n in range(MOST_WATER + 1)]
    assert list(dict.fromkeys(told)) == [c.name for c in CONSISTENCIES]
    assert Dilution(2, 1).consistency == "stiff"
    every = [WASH.dry(d) for d in WASH.every()]
    assert (max(every), min(every)) == (WASH.thickest, WASH.thinnest)
    steps = np.sort(every)[1:] / np.sort(every)[:-1]
    assert steps.max() <= 1.5, "no step of a film is missing"


@pytest.mark.parametrize(("paint", "thinner"), [(0, 3), (1, -1), (1, MOST_WATER + 1)])
def test_what_nobody_measures_is_refused(paint: int, thinner: int) -> None:
    with pytest.raises(Refusal, match="0 to 60 parts"):
        Dilution(paint, thinner)
    for strength, film in ((0, 0.1), (3, 0.1), (0.1, 0)):
        with pytest.raises(Refusal, match="strength"):
            Thinning("water", strength, WetMm(film))
    with pytest.raises(Refusal, match="thickness"):
        WASH.dilution(DryMm(0))


@pytest.mark.parametrize("lab", [(85, 6, 12), (70, 14, 20), (50, 16, 18), (30, 10, 8)])
def test_washes_are_solved_for_films_that_can_be_mixed(lab: tuple[float, float, float]) -> None:
    """And predicted as they are laid."""
    palette = starter("watercolour-three")
    for recipe in solve_recipes(lab, palette, None, 3):
        assert recipe.dilution is not None
        assert recipe.film_mm == WASH.dry(recipe.dilution)
        amounts = {k: float(n) for k, n in recipe.parts.items()}
        assert mix(amounts, palette, recipe.film_mm).lab == pytest.approx(recipe.predicted.lab)
    assert all(r.dilution is None for r in solve_recipes(lab, starter("earth-four"), None, 2))


def test_a_weaker_tube_takes_less_water() -> None:
    chosen = {"tubes": ["arylide-yellow", "quinacridone-rose", "ultramarine-blue"], "transparent": True}
    ratios = []
    for strength in (0.03, 0.06, 0.12):
        settings = StudySettings.model_validate(
            {"flesh": {**chosen, "medium": "watercolour", "strength": strength}}
        )
        recipe = solve_recipes((70, 14, 20), settings.flesh.as_palette(), None, 1)[0]
        assert recipe.dilution is not None
        ratios.append(recipe.dilution.ratio + 1)
    assert ratios[1] / ratios[0] == pytest.approx(2, rel=0.12)
    assert ratios[2] / ratios[1] == pytest.approx(2, rel=0.12)


def test_whatever_the_plan_is_painted_in_washes_on_paper_take_water() -> None:
    """And an own strength counts for the medium it was found with."""
    oil = StudySettings.model_validate({"flesh": {"medium": "oil", "strength": 0.5}}).flesh
    assert (oil.washes(), oil.thinning().strength) == (WASH, 0.5)
    assert oil.medium_used().wait_minutes == MEDIA["oil"].wait_minutes
    own = {"medium": "gouache", "strength": 0.2, "wait_minutes": 40, "open_minutes": 3}
    gouache = StudySettings.model_validate({"flesh": own}).flesh
    used = gouache.medium_used()
    assert (used.wait_minutes, used.open_minutes, gouache.washes().strength) == (40, (3, 3), 0.2)


def test_media_differ_as_painters_know_them() -> None:
    """Common practice, no source: oil waits for days and stays open for hours, watercolour for minutes."""
    waits = {name: medium.wait_minutes for name, medium in MEDIA.items()}
    assert waits["oil"] > 24 * 60 > waits["quick oil"] > 8 * 60
    assert 10 <= waits["watercolour"] <= 30
    assert 10 <= waits["acrylic"] <= 20
    opens = {name: medium.open_minutes for name, medium in MEDIA.items()}
    assert (opens["watercolour"], opens["gouache"], opens["acrylic"]) == ((1, 3), (2, 5), (5, 15))
    assert opens["quick oil"] == (60, 240)
    assert opens["airbrush"][1] < opens["egg tempera"][1] <= opens["watercolour"][0]
    assert {name for name, medium in MEDIA.items() if medium.oily} == {"oil", "quick oil"}
    assert all(medium.dryer == 1 for medium in MEDIA.values() if medium.oily), "warm air does not help oil"
    assert MEDIA["watercolour"].wait_minutes / MEDIA["watercolour"].dryer <= 1
    for medium in MEDIA.values():
        assert 0 <= medium.open_minutes[0] <= medium.open_minutes[1] <= medium.wait_minutes
    darker, lighter = MEDIA["acrylic"].shift, MEDIA["egg tempera"].shift
    assert darker.dry(5) < 5 < lighter.dry(5)


@pytest.mark.parametrize("tube", ["ultramarine-blue", "burnt-sienna", "quinacridone-rose", "ivory-black"])
@pytest.mark.parametrize("thinner", [4, 20, 50])
def test_a_dried_swatch_gives_back_how_strong_the_tube_is(tube: str, thinner: int) -> None:
    """Read to a hundredth of a step: the dilution comes back within 10 %, whatever the usual strength."""
    truly = Thinning("water", 0.08, WASH.film)
    laid = mix({tube: 1}, Palette("one", "One", (tube,), WHITE_PAPER), truly.dry(Dilution(1, thinner)))
    read = round(laid.value, 2)
    found = strength_by_swatch(tube, LIBRARY, WASH, Dilution(1, thinner), read, WHITE_PAPER)
    assert found == pytest.approx(0.08, rel=0.1)
    again = Thinning("water", found, WASH.film).dilution(truly.dry(Dilution(1, thinner)))
    assert thinner * 0.9 <= again.ratio <= thinner * 1.1 + 1, "rounded up to a whole part"


@pytest.mark.parametrize(("value", "sentence"), [(9.6, "darker than the bare paper"), (0.2, "another tube")])
def test_swatches_that_say_nothing_are_refused(value: float, sentence: str) -> None:
    with pytest.raises(Refusal, match=sentence):
        strength_by_swatch("yellow-ochre", LIBRARY, WASH, Dilution(1, 10), value, WHITE_PAPER)


THIN = [
    ({"burnt-sienna": 1}, 8.5), ({"quinacridone-rose": 2, "arylide-yellow": 1}, 8.5), ({"raw-umber": 1}, 7.0),
    ({"perm-crimson": 1, "ultramarine-blue": 1}, 6.0), ({"viridian": 1}, 8.0),
]  # fmt: skip


def grey(value: float) -> np.ndarray:
    return ground_of((float(value_to_lightness(value)), 0.0, 0.0))


@pytest.mark.parametrize(("parts", "ground"), THIN)
def test_a_second_coat_of_the_same_thin_mixture_is_visibly_darker(
    parts: dict[str, int], ground: float
) -> None:
    """Common practice, no source: by 0.3 step at least, where the first made 0.5 to 1.5."""
    tried = 0
    for dilution in WASH.every():
        film = Film(parts, WASH.dry(dilution))
        once, twice = seen(stack(grey(ground), (film,))), seen(stack(grey(ground), (film, film)))
        if 0.5 <= ground - once.value <= 1.5:
            tried += 1
            assert once.value - twice.value >= 0.3, dilution
    assert tried >= 2


@pytest.mark.parametrize(("parts", "ground"), THIN[:3])
def test_one_thin_film_draws_hues_together_and_lightens_nothing(parts: dict[str, int], ground: float) -> None:
    """Common practice, no source: a warm glaze over locks of differing hue and value."""
    film = Film(parts, MEDIA["oil"].thinning.dry(Dilution(1, 4)))
    before = [(30.0, 10.0, 20.0), (45.0, 4.0, 26.0), (38.0, 16.0, 10.0), (60.0, 2.0, 18.0)]
    after = [seen(stack(ground_of(lab), (film,))) for lab in before]
    for lab, made in zip(before, after, strict=True):
        bare = seen(ground_of(lab))
        assert made.value <= bare.value + 0.05

    def spread(labs: list[tuple[float, float, float]]) -> float:
        return float(np.std(np.array(labs)[:, 1:], axis=0).sum())

    assert spread([m.lab for m in after]) < spread(before)
