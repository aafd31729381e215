"""Schools, waiting, the simulated canvas and the planner."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import study_of, truth
from tests.core.school.test_schools import planned
from truesitter.core.brushes.laying import brush_for, goes_needed, laying_minutes, widest_brush, work_minutes
from truesitter.core.brushes.tuning import WIDTHS_MM
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.reach import map_picture, palette_reach
from truesitter.core.paint.tubes.palettes import STARTERS, starter
from truesitter.core.plan.hand.brush_goes import goes_of
from truesitter.core.plan.kinds.wash_pass import wash_parts
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.plan.subject import Subject
from truesitter.core.refusal import Refusal
from truesitter.core.school.library import school
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study


def test_brushes_fit_their_shapes() -> None:
    bar = np.zeros((200, 400), bool)
    bar[80:120, 50:350] = True
    assert brush_for(bar, 0.5) in WIDTHS_MM
    assert 8 <= brush_for(bar, 0.5) <= 20
    assert brush_for(bar, 1.0) > brush_for(bar, 0.25)
    # Two fifths of the area in lines, three in a square: half of it asks for the square's brush.
    mixed = np.zeros((200, 200), bool)
    mixed[10:70, 10:70] = True
    mixed[100:198:6, :141] = True
    assert brush_for(mixed, 1.0) == widest_brush(59.0)
    assert brush_for(np.zeros((10, 10), bool), 1) == 1
    assert work_minutes(1000, 10) > work_minutes(100, 10)


@given(st.floats(1, 3000), st.sampled_from(WIDTHS_MM), st.floats(0.2, 600))
def test_no_go_takes_longer_than_the_paint_stays_open(area: float, brush: int, open_minutes: float) -> None:
    """And one go fewer would."""
    count = goes_needed(area, brush, open_minutes)
    assert laying_minutes(area / count, brush) <= open_minutes * (1 + 1e-6)
    assert count == 1 or laying_minutes(area / (count - 1), brush) > open_minutes * (1 - 1e-6)
    assert goes_needed(area, brush, 0) == 1


def plan(name: str) -> PassPlan:
    """Every pass of the usual school."""
    return planned(name, "layered-oil").passes.plan()


@pytest.mark.parametrize("name", ["maren", "tobias", "ines"])
def test_the_plan_brings_the_canvas_to_the_reference(name: str) -> None:
    passes = plan(name).passes
    assert passes[0].name == "Ground"
    assert passes[-1].name == "Last lights"
    assert passes[-1].value_error < 0.45
    assert passes[-1].value_error < passes[0].value_error / 3
    assert all(
        p.key == f"flesh-{p.group + 1}" for p in passes if p.name.startswith("Flesh") and p.group is not None
    )
    assert all(p.film < 0.05 for p in passes if p.name.startswith("Unifying")), "a glaze is thin"
    flesh = [p.target_value for p in passes if p.name.startswith("Flesh")]
    assert len(flesh) >= 3
    assert flesh == sorted(flesh)
    hair = [p.name for p in passes if p.key.startswith("hair-")]
    assert hair.index("Hair, base") < hair.index("Hair, locks")
    # 3-9 layers of the head's hair (common practice), the skin under it not counted.
    assert 3 <= sum("beard" not in name and "skin" not in name for name in hair) <= 9
    assert len({p.key for p in passes}) == len(passes)


def test_the_plan_waits_for_every_layer_below() -> None:
    passes = plan("maren").passes
    for number, current in enumerate(passes):
        for below in passes[:number]:
            if (below.pieces & current.pieces).any():
                assert current.start_minutes > below.start_minutes + below.work_minutes
    for current, following in pairwise(passes):
        waited = current.start_minutes + current.work_minutes + current.wait_minutes
        assert waited == pytest.approx(following.start_minutes)
    assert passes[-1].wait_minutes == 0
    glaze_or_last = passes[-1]
    assert glaze_or_last.start_minutes > 5 * 24 * 60
    assert all(p.ml > 0 and p.area_cm2 > 0 and p.brush_mm > 0 for p in passes)
    ground = passes[0]
    assert ground.area_cm2 == pytest.approx(32 * 40, rel=0.01)
    assert ground.ml == pytest.approx(ground.area_cm2 * 0.05 / 10 / 0.85, rel=0.01)


def test_what_it_is_painted_in_sets_the_waits() -> None:
    """Quick oil as the medium's own wait says; another medium is not this school's, and that is said."""
    subject, palette = study_of("maren").passes.subject(), STARTERS[0]
    oil = school("layered-oil")
    days = {
        name: plan_passes(subject, palette, oil, None, MEDIA[name])
        for name in ("oil", "quick oil", "acrylic")
    }
    first = {name: found.passes[0].wait_minutes for name, found in days.items()}
    assert first["quick oil"] / first["oil"] == pytest.approx(
        MEDIA["quick oil"].wait_minutes / MEDIA["oil"].wait_minutes, rel=0.01
    )
    assert first["acrylic"] == first["oil"]
    assert not any("not in" in r.words for r in (*days["oil"].remarks, *days["quick oil"].remarks))
    assert any("oil or quick oil, not in acrylic" in r.sentence(()) for r in days["acrylic"].remarks)
    assert days["oil"].thinner == "medium"
    assert not any(p.goes for p in days["oil"].passes), "oil stays open for hours"
    hasty = replace(MEDIA["oil"], open_minutes=(1.0, 2.0))
    for one in plan_passes(subject, palette, oil, None, hasty).passes:
        soft = "soft" in one.edge or "lost" in one.edge
        needed = goes_needed(one.area_cm2, one.brush_mm, 2.0) if soft and not one.lines else 1
        assert bool(one.goes) == (needed > 1)
        assert not one.goes or sum(g.area_cm2 for g in one.goes) == pytest.approx(one.area_cm2, rel=0.01)
        assert one.open_minutes == (1.0, 2.0)
    assert days["quick oil"].thinner == "quick medium"


def test_canvases_change_only_under_their_pass() -> None:
    found = plan("tobias")
    for number in range(1, len(found.passes)):
        before, after = found.canvases[number - 1 : number + 1]
        mask = found.mask(number)
        np.testing.assert_array_equal(before.picture()[~mask], after.picture()[~mask])
        assert found.passes[number].lines or (before.values() != after.values())[mask].any()


@pytest.mark.parametrize("name", ["maren", "ines"])
def test_what_a_plan_says_of_its_passes_is_so_pixel_by_pixel(name: str) -> None:
    """Area, places, brush and the distance from the reference, counted on the maps themselves."""
    study = study_of(name)
    found, subject = study.passes.plan(), study.passes.subject()
    palette = study.flesh.settings.wishes().palette(study.flesh.palette())
    _, wanted = map_picture(subject.lab, palette_reach(palette))
    for number, one in enumerate(found.passes):
        mask = found.mask(number)
        if one.lines:
            # Strokes of hair that cover their place count as paint on it.
            assert not mask.any() or one.hair
            continue
        assert one.area_cm2 == pytest.approx(mask.sum() * subject.mm_per_px**2 / 100)
        assert one.room_mm == brush_for(mask, subject.mm_per_px)
        inside = subject.regions[mask]
        most = Region(int(np.bincount(inside).argmax())).name.lower().replace("_", " ")
        assert most in one.places
        away = np.abs(found.canvases[number].values() - wanted).mean()
        assert one.value_error == pytest.approx(away, abs=0.005)


def test_washes_and_missing_umbers() -> None:
    assert wash_parts(STARTERS[0].with_tubes((*STARTERS[0].tubes, "raw-umber"))) == {"raw-umber": 1}
    mixed = wash_parts(STARTERS[1])
    assert len(mixed) > 1
    assert mix({k: float(v) for k, v in mixed.items()}, STARTERS[1]).value < 3.5
    flat = np.zeros((20, 20), np.uint8)
    subject = Subject(flat, flat, flat, np.zeros((20, 20, 3), np.float32), np.zeros((20, 20), np.float32), 1)
    with pytest.raises(Refusal, match="opaque"):
        plan_passes(subject, starter("watercolour-three"), school("layered-oil"))


def test_an_empty_scene_still_gives_a_plan_and_says_what_it_left_out() -> None:
    size = (60, 60)
    white = np.dstack([np.full(size, 92), np.zeros(size), np.zeros(size)]).astype(np.float32)
    zeros = np.zeros(size, np.uint8)
    subject = Subject(zeros, zeros, zeros, white, np.full(size, 9.2, np.float32), 2)
    found = plan_passes(subject, STARTERS[0], school("layered-oil"))
    assert [p.title(("light",)) for p in found.passes] == ["Ground", "Background, light"]
    assert any("Underpainting left out" in remark.sentence(("light",)) for remark in found.remarks)


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_the_passes_keep_to_what_the_painter_asked_of_every_recipe(name: str) -> None:
    """Tubes ruled out are in no pass, black neither, and no recipe has more tubes than allowed."""
    usual = study_of(name).settings.model_dump()
    usual["flesh"].update(without=["light-red"], black=False, most_tubes=2)
    study = Study.of_bytes(truth(name).data, StudySettings.model_validate(usual))
    found = study.passes.plan().passes
    assert len(found) > 5
    for one in found:
        assert not {"light-red", "ivory-black"} & set(one.recipe.parts)
        assert len(one.recipe.parts) <= 2
    grey = {**usual, "flesh": {**usual["flesh"], "monochrome": True}}
    targets = [
        p.recipe.target_lab
        for p in Study.of_bytes(truth(name).data, StudySettings.model_validate(grey)).passes.plan().passes
        if p.key not in ("ground", "underpainting")
    ]
    assert max(abs(v) for _, a, b in targets for v in (a, b)) < 0.5


squares = st.lists(
    st.tuples(st.integers(0, 5), st.integers(0, 7), st.integers(3, 9)), min_size=1, max_size=20
)


@given(squares, st.floats(0.05, 30), st.sampled_from(WIDTHS_MM))
def test_goes_are_whole_shapes_each_softened_while_it_is_open(
    drawn: list[tuple[int, int, int]], open_minutes: float, brush: float
) -> None:
    mask = np.zeros((60, 80), bool)
    for row, column, side in drawn:
        mask[row * 10 : row * 10 + side, column * 10 : column * 10 + side] = True
    found = goes_of(mask, 2.0, brush, open_minutes)
    assert sum(g.area_cm2 for g in found) == pytest.approx(mask.sum() * 0.04)
    shapes = len({(row, column) for row, column, _ in drawn})
    assert 1 <= len(found) <= shapes
    for go in found:
        assert mask[int(go.y * 60), int(go.x * 80)]
        assert go.in_time == (goes_needed(go.area_cm2, brush, open_minutes) == 1)
        assert go.minutes == pytest.approx(laying_minutes(go.area_cm2, brush))
        assert go.in_time or go.area_cm2 <= 9 * 9 * 0.04 + 1e-9, "only a single shape is ever too large"
    if goes_needed(mask.sum() * 0.04, brush, open_minutes) == 1:
        assert len(found) == 1
    for one, after in pairwise(found):
        assert goes_needed(one.area_cm2 + after.area_cm2, brush, open_minutes) > 1 or not one.in_time
    assert goes_of(np.zeros((9, 9), bool), 1, 10, 1) == ()
