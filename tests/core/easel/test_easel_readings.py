"""What the easel reads of a photograph: masses, key, lamps, corners, on pictures made by hand."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from truesitter.core.colour.value import value_to_lightness
from truesitter.core.easel.compare.drawing_offsets import Offset
from truesitter.core.easel.compare.relations import Relation, relations_of
from truesitter.core.easel.compare.squinted import Squinted, squint
from truesitter.core.easel.compare.tone_curve import whole_of
from truesitter.core.easel.correct.painting_habits import Observed, find_habits
from truesitter.core.easel.find.corners import by_sides
from truesitter.core.easel.find.correlation import correlation, normalised
from truesitter.core.easel.find.view import View
from truesitter.core.easel.lamp.lighting import Known, known_card, lighting_of
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.areas import Areas, median_by_area


def halves(left: float, right: float, planned_left: float = 6.0, planned_right: float = 4.0) -> Squinted:
    value, wanted = (
        np.repeat(np.where(np.arange(60) < 30, a, b)[None], 50, axis=0).astype(np.float32)
        for a, b in ((left, right), (planned_left, planned_right))
    )
    lab = np.zeros((50, 60, 3), np.float32)
    return Squinted(lab, lab, value, wanted, np.ones((50, 60), bool))


def test_two_masses_are_held_against_each_other() -> None:
    labels = np.repeat((np.arange(60) >= 30).astype(np.uint8)[None], 50, axis=0)
    two = Areas(labels, ("hair, top", "skin, left"), ("hair", "skin"))
    (well,) = relations_of(halves(6.1, 4.0), two)
    assert well.holds
    assert well.words == "hair against skin: as planned."
    (wide,) = relations_of(halves(6.8, 3.8), two)
    assert (wide.painted, wide.planned) == pytest.approx((3.0, 2.0))
    assert wide.off == pytest.approx(1.0)
    assert wide.words == "hair against skin: too far apart, by one step."
    assert "too near together" in Relation("a", "b", 0.5, 2.0).words
    assert "too far apart" in Relation("a", "b", -0.5, 2.0).words, "the other way round"
    hidden = halves(6.8, 3.8)
    hidden.trusted[:, 30:] = False
    assert relations_of(hidden, two) == ()


def test_medians_of_areas_are_those_of_a_known_library() -> None:
    """SciPy's labelled median on the same labels; 0 where nothing of an area is seen."""
    from scipy.ndimage import median

    rng = np.random.default_rng(6)
    labels = rng.integers(0, 5, (40, 51)).astype(np.uint8)
    where = rng.random(labels.shape) < 0.6
    where[labels == 3] = False
    areas = Areas(labels, tuple("abcdef"), ("x",) * 6)
    one, other = (rng.normal(size=labels.shape).astype(np.float32) for _ in range(2))
    found = median_by_area(areas, where, one, other)
    for seen, values in zip(found, (one, other), strict=True):
        for n in (0, 1, 2, 4):
            assert seen[n] == pytest.approx(float(median(values, np.where(where, labels, 99), n)))
        assert (seen[3], seen[5]) == (0, 0)


def test_squinting_blurs_light_and_believes_only_what_is_seen() -> None:
    rng = np.random.default_rng(2)
    own, plan = (rng.uniform(0.1, 0.6, (90, 120, 3)).astype(np.float32) for _ in range(2))
    trusted = np.ones((90, 120), bool)
    trusted[:, :30] = False
    own[:, :30] = 50.0
    seen = squint(own, plan, trusted)
    assert not seen.trusted[:, :25].any()
    assert seen.trusted[:, 40:].all()
    assert seen.value[seen.trusted].max() < 8, "what cannot be believed does not shine in"
    assert (seen.steps[~seen.trusted] == 0).all()
    assert (seen.colour[~seen.trusted] == 0).all()
    # The value is that of the L* of the blurred light, not of its colour.
    np.testing.assert_allclose(value_to_lightness(seen.value), np.clip(seen.own[..., 0], 0, 100), atol=0.2)
    np.testing.assert_allclose(value_to_lightness(seen.wanted), np.clip(seen.plan[..., 0], 0, 100), atol=0.2)


