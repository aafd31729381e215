"""Highlights, ceilings, colour, eyes, lines of colour: on drawn skins and on the sitters."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.light.mirrored.ceilings import ceilings
from truesitter.core.light.mirrored.highlights import Edge, HighlightKind, find_highlights, how_to_make
from truesitter.core.light.mirrored.skin_shine import shine_map
from truesitter.core.light.mirrored.tuning import IN_SHADOW
from truesitter.core.light.tints.borrowing import borrowed, cloth_borrows
from truesitter.core.light.tints.hue_line import fewest_stops, hue_stops
from truesitter.core.light.tints.skin_colour import Turn, off_mean, skin_colour, turn_of
from truesitter.core.light.tints.tuning import TOLERANCE
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.region_names import Region

SHAPE = (200, 200)


# Shine and highlights


@settings(max_examples=25)
@given(st.floats(0.02, 0.4), st.floats(0.3, 0.9), st.floats(0.35, 0.75), st.floats(0.15, 0.5))
def test_white_light_over_coloured_skin_is_parted_from_it(
    most: float, red: float, green: float, blue: float
) -> None:
    """Dichromatic reflection (Shafer 1985): body colour times shade, plus white; the white comes back."""
    y, x = np.mgrid[0:100, 0:100]
    shade = np.linspace(0.4, 1, 100)[None, :].repeat(100, axis=0)
    white = most * np.exp(-((x - 60) ** 2 + (y - 50) ** 2) / 80)
    body = np.array([red, red * green, red * blue])
    linear = (shade[..., None] * body + white[..., None]).astype(np.float32)
    found = shine_map(linear, np.ones((100, 100), bool), 100)
    np.testing.assert_allclose(found, white, atol=0.02 * most + 2e-3)


def test_a_grey_photograph_still_shows_shine() -> None:
    y, x = np.mgrid[0:100, 0:100]
    light = 0.3 + 0.4 * np.exp(-((x - 60) ** 2 + (y - 50) ** 2) / 20)
    linear = np.repeat(light[..., None], 3, axis=2).astype(np.float32)
    found = shine_map(linear, np.ones((100, 100), bool), 100)
    assert np.unravel_index(found.argmax(), found.shape) == (50, 60)
    assert found[50, 10] < 0.02
    assert not shine_map(linear, np.zeros((100, 100), bool), 100).any()


def spot(left: float, right: float, high: float = 0.6) -> np.ndarray:
    """A light whose two sides end over so many pixels."""
    x = np.arange(SHAPE[1]) - 100.0
    across = np.clip(np.where(x < 0, 1 + (x + 12) / left, 1 - (x - 12) / right), 0, 1)
    down = np.clip(1 - (np.abs(np.arange(SHAPE[0]) - 100.0) - 12) / max(left, right), 0, 1)
    return (high * across[None] * down[:, None]).astype(np.float32)


def lights(shine: np.ndarray, kind: HighlightKind = HighlightKind.SHEEN, mm: float = 0.4, b: float = 15.0):
    lab = np.full((*SHAPE, 3), (60, 15, b), np.float32)
    lab[shine > 0.3, 2] = 8
    value = np.full(SHAPE, 6, np.float32) + 3 * shine
    return find_highlights(shine, np.ones(SHAPE, bool), kind, 1.0, lab, value, 200.0, mm)


def test_lights_end_crisp_soft_or_crisp_on_one_side() -> None:
    (crisp,) = lights(spot(3, 3))
    assert crisp.edge is Edge.CRISP
    assert crisp.crisp_towards is None
    (soft,) = lights(spot(30, 30))
    assert soft.edge is Edge.SOFT
    for left, right, side in ((3, 40, -1), (40, 3, 1)):
        (one,) = lights(spot(left, right))
        assert one.edge is Edge.ONE_SIDE
        assert one.crisp_towards is not None
        assert one.crisp_towards[0] * side > 0.6
    assert crisp.temperature == "cooler"
    assert lights(spot(3, 3), b=2.0)[0].temperature == "warmer"
    assert lights(spot(3, 3), b=8.5)[0].temperature == "alike"
    assert (crisp.x, crisp.y) == pytest.approx((0.5, 0.5), abs=0.07)
    assert lights(spot(3, 3, 0.05)) == (), "too weak to be worth the name"


def test_a_light_is_told_where_it_is_in_the_whole_picture() -> None:
    """Only the surface's own box is looked at."""
    shine = np.roll(spot(3, 3), (40, 55), axis=(0, 1))
    where = np.zeros(SHAPE, bool)
    where[100:, 110:] = True
    lab, value = np.zeros((*SHAPE, 3), np.float32), np.full(SHAPE, 6, np.float32)
    (found,) = find_highlights(shine, where, HighlightKind.SHEEN, 1.0, lab, value, 200.0, 0.4)
    assert (found.x, found.y) == pytest.approx((155 / 200, 140 / 200), abs=0.07)


