"""What holds for every school, on several sitters, with several sets of tubes."""

from __future__ import annotations

from functools import cache
from itertools import pairwise

import numpy as np
import pytest

from tests.conftest import jpeg, study_of, truth
from tests.restaged import restaged
from truesitter.core.canvas.layer import Layer, Removal
from truesitter.core.graph.memo import Memo
from truesitter.core.plan.kinds.tuning import PAST
from truesitter.core.plan.pass_places import split
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.school_document import Band
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study

TUBES = {
    "earths": ("titanium-white", "yellow-ochre", "light-red", "ivory-black"),
    "six": (
        "titanium-white", "yellow-ochre", "arylide-yellow", "pyrrole-red", "perm-crimson", "ultramarine-blue",
        "phthalo-blue",
    ),
    "five": ("titanium-white", "yellow-ochre", "perm-crimson", "ultramarine-blue", "burnt-umber"),
}  # fmt: skip
WHO = ("maren", "selda", "ines")
EVERY = [(who, school, tubes) for school in SCHOOLS for who, tubes in zip(WHO, TUBES, strict=True)]


@cache
def study(who: str, school: str, tubes: str) -> Study:
    plain = study_of(who)
    chosen = plain.settings.model_dump()
    chosen["passes"] |= {"school": school, "size": "every pass"}
    chosen["flesh"].update(medium=SCHOOLS[school].media[0], tubes=TUBES[tubes])
    return Study(plain.sha256, plain.source.load, StudySettings.model_validate(chosen), plain.source.memo)


def plan_of(who: str, school: str, tubes: str) -> PassPlan:
    return study(who, school, tubes).passes.plan()


@pytest.mark.parametrize(("who", "school", "tubes"), EVERY)
def test_nothing_goes_over_what_is_still_wet(who: str, school: str, tubes: str) -> None:
    passes = plan_of(who, school, tubes).passes
    for number, one in enumerate(passes):
        for below in one.over:
            under = passes[below]
            assert below < number
            assert one.start_minutes >= under.start_minutes + under.work_minutes + under.dries_minutes - 1e-6
        if not one.into_wet and not one.lines:
            touching = {n for n in range(number) if (passes[n].pieces & one.pieces).any()}
            assert touching <= set(one.over)
    fats = [p.fat for p in passes]
    assert fats == sorted(fats) or not SCHOOLS[school].medium.oily


@pytest.mark.parametrize(("who", "school", "tubes"), EVERY)
def test_transparent_layers_never_lighten_white(who: str, school: str, tubes: str) -> None:
    """Only opaque touches and what is taken off may lighten a school that keeps its white."""
    if not SCHOOLS[school].transparent:
        pytest.skip("it lays its white")
    plan = plan_of(who, school, tubes)
    before = plan.canvases[0].bare(plan.canvases[0].patchwork, plan.support, plan.canvases[0].rack)
    for one, after in zip(plan.passes, plan.canvases, strict=True):
        if one.does in ("wash", "coat") and not one.lines:
            assert (after.piece_values() <= before.piece_values() + 0.05).all(), one.key
        before = after


@pytest.mark.parametrize(("who", "school", "tubes"), EVERY)
def test_every_pass_stays_inside_its_place(who: str, school: str, tubes: str) -> None:
    one = study(who, school, tubes)
    plan, subject = one.passes.plan(), one.passes.subject()
    regions = plan.canvases[0].patchwork.at(subject.regions)
    templates = {p.key: p for t in SCHOOLS[school].passes for p in split(t, subject)}
    for painted in plan.passes:
        if painted.lines:
            continue
        allowed = templates[painted.key].template.regions
        assert set(regions[painted.pieces].tolist()) <= {int(r) for r in allowed}
        assert not (plan.canvases[0].patchwork.mask(painted.pieces) & ~templates[painted.key].mask).any()


