"""Watercolour all over: the sheet goes on together in rounds, and the darkest accents come last of all."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.plan.test_hair_in_schools import study_in
from tests.core.plan.water.test_waters import wanted_values
from truesitter.core.plan.kinds.tuning import ACCENT_STEPS
from truesitter.core.sitter.region_names import Region

SCHOOL = "watercolour-all-over"


@pytest.mark.parametrize("name", ["maren", "tobias", "selda"])
def test_accents_are_small_strong_and_last(name: str) -> None:
    """Nothing goes over them; each place lacks half a step or more before, and ends nearer."""
    study = study_in(name, SCHOOL)
    plan, wanted = study.passes.plan(), wanted_values(study)
    assert plan.passes[-1].key == "accents"
    accents = plan.passes[-1].pieces
    before, after = (plan.canvases[n].piece_values() for n in (-2, -1))
    sizes = plan.bare.patchwork.sizes
    assert (before - wanted)[accents].min() >= ACCENT_STEPS - 0.1
    skin = plan.bare.patchwork.at(study.passes.subject().regions) == Region.SKIN
    assert sizes[accents].sum() < 0.05 * sizes[skin].sum()
    off = [float(np.average(np.abs(v - wanted)[accents], weights=sizes[accents])) for v in (before, after)]
    assert off[1] < off[0] - 0.2


def test_every_part_is_begun_before_any_is_finished() -> None:
    keys = [p.key for p in study_in("maren", SCHOOL).passes.plan().passes]

    def first(prefix: str) -> int:
        return min(n for n, key in enumerate(keys) if key.startswith(prefix))

    def last(prefix: str) -> int:
        return max(n for n, key in enumerate(keys) if key.startswith(prefix))

    begun = max(first(part) for part in ("first-tone", "garment", "background", "hair-base", "eyes", "lips"))
    assert begun < min(last(part) for part in ("flesh", "eyes", "hair-"))
    assert first("garment") < first("flesh")
    assert first("background") < first("flesh")
