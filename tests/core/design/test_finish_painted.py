"""Focus reaches what is painted: borders, shapes, lines, hours, canvases, and a last step that smears."""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.canvas.layer import Layer, Smear
from truesitter.core.canvas.painted import Painting, paint
from truesitter.core.canvas.painted_borders import even_borders
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.colour.spaces import lab_to_srgb, srgb_to_linear
from truesitter.core.design.finish_painted import effort, kept_lines, quieted, simplified
from truesitter.core.design.focus import DEPTHS, Finish, FocusMark, focus_weight, small_contrast
from truesitter.core.design.tuning import LEAST_EFFORT, MASSES
from truesitter.core.imaging.blur import level_shares
from truesitter.core.imaging.line import Line
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.switches import Switches, adapted
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.core.types import Floats

SHAPE = (120, 160)
SEEDS = st.integers(0, 10_000)


def noise(seed: int) -> Floats:
    return np.random.default_rng(seed).normal(5, 0.6, SHAPE).astype(np.float32)


def finish(value: Floats, weight: Floats) -> Finish:
    small = small_contrast(value)
    return Finish(weight, small, small * weight, np.ones(SHAPE, np.float32))


@settings(max_examples=20, deadline=None)
@given(SEEDS, st.floats(0.12, 1.0))
def test_no_more_small_contrast_is_left_than_allowed(seed: int, weight: float) -> None:
    value = noise(seed)
    allowed = finish(value, np.full(SHAPE, weight, np.float32))
    done = quieted(value, allowed)
    # A little of what is called small is left in what a squint leaves.
    left = float(np.median(small_contrast(done) / allowed.small))
    assert weight - 0.02 <= left <= weight + 0.02 + 0.25 * (1 - weight)
    assert abs(done.mean() - value.mean()) < 0.02
    np.testing.assert_allclose(quieted(value, finish(value, np.ones(SHAPE, np.float32))), value, atol=1e-4)


@settings(max_examples=20, deadline=None)
@given(SEEDS)
def test_shapes_are_fewer_where_nobody_looks_and_no_region_takes_from_another(seed: int) -> None:
    random = np.random.default_rng(seed)
    groups = np.kron(random.integers(0, 3, (30, 40)), np.ones((4, 4))).astype(np.uint8)
    regions = np.zeros(SHAPE, np.uint8)
    regions[:, 80:] = Region.SKIN
    groups[:, 80:] += 3
    weight = np.ones(SHAPE, np.float32)
    weight[60:] = 0.15
    out = simplified(groups, regions, weight, 1.0)
    np.testing.assert_array_equal(out[:60], groups[:60])
    assert out[:, :80].max() < 3
    assert out[:, 80:].min() >= 3

    def borders(labels: np.ndarray) -> int:
        return int((labels[:, 1:] != labels[:, :-1]).sum() + (labels[1:] != labels[:-1]).sum())

    assert borders(out[60:]) < 0.7 * borders(groups[60:])


@settings(max_examples=20, deadline=None)
@given(st.floats(0.12, 1.0), st.floats(0.12, 1.0), st.integers(20, 200))
def test_fewer_lines_are_drawn_the_less_they_are_looked_at(low: float, high: float, count: int) -> None:
    low, high = sorted((low, high))
    ends = [(x, 0.5) for x in np.linspace(0.05, 0.95, count)]
    lines = tuple(Line(np.array([e, e]), np.array([1.0, 1.0])) for e in ends)
    few, many = (kept_lines(lines, np.full(SHAPE, w, np.float32)) for w in (low, high))
    assert set(map(id, few)) <= set(map(id, many))
    assert [one for one in lines if any(one is k for k in many)] == list(many), "in their order"
    assert len(many) / count == pytest.approx(min(1.0, high / MASSES) ** 2, abs=2 / count + 0.02)
    assert kept_lines(lines, np.ones(SHAPE, np.float32)) == lines


def test_a_motif_is_as_near_as_it_is_marked_all_over() -> None:
    box = ((0.6, 0.6), (0.9, 0.6), (0.9, 0.9), (0.6, 0.9))
    marks = (FocusMark(0.2, 0.2, "near"), FocusMark(0.75, 0.75, "middle", box))
    weight = focus_weight(SHAPE, marks, 40.0)
    np.testing.assert_allclose(weight[80:100, 105:135], DEPTHS["middle"])
    assert weight[24, 32] > 0.95
    assert weight[100, 20] < 0.3
    assert effort(weight).min() >= LEAST_EFFORT


