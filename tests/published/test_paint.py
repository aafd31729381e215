"""Paint against Kubelka–Munk theory, published skin colours and common practice."""

from __future__ import annotations

import colour
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from truesitter.core.colour import srgb_to_lab
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value, value_to_luminance
from truesitter.core.data import read_table
from truesitter.core.paint.media.quantity import paint_ml
from truesitter.core.paint.optics.kubelka_munk import (
    enter_surface,
    film_reflectance,
    leave_surface,
    opaque_reflectance,
    ratio_from_reflectance,
)
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.solver import solve_recipe
from truesitter.core.paint.tubes.fit import HIDING_FILM_MM
from truesitter.core.paint.tubes.palettes import STARTERS, Palette
from truesitter.core.paint.tubes.pigments import pigment_curves, pigment_library
from truesitter.core.paint.tubes.tuning import HIDING

SKIN_TUBES = Palette("test", "test", ("titanium-white", "yellow-ochre", "vermilion", "ivory-black"))
ALL = Palette("all", "all", ("titanium-white", "arylide-yellow", "phthalo-blue", "ultramarine-blue",
                             "ivory-black", "pyrrole-red", "viridian", "cadmium-orange"))  # fmt: skip
shares = st.floats(0.001, 0.999)
films = st.floats(0.0001, 2)
coefficients = st.floats(0.01, 500)


@given(shares)
def test_kubelka_munk_ratio_and_its_inverse(r: float) -> None:
    """Source: Kubelka & Munk (1931), K/S = (1 − R)²/2R."""
    assert opaque_reflectance(ratio_from_reflectance(r)) == pytest.approx(r, abs=1e-6)


@given(coefficients, coefficients, films, films, shares)
def test_two_films_equal_one_of_their_summed_thickness(
    k: float, s: float, a: float, b: float, ground: float
) -> None:
    """Source: Kubelka (1948)."""
    stacked = film_reflectance(k, s, a, film_reflectance(k, s, b, ground))
    assert stacked == pytest.approx(float(film_reflectance(k, s, a + b, ground)), abs=1e-6)


@given(coefficients, coefficients, shares)
def test_film_limits(k: float, s: float, ground: float) -> None:
    """Source: Kubelka & Munk (1931): no film gives the ground, an endless one R∞."""
    assert film_reflectance(k, s, 0.0, ground) == pytest.approx(ground, abs=1e-9)
    assert film_reflectance(k, s, 1e6, ground) == pytest.approx(float(opaque_reflectance(k / s)), abs=1e-6)


@given(coefficients, films)
def test_a_film_that_does_not_absorb(s: float, x: float) -> None:
    """Source: Kubelka (1948): over black, R = SX/(1 + SX)."""
    assert film_reflectance(0.0, s, x, 0.0) == pytest.approx(s * x / (1 + s * x), abs=1e-6)


@given(shares)
def test_saunderson_is_the_inverse_of_itself(r: float) -> None:
    assert enter_surface(leave_surface(r)) == pytest.approx(r, abs=1e-9)


def test_saunderson_by_hand() -> None:
    """Source: Saunderson (1942), worked by hand: 0.97 · 0.4 · R / (1 − 0.6 R)."""
    assert leave_surface(0.5) == pytest.approx(0.388 * 0.5 / 0.7, abs=1e-9)
    assert leave_surface(1.0) == pytest.approx(0.97, abs=1e-9)
    assert leave_surface(0.0) == 0


CLEAR = [key for key, p in pigment_library().items() if p.opacity == "transparent"]


@pytest.mark.parametrize("key", CLEAR)
def test_a_thin_film_of_a_transparent_tube_lightens_nothing(key: str) -> None:
    """Common practice, no source: a glaze darkens.

    Films up to 1 µm of undiluted paint, over every darker grey; no black of the library is darker than 1.3.
    """
    curves = pigment_curves()[key]
    own = mix({key: 1}, ALL).value
    films = np.geomspace(0.00005, 0.001, 9)[:, None]
    for value in np.arange(1.3, own, 0.1):
        ground = enter_surface(np.full(31, float(value_to_luminance(value))))
        laid = film_reflectance(curves.absorption, curves.scattering, films, ground)
        assert float(lab_value(reflectance_to_lab(leave_surface(laid))).max()) < value + 0.05, value


def test_tubes_scatter_in_the_order_of_their_opacity() -> None:
    """Against titanium white, geometric mean over the spectrum: transparent ones least, opaque ones most."""
    white = pigment_curves()["titanium-white"].scattering
    found: dict[str, list[float]] = {}
    for key, pigment in pigment_library().items():
        relative = np.exp(np.log(pigment_curves()[key].scattering / white).mean())
        found.setdefault(pigment.opacity, []).append(float(relative))
    assert max(found["transparent"]) < 0.1
    assert 0.1 < min(found["semi-transparent"]) < max(found["semi-transparent"]) < 0.5
    assert max(found["semi-opaque"]) < min(found["opaque"]) + 0.2
    assert min(found["opaque"]) > 0.5


