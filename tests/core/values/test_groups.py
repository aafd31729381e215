"""Locked cuts, splitting and merging, names, joins by hand, inventory, masses and marks."""

from __future__ import annotations

from itertools import combinations, pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra import numpy as arrays

from tests.conftest import study_of, truth
from truesitter.core.imaging.blur import blur
from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings, ValueSettings
from truesitter.core.stages import Study
from truesitter.core.values.contrast import largest_patches, read_contrast
from truesitter.core.values.cuts import best_fit_cuts, merge_group, split_group
from truesitter.core.values.inventory import join_shape, list_shapes
from truesitter.core.values.shapes import find_shapes

histograms = arrays.arrays(np.float64, 9, elements=st.integers(1, 50).map(float))


def within(histogram: np.ndarray, cuts: tuple[int, ...]) -> float:
    total, edges = 0.0, [0, *[c + 1 for c in cuts], len(histogram)]
    for a, b in pairwise(edges):
        w, x = histogram[a:b], np.arange(a, b)
        if not w.any():
            continue
        total += float((w * (x - np.average(x, weights=w)) ** 2).sum())
    return total


@given(
    arrays.arrays(np.float64, 10, elements=st.integers(0, 50).map(float)),
    st.lists(st.integers(1, 9), min_size=1, max_size=3, unique=True), st.integers(3, 5),
)  # fmt: skip
@settings(deadline=None)
def test_with_locked_cuts_the_others_are_still_the_best_there_are(
    histogram: np.ndarray, locked: list[int], groups: int
) -> None:
    """Against every way of placing the free cuts; locked ones stay where they are, in gaps too."""
    every = [
        c for c in combinations(range(1, 10), groups - 1)
        if set(locked) <= set(c) and all(histogram[a:b].any() or {a, b} <= {0, 10, *locked}
                                         for a, b in pairwise((0, *c, 10)))
    ]  # fmt: skip
    try:
        found = best_fit_cuts(histogram, groups, tuple(float(c) for c in locked))
    except Refusal:
        assert not every or len(locked) > groups - 1
        return
    assert {float(c) for c in locked} <= set(found)
    assert len(found) == groups - 1
    least = min(within(histogram, tuple(c - 1 for c in cuts)) for cuts in every)
    assert within(histogram, tuple(round(c) - 1 for c in found)) == pytest.approx(least)


@pytest.mark.parametrize("lock", [5.0, 0.2, 9.9])
def test_a_locked_cut_stays_in_an_empty_gap_and_beyond_all_values(lock: float) -> None:
    histogram = np.zeros(256)
    histogram[60:78] = histogram[190:200] = 3.0
    found = best_fit_cuts(histogram, 4, (lock,))
    assert lock in found
    assert len(found) == 3


def test_locked_cuts_stay_to_the_hundredth_and_are_counted() -> None:
    histogram = np.random.default_rng(0).uniform(1, 9, 256)
    cuts = best_fit_cuts(histogram, 5, (3.33, 6.66))
    assert {3.33, 6.66} < set(cuts)
    assert list(cuts) == sorted(cuts)
    with pytest.raises(Refusal, match="are locked"):
        best_fit_cuts(histogram, 3, (2.0, 4.0, 6.0))


@given(st.lists(st.integers(2, 98), min_size=1, max_size=7, unique=True), st.data())
def test_splitting_and_merging_undo_each_other(tenths: list[int], data: st.DataObject) -> None:
    cuts = tuple(sorted(t / 10 for t in tenths))
    group = data.draw(st.integers(0, len(cuts)))
    histogram = np.ones(256)
    try:
        more = split_group(histogram, cuts, group)
    except ValueError:
        return
    assert set(cuts) < set(more)
    assert len(more) == len(cuts) + 1
    new = next(i for i, c in enumerate(more) if c not in cuts)
    assert new == group
    assert merge_group(more, group) == cuts


def test_a_group_is_split_where_its_own_values_part() -> None:
    """Values of the neighbours, a hair beyond the edges, say nothing about it."""
    histogram = np.zeros(256)
    edge = 128  # value 5.0 lies between bins 127 and 128
    histogram[[edge - 1, 200]], histogram[[150, 180]] = 900, 10
    (new,) = set(split_group(histogram, (5.0, 7.5), 1)) - {5.0, 7.5}
    assert 150 < new * 25.6 < 180


