"""Mixtures made of mixtures, and a mixture changed until it is so much darker."""

from __future__ import annotations

import colour
import numpy as np
import pytest
from hypothesis import assume, example, given
from hypothesis import strategies as st

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import srgb_to_lab
from truesitter.core.paint.recipes.ingredients import FIXED, expand, until
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.paint.tubes.pigments import pigment_library
from truesitter.core.refusal import Refusal

ALL = Palette("all", "All", tuple(pigment_library()))
tubes = st.sampled_from(("titanium-white", "yellow-ochre", "light-red", "ivory-black", "viridian"))
mixtures = st.dictionaries(tubes, st.integers(1, 9), min_size=1, max_size=4)


def hue(lab: tuple[float, float, float]) -> float:
    return float(np.degrees(np.arctan2(lab[2], lab[1])) % 360)


@given(mixtures, mixtures, st.integers(0, 7), st.integers(1, 7), st.integers(1, 5))
def test_a_mixture_in_a_mixture_is_what_its_tubes_make(
    inner: dict[str, int], outer: dict[str, int], of_it: int, again: int, white: int
) -> None:
    """By volume: one part of a mixture is one volume, however many parts it was mixed from."""
    known = {"inner": inner, "outer": {**outer, "@inner": again}}
    found = expand({"@outer": 1 + of_it, "@inner": 1, "zinc-white": white}, known)
    whole = 1 + of_it + 1 + white
    in_outer = sum(outer.values()) + again
    expected: dict[str, float] = {"zinc-white": white / whole}
    for key, n in inner.items():
        part = n / sum(inner.values()) * (1 + (1 + of_it) * again / in_outer) / whole
        expected[key] = expected.get(key, 0) + part
    for key, n in outer.items():
        expected[key] = expected.get(key, 0) + (1 + of_it) * n / in_outer / whole
    assert {k: n / sum(found.values()) for k, n in found.items()} == pytest.approx(expected)
    assert list(found.values()) == sorted(found.values(), reverse=True)
    nested = mix({k: float(n) for k, n in found.items()}, ALL).lab
    assert float(delta_e_2000(np.array(nested), np.array(mix(expected, ALL).lab))) < 0.01


def test_equal_parts_of_two_mixtures() -> None:
    assert expand({"@a": 1, "@b": 1}, {"a": {"x": 3, "y": 1}, "b": {"x": 1}}) == {"x": 7, "y": 1}
    assert expand({"x": 4, "@a": 0}, {}) == {"x": 1}


@pytest.mark.parametrize(
    ("parts", "sentence"),
    [
        ({"@nobody": 1}, "no mixture called “nobody”"),
        ({"@ring": 1}, "mixed from itself"),
        ({"x": -1}, "negative"),
        ({}, "at least one part"),
        ({"@huge": 1}, "cannot be counted out"),
    ],
)
def test_what_cannot_be_mixed_is_said(parts: dict[str, int], sentence: str) -> None:
    known = {"ring": {"x": 1, "@ring2": 1}, "ring2": {"@ring": 1}, "huge": {"x": 999_983, "y": 1}}
    with pytest.raises(Refusal, match=sentence):
        expand(parts, known)


@example({"yellow-ochre": 1, "titanium-white": 2}, -1.0)
@given(mixtures, st.sampled_from([-2.0, -1.0, -0.5, 0.5, 1.0]))
def test_a_mixture_is_changed_by_so_many_steps(parts: dict[str, int], steps: float) -> None:
    tube = "ivory-black" if steps < 0 else "titanium-white"
    before = mix({k: float(n) for k, n in parts.items()}, ALL)
    try:
        found = until(parts, tube, steps, ALL)
    except Refusal as refusal:
        # Out of the tube's reach, or by so little that it cannot be counted out.
        reach = mix({tube: 1}, ALL).value - before.value
        assume("counted" not in str(refusal))
        assert reach / steps < 1
        return
    assert found.before.lab == pytest.approx(before.lab)
    amounts = {k: found.base * n / sum(parts.values()) for k, n in parts.items()}
    amounts[tube] = amounts.get(tube, 0) + found.added
    assert mix(amounts, ALL).lab == pytest.approx(found.after.lab, abs=1e-6)
    assert (found.after.value - before.value) * steps > 0
    assert 1 <= found.base <= 24
    assert abs(found.after.value - before.value - steps) < 0.3


