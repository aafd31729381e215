"""Sketches in a few colours: what a picture has is found, designs leave light and dark alone."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.design.colour_sketch import (
    DESIGNS,
    ColourDesign,
    colour_sketch,
    designed,
    painted_sketch,
)
from truesitter.core.imaging.reduce import reduced
from truesitter.core.stages.tuning import SKETCH_LONG_SIDE


@settings(max_examples=25, deadline=None)
@given(st.integers(2, 6), st.integers(0, 10_000))
def test_a_picture_of_few_colours_is_its_own_sketch(count: int, seed: int) -> None:
    """Upright stripes of colours far from one another, a little grain over them."""
    rng = np.random.default_rng(seed)
    wanted = np.stack(
        [np.linspace(15, 85, count), rng.uniform(-30, 30, count), rng.uniform(-30, 30, count)], 1
    )
    order = rng.permutation(count)
    picture = wanted[order][np.repeat(np.arange(count), 24)][None].repeat(60, axis=0).astype(np.float32)
    grain = rng.normal(0, 0.5, picture.shape).astype(np.float32)
    sketch = colour_sketch(picture + grain, count)
    assert len(sketch.colours) == count
    found = np.array([c.lab for c in sketch.colours])
    np.testing.assert_allclose(found, wanted, atol=3)
    assert sum(c.share for c in sketch.colours) == pytest.approx(1)
    assert np.abs(painted_sketch(sketch) - picture).mean() < 2


@pytest.mark.parametrize("seed", range(16))
def test_no_run_from_other_centres_comes_nearer(seed: int) -> None:
    """Six patches of very unlike sizes, where a single run often ends with one of them torn in two."""
    rng = np.random.default_rng(seed)
    wanted = np.column_stack([rng.permutation(np.linspace(15, 85, 6)), rng.uniform(-30, 30, (6, 2))])
    numbers = np.repeat(np.arange(6), (60, 40, 12, 10, 8, 8))
    picture = wanted[numbers][None].repeat(60, axis=0).astype(np.float32)
    sketch = colour_sketch(picture, 6)
    assert np.abs(painted_sketch(sketch) - picture).mean() < 1.5


def test_of_a_plain_wall_one_colour_is_left() -> None:
    sketch = colour_sketch(np.full((40, 60, 3), (50.0, 3.0, 4.0), np.float32), 5)
    assert len(sketch.colours) == 1
    np.testing.assert_allclose(sketch.colours[0].lab, (50, 3, 4), atol=1e-4)


@pytest.mark.parametrize("name", ["maren", "orsolya", "ines"])
def test_more_colours_come_nearer_and_nothing_small_is_left(name: str) -> None:
    study = study_of(name)
    lab = reduced(study.picture.lab(), SKETCH_LONG_SIDE)
    off = []
    for count in (3, 5, 8):
        sketch = study.surround.sketch("as photographed", count)
        assert [c.lab[0] for c in sketch.colours] == sorted(c.lab[0] for c in sketch.colours)
        off.append(float(np.linalg.norm(painted_sketch(sketch) - lab, axis=-1).mean()))
    assert off[0] > off[1] > off[2]


@pytest.mark.parametrize("design", DESIGNS)
def test_a_design_turns_colours_and_leaves_values(design: ColourDesign) -> None:
    rng = np.random.default_rng(2)
    lab = np.stack([rng.uniform(10, 90, (50, 60)), *rng.normal(8, 10, (2, 50, 60))], axis=2).astype(
        np.float32
    )
    made = designed(lab, design, np.ones((50, 60), bool))
    np.testing.assert_array_equal(made[..., 0], lab[..., 0])
    warm = (made - lab)[..., 1:].sum(axis=2)
    light, dark = lab[..., 0] > 70, lab[..., 0] < 30
    if design == "warm light, cool shadow":
        assert warm[light].min() > 0 > warm[dark].max()
    if design == "cool light, warm shadow":
        assert warm[light].max() < 0 < warm[dark].min()
    if design == "greys and one accent":
        assert np.hypot(*made[..., 1:].T).mean() < 0.6 * np.hypot(*lab[..., 1:].T).mean()


def test_the_accent_is_what_is_strongest_in_colour_on_the_sitter() -> None:
    """Orsolya's red dress stays, her wall and face go grey; in no other colour does the wall count."""
    study = study_of("orsolya")
    red = max(study.surround.sketch("greys and one accent", 5).colours, key=lambda c: np.hypot(*c.lab[1:]))
    assert np.hypot(*red.lab[1:]) > 25
    rest = [c for c in study.surround.sketch("greys and one accent", 5).colours if c is not red]
    assert max(float(np.hypot(*c.lab[1:])) for c in rest if c.lab != red.lab) < 12
    values = lightness_map_to_value(np.array([c.lab[0] for c in rest], np.float32))
    assert np.ptp(values) > 3
