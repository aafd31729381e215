"""What has to dry before what."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from truesitter.core.pace.waiting import Timed, drying_minutes, earliest_starts
from truesitter.core.paint.media.media_table import MEDIA, Medium
from truesitter.core.refusal import Refusal
from truesitter.core.school.library import SCHOOLS, school

timed = st.lists(
    st.tuples(st.floats(1, 500), st.floats(0, 9000), st.integers(0, 2**12)), min_size=1, max_size=12
)


@given(timed)
def test_nothing_is_laid_over_undried_layers(raw: list[tuple[float, float, int]]) -> None:
    """Common practice, no source; a law over all orders of passes."""
    passes = tuple(
        Timed(work, dries, tuple(n for n in range(i) if bits >> n & 1))
        for i, (work, dries, bits) in enumerate(raw)
    )
    starts = earliest_starts(passes)
    for number, current in enumerate(passes):
        if number:
            assert starts[number] >= starts[number - 1] + passes[number - 1].work - 1e-6
        for below in current.under:
            assert starts[number] >= starts[below] + passes[below].work + passes[below].dries - 1e-6


@pytest.mark.parametrize("key", list(SCHOOLS))
def test_schools_lay_fat_over_lean(key: str) -> None:
    """Common practice, no source."""
    fats = [t.fat for t in school(key).passes]
    assert fats == sorted(fats)
    assert school(key).transparent or school(key).passes[0].kind == "ground"
    with pytest.raises(Refusal, match="no school"):
        school("finger-painting")


def test_layers_of_oil_dry_by_whole_days() -> None:
    assert {t.dries_minutes % (24 * 60) for t in school("layered-oil").passes} == {0}


def test_slow_tubes_hold_up_a_mixture() -> None:
    assert drying_minutes(1000, {"raw-umber": 1}, MEDIA["oil"]) == 600
    assert drying_minutes(1000, {"raw-umber": 1, "titanium-white": 1}, MEDIA["oil"]) == 1600
    assert drying_minutes(1000, {"raw-umber": 30, "titanium-white": 1}, MEDIA["oil"]) == 600


@pytest.mark.parametrize("medium", [m for m in MEDIA.values() if not m.oily], ids=lambda m: m.name)
def test_pigments_slow_no_medium_but_oil(medium: Medium) -> None:
    """Ivory black in water dries as anything else in water does (common practice)."""
    assert drying_minutes(20, {"ivory-black": 1}, medium) == 20