def test_steep_lights_are_damp_skin_and_broad_ones_sheen() -> None:
    assert lights(spot(2, 2))[0].kind is HighlightKind.DAMP
    assert lights(spot(30, 30))[0].kind is HighlightKind.SHEEN
    assert lights(spot(2, 2), HighlightKind.WET)[0].kind is HighlightKind.WET


def test_bits_of_one_light_are_one() -> None:
    broken = spot(20, 20)
    broken[:, 97:100] = 0
    assert len(lights(broken)) == 1
    two = np.maximum(np.roll(spot(5, 5), -50, axis=1), np.roll(spot(5, 5), 50, axis=1))
    assert len(lights(two)) == 2


@pytest.mark.parametrize("medium", list(MEDIA))
def test_pure_white_is_for_wet_sparkle_alone(medium: str) -> None:
    """And a soft light is never masked: that would leave a hard rim (common practice)."""
    (skin,), (wet,) = lights(spot(30, 30)), lights(spot(3, 3), HighlightKind.WET)
    assert "never pure white" in how_to_make(skin, medium)
    assert "pure white at the very end" in how_to_make(wet, medium)
    assert not how_to_make(skin, medium).startswith("mask")
    assert how_to_make(skin, "a medium that came later") == how_to_make(skin, "gouache")
    ways = {how_to_make(replace(skin, edge=edge), medium) for edge in Edge}
    assert len(ways) == 3


# Ceilings


def test_a_light_keeps_to_its_group_and_a_step_above_its_neighbour_in_shadow() -> None:
    value = np.full(SHAPE, 6.0, np.float32)
    shadow = np.zeros(SHAPE, bool)
    shadow[:, :100] = True
    value[shadow] = 2.0
    for column in (50, 150):
        value[96:105, column - 4 : column + 5] += 1.8
    lights_ = (("in shadow", 0.25, 0.5), ("in light", 0.75, 0.5))
    skin = np.ones(SHAPE, bool)
    squinted = cv2.GaussianBlur(value, (0, 0), 4)
    found = {c.place: c for c in ceilings(lights_, value, squinted, skin, shadow, (3.2, 6.9), 100.0)}
    dark, light = found["in shadow"], found["in light"]
    assert dark.neighbour == pytest.approx(2, abs=0.05)
    assert dark.ceiling == pytest.approx(dark.neighbour + IN_SHADOW)
    assert dark.in_shadow
    assert dark.over == pytest.approx(0.8, abs=0.1)
    assert light.ceiling in (6.9, 10.0)
    assert not light.in_shadow
    assert dark.wrong
    order = ceilings(lights_, value, squinted, skin, shadow, (3.2, 6.9), 100.0)
    assert [c.harm for c in order] == sorted((c.harm for c in order), reverse=True)


def test_no_light_has_two_ceilings() -> None:
    """A highlight at a peak is the peak's own; those elsewhere are listed too."""
    for name in ("selda", "tobias"):
        study = study_of(name)
        found, peaks = study.accents.ceilings(), study.light.zones().peaks
        assert {(p.x, p.y) for p in peaks} <= {(c.x, c.y) for c in found}
        assert len(found) > len(peaks)
        spots = np.array([(c.x, c.y) for c in found])
        added = np.array([(c.x, c.y) not in {(p.x, p.y) for p in peaks} for c in found])
        away = np.hypot(*(spots[added][:, None] - spots[None, :]).transpose(2, 0, 1))
        assert np.sort(away, axis=1)[:, 1].min() >= 0.03


