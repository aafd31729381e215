"""Switches turn a school into a near relation: they move passes and never change how one is laid."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_schools import planned
from truesitter.core.design.shadow_family import TURNS, ShadowFamily, turned
from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.school_document import Band, School
from truesitter.core.school.switches import Switches, adapted
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study

CHOICES = st.builds(
    Switches,
    st.sampled_from([None, "first", "between", "last", "first tone, then last"]),
    st.sampled_from([None, "early", "late"]),
    st.sampled_from([None, "early", "last"]),
    st.sampled_from([None, "details last", "by section"]),
    st.sampled_from([None, "at once", "within open time", "smeared at the end"]),
)


def at(school: School, region: Region) -> list[int]:
    return [n for n, p in enumerate(school.passes) if p.regions == (region,) and p.band is not Band.LINES]


@settings(max_examples=150, deadline=None)
@given(st.sampled_from(sorted(SCHOOLS)), CHOICES)
def test_no_pass_is_lost_and_fat_stays_over_lean(key: str, switches: Switches) -> None:
    before, after = SCHOOLS[key], adapted(SCHOOLS[key], switches)
    added = {p.key for p in after.passes} - {p.key for p in before.passes}
    assert added <= {"background-tone", "smear"}
    assert ("smear" in added) == (switches.softening == "smeared at the end")
    assert {p.key for p in before.passes} <= {p.key for p in after.passes}
    School.model_validate(after.model_dump())
    kinds = {p.key: (p.kind, p.film_mm, p.band, p.regions) for p in before.passes}
    assert all(kinds[p.key] == (p.kind, p.film_mm, p.band, p.regions) for p in after.passes if p.key in kinds)
    if before.passes[0].kind == "ground":
        assert after.passes[0].key == before.passes[0].key


def test_nothing_switched_is_the_school_itself() -> None:
    for school in SCHOOLS.values():
        assert adapted(school, Switches()).passes == school.passes


@pytest.mark.parametrize("key", ["layered-oil", "thumbnail-first", "watercolour-zones"])
def test_the_background_comes_first_between_or_last(key: str) -> None:
    school = SCHOOLS[key]
    first = adapted(school, Switches(background="first"))
    last = adapted(school, Switches(background="last"))
    both = adapted(school, Switches(background="first tone, then last"))
    flesh = at(first, Region.SKIN)
    assert max(at(first, Region.BACKGROUND)) < min(flesh)
    assert min(at(last, Region.BACKGROUND)) > max(at(last, Region.SKIN))
    between = adapted(school, Switches(background="between"))
    assert min(at(between, Region.SKIN)) < min(at(between, Region.BACKGROUND)) < len(between.passes) - 1
    wall = at(both, Region.BACKGROUND)
    assert both.passes[wall[0]].key == "background-tone"
    assert wall[0] < min(at(both, Region.SKIN))
    assert wall[-1] == len(both.passes) - 1


def test_hair_early_and_lights_early() -> None:
    school = adapted(SCHOOLS["layered-oil"], Switches(hair="early", lights="early"))
    keys = [p.key for p in school.passes]
    assert keys.index("hair") < keys.index("flesh")
    assert keys.index("last-lights") < len(keys) - 1
    late = [p.key for p in adapted(SCHOOLS["layered-oil"], Switches(lights="last")).passes]
    assert late[-1] == "last-lights"


def test_by_section_finishes_one_part_before_the_next() -> None:
    school = adapted(SCHOOLS["layered-oil"], Switches(order="by section"))
    keys = [p.key for p in school.passes]
    assert keys.index("garment") < keys.index("flesh") < keys.index("lid-creases") < keys.index("hair")


@pytest.mark.parametrize("key", ["layered-oil", "airbrush", "watercolour-zones", "skin-string"])
def test_details_last_come_after_every_mass_and_before_the_last_lights(key: str) -> None:
    """Common practice: one of two ways; the other finishes section by section."""
    passes = adapted(SCHOOLS[key], Switches(order="details last")).passes
    details = [n for n, p in enumerate(passes) if p.band is Band.LINES or p.regions == (Region.LIPS,)]
    masses = [n for n, p in enumerate(passes) if p.band is not Band.LINES and Region.BACKGROUND in p.regions]
    lights = [n for n, p in enumerate(passes) if p.band in (Band.PEAKS, Band.HIGHLIGHTS)]
    assert max(masses) < min(details)
    assert not lights or min(lights) > max(details)


def test_soft_borders_say_when_they_are_softened() -> None:
    for how, word in (("at once", "as you lay it"), ("smeared at the end", "they are smeared")):
        school = adapted(SCHOOLS["direct-oil"], Switches(softening=how))  # type: ignore[arg-type]
        flesh = next(p for p in school.passes if p.key == "flesh")
        assert word in flesh.note
        crisp = next(p for p in school.passes if p.edge == "firm")
        assert word not in crisp.note


@pytest.mark.parametrize("family", list(TURNS))
def test_a_shadow_family_turns_the_shadow_and_keeps_its_value(family: ShadowFamily) -> None:
    lab = np.full((80, 80, 3), (40.0, 15.0, 18.0), np.float32)
    shadow = np.zeros((80, 80), bool)
    shadow[:, :40] = True
    made = turned(lab, shadow, family, 1.0)
    np.testing.assert_array_equal(made[..., 0], lab[..., 0])
    np.testing.assert_array_equal(made[:, 40:], lab[:, 40:])
    np.testing.assert_allclose(made[40, 10, 1:] - lab[40, 10, 1:], TURNS[family], atol=0.05)
    assert turned(lab, shadow, None, 1.0) is lab


def test_shadow_families_show_in_the_mixtures_of_the_flesh() -> None:
    """Greened shadows are greener, violet ones bluer than those photographed."""
    plain = planned("selda", "direct-oil")
    seen = {}
    for family in (None, "greened", "violet"):
        chosen = plain.settings.model_dump()
        chosen["passes"]["shadows"] = family
        study = Study(
            plain.sha256, plain.source.load, StudySettings.model_validate(chosen), plain.source.memo
        )
        dark = next(p for p in study.passes.plan().passes if p.key.startswith("flesh"))
        seen[family] = dark.recipe.target_lab
    assert seen["greened"][1] < seen[None][1] - 2
    assert seen["violet"][2] < seen[None][2] - 3
    assert seen["violet"][0] == pytest.approx(seen[None][0], abs=0.5)