def test_what_cannot_be_split_or_merged_says_so() -> None:
    histogram = np.zeros(256)
    histogram[[30, 200]] = 5
    with pytest.raises(Refusal, match="single value"):
        split_group(histogram, (5.0,), 0)
    with pytest.raises(Refusal, match="no group 8"):
        split_group(histogram, (5.0,), 7)
    with pytest.raises(Refusal, match="lighter than group 3"):
        merge_group((3.0, 5.0), 2)
    with pytest.raises(Refusal, match="2 to 9"):
        merge_group((3.0,), 0)


def test_the_painters_names_stand_before_the_usual_ones() -> None:
    chosen = ValueSettings(groups=3, names=("deep", "", "  paper "))
    assert chosen.group_names() == ("deep", "middle", "paper")


def test_every_shape_is_listed_with_its_measures() -> None:
    labels = np.zeros((80, 100), np.uint8)
    labels[20:60, 30:70] = 1
    labels[30:40, 40:50] = 2
    value = labels * 2.0 + 3
    lab = np.dstack([value * 10, value, -value]).astype(np.float32)
    regions = np.where(labels > 0, 1, 0).astype(np.uint8)
    _, shapes = list_shapes(labels, regions, value.astype(np.float32), lab, 0.5)
    by_group = {s.group: s for s in shapes}
    square = by_group[1]
    assert square.area_mm2 == pytest.approx((40 * 40 - 100) * 0.25)
    assert square.value == pytest.approx(5)
    assert square.lab == pytest.approx((50, 5, -5))
    assert square.region == 1
    assert by_group[0].region == 0
    assert square.neighbours == (by_group[0].number, by_group[2].number)
    assert by_group[2].circle_mm == pytest.approx(5, abs=0.6)


def test_a_shape_joins_a_neighbour_by_hand_and_nothing_else_moves() -> None:
    labels = np.zeros((40, 40), np.uint8)
    labels[5:15, 5:15] = labels[25:35, 25:35] = 2
    joined = join_shape(labels, 0.25, 0.25, 0)
    assert (joined[:20] == 0).all()
    np.testing.assert_array_equal(joined[20:], labels[20:])


def test_a_join_survives_in_the_plan() -> None:
    study = study_of("maren")
    shape = max((s for s in study.values.shapes().shapes if s.group == 2), key=lambda s: s.circle_mm)
    joined = Study.of_bytes(
        truth("maren").data,
        StudySettings.model_validate(
            {
                "reference": {"canvas_width_mm": 320, "canvas_height_mm": 400},
                "values": {"joins": [{"x": shape.x, "y": shape.y, "group": 3}]},
            }
        ),
    )
    before, after = study.values.plan().labels, joined.values.plan().labels
    changed = before != after
    assert changed.sum() * study.picture.mm_per_px**2 == pytest.approx(shape.area_mm2, rel=0.05)
    assert set(before[changed]) == {2}
    assert set(after[changed]) == {3}


def test_noise_does_not_shatter_hair_or_cloth_into_specks() -> None:
    """No shape of the demo sitters is smaller than a disc of the smallest width, features apart."""
    for name in ("maren", "tobias", "ines"):
        study = study_of(name)
        shapes = find_shapes(study.values.plan().labels)
        area_mm2 = shapes.area * study.picture.mm_per_px**2
        features = study.sitter.features()
        in_features = np.zeros(shapes.count, bool)
        if features is not None:
            in_features[np.unique(shapes.number[features])] = True
        settings_ = study.values.settings
        assert area_mm2[~in_features].min() >= np.pi / 4 * settings_.smallest_mm**2 * 0.999
        assert area_mm2.min() >= np.pi / 4 * settings_.features_mm**2 * 0.9
        assert shapes.count < 400


def test_marks_outweigh_masses_only_where_there_are_marks() -> None:
    y, x = np.mgrid[0:300, 0:400]
    value = 3 + 4 * (x > 200) + np.where(y > 200, 0.8 * np.sign(np.sin(x * 1.3)), 0)
    contrast = read_contrast(value.astype(np.float32), blur(value.astype(np.float32), 6), 6)
    risk = contrast.at_risk()
    assert risk[240:290, 40:120].mean() > 0.95
    assert not risk[20:150].any()
    patches = largest_patches(risk, 3)
    assert patches[0][2] > 0.66
    assert largest_patches(np.zeros((9, 9), bool), 3) == []


def test_few_value_sketches_have_as_many_values_as_asked() -> None:
    study = study_of("maren")
    for groups in (2, 3, 4, 5):
        sketch = study.looking.thumbnail(groups)
        assert len(np.unique(sketch)) == groups
        assert find_shapes(sketch).count < 60
    masses = find_shapes(study.looking.masses().labels).count
    assert masses < find_shapes(study.values.plan().labels).count
