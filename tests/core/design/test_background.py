"""The designed background: it sets off light with dark and dark with light (common practice)."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of
from tests.core.school.test_schools import planned
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.design.background import (
    Background,
    Design,
    OwnTones,
    design_background,
    kind_of,
    wanted_outside,
)
from truesitter.core.design.frames import frames_for
from truesitter.core.design.tuning import FOUND, FRAMES, TONE_APART
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.core.types import Floats, Labels, Mask
from truesitter.formats.words.frame_words import frame_words


def disc(light: float = 8.0, dark: float = 2.5, wall: float = 5.0) -> tuple[Floats, Floats, Labels]:
    """A head that is half light, half dark, before an even wall: L*a*b*, value, regions; 1 mm a pixel."""
    y, x = np.indices((300, 240))
    head = (x - 120) ** 2 + (y - 150) ** 2 < 70**2
    value = np.where(head, np.where(x < 120, light, dark), wall).astype(np.float32)
    lab = np.zeros((300, 240, 3), np.float32)
    lab[..., 0] = value_to_lightness(value)
    lab[..., 2] = 10
    return lab, value, np.where(head, Region.SKIN, Region.BACKGROUND).astype(np.uint8)


def ring(found: Background) -> list[tuple[float, float, float]]:
    """Length, inside and outside of every stretch."""
    return [(s.length_mm, s.inside, s.outside) for s in found.stretches]


@pytest.mark.parametrize(("light", "dark"), [(8.0, 2.5), (7.0, 3.0), (9.0, 4.0)])
def test_a_disc_half_light_half_dark_is_set_off_all_round(light: float, dark: float) -> None:
    """The light half against dark, the dark half against light, on 95 % of the outline, by a step."""
    lab, value, regions = disc(light, dark)
    found = design_background(lab, value, regions, 1.0, "counter", "as photographed", None)
    middle = (light + dark) / 2
    total = right = asked = 0.0
    for length, inside, outside in ring(found):
        total += length
        right += length * ((outside < inside) == (inside > middle))
        asked += length * (abs(inside - outside) >= FOUND - 0.1)
    assert right >= 0.95 * total
    assert asked >= 0.9 * total


def test_nothing_inside_the_figure_changes() -> None:
    lab, value, regions = disc()
    design: Design
    for design in ("photo", "counter", "halo"):
        found = design_background(lab, value, regions, 1.0, design, "neutral", None)
        inside = regions == Region.SKIN
        np.testing.assert_array_equal(found.lab[inside], lab[inside])
        np.testing.assert_array_equal(found.value[inside], value[inside])
        assert (found.lab[~inside][:, 1:] == 0).all()


def test_edges_drawn_as_lost_are_lost() -> None:
    lab, value, regions = disc()
    y, _ = np.indices(value.shape)
    lost: Mask = y > 190
    found = design_background(lab, value, regions, 1.0, "counter", "as photographed", lost)
    kinds = [(s.kind, p[1]) for s in found.stretches for p in s.points]
    low = [kind for kind, y in kinds if y > 200 / 300]
    # Where light meets dark below, the tone beside them has to turn.
    assert low.count("lost") > 0.8 * len(low)
    high = [kind for kind, y in kinds if y < 0.5]
    assert high.count("found") > 0.85 * len(high)


def test_the_halo_falls_from_the_head_to_the_rim() -> None:
    lab, value, regions = disc(wall=4.5)
    found = design_background(lab, value, regions, 1.0, "halo", "as photographed", None)
    near = found.value[150, 200]
    rim = found.value[4, 4]
    assert near > 4.5 + 0.5
    assert near - rim > 0.8
    line = found.value[150, 195:]
    assert np.diff(line).max() < 0.05, "no rise on the way out"


def test_as_photographed_changes_nothing_but_lists_the_outline() -> None:
    lab, value, regions = disc()
    found = design_background(lab, value, regions, 1.0, "photo", "as photographed", None)
    np.testing.assert_array_equal(found.value, value)
    np.testing.assert_array_equal(found.lab, lab)
    length = sum(s.length_mm for s in found.stretches)
    assert length == pytest.approx(2 * np.pi * 70, rel=0.15)


@settings(max_examples=60, deadline=None)
@given(st.lists(st.floats(0.5, 9.5), min_size=1, max_size=30), st.floats(2, 8), st.floats(2, 6))
def test_the_wanted_tone_keeps_to_its_range_and_to_its_side(
    inside: list[float], base: float, most: float
) -> None:
    values = np.array(inside)
    wanted = wanted_outside(values, base, most)
    assert (np.abs(wanted - base) <= most / 2 + 1e-9).all()
    free = np.abs(np.where(values >= base, values - FOUND, values + FOUND) - base) <= most / 2
    assert (np.abs(wanted - values)[free] >= FOUND - 1e-9).all()
    assert ((wanted <= values) == (values >= base))[np.abs(wanted - values) > 1e-9].all()


def test_edges_are_named_by_their_contrast() -> None:
    assert [kind_of(c) for c in (1.5, -1.0, 0.7, -0.7, 0.3, 0.0)] == [
        "found", "found", "soft", "soft", "lost", "lost",
    ]  # fmt: skip


@pytest.mark.parametrize("name", ["maren", "selda"])
def test_more_of_a_sitter_is_set_off_than_in_the_photograph(name: str) -> None:
    study = study_of(name)
    subject = study.passes.subject()
    share = {}
    design: Design
    for design in ("photo", "counter"):
        found = design_background(
            subject.lab, subject.value, subject.regions, subject.mm_per_px, design, "as photographed", None
        )
        whole = sum(s.length_mm for s in found.stretches)
        share[design] = sum(s.length_mm for s in found.stretches if s.kind == "found") / whole
    assert share["counter"] > share["photo"]
    assert share["counter"] > 0.7


def test_an_echo_is_weaker_than_what_it_echoes() -> None:
    lab, value, regions = disc()
    regions[250:] = Region.GARMENT
    lab[250:, :, 1] = 30
    found = design_background(lab, value, regions, 1.0, "counter", "garment", None)
    wall = regions == Region.BACKGROUND
    assert 5 < found.lab[wall][:, 1].mean() < 30


def test_a_picture_without_a_wall_or_without_a_sitter_has_no_outline() -> None:
    lab, value, regions = disc()
    for only in (Region.SKIN, Region.BACKGROUND):
        whole = np.full_like(regions, only)
        found = design_background(lab, value, whole, 1.0, "counter", "as photographed", None)
        assert found.stretches == ()
        np.testing.assert_array_equal(found.value, value)


@settings(max_examples=30, deadline=None)
@given(st.floats(-180, 180), st.floats(5, 95), st.floats(5, 95))
def test_two_colours_of_ones_own_pass_into_one_another_along_a_direction(
    turn: float, first: float, last: float
) -> None:
    own = OwnTones((first, 5.0, 0.0), (last, -5.0, 20.0), turn)
    field = own.field((60, 80))
    y, x = np.mgrid[0:60, 0:80]
    along = y * np.cos(np.deg2rad(turn)) - x * np.sin(np.deg2rad(turn))
    np.testing.assert_allclose(field.reshape(-1, 3)[along.argmin()], own.first, atol=1e-3)
    np.testing.assert_allclose(field.reshape(-1, 3)[along.argmax()], own.last, atol=1e-3)
    # Even all the way: colour against place is a straight line.
    part = (along - along.min()) / np.ptp(along)
    np.testing.assert_allclose(field[..., 2], 20 * part, atol=1e-2)
    apart = abs(lab_value(np.array(own.first)) - lab_value(np.array(own.last)))
    assert apart / own.steps <= TONE_APART + 1e-6
    assert own.steps == 1 or apart / (own.steps - 1) > TONE_APART - 1e-6


def test_a_background_of_ones_own_leaves_the_figure_and_is_taken_from_the_sitter() -> None:
    study = planned("maren", "direct-oil")
    offers = dict(study.surround.offers())
    assert {"dark garment", "light garment", "dark hair", "light skin", "the background"} <= set(offers)
    for name in ("garment", "hair", "skin"):
        assert offers[f"dark {name}"][0] < offers[f"light {name}"][0]
    chosen = study.settings.model_dump()
    own = {"first": offers["dark garment"], "last": offers["light skin"], "turn": 0}
    chosen["passes"] |= {"backdrop": "own", "backdrop_own": own}
    other = Study(study.sha256, study.source.load, StudySettings.model_validate(chosen), study.source.memo)
    before, after = study.surround.surround(), other.surround.surround()
    wall = study.surround.regions() == Region.BACKGROUND
    np.testing.assert_array_equal(before.background.lab[~wall], after.background.lab[~wall])
    rows = np.flatnonzero(wall.any(axis=1))
    top = after.background.lab[rows[0]][wall[rows[0]]].mean(axis=0)
    np.testing.assert_allclose(top, offers["dark garment"], atol=1)
    plan = other.passes.plan()
    painted = [p for p in plan.passes if p.key.startswith("background")]
    assert len(painted) >= 2, "steps from dark to light"
    assert other.surround.own_tones().steps > 4


def test_a_frame_is_judged_by_the_rim_it_stands_beside() -> None:
    """Black round black closes nothing off; white round it takes the eye outward."""
    dark = np.zeros((60, 80, 3), np.float32)
    dark[..., 0] = 12
    by = {f.name: f for f in frames_for(dark)}
    assert set(by) == set(FRAMES)
    assert by["black"].quiet
    assert by["white"].loud
    assert by["gold"].outdoes
    assert not by["black"].outdoes
    light = dark.copy()
    light[..., 0] = 94
    assert {f.name: f for f in frames_for(light)}["white"].quiet
    middle = dark.copy()
    middle[..., 0] = 45
    # What lies in the middle of the picture does not count.
    middle[20:40, 20:60, 0] = 90
    middle[..., 2] = 25
    first = frames_for(middle)[0]
    assert (first.quiet, first.loud, first.outdoes) == (False, False, False)
    assert "calmly" in frame_words(first)
    assert "outward" in frame_words(by["white"])
    assert "hardly" in frame_words(by["black"])
