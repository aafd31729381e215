"""Sizes of a plan: fewer passes, less time, hardly farther from the sitter, and the likeness kept."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from itertools import pairwise

import numpy as np
import pytest

from tests.conftest import study_of
from tests.core.plan.test_pass_places import HEIGHT, WIDTH, subject, template
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.recipes.reach import map_picture, palette_reach
from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.plan.pass_plan import Gain, PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.plan.size import JOINED, with_fewer_washes
from truesitter.core.plan.subject import SIZES, Ground, Size
from truesitter.core.plan.tuning import PASSES_OF_SIZE, WASHES_OF_SIZE
from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.school_document import Band, PassTemplate, School
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.formats.words.pass_words import purpose_words

EVERY: Size = "every pass"


@cache
def planned(name: str, school: str) -> dict[Size, PassPlan]:
    base = study_of(name)
    chosen = base.settings.model_dump()
    chosen["passes"]["school"] = school
    study = Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)
    return study.passes.sizes()


@pytest.mark.parametrize("size", ["study", "sketch"])
def test_the_plan_in_every_size_is_the_plan_of_that_size(size: Size) -> None:
    """Its hair has the layers of the size too."""
    base = study_of("tobias")
    chosen = base.settings.model_dump()
    chosen["passes"] |= {"school": "watercolour-zones", "size": size}
    study = Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)
    of_size, told = study.passes.plan(), planned("tobias", "watercolour-zones")[size]
    assert of_size.keys == told.keys
    for one, other in zip(of_size.passes, told.passes, strict=True):
        assert len(one.lines) == len(other.lines), one.key
        assert one.target_value == pytest.approx(other.target_value)


CASES = [("maren", "layered-oil"), ("maren", "direct-oil"), ("tobias", "watercolour-zones")]


@pytest.mark.parametrize(("name", "school"), CASES)
def test_a_smaller_plan_has_fewer_passes_takes_less_time_and_is_hardly_farther_off(
    name: str, school: str
) -> None:
    plans = planned(name, school)
    assert tuple(plans) == SIZES
    counts = [len(plans[size].passes) for size in SIZES]
    assert counts == sorted(counts)
    clear = SCHOOLS[school].transparent
    for size in SIZES[:-1]:
        # What is drawn and wiped in the first tone lays no colour, and comes on top.
        more = len({"construction", "wiped-lights"} & set(plans[size].keys))
        # So do washes that are dropped into others, and those that would hardly be a tint.
        washes = sum(len(set(p.keys)) - 1 for p in plans[size].passes)
        washes += sum("hardly a tint" in r.words for r in plans[size].remarks)
        assert (washes > 0) == clear
        assert len(plans[size].passes) == PASSES_OF_SIZE[size][clear] + more - washes
        assert more == (2 if school == "direct-oil" else 0)
    hours = [plans[size].hours.likely for size in SIZES]
    assert all(a < b for a, b in pairwise(hours))
    for size in SIZES:
        left_out = [r.words for r in plans[size].remarks if r.name == f"A {size}"]
        assert bool(left_out) == (size != EVERY)
    off = {size: plans[size].passes[-1].value_error for size in SIZES}
    assert off["portrait"] <= off[EVERY] + 0.04
    assert off["sketch"] <= off[EVERY] + (0.25 if school == "direct-oil" else 0.12)
    assert all(len(plan.heaps) <= len(plans[EVERY].heaps) + 1 for plan in plans.values())


@pytest.mark.parametrize(("name", "school"), CASES)
def test_what_carries_the_likeness_stays(name: str, school: str) -> None:
    plans = planned(name, school)
    for size, plan in plans.items():
        keys = plan.keys
        assert any(k.startswith("eyes") for k in keys)
        assert any(k.startswith("lips") for k in keys)
        if school == "layered-oil":
            assert keys[:2] == ("ground", "underpainting")
        assert not plan.passes[0].into_wet
        assert (JOINED in keys) == (size == "portrait" or (size != EVERY and JOINED in keys))
        for one, after in zip(plan.passes, plan.canvases, strict=True):
            assert all(over < plan.passes.index(one) for over in one.over)
            assert after.patchwork is plan.bare.patchwork
    drawn = [line for p in plans[EVERY].passes if p.does == "lines" for line in p.lines]
    left = [p for p in plans["portrait"].passes if p.does == "lines"]
    assert sum(len(p.lines) for p in left) == len(drawn)
    assert JOINED in {p.key for p in left}
    assert len(left) < 4
    assert "last-lights" in plans["portrait"].keys


def test_what_is_left_out_first_is_what_loses_least() -> None:
    """Three tones of skin on a ground of the middle one: the middle pass brings nothing."""
    ground = Ground((50.0, 0.0, 0.0), np.zeros((HEIGHT, WIDTH), bool))
    passes = (
        template(
            Band.EVERYTHING, key="ground", name="Ground", kind="ground", regions=[int(r) for r in Region]
        ),
        template(Band.EACH_GROUP, key="skin", name="Skin"),
        template(Band.EVERYTHING, key="hair", name="Hair", regions=[int(Region.HAIR)]),
    )
    school: School = SCHOOLS["direct-oil"].model_copy(update={"passes": passes})
    whole = plan_passes(subject(ground=ground), STARTERS[0], school)
    assert whole.keys == ("ground", "skin-1", "skin-2", "skin-3", "hair")
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("truesitter.core.plan.finishing.PASSES_OF_SIZE", {"sketch": (4, 4)})
        fewer = plan_passes(subject(size="sketch", ground=ground), STARTERS[0], school)
        assert fewer.keys == ("ground", "skin-1", "skin-3", "hair")
        patch.setattr("truesitter.core.plan.finishing.PASSES_OF_SIZE", {"sketch": (1, 1)})
        assert plan_passes(subject(size="sketch", ground=ground), STARTERS[0], school).keys == ("ground",)
    np.testing.assert_allclose(fewer.finished.labs(), whole.finished.labs(), atol=3)


def test_a_pass_may_go_before_one_that_goes_into_wet_but_not_before_one_that_takes_it_off() -> None:
    """Only wiping needs the paint it wipes; the next tone, though it goes into wet paint, does not."""
    ground = Ground((50.0, 0.0, 0.0), np.zeros((HEIGHT, WIDTH), bool))
    tone = template(Band.EVERYTHING, key="tone", name="Tone")

    def kept(*passes: PassTemplate) -> tuple[str, ...]:
        school: School = SCHOOLS["direct-oil"].model_copy(update={"passes": passes})
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr("truesitter.core.plan.finishing.PASSES_OF_SIZE", {"portrait": (1, 1)})
            return plan_passes(subject(size="portrait", ground=ground), STARTERS[0], school).keys

    over = template(Band.EVERYTHING, key="over", name="Over", into_wet=True, stays=True)
    assert kept(tone, over) == ("over",)
    assert kept(tone, over.model_copy(update={"key": "wiped", "kind": "wipe"})) == ("tone", "wiped")


def test_of_two_passes_that_do_the_same_one_stays() -> None:
    """Each is needless beside the other; once one is gone the other is not."""
    ground = Ground((50.0, 0.0, 0.0), np.zeros((HEIGHT, WIDTH), bool))
    everywhere = [int(r) for r in Region]
    passes = (
        template(Band.EVERYTHING, key="ground", name="Ground", kind="ground", regions=everywhere),
        template(Band.EVERYTHING, key="first", name="First", regions=[int(Region.HAIR)]),
        template(Band.EVERYTHING, key="second", name="Second", regions=[int(Region.HAIR)]),
        template(Band.EACH_GROUP, key="skin", name="Skin"),
    )
    school: School = SCHOOLS["direct-oil"].model_copy(update={"passes": passes})
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr("truesitter.core.plan.finishing.PASSES_OF_SIZE", {"sketch": (4, 4)})
        fewer = plan_passes(subject(size="sketch", ground=ground), STARTERS[0], school)
    assert len(fewer.keys) == 4
    assert len({"first", "second"} & set(fewer.keys)) == 1
    assert {"skin-1", "skin-3"} < set(fewer.keys)


@pytest.mark.parametrize("size", SIZES)
@pytest.mark.parametrize("key", sorted(SCHOOLS))
def test_washes_follow_on_one_another_in_every_size(key: str, size: Size) -> None:
    before, after = SCHOOLS[key], with_fewer_washes(SCHOOLS[key], size)
    assert [p.key for p in after.passes] == [p.key for p in before.passes]
    for old, new in zip(before.passes, after.passes, strict=True):
        if old.band not in (Band.WASHES, Band.PIECES) or size == EVERY:
            assert new == old
            continue
        most = next(n for places, n in WASHES_OF_SIZE[size].items() if set(old.regions) & set(places))
        assert new.steps == min(old.steps, most)
        if old.band is Band.PIECES:
            continue
        assert 1 <= new.from_step <= new.to_step <= new.steps
        assert (new.from_step == 1) >= (old.from_step == 1)
        assert (new.to_step == new.steps) >= (old.to_step == old.steps)
    for region in (Region.SKIN, Region.HAIR, Region.GARMENT):
        steps = [set[int](), set[int]()]
        for found, school in zip(steps, (before, after), strict=True):
            for one in school.passes:
                if one.band is Band.WASHES and region in one.regions:
                    found |= set(range(one.from_step, one.to_step + 1))
        assert not steps[0] or steps[1] == set(range(1, max(steps[1]) + 1))


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_what_a_pass_is_for_is_what_the_canvas_lacks_without_it(name: str) -> None:
    """Against the whole canvas painted anew without it, piece by piece."""
    study = study_of(name)
    plan, subject = study.passes.plan(), study.passes.subject()
    work = plan.bare.patchwork
    reach = palette_reach(study.flesh.palette())
    mapped, _ = map_picture(subject.lab, reach, subject.clip)
    wanted = work.sums(mapped) / work.sizes[:, None]

    def finished(without: int | None) -> np.ndarray:
        canvas = plan.bare
        for number, one in enumerate(plan.passes):
            canvas = canvas if one.into_wet else canvas.dried()
            for operation in () if number == without else one.operations:
                canvas = canvas.do(operation)
        return canvas.labs()

    whole = finished(None)
    for number, one in enumerate(plan.passes):
        assert one.gain is not None
        if not one.pieces.any():
            assert (one.gain.steps, one.gain.colour) == (0, 0)
            continue
        if number % 4:
            continue
        off = [
            np.average(np.abs(lab_value(lab) - lab_value(wanted))[one.pieces], weights=work.sizes[one.pieces])
            for lab in (finished(number), whole)
        ]
        assert one.gain.steps == pytest.approx(off[0] - off[1], abs=1e-6)


def test_a_purpose_is_told_in_a_sentence() -> None:
    plan = study_of("maren").passes.plan()
    by_key = {p.key: (p, purpose_words(p, True)) for p in plan.passes}
    flesh = max((p for p in plan.passes if p.key.startswith("flesh")), key=lambda p: p.gain.steps)  # type: ignore[union-attr]
    assert f"{flesh.gain.steps:.1f} value steps" in by_key[flesh.key][1]  # type: ignore[union-attr]
    assert "carries what is laid over it" in by_key["ground"][1]
    assert "leave out" in purpose_words(by_key["ground"][0], False)
    assert "likeness" in by_key["lines"][1]
    farther = replace(flesh, gain=Gain(-0.5, 4.2))
    said = "Without it its place would end 4 ΔE in colour farther from the sitter."
    assert purpose_words(farther, True) == said
