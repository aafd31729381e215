"""Stages and plan never answer differently: a walk over both, sitter by sitter, in one school after another.

What Values, Flesh, Light, Hair and the rack say is read from them; what the plan does with it, from the
plan of every pass, whose numbers documents and prints carry on.
"""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.plan.pass_plan import Pass, PassPlan
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.core.types import Mask
from truesitter.formats.documents.plan import plan_of
from truesitter.formats.documents.plan_hair import layers_of

SITTERS = ("maren", "selda", "orsolya")


@cache
def planned(name: str, school: str, size: str = "every pass") -> tuple[Study, PassPlan]:
    base = study_of(name)
    chosen = base.settings.model_dump()
    chosen["passes"] |= {"school": school, "size": size}
    if school.startswith("watercolour"):
        chosen["flesh"]["medium"] = "watercolour"
    study = Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)
    return study, study.passes.plan()


def where(plan: PassPlan, one: Pass) -> Mask:
    """(h, w) where a pass lies."""
    return one.pieces[plan.bare.patchwork.labels]


def share(of: Mask, inside: Mask) -> float:
    return float((of & inside).sum() / max(1, of.sum()))


@pytest.mark.parametrize("name", SITTERS)
def test_a_pass_of_a_value_group_lies_in_that_group_and_nowhere_else(name: str) -> None:
    study, plan = planned(name, "layered-oil")
    groups = study.values.plan().labels
    regions = study.sitter.regions().labels
    told = 0
    for one in plan.passes:
        if one.group is None:
            continue
        here = where(plan, one)
        own = cv2.resize(here.astype(np.uint8), groups.shape[::-1], interpolation=cv2.INTER_NEAREST) > 0
        # Groups are found anew for the wall that is painted behind the sitter; the sitter keeps hers.
        own &= regions != Region.BACKGROUND
        if own.sum() > 2000:
            assert share(own, groups == one.group) > 0.93, one.key
            told += 1
    assert told >= 4


@pytest.mark.parametrize("size", ["every pass", "portrait"])
@pytest.mark.parametrize("name", SITTERS)
def test_what_a_pass_is_mixed_of_makes_the_colour_that_is_told(name: str, size: str) -> None:
    """By the mixing of Flesh, from the tubes; heaps reckoned out come to the same parts."""
    study, plan = planned(name, "layered-oil", size)
    palette = study.flesh.palette()
    heaps = {f"@{h.key}": h.parts for h in plan.heaps}
    for one in plan.passes:
        if not one.recipe.parts:
            continue
        assert set(one.taken_from) <= set(palette.tubes)
        # A film lets through what lies under it: its colour is no mixture's.
        told = (
            None
            if one.thinned or one.hair
            else mix({k: float(v) for k, v in one.taken_from.items()}, palette)
        )
        assert told is None or told.value == pytest.approx(one.recipe.predicted.value, abs=0.02)
        # A part of a heap is a part of what the heap is made of.
        spread: dict[str, float] = {}
        for key, parts in one.mix.items():
            inner = heaps.get(key, {key: 1})
            for tube, part in inner.items():
                spread[tube] = spread.get(tube, 0) + parts * part / sum(inner.values())
        if one.mix:
            whole, total = sum(spread.values()), sum(one.taken_from.values())
            for tube, part in one.taken_from.items():
                assert part / total == pytest.approx(spread.get(tube, 0) / whole, abs=0.02), one.key


@pytest.mark.parametrize(
    ("school", "kind"),
    [("tempera", "zones"), ("watercolour-recesses", "recess"), ("layered-oil", "last-lights")],
)
@pytest.mark.parametrize("name", SITTERS)
def test_zones_recesses_and_last_lights_lie_where_light_says(name: str, school: str, kind: str) -> None:
    study, plan = planned(name, school)
    shape = plan.bare.patchwork.labels.shape
    recesses = study.light.recesses()
    known = {
        "zones": study.light.zones().zones > 0,
        "recess": (recesses.first > 0) | recesses.dark,
        "last-lights": study.light.shine().strength() > 0,
    }[kind]
    said = cv2.resize(known.astype(np.uint8), shape[::-1], interpolation=cv2.INTER_NEAREST) > 0
    passes = [p for p in plan.passes if p.key.startswith(kind) and p.pieces.any()]
    assert passes
    for one in passes:
        assert share(where(plan, one), said) > 0.85, one.key
    if kind == "recess":
        first, dark = (where(plan, p) for p in passes)
        small = recesses.dark.astype(np.uint8)
        assert share(dark, cv2.resize(small, shape[::-1], interpolation=cv2.INTER_NEAREST) > 0) > 0.85
        assert first.sum() > dark.sum()


@pytest.mark.parametrize("name", SITTERS)
def test_no_light_of_the_plan_is_above_its_ceiling(name: str) -> None:
    study, plan = planned(name, "layered-oil")
    highest = max(c.ceiling for c in study.accents.ceilings())
    (last,) = (p for p in plan.passes if p.key == "last-lights")
    assert last.target_value <= max(highest, last.recipe.predicted.value) + 0.05
    assert last.recipe.predicted.value <= highest + 0.5


@pytest.mark.parametrize("school", list(SCHOOLS))
def test_the_hair_of_every_school_is_the_layers_of_the_hair(school: str) -> None:
    """Strokes, tones and ids: what Hair shows is the plan's passes, what these lay is the hair's layers."""
    study, plan = planned("orsolya", school)
    layers = study.hair_layers.layers()
    told = layers_of(study)
    assert [one.id for one in told] == [p.layer for p in plan.passes if p.layer]
    assert len(told) >= 4
    for one in told:
        laid = plan.passes[one.number - 1]
        assert laid.hair is not None
        hair = laid.hair
        (layer,) = (n for n in layers if n.role == hair.role and np.array_equal(n.mask, hair.mask))
        assert one.strokes == len(laid.lines)
        assert one.parts == laid.recipe.parts
        assert one.minutes == pytest.approx(laid.work_minutes)
        if laid.lines and laid.does != "remove":
            assert len(laid.lines) == len(layer.lines)
            np.testing.assert_array_equal(laid.lines[0].points, layer.lines[0].points)
            assert laid.film <= min(float(line.widths_mm.max()) for line in laid.lines), "a line is no ridge"


@pytest.mark.parametrize("name", SITTERS)
def test_the_document_says_what_the_plan_says(name: str) -> None:
    study, plan = planned(name, "layered-oil", "portrait")
    told = plan_of(study, {})
    assert [p.key for p in told.passes] == list(plan.keys)
    assert [h.parts for h in told.heaps] == [h.parts for h in plan.heaps]
    for one, said in zip(plan.passes, told.passes, strict=True):
        assert said.parts == one.recipe.parts
        assert said.wait_minutes == pytest.approx(one.wait_minutes)
        assert said.value == pytest.approx(one.target_value, abs=0.01)
    owned = {b.brush() for b in study.settings.passes.brushes}
    assert not owned or {p.brush for p in plan.passes if p.brush} <= owned
