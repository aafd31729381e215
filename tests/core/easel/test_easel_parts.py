"""Habits, prints, dabs, faults, words, rules: each by itself."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from truesitter.core.colour.spaces import srgb_to_linear
from truesitter.core.colour.value import Luminance, luminance_to_value, value_to_srgb
from truesitter.core.easel.compare.border_widths import edges_off, read_both
from truesitter.core.easel.compare.difference_words import colour_words, in_steps, value_words
from truesitter.core.easel.compare.drawing_offsets import Feature, Offset, offset_of
from truesitter.core.easel.compare.findings import find_differences, place_words
from truesitter.core.easel.compare.small_finish import _camera_grain
from truesitter.core.easel.compare.squinted import Squinted
from truesitter.core.easel.correct.dab import check_dab
from truesitter.core.easel.correct.painting_habits import Observed, find_habits
from truesitter.core.easel.correct.stop import stop_test
from truesitter.core.easel.find.correlation import normalised
from truesitter.core.easel.lamp.printed_sheet import PrinterCurve
from truesitter.core.easel.lamp.tuning import WEDGE_VALUES
from truesitter.core.paint.tubes.palettes import starter
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.areas import Areas, areas_of
from truesitter.core.sitter.places import OwnPlace
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.tuning import OWN_REACH
from truesitter.devices.camera import Studio
from truesitter.devices.printer import printed, read_wedge

QUIET = next(n for n in range(100, 200) if not Studio.by_lot(n).glare)


def painter_of(seed: int, biased: bool, paintings: int = 6) -> tuple[Observed, ...]:
    """A simulated painter: forty places, errors of half a step at random, one of them always too dark."""
    rng = np.random.default_rng(seed)
    seen = []
    for painting in range(paintings):
        for place in range(40):
            error = rng.normal(0, 0.3)
            if biased and place == 7:
                error -= 0.8
            seen.append(Observed(str(painting), f"place {place}", "value", float(error)))
    return tuple(seen)


def test_a_planted_habit_is_found_and_nothing_else() -> None:
    """Of 40 painters with a habit nearly all are told it; of 200 without one at most 1 in 20 is told any."""
    found = [find_habits(painter_of(s, True, 8)) for s in range(40)]
    assert np.mean([any(h.place == "place 7" and h.mean < 0 for h in f) for f in found]) >= 0.9
    false = [bool(find_habits(painter_of(1000 + s, False))) for s in range(200)]
    assert np.mean(false) <= 0.05
    assert "too dark" in next(h for f in found for h in f if h.place == "place 7").words


def test_a_habit_needs_four_paintings_and_a_size() -> None:
    steady = tuple(Observed(str(n), "chin", "value", 0.6 + 0.02 * n) for n in range(4))
    assert [h.place for h in find_habits(steady)] == ["chin"]
    assert find_habits(steady[:3]) == ()
    small = tuple(Observed(str(n), "chin", "value", 0.2 + 0.001 * n) for n in range(6))
    assert find_habits(small) == ()
    low = tuple(Observed(str(n), "mouth", "down", 0.03 + 0.001 * n) for n in range(5))
    assert "too low" in find_habits(low)[0].words


def test_the_simulated_printer_is_put_right() -> None:
    """Every step inside its reach within 0.3 after the curve, and off by more before."""
    steps = np.array(WEDGE_VALUES)
    curve = PrinterCurve(tuple(zip(steps, read_wedge(steps, 3), strict=True)))
    low, high = curve.reach
    inside = steps[(steps >= low) & (steps <= high)]
    assert np.abs(printed(inside) - inside).max() > 0.5
    again = read_wedge(curve.ask(inside), 4)
    assert np.abs(again - inside).max() <= 0.3


@given(st.lists(st.floats(0.1, 1.5), min_size=6, max_size=12))
def test_a_printers_curve_undoes_itself(rises: list[float]) -> None:
    y = 0.5 + np.cumsum(rises) / sum(rises) * 8.5
    x = np.linspace(0.5, 9.5, len(rises))
    curve = PrinterCurve(tuple(zip(x.tolist(), y.tolist(), strict=True)))
    wanted = np.linspace(y[0], y[-1], 50)
    assert np.abs(curve.printed(curve.ask(wanted)) - wanted).max() < 0.15
    assert (np.diff(curve.ask(wanted)) >= -1e-9).all()


@pytest.mark.parametrize(
    ("pairs", "words"),
    [
        (((1, 1), (2, 2), (3, 3)), "at least four"),
        (((1, 5), (2, 5.1), (3, 5.2), (4, 5.3)), "hardly rises"),
        (((1, 1), (2, 6), (3, 3), (4, 8)), "darker than the one before"),
        (((1, 1), (1, 2), (3, 3), (4, 8)), "the same"),
        (((1, 1), (2, 2), (3, 30), (4, 8)), "between 0 and 10"),
    ],
)
def test_no_wedge_is_refused_in_words(pairs: tuple[tuple[float, float], ...], words: str) -> None:
    with pytest.raises(Refusal, match=words):
        PrinterCurve(pairs)


def test_a_dab_says_which_way_and_what_to_add() -> None:
    palette = starter("earth-four")
    parts = {"titanium-white": 4, "yellow-ochre": 2, "light-red": 1}
    light = check_dab((70.0, 12.0, 22.0), (60.0, 12.0, 22.0), parts, palette)
    assert light.steps == pytest.approx(1.0, abs=0.1)
    assert light.direction == "darker"
    assert light.addition is not None
    assert light.addition.tube == "ivory-black"
    assert "too light" in light.words
    grey = check_dab((60.0, 4.0, 22.0), (60.0, 14.0, 22.0), {}, palette)
    assert grey.direction == "redder"
    assert grey.addition is None
    assert check_dab((60.0, 12.0, 22.0), (60.2, 12.5, 21.0), parts, palette).direction is None


@pytest.mark.parametrize(
    ("steps", "words"),
    [
        (0.33, "a third of a step too light"), (-0.5, "half a step too dark"),
        (0.7, "two thirds of a step too light"), (-1.0, "one step too dark"),
        (1.5, "a step and a half too light"), (-2.0, "two steps too dark"), (4.6, "5 steps too light"),
    ],
)  # fmt: skip
def test_amounts_are_said_as_painters_say_them(steps: float, words: str) -> None:
    assert value_words(steps) == words
    assert in_steps(steps) in words


@pytest.mark.parametrize(
    ("delta", "wanted", "word"),
    [
        ((0, 10, 0), (60, 0, 0), "red"), ((0, -10, 0), (60, 0, 0), "green"),
        ((0, 0, 12), (60, 0, 0), "yellow"), ((0, 0, -12), (60, 0, 0), "blue"),
        ((0, 8, 8), (60, 12, 12), "strong"), ((0, -8, -8), (60, 12, 12), "grey"),
        ((0, 1, 1), (60, 12, 12), ""),
    ],
)  # fmt: skip
def test_colours_are_off_in_a_direction(
    delta: tuple[float, float, float], wanted: tuple[float, float, float], word: str
) -> None:
    assert word in colour_words(delta, wanted)
    assert bool(colour_words(delta, wanted)) == bool(word)


def two_halves(steps: np.ndarray, colour: np.ndarray | None = None) -> tuple[Squinted, Areas]:
    """A made picture of two areas, off by given steps."""
    shape = steps.shape
    ramp = np.tile(np.linspace(2, 8, shape[1], dtype=np.float32), (shape[0], 1))
    plan = np.zeros((*shape, 3), np.float32)
    plan[..., 0] = ramp * 10
    own = plan.copy()
    own[..., 0] += steps * 10
    if colour is not None:
        own[..., 1:] += colour
    labels = (np.arange(shape[1]) >= shape[1] // 2).astype(np.uint8)[None].repeat(shape[0], 0)
    seen = Squinted(own, plan, (ramp + steps).astype(np.float32), ramp, np.ones(shape, bool))
    return seen, Areas(labels, ("left", "right"), ("left", "right"))


def test_a_key_that_is_off_is_one_sentence() -> None:
    seen, areas = two_halves(np.full((200, 200), -0.7, np.float32))
    told, whole = find_differences(seen, areas, 1.0, absolute=True)
    assert [f.what for f in told] == ["key"]
    assert told[0].steps == pytest.approx(-0.7, abs=0.05)
    unknown = find_differences(seen, areas, 1.0, absolute=False)[0]
    assert not any(f.what == "key" for f in unknown)
    assert whole.contrast == pytest.approx(1.0, abs=0.05)


def test_a_range_that_is_compressed_is_one_sentence() -> None:
    ramp = np.tile(np.linspace(2, 8, 200, dtype=np.float32), (200, 1))
    seen, areas = two_halves(((5 - ramp) * 0.3).astype(np.float32))
    told, whole = find_differences(seen, areas, 1.0, absolute=False)
    assert [f.what for f in told] == ["range"]
    assert whole.contrast == pytest.approx(0.7, abs=0.04)
    assert "narrower" in told[0].words


def test_small_and_faint_differences_are_not_told() -> None:
    steps = np.zeros((200, 200), np.float32)
    steps[80:120, 20:60] = 0.25
    steps[20:23, 150:153] = 2.0
    seen, areas = two_halves(steps)
    assert find_differences(seen, areas, 1.0, absolute=False)[0] == ()
    steps[80:120, 20:60] = 0.5
    told = find_differences(two_halves(steps)[0], areas, 1.0, absolute=False)[0]
    assert [f.place for f in told] == ["left"]
    assert told[0].area_cm2 == pytest.approx(16, rel=0.15)


def test_the_larger_and_the_worse_come_first_and_colour_is_told_for_itself() -> None:
    steps, colour = np.zeros((200, 200), np.float32), np.zeros((200, 200, 2), np.float32)
    steps[10:40, 10:40] = 0.6
    steps[60:160, 120:190] = -0.6
    colour[150:190, 20:60, 0] = 12
    told = find_differences(*two_halves(steps, colour), 1.0, absolute=False)[0]
    assert [f.what for f in told] == ["value", "colour", "value"]
    assert told[0].place == "right"
    assert "red" in next(f for f in told if f.what == "colour").words


@pytest.mark.parametrize("seed", range(12))
def test_no_place_is_told_twice(seed: int) -> None:
    """Patches of any number, size and amount: places by one name and sign lie apart in amount or in name."""
    rng = np.random.default_rng(seed)
    steps = np.zeros((200, 200), np.float32)
    for _ in range(10):
        x, y, size = rng.integers(0, 170), rng.integers(0, 170), rng.integers(12, 40)
        steps[y : y + size, x : x + size] = rng.choice((0.5, 0.6, 0.7))
    told = [f for f in find_differences(*two_halves(steps), 1.0, absolute=False)[0] if f.what == "value"]
    masks = np.sum([f.mask for f in told], axis=0)
    assert masks.max() == 1, "no spot is part of two findings"
    assert len({f.place for f in told}) == len(told)
    assert (masks > 0)[steps > 0].mean() > 0.9, "and none of what is off is lost when two are made one"


def test_two_patches_that_are_one_larger_thing_together_are_told_once() -> None:
    """Each by itself is called by its place; together they are most of the face, and are called so."""
    labels = np.full((200, 500), 2, np.uint8)
    labels[:140, :200], labels[140:, :200] = 0, 1
    areas = Areas(labels, ("cheek", "jaw", "wall"), ("face", "face", "wall"))
    steps = np.zeros(labels.shape, np.float32)
    steps[:140, :95] = steps[:160, 105:200] = 0.6
    plan = np.full((*labels.shape, 3), (50, 0, 0), np.float32)
    own = plan + steps[..., None] * np.array((10, 0, 0), np.float32)
    value = np.full(labels.shape, 5, np.float32)
    seen = Squinted(own, plan, value + steps, value, np.ones(labels.shape, bool))
    told = [f for f in find_differences(seen, areas, 1.0, absolute=False)[0] if f.what == "value"]
    assert [f.place for f in told] == ["the face"]


def test_the_grain_of_a_camera_has_the_shape_of_its_code() -> None:
    """Noise even in 8-bit sRGB steps, seen as values (IEC 61966-2-1): squares by area.

    One place is worked farther than planned besides; it must not pass for grain.
    """
    rng = np.random.default_rng(3)
    greys = np.array([2.0, 3.0, 4.0, 5.5, 7.0, 9.0])
    labels = np.arange(6, dtype=np.uint8).repeat(60)[None].repeat(300, 0)
    plan = greys[labels].astype(np.float32)
    noisy = np.clip(value_to_srgb(plan) * 255 + rng.normal(0, 4, plan.shape), 0, 255) / 255
    own = luminance_to_value(Luminance(srgb_to_linear(noisy))).astype(np.float32)
    names = tuple(f"grey {g:g}" for g in greys)
    areas, everywhere = Areas(labels, names, names), np.ones(labels.shape, bool)
    room = np.bincount(labels.ravel()).astype(np.float64)
    gained = np.bincount(labels.ravel(), (own - plan).ravel().astype(np.float64) ** 2) / room
    worked = gained.copy()
    worked[4] += 0.2
    told = _camera_grain(plan, worked, areas, everywhere, room, np.ones(6, bool))
    np.testing.assert_allclose(told, gained, rtol=0.15)


def test_a_sitting_that_made_it_worse_is_not_told_to_stop() -> None:
    better, same, worse = (stop_test((0.5, now), 0.8, True) for now in (0.3, 0.49, 0.7))
    assert (better.stop, same.stop, worse.stop) == (False, True, False)
    assert worse.moved == pytest.approx(-0.4)
    assert "40 per cent farther" in worse.words
    assert "change nothing" in same.words


def test_what_was_moved_is_measured_on_a_made_picture() -> None:
    """Shift in pixels, turn in degrees and width, planted with OpenCV's own warp."""
    rng = np.random.default_rng(4)
    plan = cv2.GaussianBlur(rng.normal(0, 1, (240, 300)).astype(np.float32), (0, 0), 4)
    matrix = cv2.getRotationMatrix2D((150, 120), 6, 1.0)
    matrix[:, 2] += (5, -8)
    own = cv2.warpAffine(plan, matrix, (300, 240), borderMode=cv2.BORDER_REFLECT)
    found = offset_of(Feature("thing", (90, 70, 210, 170)), normalised(own), normalised(plan), 0.5)
    assert found is not None
    assert (found.right_mm, found.down_mm) == pytest.approx((2.5, -4.0), abs=0.3)
    assert found.turn == pytest.approx(6, abs=0.7)
    assert found.wide == pytest.approx(1, abs=0.03)
    assert "4 mm too high and 2 mm too far right" in found.words()
    wide = cv2.warpAffine(plan, np.array([[1.2, 0, -30], [0, 1, 0]], np.float32), (300, 240))
    found = offset_of(Feature("thing", (90, 70, 210, 170)), normalised(wide), normalised(plan), 0.5)
    assert found is not None
    assert found.wide == pytest.approx(1.2, abs=0.05)
    assert "too wide" in found.words()


