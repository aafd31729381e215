"""The designed background: it sets off light with dark and dark with light (common practice)."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.colour.value import value_to_lightness
from truesitter.core.design.background import Background, Design, design_background, kind_of, wanted_outside
from truesitter.core.design.tuning import FOUND
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Floats, Labels, Mask


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
