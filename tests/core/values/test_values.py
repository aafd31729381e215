"""Value maps, cuts, groups, shapes and outlines."""

from __future__ import annotations

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from truesitter.core.colour.value import value_to_luminance
from truesitter.core.refusal import Refusal
from truesitter.core.values.cuts import best_fit_cuts, check_own_cuts, even_cuts
from truesitter.core.values.outlines import trace_outlines
from truesitter.core.values.posterise import cut_labels, describe_groups, posterise
from truesitter.core.values.shapes import absorb_small, find_shapes, largest_circles
from truesitter.core.values.value_map import (
    histogram,
    paint_values,
    smooth_shapes,
    squint,
    squinted_value,
    value_map,
)

label_maps = arrays(np.uint8, st.tuples(st.integers(2, 14), st.integers(2, 14)), elements=st.integers(0, 3))


def test_even_cuts_divide_the_ladder() -> None:
    assert even_cuts(5) == (2, 4, 6, 8)
    for wrong in (1, 10):
        with pytest.raises(Refusal, match="2 to 9"):
            even_cuts(wrong)


def test_too_few_values_are_said() -> None:
    flat = np.zeros(256)
    flat[100] = 5
    with pytest.raises(Refusal, match="a single value: too few for 3"):
        best_fit_cuts(flat, 3)


@pytest.mark.parametrize("cuts", [(5.0, 4.0), (0.0, 5.0), (5.0, 10.0), (5.0, 5.01), (float("nan"), 5.0), ()])
def test_impossible_own_cuts_are_refused(cuts: tuple[float, ...]) -> None:
    with pytest.raises(Refusal, match="value"):
        check_own_cuts(cuts)


@given(st.lists(st.floats(0, 10), min_size=20, max_size=60), st.integers(2, 5))
def test_best_fit_cuts_rise_and_leave_no_group_empty(values: list[float], groups: int) -> None:
    counts = histogram(np.array(values, np.float32))
    if np.count_nonzero(counts) < groups:
        return
    cuts = best_fit_cuts(counts, groups)
    labels = cut_labels(np.array([values], np.float32), cuts)
    assert list(cuts) == sorted(set(cuts))
    assert len(np.unique(labels)) == groups


def test_a_value_on_a_cut_belongs_to_the_lighter_group() -> None:
    assert cut_labels(np.array([[1.99, 2.0, 2.01, 10.0]], np.float32), (2.0, 5.0)).tolist() == [[0, 1, 1, 2]]
    below = np.arange(1, 10, dtype=np.float32) - np.float32(1 / 256)
    cuts = tuple(float(n) for n in range(1, 10))
    assert cut_labels(np.stack([below, below + np.float32(1 / 256)]), cuts).tolist() == [
        list(range(9)),
        list(range(1, 10)),
    ]


def test_painting_values_gives_them_back() -> None:
    ramp = np.tile(np.linspace(0.5, 9.9, 200, dtype=np.float32), (8, 1))
    picture = np.repeat(paint_values(ramp)[..., None], 3, axis=2)
    np.testing.assert_allclose(value_map(picture), ramp, atol=0.05)


def test_squinting_averages_light_not_codes() -> None:
    stripes = np.zeros((200, 200, 3), np.uint8)
    stripes[:, ::2] = 255
    middle = squinted_value(stripes, 0.03)[60:140, 60:140]
    np.testing.assert_allclose(value_to_luminance(middle), 0.5, atol=0.01)
    assert squint(stripes, 0.03)[100, 100, 0] == pytest.approx(188, abs=2)
    assert squint(stripes, 0) is stripes
    with pytest.raises(Refusal, match="squint"):
        squint(stripes, 0.5)


def test_smoothing_keeps_edges_and_evens_out_noise() -> None:
    rng = np.random.default_rng(0)
    value = np.where(np.arange(200) < 100, 3.0, 7.0) + rng.normal(0, 0.15, (200, 200))
    smooth = smooth_shapes(value.astype(np.float32), 8)
    assert smooth[:, 20:80].std() < 0.08
    assert smooth[:, 108].mean() - smooth[:, 92].mean() > 3.6


@given(label_maps)
@settings(deadline=None, max_examples=60)
def test_shapes_are_all_there_once(labels: np.ndarray) -> None:
    shapes = find_shapes(labels)
    assert shapes.area.sum() == labels.size
    np.testing.assert_array_equal(shapes.group[shapes.number], labels)
    np.testing.assert_array_equal(np.bincount(shapes.number.ravel()), shapes.area)


@given(label_maps, st.integers(2, 12))
@settings(deadline=None, max_examples=80)
def test_no_shape_stays_below_the_smallest(labels: np.ndarray, smallest: int) -> None:
    result = absorb_small(labels, smallest)
    assert set(np.unique(result)) <= set(np.unique(labels))
    shapes = find_shapes(result)
    assert shapes.count == 1 or shapes.area.min() >= min(smallest, labels.size)


def test_stripes_too_thin_to_paint_go_however_long_they_are() -> None:
    labels = np.zeros((80, 120), np.uint8)
    labels[:, 20:70:12] = labels[:, 21:71:12] = 1
    labels[20:60, 80:110] = 1
    kept = absorb_small(labels, 50, thinnest=5)
    assert len(np.unique(kept[:, :70])) == 1
    assert (kept[20:60, 80:110] == 1).all()
    assert absorb_small(labels, 50)[40, 20] == 1