@pytest.mark.parametrize(("who", "school", "tubes"), EVERY)
def test_only_what_is_there_and_lets_go_is_taken_off(who: str, school: str, tubes: str) -> None:
    plan = plan_of(who, school, tubes)
    for number, one in enumerate(plan.passes):
        for operation in one.operations:
            if isinstance(operation, Removal):
                assert one.does == "remove"
                assert one.recipe.parts == {}
                if operation.dry:
                    assert plan.support.lightens == "by degrees"
                if not operation.lines:
                    before = plan.canvases[number - 1].piece_values()
                    after = plan.canvases[number].piece_values()
                    assert (after[operation.pieces] >= before[operation.pieces] - 1e-6).all()
            else:
                assert one.recipe.parts or one.does == "ground", "white priming is bought"


@pytest.mark.parametrize(("who", "school", "tubes"), EVERY)
def test_washes_of_one_place_are_nested_and_run_from_light_to_dark(who: str, school: str, tubes: str) -> None:
    if not SCHOOLS[school].transparent:
        pytest.skip("it has no washes")
    plan = plan_of(who, school, tubes)
    chains: dict[str, list[int]] = {}
    for number, one in enumerate(plan.passes):
        root, _, step = one.key.rpartition("-")
        pieces = any(t.key == root and t.band is Band.PIECES for t in SCHOOLS[school].passes)
        if step.isdigit() and one.does in ("wash", "coat") and not one.lines and not pieces:
            chains.setdefault(root, []).append(number)
    assert chains
    for numbers in chains.values():
        for wide, narrow in pairwise(numbers):
            # A wash is kept off what is darker already than it would make it.
            left_out = plan.passes[narrow].pieces & ~plan.passes[wide].pieces
            before = plan.canvases[wide - 1].piece_values() if wide else np.full(len(left_out), 10.0)
            assert (before[left_out] <= plan.passes[wide].recipe.predicted.value + 0.6).all()
            assert plan.passes[wide].target_value > plan.passes[narrow].target_value - 1e-6


LEAST = {"monochrome-first": 0.35, "tempera": 0.55, "airbrush": 0.31}
"""Bars that are not 0.30: glazes cost a grisaille value, icons leave shadows to the flesh ground, and heaps
that are laid film on film come to an end before the darkest wall."""


@pytest.mark.parametrize(("who", "school", "tubes"), EVERY)
def test_the_canvas_ends_near_the_reference(who: str, school: str, tubes: str) -> None:
    """Mean value error against the reference in the palette's reach: 0.30 step and less."""
    error = plan_of(who, school, tubes).passes[-1].value_error
    assert error <= LEAST.get(school, 0.30)


@pytest.mark.parametrize("school", list(SCHOOLS))
def test_equal_inputs_give_equal_plans(school: str) -> None:
    one = study("selda", school, "earths")
    settings = one.settings.flesh
    again = plan_passes(
        one.passes.subject(), one.flesh.palette(), SCHOOLS[school], settings.wishes(), settings.medium_used()
    )
    plan = one.passes.plan()
    assert [p.key for p in again.passes] == [p.key for p in plan.passes]
    assert [p.recipe.parts for p in again.passes] == [p.recipe.parts for p in plan.passes]
    np.testing.assert_allclose(again.canvases[-1].piece_values(), plan.canvases[-1].piece_values(), atol=1e-6)


def test_sprayed_coats_are_whole_and_the_dark_one_is_deep_when_heavy() -> None:
    """Common practice: the darker of the two is nearly black when heavy, below value 2.5."""
    plan = plan_of("maren", "airbrush", "earths")
    coats = [p for p in plan.passes if p.does == "coat"]
    assert all(1 <= p.coats <= 24 for p in coats)
    for one in coats:
        (layer,) = (d for d in one.operations if isinstance(d, Layer))
        dry = plan.medium.thinning.dry(one.thinned[0].dilution)
        assert layer.film_mm == pytest.approx(one.coats * dry)
    for who, tubes in zip(WHO, TUBES, strict=True):
        for one in plan_of(who, "airbrush", tubes).passes:
            # Mixed from heaps a coat may be a touch farther.
            assert one.does != "coat" or one.recipe.value_error >= -PAST - 0.02, "never past its value"
    parts = {p.key.rsplit("-", 1)[0]: p.recipe.parts for p in coats}
    assert len({str(v) for k, v in parts.items() if k.startswith("flesh")}) == 2, "two mixtures"
    assert min(p.recipe.predicted.value for p in coats) < 2.5


