"""Every school on the demo sitters: what it lays, in what order, and how near it comes (common practice)."""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.canvas.layer import Layer, Removal
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study

NEW = ("monochrome-first", "brown-layer", "thumbnail-first", "skin-string")


@cache
def planned(name: str, school: str) -> Study:
    """A demo sitter planned in a school, in the medium that its times are for."""
    plain = study_of(name)
    chosen = plain.settings.model_dump()
    chosen["passes"] |= {"school": school, "size": "every pass"}
    chosen["flesh"]["medium"] = SCHOOLS[school].media[0]
    return Study(plain.sha256, plain.source.load, StudySettings.model_validate(chosen), plain.source.memo)


@pytest.mark.parametrize("school", NEW)
@pytest.mark.parametrize("name", ["maren", "tobias", "ines"])
def test_a_school_brings_the_canvas_to_the_sitter(name: str, school: str) -> None:
    """The canvas ends nearer to the reference than its ground, within half a step on average."""
    plan = planned(name, school).passes.plan()
    errors = [p.value_error for p in plan.passes]
    assert errors[-1] < 0.5
    assert errors[-1] < 0.5 * errors[0]
    assert len({p.key for p in plan.passes}) == len(plan.passes)
    assert all(p.note and p.edge and p.tool for p in plan.passes)
    minutes = sum(p.work_minutes for p in plan.passes) / 60
    assert 3 < minutes < 40


@pytest.mark.parametrize("school", NEW)
def test_nothing_is_laid_over_what_has_not_dried(school: str) -> None:
    plan = planned("maren", school).passes.plan()
    for number, current in enumerate(plan.passes):
        if current.into_wet:
            continue
        for before in plan.passes[:number]:
            if before.into_wet or not (before.pieces & current.pieces).any():
                continue
            assert current.start_minutes >= before.start_minutes + before.work_minutes - 1e-6


def test_monochrome_is_grey_until_it_is_glazed() -> None:
    study = planned("maren", "monochrome-first")
    plan = study.passes.plan()
    templates = {t.key: t.kind for t in SCHOOLS["monochrome-first"].passes}
    glazed = [n for n, p in enumerate(plan.passes) if templates.get(p.key) == "glaze"]
    assert glazed, "this palette can glaze"
    grey = plan.canvases[glazed[0] - 1].labs()
    covered = np.any([p.pieces for p in plan.passes[: glazed[0]] if p.key.startswith("flesh")], axis=0)
    assert np.hypot(grey[covered, 1], grey[covered, 2]).max() < 9, "greys, as near as the tubes make them"
    done = plan.canvases[-1].labs()
    assert (
        np.hypot(done[covered, 1], done[covered, 2]).mean()
        > 1.5 * np.hypot(grey[covered, 1], grey[covered, 2]).mean()
    )
    assert {t.kind for t in SCHOOLS["monochrome-first"].passes} >= {"grey", "glaze"}


def test_strands_are_scratched_out_of_wet_hair_and_show_what_lies_below() -> None:
    plan = planned("maren", "brown-layer").passes.plan()
    scratched = [n for n, p in enumerate(plan.passes) if p.key.startswith("light-hairs")]
    assert scratched
    for n in scratched:
        current = plan.passes[n]
        assert current.into_wet
        assert all(isinstance(operation, Removal) and operation.lines for operation in current.operations)
        assert current.recipe.parts == {}
        assert all(
            line.widths_mm.max() <= 0.8 + 1e-9 for operation in current.operations for line in operation.lines
        )
    painted = planned("maren", "brown-layer").passes.painted()
    before, after = painted.picture(scratched[0]), painted.picture(scratched[-1] + 1)
    assert (before != after).any()
    assert "scratch" in {t.kind for t in SCHOOLS["brown-layer"].passes}


def test_scratching_is_refused_where_everything_is_dry() -> None:
    from truesitter.core.school.school_document import PassTemplate

    study = planned("maren", "brown-layer")
    school = SCHOOLS["brown-layer"]

    from truesitter.core.plan.planner import plan_passes

    def dry(template: PassTemplate) -> PassTemplate:
        return template.model_copy(update={"into_wet": False})

    late = school.model_copy(update={"passes": tuple(dry(t) for t in school.passes)})
    plan = plan_passes(study.passes.subject(), study.flesh.palette(), late)
    assert any("while the paint is wet" in r.words for r in plan.remarks)


def test_the_brown_ground_stays_where_it_was_left_open() -> None:
    plan = planned("tobias", "brown-layer").passes.plan()
    first = next(p for p in plan.passes if p.key == "ground")
    lab = first.recipe.predicted.lab
    assert lab[1] > 6
    assert lab[2] > 15, "ochre and burnt sienna"


def test_the_thumbnail_lays_base_then_shadow_then_smaller_shapes() -> None:
    keys = [p.key for p in planned("maren", "thumbnail-first").passes.plan().passes]
    order = [keys.index(k) for k in ("ground", "flesh-base", "flesh-shadow", "flesh-1")]
    assert order == sorted(order)


def test_the_string_blocks_hair_in_before_the_flesh() -> None:
    plan = planned("maren", "skin-string").passes.plan()
    keys = [p.key for p in plan.passes]
    early, flesh = keys.index("hair-early-1"), next(n for n, k in enumerate(keys) if k.startswith("flesh"))
    again = next(n for n, k in enumerate(keys) if k.startswith("hair-") and not k.startswith("hair-early"))
    assert early < flesh < again
    regions = plan.canvases[0].patchwork.at(planned("maren", "skin-string").passes.subject().regions)
    assert (regions[plan.passes[early].pieces] == Region.HAIR).all()


def test_locks_cover_their_place_and_a_few_single_hairs_hardly_do() -> None:
    """As much of the layer is reckoned with as its strokes cover."""
    plan = planned("maren", "layered-oil").passes.plan()
    sizes = plan.bare.patchwork.sizes

    def covered(name: str) -> list[float]:
        found = []
        for one in (p for p in plan.passes if p.name == name):
            covers = [o.cover for o in one.operations if isinstance(o, Layer) and o.cover is not None]
            bare = np.prod([1 - cover[one.pieces] for cover in covers], axis=0)
            found.append(float(np.average(1 - bare, weights=sizes[one.pieces])))
        return found

    assert min(covered("Hair, locks")) > 0.6
    assert 0 < max(covered("Hair, light hairs")) < 0.35
