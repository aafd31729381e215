"""Small rules of light on made maps: what is closed stays dark, nothing is told of nothing."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.light.test_zones import MIDDLE, OPEN, SIZE, hill
from truesitter.core.light.form.light_form import shadow_border, skin_form
from truesitter.core.light.form.peaks import LightPeak, find_peaks
from truesitter.core.light.form.solids import LitSolid, Solid
from truesitter.core.light.form.two_sides import two_sides
from truesitter.core.light.form.zones import grow_zones
from truesitter.core.light.key.body_normals import body_normals
from truesitter.core.light.key.light_direction import figure_light
from truesitter.core.sitter.region_names import Region


def test_a_peak_on_closed_skin_lights_nothing_of_it() -> None:
    open_ = OPEN.copy()
    open_[:, SIZE // 2 - 30 :] = False
    closed = grow_zones(hill(), open_, (MIDDLE,), 12)
    assert not closed.zones.any()
    beside = LightPeak("beside", 0.2, 0.5, 6.0, 1.0)
    both = grow_zones(hill(), open_, (MIDDLE, beside), 12)
    assert not both.zones[~open_].any()
    assert both.zones[open_].all()


def test_strokes_of_light_end_where_the_last_zone_ends() -> None:
    """Three and a half times as far as the first zone, where nothing stops them."""
    found = grow_zones(hill(8, 8), OPEN, (MIDDLE,), 12)
    lengths = [SIZE * np.hypot(r.end[0] - 0.5, r.end[1] - 0.5) for r in found.rays]
    starts = [SIZE * np.hypot(r.start[0] - 0.5, r.start[1] - 0.5) for r in found.rays]
    assert np.mean(lengths) == pytest.approx(3.5 * 12, rel=0.1)
    assert np.mean(starts) == pytest.approx(0.3 * 12, rel=0.15)


@pytest.mark.parametrize(("high", "found"), [(0.05, False), (0.5, True)])
def test_a_light_of_half_a_step_is_a_peak_and_grain_is_none(high: float, found: bool) -> None:
    peaks = find_peaks(hill(high=high), OPEN, None, 120.0)
    assert bool(peaks) == found


def test_of_no_skin_no_form_is_told() -> None:
    nothing = np.zeros((20, 30), np.float32)
    form = skin_form(
        nothing, nothing, nothing > 0, nothing, nothing, nothing > 0, nothing > 0, (0.0, 0.0), 0.1, 10.0
    )
    assert not form.classes.any()
    assert [v for v in vars(form).values() if isinstance(v, float)] == [0.0, 0.0]


def test_black_skin_of_a_cut_off_photograph_has_a_border_like_any_other() -> None:
    """A photograph that ran into black holds zeros: they are the darkest shadow, no hole in the sum."""
    light = np.concatenate([np.zeros(300), np.full(300, 0.02), np.linspace(0.3, 0.4, 900)])
    border = shadow_border(light)
    assert 0.02 < border < 0.3


@pytest.mark.parametrize(("shadow", "told"), [(0.0, False), (0.01, False), (0.3, True)])
def test_what_hardly_turns_from_the_light_is_not_told_to(shadow: float, told: bool) -> None:
    words = LitSolid("chin", Solid.BALL, 0.1, 0.4, shadow).words
    assert ("turns from the light" in words) == told


def test_sides_are_those_of_the_form_and_no_stripes() -> None:
    """Cloth lit from the left with stripes as wide as a finger across it: two halves, not a dozen bands."""
    rows, columns = np.indices((240, 300))
    where = (np.abs(columns - 150) < 90) & (rows > 40)
    light = np.where(columns < 150, 0.4, 0.1) * np.where((columns // 8) % 2, 1.5, 0.7)
    regions = np.where(where, Region.GARMENT, Region.BACKGROUND).astype(np.uint8)
    luminance = light.astype(np.float32)
    found = two_sides(luminance, 10 * np.cbrt(luminance), regions, (-1.0, 0.0), 300.0)
    row = found.sides[140, 62:238]
    assert np.count_nonzero(np.diff(row.astype(int))) == 1


def test_a_figure_in_one_light_has_no_second() -> None:
    """An upright figure of one colour lit from the left (Lambert)."""
    y, x = np.indices((300, 200))
    u = (x - 100) / 60
    inside = (np.abs(u) < 0.98) & (y > 60)
    regions = np.where(inside, Region.SKIN, Region.BACKGROUND).astype(np.uint8)
    cosine = np.clip(-0.8 * u + 0.6 * np.sqrt(np.clip(1 - u**2, 0, 1)), 0, 1)
    found = figure_light((0.05 + 0.4 * cosine).astype(np.float32), inside, regions)
    assert found is not None
    assert (found.second, found.second_strength) == (None, 0.0)
    assert found.vector[0] < -0.3


def test_normals_of_a_figure_turn_with_it() -> None:
    """Lying down its surface is the same, with right and up changed about."""
    y, x = np.indices((240, 200))
    oval = ((x - 100) / 50) ** 2 + ((y - 120) / 90) ** 2 < 1
    regions = np.where(oval, Region.SKIN, Region.BACKGROUND).astype(np.uint8)
    normals, inside = body_normals(regions, None)
    lying, inside_lying = body_normals(np.ascontiguousarray(regions.T), None)
    assert (inside_lying == inside.T).all()
    # Transposed, what pointed right points down, which is −y.
    np.testing.assert_allclose(lying[..., 0], -normals[..., 1].T, atol=0.08)
    np.testing.assert_allclose(lying[..., 2], normals[..., 2].T, atol=0.08)
    np.testing.assert_allclose(np.linalg.norm(normals[inside], axis=-1), 1, atol=1e-5)