def test_an_offset_within_a_pencil_line_is_right() -> None:
    still = Offset("nose", 0.5, 0.5, 0.8, 0.6, 1.0, 1.02, 0.98, (0, 0, 1, 1), 0.5)
    assert not still.wrong
    turned = Offset("nose", 0.5, 0.5, 0.0, 0.0, 6.0, 1.0, 1.0, (0, 0, 1, 1), 0.2)
    assert turned.wrong
    unsure = Offset("nose", 0.5, 0.5, 0.0, 0.0, 6.0, 1.0, 1.0, (0, 0, 1, 1), 0.01)
    assert not unsure.wrong


def soft_step(sigma: float) -> np.ndarray:
    picture = np.zeros((300, 400), np.float32)
    picture[:, 200:] = 4
    return (3 + cv2.GaussianBlur(picture, (0, 0), sigma)).astype(np.float32)


def test_edges_too_hard_and_too_soft_are_told_in_mm() -> None:
    """Gaussian edges: the 10–90 % width is 2.563 sigma."""
    labels = np.zeros((300, 400), np.uint8)
    labels[:, 200:] = 1
    areas = Areas(np.zeros((300, 400), np.uint8), ("cheek",), ("face",))
    trusted = np.ones((300, 400), bool)
    for own, plan, word in ((2, 10, "too hard"), (12, 3, "too soft"), (6, 6.5, None)):
        read = read_both(labels, soft_step(own), soft_step(plan), trusted, 0.4)
        found = edges_off(read, areas)
        assert [e.words.split("; ")[1] for e in found] == ([f"{word}."] if word else [])
        if found:
            assert found[0].planned_mm == pytest.approx(2.563 * np.hypot(plan, 1.2) * 0.4, rel=0.12)


