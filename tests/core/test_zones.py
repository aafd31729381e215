"""Light peaks and zones on made skins: lines stop the light, darkness slows it, a squint blurs light."""

from __future__ import annotations

import numpy as np
import pytest

from truesitter.core.light.zones import find_peaks, grow_zones
from truesitter.core.reference.tone import lift_shadows
from truesitter.core.values.value_map import squinted_value, value_map


def level(tilt: float = 0.0, size: int = 200) -> tuple[np.ndarray, np.ndarray]:
    """Level skin with one small peak in the middle, shadow in a corner, darker to the right by `tilt`."""
    y, x = np.mgrid[0:size, 0:size].astype(np.float32)
    value = 6.0 + 0.6 * np.exp(-((x - size / 2) ** 2 + (y - size / 2) ** 2) / (2 * 2**2))
    value -= tilt * np.clip(x - size / 2, 0, None) / size
    value[:30, :30] = 2.0
    return value.astype(np.float32), np.ones((size, size), bool)


def reach(zones: np.ndarray, zone: int, dx: int, dy: int) -> int:
    """How far a zone and those within it go from the middle one way."""
    middle = zones.shape[0] // 2
    line = [zones[middle + dy * i, middle + dx * i] for i in range(middle)]
    return sum(1 for z in line if 0 < z <= zone)


def test_zones_reach_as_far_as_they_say_over_level_skin() -> None:
    """Zones 2 and 3 reach 2 and 3.5 lengths of zone 1; zone 4 goes on to the shadow."""
    value, skin = level()
    found = grow_zones(value, skin, None, 0.2)
    assert [reach(found.zones, z, 1, 0) for z in (1, 2, 3)] == pytest.approx([12, 24, 42], abs=1)
    assert reach(found.zones, 4, 1, 0) == 100
    assert 2 < found.shadow_below < 6
    assert (found.zones[:28, :28] == 0).all()
    wider = grow_zones(value, skin, None, 0.1).zones
    assert reach(wider, 1, 1, 0) == pytest.approx(6, abs=1)


def test_light_goes_less_far_where_the_skin_darkens() -> None:
    value, skin = level(tilt=4.0)
    zones = grow_zones(value, skin, None, 0.2).zones
    for zone in (2, 3):
        assert reach(zones, zone, -1, 0) > reach(zones, zone, 1, 0) * 1.15


def test_a_line_stops_the_light() -> None:
    value, skin = level()
    assert reach(grow_zones(value, skin, None, 0.2).zones, 2, 1, 0) > 22
    value[:, 116:120] -= 1.6
    lined = grow_zones(value, skin, None, 0.2).zones
    assert reach(lined, 4, 1, 0) <= 20
    assert reach(lined, 2, -1, 0) > 22


def test_every_peak_has_a_name_of_its_own() -> None:
    value = np.full((300, 300), 5.0, np.float32)
    y, x = np.mgrid[0:300, 0:300]
    for cy, cx in ((60, 40), (60, 80), (240, 240)):
        value += 2 * np.exp(-((x - cx) ** 2 + (y - cy) ** 2) / 100).astype(np.float32)
    peaks = find_peaks(value, np.ones(value.shape, bool), None, 100)
    assert len(peaks) == 3
    spots = sorted((p.x * 300 - 0.5, p.y * 300 - 0.5) for p in peaks)
    np.testing.assert_allclose(spots, [(40, 60), (80, 60), (240, 240)])
    assert len({p.place for p in peaks}) == 3
    assert all("figure" in p.place for p in peaks)


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