@pytest.mark.parametrize("name", ["tobias", "selda", "orsolya"])
def test_lights_of_hair_and_beard_have_ceilings_too(name: str) -> None:
    """The three that would hurt most, each no higher than its group; what hurts most comes first."""
    study = study_of(name)
    found = study.accents.ceilings()
    labels = study.sitter.regions().labels
    height, width = labels.shape
    hairy = (Region.HAIR, Region.FACIAL_HAIR)
    there = [c for c in found if labels[int(c.y * height), int(c.x * width)] in hairy]
    assert 1 <= len(there) <= 3 + 1, "one of the skin may lie at its border"
    assert len(there) < len(found)
    assert [c.harm for c in found] == sorted((c.harm for c in found), reverse=True)
    bounds = {*study.values.cuts(), 10.0}
    assert all(any(abs(c.ceiling - b) < 1e-6 for b in bounds) for c in there if not c.in_shadow)


@pytest.mark.parametrize(("stands_off", "vanishing"), [(0.5, True), (1.5, False)])
def test_a_cheekbone_light_has_to_stand_a_step_off(stands_off: float, vanishing: bool) -> None:
    value = np.full(SHAPE, 6.0, np.float32)
    value[92:109, 92:109] += stands_off
    where = (("left cheekbone", 0.5, 0.5), ("chin", 0.5, 0.5))
    none = np.zeros(SHAPE, bool)
    found = {c.place: c for c in ceilings(where, value, value, ~none, none, (3.0,), 120.0)}
    assert found["left cheekbone"].vanishing == vanishing
    assert found["left cheekbone"].wrong == vanishing
    assert not found["chin"].vanishing


# Colour


def test_redder_yellower_and_greyer_at_equal_value() -> None:
    """Skin of one hue whose chroma rises with lightness; four places are changed."""
    lightness = np.linspace(20, 80, SHAPE[1], dtype=np.float32)[None].repeat(SHAPE[0], axis=0)
    lab = np.dstack([lightness, 0.25 * lightness, 0.3 * lightness])
    skin = np.ones(SHAPE, bool)
    spots = {
        Turn.REDDER: (60, 60),
        Turn.YELLOWER: (60, 140),
        Turn.GREYER: (140, 60),
        Turn.STRONGER: (140, 140),
    }
    hue = np.array([0.25, 0.3]) / np.hypot(0.25, 0.3)
    across = np.array([hue[1], -hue[0]])
    ways = {Turn.REDDER: across, Turn.YELLOWER: -across, Turn.GREYER: -hue, Turn.STRONGER: hue}
    for turn, (row, column) in spots.items():
        lab[row - 15 : row + 15, column - 15 : column + 15, 1:] += 6 * ways[turn]
    off, found_hue = off_mean(lab.astype(np.float32), skin, 100)
    np.testing.assert_allclose(found_hue, hue, atol=0.03)
    turns = skin_colour(off, found_hue, skin, (), 100).turns
    for turn, (row, column) in spots.items():
        assert (turns[row - 8 : row + 8, column - 8 : column + 8] == turn).mean() > 0.95, turn
        assert turn_of(6 * ways[turn], hue) == (turn, pytest.approx(6))
    assert (turns[95:105, 20:180] == Turn.NONE).mean() > 0.95
    assert turn_of(np.array([0.5, 0.5]), hue) == (Turn.NONE, 0.0)


def test_a_shadow_borrows_from_what_it_leans_to() -> None:
    """Its hue lies between its own and the source's (common practice)."""
    around = {"garment": np.array([-30.0, 10.0]), "background": np.array([5.0, -30.0])}
    own = np.array([15.0, 20.0])
    for name, there in around.items():
        off = 0.15 * (there - own)
        assert borrowed(off, own, around) == name
    assert borrowed(np.array([4.0, 4.0]), own, around) is None, "it leans to neither"
    assert borrowed(0.02 * (around["garment"] - own), own, around) is None, "hardly at all"