def test_places_without_a_face_go_by_thirds_and_own_names() -> None:
    regions = np.zeros((90, 60), np.uint8)
    regions[30:, 10:50] = Region.SKIN
    areas = areas_of(regions, None)
    assert "skin, upper left" in areas.names
    assert "background, upper right" in areas.names
    assert set(np.unique(areas.labels)) == set(range(len(areas.names)))
    assert (areas.wholes("skin") == (regions == Region.SKIN)).all()
    named = areas_of(regions, None, (OwnPlace("shoulder", 0.3, 0.5),))
    where = named.mask("shoulder")
    assert where[45, 18]
    rows, columns = np.nonzero(where)
    assert np.hypot(rows - 45, columns - 18).max() < OWN_REACH * 90
    assert (regions[where] == Region.SKIN).all()


@pytest.mark.parametrize(
    ("names", "said"),
    [
        (("hair, lit", "hair, dark", "wall"), "hair, lit and dark"),
        (("hair, lit", "hair", "wall"), "the hair"),
        (("hair", "hair, dark", "wall"), "the hair"),
        (("hair, lit", "fringe", "wall"), "hair, lit and fringe"),
    ],
)
def test_two_places_of_one_thing_are_named_once_where_both_are_parts(
    names: tuple[str, ...], said: str
) -> None:
    labels = np.repeat([[0, 1, 2]], 4, axis=0).repeat(8, axis=1).astype(np.uint8)
    areas = Areas(labels, names, ("hair", "hair", "wall"))
    where = np.zeros(labels.shape, bool)
    where[:3, 2:13] = True
    assert place_words(areas, where.astype(float), where) == said
