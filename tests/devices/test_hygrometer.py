"""The simulated sensor of the studio's air."""

from __future__ import annotations

from datetime import datetime, timedelta

import pytest

from truesitter.devices.hygrometer import DAY, NIGHT, read_air, saturation


@pytest.mark.parametrize(("degrees", "grams"), [(0, 4.85), (10, 9.40), (20, 17.3), (30, 30.4)])
def test_air_holds_as_much_water_as_the_tables_say(degrees: float, grams: float) -> None:
    """Saturation densities of handbook tables, from memory, in g/m³."""
    assert saturation(degrees) == pytest.approx(grams, rel=0.01)


def test_a_day_is_warm_and_dry_in_the_afternoon_and_the_same_when_read_again() -> None:
    start = datetime(2027, 1, 4)
    day = [read_air(start + timedelta(minutes=10 * n)) for n in range(144)]
    warm = [a.temperature for a in day]
    assert NIGHT - 0.4 <= min(warm) < max(warm) <= DAY + 0.4
    assert 85 <= warm.index(max(warm)) <= 107
    assert day[96].humidity < day[24].humidity - 5
    assert all(5 <= a.humidity <= 95 for a in day)
    assert read_air(start) == read_air(start)
    assert len({a.temperature for a in day}) > 20
