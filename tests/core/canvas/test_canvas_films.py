"""The simulated canvas: films over films, piece by piece."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra import numpy as hnp

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.optics.kubelka_munk import enter_surface, film_reflectance, leave_surface
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.paint.tubes.rack import LIBRARY


def half(shape: tuple[int, int] = (40, 60)) -> np.ndarray:
    mask = np.zeros(shape, bool)
    mask[:, :30] = True
    return mask


HALVES = Patchwork.of((40, 60), half())
LEFT = HALVES.at(half())
maps = hnp.arrays(np.uint8, (9, 11), elements=st.integers(0, 200))


@given(st.lists(maps, max_size=4), hnp.arrays(np.uint8, (9, 11), elements=st.integers(0, 80)))
def test_no_border_crosses_a_piece_and_no_pieces_are_alike(
    maps: list[np.ndarray], eighths: np.ndarray
) -> None:
    found = Patchwork.of((9, 11), *maps)
    kinds = np.stack([m.ravel() for m in maps], axis=1) if maps else np.zeros((99, 1))
    assert len(found.sizes) == len(np.unique(kinds, axis=0))
    for one in maps:
        np.testing.assert_array_equal(found.at(one)[found.labels], one)
        np.testing.assert_array_equal(found.mask(found.at(one > 9)), one > 9)
    assert found.sizes.sum() == 99
    every = range(len(found.sizes))
    np.testing.assert_array_equal(found.sizes, [(found.labels == n).sum() for n in every])
    np.testing.assert_array_equal(found.first, [np.flatnonzero(found.labels == n)[0] for n in every])
    values = eighths / np.float32(8)
    inside = [values[found.labels == n] for n in every]
    np.testing.assert_allclose(found.sums(values[..., None])[:, 0], [v.sum() for v in inside])
    np.testing.assert_array_equal(
        found.spread(values, 40, 10), [np.histogram(v, 40, (0, 10))[0] for v in inside]
    )
    with pytest.raises(ValueError, match="for pieces"):
        Patchwork.of((9, 12), np.zeros((9, 11), np.uint8))


def test_a_thick_layer_is_the_mixture_itself() -> None:
    parts = {"titanium-white": 3, "yellow-ochre": 2}
    canvas = Canvas.bare(HALVES).do(Layer(LEFT, parts, None))
    expected = mix({k: float(v) for k, v in parts.items()}, STARTERS[0]).lab
    labs = canvas.labs()[HALVES.labels]
    assert delta_e_2000(labs[5, 5], np.array(expected)) < 1e-6
    shown = mix({k: float(v) for k, v in parts.items()}, STARTERS[0]).hex
    assert "#" + bytes(canvas.picture()[5, 5]).hex() == shown
    assert delta_e_2000(labs[5, 50], np.array(expected)) > 5


def test_two_coats_equal_one_of_double_film() -> None:
    """Kubelka (1948), through the canvas."""
    parts = {"light-red": 1, "titanium-white": 2}
    bare = Canvas.bare(HALVES)
    twice = bare.do(Layer(LEFT, parts, 0.01)).do(Layer(LEFT, parts, 0.01))
    once = bare.do(Layer(LEFT, parts, 0.02))
    np.testing.assert_allclose(twice.values(), once.values(), atol=1e-5)
    np.testing.assert_array_equal(twice.picture(), once.picture())


@given(st.lists(st.tuples(st.integers(0, 39), st.integers(0, 59), st.integers(2, 30)), max_size=8))
def test_the_canvas_equals_films_laid_pixel_by_pixel(squares: list[tuple[int, int, int]]) -> None:
    masks = np.zeros((len(squares), 40, 60), bool)
    for mask, (row, col, side) in zip(masks, squares, strict=True):
        mask[row : row + side, col : col + side] = True
    pieces = Patchwork.of((40, 60), *masks)
    canvas = Canvas.bare(pieces)
    plain = np.full((40, 60, 31), float(enter_surface(0.85)))
    for i, mask in enumerate(masks):
        tube = "ivory-black" if i % 2 else "titanium-white"
        canvas = canvas.do(Layer(pieces.at(mask), {tube: 1}, 0.02))
        k, s = (curve[0] for curve in LIBRARY.curves((tube,)))
        plain[mask] = film_reflectance(k, s, 0.02, plain[mask])
    expected = lab_value(reflectance_to_lab(leave_surface(plain)))
    np.testing.assert_allclose(canvas.values(), expected, atol=1e-4)