def test_blood_shows_on_noses_and_cheekbones() -> None:
    """Redder where blood shows over bone and cartilage (common practice)."""
    for name in ("maren", "selda", "orsolya"):
        redder = {p.place for p in study_of(name).accents.colour().places if p.turn is Turn.REDDER}
        assert any("nose" in place or "cheekbone" in place for place in redder), name


# Lines of colour


def test_a_straight_blend_needs_two_stops_and_a_bent_one_three() -> None:
    part = np.linspace(0, 1, 60)[:, None]
    first, second = np.array([30.0, 10, 10]), np.array([70.0, 15, 30])
    assert fewest_stops(first + (second - first) * part) == (0, 59)
    back = np.concatenate([first + (second - first) * part, second + (first - second) * part])
    stops = fewest_stops(back)
    assert len(stops) == 3
    assert abs(stops[1] - 59.5) < 4
    assert fewest_stops(np.repeat(first[None], 5, axis=0)) == (0, 4)


def fewest_to(colours: np.ndarray, first: int) -> set[int]:
    """Samples that a straight blend from one carries to."""
    found = set()
    for last in range(first + 1, len(colours)):
        part = np.linspace(0, 1, last - first + 1)[:, None]
        blend = colours[first] + (colours[last] - colours[first]) * part
        if delta_e_2000(colours[first : last + 1], blend).max() <= TOLERANCE:
            found.add(last)
    return found


@settings(max_examples=8)
@given(st.integers(0, 10_000))
def test_stops_describe_every_colour_of_the_line(seed: int) -> None:
    rng = np.random.default_rng(seed)
    knots = np.sort(rng.uniform(0, 1, 4))
    at = np.linspace(0, 1, 50)
    colours = np.stack(
        [np.interp(at, knots, rng.uniform(low, high, 4)) for low, high in ((20, 80), (0, 30), (0, 40))],
        axis=1,
    )
    stops = fewest_stops(colours)
    assert stops[0] == 0
    assert stops[-1] == 49
    for a, b in pairwise(stops):
        part = np.linspace(0, 1, b - a + 1)[:, None]
        blend = colours[a] + (colours[b] - colours[a]) * part
        assert delta_e_2000(colours[a : b + 1], blend).max() <= TOLERANCE
    # Going as far as a blend will carry, time and again, takes no fewer.
    greedy = [0]
    while greedy[-1] < 49:
        greedy.append(max(fewest_to(colours, greedy[-1])))
    assert len(stops) <= len(greedy)


def test_a_line_is_read_where_it_was_drawn() -> None:
    lab = np.zeros((100, 200, 3), np.float32)
    lab[..., 0] = np.linspace(20, 80, 200)[None]
    lab[..., 1] = 10
    stops = hue_stops(lab, np.array([(0.1, 0.5), (0.9, 0.5)]), 1.0)
    assert [round(s.x, 2) for s in stops] == [0.1, 0.9]
    assert stops[0].lab[0] == pytest.approx(26, abs=0.7)
    assert stops[-1].lab[0] == pytest.approx(74, abs=0.7)
    assert [s.along for s in stops] == [0, 1]
    with pytest.raises(Refusal, match="longer line"):
        hue_stops(lab, np.array([(0.5, 0.5), (0.501, 0.5)]), 1.0)


@pytest.mark.parametrize(("red", "wanted"), [(6.0, ("skin",)), (1.0, ())])
def test_the_darks_of_a_garment_borrow_too(red: float, wanted: tuple[str, ...]) -> None:
    """Grey cloth of which one fold faces red: it leans there; the other folds tell the cloth's own colour."""
    columns = np.arange(SHAPE[1])
    dark = (columns < 20) | ((columns >= 100) & (columns < 160))
    lab = np.zeros((*SHAPE, 3), np.float32)
    lab[..., 0] = np.where(dark, 20, 60)
    lab[:, :20, 1:] = red * np.array([0.9, 0.45])
    around = {"skin": np.array([40.0, 20.0]), "background": np.array([-30.0, 10.0])}
    assert cloth_borrows(lab, np.ones(SHAPE, bool), 100, around) == wanted