def test_nothing_finer_is_sprayed_than_a_hand_can() -> None:
    one = study("maren", "airbrush", "earths")
    plan, mm = one.passes.plan(), one.passes.subject().mm_per_px
    import cv2

    disc = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (2 * round(0.3 / mm) + 1,) * 2)
    for number, painted in enumerate(plan.passes):
        first = painted.key.endswith("-1")
        if painted.does == "coat" and not first:
            mask = plan.mask(number).astype(np.uint8)
            opened = cv2.morphologyEx(mask, cv2.MORPH_OPEN, disc)
            assert mask.sum() - opened.sum() <= 0.02 * mask.sum(), painted.key


def test_recesses_take_two_coats_the_second_inside_the_first() -> None:
    """Common practice: a strong flesh colour, then a dark on at most half of it."""
    for school in ("watercolour-zones", "watercolour-recesses"):
        plan = plan_of("maren", school, "earths")
        keys = [p.key for p in plan.passes]
        first, dark = plan.passes[keys.index("recess")], plan.passes[keys.index("recess-dark")]
        assert keys.index("recess") < keys.index("recess-dark")
        assert (first.pieces >= dark.pieces).all()
        assert dark.area_cm2 <= 0.55 * first.area_cm2
        assert dark.recipe.predicted.value < first.recipe.predicted.value
    early = plan_of("maren", "watercolour-recesses", "earths").passes
    assert [p.key for p in early[:2]] == ["recess", "recess-dark"], "hollows first"


def test_a_wash_too_strong_to_flow_is_laid_in_several() -> None:
    """Exact recipes do not mind how many washes they take; easy ones look for another mixture."""
    plain = study("selda", "watercolour-zones", "six")
    chosen = plain.settings.model_dump()
    chosen["flesh"]["recipes"] = "exact"
    exact = StudySettings.model_validate(chosen)
    plan = Study(plain.sha256, plain.source.load, exact, plain.source.memo).passes.plan()
    several = [p for p in plan.passes if p.does == "wash" and p.coats > 1]
    assert several
    assert all("lay it in" in p.note for p in several)
    assert all(p.thinned[0].dilution.ratio >= 2 - 1e-9 for p in plan.passes if p.does == "wash" and p.thinned)


def test_last_lights_over_washes_are_few_and_opaque() -> None:
    plan = plan_of("maren", "watercolour-zones", "earths")
    last = plan.passes[-1]
    assert last.does == "light"
    assert "titanium-white" in last.recipe.parts
    assert last.area_cm2 < 0.03 * sum(plan.canvases[0].patchwork.sizes) * 0.4**2 / 100
    regions = plan.canvases[0].patchwork.at(
        study("maren", "watercolour-zones", "earths").passes.subject().regions
    )
    assert Region.BACKGROUND not in set(regions[last.pieces].tolist())


def mirrored_grey(name: str) -> np.ndarray:
    import cv2

    photo = cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_GRAYSCALE)
    return np.repeat(photo[:, ::-1, None], 3, axis=2)


@pytest.mark.parametrize("school", ["layered-oil", "watercolour-zones", "airbrush"])
@pytest.mark.parametrize("where", ["mirrored and grey", "room 902"])
def test_a_sitter_in_a_mirror_without_colour_or_in_another_room_is_planned(where: str, school: str) -> None:
    """Nothing was chosen on these; the mirrored beard once put a seed of a line outside the picture."""
    picture = mirrored_grey("tobias") if where == "mirrored and grey" else restaged("tobias", 902)[0]
    settings = {
        "reference": {"canvas_width_mm": 320, "canvas_height_mm": 400},
        "passes": {"school": school, "backdrop": "counter"},
    }
    one = Study.of_bytes(jpeg(np.ascontiguousarray(picture)), StudySettings.model_validate(settings), _MEMO)
    plan = one.passes.plan()
    assert len(plan.passes) > 15
    assert plan.passes[-1].value_error <= 0.35
    assert 8 <= plan.hours.likely <= 25
    stretches = one.surround.surround().background.stretches
    found = sum(s.length_mm for s in stretches if s.kind == "found")
    assert found > 0.75 * sum(s.length_mm for s in stretches)


_MEMO = Memo()