def test_every_pigment_returns_to_both_its_swatches() -> None:
    rows = {r["key"]: r for r in read_table("pigment_curves.csv")}
    assert set(rows) == set(pigment_library())
    white = pigment_curves()["titanium-white"]
    for key, pigment in pigment_library().items():
        own = pigment_curves()[key]
        assert own.absorption.min() > 0
        assert own.scattering.min() > 0
        solid = mix({key: 1}, ALL).lab
        assert np.linalg.norm(np.array(solid) - pigment.masstone) < 0.5, key
        if pigment.tint is not None:
            tint = mix({key: 1, "titanium-white": 10}, ALL).lab
            assert np.linalg.norm(np.array(tint) - pigment.tint) < 0.5, key
    over = [leave_surface(film_reflectance(white.absorption, white.scattering, HIDING_FILM_MM,
                                           enter_surface(g))) for g in (0.0, 0.8)]  # fmt: skip
    assert over[0][15] / over[1][15] == pytest.approx(HIDING, abs=0.01)


@pytest.mark.parametrize("patch", ["light skin", "dark skin"])
def test_four_tubes_reach_the_published_skin_colours(patch: str) -> None:
    """Source: the 24-patch chart as carried by colour-science, adapted to D65."""
    chart = colour.CCS_COLOURCHECKERS["ColorChecker24 - After November 2014"]
    xyz = colour.xyY_to_XYZ(chart.data[patch])
    srgb = colour.XYZ_to_sRGB(xyz, illuminant=chart.illuminant)
    target = srgb_to_lab(np.clip(srgb, 0, 1))
    recipe = solve_recipe(tuple(target.tolist()), SKIN_TUBES)
    assert recipe.delta_e < 1
    assert abs(recipe.value_error) < 0.05
    assert set(recipe.parts) <= set(SKIN_TUBES.tubes)
    again = mix({k: float(v) for k, v in recipe.parts.items()}, SKIN_TUBES)
    assert delta_e_2000(np.array(again.lab), np.array(recipe.predicted.lab)) < 1e-6


def hue(parts: dict[str, float]) -> float:
    lab = mix(parts, ALL).lab
    return float(np.degrees(np.arctan2(lab[2], lab[1])) % 360)


def chroma(parts: dict[str, float]) -> float:
    lab = mix(parts, ALL).lab
    return float(np.hypot(lab[1], lab[2]))


def test_mixtures_behave_as_painters_know() -> None:
    """Common practice, no source."""
    assert 120 < hue({"arylide-yellow": 4, "phthalo-blue": 1}) < 200
    assert chroma({"pyrrole-red": 1, "viridian": 3}) < 0.35 * chroma({"pyrrole-red": 1})
    deep, pale = {"ultramarine-blue": 1.0}, {"ultramarine-blue": 1.0, "titanium-white": 10.0}
    assert mix(pale, ALL).value > mix(deep, ALL).value
    assert hue(pale) < hue(deep)
    values = [mix({"titanium-white": 10, "ivory-black": b}, ALL).value for b in (0.1, 0.5, 1, 3, 9)]
    assert values == sorted(values, reverse=True)


def test_the_egg_tempera_flesh_tint_is_an_orange_of_middle_value() -> None:
    """Common practice, no source: 2 ochre : 1 vermilion : 1 white (30 % zinc, 70 % titanium)."""
    tint = mix({"yellow-ochre": 2, "vermilion": 1, "titanium-white": 0.7, "zinc-white": 0.3}, SKIN_TUBES)
    assert 4 < tint.value < 7
    assert 35 < np.degrees(np.arctan2(tint.lab[2], tint.lab[1])) < 65
    assert np.hypot(tint.lab[1], tint.lab[2]) > 30


def test_paint_for_a_panel_by_hand() -> None:
    """Worked by hand: 300 × 400 mm at 0.1 mm is 1200 cm² · 0.01 cm = 12 ml before loss."""
    assert paint_ml(1200, 0.1) == pytest.approx(12)
    assert paint_ml(1200, 0.1, coats=2, loss=0.2) == pytest.approx(30)


def test_starter_palettes_hold_known_tubes() -> None:
    for palette in STARTERS:
        assert set(palette.tubes) <= set(pigment_library())
        assert palette.transparent == (not any(pigment_library()[t].family == "white" for t in palette.tubes))
