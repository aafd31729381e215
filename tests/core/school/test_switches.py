"""Switches turn a school into a near relation: they move passes and never change how one is laid."""

from __future__ import annotations

from typing import get_args

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.school.test_schools import planned
from truesitter.core.canvas.drawn.painted_lines import line_cover
from truesitter.core.canvas.tuning import LEVELS
from truesitter.core.design.shadow_family import TURNS, ShadowFamily, turned
from truesitter.core.plan.pass_places import Place, in_order
from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.school_document import Band, School, TonesOrder
from truesitter.core.school.switches import FIRST_LAYER, Switches, adapted, unheeded
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
    st.sampled_from([None, "dark to light", "light to dark", "between last"]),
    st.sampled_from([None, "all in one"]),
    st.sampled_from([None, "two of the whole figure"]),
    st.sampled_from([None, "loose and thick"]),
)


def at(school: School, region: Region) -> list[int]:
    return [n for n, p in enumerate(school.passes) if p.regions == (region,) and p.band is not Band.LINES]


@settings(max_examples=150, deadline=None)
@given(st.sampled_from(sorted(SCHOOLS)), CHOICES)
def test_no_pass_is_lost_and_fat_stays_over_lean(key: str, switches: Switches) -> None:
    before, after = SCHOOLS[key], adapted(SCHOOLS[key], switches)
    added = {p.key for p in after.passes} - {p.key for p in before.passes}
    assert {k for k in added if not k.startswith(FIRST_LAYER)} <= {"background-tone", "smear", "wall-strokes"}
    assert switches.layers or not any(k.startswith(FIRST_LAYER) for k in added)
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


@given(st.integers(1, 9))
def test_tones_follow_one_another_as_the_switch_says(count: int) -> None:
    template = SCHOOLS["direct-oil"].passes[3]
    nothing = np.zeros((1, 1), bool)
    tones = [Place(template, nothing, str(n), "") for n in range(count)]
    for order in get_args(TonesOrder):
        assert sorted(p.key for p in in_order(tones, order)) == [p.key for p in tones]
    assert in_order(tones, "dark to light") == tones
    assert in_order(tones, "light to dark") == tones[::-1]
    laid = [int(p.key) for p in in_order(tones, "between last")]
    # Each lies farther in than what was laid before it; the first two are the ends.
    inward = [min(n, count - 1 - n) for n in laid]
    assert inward == sorted(inward)
    assert set(laid[:2]) == {0, count - 1}


def test_a_face_can_be_laid_light_to_dark_or_its_halftones_last() -> None:
    """The passes change places; what is painted in the end does not."""
    plain = planned("maren", "brown-layer")
    orders, ends = {}, {}
    for tones in (None, "dark to light", "light to dark"):
        chosen = plain.settings.model_dump()
        chosen["passes"] |= {"tones": tones, "size": "every pass"}
        study = Study(
            plain.sha256, plain.source.load, StudySettings.model_validate(chosen), plain.source.memo
        )
        plan = study.passes.plan()
        orders[tones] = [p.group for p in plan.passes if p.key.startswith("flesh-") and p.group is not None]
        ends[tones] = plan.passes[-1].value_error
    assert orders["dark to light"] == sorted(orders[None]) == orders["light to dark"][::-1]
    # The school's own manner: both ends, then what lies between.
    assert set(orders[None][:2]) == {orders["dark to light"][0], orders["dark to light"][-1]}
    assert max(ends.values()) - min(ends.values()) < 0.03


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
    # A hollow in the light, smaller than the fading of a shadow, is turned all the way.
    hollow = np.zeros_like(shadow)
    hollow[20:23, 70:73] = True
    sunk = turned(lab, shadow, family, 1.0, hollow)
    np.testing.assert_allclose(sunk[21, 71, 1:] - lab[21, 71, 1:], TURNS[family], atol=0.05)
    np.testing.assert_array_equal(sunk[40, 60], lab[40, 60])


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


def switched(name: str, school: str, **chosen_: object) -> Study:
    plain = planned(name, school)
    chosen = plain.settings.model_dump()
    chosen["passes"] |= chosen_
    return Study(plain.sha256, plain.source.load, StudySettings.model_validate(chosen), plain.source.memo)


def test_all_in_one_sitting_waits_for_nothing() -> None:
    """Else days for the ground, then sittings of three hours; so tone and flesh go into wet ground."""
    plain, whole = switched("maren", "direct-oil"), switched("maren", "direct-oil", sitting="all in one")
    assert len(plain.passes.sittings()) > 1
    (only,) = whole.passes.sittings()
    assert {i.task for i in only.intervals} == set(range(len(whole.passes.plan().passes)))
    assert all(p.into_wet for p in whole.passes.plan().passes[1:])
    assert whole.passes.plan().passes[-1].value_error < plain.passes.plan().passes[-1].value_error + 0.05


def test_what_sets_before_all_is_painted_is_said() -> None:
    whole = switched("maren", "monochrome-first", sitting="all in one")
    plan = whole.passes.plan()
    (said,) = (r for r in plan.remarks if r.name == "Wet into wet")
    dry = next(p for p in plan.passes[1:] if not p.into_wet)
    assert dry.name.split(",")[0] in said.words
    assert not any(r.name == "Wet into wet" for r in switched("maren", "direct-oil").passes.plan().remarks)