def test_the_fewest_parts_that_do_are_told() -> None:
    """Every smaller heap misses by more than 0.05 step, counted out here one after the other."""
    for steps in (-1.0, -0.5, -2.0):
        found = until({"yellow-ochre": 2, "light-red": 1}, "ivory-black", steps, ALL)
        assert abs(found.after.value - found.before.value - steps) <= 0.05
        for base in range(1, found.base):
            for added in range(1, 3 * base):
                amounts = {"yellow-ochre": base * 2 / 3, "light-red": base / 3, "ivory-black": float(added)}
                assert abs(mix(amounts, ALL).value - found.before.value - steps) > 0.05, (base, added)


def test_what_no_tube_does_is_refused() -> None:
    with pytest.raises(Refusal, match="no amount of Titanium white makes this 4 steps lighter"):
        until({"titanium-white": 9, "yellow-ochre": 1}, "titanium-white", 4, ALL)
    with pytest.raises(Refusal, match="no amount of Yellow ochre makes this 1 steps darker"):
        until({"ivory-black": 1}, "yellow-ochre", -1, ALL)


def test_lips_are_less_loud_than_the_red_they_are_mixed_from() -> None:
    """Half red, half dark flesh (common practice, no source)."""
    made = mix({k: float(n) for k, n in expand({"vermilion": 1, "@green-ground": 1}, FIXED).items()}, ALL)
    red, dark = mix({"vermilion": 1}, ALL), mix({k: float(n) for k, n in FIXED["green-ground"].items()}, ALL)
    assert np.hypot(*made.lab[1:]) < np.hypot(*red.lab[1:])
    assert 0 < hue(made.lab) < 70, "between pink and orange"
    assert dark.value < made.value < red.value


@pytest.mark.parametrize(
    ("name", "patch", "most"), [("light-skin", "light skin", 3), ("dark-skin", "dark skin", 1)]
)
def test_skins_known_by_name_are_the_published_patches(name: str, patch: str, most: float) -> None:
    """Source: the 24-patch chart as carried by colour-science."""
    chart = colour.CCS_COLOURCHECKERS["ColorChecker24 - After November 2014"]
    srgb = colour.XYZ_to_sRGB(colour.xyY_to_XYZ(chart.data[patch]), illuminant=chart.illuminant)
    made = mix({k: float(n) for k, n in FIXED[name].items()}, ALL)
    assert float(delta_e_2000(np.array(made.lab), srgb_to_lab(np.clip(srgb, 0, 1)))) < most


def test_darks_known_by_name_are_what_they_are_called() -> None:
    """Warmer than black and as dark; a dark of less colour than either tube; a green between its tubes."""

    def made(parts: dict[str, int]) -> np.ndarray:
        return np.array(mix({k: float(n) for k, n in parts.items()}, ALL).lab)

    black, warm = made({"ivory-black": 1}), made(FIXED["warm-black"])
    assert warm[1] > black[1] + 1, "warmer"
    assert abs(warm[0] - black[0]) < 3
    neutral = made(FIXED["neutral-dark"])
    assert neutral[0] < 25
    tubes = [made({tube: 1}) for tube in FIXED["neutral-dark"]]
    assert np.hypot(*neutral[1:]) < min(np.hypot(*tube[1:]) for tube in tubes) / 3
    green, (lighter, darker) = made(FIXED["green-ground"]), (made({t: 1}) for t in FIXED["green-ground"])
    assert green[1] < 0
    assert darker[0] + 2 < green[0] < lighter[0] - 2
