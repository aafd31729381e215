"""Parts of a plan on made passes and made schools: the kit, waits, schools turned about, their palettes."""

from __future__ import annotations

from dataclasses import replace
from functools import cache
from typing import Any

import numpy as np
import pytest

from tests.core.plan.test_pass_places import subject, template
from truesitter.core.pace.waiting import Room
from truesitter.core.paint.layered.tuning import MOST_COATS
from truesitter.core.paint.media.media_table import MEDIA, Medium
from truesitter.core.paint.media.quantity import tube_cm
from truesitter.core.paint.media.supports import SUPPORTS
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import STARTERS, Palette
from truesitter.core.plan.clock.schedule import PlannedInterval, PlannedSitting, Task, sittings_for
from truesitter.core.plan.kit import kit_for
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.refusal import Refusal
from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.school_document import Band, PassTemplate, School
from truesitter.core.school.school_palettes import palettes_for
from truesitter.core.school.switches import Switches, adapted
from truesitter.core.school.tuning import MOST_FILM, MOST_WASHES
from truesitter.core.sitter.region_names import Region

SIX = STARTERS[1]


def made(*passes: PassTemplate, like: str = "direct-oil", **more: Any) -> School:
    return SCHOOLS[like].model_copy(update={"passes": passes, **more})


def one(key: str, region: Region, band: Band = Band.EVERYTHING, **more: Any) -> PassTemplate:
    return template(band, key=key, name=key, regions=[int(region)], **more)


@cache
def plan() -> PassPlan:
    """Skin, then hair, then a little light over the skin."""
    school = made(one("skin", Region.SKIN), one("hair", Region.HAIR), one("again", Region.SKIN))
    return plan_passes(subject(), SIX, school)


def keys(school: School) -> list[str]:
    return [p.key for p in school.passes]


def test_a_kit_lists_the_most_used_first_and_the_thirstiest_sitting() -> None:
    passes = tuple(
        replace(p, recipe=replace(p.recipe, parts=parts), ml=ml, work_minutes=60.0)
        for p, parts, ml in zip(
            plan().passes,
            ({"yellow-ochre": 3, "titanium-white": 1}, {"ivory-black": 1}, {"titanium-white": 1}),
            (4.0, 2.0, 5.0),
            strict=True,
        )
    )
    sittings = (
        PlannedSitting(0, (PlannedInterval(0, 0.0, 60.0, True), PlannedInterval(2, 60.0, 15.0, False)), ()),
        PlannedSitting(1, (PlannedInterval(1, 0.0, 60.0, True), PlannedInterval(2, 60.0, 45.0, True)), ()),
    )
    kit = kit_for(replace(plan(), passes=passes), sittings, SIX.rack, ())
    assert [(t.key, t.ml) for t in kit.tubes] == [
        ("titanium-white", 6.0),
        ("yellow-ochre", 3.0),
        ("ivory-black", 2.0),
    ]
    # White: 1 ml of the first pass and a quarter of 5 on the first day, three quarters of 5 on the second.
    assert [t.most_in_a_sitting_ml for t in kit.tubes] == pytest.approx([3.75, 3.0, 2.0])
    assert [t.cm for t in kit.tubes] == [tube_cm(t.ml) for t in kit.tubes]
    assert sum(b.passes for b in kit.brushes) == 3
    assert {t.most_in_a_sitting_ml for t in kit_for(plan(), (), SIX.rack, ()).tubes} == {0.0}


def test_what_is_wet_below_until_after_the_next_day_is_said() -> None:
    """The second waits two days over the first; the third lies over nothing."""
    found = sittings_for((Task(60, 2.5 * 1440), Task(60, 0, (0,)), Task(90, 0)), 1)
    assert [(s.day, s.waiting) for s in found] == [(0, (1,)), (1, (1,)), (2, ()), (3, ())]


@pytest.mark.parametrize(("humidity", "medium"), [(80.0, "acrylic"), (80.0, "oil"), (30.0, "acrylic")])
def test_waits_follow_the_room_and_the_medium(humidity: float, medium: str) -> None:
    """A pass waits so many times longer as the room slows its medium."""
    school = made(one("skin", Region.SKIN, dries_minutes=600), media=(medium,))
    usual = plan_passes(subject(), SIX, school)
    damp = Room(temperature=18.0, humidity=humidity)
    slowed = plan_passes(subject(room=damp), SIX, school)
    times = damp.slows(MEDIA[medium].watery) / Room().slows(MEDIA[medium].watery)  # type: ignore[index]
    assert slowed.passes[0].dries_minutes == pytest.approx(times * usual.passes[0].dries_minutes, rel=0.01)
    assert times != pytest.approx(1, abs=0.02)


def test_only_a_mixture_that_falls_short_is_remarked() -> None:
    """A red no earth makes is; a grey is not, and neither is paint that is only thinned."""
    lab = np.zeros((120, 100, 3), np.float32)
    lab[...] = (45.0, 0.0, 0.0)
    grey = subject(lab=lab, value=np.full((120, 100), 4.5, np.float32))
    assert plan_passes(grey, SIX, made(one("skin", Region.SKIN))).remarks == ()
    lab[...] = (45.0, -5.0, -60.0)
    blue = subject(lab=lab, value=np.full((120, 100), 4.5, np.float32))
    earths = replace(SIX, tubes=("titanium-white", "yellow-ochre", "burnt-sienna"))
    said = plan_passes(blue, earths, made(one("skin", Region.SKIN))).remarks
    assert [(r.name, "comes no nearer" in r.words) for r in said] == [("skin", True)]
    wash = plan_passes(blue, earths, made(one("skin", Region.SKIN, kind="wash", film_mm=0.03)))
    assert not any("comes no nearer" in r.words for r in wash.remarks)