def test_two_thin_stripes_side_by_side_that_can_be_painted_together_become_one() -> None:
    labels = np.zeros((80, 60), np.uint8)
    labels[:, 20:24], labels[:, 24:28] = 2, 3
    kept = absorb_small(labels, 50, thinnest=6)
    assert set(np.unique(kept)) in ({0, 2}, {0, 3})
    assert (kept[:, 20:28] > 0).all()


@given(
    arrays(np.uint8, (24, 30), elements=st.integers(0, 3)),
    st.sampled_from([0, 9, 40]),
    st.sampled_from([0, 4]),
)
def test_nothing_is_left_that_is_too_small_or_too_thin(labels: np.ndarray, least: int, thinnest: int) -> None:
    """Measured anew on the result by Shapely, not by what the merging believes of itself."""
    kept = absorb_small(labels, least, thinnest=thinnest)
    shapes = find_shapes(kept)
    if shapes.count == 1:
        return
    assert shapes.area.min() >= least
    for outline in trace_outlines(kept, tolerance=0) if thinnest else ():
        padded = outline.polygon.buffer(1e-6)
        if padded.bounds[0] > 0.5 and padded.bounds[1] > 0.5 and padded.bounds[2] < 29.5:
            radius = shapely.maximum_inscribed_circle(outline.polygon, tolerance=0.05).length
            assert 2 * radius >= thinnest - 1.5


def test_smaller_shapes_survive_where_features_are() -> None:
    labels = np.zeros((60, 60), np.uint8)
    labels[10:14, 10:14] = labels[40:44, 40:44] = 1
    features = np.zeros((60, 60), bool)
    features[5:20, 5:20] = True
    kept = absorb_small(labels, 50, features, 10)
    assert kept[12, 12] == 1
    assert kept[42, 42] == 0


@given(label_maps, st.sampled_from([0.0, 1.2]))
@settings(deadline=None, max_examples=60)
def test_outlines_cover_the_frame_without_overlap(labels: np.ndarray, tolerance: float) -> None:
    outlines = trace_outlines(labels, tolerance)
    polygons = [o.polygon for o in outlines]
    assert len(polygons) == find_shapes(labels).count
    assert sum(p.area for p in polygons) == pytest.approx(labels.size, abs=1e-6)
    assert shapely.union_all(polygons).area == pytest.approx(labels.size, abs=1e-6)
    assert shapely.coverage_is_valid(polygons)
    for outline in outlines:
        assert outline.polygon.contains(shapely.Point(outline.number_at))
        if tolerance == 0:
            x, y = outline.number_at
            assert labels[int(y), int(x)] == outline.group


def test_largest_circle_of_a_bar() -> None:
    labels = np.zeros((40, 100), np.uint8)
    labels[15:25, 10:90] = 1
    circles = largest_circles(find_shapes(labels))
    bar = int(np.flatnonzero(find_shapes(labels).group == 1)[0])
    assert circles.radius[bar] == pytest.approx(5, abs=1)
    assert 15 < circles.y[bar] < 25


@pytest.mark.parametrize("squared", [200, 307, 335, 391])
def test_of_equal_places_the_first_is_the_middle_of_the_circle(squared: int) -> None:
    """Twelve equal discs on a bar: their ties are not told by the last bits of a distance."""
    y, x = np.mgrid[0:210, 0:640]
    labels = np.zeros(x.shape, np.uint8)
    labels[100, 5:635] = 1
    for k in range(12):
        labels[(x - 30 - 51 * k) ** 2 + (y - 97 - 3 * (k % 3)) ** 2 < squared] = 1
    shapes = find_shapes(labels)
    circles, number = largest_circles(shapes), shapes.number[100, 5]
    assert (circles.x[number], circles.y[number]) == (30.5, 97.5)
    assert circles.radius[number] ** 2 == pytest.approx(squared, rel=0.1)


def test_groups_add_up_to_the_picture() -> None:
    rng = np.random.default_rng(3)
    value = rng.uniform(0, 10, (60, 80)).astype(np.float32)
    lab = np.dstack([value * 10, value * 0, value * 0]).astype(np.float32)
    cuts = (3.0, 6.0, 9.999)
    labels = posterise(value, cuts, 1)
    groups = describe_groups(labels, value, lab, cuts)
    assert sum(g.share for g in groups) == pytest.approx(1)
    for g in groups[:3]:
        assert g.low <= g.value <= g.high
        assert g.lab[0] == pytest.approx(g.value * 10, abs=0.01)


def test_teeth_too_narrow_to_paint_close_and_features_keep_theirs() -> None:
    """A comb of stripes joined to a large shape: no rule about whole shapes would see its teeth."""
    value = np.full((200, 300), 6.0, np.float32)
    value[:100] = 3.0
    value[100:160, ::12] = 3.0
    for offset in range(1, 8):
        value[100:160, offset::12] = 3.0
    closed = posterise(value, (4.5,), 20.0, None, 3.0)
    row = closed[130]
    assert np.count_nonzero(np.diff(row.astype(int))) <= 2
    features = np.zeros(value.shape, bool)
    features[:, 100:200] = True
    kept = posterise(value, (4.5,), 20.0, features, 3.0)[130, 110:190]
    assert np.count_nonzero(np.diff(kept.astype(int))) >= 10