@pytest.mark.parametrize("width_mm", [2.0, 5.0, 12.0])
def test_a_smeared_border_is_as_wide_as_wished_and_the_light_stays_the_same(width_mm: float) -> None:
    """10–90 % in linear light, which is what mixes; a hard border before."""
    side = np.zeros(SHAPE, np.uint8)
    side[:, 80:] = 1
    halves, mm = Patchwork.of(SHAPE, side), 0.5
    borders = even_borders(halves, 0.0, mm)
    everywhere = np.ones(2, bool)
    black = Layer(halves.at(side) == 0, {"ivory-black": 1}, None)
    white = Layer(halves.at(side) == 1, {"titanium-white": 1}, None)
    widths = np.zeros(SHAPE, np.float32)
    widths[:60] = width_mm
    done = paint(borders, [Painting((black, white)), Painting((Smear(everywhere, widths),), True)])
    before, after = (srgb_to_linear(done.picture(n).astype(np.float32) / 255)[..., 1] for n in (1, 2))
    row = after[20]
    share = (row - row[0]) / (row[-1] - row[0])
    tenth, most = (float(np.interp(s, share, np.arange(SHAPE[1]) + 0.5)) for s in (0.1, 0.9))
    assert (most - tenth) * mm == pytest.approx(width_mm, rel=0.35)
    np.testing.assert_array_equal(before[60:], after[60:])
    assert after[:40].mean() == pytest.approx(before[:40].mean(), rel=0.02)
    assert lab_to_srgb(done.labs).shape[1] == 3


@cache
def planned(school: str, focus: bool, smear: bool = False, size: str = "portrait") -> Study:
    base = study_of("maren")
    chosen = base.settings.model_dump()
    chosen["passes"] |= {"school": school, "size": size}
    if focus:
        chosen["passes"]["focus"] = [{"x": 0.55, "y": 0.42}]
    if smear:
        chosen["passes"]["softening"] = "smeared at the end"
    return Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)


def test_what_is_marked_reaches_hours_borders_and_canvas() -> None:
    plain, marked = planned("direct-oil", False), planned("direct-oil", True)
    assert marked.passes.plan().hours.likely < 0.95 * plain.passes.plan().hours.likely
    finish_ = marked.finish.finish()
    for study, asked in ((plain, False), (marked, True)):
        borders = study.passes.borders()
        wanted = finish_.edge_mm.ravel()[borders.pixels].mean(axis=1)
        seen = borders.seen_px.sum(axis=1) * borders.mm_per_px * 0.8
        harder = (seen < wanted - 0.6).mean()
        assert harder < 0.05 if asked else harder > 0.2
    near = finish_.weight > 0.9
    ends = [s.passes.painted().picture(len(s.passes.plan().passes)) for s in (plain, marked)]
    away = np.abs(ends[0].astype(float) - ends[1]).mean(axis=2)
    assert away[near].mean() < 0.7 * away[~near].mean()
    # The easel asks for no more than the plan.
    np.testing.assert_array_equal(marked.easel.template(None, "photograph"), marked.finish.picture())
    assert (plain.easel.template(None, "photograph") != plain.finish.picture()).any()


def smears(plan: PassPlan) -> list[int]:
    return [n for n, p in enumerate(plan.passes) if p.does == "smear"]


@pytest.mark.parametrize("size", ["portrait", "study"])
def test_smearing_is_the_last_pass_and_lies_away_from_the_focus(size: str) -> None:
    study = planned("direct-oil", True, True, size)
    plan = study.passes.plan()
    assert smears(plan) == [len(plan.passes) - 1]
    last = plan.passes[-1]
    assert last.into_wet
    assert not last.recipe.parts
    assert last.ml == 0
    assert last.work_minutes > 0
    painted, count = study.passes.painted(), len(plan.passes)
    moved = (painted.picture(count) != painted.picture(count - 1)).any(axis=2)
    weight = study.finish.finish().weight
    assert not moved[weight >= MASSES].any()
    assert moved[weight < MASSES].mean() > 0.2
    # Painted tight first: before it is smeared no border is softened for the focus.
    tight = study.passes.borders().seen_px.sum()
    assert tight < planned("direct-oil", True).passes.borders().seen_px.sum()


def test_what_sets_at_once_is_not_smeared_but_softened_border_by_border() -> None:
    study = planned("watercolour-zones", True, True)
    plan = study.passes.plan()
    assert not smears(plan)
    assert any("sets too soon" in r.words for r in plan.remarks)
    np.testing.assert_array_equal(
        study.passes.borders().seen_px, planned("watercolour-zones", True).passes.borders().seen_px
    )


def test_a_school_of_ones_own_that_smears_needs_no_switch() -> None:
    base = study_of("maren")
    smears_ = adapted(SCHOOLS["direct-oil"], Switches(softening="smeared at the end"))
    own = smears_.model_copy(update={"key": "own-oil", "name": "Own"})
    chosen = base.settings.model_dump()
    chosen["passes"] |= {"own": [own.model_dump(mode="json")], "school": "own-oil"}
    study = Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)
    assert smears(study.passes.plan())


@given(st.lists(st.floats(0, 20), min_size=2, max_size=6, unique=True).map(sorted), st.floats(0, 25))
def test_between_two_blurs_their_shares_make_the_one_wanted(levels: list[float], wanted: float) -> None:
    shares = level_shares(np.array([wanted]), levels)[:, 0]
    assert shares.sum() == pytest.approx(1, abs=1e-5)
    assert np.count_nonzero(shares) <= 2
    assert shares @ levels == pytest.approx(np.clip(wanted, levels[0], levels[-1]), abs=1e-3)
