"""Paint wiped, lifted and scraped off."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.canvas.test_painted import BLACK, HALVES, LEFT, RIGHT, UMBER, WHITE, step
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import THICK_MM, Layer, Removal
from truesitter.core.canvas.painted import Painting, paint
from truesitter.core.canvas.taking_off import TOOLS, share_for_pressure, share_for_value, value_on, why_not
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import srgb_to_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.supports import PRIMED_CANVAS, SUPPORTS
from truesitter.core.paint.optics.kubelka_munk import (
    film_reflectance,
    leave_surface,
    opaque_reflectance,
)
from truesitter.core.paint.tubes.rack import LIBRARY

TAKEN = st.floats(0, 1)


@given(TAKEN, TAKEN, st.sampled_from([None, 0.1, 0.01]), st.sampled_from([UMBER, WHITE, BLACK]))
def test_what_is_taken_off_lies_between_all_and_nothing(
    one: float, other: float, film: float | None, parts: dict[str, int]
) -> None:
    """A share of 1 changes nothing, 0 gives the stack beneath exactly, and between them it is monotone."""
    ground = Canvas.bare(HALVES).do(Layer(LEFT | RIGHT, {"yellow-ochre": 1}, None)).dried()
    laid = ground.do(Layer(LEFT, parts, film))
    all_left, none_left = laid.do(Removal(LEFT, 1.0)), laid.do(Removal(LEFT, 0.0))
    np.testing.assert_allclose(all_left.labs(), laid.labs(), atol=0.02 if film is None else 1e-9)
    np.testing.assert_allclose(none_left.labs(), ground.labs(), atol=1e-9)
    low, high = sorted((one, other))
    values = [laid.do(Removal(LEFT, share)).piece_values()[1] for share in (0.0, low, high, 1.0)]
    falls = bool(values[0] > values[-1])
    assert sorted(values, reverse=falls) == pytest.approx(values, abs=1e-6)
    np.testing.assert_array_equal(laid.do(Removal(LEFT, low)).labs()[0], laid.labs()[0])


def test_two_takings_one_after_the_other_leave_the_product() -> None:
    laid = Canvas.bare(HALVES).do(Layer(LEFT, UMBER, 0.02))
    twice = laid.do(Removal(LEFT, 0.5)).do(Removal(LEFT, 0.4))
    np.testing.assert_allclose(twice.labs(), laid.do(Removal(LEFT, 0.2)).labs(), atol=1e-9)
    over = laid.do(Layer(LEFT, WHITE, 0.01)).do(Removal(LEFT, 0.5))
    k, s = LIBRARY.mixture(UMBER)
    below = film_reflectance(k, s, 0.01, PRIMED_CANVAS.internal())
    k, s = LIBRARY.mixture(WHITE)
    expected = reflectance_to_lab(leave_surface(film_reflectance(k, s, 0.005, below)))
    np.testing.assert_allclose(over.labs()[1], expected, atol=1e-9)


def test_dry_films_stay_unless_they_are_meant_to_come_off() -> None:
    dry = Canvas.bare(HALVES).do(Layer(LEFT, UMBER, 0.02)).dried()
    wet = dry.do(Layer(LEFT, BLACK, 0.02))
    np.testing.assert_allclose(wet.do(Removal(LEFT, 0.0)).labs(), dry.labs(), atol=1e-9)
    bare = Canvas.bare(HALVES).labs()
    np.testing.assert_allclose(wet.do(Removal(LEFT, 0.0, dry=True)).labs(), bare, atol=1e-9)


@pytest.mark.parametrize("dry", [False, True])
@pytest.mark.parametrize("share", [0.0, 0.3, 1.0])
def test_the_painted_canvas_takes_off_what_the_planned_one_does(share: float, dry: bool) -> None:
    borders = step(1.0, 1.0)
    ground, film = Layer(LEFT | RIGHT, {"yellow-ochre": 1}, 0.1), Layer(LEFT | RIGHT, UMBER, 0.02, fades=True)
    taking = Removal(LEFT, share, dry)
    planned = Canvas.bare(borders.patchwork).do(ground).dried().do(film).do(taking)
    passes = [Painting((ground,)), Painting((film,)), Painting((taking,), into_wet=True)]
    shown = paint(borders, passes).picture(3)
    for piece, column in ((0, 79), (1, 0)):
        expected = planned.labs()[piece]
        assert delta_e_2000(srgb_to_lab(shown[30, column] / 255), expected) < 0.8
    lightness = srgb_to_lab(shown[30] / 255)[..., 0]
    assert (np.diff(lightness) <= 0.3).all(), "what is left passes evenly from one side to the other"


def test_wet_and_dry_films_are_taken_apart_in_one_pass() -> None:
    """On the left only what is open comes off, on the right all there is."""
    borders = step(1.0, 1.0)
    ground, film = Layer(LEFT | RIGHT, {"yellow-ochre": 1}, 0.1), Layer(LEFT | RIGHT, UMBER, 0.02)
    both = (Removal(LEFT, 0.0), Removal(RIGHT, 0.0, dry=True))
    passes = [Painting((ground,)), Painting((film,)), Painting(both, into_wet=True)]
    found = paint(borders, passes)
    np.testing.assert_array_equal(found.picture(3)[30, 0], found.picture(1)[30, 0])
    np.testing.assert_array_equal(found.picture(3)[30, 79], found.picture(0)[30, 79])


def test_neighbours_taken_off_in_one_go_leave_no_seam() -> None:
    borders = step(2.0, 2.0)
    film = Painting((Layer(LEFT | RIGHT, UMBER, 0.02, fades=True),))
    both = Painting((Removal(RIGHT, 0.3), Removal(LEFT, 0.1)), into_wet=True)
    lightness = srgb_to_lab(paint(borders, [film, both]).picture(2)[30] / 255)[..., 0]
    assert lightness.min() > min(lightness[0], lightness[-1]) - 0.5
    assert lightness.max() < max(lightness[0], lightness[-1]) + 0.5


def test_pressure_moves_the_value_evenly() -> None:
    canvas = Canvas.bare(HALVES).dried().do(Layer(LEFT, UMBER, 0.01))
    tool = TOOLS["rag"]
    full_, least = value_on(canvas, LEFT), value_on(canvas.do(Removal(LEFT, tool.least)), LEFT)
    pressures = []
    for part in (0.0, 0.25, 0.5, 0.75, 1.0):
        wanted = full_ + (least - full_) * part
        share, pressure = share_for_value(canvas, LEFT, wanted, tool)
        assert value_on(canvas.do(Removal(LEFT, share)), LEFT) == pytest.approx(wanted, abs=0.15)
        pressures.append(pressure)
    assert pressures == pytest.approx([0, 0.25, 0.5, 0.75, 1], abs=0.06)
    assert share_for_value(canvas, LEFT, 10, tool)[0] == pytest.approx(tool.least)


@pytest.mark.parametrize(
    ("tool", "support", "wet", "words"),
    [
        ("rag", "primed canvas", True, None),
        ("rag", "gesso board", False, "nothing there is open"),
        ("eraser", "gesso board", False, None),
        ("eraser", "rough paper", False, "all at once or stays"),
        ("eraser", "primed canvas", False, "does not come off"),
        ("damp brush", "primed canvas", True, None),
        ("damp brush", "smooth paper", False, None),
    ],
)
def test_paint_comes_off_only_where_it_can(tool: str, support: str, wet: bool, words: str | None) -> None:
    canvas = Canvas.bare(HALVES).do(Layer(LEFT, UMBER, 0.02))
    if not wet:
        canvas = canvas.dried()
    found = why_not(TOOLS[tool], canvas, LEFT, SUPPORTS[support])  # type: ignore[index]
    assert found is None if words is None else words in (found or "")
    nothing = why_not(TOOLS["eraser"], canvas, RIGHT, SUPPORTS["gesso board"])
    assert nothing is not None
    assert "no paint" in nothing


def test_a_wet_film_over_dry_ones_is_wiped_to_the_dry_ones_by_pixel() -> None:
    """The thick film is reckoned as `THICK_MM` once something of it is gone."""
    borders = step(1.0, 1.0)
    passes = [
        Painting((Layer(LEFT | RIGHT, WHITE, None),)),
        Painting((Layer(LEFT | RIGHT, BLACK, None),)),
        Painting((Removal(LEFT | RIGHT, 0.0),), into_wet=True),
    ]
    np.testing.assert_array_equal(paint(borders, passes).picture(3), paint(borders, passes).picture(1))
    assert THICK_MM > 0.5
    some = replace(passes[2], operations=(Removal(LEFT | RIGHT, 0.002),))
    k, s = LIBRARY.mixture(BLACK)
    white = opaque_reflectance(np.divide(*LIBRARY.mixture(WHITE)))
    expected = lab_value(reflectance_to_lab(leave_surface(film_reflectance(k, s, THICK_MM * 0.0, white))))
    shown = srgb_to_lab(paint(borders, [*passes[:2], some]).picture(3)[30, 70] / 255)
    assert lab_value(shown) == pytest.approx(expected, abs=0.6)


def test_a_film_whose_value_turns_back_as_it_thickens_stays_whole_until_the_tool_is_pressed() -> None:
    """Over its complement a film goes darker and comes back: two shares have one value."""
    tissue = TOOLS["tissue"]
    blue, brown = {"ultramarine-blue": 1, "titanium-white": 10}, {"burnt-sienna": 1, "titanium-white": 4}
    canvas = Canvas.bare(HALVES).do(Layer(LEFT, blue, None)).dried().do(Layer(LEFT, brown, 0.05))
    thinner = canvas.do(Removal(LEFT, 0.1))
    assert value_on(thinner, LEFT) < value_on(canvas, LEFT), "it turns back"
    shares = [share_for_pressure(canvas, LEFT, p, tissue) for p in np.linspace(0, 1, 21)]
    assert shares[0] == pytest.approx(1.0)
    assert shares[-1] == pytest.approx(tissue.least)
    assert (np.diff(shares) < 0).all()
    assert share_for_value(canvas, LEFT, value_on(canvas, LEFT), tissue) == pytest.approx((1.0, 0.0))


def test_a_film_of_its_grounds_own_paint_yields_to_pressure_unseen() -> None:
    canvas = Canvas.bare(HALVES).do(Layer(LEFT, UMBER, None)).dried().do(Layer(LEFT, UMBER, 0.05))
    shares = [share_for_pressure(canvas, LEFT, p, TOOLS["rag"]) for p in (0, 0.5, 1)]
    assert shares[0] == pytest.approx(1.0)
    assert shares[0] > shares[1] > shares[2] == pytest.approx(TOOLS["rag"].least)
    assert share_for_value(canvas, LEFT, 9.0, TOOLS["rag"])[0] == pytest.approx(1.0), "nothing is won by it"


def test_what_stains_is_lifted_less_than_what_lets_go() -> None:
    """Viridian lifts, phthalocyanine blue stains (both from memory); while it is wet neither does."""
    damp, rag = TOOLS["damp brush"], TOOLS["rag"]
    left = []
    for tube in ("viridian", "ultramarine-blue", "phthalo-blue"):
        wet = Canvas.bare(HALVES).do(Layer(LEFT, {tube: 1}, 0.001, fades=True))
        left.append(share_for_pressure(wet.dried(), LEFT, 1.0, damp))
        assert share_for_pressure(wet, LEFT, 1.0, damp) == pytest.approx(damp.least)
        assert share_for_pressure(wet, LEFT, 1.0, rag) == pytest.approx(rag.least)
    assert left == sorted(left)
    assert left[0] < 0.2
    assert left[-1] > 0.6
    both = Canvas.bare(HALVES).do(Layer(LEFT, {"viridian": 1, "phthalo-blue": 1}, 0.001, fades=True)).dried()
    assert share_for_pressure(both, LEFT, 1.0, damp) == pytest.approx((left[0] + left[-1]) / 2)