@pytest.mark.parametrize("name", ["selda", "tobias"])
def test_two_layers_cover_the_whole_figure_before_anything_is_finished(name: str) -> None:
    plain = switched(name, "layered-oil")
    twice = switched(name, "layered-oil", layers="two of the whole figure", size="portrait")
    plan = twice.passes.plan()
    keys = [p.key for p in plan.passes]
    first = [n for n, k in enumerate(keys) if k.startswith(FIRST_LAYER)]
    assert first == list(range(first[0], first[0] + len(first)))
    later = [n for n, p in enumerate(plan.passes) if n > first[-1]]
    assert any(keys[n].startswith("flesh") for n in later)
    # All of the figure that the second covers, hair and cloth too, lies under the first.
    covered = np.any([plan.passes[n].pieces for n in first], axis=0)
    masses = [plan.passes[n].pieces for n in later if keys[n].startswith(("flesh", "garment", "background"))]
    assert covered[np.any(masses, axis=0)].all()
    assert all(plan.passes[n].room_mm >= 4 for n in first)
    whole = plain.passes.plan()
    assert plan.passes[-1].value_error < whole.passes[-1].value_error + 0.06


@pytest.mark.parametrize("key", ["watercolour-zones", "watercolour-recesses", "airbrush"])
def test_washes_are_never_laid_twice(key: str) -> None:
    assert adapted(SCHOOLS[key], Switches(layers="two of the whole figure")) == SCHOOLS[key]


@pytest.mark.parametrize("name", ["maren", "ines"])
def test_loose_strokes_lie_thick_on_the_wall_and_never_on_the_figure(name: str) -> None:
    study = switched(name, "layered-oil", wall="loose and thick", size="portrait")
    plan, subject = study.passes.plan(), study.passes.subject()
    strokes = [p for p in plan.passes if p.key.startswith("wall-strokes")]
    masses = [p for p in plan.passes if p.key.startswith("background")]
    assert strokes
    assert all(p.film > 3 * masses[0].film for p in strokes)
    wall = subject.regions == Region.BACKGROUND
    over, field = np.zeros(wall.shape, bool), np.zeros(wall.shape, bool)
    for one in strokes:
        rows, columns, levels = line_cover(one.lines, wall.shape, subject.mm_per_px)
        over[rows, columns] |= levels > LEVELS // 2
    field |= wall
    assert (over & ~wall).sum() < 0.01 * over.sum()
    assert 0.3 < (over & wall).sum() / field.sum() < 0.95
    headings = []
    for one in strokes:
        for line in one.lines:
            turn = (line.points[-1] - line.points[0]) * (320, 400)
            headings.append(np.arctan2(turn[1], turn[0]) % np.pi)
    assert np.std(headings) > 0.2
    # They take the tones of the wall, and come after its coat.
    keys = [p.key for p in plan.passes]
    assert min(keys.index(p.key) for p in strokes) > max(keys.index(p.key) for p in masses)
    plain = switched(name, "layered-oil", size="portrait").passes.plan()
    assert plan.passes[-1].value_error < plain.passes[-1].value_error + 0.05


def test_washes_have_no_thick_strokes() -> None:
    key = "watercolour-zones"
    assert adapted(SCHOOLS[key], Switches(wall="loose and thick")) == SCHOOLS[key]


def test_a_choice_that_changes_nothing_in_a_school_is_said() -> None:
    water = SCHOOLS["watercolour-zones"]
    idle = Switches(wall="loose and thick", layers="two of the whole figure", tones="light to dark")
    assert set(unheeded(water, idle)) == {"Strokes of the background", "Layers of colour", "Tones of a place"}
    assert unheeded(SCHOOLS["layered-oil"], idle) == []
    assert unheeded(water, Switches()) == []
    plan = switched("maren", "watercolour-zones", wall="loose and thick").passes.plan()
    assert any(r.name == "Strokes of the background" and "nothing to change" in r.words for r in plan.remarks)
    plain = switched("maren", "watercolour-zones").passes.plan()
    assert not any("nothing to change" in r.words for r in plain.remarks)


@settings(max_examples=60, deadline=None)
@given(CHOICES)
def test_ground_tone_first_lines_and_wiped_lights_stay_in_front(switches: Switches) -> None:
    keys = [p.key for p in adapted(SCHOOLS["direct-oil"], switches).passes]
    assert keys[:4] == ["ground", "tone", "construction", "wiped-lights"]


def test_what_a_school_covers_whole_itself_gets_no_other_first_layer() -> None:
    """Paint after a thumbnail lays a base of skin, hair, cloth and wall; only what is worn has none."""
    made = adapted(SCHOOLS["thumbnail-first"], Switches(layers="two of the whole figure"))
    assert [p.key for p in made.passes if p.key.startswith(FIRST_LAYER)] == [f"{FIRST_LAYER}worn"]


@pytest.mark.parametrize("key", [key for key, one in SCHOOLS.items() if not one.transparent])
def test_a_first_layer_covers_the_hair_too(key: str) -> None:
    """In the school's own paint: greys stay greys."""
    school = SCHOOLS[key]
    made = adapted(school, Switches(layers="two of the whole figure"))
    hairy = [p for p in made.passes if Region.HAIR in p.regions and set(p.regions) != set(Region)]
    first = hairy[0]
    assert first.band is Band.EVERYTHING
    assert first.kind == ("grey" if key == "monochrome-first" else "mass")