def test_key_and_range_are_a_line_through_groups_of_values() -> None:
    ramp = np.repeat(np.linspace(1.5, 8.5, 200, dtype=np.float32)[None], 60, axis=0)
    lab = np.zeros((*ramp.shape, 3), np.float32)
    whole = np.ones(ramp.shape, bool)
    for shift, contrast in ((0.6, 1.0), (-0.4, 0.8)):
        value = 5 + shift + contrast * (ramp - 5)
        found = whole_of(Squinted(lab, lab, value, ramp, whole))
        assert (found.shift, found.contrast) == pytest.approx((shift, contrast), abs=0.02)
        np.testing.assert_allclose(found.explained(ramp), value - ramp, atol=0.03)
        assert found.darkest[0] < found.lightest[0]
        assert found.darkest[1] == pytest.approx(1.5, abs=0.15)
        assert found.curve is None
    bent = np.minimum(ramp, 7.0)
    free = whole_of(Squinted(lab, lab, bent, ramp, whole), free=True)
    assert free.curve is not None
    np.testing.assert_allclose(free.explained(ramp)[0, 20:180], (bent - ramp)[0, 20:180], atol=0.2)
    assert whole_of(Squinted(lab, lab, ramp, ramp, ~whole)).contrast == 1.0


@pytest.mark.parametrize(
    ("right", "down", "turn", "wide", "tall", "words"),
    [
        (0, 4, 0, 1, 1, "Mouth: 4 mm too low."), (0, -3, 0, 1, 1, "Mouth: 3 mm too high."),
        (5, 0, 0, 1, 1, "Mouth: 5 mm too far right."), 
        (-5, 4, 0, 1, 1, "Mouth: 4 mm too low and 5 mm too far left."),
        (0, 0, 7, 1, 1, "Mouth: turned 7° anti-clockwise."),
        (0, 0, -7, 1, 1, "Mouth: turned 7° clockwise."),
        (0, 0, 0, 1.2, 1, "Mouth: 20 per cent too wide."),
        (0, 0, 0, 0.8, 1, "Mouth: 20 per cent too narrow."),
        (0, 0, 0, 1, 0.75, "Mouth: 25 per cent too low in height."),
        (0, 0, 0, 1.3, 1.25, "Mouth: 30 per cent too wide, 25 per cent too tall."),
    ],
)  # fmt: skip
def test_a_feature_that_is_off_is_said_in_millimetres(
    right: float, down: float, turn: float, wide: float, tall: float, words: str
) -> None:
    one = Offset("mouth", 0.5, 0.5, right, down, turn, wide, tall, (0, 0, 9, 9), 1.0)
    assert one.words() == words
    assert one.wrong


def test_what_keeps_coming_back_is_told_by_its_size_beside_what_matters() -> None:
    rng = np.random.default_rng(5)
    seen = [
        Observed(str(n), place, what, mean + float(rng.normal(0, mean / 20)))
        for place, what, mean in (("chin", "value", 0.9), ("nose", "red", 6.0), ("brow", "value", 0.6))
        for n in range(7)
    ]
    found = find_habits(tuple(seen))
    assert [(h.place, h.what) for h in found] == [("chin", "value"), ("brow", "value"), ("nose", "red")]
    assert found[0].mean == pytest.approx(0.9, abs=0.1)
    assert found[0].error == pytest.approx(0.9 / 20 / np.sqrt(7), rel=0.9)
    assert {h.paintings for h in found} == {7}
    assert "chin 0.9 steps too light" in found[0].words