def test_a_pass_names_the_regions_it_really_covers() -> None:
    """What is less than a hundredth of a place is no part of its name."""
    regions = np.full((120, 100), int(Region.SKIN), np.uint8)
    regions[:10, :10] = int(Region.LIPS)
    regions[60:, :] = int(Region.HAIR)
    wide = template(
        Band.EVERYTHING, regions=[int(Region.SKIN), int(Region.LIPS), int(Region.HAIR)], key="x", name="x"
    )
    (found,) = plan_passes(subject(regions=regions), SIX, made(wide)).passes
    assert found.places == (Region.SKIN.spoken, Region.HAIR.spoken)
    regions[:10, :30] = int(Region.LIPS)
    (found,) = plan_passes(subject(regions=regions), SIX, made(wide)).passes
    assert found.places == (Region.SKIN.spoken, Region.LIPS.spoken, Region.HAIR.spoken)


def test_details_come_after_masses_and_lights_after_both() -> None:
    school = made(
        one("sparks", Region.SKIN, Band.HIGHLIGHTS),
        one("eyes", Region.EYES),
        one("skin", Region.SKIN),
        one("lids", Region.SKIN, Band.LINES, kind="lines"),
        one("wall", Region.BACKGROUND),
    )
    assert keys(adapted(school, Switches(order="details last"))) == ["skin", "wall", "eyes", "lids", "sparks"]


def test_sections_are_finished_from_the_wall_forward() -> None:
    """What belongs to several comes last, whatever it begins with."""
    both = template(
        Band.EVERYTHING, key="both", name="both", regions=[int(Region.BACKGROUND), int(Region.HAIR)]
    )
    school = made(
        both,
        one("hair", Region.HAIR),
        one("skin", Region.SKIN),
        one("coat", Region.GARMENT),
        one("wall", Region.BACKGROUND),
    )
    assert keys(adapted(school, Switches(order="by section"))) == ["wall", "coat", "skin", "hair", "both"]


def test_what_is_moved_between_comes_after_half_of_the_flesh() -> None:
    """Lines on the skin do not count as flesh laid."""
    school = made(
        one("wall", Region.BACKGROUND),
        one("dark", Region.SKIN),
        one("middle", Region.SKIN),
        one("light", Region.SKIN),
        one("lids", Region.SKIN, Band.LINES, kind="lines"),
        one("pores", Region.SKIN, Band.LINES, kind="lines"),
    )
    assert keys(adapted(school, Switches(background="between"))) == [
        "dark", "middle", "wall", "light", "lids", "pores",
    ]  # fmt: skip
    bodiless = made(one("wall", Region.BACKGROUND), one("coat", Region.GARMENT), one("hat", Region.HAT))
    assert keys(adapted(bodiless, Switches(background="between"))) == ["coat", "wall", "hat"]


@pytest.mark.parametrize("like", ["direct-oil", "watercolour-zones"])
def test_a_first_tone_is_laid_as_the_school_lays(like: str) -> None:
    school = made(one("skin", Region.SKIN), one("wall", Region.BACKGROUND, Band.EACH_GROUP), like=like)
    tone, *rest = adapted(school, Switches(background="first tone, then last")).passes
    assert (tone.key, tone.kind, tone.band) == (
        "background-tone", "water" if school.transparent else "mass", Band.EVERYTHING,
    )  # fmt: skip
    assert [p.key for p in rest] == ["skin", "wall"]
    bare = made(one("skin", Region.SKIN))
    assert adapted(bare, Switches(background="first tone, then last")).passes == bare.passes


@pytest.mark.parametrize("like", ["watercolour-zones", "airbrush", "layered-oil"])
def test_clear_paint_is_as_strong_as_all_its_films_together(like: str) -> None:
    school = SCHOOLS[like]
    medium: Medium = school.medium
    found = palettes_for(school, SIX, Wishes(), medium, SUPPORTS[school.support])
    films = MOST_COATS if medium.sprayed else MOST_WASHES * MOST_FILM
    assert found.clear.thinning.film == pytest.approx(films * medium.thinning.film)
    assert found.clear.transparent
    assert not found.body.transparent
    assert found.used is (found.clear if school.transparent else found.body)
    assert "titanium-white" not in found.clear.tubes
    assert "titanium-white" in found.body.tubes


def test_a_palette_that_a_school_cannot_use_is_refused() -> None:
    def of(tubes: tuple[str, ...], like: str, washes: bool = False) -> None:
        palette: Palette = replace(SIX, tubes=tubes)
        if washes:
            palette = replace(palette, washes_on=SUPPORTS["smooth paper"])
        palettes_for(SCHOOLS[like], palette, Wishes(), SCHOOLS[like].medium, SUPPORTS[SCHOOLS[like].support])

    with pytest.raises(Refusal, match="colours besides white"):
        of(("titanium-white",), "watercolour-zones")
    with pytest.raises(Refusal, match="opaque paint"):
        of(("yellow-ochre", "ivory-black"), "direct-oil", washes=True)
    # Opaque black and ochre paint as they are, without any white; so does white alone.
    of(("yellow-ochre", "ivory-black"), "direct-oil")
    of(("titanium-white",), "direct-oil")
    of(("titanium-white", "ivory-black"), "direct-oil", washes=True)
