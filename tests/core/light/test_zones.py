"""Light peaks and zones on made skins: their shape, their reach, and what stops them."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of, truth
from truesitter.core.light.form.peaks import LightPeak, beside_usual, find_peaks, own_peaks, prominences
from truesitter.core.light.form.tuning import FADING
from truesitter.core.light.form.zones import (
    ABOVE_THE_MOUTH,
    RED_OF_THE_LIPS,
    grow_zones,
    inside_limits,
    line_mask,
    unlit_mask,
)
from truesitter.core.light.mirrored.ceilings import ceilings, neighbour_of
from truesitter.core.reference.tone import lift_shadows
from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.face import LIPS, UPPER_LIP_FIELD
from truesitter.core.stages import Study
from truesitter.core.values.value_map import squinted_value, value_map

SIZE = 240


def hill(wide: float = 12, tall: float = 12, turn: float = 0.0, high: float = 2.0) -> np.ndarray:
    """Level skin of value 5 with a light in the middle, longer one way than the other."""
    y, x = np.mgrid[0:SIZE, 0:SIZE] + 0.5 - SIZE / 2
    u, v = x * np.cos(turn) + y * np.sin(turn), -x * np.sin(turn) + y * np.cos(turn)
    return (5 + high * np.exp(-((u / wide) ** 2 + (v / tall) ** 2) / 2)).astype(np.float32)


MIDDLE = LightPeak("middle", 0.5, 0.5, 7.0, 2.0)
OPEN = np.ones((SIZE, SIZE), bool)


def reach(zones: np.ndarray, zone: int, angle: float) -> float:
    """How far a zone and those within it go from the middle one way, in pixels."""
    along = np.arange(0, SIZE / 2, 0.25)
    columns = np.clip((SIZE / 2 + np.cos(angle) * along).astype(int), 0, SIZE - 1)
    rows = np.clip((SIZE / 2 + np.sin(angle) * along).astype(int), 0, SIZE - 1)
    inside = (zones[rows, columns] > 0) & (zones[rows, columns] <= zone)
    return float(along[inside.argmin()]) if not inside.all() else float(along[-1])


@settings(max_examples=20)
@given(st.floats(12, 24), st.floats(12, 24), st.floats(0, np.pi), st.floats(11, 14))
def test_zone_2_reaches_twice_as_far_along_every_free_ray(
    wide: float, tall: float, turn: float, length: float
) -> None:
    """Within 10 %; zone 3 is 3.5 times as long."""
    zones = grow_zones(hill(wide, tall, turn), OPEN, (MIDDLE,), length).zones
    reaches = []
    for angle in 2 * np.pi * np.arange(36) / 36:
        one, two, three = (reach(zones, z, angle) for z in (1, 2, 3))
        # A border is drawn to the pixel, and what it is off counts twice in zone 2.
        assert abs(two - 2 * one) <= 0.1 * 2 * one + 1.0
        assert abs(three - 3.5 * one) <= 0.1 * 3.5 * one + 1.5
        reaches.append(one)
    assert np.mean(reaches) == pytest.approx(length, rel=0.1, abs=1)
    assert (zones > 0).all(), "nothing stops zone 4"


def test_zone_1_takes_the_shape_of_the_light() -> None:
    """A long light gives a long zone, lying as the light lies; a round one a disc."""
    long = grow_zones(hill(24, 8, 0.5), OPEN, (MIDDLE,), 10).zones
    assert reach(long, 1, 0.5) > 1.8 * reach(long, 1, 0.5 + np.pi / 2)
    round_ = grow_zones(hill(12, 12), OPEN, (MIDDLE,), 10).zones
    reaches = [reach(round_, 1, a) for a in np.linspace(0, 2 * np.pi, 24)]
    assert max(reaches) < 1.2 * min(reaches)


@settings(max_examples=15)
@given(st.integers(0, 10_000))
def test_zones_are_nested_and_keep_off_what_is_barred(seed: int) -> None:
    rng = np.random.default_rng(seed)
    value = hill(rng.uniform(8, 20), rng.uniform(8, 20), rng.uniform(0, 3))
    open_ = np.ones((SIZE, SIZE), bool)
    for _ in range(3):
        x, y = rng.integers(20, SIZE - 40, 2)
        open_[y : y + 8, x : x + rng.integers(20, 60)] = False
    open_[SIZE // 2 - 2 : SIZE // 2 + 2, SIZE // 2 - 2 : SIZE // 2 + 2] = True
    wide = [grow_zones(value, open_, (MIDDLE,), length).zones for length in (6, 12)]
    for zones in wide:
        assert not zones[~open_].any()
    for zone in (1, 2, 3, 4):
        inner, outer = ((z > 0) & (z <= zone) for z in wide)
        assert (inner & ~outer).sum() <= 0.02 * inner.sum() + 4, "a longer reach covers more"


def test_a_line_stops_every_zone_along_its_ray() -> None:
    value = hill(30, 30)
    open_ = OPEN.copy()
    open_[:, 140:143] = False
    zones = grow_zones(value, open_, (MIDDLE,), 15).zones
    assert reach(zones, 3, 0.0) == pytest.approx(20, abs=1)
    assert reach(zones, 3, np.pi) > 45
    assert not zones[:, 143:].any(), "zone 4 does not come round it either"
    drawn = value.copy()
    drawn[:, 140:] -= 3
    assert line_mask(drawn)[:, 138:142].any(axis=1).all()
    assert not line_mask(value).any()


def test_the_outer_limit_is_never_passed() -> None:
    limit = np.array([(0.35, 0.35), (0.6, 0.35), (0.6, 0.6), (0.35, 0.6)])
    inside = inside_limits((limit,), OPEN.shape)
    assert inside[100, 100]
    assert not inside[100, 150]
    assert inside_limits((), OPEN.shape).all()
    zones = grow_zones(hill(30, 30), inside, (MIDDLE,), 20).zones
    assert (zones > 0).any()
    assert not zones[~inside].any()
    assert (zones[inside] > 0).all()


def test_zone_4_fades_over_the_last_part_of_its_depth() -> None:
    open_ = OPEN.copy()
    open_[:, 200:] = False
    found = grow_zones(hill(10, 10), open_, (MIDDLE,), 8)
    row = found.fade[SIZE // 2]
    first = int((found.zones[SIZE // 2] < 4).nonzero()[0].max())
    first = int(np.flatnonzero(found.zones[SIZE // 2, 120:200] == 4)[0]) + 120
    depth = 200 - first
    assert row[first + 1] == 1
    faded = np.flatnonzero(row[first:200] < 1)
    assert len(faded) == pytest.approx(FADING * depth, abs=3)
    assert row[199] < 0.3
    assert (np.diff(row[first:200]) <= 1e-6).all()
    assert (found.fade[:, 205:] == 0).all()
    assert (found.fade[found.zones == 2] == 1).all()


@pytest.mark.parametrize("at", [(0.001, 0.001), (0.999, 0.001), (0.001, 0.999), (0.999, 0.999), (0.5, 0.99)])
def test_a_light_at_the_border_of_the_picture_has_its_neighbours(at: tuple[float, float]) -> None:
    """The ring round it is cut by the picture: what is left of it counts."""
    value, everywhere = np.full((120, 90), 4.0, np.float32), np.ones((120, 90), bool)
    assert neighbour_of(value, everywhere, *at, 100.0, False) == 4.0
    (found,) = ceilings((("forehead", *at),), value, value, everywhere, ~everywhere, (3.0, 5.0), 100.0)
    assert (found.neighbour, found.ceiling) == (4.0, 5.0)


def test_zones_start_somewhere() -> None:
    with pytest.raises(Refusal):
        grow_zones(hill(), OPEN, (MIDDLE,), 0)
    assert not grow_zones(hill(), OPEN, (), 10).zones.any()


def two_hills(valley: float) -> np.ndarray:
    """Tops of value 8 and 7 with a pass of 5 + `valley` between them on ground of 5."""
    x = np.arange(200)
    line = np.interp(x, [0, 50, 100, 150, 199], [5, 8, 5 + valley, 7, 5])
    across = np.exp(-(((np.arange(100) - 50) / 12) ** 2))[:, None]
    return (5 + (line[None] - 5) * across).astype(np.float32)


@pytest.mark.parametrize("valley", [0.0, 0.8, 1.7])
def test_prominence_is_the_fall_to_the_pass(valley: float) -> None:
    value = two_hills(valley)
    found = prominences(value, np.ones(value.shape, bool), [(50, 50), (50, 150)])
    assert found[0] == pytest.approx(3, abs=0.1)
    assert found[1] == pytest.approx(7 - 5 - valley, abs=0.1)
    assert prominences(value, np.ones(value.shape, bool), []) == []


def test_peaks_are_ranked_by_prominence_and_named() -> None:
    value = two_hills(0.3)
    value[20, 180] += 1.2
    peaks = find_peaks(value, np.ones(value.shape, bool), None, 60)
    rises = [p.prominence for p in peaks]
    assert rises == sorted(rises, reverse=True)
    assert (round(peaks[0].x * 200 - 0.5), round(peaks[0].y * 100 - 0.5)) == (50, 50)
    assert len({p.place for p in peaks}) == len(peaks)
    assert find_peaks(value, np.zeros(value.shape, bool), None, 60) == ()
    own = own_peaks(((0.75, 0.5), (0.25, 0.5), (0.25, 0.52)), value, np.ones(value.shape, bool), None)
    assert [round(p.x, 2) for p in own] == [0.75, 0.25, 0.25], "in the painter's order"
    assert own[1].prominence > own[0].prominence > 1
    assert len({p.place for p in own}) == 3


@pytest.mark.parametrize("name", ["maren", "tobias", "selda", "orsolya"])
def test_the_peaks_of_a_face(name: str) -> None:
    study = study_of(name)
    zones = study.light.zones()
    missing, extra = beside_usual(zones.peaks, study.sitter.face)
    names = [p.place for p in zones.peaks]
    assert len(set(names)) == len(names)
    assert any("cheekbone" in n or "forehead" in n for n in names)
    assert not set(missing) & set(names)
    assert set(extra) <= set(names)
    regions = study.sitter.regions().labels
    assert np.isin(regions[zones.zones == 1], (1, 5)).mean() > 0.97
    assert beside_usual(zones.peaks, None) == ((), ())
    for ray in zones.rays:
        assert 0 <= ray.start[0] <= 1
        assert np.hypot(ray.end[0] - ray.start[0], ray.end[1] - ray.start[1]) > 0


def test_a_school_may_leave_two_places_without_light() -> None:
    """Skin above the mouth and the red of the lips are two places; no school bars them today."""
    study = study_of("selda")
    face = study.sitter.face
    assert face is not None
    shape = (500, 400)
    above, red = (unlit_mask(face, (name,), shape) for name in (ABOVE_THE_MOUTH, RED_OF_THE_LIPS))
    assert above[face.outline_mask(UPPER_LIP_FIELD, shape, 0.9)].all()
    assert red[face.outline_mask(LIPS, shape)].all()
    assert (red & ~above).any()
    assert not unlit_mask(face, (), shape).any()
    zones = study.light.zones().zones
    lips = face.outline_mask(UPPER_LIP_FIELD, zones.shape, 0.8)
    assert (zones[lips] > 0).any(), "light may lie above the mouth"


def test_own_peaks_and_limits_are_kept_to() -> None:
    chosen = {
        "reference": {"canvas_width_mm": 320, "canvas_height_mm": 400},
        "light": {
            "peaks": [(0.44, 0.3)],
            "limits": [{"points": [(0.38, 0.24), (0.5, 0.24), (0.5, 0.34), (0.38, 0.34)]}],
        },
    }
    study = Study.of_bytes(truth("selda").data, StudySettings.model_validate(chosen))
    zones = study.light.zones()
    assert [(p.x, p.y) for p in zones.peaks] == [(0.44, 0.3)]
    rows, columns = np.nonzero(zones.zones)
    height, width = zones.zones.shape
    assert len(rows) > 100
    assert columns.min() / width > 0.37
    assert columns.max() / width < 0.51
    assert rows.max() / height < 0.35


def test_a_squint_blurs_light_and_not_values() -> None:
    """Fine stripes of black and white give half the light, which is value 7.6, not 5 (ASTM D1535)."""
    stripes = np.zeros((200, 200, 3), np.uint8)
    stripes[:, ::2] = 255
    assert squinted_value(stripes, 0.05)[100, 100] == pytest.approx(7.6, abs=0.1)
    assert squinted_value(stripes, 0.0).max() == pytest.approx(value_map(stripes).max(), abs=0.02)


def test_opened_shadows_are_spread_and_the_order_kept() -> None:
    """Black stays black, the deepest darks are pulled apart, lights hardly move."""
    ramp = np.repeat(np.arange(256, dtype=np.uint8)[None, :, None], 3, axis=2)
    before, after = value_map(ramp)[0], value_map(lift_shadows(ramp))[0]
    assert after[0] == pytest.approx(0, abs=0.1)
    assert (np.diff(after) >= -1e-3).all()
    dark = (before > 0.8) & (before < 3.2)
    slope = np.polyfit(before[dark], after[dark], 1)[0]
    assert slope == pytest.approx(5.5 / 3.5, abs=0.1)
    assert after[-1] == pytest.approx(10, abs=0.05)