@pytest.mark.parametrize("tall", [1.25, 0.8])
def test_a_bare_canvas_on_a_wall_is_found_by_its_four_sides(tall: float) -> None:
    picture = np.full((500, 600, 3), 90, np.uint8)
    picture[:, :, 2] += (np.arange(600) // 30 % 2 * 3).astype(np.uint8)
    side = np.array([(180, 80), (400, 95), (405, 95 + 222 * tall), (170, 85 + 222 * tall)], float)
    cv2.fillPoly(picture, [np.round(side).astype(np.int32)], (200, 190, 170))
    found = by_sides(picture, tall)
    assert found
    away = np.hypot(*((found[0] * (600, 500) - side) / np.hypot(600, 500)).T).max()
    assert away < 0.01
    assert by_sides(np.full((300, 300, 3), 120, np.uint8), tall) == []


def test_maps_are_compared_without_their_slow_changes() -> None:
    rng = np.random.default_rng(1)
    one = cv2.GaussianBlur(rng.normal(size=(120, 150)).astype(np.float32), (0, 0), 2)
    slope = np.linspace(0, 0.4, 150, dtype=np.float32)[None]
    assert correlation(normalised(one), normalised(3 * one + slope)) > 0.97
    assert correlation(normalised(one), normalised(-one)) < -0.99
    assert abs(correlation(normalised(one), normalised(one[::-1]))) < 0.15
    assert abs(float(normalised(one + slope).mean())) < 0.05
    half = np.zeros(one.shape, bool)
    half[:, :75] = True
    mixed = np.where(half, one, -one)
    assert correlation(normalised(one), normalised(mixed), half) > 0.9


def lit(slope: float, gains: tuple[float, float, float]) -> tuple[np.ndarray, np.ndarray]:
    rng = np.random.default_rng(3)
    plan = cv2.GaussianBlur(rng.uniform(0.05, 0.9, (160, 200, 3)).astype(np.float32), (0, 0), 4)
    x = (np.arange(200) + 0.5) / 200
    light = np.exp(slope * (x - 0.5))[None, :, None] * np.array(gains)
    return (plan * light).astype(np.float32), plan


def known_at(x: float, y: float, slope: float, gains: tuple[float, float, float]) -> Known:
    true = np.full(3, 0.85)
    return Known((x, y), true * np.array(gains) * np.exp(slope * (x - 0.5)), true)


def test_the_light_is_found_from_the_plan_from_one_white_and_from_three() -> None:
    gains = (0.5, 0.4, 0.3)
    seen, plan = lit(0.8, gains)
    trusted = np.ones(seen.shape[:2], bool)
    x, y = np.array([0.1, 0.5, 0.9]), np.full(3, 0.5)
    true = np.exp(0.8 * (x - 0.5))[:, None] * np.array(gains)
    by_plan = lighting_of(seen, plan, trusted)
    one = lighting_of(seen, plan, trusted, (known_at(0.2, 0.4, 0.8, gains),))
    spots = ((0.1, 0.1), (0.9, 0.1), (0.5, 0.95), (1.1, 0.5))
    three = lighting_of(seen, plan, trusted, tuple(known_at(*s, 0.8, gains) for s in spots))
    for found, absolute in ((by_plan, False), (one, True), (three, True)):
        assert found.absolute is absolute
        np.testing.assert_allclose(found.at(x, y), true, rtol=0.03)
        assert found.fall_off == pytest.approx(1 - np.exp(-0.8), abs=0.03)
        np.testing.assert_allclose(found.over((80, 100))[40, [10, 90]], found.at(x[[0, 2]], y[:2]), rtol=0.03)
    even = lighting_of(seen, plan, trusted, even=True)
    assert even.fall_off == pytest.approx(0, abs=1e-9)
    # Three whites in a row tell nothing of the way across them.
    row = lighting_of(seen, plan, trusted, tuple(known_at(s, 0.5, 0.8, gains) for s in (0.1, 0.5, 0.9)))
    np.testing.assert_allclose(row.surface[1:3], (0.8, 0.0), atol=1e-6)


def test_a_white_out_of_range_is_refused() -> None:
    seen, plan = lit(0.0, (0.5, 0.5, 0.5))
    trusted = np.ones(seen.shape[:2], bool)
    for light, words in ((0.99, "overexposed"), (0.001, "too dark")):
        with pytest.raises(Refusal, match=words):
            lighting_of(seen, plan, trusted, (Known((0.5, 0.5), np.full(3, light), np.full(3, 0.9)),))


def test_a_marked_card_is_read_inside_its_rim_and_placed_beside_the_painting() -> None:
    picture = np.full((400, 500, 3), 0.1, np.float32)
    picture[100:180, 400:460] = (0.6, 0.5, 0.4)
    view = View.of_corners(np.array([(0.2, 0.2), (0.6, 0.2), (0.6, 0.8), (0.2, 0.8)]), (400, 500))
    mark = (460 / 500, 100 / 400, 400 / 500, 180 / 400)
    for corners in (mark, (mark[2], mark[3], mark[0], mark[1]), (mark[0], mark[3], mark[2], mark[1])):
        known = known_card(picture, view, corners, 0.9)
        np.testing.assert_allclose(known.seen, (0.6, 0.5, 0.4), atol=1e-6)
        np.testing.assert_allclose(known.true, 0.9)
        assert known.spot == pytest.approx(((0.86 - 0.2) / 0.4, (0.35 - 0.2) / 0.6), abs=1e-6)
    with pytest.raises(Refusal, match="larger rectangle"):
        known_card(picture, view, (0.81, 0.3, 0.812, 0.303), 0.9)
