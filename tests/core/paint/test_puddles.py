"""Puddles steered with drops and water: amounts are kept, and what they look like is what the mixture is."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.board.near import near_mixtures
from truesitter.core.paint.board.nudges import DIRECTIONS, nudge
from truesitter.core.paint.board.puddles import SAME, WATER, Puddle, puddle_step
from truesitter.core.paint.board.strings import mix_string
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.recipes.mixing import Colour, mix
from truesitter.core.paint.tubes.palettes import STARTERS, Palette

WASHES = STARTERS[-1]
PARTS = {WASHES.tubes[0]: 3, WASHES.tubes[1]: 2, WASHES.tubes[2]: 1}
WATERS = st.integers(2, 40)


def washed(amounts: dict[str, float], water: float, palette: Palette = WASHES) -> Colour:
    """A wash by hand: so much paint in so much water leaves that part of an undiluted film."""
    thinning, paint = palette.thinning, sum(amounts.values())
    return mix(amounts, palette, DryMm(thinning.strength * thinning.film * paint / (paint + water)))


def drops_of(added: dict[str, int], puddle: Puddle) -> np.ndarray:
    """Parts of each tube in what was added, those of the same paint among them."""
    drops = np.array([added.get(key, 0) for key in WASHES.tubes], float)
    return drops + added.get(SAME, 0) * puddle.paint / puddle.paint.sum()


def skin_lab(seed: int = 3) -> np.ndarray:
    """Pixels of a skin from light to shadow, a little redder in the middle."""
    rng = np.random.default_rng(seed)
    light = rng.uniform(42, 86, 4000)
    return np.column_stack(
        [light, 16 - 0.01 * (light - 62) ** 2 + rng.normal(0, 1, 4000), 20 + rng.normal(0, 1, 4000)]
    ).astype(np.float32)


@given(st.integers(2, 40), st.booleans())
def test_a_puddle_looks_as_its_recipe_does(water: int, blotted: bool) -> None:
    dilution = Dilution(1, water, blotted)
    puddle = Puddle.of(PARTS, dilution, WASHES.tubes)
    assert puddle.paint.sum() + puddle.water == pytest.approx(1)
    seen = puddle.looks(puddle.paint[None], WASHES)[0]
    made = mix({k: float(n) for k, n in PARTS.items()}, WASHES, WASHES.thinning.dry(dilution))
    np.testing.assert_allclose(seen, made.lab, atol=1e-6)


@settings(max_examples=40)
@given(WATERS, st.integers(1, 60), st.integers(0, 5), st.integers(0, 80), st.integers(0, 2))
def test_what_goes_in_is_what_is_there(water: int, base: int, drops: int, more: int, tube: int) -> None:
    """Volumes are kept, reckoned by hand from what was in the parts taken."""
    puddle = Puddle.of(PARTS, Dilution(1, water), WASHES.tubes)
    added = np.zeros(len(WASHES.tubes))
    added[tube] = drops
    made = puddle.with_added(base, added, more)
    assert made.paint.sum() + made.water == pytest.approx(1)
    whole = base + drops + more
    assert made.water * whole == pytest.approx(base * puddle.water + more)
    np.testing.assert_allclose(made.paint * whole, base * puddle.paint + added)
    by_hand = {k: base * n / 6 / (1 + water) for k, n in PARTS.items()}
    by_hand[WASHES.tubes[tube]] += drops
    seen = made.looks(made.paint[None], WASHES)[0]
    np.testing.assert_allclose(seen, washed(by_hand, base * water / (1 + water) + more).lab, atol=1e-6)


@given(WATERS, st.integers(1, 100))
def test_more_water_is_lighter(water: int, more: int) -> None:
    """Beer and Lambert: less of what absorbs on white paper sends back more light."""
    puddle = Puddle.of(PARTS, Dilution(1, water), WASHES.tubes)
    thinner = puddle.with_added(10, np.zeros(len(WASHES.tubes)), more)
    before, after = (lab_value(p.looks(p.paint[None], WASHES)[0]) for p in (puddle, thinner))
    assert after > before


@pytest.mark.parametrize("direction", DIRECTIONS)
def test_a_puddle_is_nudged_by_what_goes_into_it(direction: str) -> None:
    dilution = Dilution(1, 12)
    found = nudge(PARTS, WASHES, direction, dilution)  # type: ignore[arg-type]
    if found is None:
        assert direction in ("greener", "greyer", "cooler")
        return
    amounts = {k: found.pile * n / 6 / 13 for k, n in PARTS.items()}
    water = found.pile * 12 / 13
    if found.tube == WATER:
        water += 1
    elif found.tube == SAME:
        amounts = {k: amounts[k] + n / 6 for k, n in PARTS.items()}
    else:
        amounts[found.tube] = amounts.get(found.tube, 0.0) + 1
    np.testing.assert_allclose(found.predicted.lab, washed(amounts, water).lab, atol=1e-6)
    assert found.moved >= (0.25 if direction in ("lighter", "darker") else 2.0)
    if direction == "darker":
        assert found.tube == SAME, "what darkens and changes nothing else"
    if direction == "lighter":
        assert found.tube == WATER
        assert found.side_effects in ("", "greyer", "yellower", "bluer", "greyer, bluer", "greyer, yellower")


@pytest.mark.parametrize("drops", [{WATER: 48}, {1: 1}, {0: 2, WATER: 24}, {2: 1, WATER: 12}])
def test_a_step_finds_what_was_put_in(drops: dict[str | int, int]) -> None:
    puddle = Puddle.of(PARTS, Dilution(1, 10), WASHES.tubes)
    added = np.zeros(len(WASHES.tubes))
    for key, count in drops.items():
        if isinstance(key, int):
            added[key] = count
    meant = puddle.with_added(48, added, int(drops.get(WATER, 0)))
    wanted = meant.looks(meant.paint[None], WASHES)[0]
    base, found, colour, made = puddle_step(puddle, wanted, WASHES)
    assert float(delta_e_2000(np.array(colour.lab), wanted)) < 0.5
    again = drops_of(found, puddle)
    replayed = puddle.with_added(base, again, found.get(WATER, 0))
    np.testing.assert_allclose(replayed.paint, made.paint)
    np.testing.assert_allclose(made.looks(made.paint[None], WASHES)[0], colour.lab, atol=1e-6)


def test_a_step_is_lighter_than_it_has_to_be() -> None:
    """Even where what is wanted is darker: tones of a string rise."""
    puddle = Puddle.of(PARTS, Dilution(1, 10), WASHES.tubes)
    darker = puddle.with_added(12, np.zeros(len(WASHES.tubes)), 0)
    wanted = darker.looks(darker.paint[None], WASHES)[0] - (15.0, 0.0, 0.0)
    value = float(lab_value(puddle.looks(puddle.paint[None], WASHES)[0]))
    assert puddle_step(puddle, wanted, WASHES)[2].value < value
    assert puddle_step(puddle, wanted, WASHES, value + 0.05)[2].value > value + 0.05


def test_a_string_of_washes_is_one_puddle_carried_on() -> None:
    lab = skin_lab()
    tones = mix_string(lab, WASHES, 5)
    assert next(t.base for t in tones) == 0
    first = tones[0].recipe
    assert first.dilution is not None
    puddle = Puddle.of(first.parts, first.dilution, WASHES.tubes)
    values = []
    for tone in tones[1:]:
        puddle = puddle.with_added(tone.base, drops_of(tone.added, puddle), tone.added.get(WATER, 0))
        np.testing.assert_allclose(puddle.looks(puddle.paint[None], WASHES)[0], tone.stepped.lab, atol=1e-6)
        assert set(tone.added) <= {WATER, SAME, *WASHES.tubes}
        values.append(tone.stepped.value)
        assert abs(tone.stepped.value - tone.recipe.predicted.value) < 0.4
    assert values == sorted(values)
    assert any(WATER in tone.added for tone in tones), "water makes it lighter"


def test_near_mixtures_of_a_wash_come_of_its_puddle() -> None:
    found = near_mixtures(skin_lab()[:600], WASHES)
    assert found.near
    assert found.heap.dilution is not None
    for one in found.near:
        assert one.base > 0
        heap, made, target = (np.array(c.lab) for c in (found.heap.predicted, one.made, one.target))
        assert float(delta_e_2000(made, heap)) > 1
        assert float(delta_e_2000(made, target)) < float(delta_e_2000(heap, target))


@pytest.mark.parametrize("most", [2, 3])
def test_a_puddle_keeps_to_the_tubes_it_may_hold(most: int) -> None:
    """As many as the painter allows in a mixture; what is asked for would be nearer with a third."""
    tubes = Palette("four", "Four", (*WASHES.tubes, "burnt-umber"), washes_on=WASHES.washes_on)
    puddle = Puddle.of({tubes.tubes[0]: 2, tubes.tubes[1]: 1}, Dilution(1, 10), tubes.tubes)
    meant = puddle.with_added(48, np.array([0.0, 0.0, 2.0, 1.0]), 0)
    wanted = meant.looks(meant.paint[None], tubes)[0]
    *_, made = puddle_step(puddle, wanted, tubes, most=most)
    assert np.count_nonzero(made.paint) <= most
    *_, free = puddle_step(puddle, wanted, tubes)
    assert np.count_nonzero(free.paint) == 4
